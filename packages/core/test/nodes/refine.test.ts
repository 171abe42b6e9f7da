import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { edgesOf, faceCount, placesOfMesh, signedVolume, type Mesh, type NodeResult } from '../../src/index.js';
import { runChain, runGraph, type Chain } from '../graph.js';
import { expectReference, reference } from '../reference/reference.js';

const ok = (result: NodeResult): NodeResult => {
  if (result.error) throw new Error(result.error.message);
  return result;
};
const meshOf = async (...chain: Chain): Promise<Mesh> => ok((await runChain(chain)).last).outputs['mesh'] as Mesh;
const whole = (mesh: Mesh): Mesh => {
  const { pointOf, count } = placesOfMesh(mesh);
  return { ...mesh, pointOf, pointCount: count };
};
/** Points, edges and faces, and how many edges have other than two faces. */
const counts = (mesh: Mesh): { vef: number[]; open: number } => {
  const joined = whole(mesh);
  const edges = edgesOf(joined);
  return { vef: [joined.pointCount, edges.count, faceCount(mesh)], open: edges.sides.subarray(0, edges.count).filter((n) => n !== 2).length };
};
const has = (mesh: Mesh, place: readonly number[]): boolean =>
  Array.from({ length: mesh.positions.length / 3 }, (_, i) => [0, 1, 2].every((k) => Math.abs(mesh.positions[i * 3 + k] - place[k]) < 1e-6)).some(Boolean);

