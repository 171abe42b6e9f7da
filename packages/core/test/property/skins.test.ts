import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { faceCount, faceStart, measure, skinParts, triangulate, type Mesh } from '../../src/index.js';
import { measureChain, runChain } from '../graph.js';
import { places } from '../reference/reference.js';
import { points, sharpestTurn } from './arbitrary.js';

const normalsOf = (mesh: Mesh): number[][] => places(mesh.attributes.get('normal')!.data);

/** Signed areas of the triangles in the UV plane, with the part of each. */
function uvAreas(mesh: Mesh): { area: number; part: number }[] {
  const uv = mesh.attributes.get('uv')!.data;
  const part = mesh.attributes.get('part')!.data;
  const { indices, faceOf } = triangulate(mesh);
  return Array.from({ length: faceOf.length }, (_, i) => {
    const [a, b, c] = [indices[i * 3] * 2, indices[i * 3 + 1] * 2, indices[i * 3 + 2] * 2];
    return { area: ((uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[c] - uv[a]) * (uv[b + 1] - uv[a + 1])) / 2, part: part[faceOf[i]] };
  });
}

describe('tubes on any path', () => {
  const tubeOf = async (list: number[][], closed: boolean, settings: object): Promise<Mesh> =>
    (await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: list, closed }] }], ['skin.tube', { radius: 0.0005, sides: 7, ...settings }]])).mesh; // prettier-ignore

  test('normals are unit and point the way their faces do', () =>
    fc.assert(
      fc.asyncProperty(points(2, 6), fc.constantFrom('open', 'flat', 'domed'), async (list, caps) => {
        const { last, mesh } = await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: list }] }], ['skin.tube', { radius: 0.0005, sides: 7, caps }]]); // prettier-ignore
        // Where the section folds over itself the node says so, and faces lie inside out; sharper corners than 170° are cut short.
        if (last.warnings.length || sharpestTurn(list) > 170) return;
        const normals = normalsOf(mesh);
        for (const normal of normals) expect(Math.abs(Math.hypot(...normal) - 1)).toBeLessThan(1e-4);
        const { indices } = triangulate(mesh);
        const p = places(mesh.positions);
        for (let i = 0; i < indices.length; i += 3) {
          const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
          const [u, v] = [b, c].map((corner) => p[corner].map((value, k) => value - p[a][k]));
          const face = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
          const size = Math.hypot(...face);
          if (size < 1e-12) continue;
          for (const corner of [a, b, c]) expect(normals[corner].reduce((sum, value, k) => sum + (value * face[k]) / size, 0)).toBeGreaterThan(0);
        }
      }),
      { numRuns: 30 },
    ));

  test('UVs are finite, keep one orientation on the wall, and v never goes back', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), fc.boolean(), fc.constantFrom(0, 0.1), async (list, closed, uvScale) => {
        const mesh = await tubeOf(list, closed, { uvScale });
        const walls = uvAreas(mesh).filter(({ part }) => part === skinParts.wall);
        expect(walls.every(({ area }) => Number.isFinite(area) && area >= 0)).toBe(true);
        const v = Array.from(mesh.attributes.get('uv')!.data).filter((_, i) => i % 2 === 1);
        for (let i = 8; i < v.length; i++) expect(v[i]).toBeGreaterThanOrEqual(v[i - 8]);
      }),
      { numRuns: 30 },
    ));
});

