import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { faceCount, makeMesh, measure, signedArea, triangulate, weldPoints, type Mesh } from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';
import { points, sharpestTurn } from './arbitrary.js';

/** A star-shaped outline about the origin from a radius for each corner: it never crosses itself. */
const outline = fc
  .array(fc.double({ min: 0.4, max: 1, noNaN: true }), { minLength: 3, maxLength: 12 })
  .map((radii) => radii.map((r, i): [number, number] => [r * Math.cos((2 * Math.PI * i) / radii.length), r * Math.sin((2 * Math.PI * i) / radii.length)]));

/** An outline of four corners that is dented at one of them, more often than not. */
const dart = fc.tuple(fc.double({ min: 0.1, max: 0.6, noNaN: true }), fc.integer({ min: 0, max: 3 })).map(([r, first]) => {
  const corners = [0, 60, 120, 240].map((angle, i): [number, number] => {
    const size = i === 1 ? r : 1;
    return [size * Math.cos((angle * Math.PI) / 180), size * Math.sin((angle * Math.PI) / 180)];
  });
  return [...corners.slice(first), ...corners.slice(0, first)];
});

const flat = (list: readonly (readonly number[])[], scale = 1): number[][] => list.map(([x, y]) => [x * scale, y * scale, 0]);
const shoelace = (list: readonly (readonly number[])[]): number => signedArea(list.flat());

async function swept(path: Chain[number], profile: Chain[number], settings: Record<string, unknown> = {}): Promise<{ mesh: Mesh; warned: boolean }> {
  const { results } = await runGraph({ path, profile, sweep: ['skin.sweep', { caps: 'flat', ...settings }] }, [
    'path.curves > sweep.curves',
    'profile.curves > sweep.profile',
  ]);
  const { error, outputs, warnings } = results['sweep'];
  if (error) throw new Error(error.message);
  return { mesh: outputs['mesh'] as Mesh, warned: warnings.length > 0 };
}

/** Least cosine between a face and the normals at its corners, over faces that have an area. */
function leastAgreement(mesh: Mesh): number {
  const normals = places(mesh.attributes.get('normal')!.data);
  const p = places(mesh.positions);
  const { indices } = triangulate(mesh);
  let least = 1;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
    const [u, v] = [b, c].map((corner) => p[corner].map((value, k) => value - p[a][k]));
    const face = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...face);
    if (size < 1e-9) continue;
    for (const corner of [a, b, c]) least = Math.min(least, normals[corner].reduce((sum, value, k) => sum + (value * face[k]) / size, 0)); // prettier-ignore
  }
  return least;
}

test('faces of three to twelve corners, in any plane, are cut into triangles that face as they do and cover them (Meisters 1975: two fewer than corners)', () =>
  fc.assert(
    fc.property(fc.array(fc.oneof(outline, dart), { minLength: 1, maxLength: 4 }), fc.double({ min: -3, max: 3, noNaN: true }), (lists, turn) => {
      const [cosine, sine] = [Math.cos(turn), Math.sin(turn)];
      const positions = Float32Array.from(lists.flat().flatMap(([x, y]) => [x, cosine * y, sine * y]));
      const faceStarts = Uint32Array.from([0, ...lists].map((_, f) => lists.slice(0, f).reduce((sum, list) => sum + list.length, 0)));
      const mesh = makeMesh({ positions, corners: Uint32Array.from({ length: positions.length / 3 }, (_, i) => i), faceStarts });
      const { indices, faceOf } = triangulate(mesh);
      const areas = lists.map(() => 0);
      for (let i = 0; i < indices.length; i += 3) {
        const area = shoelace([0, 1, 2].map((k) => lists.flat()[indices[i + k]]));
        expect(area).toBeGreaterThan(-1e-6);
        areas[faceOf[i / 3]] += area;
      }
      areas.forEach((area, f) => expect(area).toBeCloseTo(shoelace(lists[f]), 5));
    }),
    { numRuns: 300 },
  ));

