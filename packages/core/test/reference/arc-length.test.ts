import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { constantField, curveLengths, curvesFromLists, resample, type Curves } from '../../src/index.js';
import { kind as anyKind, points } from '../property/arbitrary.js';
import { drawn as drawnCurve, runChain } from '../graph.js';
import { expectReference, fineBezier, places, reference, singlePrecision, type FormulaCurve } from './reference.js';

const byCount = (curves: Curves, count: number): number[][] =>
  places(resample(curves, { by: 'count', count: constantField(count), spacing: constantField(1), deviation: 1, fit: 'even', spread: 'even' }).positions);
const bySpacing = (curves: Curves, spacing: number, fit: 'even' | 'exact'): number[][] =>
  places(resample(curves, { by: 'spacing', count: constantField(2), spacing: constantField(spacing), deviation: 1, fit, spread: 'even' }).positions);

describe('arc length and even points of curves given by formulas', () => {
  for (const id of ['AL-O-01', 'AL-O-03', 'AL-O-04', 'AL-O-05', 'AL-O-06', 'AL-O-11', 'AL-O-12']) {
    const { name, inputs, expected } = reference<{ curve: FormulaCurve; count: number }>(id);
    test(name, () => {
      const curves = fineBezier(inputs.curve, 801);
      expectReference(curveLengths(curves)[0], expected['length']);
      expectReference(byCount(curves, inputs.count), expected['points'], 4e-6);
    });
  }
});

test(reference('AL-O-01').name + ' by the nodes Circle and Resample', async () => {
  const { expected } = reference('AL-O-01');
  const { curves } = await runChain([
    ['lay.circle', { radius: 2.5, points: 32, centre: [1, -2, 0.5], axis: [0, 0, 1] }],
    ['pace.resample', { count: 12 }],
  ]);
  expectReference(places(curves.positions), expected['points']);
  expectReference(curveLengths(curves)[0], expected['length']);
});

test(reference('AL-O-04').name + ' by the nodes Helix and Resample', async () => {
  const { expected } = reference('AL-O-04');
  const helix = ['lay.helix', { radius: 1, height: 2.4, turns: 3, pointsPerTurn: 64 }] as const;
  expectReference(curveLengths((await runChain([helix])).curves)[0], expected['length']);
  const { curves } = await runChain([helix, ['pace.resample', { count: 10 }]]);
  // The case rises along z; the node rises along y, so (x, y, z) there is (x, −z, y) here.
  expectReference(places(curves.positions).map(([x, y, z]) => [x, -z, y]), expected['points']); // prettier-ignore
});

test('by spacing: the last piece is shorter (exact), or the spacing is evened out (even)', () => {
  for (const id of ['AL-O-04', 'AL-O-06']) {
    const { inputs } = reference<{ curve: FormulaCurve; spacing: number }>(id);
    const curves = fineBezier(inputs.curve, 801);
    const exact = bySpacing(curves, inputs.spacing, 'exact');
    const length = curveLengths(curves)[0];
    expect(exact.length).toBe(Math.floor(length / inputs.spacing) + 2);
    const even = bySpacing(curves, inputs.spacing, 'even');
    expect(even.length).toBe(Math.round(length / inputs.spacing) + 1);
    expect(even[even.length - 1]).toEqual(exact[exact.length - 1]);
  }
});

