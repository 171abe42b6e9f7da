import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curvesFromLists, measure, type Mesh } from '../../src/index.js';
import { cutAtForks } from '../../src/skin/forks/cutAtForks.js';
import { convexHull } from '../../src/skin/forks/hull.js';
import { blendedTube } from '../../src/skin/forks/blendedTube.js';
import { defaultTube, tube } from '../../src/skin/tube/tube.js';
import { constantField } from '../../src/values/field.js';
import { unbounded } from '../../src/base/work.js';
import { runGraph } from '../graph.js';

type Place = readonly number[];
const skinned = (lists: readonly (readonly Place[])[], radius = 0.05, more: object = {}) =>
  blendedTube(curvesFromLists(lists), { ...defaultTube, radius: constantField(radius), ...more });

const facesOf = ({ corners, faceStarts, uniform }: Mesh): number[][] =>
  Array.from({ length: faceStarts ? faceStarts.length - 1 : corners.length / uniform }, (_, f) =>
    Array.from(faceStarts ? corners.subarray(faceStarts[f], faceStarts[f + 1]) : corners.subarray(f * uniform, (f + 1) * uniform)),
  );

/** That a mesh is one closed surface a shell, each edge run once either way, and all its numbers are numbers. */
function expectClosed(mesh: Mesh, parts: number): void {
  const found = measure({ mesh });
  expect([found.parts, found.boundaryEdges, found.nonManifoldEdges, found.euler]).toEqual([parts, 0, 0, 2 * parts]);
  expect(found.volume).toBeGreaterThan(0);
  const ways = new Map<string, number>();
  for (const face of facesOf(mesh)) {
    const corners = face.map((v) => mesh.pointOf![v]);
    corners.forEach((a, i) => ways.set(`${a} ${corners[(i + 1) % corners.length]}`, (ways.get(`${a} ${corners[(i + 1) % corners.length]}`) ?? 0) + 1));
  }
  for (const [way, times] of ways) expect([way, times, ways.get(way.split(' ').reverse().join(' '))]).toEqual([way, 1, 1]);
  for (const { data } of mesh.attributes.values()) expect(data.every(Number.isFinite)).toBe(true);
}

