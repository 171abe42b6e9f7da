import { describe, expect, test } from 'vitest';
import { connectedParts, edgesOf, faceCount, placesOfMesh, type Mesh } from '../../src/index.js';
import { runChain } from '../graph.js';

const scan = async (settings: Record<string, unknown>, ...more: [string, Record<string, unknown>][]): Promise<Mesh> => {
  const { last } = await runChain([['lay.scan', settings], ...more]);
  if (last.error) throw new Error(last.error.message);
  return last.outputs['mesh'] as Mesh;
};
const parts = (mesh: Mesh): number => connectedParts(mesh, placesOfMesh(mesh)).count;

describe('Simulated scan', () => {
  test.each(['seal', 'bollard', 'gable'])('%s: about as many triangles as asked, a shut body among scraps and floor', async (subject) => {
    const mesh = await scan({ subject, triangles: 30_000 });
    expect(Math.abs(faceCount(mesh) / 30_000 - 1)).toBeLessThan(0.4);
    expect(parts(mesh)).toBeGreaterThanOrEqual(14);
    const bare = await scan({ subject, triangles: 30_000, scraps: 0, floor: false });
    // The largest part is what was scanned, not the floor.
    expect(faceCount(await scan({ subject, triangles: 30_000 }, ['mesh.parts', { keep: 'largest' }]))).toBeGreaterThan(0.9 * faceCount(bare));
    const { pointOf, count } = placesOfMesh(bare);
    const edges = edgesOf({ ...bare, pointOf, pointCount: count });
    expect(edges.sides.subarray(0, edges.count).filter((n) => n !== 2).length).toBe(0);
  });

  test('cleaned by Parts, Centre and stand, and Reduce: one body, straight, on the floor, light', async () => {
    const mesh = await scan({ subject: 'bollard', triangles: 40_000 }, ['mesh.parts', { keep: 'largest' }], ['mesh.ground', { turn: 'longUp' }], ['mesh.reduce', { triangles: 4000 }]); // prettier-ignore
    expect(parts(mesh)).toBe(1);
    const along = (k: number): number[] => [...mesh.positions.filter((_, i) => i % 3 === k)];
    expect(Math.min(...along(1))).toBeCloseTo(0, 3);
    expect(Math.max(...along(1))).toBeCloseTo(0.76, 1);
    for (const k of [0, 2]) expect(Math.max(...along(k)) + Math.min(...along(k))).toBeCloseTo(0, 2);
    expect(Math.abs(faceCount(mesh) - 4000)).toBeLessThan(100);
  });

  test('the same seed, the same bytes; another, another scan', async () => {
    const [one, same, other] = await Promise.all([1, 1, 2].map((seed) => scan({ triangles: 3000, seed })));
    expect(one.positions).toEqual(same.positions);
    expect(one.positions).not.toEqual(other.positions);
  });
});
