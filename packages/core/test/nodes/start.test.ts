import { describe, expect, test } from 'vitest';
import {
  box,
  curveLengths,
  curvesFromLists,
  Evaluator,
  makePoints,
  measure,
  Plan,
  requireDocument,
  type Curves,
  type GeometrySet,
  type Mesh,
  type NodeResult,
  type Points,
} from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

const made = async (...chain: Chain): Promise<Curves> => (await runChain(chain)).curves;
const close = (actual: readonly number[], wanted: readonly number[]): void => wanted.forEach((value, k) => expect(actual[k]).toBeCloseTo(value, 5));
const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));

describe('Line', () => {
  test('from one place to another, its points even', async () => {
    const p = places((await made(['lay.line', { from: [1, 2, 3], to: [5, 2, -1], points: 5 }])).positions);
    close(p[0], [1, 2, 3]);
    close(p[1], [2, 2, 2]);
    close(p[4], [5, 2, -1]);
  });
  test('of a length in a direction of any length, from its start or about its middle', async () => {
    const ends = async (centred: boolean): Promise<number[][]> => places((await made(['lay.line', { from: [0, 1, 0], length: 4, direction: [0, 0, -9], centred }])).positions); // prettier-ignore
    expect(await ends(false)).toEqual([[0, 1, 0], [0, 1, -4]]); // prettier-ignore
    expect(await ends(true)).toEqual([[0, 1, 2], [0, 1, -2]]); // prettier-ignore
  });
  test('of no length is refused, as is a direction of none', async () => {
    expect((await runChain([['lay.line', { from: [1, 1, 1], to: [1, 1, 1] }]])).report.problems[0].message).toContain('two different places');
    const { problems } = (await runChain([['lay.line', { length: 1, direction: [0, 0, 0] }]])).report;
    expect(problems[0]).toMatchObject({ pointer: '/nodes/0/settings/direction', message: 'Direction is [0,0,0]; it accepts a direction that is not 0, 0, 0.' });
  });
});

describe('Circle', () => {
  test('lies square to its axis about its centre, closed, without repeating its first point', async () => {
    for (const axis of [[0, 1, 0], [1, 0, 0], [1, 2, -3]]) {
      const circle = await made(['lay.circle', { radius: 2, points: 24, centre: [1, 1, 1], axis }]);
      const size = Math.hypot(...axis);
      expect([circle.closed[0], circle.positions.length]).toEqual([1, 72]);
      for (const p of places(circle.positions)) {
        const away = p.map((value) => value - 1);
        expect(Math.hypot(...away)).toBeCloseTo(2, 5);
        expect(away.reduce((sum, value, k) => sum + (value * axis[k]) / size, 0)).toBeCloseTo(0, 5);
      }
      expect(curveLengths(circle)[0] / (4 * Math.PI)).toBeCloseTo(1, 6);
    }
  }); // prettier-ignore
  test('less than a whole turn is an open arc of that share of the length, from its start on', async () => {
    const arc = await made(['lay.circle', { radius: 1, points: 19, axis: [0, 0, 1], start: 90, span: 90 }]);
    expect([arc.closed[0], curveLengths(arc)[0] / (Math.PI / 2)]).toEqual([0, expect.closeTo(1, 6)]);
    close(places(arc.positions)[0], [0, 1, 0]);
    close(places(arc.positions)[18], [-1, 0, 0]);
  });
});

describe('Helix', () => {
  test('right-handed it rises as a right-hand thread does: seen from above, counter-clockwise away', async () => {
    const turned = async (hand: string): Promise<number> => {
      const p = places((await made(['lay.helix', { radius: 1, height: 1, turns: 1, pointsPerTurn: 24, hand }])).positions);
      // The sense about +Y, by the cross product of the first two places; y rises in both.
      expect(p[24][1]).toBeCloseTo(1, 6);
      return Math.sign(p[0][2] * p[1][0] - p[0][0] * p[1][2]);
    };
    expect([await turned('right'), await turned('left')]).toEqual([1, -1]);
  });
  test('has so many points a turn, and as many turns as asked', async () => {
    expect((await made(['lay.helix', { turns: 2.5, pointsPerTurn: 12 }])).positions.length / 3).toBe(31);
  });
});