describe('caps', () => {
  test('are marked as parts: one polygon each when flat; a dome of half the sphere’s area', async () => {
    const { mesh } = await runChain([['lay.line'], ['skin.tube', { radius: 0.3, sides: 48, caps: 'flat' }]]); // prettier-ignore
    const part = mesh.attributes.get('part')!.data;
    expect([skinParts.capStart, skinParts.capEnd].map((which) => part.filter((value) => value === which).length)).toEqual([1, 1]);
    const open = await measureChain([['lay.line'], ['skin.tube', { radius: 0.3, sides: 96 }]]); // prettier-ignore
    const domed = await measureChain([['lay.line'], ['skin.tube', { radius: 0.3, sides: 96, caps: 'domed' }]]); // prettier-ignore
    // Two half spheres: 4πr², a little less for flat pieces.
    expect((domed.area - open.area) / (4 * Math.PI * 0.09)).toBeGreaterThan(0.995);
    expect((domed.area - open.area) / (4 * Math.PI * 0.09)).toBeLessThan(1);
    expect(domed.bounds!.max[0]).toBeCloseTo(1.3, 5);
  });

  test('cap UVs turn the same way as the wall’s, so that nothing is mirrored', async () => {
    const { mesh } = await runChain([['lay.line'], ['skin.tube', { radius: 0.3, caps: 'flat' }]]); // prettier-ignore
    for (const { area } of uvAreas(mesh)) expect(area).toBeGreaterThan(0);
  });

  test('a radius that runs out to 0 closes on one point: a cone of volume πr²h/3', async () => {
    const cone = await measureChain([['lay.line', { points: 12 }], ['skin.tube', { radius: { ramp: [[0, 0.5], [1, 0]] }, sides: 128, caps: 'flat' }]]); // prettier-ignore
    expect(cone.volume / ((Math.PI * 0.25) / 3)).toBeCloseTo(1, 2);
    expect(cone).toMatchObject({ boundaryEdges: 0, euler: 2, degenerateFaces: 0 });
    const spindle = await measureChain([['lay.line', { points: 9 }], ['skin.tube', { radius: { ramp: [[0, 0], [0.5, 0.2], [1, 0]] }, sides: 8 }]]); // prettier-ignore
    expect(spindle).toMatchObject({ boundaryEdges: 0, euler: 2, vertices: 7 * 8 + 2 });
  });
});

test('every k-th point gets a ring, and the last', async () => {
  const rings = async (ringStep: number): Promise<number> => (await measureChain([['lay.line', { points: 11 }], ['skin.tube', { radius: 0.02, sides: 4, ringStep }]])).vertices / 4; // prettier-ignore
  expect([await rings(1), await rings(2), await rings(3), await rings(4), await rings(100)]).toEqual([11, 6, 5, 4, 2]);
});

test('smooth drawn curves are swept finely, straight ones as they are', async () => {
  const corner = [[0, 0, 0], [1, 0, 0], [1, 1, 0]]; // prettier-ignore
  const vertices = async (kind: string): Promise<number> => (await measureChain([['lay.drawn', { kind, curves: [{ points: corner }] }], ['skin.tube', { radius: 0.02, sides: 6 }]])).vertices / 6; // prettier-ignore
  expect(await vertices('straight')).toBe(3);
  expect(await vertices('through')).toBeGreaterThan(12);
  expect(await vertices('bspline')).toBeGreaterThan(8);
});

test('frames turn the section: a square tube twisted by a quarter ends as it began, turned', async () => {
  const { mesh } = await runChain([['lay.line', { points: 2 }], ['aim.frames', { twist: 45 }], ['skin.tube', { radius: 0.1, sides: 4 }]]); // prettier-ignore
  const [first, last] = [places(mesh.positions).slice(0, 4), places(mesh.positions).slice(5, 9)];
  expect(first[0][1]).toBeCloseTo(0.1, 6);
  expect(last[0][1]).toBeCloseTo(0.1 * Math.SQRT1_2, 6);
  expect(faceCount(mesh)).toBe(4);
  expect(faceStart(mesh, 4)).toBe(16);
});

test('ropes: the strands’ meshes are watertight for any number, lay and hand', () =>
  fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1, max: 7 }),
      fc.double({ min: 0.05, max: 0.6, noNaN: true }),
      fc.constantFrom('left', 'right'),
      fc.boolean(),
      async (strands, layLength, hand, core) => {
        const { mesh } = await runChain([['lay.line', { to: [0.5, 0, 0] }], ['skin.rope', { strands, layLength, hand, core, sides: 5, ringsPerTurn: 8, caps: 'flat' }]]); // prettier-ignore
        const figures = measure({ mesh });
        expect(figures.boundaryEdges).toBe(0);
        expect(figures.parts).toBe(strands + (core && strands > 2 ? 1 : 0));
        expect(figures.volume).toBeGreaterThan(0);
      },
    ),
    { numRuns: 25 },
  ));