describe('sweeps of any outline along any path', () => {
  test('are closed, face outwards, and hold area × length when mitred (Pappus for straight pieces; derived)', () =>
    fc.assert(
      fc.asyncProperty(outline, points(2, 5), async (list, path) => {
        if (sharpestTurn(path) > 150) return;
        const { mesh, warned } = await swept(drawn(path), drawn(flat(list, 0.002), true));
        if (warned) return;
        const figures = measure({ mesh });
        expect(figures).toMatchObject({ boundaryEdges: 0, nonManifoldEdges: 0, euler: 2 });
        const length = path.slice(1).reduce((sum, p, i) => sum + Math.hypot(...p.map((value, k) => value - path[i][k])), 0);
        // Round an outline whose middle is not the path, corners add or take a little.
        expect(figures.volume / (shoelace(list) * 0.002 ** 2 * length)).toBeGreaterThan(0.9);
        expect(figures.volume / (shoelace(list) * 0.002 ** 2 * length)).toBeLessThan(1.1);
        expect(leastAgreement(mesh)).toBeGreaterThan(0);
      }),
      { numRuns: 40 },
    ));

  test('closed paths give rings: no end, no border, v from 0 to the whole', () =>
    fc.assert(
      fc.asyncProperty(outline, fc.integer({ min: 8, max: 40 }), async (list, count) => {
        const { mesh } = await swept(['lay.circle', { radius: 3, points: count }], drawn(flat(list, 0.3), true));
        const figures = measure({ mesh });
        expect(figures).toMatchObject({ boundaryEdges: 0, euler: 0, faces: count * list.length });
        expect(figures.volume).toBeGreaterThan(0);
        expect([figures.uv!.min[1], figures.uv!.max[1]]).toEqual([0, 1]);
      }),
      { numRuns: 25 },
    ));

  test('the profile’s direction, start and plane do not change the volume', () =>
    fc.assert(
      fc.asyncProperty(outline, fc.integer({ min: 0, max: 11 }), fc.boolean(), async (list, shift, back) => {
        const turned = [...list.slice(shift % list.length), ...list.slice(0, shift % list.length)];
        if (back) turned.reverse();
        const volumes = [list, turned].map(
          async (each) => measure({ mesh: (await swept(['lay.line', { to: [0, 0, 2] }], drawn(flat(each), true))).mesh }).volume,
        );
        const [a, b] = await Promise.all(volumes);
        expect(a).toBeCloseTo(2 * shoelace(list), 4);
        expect(b).toBeCloseTo(a, 4);
      }),
      { numRuns: 25 },
    ));
});

describe('fills and extrusions', () => {
  test('a fill has the area of its outline, less that of its holes, in any plane', () =>
    fc.assert(
      fc.asyncProperty(
        outline,
        fc.double({ min: 0.05, max: 0.38, noNaN: true }),
        fc.tuple(fc.integer({ min: -90, max: 90 }), fc.integer({ min: -90, max: 90 })),
        async (list, hole, [x, z]) => {
          const area = Math.abs(shoelace(list));
          // A hole that stays inside: least reach of a star-shaped outline of n corners.
          const inside = hole * 0.4 * Math.cos(Math.PI / list.length);
          const curves = [flat(list), flat(list.map(([a, b]) => [(a / Math.hypot(a, b)) * inside, (b / Math.hypot(a, b)) * inside]))];
          const turn = ['shape.transform', { turn: [x, 0, z] }] as const;
          const start = ['lay.drawn', { kind: 'straight', curves: curves.map((points) => ({ points, closed: true })) }] as const;
          const { mesh } = await runChain([start, turn, ['skin.fill']]);
          const ring = Math.abs(shoelace(curves[1].map(([a, b]) => [a, b])));
          expect(measure({ mesh }).area).toBeCloseTo(area - ring, 4);
          expect(leastAgreement(mesh)).toBeGreaterThan(0.999);
          const solid = await runChain([start, turn, ['pace.closeOpen'], ['skin.extrude', { distance: 0.7 }]]);
          expect(measure({ mesh: solid.mesh })).toMatchObject({ boundaryEdges: 0, nonManifoldEdges: 0, euler: 0 });
          expect(measure({ mesh: solid.mesh }).volume).toBeCloseTo((area - ring) * 0.7, 4);
        },
      ),
      { numRuns: 40 },
    ));

  test('a negative distance, both ways and rows of walls keep a solid closed and facing outwards', () =>
    fc.assert(
      fc.asyncProperty(
        outline,
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.boolean(),
        fc.integer({ min: 1, max: 5 }),
        async (list, distance, both, wallRows) => {
          if (Math.abs(distance) < 0.01) return;
          const { mesh } = await runChain([drawn(flat(list), true), ['skin.extrude', { distance, towards: both ? 'bothWays' : 'oneWay', wallRows }]]);
          const figures = measure({ mesh });
          expect(figures).toMatchObject({ boundaryEdges: 0, euler: 2 });
          expect(figures.volume).toBeCloseTo(Math.abs(shoelace(list) * distance), 4);
        },
      ),
      { numRuns: 30 },
    ));
});