describe('Polygon or star', () => {
  const polygon = (settings: object): Promise<Curves> => made(['lay.polygon', { ...settings }]);
  test('its corners lie on the radius, the first along the first axis of its plane, or where it starts', async () => {
    const p = places((await polygon({ sides: 4, radius: 2 })).positions);
    close(p[0], [2, 0, 0]);
    close(p[1], [0, 2, 0]);
    close(places((await polygon({ sides: 4, radius: 2, start: 90 })).positions)[0], [0, 2, 0]);
    close(places((await polygon({ sides: 4, radius: 2, plane: 'YZ' })).positions)[1], [0, 0, 2]);
    expect(places((await polygon({ sides: 7, plane: 'XZ' })).positions).every(([, y]) => y === 0)).toBe(true);
  });
  test('a star has its inner corners at their share of the radius, half way between', async () => {
    const p = places((await polygon({ sides: 5, radius: 2, inner: 0.4 })).positions);
    expect(p.length).toBe(10);
    p.forEach((place, i) => expect(Math.hypot(...place)).toBeCloseTo(i % 2 ? 0.8 : 2, 5));
    expect(Math.atan2(p[1][1], p[1][0])).toBeCloseTo(Math.PI / 5, 5);
  });
  test('rounded corners take the length that arcs save: for a square 4·(2 − π/2)·r', async () => {
    const sharp = curveLengths(await polygon({ sides: 4, radius: Math.SQRT2 }))[0];
    const round = curveLengths(await polygon({ sides: 4, radius: Math.SQRT2, corner: 0.25 }))[0];
    expect(sharp).toBeCloseTo(8, 5);
    expect(sharp - round).toBeCloseTo(4 * (2 - Math.PI / 2) * 0.25, 3);
  });
});

test('Rectangle: its box, and its plane', async () => {
  const box = async (settings: object): Promise<number[][]> => {
    const p = places((await made(['lay.rectangle', { width: 3, height: 1, ...settings }])).positions);
    return [Math.min, Math.max].map((pick) => [0, 1, 2].map((k) => pick(...p.map((place) => place[k])) + 0));
  };
  expect(await box({})).toEqual([[-1.5, -0.5, 0], [1.5, 0.5, 0]]); // prettier-ignore
  expect(await box({ plane: 'XZ' })).toEqual([[-1.5, 0, -0.5], [1.5, 0, 0.5]]); // prettier-ignore
  expect(await box({ plane: 'YZ' })).toEqual([[0, -1.5, -0.5], [0, 1.5, 0.5]]); // prettier-ignore
});

describe('Curve through points', () => {
  const scattered = [[3, 0, 0], [0, 0, 0], [2, 0, 0], [1, 0, 0]]; // prettier-ignore
  const through = async (settings: object): Promise<Curves> => {
    const { results } = await runGraph(
      {
        a: ['lay.drawn', { kind: 'straight', curves: [{ points: scattered }] }],
        named: ['gauge.set', { name: 'rank', value: { formula: '3 - i' } }],
        p: ['pace.points'],
        it: ['lay.throughPoints', { kind: 'straight', ...settings }],
      },
      ['a.curves > named.any', 'named.any > p.curves', 'p.points > it.points'],
    );
    if (results['it'].error) throw new Error(results['it'].error.message);
    return results['it'].outputs['curves'] as Curves;
  };
  const xs = async (settings: object): Promise<number[]> => places((await through(settings)).positions).map(([x]) => x);
  test('in the order given, by a value on them, or each to the nearest one left', async () => {
    expect(await xs({})).toEqual([3, 0, 2, 1]);
    expect(await xs({ order: 'byAttribute', attribute: 'rank' })).toEqual([1, 2, 0, 3]);
    expect(await xs({ order: 'nearestNext' })).toEqual([3, 2, 1, 0]);
    await expect(through({ order: 'byAttribute', attribute: 'nothing' })).rejects.toThrow('The points have no number "nothing"; they have');
  });
  test('smooth through them, drawn toward them, closed', async () => {
    expect(curveLengths(await through({ kind: 'straight', order: 'nearestNext' }))[0]).toBeCloseTo(3, 6);
    const drawnTo = await through({ kind: 'bspline', closed: true });
    expect(curveLengths(drawnTo)[0]).toBeLessThan(curveLengths(await through({ closed: true }))[0]);
    expect((await through({ closed: true })).closed[0]).toBe(1);
  });
});

test('Imported curves: metres per unit, and Z that points up turned to Y', async () => {
  const hash = 'a'.repeat(64);
  const importing = async (settings: object): Promise<number[][]> => {
    const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'x', nodes: [{ id: 'a', type: 'lay.importCurves', settings: { asset: hash, ...settings } }], wires: [] }); // prettier-ignore
    const imported = (): GeometrySet => ({ curves: curvesFromLists([[[0, 0, 0], [1, 2, 3]]]) }); // prettier-ignore
    const run = await new Evaluator({ imported }).run(new Plan(document));
    return places((run.nodes.get('a')!.outputs['curves'] as Curves).positions);
  };
  close((await importing({}))[1], [1, 2, 3]);
  close((await importing({ scale: 0.01 }))[1], [0.01, 0.02, 0.03]);
  close((await importing({ up: 'z' }))[1], [1, 3, -2]);
});

