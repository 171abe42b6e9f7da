import { describe, expect, test } from 'vitest';
import { edgesOf, faceCount, newHit, placesOfMesh, surfaceOf, triangleCount, type Mesh, type NodeResult } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Node = [string, Record<string, unknown>];
const reduced = async (body: Node, settings: Record<string, unknown>): Promise<{ mesh: Mesh; before: Mesh; result: NodeResult }> => {
  const { results } = await runGraph({ body, less: ['mesh.reduce', settings] }, ['body.mesh > less.mesh']);
  const result = results['less'];
  if (result.error) throw new Error(result.error.message);
  return { mesh: result.outputs['mesh'] as Mesh, before: results['body'].outputs['mesh'] as Mesh, result };
};
const openEdges = (mesh: Mesh): number => {
  const { pointOf, count } = placesOfMesh(mesh);
  const table = edgesOf({ ...mesh, pointOf, pointCount: count });
  return table.sides.subarray(0, table.count).filter((n) => n !== 2).length;
};
const ball: Node = ['lay.sphere', { divisions: 40 }];

describe('Reduce', () => {
  test('to a share, or to a number; the surface stays shut and near, and a share of 1 changes nothing', async () => {
    const { mesh, before } = await reduced(ball, { ratio: 0.1 });
    expect(Math.abs(triangleCount(mesh) / triangleCount(before) - 0.1)).toBeLessThan(0.01);
    expect(openEdges(mesh)).toBe(0);
    const surface = surfaceOf(before);
    for (let i = 0; i < mesh.positions.length; i += 3)
      expect(surface.nearest.nearest(mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2], newHit()).distance).toBeLessThan(1e-6);
    expect(Math.max(...mesh.corners)).toBe(mesh.positions.length / 3 - 1);
    const some = await reduced(ball, { triangles: 500 });
    expect(Math.abs(triangleCount(some.mesh) - 500)).toBeLessThan(6);
    const all = await reduced(ball, { ratio: 1 });
    expect(all.mesh).toBe(all.before);
  });

  test('no further than the greatest error; that it stopped is said', async () => {
    const { mesh, result } = await reduced(ball, { ratio: 0.001, maxError: 0.002 });
    expect(result.warnings[0].message).toMatch(/taking more away would put the surface more than 0.002 m off \(it is 0.001\d* m off\)|triangles are left/);
    const surface = surfaceOf(mesh);
    // The middle of a chord that is 2 mm off a ball of 1 m; twice that for corners that were moved to neither.
    for (let k = 0; k < 200; k++) {
      const [u, v] = [Math.acos(1 - (2 * (k + 0.5)) / 200), k * 2.39996];
      expect(surface.nearest.nearest(Math.sin(u) * Math.cos(v), Math.cos(u), Math.sin(u) * Math.sin(v), newHit()).distance).toBeLessThan(0.006);
    }
  });

  test('borders are held where asked; flat ground comes down to next to nothing', async () => {
    const grid: Node = ['lay.grid', { size: [4, 4], divisions: 20 }];
    const free = await reduced(grid, { ratio: 0.01 });
    expect(faceCount(free.mesh)).toBeLessThan(12);
    const held = await reduced(grid, { ratio: 0.01, keepBorder: true });
    expect(openEdges(held.mesh)).toBe(80);
  });

  test('UVs of points that stay are theirs; faces have the values of where they lie', async () => {
    const { mesh, before } = await reduced(['lay.cylinder', { radius: 0.5, height: 2, sides: 200 }], { ratio: 0.3 });
    const at = (of: Mesh, v: number): string =>
      [...of.positions.subarray(v * 3, v * 3 + 3), ...of.attributes.get('uv')!.data.subarray(v * 2, v * 2 + 2)].map((value) => value.toFixed(5)).join();
    const known = new Set(Array.from({ length: before.positions.length / 3 }, (_, v) => at(before, v)));
    for (let v = 0; v < mesh.positions.length / 3; v++) expect(known.has(at(mesh, v))).toBe(true);
    expect(new Set(mesh.attributes.get('part')!.data)).toEqual(new Set(before.attributes.get('part')!.data));
  });
});
