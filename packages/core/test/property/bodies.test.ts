/** Meshes made anew, against brute force: borders keep their length and corners, closed bodies stay closed, and no surface goes further off than was asked. */
import { describe, expect, test } from 'vitest';
import { edgesOf, faceCount, measure, newHit, placesOfMesh, surfaceOf, triangleCount, triangulate, type Mesh } from '../../src/index.js';
import { runChain, type Chain } from '../graph.js';

const meshOf = async (chain: Chain): Promise<Mesh> => {
  const { last } = await runChain(chain);
  if (last.error) throw new Error(last.error.message);
  return Object.values(last.outputs)[0] as Mesh;
};
const edgesAt = (mesh: Mesh): ReturnType<typeof edgesOf> => {
  const { pointOf, count } = placesOfMesh(mesh);
  return edgesOf({ ...mesh, pointOf, pointCount: count });
};
/** Edges that are not between two faces, Euler’s number, and how long the open edges are together. */
function borderOf(mesh: Mesh): { odd: number; euler: number; length: number } {
  const { sides, count, from, face } = edgesAt(mesh);
  const { pointOf } = placesOfMesh(mesh);
  let [odd, length] = [0, 0];
  const p = mesh.positions;
  for (let e = 0; e < count; e++) {
    if (sides[e] !== 2) odd++;
    if (sides[e] !== 1) continue;
    const f = face[e * 2];
    const at = from[e * 2];
    const size = mesh.corners.length / faceCount(mesh);
    const next = at + 1 < (f + 1) * size ? at + 1 : f * size;
    length += Math.hypot(...[0, 1, 2].map((k) => p[mesh.corners[at] * 3 + k] - p[mesh.corners[next] * 3 + k]));
  }
  return { odd, length, euler: new Set(mesh.corners.map((v) => pointOf[v])).size - count + faceCount(mesh) };
}

/** The greatest distance of random places of one surface from another: by area, ten a triangle. */
function farthest(from: Mesh, to: Mesh): number {
  const surface = surfaceOf(to);
  const { indices } = triangulate(from);
  const p = from.positions;
  let most = 0;
  let state = 12345;
  const random = (): number => (state = (state * 1103515245 + 12345) % 2 ** 31) / 2 ** 31;
  for (let i = 0; i < indices.length; i += 3)
    for (let k = 0; k < 10; k++) {
      const [u, v] = [Math.sqrt(random()), random()];
      const place = [0, 1, 2].map(
        (axis) => (1 - u) * p[indices[i] * 3 + axis] + u * (1 - v) * p[indices[i + 1] * 3 + axis] + u * v * p[indices[i + 2] * 3 + axis],
      );
      most = Math.max(most, surface.nearest.nearest(place[0], place[1], place[2], newHit()).distance);
    }
  return most;
}

describe('Even out', () => {
  for (const [name, chain, border] of [
    ['a sheet of a metre', [['lay.grid', { size: [1, 1], divisions: 4 }]], 4],
    ['a long sheet', [['lay.grid', { size: [3, 0.7], divisions: [9, 2] }]], 7.4],
    [
      'an L',
      [
        [
          'lay.drawn',
          {
            kind: 'straight',
            curves: [
              {
                points: [
                  [0, 0, 0],
                  [2, 0, 0],
                  [2, 0, 1],
                  [1, 0, 1],
                  [1, 0, 2],
                  [0, 0, 2],
                ],
                closed: true,
              },
            ],
          },
        ],
        ['skin.fill', {}],
      ],
      8,
    ],
    [
      'a star',
      [
        ['lay.polygon', { sides: 5, inner: 0.5, radius: 1 }],
        ['skin.fill', {}],
      ],
      0,
    ],
  ] as const)
    // prettier-ignore
    for (const edge of [0.05, 0.11])
      test(`${name}, edges of ${edge} m: the border is as long as it was, and its area too`, async () => {
        const given = await meshOf(chain as unknown as Chain);
        const made = await meshOf([...(chain as unknown as Chain), ['mesh.even', { edge }]]);
        const wanted = border || borderOf(given).length;
        expect(Math.abs(borderOf(made).length - wanted)).toBeLessThan(1e-3 * wanted);
        expect(measure({ mesh: made }).area).toBeCloseTo(measure({ mesh: given }).area, 3);
      });

  test('without an edge a body gets about 5,000 triangles, whatever its size', async () => {
    for (const radius of [0.01, 1, 300]) {
      const made = await meshOf([['lay.sphere', { radius }], ['mesh.even', {}]]); // prettier-ignore
      expect(Math.abs(triangleCount(made) / 5000 - 1)).toBeLessThan(0.15);
    }
  });
});

describe('Reduce', () => {
  for (const maxError of [0.02, 0.01, 0.003])
    test(`a ball comes no further off than ${maxError} m, both ways`, async () => {
      const given = await meshOf([['lay.sphere', { divisions: 30 }]]);
      const made = await meshOf([['lay.sphere', { divisions: 30 }], ['mesh.reduce', { ratio: 0.001, maxError }]]); // prettier-ignore
      expect(triangleCount(made)).toBeLessThan(triangleCount(given) / 2);
      expect(Math.max(farthest(given, made), farthest(made, given))).toBeLessThan(maxError * 1.02);
    });

  for (const [subject, ratio] of [
    ['gable', 0.3],
    ['gable', 0.1],
    ['seal', 0.3],
  ] as const)
    // prettier-ignore
    test(`a scan (${subject}) at ${ratio}: closed as it was, Euler’s number the same, or the node says so`, async () => {
      const scan: Chain = [['lay.scan', { subject, triangles: 60_000, seed: 4 }], ['mesh.parts', { keep: 'largest', count: 1 }]]; // prettier-ignore
      const given = await meshOf(scan);
      const { last } = await runChain([...scan, ['mesh.reduce', { ratio }]]);
      const made = last.outputs['mesh'] as Mesh;
      const [before, after] = [borderOf(given), borderOf(made)];
      if (!last.warnings.some(({ code }) => code === 'not-closed')) expect(after).toMatchObject({ odd: before.odd, euler: before.euler });
      else expect(after.odd).toBeGreaterThan(before.odd);
      expect(Math.abs(triangleCount(made) / triangleCount(given) - ratio)).toBeLessThan(0.03);
    });
});
