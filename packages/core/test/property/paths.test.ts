import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { areaVector, curveCount, curveLengths, nodeDefinitions, type Curves, type Points } from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';
import { kind, points } from './arbitrary.js';

const lengthOf = (curves: Curves): number => curveLengths(curves).reduce((sum, length) => sum + length, 0);
const distance = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));
const run = async (...chain: Chain): Promise<Curves> => (await runChain(chain)).curves;

describe('the course of a curve stays', () => {
  test('when it is cut: the parts’ lengths add up, and the cut meets', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), kind, fc.boolean(), fc.double({ min: 0.05, max: 0.95, noNaN: true }), async (list, kind, closed, at) => {
        const curve = drawn(list, closed, kind);
        const [whole, first, second] = [await run(curve), await run(curve, ['pace.cut', { end: at }]), await run(curve, ['pace.cut', { start: at }])];
        expect((lengthOf(first) + lengthOf(second)) / lengthOf(whole)).toBeCloseTo(1, 5);
        expect(lengthOf(first) / lengthOf(whole)).toBeCloseTo(at, 5);
        expect(distance(places(first.positions).at(-1)!, places(second.positions)[0])).toBeLessThan(1e-5);
      }),
      { numRuns: 40 },
    ));

  test('when a closed curve is cut across its first point', async () => {
    const whole = await run(['lay.circle', { radius: 2 }]);
    const part = await run(['lay.circle', { radius: 2 }], ['pace.cut', { start: 0.75, end: 0.25 }]);
    expect(lengthOf(part) / lengthOf(whole)).toBeCloseTo(0.5, 6);
    expect(places(part.positions).some(([x]) => Math.abs(x - 2) < 1e-6)).toBe(true);
  });

  test('when it is reversed, twice is as it was', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), kind, fc.boolean(), async (list, kind, closed) => {
        const curve = drawn(list, closed, kind);
        const bezier = ['pace.resample', { count: 12 }] as const;
        const [once, back] = [await run(curve, bezier), await run(curve, bezier, ['pace.reverse'], ['pace.reverse'])];
        expect(back).toEqual(once);
        expect(lengthOf(await run(curve, bezier, ['pace.reverse'])) / lengthOf(once)).toBeCloseTo(1, 6);
      }),
      { numRuns: 30 },
    ));

  test('when it is split and joined again', () =>
    fc.assert(
      fc.asyncProperty(points(3, 7), kind, fc.boolean(), async (list, kind, closed) => {
        const whole = await run(drawn(list, closed, kind));
        const again = await run(drawn(list, closed, kind), ['pace.split'], ['pace.joinEnds', { distance: 1e-6 }]);
        expect([curveCount(again), again.closed[0]]).toEqual([1, closed ? 1 : 0]);
        expect(lengthOf(again) / lengthOf(whole)).toBeCloseTo(1, 5);
      }),
      { numRuns: 30 },
    ));

  test('when ends that meet in any order and direction are joined', async () => {
    const pieces = [[[2, 0, 0], [1, 0, 0]], [[2, 0, 0], [2, 1, 0]], [[0, 0, 0], [1, 0, 0]], [[0, 0, 0], [0, 1, 0]], [[5, 5, 5], [6, 5, 5]]]; // prettier-ignore
    const joined = await run(['lay.drawn', { kind: 'straight', curves: pieces.map((points) => ({ points })) }], ['pace.joinEnds']);
    expect([...joined.starts]).toEqual([0, 5, 7]);
    expect(lengthOf(joined)).toBeCloseTo(5, 6);
  });
});

describe('orders', () => {
  test('shift goes round, interleave takes every k-th, sort and shuffle keep every point', async () => {
    const line = ['lay.line', { to: [6, 0, 0], points: 7 }] as const;
    const xs = async (settings: Record<string, unknown>): Promise<number[]> =>
      places((await run(line, ['pace.reorder', settings])).positions).map(([x]) => Math.round(x));
    expect(await xs({ shift: 2 })).toEqual([2, 3, 4, 5, 6, 0, 1]);
    expect(await xs({ shift: -1 })).toEqual([6, 0, 1, 2, 3, 4, 5]);
    expect(await xs({ interleave: 3 })).toEqual([0, 3, 6, 1, 4, 2, 5]);
    expect(await xs({ reverse: true, sort: 'x' })).toEqual([6, 5, 4, 3, 2, 1, 0]);
    const shuffled = await xs({ shuffle: 4 });
    expect([...shuffled].sort()).toEqual([0, 1, 2, 3, 4, 5, 6]);
    expect(shuffled).not.toEqual([0, 1, 2, 3, 4, 5, 6]);
    expect(await xs({ shuffle: 4 })).toEqual(shuffled);
  });

  test('points of curves can be shifted and put through a curve again', async () => {
    const { results } = await runGraph(
      { c: ['lay.circle', { points: 12 }], p: ['pace.points', { which: 'everyNth', every: 3 }], r: ['pace.reorder', { shift: 1 }], t: ['lay.throughPoints', { closed: true }] }, // prettier-ignore
      ['c.curves > p.curves', 'p.points > r.points', 'r.points > t.points'],
    );
    const points = results['r'].outputs['any'] as Points;
    expect(points.positions.length / 3).toBe(4);
    expect(points.attributes.get('normal')!.data.length).toBe(12);
    expect((results['t'].outputs['curves'] as Curves).closed[0]).toBe(1);
  });
});

