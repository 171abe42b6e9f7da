import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveLengths, measure, type Curves } from '../../src/index.js';
import { runChain } from '../graph.js';
import { places } from '../reference/reference.js';
import { kind, points, sharpestTurn } from './arbitrary.js';

const runs = { numRuns: 60 };
const drawn = (list: number[][], how: string, closed = false) => ['lay.drawn', { kind: how, curves: [{ points: list, closed }] }] as const;
const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

describe('Resample', () => {
  test('keeps the ends to the last bit, and the count', () =>
    fc.assert(
      fc.asyncProperty(points(2, 8), kind, fc.integer({ min: 2, max: 60 }), async (list, how, count) => {
        const before = (await runChain([drawn(list, how)])).curves;
        const { curves } = await runChain([drawn(list, how), ['pace.resample', { count }]]);
        const made = places(curves.positions);
        expect(made.length).toBe(count);
        const ends = places(before.positions);
        if (how === 'bspline') return;
        // Adding 0 makes −0 and 0 alike.
        expect(made[0].map((value) => value + 0)).toEqual(ends[0].map((value) => value + 0));
        expect(made[count - 1].map((value) => value + 0)).toEqual(ends[ends.length - 1].map((value) => value + 0));
      }),
      runs,
    ));

  test('is even in length: a second resample by the same count stays where it is', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), async (list) => {
        const once = (await runChain([drawn(list, 'through'), ['pace.resample', { count: 160 }]])).curves;
        const twice = (await runChain([drawn(list, 'through'), ['pace.resample', { count: 160 }], ['pace.resample', { count: 160 }]])).curves;
        const length = curveLengths(once)[0];
        places(once.positions).forEach((p, i) =>
          expect(Math.hypot(...p.map((value, k) => value - places(twice.positions)[i][k]))).toBeLessThan(length * 0.004),
        );
      }),
      { numRuns: 20 },
    ));

  test('turned round, it gives the same points turned round', () =>
    fc.assert(
      fc.asyncProperty(points(2, 7), kind, async (list, how) => {
        // Where a smooth curve doubles straight back its speed is 0, and places there are known less well.
        if (sharpestTurn(list) > 170) return;
        const there = places((await runChain([drawn(list, how), ['pace.resample', { count: 25 }]])).curves.positions);
        const back = places((await runChain([drawn([...list].reverse(), how), ['pace.resample', { count: 25 }]])).curves.positions).reverse();
        there.forEach((p, i) => p.forEach((value, k) => expect(Math.abs(value - back[i][k])).toBeLessThan(2e-5)));
      }),
      runs,
    ));

  test('by deviation, no chord is farther from the curve than asked', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), fc.double({ min: 0.002, max: 0.1, noNaN: true }), async (list, deviation) => {
        const coarse = places((await runChain([drawn(list, 'through'), ['pace.resample', { by: 'deviation', deviation }]])).curves.positions);
        const fine = places((await runChain([drawn(list, 'through'), ['pace.resample', { count: 400 }]])).curves.positions);
        for (const p of fine) expect(Math.min(...coarse.slice(1).map((b, i) => segmentDistance(p, coarse[i], b)))).toBeLessThan(deviation * 1.1 + 1e-5);
      }),
      { numRuns: 25 },
    ));
});

function segmentDistance(p: number[], a: number[], b: number[]): number {
  const d = b.map((value, k) => value - a[k]);
  const t = Math.min(1, Math.max(0, dot(p.map((value, k) => value - a[k]), d) / (dot(d, d) || 1))); // prettier-ignore
  return Math.hypot(...p.map((value, k) => value - a[k] - t * d[k]));
}

