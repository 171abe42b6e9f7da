import { describe, expect, test } from 'vitest';
import { curveCount, type Curves, type Mesh } from '../../src/index.js';
import { edgesOf } from '../../src/mesh/topology/edgeTable.js';
import { cornerAfter } from '../../src/mesh/topology/edgeTable.js';
import { placesOfMesh } from '../../src/mesh/topology/samePlaces.js';
import { randomAt } from '../../src/values/random.js';
import { box, grid, icosphere } from '../../src/mesh/make/bodies.js';
import { joinMeshes } from '../../src/geometry/join.js';
import { routes, type RoutesOptions } from '../../src/grow/routes.js';
import { unbounded } from '../../src/base/work.js';
import { runGraph } from '../graph.js';

const none = { constant: 0, values: null };
const usual: RoutesOptions = { from: 'nearest', merge: true, harder: none, pace: 0.5 };
const every = (mesh: Mesh): number[] => Array.from({ length: mesh.positions.length / 3 }, (_, v) => v);

/** Cheapest ways between all points by trying every edge as often as there are points (Bellman 1958; Ford 1956). */
function bruteForce(mesh: Mesh, starts: readonly number[], harder: (v: number) => number): Float64Array {
  const { pointOf, count } = placesOfMesh(mesh);
  const edges = edgesOf({ ...mesh, pointOf, pointCount: count });
  const cost = new Float64Array(count).fill(Infinity);
  for (const start of starts) cost[pointOf[start]] = 0;
  const p = mesh.positions;
  for (let changed = true; changed;) {
    changed = false;
    for (let e = 0; e < edges.count; e++) {
      const [v, w] = [mesh.corners[edges.from[e * 2]], mesh.corners[cornerAfter(mesh, edges.face[e * 2], edges.from[e * 2])]];
      const length = Math.hypot(p[v * 3] - p[w * 3], p[v * 3 + 1] - p[w * 3 + 1], p[v * 3 + 2] - p[w * 3 + 2]) * (1 + (harder(v) + harder(w)) / 2);
      for (const [a, b] of [[pointOf[v], pointOf[w]], [pointOf[w], pointOf[v]]]) if (cost[a] + length < cost[b] - 1e-12) {
        cost[b] = cost[a] + length;
        changed = true;
      } // prettier-ignore
    }
  }
  return cost;
}

const lengthOf = (curves: Curves, c: number): number => {
  let sum = 0;
  for (let i = curves.starts[c] + 1; i < curves.starts[c + 1]; i++) sum += Math.hypot(...[0, 1, 2].map((k) => curves.positions[i * 3 + k] - curves.positions[i * 3 - 3 + k]));
  return sum;
}; // prettier-ignore

