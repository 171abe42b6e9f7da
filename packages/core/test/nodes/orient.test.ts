import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Evaluator, nodeDefinitions, Plan, type Curves, type Geometry, type Mesh } from '../../src/index.js';
import { chainDocument, drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

const made = async (...chain: Chain): Promise<Curves> => (await runChain(chain)).curves;
const normals = (curves: Curves): number[][] => places(curves.attributes.get('normal')!.data);
const tangents = (curves: Curves): number[][] => places(curves.attributes.get('tangent')!.data);
const line = (points: number): Chain[number] => ['lay.line', { to: [points - 1, 0, 0], points }];
const close = (actual: readonly number[], wanted: readonly number[]): void => wanted.forEach((value, k) => expect(actual[k]).toBeCloseTo(value, 5));
const turn = ([, y, z]: readonly number[]): number => (Math.atan2(z, y) * 180) / Math.PI;

describe('Frames', () => {
  test('roll: a number for all, a formula for each, a step from point to point', async () => {
    close(normals(await made(line(3), ['aim.frames', { roll: 90 }]))[1], [0, 0, 1]);
    normals(await made(line(5), ['aim.frames', { roll: { formula: '30*i' } }])).forEach((n, i) => expect(turn(n)).toBeCloseTo(30 * i, 4));
    normals(await made(line(4), ['aim.frames', { rollStep: 90 }])).forEach((n, i) => expect(Math.cos(((turn(n) - 90 * i) * Math.PI) / 180)).toBeCloseTo(1, 5));
  });
  test('twist: degrees over the whole, or turns in every metre', async () => {
    const whole = normals(await made(line(5), ['aim.frames', { twist: 120 }]));
    whole.forEach((n, i) => expect(turn(n)).toBeCloseTo(30 * i, 4));
    const perMetre = normals(await made(line(5), ['aim.frames', { twist: 0.25, twistIn: 'perMetre' }]));
    perMetre.forEach((n, i) => expect(Math.cos(((turn(n) - 90 * i) * Math.PI) / 180)).toBeCloseTo(1, 5));
  });
  test('the first normal leans to the start; side is tangent × normal', async () => {
    for (const start of [[0, 1, 0], [0, 0, 1], [0, -1, 1], [5, 1, 0]]) {
      const [n] = normals(await made(line(2), ['aim.frames', { start }]));
      const size = Math.hypot(start[1], start[2]);
      close(n, [0, start[1] / size, start[2] / size]);
    }
  }); // prettier-ignore
  test('upright keeps to any direction; where the path runs along it the frame goes on and a warning names the place', async () => {
    const path = drawn([[0, 0, 0], [1, 0, 0], [2, 1, 0], [2, 2, 0], [3, 2, 0]]); // prettier-ignore
    const { curves, last } = await runChain([path, ['aim.frames', { method: 'upright', up: [0, 0, 2] }]]);
    for (const n of normals(curves)) expect(n[2]).toBeCloseTo(1, 6);
    expect(last.warnings).toEqual([]);
    const along = await runChain([drawn([[0, 0, 0], [0, 1, 0], [0, 2, 0], [1, 2, 0]]), ['aim.frames', { method: 'upright' }]]); // prettier-ignore
    expect(along.last.warnings.map(({ code, curve, at }) => [code, curve, at! <= 2])).toContainEqual(['parallel-up', 0, true]);
  });
  test('a closed path: with the closing angle spread the last frame leads into the first; without, it does not', async () => {
    const knot = drawn(
      Array.from({ length: 120 }, (_, i) => {
        const t = (i * Math.PI) / 60;
        return [(2 + Math.cos(3 * t)) * Math.cos(2 * t), (2 + Math.cos(3 * t)) * Math.sin(2 * t), Math.sin(3 * t)];
      }),
      true,
    );
    const jump = async (spreadClosure: boolean): Promise<number> => {
      const n = normals(await made(knot, ['aim.frames', { spreadClosure }]));
      const steps = n.map((a, i) => Math.acos(Math.min(1, a.reduce((sum, value, k) => sum + value * n[(i + 1) % n.length][k], 0)))); // prettier-ignore
      return steps[steps.length - 1] / Math.max(...steps.slice(0, -1));
    };
    expect(await jump(true)).toBeLessThan(1.2);
    expect(await jump(false)).toBeGreaterThan(1.5);
  });
  test('exact tangents of a smooth curve are those of the curve, not of its pieces', async () => {
    const circle: Chain = [['lay.circle', { radius: 1, points: 8, axis: [0, 0, 1] }]];
    const error = async (which: string): Promise<number> => {
      const curves = await made(...circle, ['aim.frames', { tangents: which }]);
      const p = places(curves.positions);
      return Math.max(...tangents(curves).map((t, i) => Math.abs(t[0] * p[i][0] + t[1] * p[i][1])));
    };
    expect(await error('exact')).toBeLessThan(1e-6);
    expect(await error('forwardDifference')).toBeGreaterThan(0.1);
  });
  test('an empty input, and curves of no length, are told and spread nothing', async () => {
    const { last, curves } = await runChain([drawn([[1, 1, 1], [1, 1, 1]]), ['aim.frames']]); // prettier-ignore
    expect(last.warnings.map(({ code }) => code)).toEqual(['degenerate']);
    for (const n of normals(curves)) expect(Math.hypot(...n)).toBeCloseTo(1, 6);
  });
});

describe('Axes to follow', () => {
  const bar: Chain = [['lay.line', { to: [1, 0, 0] }], ['skin.tube', { radius: 0.01, sides: 3 }]]; // prettier-ignore
  const far = async (settings: object): Promise<number[]> => {
    const p = places((await runChain([...bar, ['aim.axes', { ...settings }]])).mesh.positions);
    return p.reduce((a, b) => (Math.hypot(...b) > Math.hypot(...a) ? b : a)).map((value) => Math.round(value * 10) / 10 + 0);
  };
  test('the own axis that shall follow the tangent is turned to z, that of the normal to y', async () => {
    expect(await far({ tangent: 'x', normal: 'y' })).toEqual([0, 0, 1]);
    expect(await far({ tangent: 'minusX', normal: 'y' })).toEqual([0, 0, -1]);
    expect(await far({ tangent: 'z', normal: 'x' })).toEqual([0, 1, 0]);
    expect(await far({ tangent: 'y', normal: 'minusX' })).toEqual([0, -1, 0]);
  });
});

describe('Shape figures, each by itself', () => {
  test('what is asked for is written, and nothing else', async () => {
    const names = ['length', 's', 't', 'curvature', 'torsion', 'spacing', 'slope', 'area'];
    const none = Object.fromEntries(names.map((name) => [name, false]));
    for (const name of ['length', 's', 't', 'curvature', 'torsion', 'spacing', 'slope']) {
      const curves = await made(line(5), ['gauge.figures', { ...none, [name]: true }]);
      expect([...curves.attributes.keys()].filter((key) => names.includes(key))).toEqual([name]);
    }
  });
  test('s and t along two curves, spacing between points, slope against the level', async () => {
    const climb = drawn([[0, 0, 0], [3, 0, 0], [3, 4, 0]]); // prettier-ignore
    const curves = await made(climb, ['gauge.figures', { s: true, t: true, spacing: true, slope: true }]);
    const of = (name: string): number[] => [...curves.attributes.get(name)!.data];
    expect(of('s')).toEqual([0, 3, 7]);
    close(of('t'), [0, 3 / 7, 1]);
    expect(of('length')).toEqual([7]);
  });
});

describe('Carry over, by every rule', () => {
  const two = ['lay.drawn', { curves: [{ points: [[0, 0, 0], [1, 0, 0], [4, 0, 0]] }, { points: [[0, 5, 0], [0, 7, 0]] }] }] as const; // prettier-ignore
  const onCurves = async (rule: string): Promise<number[]> =>
    [...(await made(two, ['gauge.set', { name: 'a', value: { formula: 'x + y' } }], ['gauge.carry', { attribute: 'a', rule }])).attributes.get('a')!.data]; // prettier-ignore
  test('mean, least, greatest, first and sum of 0 1 4 and of 5 7', async () => {
    close(await onCurves('mean'), [5 / 3, 6]);
    expect(await onCurves('min')).toEqual([0, 5]);
    expect(await onCurves('max')).toEqual([4, 7]);
    expect(await onCurves('first')).toEqual([0, 5]);
    expect(await onCurves('sum')).toEqual([5, 12]);
  });
});

describe('Summary, every figure', () => {
  test('of 0 … 4: mean 2, sum 10, 0, 4, 5', async () => {
    for (const [figure, value] of Object.entries({ mean: 2, sum: 10, min: 0, max: 4, count: 5 })) {
      const { last } = await runChain([line(5), ['gauge.set', { name: 'a', value: { formula: 'i' } }], ['gauge.summary', { attribute: 'a', figure }]]);
      expect(last.outputs['number']).toEqual({ type: 'number', value });
    }
  });
});

describe('Take from nearest', () => {
  test('the nearest place interpolates along a curve, the same number does not look where it is', async () => {
    const taken = async (by: string, points = 5): Promise<number[]> => {
      const { results } = await runGraph(
        {
          from: ['lay.line', { to: [4, 0, 0], points }],
          value: ['gauge.set', { name: 'a', value: { formula: '10*i' } }],
          to: ['lay.drawn', { kind: 'straight', curves: [{ points: [[1.5, 1, 0], [3.25, 1, 0]] }] }],
          it: ['gauge.transfer', { attribute: 'a', by }],
        },
        ['from.curves > value.any', 'to.curves > it.any', 'value.any > it.to'],
      ); // prettier-ignore
      if (results['it'].error) throw new Error(results['it'].error.message);
      return [...(results['it'].outputs['any'] as Geometry).attributes.get('a')!.data];
    };
    close(await taken('nearest'), [15, 32.5]);
    expect(await taken('index', 2)).toEqual([0, 10]);
    await expect(taken('index')).rejects.toThrow(/2.*5/);
  });
  test('the nearest face gives its own value, whole', async () => {
    const { results } = await runGraph(
      {
        square: ['lay.rectangle', { plane: 'XZ' }],
        face: ['skin.fill'],
        row: ['shape.row', { count: 2, step: [2, 0, 0] }],
        set: ['gauge.set', { name: 'which', carrier: 'faces', value: { formula: '7 + i' } }],
        at: ['lay.drawn', { kind: 'straight', curves: [{ points: [[0.1, 1, 0], [1.9, 1, 0]] }] }],
        it: ['gauge.transfer', { attribute: 'which', by: 'face' }],
      },
      ['square.curves > face.curves', 'face.mesh > row.any', 'row.any > set.any', 'at.curves > it.any', 'set.any > it.to'],
    ); // prettier-ignore
    expect([...(results['it'].outputs['any'] as Curves).attributes.get('which')!.data]).toEqual([7, 8]);
  });
});

describe('Distance', () => {
  test('beyond the reach it is the reach; the place is written where asked', () =>
    fc.assert(
      fc.asyncProperty(fc.double({ min: 0.1, max: 9, noNaN: true }), fc.double({ min: 0.5, max: 5, noNaN: true }), async (height, reach) => {
        const { results } = await runGraph(
          {
            on: ['lay.line', { from: [-50, 0, 0], to: [50, 0, 0] }],
            at: ['lay.drawn', { kind: 'straight', curves: [{ points: [[3, height, 0], [4, height, 0]] }] }],
            it: ['gauge.distance', { reach, place: true }],
          },
          ['at.curves > it.any', 'on.curves > it.to'],
        ); // prettier-ignore
        const { attributes } = results['it'].outputs['any'] as Curves;
        expect(attributes.get('distance')!.data[0]).toBeCloseTo(Math.min(height, reach), 4);
        if (height < reach * 0.999) close(places(attributes.get('nearest')!.data)[0], [3, 0, 0]);
      }),
      { numRuns: 25 },
    ));
});

describe('numbers', () => {
  test('Time: seconds or frames of 24 a second, times the speed, plus the offset; Formula: a to d, dials, time', async () => {
    const at = async (type: string, settings: object, time: number): Promise<unknown> => {
      const run = await new Evaluator().run(new Plan(chainDocument([[type, { ...settings }]])), { time });
      return run.nodes.get('n0')!.outputs['number'];
    };
    expect(await at('gauge.time', {}, 2.5)).toEqual({ type: 'number', value: 2.5 });
    expect(await at('gauge.time', { in: 'frames' }, 2.5)).toEqual({ type: 'number', value: 60 });
    expect(await at('gauge.time', { speed: 2, offset: -1 }, 2.5)).toEqual({ type: 'number', value: 4 });
    expect(await at('gauge.formula', { formula: 'a + 10*b + 100*c + 1000*d + time', a: 1, b: 2, c: 3, d: 4 }, 0.5)).toEqual({ type: 'number', value: 4321.5 });
    expect(nodeDefinitions.get('gauge.time')!.timed({})).toBe(true);
  });
  test('Vector: its three numbers', async () => {
    expect((await runChain([['gauge.vector', { x: 1, y: -2, z: 3 }]])).last.outputs['vector']).toEqual({ type: 'vector', value: [1, -2, 3] });
  });
});

test('copies and meshes take values on their own carriers, for formulas behind them', async () => {
  const { results } = await runGraph(
    {
      bar: ['lay.line', { to: [0.1, 0, 0] }],
      object: ['skin.tube', { radius: 0.01, sides: 3, caps: 'flat' }],
      at: line(4),
      placed: ['place.copies'],
      set: ['gauge.set', { name: 'rank', carrier: 'copies', value: { formula: 'i*i' } }],
      faces: ['gauge.set', { name: 'tilt', carrier: 'faces', value: { formula: 'abs(nx)' } }],
    },
    ['bar.curves > object.curves', 'object.mesh > placed.objects', 'at.curves > placed.curves', 'placed.copies > set.any', 'object.mesh > faces.any'],
  );
  expect([...(results['set'].outputs['any'] as Geometry).attributes.get('rank')!.data]).toEqual([0, 1, 4, 9]);
  const tilt = [...(results['faces'].outputs['any'] as Mesh).attributes.get('tilt')!.data];
  // Three sides across the bar's way, two caps along it.
  expect(tilt.map((value) => Math.round(value)).sort()).toEqual([0, 0, 0, 1, 1]);
});
