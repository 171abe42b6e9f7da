import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  box,
  curvesFromLists,
  distanceTo,
  firstHit,
  icosphere,
  makeMesh,
  makePoints,
  newHit,
  newRayHit,
  piecesOf,
  PointGrid,
  NearestTree,
  randomAt,
  ringSphere,
  Surface,
  terrain,
  unbounded,
  visitingOrder,
  type Mesh,
  type Pieces,
} from '../../src/index.js';
import { segmentDistance } from '../../src/curves/change/keptPoints.js';
import { curveClearance } from '../../src/gauge/clearance.js'; // prettier-ignore

const number = fc.double({ min: -3, max: 3, noNaN: true });
const place = fc.tuple(number, number, number);
/** Triangles anywhere, some without an area, in places that repeat. */
const soup = fc.array(fc.tuple(place, place, place), { minLength: 1, maxLength: 60 }).map((list) => {
  const positions = Float32Array.from(list.flat(2).map((value) => Math.round(value * 4) / 4));
  return makeMesh({ positions, corners: Uint32Array.from({ length: positions.length / 3 }, (_, i) => i), uniform: 3 });
});

/** Distance to a triangle by its plane, else by its three sides: another way than the one in use. */
function toTriangle(c: ArrayLike<number>, o: number, p: readonly number[]): number {
  const [a, b, d] = [0, 3, 6].map((k) => [c[o + k], c[o + k + 1], c[o + k + 2]]);
  const minus = (x: readonly number[], y: readonly number[]): number[] => x.map((value, k) => value - y[k]);
  const dot = (x: readonly number[], y: readonly number[]): number => x.reduce((sum, value, k) => sum + value * y[k], 0);
  const cross = (x: readonly number[], y: readonly number[]): number[] => [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]];
  const toSide = (from: readonly number[], to: readonly number[]): number => {
    const way = minus(to, from);
    const f = Math.min(1, Math.max(0, dot(way, way) > 0 ? dot(minus(p, from), way) / dot(way, way) : 0));
    return Math.hypot(...p.map((value, k) => value - from[k] - f * way[k]));
  };
  const n = cross(minus(b, a), minus(d, a));
  const inside = [[a, b], [b, d], [d, a]].every(([from, to]) => dot(cross(minus(to, from), minus(p, from)), n) >= 0); // prettier-ignore
  if (dot(n, n) > 1e-12 && inside) return Math.abs(dot(minus(p, a), n)) / Math.hypot(...n);
  return Math.min(toSide(a, b), toSide(b, d), toSide(d, a));
}

/** The nearest piece by looking at each. */
function byAll({ corners, size, element }: Pieces, p: readonly number[]): number {
  const points = [0, 3, 6].slice(0, size / 3);
  return Math.min(
    ...Array.from(element, (_, i) => {
      const own = points.flatMap((k) => Array.from(corners.subarray(i * size + k, i * size + k + 3)));
      const triangle = size === 9 ? own : size === 6 ? [...own, ...own.slice(3)] : [...own, ...own, ...own];
      return toTriangle(triangle, 0, p);
    }),
  );
}