describe('offset', () => {
  test('an outline grows and shrinks by 2d a side, exactly with mitres (derived)', async () => {
    const area = async (distance: number, joins = 'mitre'): Promise<number> => {
      const { positions, starts } = await run(['lay.rectangle', { width: 4, height: 3 }], ['shape.offset', { distance, joins }]);
      return Math.hypot(...areaVector(positions, starts[0], starts[1])) / 2;
    };
    expect(await area(0.5)).toBeCloseTo(5 * 4, 5);
    expect(await area(-0.5)).toBeCloseTo(3 * 2, 5);
    // Rounded corners: a quarter disc each, as a polygon of 15° pieces.
    expect(await area(0.5, 'round')).toBeCloseTo(4 * 3 + 2 * 0.5 * 7 + 0.25 * 12 * Math.sin(Math.PI / 12), 4);
  });

  test('what is too narrow falls into two, or vanishes with a warning', async () => {
    const dumbbell = [[0, 0, 0], [3, 0, 0], [3, 1.3, 0], [5, 1.3, 0], [5, 0, 0], [8, 0, 0], [8, 3, 0], [5, 3, 0], [5, 1.7, 0], [3, 1.7, 0], [3, 3, 0], [0, 3, 0]]; // prettier-ignore
    expect(curveCount(await run(drawn(dumbbell, true), ['shape.offset', { distance: -0.4 }]))).toBe(2);
    const gone = await runChain([drawn(dumbbell, true), ['shape.offset', { distance: -2 }]]);
    expect(curveCount(gone.curves)).toBe(0);
    expect(gone.last.warnings[0].message).toMatch(/Nothing is left of curve 1/);
  });

  test('no place of an inward offset is nearer to the outline than asked', () =>
    fc.assert(
      fc.asyncProperty(fc.array(fc.double({ min: 0.6, max: 2, noNaN: true }), { minLength: 5, maxLength: 14 }), async (radii) => {
        const list = radii.map((r, i) => [r * Math.cos((2 * Math.PI * i) / radii.length), r * Math.sin((2 * Math.PI * i) / radii.length), 0]);
        const inner = places((await run(drawn(list, true), ['shape.offset', { distance: -0.15 }])).positions);
        for (const p of inner)
          list.forEach((a, i) => {
            const b = list[(i + 1) % list.length];
            const d = b.map((value, k) => value - a[k]);
            const t = Math.min(1, Math.max(0, d.reduce((sum, value, k) => sum + value * (p[k] - a[k]), 0) / (d[0] ** 2 + d[1] ** 2)));
            expect(distance(p, a.map((value, k) => value + t * d[k]))).toBeGreaterThan(0.15 * (1 - 1e-4)); // prettier-ignore
          });
      }),
      { numRuns: 40 },
    ));
});

