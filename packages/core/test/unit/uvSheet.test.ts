import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Evaluator, joinMeshes, Plan, requireDocument, resultOf, uvSheet, type Mesh } from '../../src/index.js';

async function made(...nodes: readonly (readonly [type: string, settings: object])[]): Promise<Mesh> {
  const document = {
    format: 'filaxis-graph',
    version: 1,
    title: 'UV',
    nodes: nodes.map(([type, settings], i) => ({ id: `n${i}`, type, settings })),
    wires: nodes.slice(1).map(([type], i) => ({
      from: [`n${i}`, nodes[i][0].startsWith('lay.line') ? 'curves' : 'mesh'],
      to: [`n${i + 1}`, type.startsWith('skin') ? 'curves' : 'mesh'],
    })),
  };
  const run = await new Evaluator().run(new Plan(requireDocument(document)));
  return resultOf(run.nodes.get(`n${nodes.length - 1}`)).mesh!;
}

/** A sheet of 2 m by 1 m whose UVs are scaled by two factors from 0 to 1. */
async function sheet(u: number, v: number): Promise<Mesh> {
  const mesh = await made(['lay.grid', { size: [2, 1], divisions: 4 }]);
  const uv = mesh.attributes.get('uv')!;
  const data = uv.data.map((value, i) => value * (i % 2 ? v : u));
  return { ...mesh, attributes: new Map([...mesh.attributes, ['uv', { ...uv, data }]]) };
}

describe('the UV sheet', () => {
  test('a sheet with the proportions of its UVs is not stretched, and has their size to the metre', async () => {
    const { density, stretch, islands, overlapping } = uvSheet(await sheet(0.5, 0.25))!;
    for (const value of density) expect(value).toBeCloseTo(0.25, 5);
    for (const value of stretch) expect(value).toBeCloseTo(1, 4);
    expect([islands, Math.max(...overlapping)]).toEqual([1, 0]);
  });

  test('stretch is the ratio of the two ways, whatever their size', () =>
    fc.assert(
      fc.asyncProperty(fc.double({ min: 0.05, max: 20, noNaN: true }), fc.double({ min: 0.05, max: 20, noNaN: true }), async (u, v) => {
        const { density, stretch } = uvSheet(await sheet(u, v))!;
        // Along x 2 m become u, along z 1 m becomes v.
        const [along, across] = [u / 2, v];
        expect(stretch[3] / (Math.max(along, across) / Math.min(along, across))).toBeCloseTo(1, 3);
        expect(density[3] / Math.sqrt(along * across)).toBeCloseTo(1, 3);
      }),
      { numRuns: 20 },
    ));

  test('a mesh that is laid over itself overlaps everywhere, one beside itself nowhere', async () => {
    const one = await sheet(1, 1);
    const uv = one.attributes.get('uv')!;
    const beside = { ...one, attributes: new Map([...one.attributes, ['uv', { ...uv, data: uv.data.map((value, i) => value + (i % 2 ? 0 : 1.5)) }]]) };
    const over = uvSheet(joinMeshes([one, one]))!;
    expect(over.overlapping.every((each) => each === 1)).toBe(true);
    expect(over.islands).toBe(2);
    const apart = uvSheet(joinMeshes([one, beside]))!;
    expect(apart.overlapping.some((each) => each === 1)).toBe(false);
  });

  test('a capped tube has its wall and its two caps as islands, and every corner lies where its vertex does', async () => {
    const mesh = await made(['lay.line', {}], ['skin.tube', { radius: 0.1, caps: 'flat' }]);
    const { islands, island, places, corners, edges } = uvSheet(mesh)!;
    expect(islands).toBe(3);
    expect(Math.max(...island)).toBe(2);
    expect(places.length / 9).toBe(corners.length / 6);
    expect(edges.length / 4).toBe(mesh.corners.length);
    const known = new Set(Array.from({ length: mesh.positions.length / 3 }, (_, i) => mesh.positions.subarray(i * 3, i * 3 + 3).join()));
    for (let i = 0; i < places.length; i += 3) expect(known.has(places.subarray(i, i + 3).join())).toBe(true);
  });

  test('without UVs there is none', async () => {
    const mesh = await made(['lay.sphere', {}]);
    expect(uvSheet({ ...mesh, attributes: new Map() })).toBeNull();
  });
});