describe('the tree of boxes', () => {
  test('finds the distance that looking at every triangle finds, at a place with those weights', () =>
    fc.assert(
      fc.property(soup, fc.array(place, { minLength: 1, maxLength: 10 }), (mesh, queries) => {
        const pieces = piecesOf(mesh);
        const tree = new NearestTree(pieces);
        const hit = newHit();
        for (const p of queries) {
          tree.nearest(p[0], p[1], p[2], hit);
          expect(hit.distance).toBeCloseTo(byAll(pieces, p), 6);
          expect(Math.hypot(...p.map((value, k) => value - hit.place[k]))).toBeCloseTo(hit.distance, 6);
          const weighted = [0, 1, 2].map((k) => hit.weights.reduce((sum, w, j) => sum + w * pieces.corners[hit.piece * 9 + j * 3 + k], 0));
          weighted.forEach((value, k) => expect(value).toBeCloseTo(hit.place[k], 6));
          expect(hit.weights.every((w) => w > -1e-9)).toBe(true);
        }
      }),
      { numRuns: 200 },
    ));

  test('of curves and of points alike, and nothing beyond the reach', () =>
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 40 }), place, (list, p) => {
        const pieces = piecesOf(curvesFromLists([list.map((each) => [...each])]));
        const hit = new NearestTree(pieces).nearest(p[0], p[1], p[2], newHit());
        expect(hit.distance).toBeCloseTo(byAll(pieces, p), 5);
        expect(new NearestTree(pieces).nearest(p[0], p[1], p[2], newHit(), hit.distance * 0.999).element).toBe(-1);
      }),
      { numRuns: 200 },
    ));

  test('of many is that of each by itself: neighbours are asked for one after another, and each gets its own', () => {
    const ground = terrain({ size: [8, 8], divisions: [20, 20], height: 1, seed: 3, roughness: 0.5 });
    const places = Float32Array.from({ length: 3 * 2000 }, (_, i) => randomAt(5, i) * 8 - 4);
    const at = (i: number, k: number): number => places[i * 3 + k];
    const order = visitingOrder(2000, at)!;
    expect([...order].sort((a, b) => a - b)).toEqual([...Array(2000).keys()]);
    // A way through all of them that goes to neighbours is many times shorter than one that goes anywhere.
    const way = (list: ArrayLike<number>): number =>
      Array.from({ length: 1999 }, (_, i) => Math.hypot(...[0, 1, 2].map((k) => at(list[i], k) - at(list[i + 1], k)))).reduce((sum, each) => sum + each);
    expect(way(order)).toBeLessThan(way([...Array(2000).keys()]) / 5);
    const told = distanceTo(makePoints(places), ground, { reach: 0, place: true }, unbounded).attributes;
    const tree = new NearestTree(piecesOf(ground));
    for (let i = 0; i < 2000; i++) {
      const hit = tree.nearest(at(i, 0), at(i, 1), at(i, 2), newHit());
      expect(told.get('distance')!.data[i]).toBe(Math.fround(hit.distance));
      expect([...told.get('nearest')!.data.subarray(i * 3, i * 3 + 3)]).toEqual([...hit.place].map(Math.fround));
    }
    expect(visitingOrder(20, at)).toBeNull();
  });

  test('is as deep as it says, whatever lies in one place', () => {
    const heap = makeMesh({ positions: new Float32Array(9 * 1000).fill(1), corners: Uint32Array.from({ length: 3000 }, (_, i) => i), uniform: 3 });
    const tree = new NearestTree(piecesOf(heap));
    expect(tree.nearest(1, 1, 3, newHit()).distance).toBe(2);
    expect(tree.tree.depth).toBeLessThan(10);
  });
});

describe('rays', () => {
  test('meet what looking at every triangle meets first, within the tolerance of its sides', () =>
    fc.assert(
      fc.property(soup, place, place, (mesh, from, to) => {
        const way = to.map((value, k) => value - from[k]);
        const size = Math.hypot(...way);
        if (size < 1e-3) return;
        const d = way.map((value) => value / size);
        const surface = new NearestTree(piecesOf(mesh)).tree;
        const hit = firstHit(surface, from, d, newRayHit());
        const all = piecesOf(mesh);
        if (hit.piece >= 0) expect(byAll(all, from.map((value, k) => value + hit.t * d[k]))).toBeLessThan(1e-5); // prettier-ignore
        const alone = Array.from(all.element, (_, i) => {
          const one = makeMesh({ positions: mesh.positions.slice(i * 9, i * 9 + 9), corners: Uint32Array.of(0, 1, 2), uniform: 3 });
          return firstHit(new NearestTree(piecesOf(one)).tree, from, d, newRayHit());
        });
        const first = alone.reduce((best, each) => (each.t < best.t ? each : best));
        // A ray that only grazes a side may meet it or not.
        if (first.piece >= 0 && Math.min(...first.weights) > 1e-6) expect(hit.t).toBe(first.t);
      }),
      { numRuns: 200 },
    ));

  test('along an axis, through edges and corners of a grid of triangles, none slips through', () => {
    const { tree } = new NearestTree(piecesOf(terrain({ size: [8, 8], divisions: [8, 8], height: 1, seed: 3, roughness: 0.5 })));
    for (let x = -4; x <= 4; x += 0.5)
      for (let z = -4; z <= 4; z += 0.5) expect(firstHit(tree, [x, 5, z], [0, -1, 0], newRayHit()).piece).toBeGreaterThanOrEqual(0);
    expect(firstHit(tree, [4.01, 5, 0], [0, -1, 0], newRayHit()).piece).toBe(-1);
    expect(firstHit(tree, [0, 5, 0], [0, -1, 0], newRayHit(), 2).piece).toBe(-1);
  });
});

