import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { box, curveLengths, icosphere, makeMesh, ringSphere, section, signedVolume, unbounded, type Curves, type CuttingPlane, type Mesh } from '../../src/index.js'; // prettier-ignore
import { drawn, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

type Step = Chain[number];

const level = (y: number): CuttingPlane => ({ origin: [0, y, 0], normal: [0, 1, 0] });
const listOf = (curves: Curves): number[][][] =>
  Array.from(curves.closed, (_, c) => places(curves.positions.subarray(curves.starts[c] * 3, curves.starts[c + 1] * 3)));

/** Area that closed curves bound about a direction, holes taken off. */
function bounded(curves: Curves, [nx, ny, nz]: readonly number[]): number {
  let sum = 0;
  for (const list of listOf(curves))
    list.forEach(([x, y, z], i) => {
      const [a, b, c] = list[(i + 1) % list.length];
      sum += (nx * (y * c - z * b) + ny * (z * a - x * c) + nz * (x * b - y * a)) / 2;
    });
  return sum;
}

describe('sections of a body', () => {
  test('lie on the plane, are closed, and hold the body’s volume when they are summed up over its height (Cavalieri)', () => {
    for (const mesh of [box([1, 2, 3], 3), icosphere(1, 6), ringSphere(1, 8)]) {
      const steps = 400;
      const [low, high] = [-1.001, 1.001];
      const planes = Array.from({ length: steps }, (_, i) => level(low + ((i + 0.5) / steps) * (high - low)));
      const curves = section(mesh, planes, unbounded);
      expect(curves.closed.every((value) => value === 1)).toBe(true);
      const plane = curves.attributes.get('plane')!.data;
      listOf(curves).forEach((list, c) => list.forEach(([, y]) => expect(y).toBeCloseTo(planes[plane[c]].origin[1], 6)));
      const sum = (bounded(curves, [0, 1, 0]) * (high - low)) / steps;
      expect(sum / signedVolume(mesh)).toBeCloseTo(1, 2);
    }
  });

  test('any plane through any body: closed, on the plane, counter-clockwise about its normal, one outline a convex body', () => {
    const number = fc.double({ min: -1, max: 1, noNaN: true });
    const bodies = [box([1.4, 1, 2], 2), icosphere(1, 4), ringSphere(0.9, 5)];
    fc.assert(
      fc.property(fc.nat(2), fc.tuple(number, number, number), fc.tuple(number, number, number), (which, origin, way) => {
        const mesh = bodies[which];
        const size = Math.hypot(...way);
        if (size < 0.1) return;
        const normal = way.map((value) => value / size) as [number, number, number];
        const curves = section(mesh, [{ origin, normal }], unbounded);
        expect(curves.closed.length).toBeLessThanOrEqual(1);
        for (const list of listOf(curves))
          for (const p of list) expect(Math.abs(p.reduce((sum, value, k) => sum + (value - origin[k]) * normal[k], 0))).toBeLessThan(2e-6);
        if (!curves.closed.length) return;
        expect(curves.closed[0]).toBe(1);
        expect(bounded(curves, normal)).toBeGreaterThan(0);
      }),
      { numRuns: 300 },
    );
  });

  test('a box gives its sides’ places, where a plane through corners and along a face gives whole outlines too', () => {
    const cube = box([2, 2, 2], 1);
    const side = (y: number): number[][][] => listOf(section(cube, [level(y)], unbounded));
    expect(
      side(0.5)[0]
        .map((p) => p.map((value) => value + 0).join())
        .sort(),
    ).toEqual(['-1,0.5,-1', '-1,0.5,1', '1,0.5,-1', '1,0.5,1']);
    // A corner on the plane counts as above it.
    expect([side(1).length, side(-1).length, side(1.0001).length]).toEqual([1, 0, 0]);
    const diagonal = section(cube, [{ origin: [0, 0, 0], normal: [Math.SQRT1_2, 0, Math.SQRT1_2] }], unbounded);
    expect(curveLengths(diagonal)[0]).toBeCloseTo(2 * (2 + 2 * Math.SQRT2), 5);
  });

  test('a bent face is cut where its ears are', () => {
    // A prism over a dented outline, its floor and top whole faces.
    const outline = [[0, 0], [4, 0], [4, 3], [2, 1], [0, 3]]; // prettier-ignore
    const positions = Float32Array.from([0, 1].flatMap((z) => outline.flatMap(([x, y]) => [x, y, z])));
    const walls = outline.map((_, i) => [i, (i + 1) % 5, ((i + 1) % 5) + 5, i + 5]);
    const faces = [[4, 3, 2, 1, 0], [5, 6, 7, 8, 9], ...walls]; // prettier-ignore
    const starts = faces.reduce<number[]>((all, face) => [...all, all[all.length - 1] + face.length], [0]);
    const mesh = makeMesh({ positions, corners: Uint32Array.from(faces.flat()), faceStarts: Uint32Array.from(starts) });
    const curves = section(mesh, [{ origin: [0, 2, 0], normal: [0, 1, 0] }], unbounded);
    // Two horns, each one wide where the outline is two high.
    expect(curves.closed).toEqual(Uint8Array.of(1, 1));
    expect(bounded(curves, [0, 1, 0])).toBeCloseTo(2, 5);
  });
});

describe('Section by planes', () => {
  const ring = async (): Promise<Mesh> => {
    const { results } = await runGraph({ c: ['lay.circle', { radius: 2, points: 200 }], t: ['skin.tube', { radius: 0.5, sides: 48 }] }, [
      'c.curves > t.curves',
    ]);
    return results['t'].outputs['mesh'] as Mesh;
  };

  test('a ring cut level gives an outline and a hole, which run against each other; upright, two outlines', async () => {
    const flat = section(await ring(), [level(0.1)], unbounded);
    const r = Math.sqrt(0.25 - 0.01);
    const [outer, inner] = curveLengths(flat);
    expect([outer / (2 * Math.PI * (2 + r)), inner / (2 * Math.PI * (2 - r))]).toEqual([expect.closeTo(1, 2), expect.closeTo(1, 2)]);
    const areas = [0, 1].map((c) => bounded({ ...flat, starts: flat.starts.slice(c, c + 2), closed: flat.closed.slice(c, c + 1) }, [0, 1, 0]));
    expect([areas[0] > 0, areas[1] < 0]).toEqual([true, true]);
    const upright = section(await ring(), [{ origin: [0, 0, 0], normal: [1, 0, 0] }], unbounded);
    expect(Array.from(curveLengths(upright), (length) => length / Math.PI)).toEqual([expect.closeTo(1, 2), expect.closeTo(1, 2)]);
  });

  test('the offset takes outlines off the body and makes holes smaller', async () => {
    const { results } = await runGraph(
      { c: ['lay.circle', { radius: 2, points: 200 }], t: ['skin.tube', { radius: 0.5, sides: 48 }], p: ['lay.grid', {}], it: ['mesh.section', { offset: 0.1 }] },
      ['c.curves > t.curves', 't.mesh > it.mesh', 'p.mesh > it.planes'],
    ); // prettier-ignore
    const lengths = curveLengths(results['it'].outputs['curves'] as Curves);
    expect(Array.from(lengths, (length) => length / (2 * Math.PI))).toEqual([expect.closeTo(2.6, 2), expect.closeTo(1.4, 2)]);
  });

  test('several planes come in their order, each curve with its number; what does not meet the body is told', async () => {
    const { results } = await runGraph(
      { body: ['lay.box', { size: [1, 4, 1] }], line: drawn([[0, -1, 0], [0, 1, 0], [0, 9, 0]]), it: ['mesh.section', { squareTo: 'tangent' }] },
      ['line.curves > it.planes', 'body.mesh > it.mesh'],
    ); // prettier-ignore
    const curves = results['it'].outputs['curves'] as Curves;
    expect(Array.from(curves.attributes.get('plane')!.data)).toEqual([0, 1]);
    expect(listOf(curves).map(([[, y]]) => y)).toEqual([-1, 1]);
    expect(results['it'].warnings.map(({ message }) => message)).toEqual(['1 of 3 planes do not meet the body, the first of them plane 3.']);
  });

  test('a path cuts square to its tangents', async () => {
    const nodes: Record<string, Step> = { body: ['lay.cylinder', { radius: 0.5, height: 8 }], path: drawn([[0, -2, 0], [0, 0, 0], [0, 2, 0]]), it: ['mesh.section', { squareTo: 'tangent' }] }; // prettier-ignore
    const { results } = await runGraph(nodes, ['body.mesh > it.mesh', 'path.curves > it.planes']);
    const lengths = curveLengths(results['it'].outputs['curves'] as Curves);
    for (const length of lengths) expect(length).toBeCloseTo(24 * Math.sin(Math.PI / 24), 4);
    expect(lengths).toHaveLength(3);
  });

  test('each connected part of flat meshes is a plane, bent ones are told, an open body gives open curves', async () => {
    const { results } = await runGraph(
      { body: ['lay.cylinder', { radius: 0.5, height: 4, caps: 'open' }], plane: ['lay.grid', {}], row: ['shape.row', { count: 3, step: [0, 0.5, 0] }], up: ['shape.transform', { turn: [0, 0, 90] }], it: ['mesh.section', {}], upright: ['mesh.section', {}] },
      ['body.mesh > it.mesh', 'plane.mesh > row.any', 'row.any > it.planes', 'body.mesh > upright.mesh', 'plane.mesh > up.any', 'up.any > upright.planes'],
    ); // prettier-ignore
    expect((results['it'].outputs['curves'] as Curves).closed).toEqual(Uint8Array.of(1, 1, 1));
    const lines = results['upright'].outputs['curves'] as Curves;
    expect([...lines.closed, ...Array.from(curveLengths(lines), (length) => Math.round(length * 1e4) / 1e4)]).toEqual([0, 0, 4, 4]);
    expect(results['upright'].warnings.map(({ code }) => code)).toEqual(['not-closed']);
    const bent = await runGraph({ body: ['lay.box', {}], ground: ['lay.terrain', { size: [2, 2], divisions: 8, height: 0.4 }], it: ['mesh.section', {}] }, ['body.mesh > it.mesh', 'ground.mesh > it.planes']); // prettier-ignore
    expect(bent.results['it'].warnings[0].message).toContain('Part 1 of the planes is not flat');
  });
});