describe('Shortest routes', () => {
  test('every route is as short as any (against brute force), on bodies at random, with some of the way harder', () => {
    for (const [mesh, seed] of [
      [icosphere(1, 5), 1],
      [box([1, 2, 3], 4), 2],
      [grid([3, 2], [9, 7]), 3],
    ] as const) {
      const vertices = every(mesh);
      const starts = [0, 1, 2].map((i) => Math.floor(randomAt(seed, i) * vertices.length));
      for (const hard of [0, 3]) {
        const values = Float64Array.from(vertices, (v) => hard * randomAt(seed + 7, placesOfMesh(mesh).pointOf[v]));
        const { curves, unreachable } = routes(mesh, starts, vertices, { ...usual, merge: false, harder: { constant: 0, values } }, unbounded);
        expect(unreachable).toBe(0);
        const best = bruteForce(mesh, starts, (v) => values[v]);
        expect(curveCount(curves)).toBe(best.filter((cost) => cost > 0).length);
        const length = curves.attributes.get('length')!.data;
        for (let c = 0; c < curveCount(curves); c++) expect(lengthOf(curves, c)).toBeCloseTo(length[c], 4);
        if (!hard) expect([...length.toSorted()]).toEqual(Array.from(best.filter((cost) => cost > 0).toSorted(), (value) => expect.closeTo(value, 4) as number)); // prettier-ignore
      }
    }
  });

  test('one network has each edge once; traffic on it is what the single routes have there', () => {
    const mesh = icosphere(1, 6);
    const [starts, ends] = [[0, 40], every(mesh)];
    const [merged, single] = [true, false].map((merge) => routes(mesh, starts, ends, { ...usual, merge }, unbounded).curves);
    const key = (p: ArrayLike<number>, i: number): string => [0, 1, 2].map((k) => Math.round(p[i * 3 + k] * 1e5)).join();
    const counted = new Map<string, number>();
    for (let c = 0; c < curveCount(single); c++) for (let i = single.starts[c] + 1; i < single.starts[c + 1]; i++) {
      const edge = `${key(single.positions, i - 1)} ${key(single.positions, i)}`;
      counted.set(edge, (counted.get(edge) ?? 0) + 1);
    } // prettier-ignore
    const traffic = merged.attributes.get('traffic')!.data;
    const seen = new Set<string>();
    for (let c = 0; c < curveCount(merged); c++) for (let i = merged.starts[c] + 1; i < merged.starts[c + 1]; i++) {
      const edge = `${key(merged.positions, i - 1)} ${key(merged.positions, i)}`;
      expect(seen.has(edge)).toBe(false);
      seen.add(edge);
      expect(traffic[i]).toBe(counted.get(edge));
    } // prettier-ignore
    expect(seen.size).toBe(counted.size);
    const [parent, order, distance] = ['parent', 'order', 'distance'].map((name) => merged.attributes.get(name)!.data);
    for (let c = 0; c < curveCount(merged); c++) {
      if (parent[c] < 0) continue;
      expect(parent[c]).toBeLessThan(c);
      expect(order[c]).toBe(order[parent[c]] + 1);
      expect(distance[merged.starts[c]]).toBeGreaterThan(0);
    }
  });

  test('from each start: as many routes as starts and ends; the longest is the measure of all', () => {
    const mesh = grid([4, 4], [8, 8]);
    const { curves } = routes(mesh, [0, 80], [8, 72, 40], { ...usual, from: 'each', merge: false }, unbounded);
    const [length, share, start] = ['length', 'share', 'start'].map((name) => curves.attributes.get(name)!.data);
    expect(curveCount(curves)).toBe(6);
    expect([...start]).toEqual([0, 0, 0, 1, 1, 1]);
    expect(curves.attributes.get('longest')!.data[0]).toBe(Math.max(...length));
    expect(Math.max(...share)).toBe(1);
    // Along the sides of squares: so many metres each way.
    expect([...length].sort()).toEqual([4, 4, 4, 4, 4, 4]);
  });

  test('as a node: starts by points and by a mark; ends that cannot be reached are counted, and the rest goes on', async () => {
    const run = (settings: Readonly<Record<string, unknown>>, wires: string[] = []) =>
      runGraph(
        { one: ['lay.sphere', { divisions: 4 }], two: ['lay.box', {}], both: ['flow.join', {}], at: ['lay.line', { from: [0, 2, 0], to: [0, 3, 0] }], top: ['pace.points', {}], it: ['grow.routes', settings] },
        ['one.mesh > both.any', 'two.mesh > both.any', 'at.curves > top.curves', 'both.any > it.mesh', ...wires],
      ); // prettier-ignore
    const { results } = await run({}, ['top.points > it.starts']);
    expect(results['it'].warnings[0].message).toMatch(/^8 of \d+ ends cannot be reached/);
    expect(curveCount(results['it'].outputs['curves'] as Curves)).toBeGreaterThan(10);
    const marked = await run({ begin: { formula: 'y > 0.499' } });
    expect(marked.results['it'].warnings).toEqual([]);
    const nothing = await run({});
    expect(nothing.results['it'].warnings[0].message).toBe('There are no starts.');
  });

  test('seams are no walls', () => {
    // The sides of a box have vertices of their own.
    const mesh = box([1, 1, 1], 2);
    const { unreachable, curves } = routes(mesh, [0], every(mesh), usual, unbounded);
    expect(unreachable).toBe(0);
    expect(curves.attributes.get('traffic')!.data.reduce((most, value) => Math.max(most, value), 0)).toBeGreaterThan(3);
    expect(routes(joinMeshes([mesh, icosphere(9, 1)]), [0], every(joinMeshes([mesh, icosphere(9, 1)])), usual, unbounded).unreachable).toBe(12);
  });
});