describe('inside and outside', () => {
  const bodies: Readonly<Record<string, [Mesh, (p: readonly number[]) => number]>> = {
    box: [box([2, 3, 1], 2), (p) => Math.max(Math.abs(p[0]) - 1, Math.abs(p[1]) - 1.5, Math.abs(p[2]) - 0.5)],
    'ball of rings': [ringSphere(1.5, 24), (p) => Math.hypot(...p) - 1.5],
    ball: [icosphere(1.5, 24), (p) => Math.hypot(...p) - 1.5],
  };
  for (const [name, [mesh, field]] of Object.entries(bodies))
    test(`${name}: the sign is that of the body's own formula, away from its surface`, () => {
      const surface = new Surface(mesh);
      fc.assert(
        fc.property(place, (p) => {
          const wanted = field(p);
          if (Math.abs(wanted) < 0.02) return;
          expect(Math.sign(surface.signedDistance(p[0], p[1], p[2]))).toBe(Math.sign(wanted));
        }),
        { numRuns: 500 },
      );
    });
});

describe('places in cells', () => {
  test('all that lie within reach are visited, whatever the cells and however the grid grew', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 1, maxLength: 200 }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.oneof(fc.double({ min: 0.05, max: 40, noNaN: true }), fc.constant(Infinity)),
        (places, reach, size) => {
          const cells = new PointGrid(size, 2);
          expect(places.map(([x, y, z]) => cells.add(x, y, z))).toEqual(places.map((_, i) => i));
          const [x, y, z] = places[places.length >> 1];
          const seen = new Set<number>();
          cells.near(x, y, z, reach, (item) => void seen.add(item));
          places.forEach((place, i) => {
            if (Math.hypot(place[0] - x, place[1] - y, place[2] - z) <= reach) expect(seen.has(i)).toBe(true);
          });
          // It ends where it is told to.
          let visited = 0;
          expect(cells.near(x, y, z, reach, () => ++visited === 1)).toBe(true);
          expect(visited).toBe(1);
        },
      ),
    );
  });
});

test('clearance between ropes: every point knows the nearest other skin, however far, as looking at every piece finds it', () => {
  const place = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -500, max: 500 }).map((value) => value / 100)));
  fc.assert(
    fc.property(fc.array(fc.array(place, { minLength: 2, maxLength: 6 }), { minLength: 1, maxLength: 6 }), fc.integer({ min: 0, max: 20 }), (lists, thick) => {
      const curves = curvesFromLists(lists as number[][][]);
      const radius = thick / 100;
      const options = { radius: { constant: radius, values: null }, least: 0, ends: 0, eachOther: true };
      const found = curveClearance(curves, null, options, unbounded).geometry.attributes.get('clearance')!.data;
      const p = curves.positions;
      for (let c = 0; c + 1 < curves.starts.length; c++)
        for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) {
          let least = Infinity;
          for (let d = 0; d + 1 < curves.starts.length; d++)
            if (d !== c)
              for (let k = curves.starts[d]; k + 1 < curves.starts[d + 1]; k++) least = Math.min(least, segmentDistance(p, i * 3, p, k * 3, k * 3 + 3));
          // Between points it may be less: there the point tells of its pieces.
          if (least === Infinity) expect(found[i]).toBe(1e6);
          else expect(found[i]).toBeLessThan(least - 2 * radius + 1e-4);
          // Nor is it less than what its halves of pieces have, looked at every hundredth of them.
          if (least === Infinity) continue;
          let lower = Infinity;
          for (const j of [i - 1, i + 1].filter((near) => near >= curves.starts[c] && near < curves.starts[c + 1]))
            for (let k = 0; k <= 50; k++) {
              const place = [0, 1, 2].map((axis) => p[i * 3 + axis] + ((p[j * 3 + axis] - p[i * 3 + axis]) * k) / 100);
              for (let d = 0; d + 1 < curves.starts.length; d++)
                if (d !== c)
                  for (let m = curves.starts[d]; m + 1 < curves.starts[d + 1]; m++) lower = Math.min(lower, segmentDistance(place, 0, p, m * 3, m * 3 + 3));
            }
          expect(found[i]).toBeGreaterThan(lower - 2 * radius - 0.15);
        }
    }),
    { numRuns: 200 },
  );
});
