import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { edgesOf, faceCount, newHit, placesOfMesh, signedVolume, surfaceOf, type Mesh, type NodeResult } from '../../src/index.js';
import { runGraph } from '../graph.js';

const ok = (result: NodeResult): NodeResult => {
  if (result.error) throw new Error(result.error.message);
  return result;
};
type Node = [string, Record<string, unknown>];
const evened = async (body: Node, settings: Record<string, unknown>): Promise<{ mesh: Mesh; before: Mesh }> => {
  const { results } = await runGraph({ body, even: ['mesh.even', settings] }, ['body.mesh > even.mesh']);
  return { mesh: ok(results['even']).outputs['mesh'] as Mesh, before: results['body'].outputs['mesh'] as Mesh };
};
/** Lengths of all edges, and how many edges have other than two faces. */
const edges = (mesh: Mesh): { lengths: number[]; open: number; euler: number } => {
  const { pointOf, count } = placesOfMesh(mesh);
  const table = edgesOf({ ...mesh, pointOf, pointCount: count });
  const lengths = Array.from({ length: table.count }, (_, e) => {
    const f = table.face[e * 2];
    const from = table.from[e * 2];
    const next = from + 1 < (f + 1) * 3 ? from + 1 : f * 3;
    return Math.hypot(...[0, 1, 2].map((k) => mesh.positions[mesh.corners[from] * 3 + k] - mesh.positions[mesh.corners[next] * 3 + k]));
  });
  return { lengths, open: table.sides.subarray(0, table.count).filter((n) => n !== 2).length, euler: count - table.count + faceCount(mesh) };
};
const within = (lengths: number[], edge: number): number => lengths.filter((each) => each >= 0.8 * edge && each <= 1.25 * edge).length / lengths.length;
const furthest = (mesh: Mesh, from: Mesh): number => {
  const surface = surfaceOf(from);
  const hit = newHit();
  let most = 0;
  for (let f = 0; f < faceCount(mesh); f++) {
    const middle = [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, j) => sum + mesh.positions[mesh.corners[f * 3 + j] * 3 + k] / 3, 0));
    most = Math.max(most, surface.nearest.nearest(middle[0], middle[1], middle[2], hit).distance);
  }
  return most;
};

describe('Even out', () => {
  test.each([
    ['a ball of long thin faces', ['lay.sphere', { kind: 'rings', divisions: 24 }], 0.1, 0.98],
    ['a cylinder', ['lay.cylinder', { radius: 0.5, height: 2, sides: 48 }], 0.1, 0.95],
    ['a box of six faces', ['lay.box', { size: [1, 2, 3] }], 0.15, 0.95],
    ['terrain', ['lay.terrain', { size: [20, 20], divisions: 40, height: 0.5 }], 0.4, 0.95],
  ] as const)('%s: most edges are within a quarter of the length asked, none is off the surface, nothing comes apart', async (_, body, edge, share) => {
    const { mesh, before } = await evened(body as unknown as Node, { edge, times: 8 });
    const { lengths, open, euler } = edges(mesh);
    expect(within(lengths, edge)).toBeGreaterThan(share);
    expect(furthest(mesh, before)).toBeLessThan(0.15 * edge);
    if (body[0] !== 'lay.terrain') {
      expect([open, euler]).toEqual([0, 2]);
      expect(signedVolume(mesh) / signedVolume(before)).toBeCloseTo(1, 1);
    } else expect(euler).toBe(1);
  });

  test('a noisy scan, told that nothing of it is sharp', async () => {
    const { mesh } = await evened(['lay.scan', { triangles: 12_000, scraps: 0, floor: false }], { edge: 0.04, sharp: 180, times: 8 });
    expect(within(edges(mesh).lengths, 0.04)).toBeGreaterThan(0.97);
    expect(edges(mesh).open).toBe(0);
  });

  test('edges too short for the limits are refused before anything is made', async () => {
    const { results } = await runGraph({ body: ['lay.box', { size: [1, 1, 1] }], even: ['mesh.even', { edge: 0.0001 }] }, ['body.mesh > even.mesh']);
    // Six square metres in equilateral triangles, with half as many points: 6 ÷ (√3 ÷ 4 · 0.0001²) ÷ 2.
    expect(results['even'].error!.message).toMatch(/^This would make 692,8\d\d,\d{3} vertices; the limit is 20,000,000.$/);
  });

  test('sharp edges and corners of a box stay where they are', async () => {
    const { mesh } = await evened(['lay.box', { size: [1, 1, 1], divisions: 5 }], { edge: 0.12 });
    expect(signedVolume(mesh)).toBeCloseTo(1, 5);
    for (const corner of [[0.5, 0.5, 0.5], [-0.5, 0.5, -0.5]]) // prettier-ignore
      expect(Array.from({ length: mesh.positions.length / 3 }, (_, i) => corner.every((value, k) => Math.abs(mesh.positions[i * 3 + k] - value) < 1e-6)).some(Boolean)).toBe(true); // prettier-ignore
  });

  test('what is finer comes coarser and the other way round; values of faces are those of the place', async () => {
    const coarse = await evened(['lay.sphere', { divisions: 30 }], { edge: 0.4 });
    expect(faceCount(coarse.mesh)).toBeLessThan(300);
    expect([edges(coarse.mesh).open, edges(coarse.mesh).euler]).toEqual([0, 2]);
    const { mesh } = await evened(['lay.cylinder', { radius: 0.5, height: 2, sides: 48 }], { edge: 0.1 });
    const part = mesh.attributes.get('part')!.data;
    for (let f = 0; f < faceCount(mesh); f++) {
      const y = [0, 1, 2].reduce((sum, j) => sum + mesh.positions[mesh.corners[f * 3 + j] * 3 + 1] / 3, 0);
      if (Math.abs(y) < 0.99) expect(part[f]).toBe(0);
      if (Math.abs(y) > 0.9999) expect(part[f]).not.toBe(0);
    }
  });

  test('open, broken and folded meshes come through whole: finite, with no more borders than before', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 8, max: 40 }), async (seed, edge) => {
        const { results } = await runGraph(
          { body: ['lay.sphere', { divisions: 5 }], mark: ['mesh.mark', { by: 'chance', share: 60, seed }], some: ['mesh.keep', {}], even: ['mesh.even', { edge: edge / 100, times: 3 }] }, // prettier-ignore
          ['body.mesh > mark.any', 'mark.any > some.any', 'some.kept > even.mesh'],
        );
        const mesh = ok(results['even']).outputs['mesh'] as Mesh;
        expect(mesh.positions.every(Number.isFinite)).toBe(true);
        expect(faceCount(mesh)).toBeGreaterThan(0);
      }),
      { numRuns: 12 },
    ));
});