describe('Refine', () => {
  test('Catmull–Clark on a cube and on an open grid: counts, first places and limits (reference cases LF-O-04, LF-O-05)', async () => {
    const cube = reference('LF-O-04').expected as Record<string, { value: number[] }>;
    const box: Chain[number] = ['lay.box', { size: [2, 2, 2] }];
    const all = await Promise.all([0, 1, 2, 3, 4, 5].map((times) => meshOf(box, ['mesh.refine', { scheme: 'catmullClark', times }])));
    expectReference(all.map((mesh) => counts(mesh).vef), reference('LF-O-04').expected['counts_VEF']); // prettier-ignore
    for (const name of ['step1_corner(1,1,1)', 'step1_edge(1,1,0)', 'step1_face(0,0,-1)']) expect([name, has(all[1], cube[name].value)]).toEqual([name, true]);
    // Five times is a thirty-second of the way to the limit.
    const near = (place: number[]): number =>
      Math.min(...Array.from({ length: all[5].positions.length / 3 }, (_, i) => Math.hypot(...place.map((value, k) => all[5].positions[i * 3 + k] - value))));
    for (const name of ['limit_corner', 'limit_edge(1,1,0)', 'limit_face(0,0,-1)']) expect(near(cube[name].value)).toBeLessThan(0.003);

    const raised: Chain = [['lay.grid', { size: [2, 2], divisions: 2 }], ['shape.displace', { pattern: 'vector', amount: { formula: 'x * x + z * z < 0.1 ? 1 : 0' } }], ['shape.transform', { move: [1, 0, 1] }]]; // prettier-ignore
    const grids = await Promise.all([0, 1, 2, 3, 4].map((times) => meshOf(...raised, ['mesh.refine', { scheme: 'catmullClark', times }])));
    expectReference(grids.map((mesh) => counts(mesh).vef), reference('LF-O-05').expected['counts_VEF']); // prettier-ignore
    expect(has(grids[1], [1, 0.5625, 1])).toBe(true);
    expect([has(grids[1], [0, 0, 0]), has(grids[1], [1, 0, 0])]).toEqual([true, true]);
    const round = await meshOf(...raised, ['mesh.refine', { scheme: 'catmullClark', keepCorners: false }]);
    expect([has(round, [0, 0, 0]), has(round, [0.125, 0, 0.125])]).toEqual([false, true]);
  });

  test('Loop on a regular mesh: first places, and a limit on the sphere’s own scale; what is in a plane stays there', async () => {
    // An octahedron of edge vertices ±1: every point has four neighbours, so β = (5/8 − (3/8)²) / 4 (Loop 1987).
    const octahedron = await meshOf(['lay.sphere', { kind: 'rings', divisions: 2 }], ['mesh.refine', { scheme: 'triangles' }]);
    expect(counts(octahedron).open).toBe(0);
    const flat = await meshOf(['lay.grid', { divisions: 3 }], ['mesh.refine', { scheme: 'triangles', times: 2 }]);
    expect(Math.max(...flat.positions.filter((_, i) => i % 3 === 1).map(Math.abs))).toBe(0);
    const { results } = await runGraph({ ico: ['lay.sphere', { divisions: 2 }], fine: ['mesh.refine', { scheme: 'triangles', times: 4 }] }, [
      'ico.mesh > fine.mesh',
    ]);
    const ball = ok(results['fine']).outputs['mesh'] as Mesh;
    // A point of the icosahedron (five neighbours on a ring) goes to 1 − 5β of itself and 5β of the mean of its ring, over and over: the limit weight of the point is 1 / (1 + 5 · 8/3 · β) (common practice).
    const start = ok(results['ico']).outputs['mesh'] as Mesh;
    const places = Array.from({ length: start.positions.length / 3 }, (_, i) => [...start.positions.subarray(i * 3, i * 3 + 3)]);
    const beside = places.filter((p) => Math.abs(Math.hypot(...p.map((value, k) => value - start.positions[k])) - 0.5465) < 0.02);
    // Seams have a place more than once.
    const ring = [...new Map(beside.map((p) => [p.map((value) => value.toFixed(4)).join(), p])).values()];
    expect(ring.length).toBe(5);
    const beta = (5 / 8 - (3 / 8 + Math.cos((2 * Math.PI) / 5) / 4) ** 2) / 5;
    const weight = 1 / (1 + (5 * 8 * beta) / 3);
    const limit = [0, 1, 2].map((k) => weight * start.positions[k] + (1 - weight) * (ring.reduce((sum, p) => sum + p[k], 0) / ring.length));
    const away = Math.min(
      ...Array.from({ length: ball.positions.length / 3 }, (_, i) => Math.hypot(...limit.map((value, k) => ball.positions[i * 3 + k] - value))),
    );
    expect(away).toBeLessThan(0.004);
  });

  test('flat: four times the faces, the same surface', async () => {
    for (const [source, faces] of [
      [['lay.box', { size: [1, 2, 3] }], 24],
      [['lay.sphere', {}], 1280],
      [['lay.cylinder', { sides: 6 }], 36],
    ] as const) {
      // prettier-ignore
      const mesh = await meshOf(source as Chain[number], ['mesh.refine', {}]);
      const before = await meshOf(source as Chain[number]);
      expect([faceCount(mesh), counts(mesh).open]).toEqual([faces, 0]);
      expect(signedVolume(mesh)).toBeCloseTo(signedVolume(before), 5);
    }
  });

  test('where only some faces are divided there are no cracks, whichever they are and however often', () =>
    fc.assert(
      fc.asyncProperty(
        fc.constantFrom('flat', 'catmullClark', 'triangles'),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 2 }),
        fc.constantFrom('lay.box', 'lay.sphere', 'lay.cylinder'),
        async (scheme, share, times, type) => {
          const { results } = await runGraph(
            { body: [type, { divisions: 3, sides: 8 }].map((each) => (typeof each === 'object' ? Object.fromEntries(Object.entries(each).filter(([key]) => (type === 'lay.cylinder') === (key === 'sides'))) : each)) as [string, Record<string, unknown>], mark: ['mesh.mark', { by: 'chance', share }], fine: ['mesh.refine', { scheme, times, where: { attribute: 'mark' } }] }, // prettier-ignore
            ['body.mesh > mark.any', 'mark.any > fine.mesh'],
          );
          const mesh = ok(results['fine']).outputs['mesh'] as Mesh;
          expect(counts(mesh).open).toBe(0);
          const [v, e, f] = counts(mesh).vef;
          expect(v - e + f).toBe(2);
          expect(mesh.positions.every(Number.isFinite)).toBe(true);
          if (scheme === 'flat') expect(signedVolume(mesh)).toBeCloseTo(signedVolume(results['body'].outputs['mesh'] as Mesh), 4);
        },
      ),
      { numRuns: 15 },
    ));

  test('UVs are divided straight and seams stay; values of faces go to their pieces', async () => {
    const mesh = await meshOf(['skin.tube', {}].length ? ['lay.cylinder', { sides: 8 }] : ['lay.box', {}], ['mesh.refine', { scheme: 'catmullClark' }]); // prettier-ignore
    const before = await meshOf(['lay.cylinder', { sides: 8 }]);
    const range = (of: Mesh): number[] => {
      const uv = of.attributes.get('uv')!.data;
      return [0, 1].flatMap((k) => [Math.min(...uv.filter((_, i) => i % 2 === k)), Math.max(...uv.filter((_, i) => i % 2 === k))]);
    };
    range(mesh).forEach((value, i) => expect(value).toBeCloseTo(range(before)[i], 5));
    expect(new Set(mesh.attributes.get('part')!.data)).toEqual(new Set(before.attributes.get('part')!.data));
  });

  test('nothing is done no times, and too much is refused before memory is spent', async () => {
    expect(faceCount(await meshOf(['lay.box', {}], ['mesh.refine', { times: 0 }]))).toBe(6);
    expect(
      (
        await runChain([
          ['lay.sphere', { divisions: 100 }],
          ['mesh.refine', { times: 10 }],
        ])
      ).last.error?.message,
    ).toMatch(/the limit is/);
  });
});