describe('lofts and tiles', () => {
  test('a loft between an outline and itself, moved, is a closed prism; its faces look outwards whichever way it was drawn', () =>
    fc.assert(
      fc.asyncProperty(outline, fc.boolean(), fc.integer({ min: 0, max: 4 }), async (list, back, across) => {
        const points = flat(back ? [...list].reverse() : list);
        const curves = [0, 1.5].map((z) => ({ points: points.map(([x, y]) => [x, y, z]), closed: true }));
        const { mesh } = await runChain([
          ['lay.drawn', { kind: 'straight', curves }],
          ['skin.loft', { caps: 'flat', across }],
        ]);
        const figures = measure({ mesh });
        expect(figures).toMatchObject({ boundaryEdges: 0, euler: 2 });
        expect(figures.volume).toBeCloseTo(Math.abs(shoelace(list)) * 1.5, 4);
      }),
      { numRuns: 30 },
    ));

  test('scales lie over the row above, their ends off the surface by the lift, and leave none of it bare', async () => {
    const sheet: Chain = [['lay.grid', { size: [4, 4], divisions: 4 }]];
    const { last } = await runChain([...sheet, ['skin.tiles', { shape: 'scale', around: 8, along: 6, lift: 0.1 }]]);
    expect(last.warnings.map(({ code }) => code).filter((code) => code !== 'degenerate')).toEqual([]);
    const heights = (last.outputs['mesh'] as Mesh).positions.filter((_, i) => i % 3 === 1);
    expect(Math.max(...heights)).toBeCloseTo(0.1, 5);
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(0);
    // Seen from above, each place lies under a scale, and between two rows under two.
    const flat = await runChain([...sheet, ['skin.tiles', { shape: 'scale', around: 8, along: 6, lift: 0 }]]);
    const { area } = measure({ mesh: flat.last.outputs['mesh'] as Mesh });
    expect(area).toBeGreaterThan(16 * 1.3);
    expect(area).toBeLessThan(16 * 1.6);
  });
  test('tiles of any shape and number that are cut at the border cover the surface once', () =>
    fc.assert(
      fc.asyncProperty(
        fc.constantFrom('rectangle', 'brick', 'triangle', 'hexagon', 'diamond'),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 12 }),
        async (shape, around, along) => {
          const sheet: Chain = [['lay.line', { to: [2, 0, 0], points: 3 }], ['shape.row', { count: 2, step: [0, 0, -3] }], ['skin.loft']];
          const { last } = await runChain([...sheet, ['skin.tiles', { shape, around, along }]]);
          const { area, boundaryEdges } = measure({ mesh: last.outputs['mesh'] as Mesh });
          // Slivers below 1 % of a tile are left out and told.
          expect(area / 6).toBeGreaterThan(last.warnings.length ? 0.97 : 0.9999);
          expect(area / 6).toBeLessThan(1.0001);
          expect(boundaryEdges).toBeGreaterThan(0);
        },
      ),
      { numRuns: 60 },
    ));
});

test('welding a faceted mesh makes it whole again', async () => {
  const { mesh } = await runChain([
    ['lay.line', { points: 4 }],
    ['skin.tube', { radius: 0.2, sides: 6, caps: 'flat' }],
    ['mesh.normals', { style: 'faceted' }],
  ]);
  expect(faceCount(mesh)).toBe(20);
  const apart: Mesh = { ...mesh, pointOf: null, pointCount: mesh.positions.length / 3 };
  expect(measure({ mesh: apart }).parts).toBe(20);
  expect(measure({ mesh: weldPoints(apart, 1e-6) })).toMatchObject({ parts: 1, boundaryEdges: 0, euler: 2 });
});
