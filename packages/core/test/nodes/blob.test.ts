import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { connectedParts, edgesOf, faceCount, placesOfMesh, signedVolume, type Mesh, type NodeResult } from '../../src/index.js';
import { runGraph } from '../graph.js';

const blob = async (centres: readonly (readonly number[])[], settings: Record<string, unknown>): Promise<{ mesh: Mesh; result: NodeResult }> => {
  const { results } = await runGraph(
    { points: ['lay.drawn', { kind: 'straight', curves: centres.map((p) => ({ points: [p] })) }], blob: ['lay.blob', settings] },
    ['points.curves > blob.points'],
  );
  const result = results['blob'];
  return { mesh: result.outputs['mesh'] as Mesh, result };
};
const topology = (mesh: Mesh): { open: number; euler: number; parts: number } => {
  const { pointOf, count } = placesOfMesh(mesh);
  const joined = { ...mesh, pointOf, pointCount: count };
  const edges = edgesOf(joined);
  return {
    open: edges.sides.subarray(0, edges.count).filter((n) => n !== 2).length,
    euler: count - edges.count + faceCount(mesh),
    parts: connectedParts(joined).count,
  };
};

describe('Blob', () => {
  test('one ball is a ball: volume, Euler number, every edge in two faces, triangles that look outwards', async () => {
    for (const even of [false, true]) {
      const { mesh } = await blob([[0.3, 0.2, -0.1]], { radius: 1, cell: 0.08, blend: 0, even });
      expect(topology(mesh)).toEqual({ open: 0, euler: 2, parts: 1 });
      expect(signedVolume(mesh) / ((4 / 3) * Math.PI)).toBeCloseTo(1, 1);
    }
  });

  test('two balls that only meet have the volume of two caps less; with a blend more; far apart they are two bodies', async () => {
    // Two balls of 1 m, 1 m apart: the lens they share is 5π/12 (closed form of the spherical cap).
    const { mesh } = await blob([[0, 0, 0], [1, 0, 0]], { radius: 1, cell: 0.06, blend: 0 }); // prettier-ignore
    expect(signedVolume(mesh)).toBeCloseTo((8 / 3) * Math.PI - (5 / 12) * Math.PI, 1);
    const soft = await blob([[0, 0, 0], [1, 0, 0]], { radius: 1, cell: 0.06, blend: 0.2 }); // prettier-ignore
    expect(signedVolume(soft.mesh)).toBeGreaterThan(signedVolume(mesh));
    const two = await blob([[0, 0, 0], [5, 0, 0]], { radius: 1, cell: 0.15 }); // prettier-ignore
    expect(topology(two.mesh)).toEqual({ open: 0, euler: 4, parts: 2 });
  });

  test('a ring of balls has a hole', async () => {
    const ring = Array.from({ length: 12 }, (_, i) => [Math.cos((i * Math.PI) / 6), 0, Math.sin((i * Math.PI) / 6)]);
    expect(topology((await blob(ring, { radius: 0.35, cell: 0.07 })).mesh)).toEqual({ open: 0, euler: 0, parts: 1 });
  });

  test('whatever the balls are, the skin is shut, finite and looks outwards', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.integer({ min: -10, max: 10 }), fc.integer({ min: -10, max: 10 }), fc.integer({ min: -10, max: 10 })), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.boolean(),
        async (at, even) => {
          const { mesh } = await blob(at.map((p) => p.map((value) => value / 10)), { radius: { formula: '0.2 + 0.2 * random(1)' }, cell: 0.1, even }); // prettier-ignore
          const { open, euler, parts } = topology(mesh);
          expect(open).toBe(0);
          expect(euler % 2).toBe(0);
          expect(euler).toBeLessThanOrEqual(parts * 2);
          expect(signedVolume(mesh)).toBeGreaterThan(0);
        },
      ),
      { numRuns: 15 },
    ));

  test('too small a cell is refused before memory is spent; no points give no mesh', async () => {
    expect((await blob([[0, 0, 0]], { cell: 0.0001 })).result.error?.message).toMatch(/the limit is/); // prettier-ignore
  });
});