test('Imported mesh: sized and stood up alike; a file without what is wanted says so', async () => {
  const hash = 'b'.repeat(64);
  const run = async (type: string, file: GeometrySet, settings: object = {}): Promise<NodeResult> => {
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'x',
      nodes: [{ id: 'a', type, settings: { asset: hash, ...settings } }],
      wires: [],
    });
    return (await new Evaluator({ imported: () => file }).run(new Plan(document))).nodes.get('a')!;
  };
  const mesh = box([2, 4, 6], 1);
  const { outputs } = await run('lay.importMesh', { mesh }, { scale: 0.5, up: 'z' });
  const made = measure({ mesh: outputs['mesh'] as Mesh });
  expect(made).toMatchObject({ faces: 6, euler: 2, volume: expect.closeTo(6, 5) });
  expect(made.bounds!.max.map((value) => Math.round(value * 1e5) / 1e5)).toEqual([0.5, 1.5, 1]);
  const lines = { curves: curvesFromLists([[[0, 0, 0], [1, 0, 0]]]) }; // prettier-ignore
  expect((await run('lay.importMesh', lines)).error?.message).toContain('The file has no faces, so there is no mesh in it.');
  expect((await run('lay.importCurves', { mesh })).error?.message).toContain('The file has no lines, so there are no curves in it.');
  expect((await run('lay.importPoints', { mesh })).error?.message).toContain('The file has no points of their own.');
  const points = makePoints(Float32Array.of(1, 2, 3), new Map([['quality', { carrier: 'point', size: 1, data: Float32Array.of(7) }]]));
  const placed = (await run('lay.importPoints', { points }, { scale: 2 })).outputs['points'] as Points;
  expect([Array.from(placed.positions), Array.from(placed.attributes.get('quality')!.data)]).toEqual([[2, 4, 6], [7]]);
  // How thick a line is, is in the file's unit too.
  const thick = { ...lines.curves, attributes: new Map(lines.curves.attributes).set('radius', { carrier: 'point', size: 1, data: Float32Array.of(3, 5) }) };
  expect(Array.from(((await run('lay.importCurves', { curves: thick }, { scale: 0.5 })).outputs['curves'] as Curves).attributes.get('radius')!.data)).toEqual([
    1.5, 2.5,
  ]);
  // Of lines their points, since a table of places is one of both.
  expect(((await run('lay.importPoints', lines)).outputs['points'] as Points).positions).toHaveLength(6);
  expect((await runChain([['lay.importMesh']])).last.warnings[0].message).toBe('No file is chosen yet.');
});

describe('Drawn curve', () => {
  test('a control polygon and corners with handles give the same Bezier curve', async () => {
    const polygon = [[0, 0, 0], [1, 2, 0], [3, 2, 0], [4, 0, 0]]; // prettier-ignore
    const byHandles = ['lay.drawn', { kind: 'bezier', curves: [{ points: [polygon[0], polygon[3]], handles: [[polygon[0], polygon[1]], [polygon[2], polygon[3]]] }] }] as const; // prettier-ignore
    const [a, b] = [await made(drawn(polygon, false, 'bezier'), ['pace.resample', { count: 9 }]), await made(byHandles, ['pace.resample', { count: 9 }])];
    places(a.positions).forEach((p, i) => expect(apart(p, places(b.positions)[i])).toBeLessThan(1e-6));
  });
  test('several curves keep their order; one that cannot be closed says so', async () => {
    const { last, curves } = await runChain([['lay.drawn', { curves: [{ points: [[0, 0, 0], [1, 0, 0]], closed: true }, { points: [[5, 0, 0], [6, 0, 0], [6, 1, 0]], closed: true }] }]]); // prettier-ignore
    expect([...curves.closed]).toEqual([0, 1]);
    expect(last.warnings.map(({ code, curve }) => [code, curve])).toEqual([['not-closed', 0]]);
  });
  test('what is no list of points is told where', async () => {
    const fault = async (curves: unknown): Promise<[string, string]> => {
      const { problems } = (await runChain([['lay.drawn', { curves }]])).report;
      return [problems[0].pointer, problems[0].message];
    };
    expect((await fault('x'))[0]).toBe('/nodes/0/settings/curves');
    expect((await fault([{ points: [[0, 0]] }]))[0]).toBe('/nodes/0/settings/curves/0/points/0');
    expect((await fault([{ points: [[0, 0, 0]], closed: 'yes' }]))[0]).toMatch(/^\/nodes\/0\/settings\/curves\/0/);
    expect((await fault([{ points: [[0, 0, 0]], hue: 3 }]))[0]).toMatch(/^\/nodes\/0\/settings\/curves\/0/);
  });
});