describe('curves by the node Drawn curve', () => {
  const drawn = (points: readonly (readonly number[])[], kind: string, closed = false) => ['lay.drawn', { kind, curves: [{ points, closed }] }] as const;

  for (const id of ['AL-O-06', 'AL-O-07']) {
    const { name, inputs, expected } = reference<{ controlPoints: number[][]; count: number }>(id);
    test(`${name}, as a Bezier control polygon`, async () => {
      const bezier = drawn(inputs.controlPoints, 'bezier');
      expectReference(curveLengths((await runChain([bezier])).curves)[0], expected['length']);
      const { curves } = await runChain([bezier, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['points'], 2e-6);
    });
  }

  for (const id of ['AL-O-08', 'AL-O-09']) {
    const { name, inputs, expected } = reference<{ points: number[][]; closed: boolean; count: number }>(id);
    test(`${name}, through its points`, async () => {
      const through = drawn(inputs.points, 'through', inputs.closed);
      expectReference(curveLengths((await runChain([through])).curves)[0], expected['length']);
      const { curves } = await runChain([through, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['equallySpacedPoints'], 4e-6);
    });
  }

  for (const id of ['AL-O-13', 'AL-O-14', 'AL-O-15']) {
    const { name, inputs, expected } = reference<{ points: number[][]; closed: boolean; count: number }>(id);
    test(`${name}, straight`, async () => {
      const straight = drawn(inputs.points, 'straight', inputs.closed);
      expectReference(curveLengths((await runChain([straight])).curves)[0], expected['length'], 20 * singlePrecision);
      const { curves } = await runChain([straight, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['points'], 20 * singlePrecision);
    });
  }
});

test(reference('AL-O-02').name, () => {
  const { inputs, expected } = reference<{ r: number; N: number[] }>('AL-O-02');
  const lengths = inputs.N.map((n) => {
    const polygon = Array.from({ length: n }, (_, i) => [inputs.r * Math.cos((2 * Math.PI * i) / n), inputs.r * Math.sin((2 * Math.PI * i) / n), 0]);
    return curveLengths(curvesFromLists([polygon], { closed: [true] }))[0];
  });
  expectReference(lengths, expected['polygonLengths'], 16 * singlePrecision);
});

const clothoid = reference<{ A: number; length: number; count: number }>('AL-O-10');
test(`${clothoid.name}, drawn through points of it`, async () => {
  const { A, length, count } = clothoid.inputs;
  // Its places by the midpoint rule on its heading s²/(2A²): exact to about 1e-9 at 20,000 steps.
  const steps = 20_000;
  const track: number[][] = [[0, 0, 0]];
  for (let i = 0, x = 0, y = 0; i < steps; i++) {
    const heading = (((i + 0.5) / steps) * length) ** 2 / (2 * A * A);
    x += (Math.cos(heading) * length) / steps;
    y += (Math.sin(heading) * length) / steps;
    if ((i + 1) % 100 === 0) track.push([x, y, 0]);
  }
  const { curves } = await runChain([drawnCurve(track, false, 'through'), ['pace.resample', { count }], ['aim.frames']]);
  expectReference(places(curves.positions), clothoid.expected['points'], 2e-6);
  const [tx, ty] = places(curves.attributes.get('tangent')!.data)[count - 1];
  // At its end a curve through points leaves along its last piece, half a step's turn behind.
  expect(Math.abs(Math.atan2(ty, tx) - (clothoid.expected['endHeading'].value as number))).toBeLessThan(0.75 * (length / 200));
});

test(reference('AL-O-16').name, async () => {
  const { inputs, expected } = reference<{ controlPoints: number[][] }>('AL-O-16');
  const { curves } = await runChain([drawnCurve(inputs.controlPoints, false, 'bezier')]);
  expectReference(curveLengths(curves)[0], expected['length'], singlePrecision);
  const fine = await runChain([drawnCurve(inputs.controlPoints, false, 'bezier'), ['pace.resample', { count: 2001 }]]);
  expectReference(Math.max(...places(fine.curves.positions).map((p) => Math.hypot(...p))), expected['maxRadius'], 2 * singlePrecision);
});

describe(reference('AL-O-18').name, () => {
  const resampled = async (list: number[][], kind: string, closed: boolean, count: number): Promise<number[][]> =>
    places((await runChain([drawnCurve(list, closed, kind), ['pace.resample', { count }]])).curves.positions);
  const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));

  test('an open curve keeps its two ends to the bit, and no chord is longer than the spacing', () =>
    fc.assert(
      fc.asyncProperty(points(2, 6), anyKind, fc.integer({ min: 2, max: 40 }), async (list, kind, count) => {
        const given = (await runChain([drawnCurve(list, false, kind)])).curves;
        const made = await resampled(list, kind, false, count);
        expect(made.length).toBe(count);
        if (kind !== 'bspline') expect([apart(made[0], places(given.positions)[0]), apart(made[count - 1], places(given.positions).at(-1)!)]).toEqual([0, 0]);
        const spacing = curveLengths(given)[0] / (count - 1);
        for (let i = 1; i < count; i++) expect(apart(made[i], made[i - 1])).toBeLessThan(spacing * (1 + 1e-4) + 1e-5);
      }),
      { numRuns: 40 },
    ));

  test('a closed one gets as many points as asked, and does not repeat the first', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), fc.integer({ min: 3, max: 30 }), async (list, count) => {
        const made = await resampled(list, 'straight', true, count);
        expect(made.length).toBe(count);
        expect(apart(made[0], list[0].map(Math.fround))).toBe(0);
        const length = curveLengths(curvesFromLists([list], { closed: [true] }))[0];
        for (let i = 0; i < count; i++) expect(apart(made[i], made[(i + 1) % count])).toBeLessThan((length / count) * (1 + 1e-5) + 1e-5);
      }),
      { numRuns: 40 },
    ));

  test('what is scaled and moved has points that are scaled and moved', () =>
    fc.assert(
      fc.asyncProperty(points(3, 5), fc.double({ min: 0.2, max: 5, noNaN: true }), async (list, factor) => {
        const [plain, scaled] = [await resampled(list, 'straight', false, 9), await resampled(list.map((p) => p.map((value) => value * factor + 1)), 'straight', false, 9)]; // prettier-ignore
        plain.forEach((p, i) => expect(apart(p.map((value) => value * factor + 1), scaled[i])).toBeLessThan(2e-5 * factor + 1e-5)); // prettier-ignore
      }),
      { numRuns: 30 },
    ));

  test('fewer than two points, and a spacing of nothing, are refused in words', async () => {
    const refused = async (settings: object): Promise<string> =>
      (await runChain([['lay.circle'], ['pace.resample', { ...settings }]])).report.problems[0].message;
    expect(await refused({ count: 1 })).toBe('Count is 1; it accepts whole numbers from 2 to 20000000.');
    expect(await refused({ by: 'spacing', spacing: 0 })).toBe('Spacing is 0; it accepts numbers above 0 m.');
  });
});

test('a circle resampled to few points lies off by what the help says (4/27·sin⁶(θ/4)/cos²(θ/4) of the radius for arcs of θ; Goldapp 1991, from memory)', async () => {
  for (const [points, bound] of [[4, 3e-4], [8, 5e-6], [16, 1e-7]]) {
    const { curves } = await runChain([
      ['lay.circle', { radius: 1, points: 64 }],
      ['pace.resample', { by: 'count', count: points }],
      ['pace.resample', { by: 'count', count: 201 }],
    ]);
    const off = places(curves.positions).map(([x, , z]) => Math.abs(Math.hypot(x, z) - 1));
    expect(Math.max(...off)).toBeLessThan(bound);
    if (points === 4) expect(Math.max(...off)).toBeGreaterThan(2.7e-4);
  } // prettier-ignore
});
