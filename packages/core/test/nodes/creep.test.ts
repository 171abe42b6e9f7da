import { describe, expect, test } from 'vitest';
import { curveCount, curvesFromLists, surfaceOf, unbounded, type Curves, type Mesh } from '../../src/index.js';
import { box, grid, icosphere } from '../../src/mesh/make/bodies.js';
import { joinMeshes } from '../../src/geometry/join.js';
import { affineFrom, transformGeometry } from '../../src/geometry/transform.js';
import { Creep, type CreepOptions, type Crept } from '../../src/grow/creep.js';
import { SurfaceWalk } from '../../src/near/walk.js';
import { runGraph } from '../graph.js';

const constant = (value: number) => ({ constant: value, values: null });
const still = [constant(0), constant(0), constant(0)] as const;
const usual: CreepOptions = { startEvery: 1, heading: 'any', chance: 1, steps: 60, step: constant(0.04), uneven: 0.5, turn: 0.4, lean: still, offset: 0.005, branch: 0, avoid: 0, gap: 0, seed: 3, pace: 24, spread: 0 }; // prettier-ignore
const ring = (radius: number, count: number, y = 0): Curves => curvesFromLists([Array.from({ length: count }, (_, i) => [radius * Math.cos((2 * Math.PI * i) / count), y, radius * Math.sin((2 * Math.PI * i) / count)])]); // prettier-ignore
const grow = (body: Mesh, guides: Curves, options: Partial<CreepOptions> = {}): Crept =>
  new Creep(surfaceOf(body), { ...usual, ...options }, unbounded).grow(guides);
const pointsOf = (curves: Curves, c: number): number[][] => Array.from({ length: curves.starts[c + 1] - curves.starts[c] }, (_, i) => [...curves.positions.subarray((curves.starts[c] + i) * 3, (curves.starts[c] + i) * 3 + 3)]); // prettier-ignore
const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

describe('a walk over a body', () => {
  test('goes straight on over the sides of a box, as if they were unfolded', () => {
    const body = surfaceOf(box([1, 1, 1], 1));
    const walk = new SurfaceWalk(body);
    const hit = body.nearest.nearest(0.1, 0.5, 0, { distance: 0, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });
    expect(walk.stand(hit.piece, hit.place, [1, 0, 0.25])).toBe(true);
    const long = Math.hypot(1, 0.25);
    // 0.4 m along x to the edge, then down: 0.3 m below it, and a quarter of all that along z.
    expect(walk.go(0.7 * long)).toBe('there');
    expect([...walk.place]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0.2, 6), expect.closeTo(0.175, 6)]);
    expect([...walk.along]).toEqual([expect.closeTo(0, 6), expect.closeTo(-1 / long, 6), expect.closeTo(0.25 / long, 6)]);
  });

  test('round a cube four sides long it comes back to where it began; on a sphere it keeps to a great circle', () => {
    const body = surfaceOf(box([1, 1, 1], 3));
    const walk = new SurfaceWalk(body);
    const at = body.nearest.nearest(0.1, 0.5, 0.07, { distance: 0, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });
    walk.stand(at.piece, at.place, [1, 0, 0]);
    expect(walk.go(4)).toBe('there');
    expect(apart([...walk.place], [0.1, 0.5, 0.07])).toBeLessThan(1e-6);
    const ball = surfaceOf(icosphere(1, 24));
    const round = new SurfaceWalk(ball);
    const top = ball.nearest.nearest(0.02, 1, 0.01, { distance: 0, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });
    round.stand(top.piece, top.place, [1, 0, 0]);
    for (let i = 0; i < 40; i++) {
      round.go((2 * Math.PI) / 40);
      expect(Math.abs(round.place[2])).toBeLessThan(0.05);
    }
    expect(apart([...round.place], [0.02, 1, 0.01])).toBeLessThan(0.06);
  });

  test('ends at a border, at the border', () => {
    const body = surfaceOf(grid([2, 2], [4, 4]));
    const walk = new SurfaceWalk(body);
    const at = body.nearest.nearest(0.3, 0, 0.1, { distance: 0, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });
    walk.stand(at.piece, at.place, [1, 0, 0]);
    expect(walk.go(5)).toBe('border');
    expect(walk.place[0]).toBeCloseTo(1, 6);
  });
});