describe('Frames', () => {
  const frames = (curves: Curves): { t: number[][]; n: number[][] } => ({
    t: places(curves.attributes.get('tangent')!.data),
    n: places(curves.attributes.get('normal')!.data),
  });

  test('are orthonormal within 1e-6, with any method, roll and twist', () =>
    fc.assert(
      fc.asyncProperty(
        points(2, 10),
        kind,
        fc.boolean(),
        fc.constantFrom('minimal', 'upright'),
        fc.integer({ min: -720, max: 720 }),
        async (list, how, closed, method, twist) => {
          const { curves } = await runChain([drawn(list, how, closed), ['aim.frames', { method, twist, roll: { ramp: [[0, 0], [1, 300]] } }]]); // prettier-ignore
          const { t, n } = frames(curves);
          t.forEach((tangent, i) => {
            expect(Math.abs(Math.hypot(...tangent) - 1)).toBeLessThan(1e-6);
            expect(Math.abs(Math.hypot(...n[i]) - 1)).toBeLessThan(1e-6);
            expect(Math.abs(dot(tangent, n[i]))).toBeLessThan(1e-6);
          });
        },
      ),
      runs,
    ));

  test('minimal ones are continuous: no normal turns more than its curve does', () =>
    fc.assert(
      fc.asyncProperty(points(3, 8), async (list) => {
        const { curves } = await runChain([drawn(list, 'through'), ['pace.resample', { count: 300 }], ['aim.frames']]); // prettier-ignore
        const { t, n } = frames(curves);
        for (let i = 1; i < t.length; i++) {
          const bend = Math.acos(Math.min(1, dot(t[i], t[i - 1])));
          const turn = Math.acos(Math.min(1, dot(n[i], n[i - 1])));
          expect(turn).toBeLessThan(bend * 1.25 + 0.01);
        }
      }),
      { numRuns: 30 },
    ));

  test('move with a turn of the whole curve', () =>
    fc.assert(
      fc.asyncProperty(
        points(3, 6),
        fc.tuple(fc.integer({ min: 0, max: 360 }), fc.integer({ min: 0, max: 360 }), fc.integer({ min: 0, max: 360 })),
        async (list, turn) => {
          const framed = [drawn(list, 'through'), ['pace.resample', { count: 20 }], ['aim.frames', { start: [0.3, 0.8, 0.2] }]] as const;
          const turned = frames((await runChain([...framed, ['shape.transform', { turn }]])).curves);
          const before = frames((await runChain(framed)).curves);
          // Each frame stays a frame, and stands to its neighbour as it did.
          turned.t.forEach((tangent, i) => {
            expect(Math.abs(dot(tangent, turned.n[i]))).toBeLessThan(1e-5);
            const next = (i + 1) % turned.t.length;
            for (const [now, then] of [[turned.t, before.t], [turned.n, before.n]]) expect(dot(now[i], now[next])).toBeCloseTo(dot(then[i], then[next]), 4); // prettier-ignore
          });
        },
      ),
      { numRuns: 20 },
    ));
});

describe('Tube', () => {
  test('is watertight when capped, of genus 0 when open and 1 when closed, and points outwards', () =>
    fc.assert(
      fc.asyncProperty(
        points(3, 7),
        kind,
        fc.boolean(),
        fc.integer({ min: 3, max: 12 }),
        fc.constantFrom('flat', 'domed'),
        async (list, how, closed, sides, caps) => {
          const { mesh, last } = await runChain([drawn(list, how, closed), ['skin.tube', { radius: 0.001, sides, caps }]]);
          const figures = measure({ mesh });
          expect(figures.boundaryEdges).toBe(0);
          expect(figures.nonManifoldEdges).toBe(0);
          expect(figures.euler).toBe(closed ? 0 : 2);
          // Where the section folds over itself the node says so, and the sign of the volume is nobody's fault.
          if (!last.warnings.length) expect(figures.volume).toBeGreaterThan(0);
          expect(figures.parts).toBe(1);
        },
      ),
      runs,
    ));

  test('a mirrored size keeps its faces pointing outwards', async () => {
    const volume = async (size: number[]): Promise<number> => measure({ mesh: (await runChain([['lay.circle'], ['skin.tube', { radius: 0.2 }], ['shape.transform', { size }]])).mesh }).volume; // prettier-ignore
    const plain = await volume([1, 1, 1]);
    expect(await volume([-1, 1, 1])).toBeCloseTo(plain, 5);
    expect(await volume([2, -1, 1])).toBeCloseTo(2 * plain, 4);
  });

  test('normals are those of a cone where it tapers (exact: slope of the radius)', async () => {
    const { mesh } = await runChain([['lay.line', { to: [2, 0, 0], points: 9 }], ['skin.tube', { radius: { ramp: [[0, 1], [1, 0.5]] } }]]); // prettier-ignore
    const slant = Math.hypot(2, 0.5);
    for (const n of places(mesh.attributes.get('normal')!.data)) {
      expect(n[0]).toBeCloseTo(0.5 / slant, 5);
      expect(Math.hypot(...n)).toBeCloseTo(1, 5);
    }
  });
});
