/** What a format can hold comes back, over random results. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curvesFromLists, faceCount, faceStart, makeMesh, makePoints, triangleCount, type Attribute, type Mesh } from '@filaxis/core';
import { readers, writers, type WriteOptions } from '../src/index.js';

/** Numbers of 32 bits of every size that places have. */
const number = fc.oneof(fc.float({ noNaN: true, min: -1000, max: 1000 }), fc.constantFrom(0, 0.1, -1 / 3, 1e-4, 123.456).map(Math.fround));
const row = (size: number): fc.Arbitrary<number[]> => fc.array(number, { minLength: size, maxLength: size });

/** Meshes of three to twelve points, triangles and quads, with UVs and a value at vertices; some points are two vertices. */
const meshes = fc
  .tuple(fc.array(row(6), { minLength: 3, maxLength: 12 }), fc.array(fc.tuple(fc.nat(), fc.boolean()), { minLength: 1, maxLength: 10 }), fc.boolean())
  .map(([points, faces, split]): Mesh => {
    const count = points.length;
    const vertices = split ? [...points.keys(), ...points.keys()] : [...points.keys()];
    const corners: number[] = [];
    const starts = [0];
    for (const [seed, quad] of faces) {
      const size = quad && count > 3 ? 4 : 3;
      for (let k = 0; k < size; k++) corners.push(((seed + k) % count) + (split && seed % 2 ? count : 0));
      starts.push(corners.length);
    }
    const values = (size: number, shift: number): Attribute => ({
      carrier: 'corner',
      size,
      data: Float32Array.from(
        { length: vertices.length * size },
        (_, i) => points[vertices[Math.floor(i / size)]][3 + (i % size)] + (i >= count * size ? shift : 0),
      ),
    });
    return makeMesh({
      positions: Float32Array.from(vertices.flatMap((p) => points[p].slice(0, 3))),
      pointOf: split ? Uint32Array.from(vertices) : null,
      pointCount: count,
      corners: Uint32Array.from(corners),
      faceStarts: Uint32Array.from(starts),
      attributes: new Map([
        ['uv', values(2, 1)],
        ['flow', values(1, 1)],
      ]),
    });
  });

/** What stands at every corner, face by face; numbers as the 32 bits they are, UVs to the rounding of turning them over. */
const said = (mesh: Mesh, names: readonly string[]): string[] =>
  Array.from({ length: faceCount(mesh) }, (_, f) =>
    Array.from({ length: faceStart(mesh, f + 1) - faceStart(mesh, f) }, (_, k) => {
      const v = mesh.corners[faceStart(mesh, f) + k];
      const of = (size: number, data: ArrayLike<number>): string =>
        Array.from({ length: size }, (_, i) => String(Number(data[v * size + i].toFixed(3)) + 0)).join(' ');
      return [of(3, mesh.positions), ...names.map((name) => of(mesh.attributes.get(name)!.size, mesh.attributes.get(name)!.data))].join(' | ');
    }).join(' / '),
  );

/** All that stands at any corner. */
const corners = (lines: readonly string[]): Set<string> => new Set(lines.join(' / ').split(' / '));

describe('meshes', () => {
  const polygons: [string, readonly string[], WriteOptions][] = [
    ['.json', ['uv', 'flow'], {}],
    ['.obj', ['uv'], {}],
    ['.ply', ['uv', 'flow'], {}],
    ['.ply', ['uv'], { welded: true }],
  ];
  for (const [ending, names, options] of polygons)
    test(`${ending}${options.welded ? ', welded' : ''}: places${names.map((name) => `, ${name}`).join('')} at every corner`, async () => {
      await fc.assert(
        fc.asyncProperty(meshes, async (mesh) => {
          const back = (await readers[ending](await writers[ending]({ mesh }, 'x', options))).mesh!;
          expect(said(back, names)).toEqual(said(mesh, names));
        }),
        { numRuns: 60 },
      );
    });
  const cut: [string, readonly string[]][] = [
    ['.glb', ['uv', 'flow']],
    ['.gltf', ['uv', 'flow']],
    ['.stl', []],
  ];
  for (const [ending, names] of cut)
    test(`${ending}: places${names.map((name) => `, ${name}`).join('')} at every corner of its triangles`, async () => {
      await fc.assert(
        fc.asyncProperty(meshes, async (mesh) => {
          const back = (await readers[ending](await writers[ending]({ mesh }, 'x'))).mesh!;
          expect(back.corners.length / 3).toBe(triangleCount(mesh));
          expect(corners(said(back, names))).toEqual(corners(said(mesh, names)));
        }),
        { numRuns: 40 },
      );
    });
});

test('curves: their points, how many there are and which are closed, in the formats that have lines', async () => {
  const lists = fc.array(fc.tuple(fc.array(row(3), { minLength: 3, maxLength: 6 }), fc.boolean()), { minLength: 1, maxLength: 5 });
  await fc.assert(
    fc.asyncProperty(lists, async (given) => {
      // Points at one place end a run of lines elsewhere.
      const apart = given.map(([points, closed], c) => [points.map(([x, y, z], i) => [x + i * 3000, y + c, z]), closed] as const);
      const curves = curvesFromLists(apart.map(([points]) => points), { closed: apart.map(([, closed]) => closed) }); // prettier-ignore
      for (const ending of ['.json', '.obj', '.glb', '.csv']) {
        const back = (await readers[ending](await writers[ending]({ curves }, 'x'))).curves!;
        expect([ending, [...back.positions], [...back.closed]]).toEqual([ending, [...curves.positions], [...curves.closed]]);
      }
    }),
    { numRuns: 40 },
  );
});

test('points with their values', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(row(5), { minLength: 1, maxLength: 9 }), async (rows) => {
      const pick = (from: number, size: number): Float32Array => Float32Array.from(rows.flatMap((each) => each.slice(from, from + size)));
      const points = makePoints(pick(0, 3), new Map([['lean', { carrier: 'point', size: 2, data: pick(3, 2) }]]));
      for (const ending of ['.json', '.ply', '.glb']) {
        const back = (await readers[ending](await writers[ending]({ points }, 'x'))).points!;
        expect([ending, [...back.positions], [...back.attributes.get('lean')!.data]]).toEqual([ending, [...points.positions], [...pick(3, 2)]]);
      }
    }),
    { numRuns: 40 },
  );
});