describe('tubes with blended forks', () => {
  const star = [0, 120, 240].map((degrees) => [[0, 0, 0], [Math.cos((degrees * Math.PI) / 180), 0, Math.sin((degrees * Math.PI) / 180)]]); // prettier-ignore

  test('three arms that meet are one closed surface, hardly larger than their union', async () => {
    const { mesh, issues } = skinned(star, 0.05, { sides: 24 });
    expect(issues).toEqual([]);
    expectClosed(mesh, 1);
    // The union of the same three tubes, by the library that other solids are made with.
    const plain = tube(curvesFromLists(star), { ...defaultTube, radius: constantField(0.05), sides: 24 }).mesh;
    const { solid } = await import('../../src/mesh/cut/solid.js');
    const union = measure({ mesh: (await solid([plain], 'union')).mesh }).volume;
    const blended = measure({ mesh }).volume;
    expect(blended / union).toBeGreaterThan(0.995);
    expect(blended / union).toBeLessThan(1.03);
  });

  test('a branch on a trunk: the trunk is cut there and goes on in v, its values go on with it', () => {
    const trunk = Array.from({ length: 11 }, (_, i) => [0, i / 5, 0]);
    const { mesh, issues } = skinned([trunk, [[0, 1, 0], [0.6, 1.4, 0]]], 0.04); // prettier-ignore
    expect(issues).toEqual([]);
    expectClosed(mesh, 1);
    const [uv, part] = ['uv', 'part'].map((name) => mesh.attributes.get(name)!.data);
    // Walls that lie on the trunk, away from the branch and the caps: v is the height as a share.
    let looked = 0;
    for (let f = 0; f + 1 < mesh.faceStarts!.length; f++) {
      if (part[f] !== 0) continue;
      for (const v of mesh.corners.subarray(mesh.faceStarts![f], mesh.faceStarts![f + 1])) {
        const [x, y, z] = mesh.positions.subarray(v * 3, v * 3 + 3);
        if (Math.abs(Math.hypot(x, z) - 0.04) > 1e-4 || Math.abs(y - 1) < 0.2) continue;
        expect(uv[v * 2 + 1]).toBeCloseTo(y / 2, 4);
        looked++;
      }
    }
    expect(looked).toBeGreaterThan(200);
  });

  test('normals of a joint are those of the walls it meets, and its UVs are not smeared over a turn', () => {
    const { mesh } = skinned(star);
    const [normal, uv] = ['normal', 'uv'].map((name) => mesh.attributes.get(name)!.data);
    const last = mesh.faceStarts!.length - 1;
    let joints = 0;
    for (let f = 0; f < last; f++) {
      const corners = mesh.corners.subarray(mesh.faceStarts![f], mesh.faceStarts![f + 1]);
      for (const v of corners) expect(Math.hypot(...normal.subarray(v * 3, v * 3 + 3))).toBeCloseTo(1, 4);
      if (corners.length !== 3) continue;
      joints++;
      const us = Array.from(corners, (v) => uv[v * 2]);
      expect(Math.max(...us) - Math.min(...us)).toBeLessThan(0.51);
    }
    expect(joints).toBeGreaterThan(12);
  });

  const direction = fc
    .tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }))
    .map(([y, round]) => [Math.sqrt(1 - y * y) * Math.cos(round), y, Math.sqrt(1 - y * y) * Math.sin(round)]);
  test('any arms that stand apart are closed, whatever their number, sides and caps; others are told and stay', () =>
    fc.assert(
      fc.property(
        fc.array(direction, { minLength: 3, maxLength: 6 }),
        fc.integer({ min: 3, max: 17 }),
        fc.constantFrom('flat', 'domed'),
        fc.constantFrom(0, 0.1, 0.4),
        (ways, sides, caps, uvScale) => {
          const lists = ways.map((way) => [0, 0.3, 0.6, 1].map((s) => way.map((value) => value * s)));
          const { mesh, issues } = skinned(lists, 0.03, { sides, caps, uvScale });
          expectClosed(mesh, issues.some(({ reason }) => reason === 'fork') ? ways.length : 1);
          const cosines = ways.flatMap((a, i) => ways.slice(i + 1).map((b) => a.reduce((sum, value, k) => sum + value * b[k], 0)));
          const nearest = Math.acos(Math.min(1, Math.max(...cosines)));
          if (nearest > 0.6) expect(issues).toEqual([]);
        },
      ),
      { numRuns: 120 },
    ));

  test('two forks on one branch, a ring of branches, and branches that do not touch', () => {
    const ladder = [[[0, 0, 0], [0, 2, 0]], [[1, 0, 0], [1, 2, 0]], [[0, 0.7, 0], [1, 0.7, 0]], [[0, 1.3, 0], [1, 1.3, 0]]]; // prettier-ignore
    const { mesh, issues } = skinned(ladder);
    expect(issues).toEqual([]);
    const found = measure({ mesh });
    // One surface with one hole through it: Euler characteristic 2 − 2.
    expect([found.parts, found.boundaryEdges, found.nonManifoldEdges, found.euler]).toEqual([1, 0, 0, 0]);
    const apart = skinned([[[0, 0, 0], [0, 1, 0]], [[1, 0, 0], [1, 1, 0]]]); // prettier-ignore
    expect(measure({ mesh: apart.mesh }).parts).toBe(2);
  });

  /** How many shells, and holes through them all together. */
  const shape = (mesh: Mesh): { parts: number; holes: number } => {
    const { parts, boundaryEdges, nonManifoldEdges, euler, volume } = measure({ mesh });
    expect([boundaryEdges, nonManifoldEdges]).toEqual([0, 0]);
    expect(volume).toBeGreaterThan(0);
    return { parts, holes: (2 * parts - euler) / 2 };
  };
  const ring = (n: number, radius: number): Place[] => Array.from({ length: n }, (_, i) => [radius * Math.cos((i / n) * 2 * Math.PI), 0, radius * Math.sin((i / n) * 2 * Math.PI)]); // prettier-ignore

  test('curves are cut by themselves where they cross, touch or come back to themselves, closed ones too', () => {
    const cross = [[[-1, 0, 0], [1, 0, 0]], [[0, 0, -1], [0, 0, 1]]]; // prettier-ignore
    const eight = [[-1, 0, -1], [1, 0, 1], [1, 0, -1], [-1, 0, 1]]; // prettier-ignore
    const loop = [[0, 0, 0], [0, 1, 0], [0.5, 1.5, 0], [0, 2, 0], [-0.5, 1.5, 0], [0, 1, 0]]; // prettier-ignore
    const spoke = [[0, 0, 0], [0.5, 0, 0], [1.2, 0, 0]]; // prettier-ignore
    const cases: readonly [Parameters<typeof curvesFromLists>[0], readonly boolean[], number, number][] = [
      [cross, [false, false], 1, 0],
      [[eight], [true], 1, 2],
      [[loop], [false], 1, 1],
      [[ring(24, 0.5), spoke], [true, false], 1, 1],
      [[ring(24, 0.5), [[-1, 0, 0], [1, 0, 0]]], [true, false], 1, 2], // prettier-ignore
      // What only runs near is left alone: bends, and curves beside each other.
      [[[[0, 0, 0], [1, 0, 0], [1, 0, 0.06], [0, 0, 0.06]]], [false], 1, 0], // prettier-ignore
      [[ring(24, 0.5)], [true], 1, 1],
    ];
    for (const [lists, closed, parts, holes] of cases) {
      const { mesh, issues } = blendedTube(curvesFromLists(lists, { closed }), { ...defaultTube, radius: constantField(0.02), sides: 9 });
      expect([issues, shape(mesh)]).toEqual([[], { parts, holes }]);
    }
  });

  test('trails over the edges of a box are one shell whichever way they run: 12 edges, 8 corners, 5 holes', async () => {
    for (const chain of ['each', 'trails', 'loops']) {
      const { results } = await runGraph(
        { box: ['lay.box', { size: [1, 1, 1] }], edges: ['mesh.edges', { chain }], hose: ['skin.tube', { radius: 0.03, sides: 7, forks: 'blended' }] },
        ['box.mesh > edges.mesh', 'edges.curves > hose.curves'],
      );
      expect([chain, results['hose'].warnings, shape(results['hose'].outputs['mesh'] as Mesh)]).toEqual([chain, [], { parts: 1, holes: 5 }]);
    }
  });

  test('any straight lines through one place of the plane cross there, in as many arms', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 2, maxLength: 4 }), fc.integer({ min: 0, max: 5 }), (ways, shift) => {
        const lists = ways.map((way) => {
          const angle = ((way * 30 + shift) * Math.PI) / 180;
          return [-1, -0.35, 0.62, 1.1].map((s) => [s * Math.cos(angle) + 3, 1, s * Math.sin(angle)]);
        });
        const { forks, tooTight } = cutAtForks(curvesFromLists(lists), constantField(0.01), unbounded);
        expect([forks.map((ends) => ends.length), tooTight]).toEqual([[ways.length * 2], []]);
      }),
      { numRuns: 40 },
    ));

  test('a fork whose arms are too short is told where it is', () => {
    const { issues } = skinned([[[0, 0, 0], [0, 1, 0]], [[0, 0.5, 0], [0.03, 0.5, 0]]], 0.05); // prettier-ignore
    expect(issues.map(({ reason, curve, at }) => [reason, curve, at])).toEqual([['fork', 1, 0]]);
    // The remedy cures.
    const fits = issues[0].radius!;
    expect(fits).toBeLessThan(0.05);
    expect(skinned([[[0, 0, 0], [0, 1, 0]], [[0, 0.5, 0], [0.03, 0.5, 0]]], fits).issues).toEqual([]); // prettier-ignore
    const { curves, source, tooTight } = cutAtForks(curvesFromLists(star), constantField(0.05), unbounded);
    expect([curves.starts.length, source, tooTight]).toEqual([4, [0, 1, 2], []]);
  });

  test('the hull of the corners of a box shaken a little has twelve triangles that see none of them', () => {
    const corners = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, i >> 2].map((value, k) => value + 1e-3 * Math.sin(i * 7 + k * 3)));
    const hull = convexHull(corners.flat(), unbounded)!;
    expect(hull).toHaveLength(36);
    expect(convexHull([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0], unbounded)).toBeNull();
  });

  test('as a node: what grows by rules becomes one surface', async () => {
    const { results } = await runGraph({ grown: ['grow.rules', {}], hose: ['skin.tube', { radius: 0.004, sides: 6, forks: 'blended' }] }, ['grown.curves > hose.curves']); // prettier-ignore
    expect(results['hose'].error).toBeUndefined();
    const mesh = results['hose'].outputs['mesh'] as Mesh;
    const [before, after] = [(await runGraph({ grown: ['grow.rules', {}], hose: ['skin.tube', { radius: 0.004, sides: 6 }] }, ['grown.curves > hose.curves'])).results['hose'].outputs['mesh'] as Mesh, mesh].map((each) => measure({ mesh: each })); // prettier-ignore
    expect(after.nonManifoldEdges).toBe(0);
    expect(after.parts).toBeLessThan(before.parts);
  });
});