describe('mirror, row, displace, smooth', () => {
  test('a mirrored tube faces outwards; halves that meet are welded', async () => {
    const tube = ['skin.tube', { radius: 0.1, sides: 8, caps: 'flat' }] as const;
    const { report } = await runChain([['lay.line', { from: [0.5, 0, 0] }], tube, ['shape.mirror'], ['flow.output']]);
    const single = await runChain([['lay.line', { from: [0.5, 0, 0] }], tube, ['flow.output']]);
    expect(report.outputs['main'].volume).toBeCloseTo(2 * single.report.outputs['main'].volume, 6);
    const whole = await run(drawn([[0, 0, 0], [1, 1, 0]]), ['shape.mirror', { weld: 0.001 }]); // prettier-ignore
    expect([...whole.starts]).toEqual([0, 3]);
    const halves = await runChain([['lay.line'], ['skin.tube', { radius: 0.1, sides: 8 }], ['shape.mirror', { weld: 0.001 }], ['flow.output']]);
    expect(halves.report.outputs['main']).toMatchObject({ parts: 1, boundaryEdges: 16 });
  });

  test('a plane given by point and normal mirrors there; a wrong one is refused with its place', async () => {
    const at = async (plane: unknown): Promise<Curves> => run(['lay.line'], ['shape.mirror', { keep: false, plane }]);
    expect(places((await at({ point: [2, 0, 0], normal: [3, 0, 0] })).positions)).toEqual([[4, 0, 0], [3, 0, 0]]); // prettier-ignore
    const { last } = await runChain([['lay.line'], ['shape.mirror', { plane: { point: [0, 0, 0], normal: [0, 0, 0] } }]]);
    expect(last.error).toMatchObject({ pointer: '/nodes/1/settings/plane/normal' });
  });

  test('a row steps and turns; centred it stays about the middle', async () => {
    const row = await run(drawn([[1, 0, 0], [2, 0, 0]]), ['shape.row', { count: 4, step: [0, 1, 0], turn: [0, 0, 90] }]); // prettier-ignore
    const p = places(row.positions);
    expect(p[2].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([0, 2, 0]);
    const centred = await run(['lay.line'], ['shape.row', { count: 3, step: [0, 1, 0], centred: true }]);
    expect(places(centred.positions).map(([, y]) => y)).toEqual([-1, -1, 0, 0, 1, 1]);
  });

  test('noise moves points by no more than its amount a coordinate, the same each time; along the normal it keeps to the normal', async () => {
    const line = ['lay.line', { to: [10, 0, 0], points: 50 }] as const;
    const [plain, first, again] = [await run(line), await run(line, ['shape.displace', { amount: 0.2 }]), await run(line, ['shape.displace', { amount: 0.2 }])];
    expect(again.positions).toEqual(first.positions);
    first.positions.forEach((value, i) => expect(Math.abs(value - plain.positions[i])).toBeLessThanOrEqual(0.2 + 1e-6));
    expect(first.positions).not.toEqual(plain.positions);
    const up = await run(line, ['aim.frames', { method: 'upright' }], ['shape.displace', { amount: 0.2, along: 'normal' }]);
    places(up.positions).forEach(([x, , z], i) => expect([x, z]).toEqual([plain.positions[i * 3], 0]));
    const tapered = await run(line, ['shape.displace', { pattern: 'vector', amount: { ramp: [[0, 0], [1, 1]] } }]); // prettier-ignore
    expect(places(tapered.positions)[49][1]).toBeCloseTo(1, 6);
  });

  test('smoothing lessens the length of a zigzag, keeps ends, and keeps a circle’s size when told to', async () => {
    const zigzag = drawn(Array.from({ length: 21 }, (_, i) => [i * 0.1, i % 2 ? 0.1 : 0, 0]));
    const [before, after] = [await run(zigzag), await run(zigzag, ['shape.smooth', { times: 5 }])];
    expect(lengthOf(after)).toBeLessThan(lengthOf(before) * 0.8);
    expect(places(after.positions)[0]).toEqual([0, 0, 0]);
    const size = async (keepSize: boolean): Promise<number> =>
      places((await run(['lay.circle', { points: 16 }], ['shape.smooth', { times: 20, keepSize }])).positions)[0][0];
    expect(await size(false)).toBeLessThan(0.5);
    expect(await size(true)).toBeGreaterThan(0.97);
  });
});

test('corners are kept by resampling, and gaps follow curvature', async () => {
  const corner = drawn([[0, 0, 0], [1, 0, 0], [1, 3, 0]]); // prettier-ignore
  const kept = await run(corner, ['pace.resample', { count: 8, keepCorners: 30 }]);
  expect(places(kept.positions)).toContainEqual([1, 0, 0]);
  expect(places(await run(corner, ['pace.resample', { count: 8 }]).then((c) => c.positions))).not.toContainEqual([1, 0, 0]);
  const tooFew = await runChain([corner, ['pace.resample', { count: 2, keepCorners: 30 }]]);
  expect(tooFew.last.error?.message).toMatch(/needs 3 or more/);
  const bend = drawn([[0, 0, 0], [4, 0, 0], [4.3, 0.3, 0], [4.3, 4, 0]], false, 'through'); // prettier-ignore
  const gaps = places((await run(bend, ['pace.resample', { count: 40, spread: 'curvature' }])).positions).map((p, i, all) => (i ? distance(p, all[i - 1]) : 1));
  expect(Math.max(...gaps) / Math.min(...gaps)).toBeGreaterThan(3);
  const nearest = gaps.indexOf(Math.min(...gaps));
  expect(nearest).toBeGreaterThan(10);
  expect(nearest).toBeLessThan(30);
});

test('every node states its help, and its settings have a help each', () => {
  for (const definition of nodeDefinitions.values()) {
    expect(definition.help.length, definition.type).toBeGreaterThan(60);
    for (const [key, setting] of Object.entries(definition.settings)) expect(setting.help.length, `${definition.type}.${key}`).toBeGreaterThan(5);
  }
});