describe('Creep', () => {
  test('every point stands off the body by the offset, and chords cut no corner of it', () => {
    for (const [body, guides] of [[icosphere(1, 8), ring(1, 40)], [box([1, 1, 1], 2), ring(0.5, 40, 0.2)]] as const) {
      const { curves, tally } = grow(body, guides, { branch: 0.02 });
      expect(tally).toMatchObject({ stuck: 0, border: 0, crowded: 0 });
      const surface = surfaceOf(body);
      for (let c = 0; c < curveCount(curves); c++) {
        const points = pointsOf(curves, c);
        points.forEach((p, i) => {
          expect(surface.signedDistance(p[0], p[1], p[2])).toBeCloseTo(0.005, 5);
          const next = points[i + 1];
          if (next) expect(surface.signedDistance((p[0] + next[0]) / 2, (p[1] + next[1]) / 2, (p[2] + next[2]) / 2)).toBeGreaterThan(0);
        });
      }
    }
  }); // prettier-ignore

  test('each step adds to tips alone: so many points as there are steps', () => {
    const { curves } = grow(icosphere(1, 30), ring(1, 25), { steps: 80 });
    expect([curveCount(curves), curves.positions.length / 3]).toEqual([25, 25 * 81]);
  });

  test('how many steps follow a chance, and which way they turn, is as chance has it', () => {
    const { curves } = grow(icosphere(1, 30), ring(1, 2000), { chance: 0.9, steps: 400, turn: 0.5, uneven: 0, step: constant(0.01), offset: 0 });
    const steps = Array.from({ length: curveCount(curves) }, (_, c) => curves.starts[c + 1] - curves.starts[c] - 1);
    // Steps until it ends: one, and as many more as a geometric series has on the mean: 1 / (1 − 0.9).
    expect(steps.reduce((sum, n) => sum + n, 0) / steps.length).toBeGreaterThan(9.4);
    expect(steps.reduce((sum, n) => sum + n, 0) / steps.length).toBeLessThan(10.6);
    let [sum, squares, count] = [0, 0, 0];
    for (let c = 0; c < curveCount(curves); c++) {
      const p = pointsOf(curves, c);
      for (let i = 1; i + 1 < p.length; i++) {
        const [u, v] = [[0, 1, 2].map((k) => p[i][k] - p[i - 1][k]), [0, 1, 2].map((k) => p[i + 1][k] - p[i][k])];
        const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        const turned = Math.atan2(cross[0] * p[i][0] + cross[1] * p[i][1] + cross[2] * p[i][2], u[0] * v[0] + u[1] * v[1] + u[2] * v[2]);
        sum += turned;
        squares += turned ** 2;
        count++;
      }
    }
    expect(Math.abs(sum / count)).toBeLessThan(0.01);
    // Even chances between −0.5 and 0.5 have a variance of a twelfth.
    expect(squares / count).toBeCloseTo(1 / 12, 2);
  });

  test('vines that keep apart are nowhere nearer, but to what they grew from', () => {
    const avoid = 0.03;
    const { curves, tally } = grow(icosphere(1, 16), ring(1, 60), { avoid, turn: 0.8, steps: 90, heading: 'sides' });
    expect(tally.crowded).toBeGreaterThan(0);
    const all = Array.from({ length: curveCount(curves) }, (_, c) => pointsOf(curves, c));
    let least = Infinity;
    all.forEach((a, i) => all.forEach((b, j) => {
      if (i < j) for (const p of a) for (const q of b) least = Math.min(least, apart(p, q));
    })); // prettier-ignore
    expect(least).toBeGreaterThan(avoid * 0.95);
    for (const points of all) for (let i = 0; i < points.length; i++) for (let j = i + 8; j < points.length; j++) expect(apart(points[i], points[j])).toBeGreaterThan(avoid * 0.95); // prettier-ignore
  });

  test('a side vine begins where and when its parent was there; parents come first', () => {
    const { curves } = grow(icosphere(1, 16), ring(1, 12), { branch: 0.1, steps: 40 });
    const [order, parent, birth] = ['order', 'parent', 'birth'].map((name) => curves.attributes.get(name)!.data);
    let sides = 0;
    for (let c = 0; c < curveCount(curves); c++) {
      if (parent[c] < 0) continue;
      sides++;
      expect(parent[c]).toBeLessThan(c);
      expect(order[c]).toBe(order[parent[c]] + 1);
      const at = pointsOf(curves, parent[c]).findIndex((p) => apart(p, pointsOf(curves, c)[0]) < 1e-7);
      expect(at).toBeGreaterThan(0);
      expect(birth[curves.starts[c]]).toBeCloseTo(birth[curves.starts[parent[c]] + at], 6);
    }
    expect(sides).toBeGreaterThan(20);
    for (let c = 0; c < curveCount(curves); c++)
      for (let i = curves.starts[c] + 1; i < curves.starts[c + 1]; i++) expect(birth[i]).toBeGreaterThan(birth[i - 1]);
  });

  test('leaning up they end higher; starts along the guide begin one after another', () => {
    const mean = (curves: Curves): number => curves.positions.reduce((sum, value, i) => (i % 3 === 1 ? sum + value : sum), 0) / (curves.positions.length / 3);
    const [up, free] = [[constant(0), constant(0.4), constant(0)] as const, still].map((lean) => mean(grow(icosphere(1, 16), ring(1, 30), { lean }).curves));
    expect(up).toBeGreaterThan(free + 0.3);
    const { curves } = grow(icosphere(1, 16), ring(1, 13), { spread: 2 });
    const birth = curves.attributes.get('birth')!.data;
    Array.from({ length: 13 }, (_, c) => expect(birth[curves.starts[c]]).toBeCloseTo((c / 12) * 2, 5));
  });

  test('at a border they stop, or hang over the gap until the body goes on', () => {
    const two = joinMeshes([grid([2, 2], [4, 4]), transformGeometry(grid([2, 2], [4, 4]), affineFrom({ move: [2.1, -0.2, 0], turn: [0, 0, 0], size: [1, 1, 1], pivot: [0, 0, 0] }))]); // prettier-ignore
    const guide = curvesFromLists([[[0, 0, -0.2], [0.02, 0, -0.2]], [[0, 0, 0.2], [0.02, 0, 0.2]]]); // prettier-ignore
    const along = { heading: 'along', turn: 0, steps: 50, startEvery: 2 } as const;
    const stopped = grow(two, guide, along);
    expect(stopped.tally.border).toBe(2);
    for (let c = 0; c < 2; c++) expect(pointsOf(stopped.curves, c).at(-1)![0]).toBeCloseTo(1, 4);
    const over = grow(two, guide, { ...along, gap: 0.5 });
    for (let c = 0; c < 2; c++) expect(pointsOf(over.curves, c).at(-1)![0]).toBeGreaterThan(1.3);
    expect(over.curves.attributes.get('hangs')!.data).toContain(1);
    const hung = grow(grid([2, 2], [4, 4]), guide, { ...along, gap: 0.5 });
    expect(hung.tally.hanging).toBe(2);
    expect(pointsOf(hung.curves, 0).at(-1)![1]).toBeLessThan(-0.1);
  });

  test('as a node: what is off the body is told, a reduced copy is grown over and the whole one laid on; the same seed gives the same bytes', async () => {
    const run = async (settings: object, move = 0) =>
      (
        await runGraph(
          { body: ['lay.sphere', { divisions: 20, radius: 1 }], guide: ['lay.circle', { radius: 1 }], even: ['pace.resample', { count: 30 }], at: ['shape.transform', { move: [0, move, 0] }], it: ['grow.creep', { steps: 20, ...settings }] },
          ['guide.curves > even.curves', 'even.curves > at.any', 'at.any > it.curves', 'body.mesh > it.mesh'],
        )
      ).results; // prettier-ignore
    const [once, again, other] = await Promise.all([{}, {}, { seed: 2 }].map(async (settings) => (await run(settings))['it'].outputs['curves'] as Curves));
    expect(once.positions).toEqual(again.positions);
    expect(once.positions).not.toEqual(other.positions);
    const results = await run({ share: 0.2 });
    const laid = results['it'].outputs['curves'] as Curves;
    const surface = surfaceOf(results['body'].outputs['mesh'] as Mesh);
    for (let i = 0; i < laid.positions.length; i += 3) expect(surface.signedDistance(laid.positions[i], laid.positions[i + 1], laid.positions[i + 2])).toBeCloseTo(0.005, 4); // prettier-ignore
    expect((await run({}, 3))['it'].warnings[0].message).toMatch(/^30 of 30 starts lie off the body, up to 2\.16 m/);
  });
});
