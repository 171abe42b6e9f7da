import { describe, expect, test } from 'vitest';
import { joinMeshes, makeMesh, measure, transformGeometry, affineFrom, type Mesh } from '../../src/index.js';
import { box, icosphere } from '../../src/mesh/make/bodies.js';
import { NotSolid, solid, type SolidOperation } from '../../src/mesh/cut/solid.js';
import { triangulate } from '../../src/mesh/topology/triangulate.js';
import { flipFaces } from '../../src/mesh/change/normals.js';
import { randomAt } from '../../src/values/random.js';

const moved = (mesh: Mesh, move: [number, number, number], turn: [number, number, number] = [0, 0, 0]): Mesh =>
  transformGeometry(mesh, affineFrom({ move, turn, size: [1, 1, 1], pivot: [0, 0, 0] })) as Mesh;
const cube = (at: [number, number, number], size = 1): Mesh => moved(box([size, size, size], 1), at);
/** A mesh as triangles alone. */
const triangulated = (mesh: Mesh): { positions: Float32Array; corners: Uint32Array } => ({ positions: mesh.positions, corners: triangulate(mesh).indices });
const figures = async (bodies: readonly Mesh[], operation: SolidOperation) => measure({ mesh: (await solid(bodies, operation)).mesh });

describe('Solid', () => {
  test('two boxes that overlap by an eighth: volumes and areas in closed form', async () => {
    const two = [cube([0, 0, 0]), cube([0.5, 0.5, 0.5])];
    expect((await figures(two, 'union')).volume).toBeCloseTo(2 - 1 / 8, 6);
    expect((await figures(two, 'difference')).volume).toBeCloseTo(1 - 1 / 8, 6);
    expect((await figures(two, 'intersection')).volume).toBeCloseTo(1 / 8, 6);
    expect((await figures(two, 'intersection')).area).toBeCloseTo(6 / 4, 6);
    // A corner that is bitten out of a box leaves its area as it was.
    expect((await figures(two, 'difference')).area).toBeCloseTo(6, 6);
  });

  test('|A ∪ B| + |A ∩ B| = |A| + |B|, closed, over bodies at random', async () => {
    let key = 0;
    const between = (low: number, high: number): number => low + (high - low) * randomAt(11, key++);
    for (let round = 0; round < 12; round++) {
      const turn = (): [number, number, number] => [between(0, 360), between(0, 360), between(0, 360)];
      const two = [moved(icosphere(1, 4), [0, 0, 0], turn()), moved(box([between(0.4, 2), between(0.4, 2), between(0.4, 2)], 2), [between(-1, 1), between(-1, 1), 0], turn())]; // prettier-ignore
      const volumes = two.map((mesh) => measure({ mesh }).volume);
      const [union, common, left] = await Promise.all((['union', 'intersection', 'difference'] as const).map((each) => figures(two, each)));
      expect(union.volume + common.volume).toBeCloseTo(volumes[0] + volumes[1], 4);
      expect(left.volume + common.volume).toBeCloseTo(volumes[0], 4);
      for (const each of [union, left]) expect(each).toMatchObject({ boundaryEdges: 0, nonManifoldEdges: 0 });
    }
  });

  test('a hole through a box makes it a ring (Euler: 0), its wall looking into the hole', async () => {
    const { mesh } = await solid([box([2, 1, 2], 1), box([0.5, 4, 0.5], 1)], 'difference');
    expect(measure({ mesh })).toMatchObject({ euler: 0, boundaryEdges: 0, volume: expect.closeTo(4 - 0.25, 5) as number });
    const normals = mesh.attributes.get('normal')!.data;
    for (let v = 0; v < mesh.positions.length / 3; v++) {
      const [x, , z] = mesh.positions.subarray(v * 3, v * 3 + 3);
      const inHole = Math.max(Math.abs(x), Math.abs(z)) < 0.26;
      if (inHole && Math.abs(normals[v * 3 + 1]) < 0.5) expect(x * normals[v * 3] + z * normals[v * 3 + 2]).toBeLessThan(0);
      expect(Math.hypot(...normals.subarray(v * 3, v * 3 + 3))).toBeCloseTo(1, 4);
    }
  });

  test('pieces of one body that overlap count as one; a hollow stays hollow', async () => {
    const overlapping = joinMeshes([cube([0, 0, 0]), cube([0.5, 0, 0])]);
    expect((await figures([overlapping], 'union')).volume).toBeCloseTo(1.5, 6);
    const hollow = joinMeshes([cube([0, 0, 0], 2), flipFaces(cube([0, 0, 0], 1))]);
    expect((await figures([hollow, cube([5, 0, 0])], 'union')).volume).toBeCloseTo(8 - 1 + 1, 5);
  });

  test('faces keep materials and values of the body they are from; UVs of a cut lie where they lay', async () => {
    const withPart = (mesh: Mesh, part: number, colour: string): Mesh => ({
      ...mesh,
      materials: [{ name: colour, colour, roughness: 1, metalness: 0, opacity: 1, checker: false }],
      attributes: new Map([...mesh.attributes, ['material', { carrier: 'face', size: 1, data: new Float32Array(6) }], ['side', { carrier: 'face', size: 1, data: new Float32Array(6).fill(part) }]] as const), // prettier-ignore
    });
    const { mesh } = await solid([withPart(cube([0, 0, 0]), 1, '#aa0000'), withPart(cube([0.5, 0.5, 0.5]), 2, '#0000aa')], 'difference');
    const [side, material, uv] = ['side', 'material', 'uv'].map((name) => mesh.attributes.get(name)!.data);
    expect(mesh.materials.map(({ colour }) => colour)).toEqual(['#aa0000', '#0000aa']);
    expect(new Set(side)).toEqual(new Set([1, 2]));
    side.forEach((value, f) => expect(material[f]).toBe(value - 1));
    mesh.corners.forEach((v, i) => {
      const [x, y, z] = mesh.positions.subarray(v * 3, v * 3 + 3);
      if (side[Math.floor(i / 3)] !== 1) return;
      expect(Math.max(Math.abs(x), Math.abs(y), Math.abs(z))).toBeCloseTo(0.5, 6);
      expect(uv[v * 2]).toBeGreaterThanOrEqual(0);
      expect(uv[v * 2]).toBeLessThanOrEqual(1);
    });
  });

  test('a body that is inside out is turned, and told of; an open one is refused by its number and its open edges', async () => {
    const inside = await solid([cube([0, 0, 0]), flipFaces(cube([0.5, 0.5, 0.5]))], 'union');
    expect(inside.turned).toEqual([1]);
    expect(measure({ mesh: inside.mesh }).volume).toBeCloseTo(2 - 1 / 8, 6);
    const whole = cube([0, 0, 0]);
    const open = makeMesh({ ...whole, corners: whole.corners.slice(4) });
    open.attributes.forEach(({ carrier }) => expect(carrier).not.toBe('face'));
    await expect(solid([whole, open], 'union')).rejects.toThrow('Body 2 is not closed: it has 4 edges with a face on one side only.');
    // The library is as it was before.
    expect((await figures([whole, whole], 'union')).volume).toBeCloseTo(1, 6);
  });

  test('two boxes that meet along an edge, as one body, are a solid though four faces meet there; triangles without a surface do not matter', async () => {
    const met = joinMeshes([cube([0, 0, 0]), cube([1, 1, 0])]);
    expect((await figures([met], 'union')).volume).toBeCloseTo(2, 6);
    const whole = cube([0, 0, 0]);
    const { corners, positions } = triangulated(whole);
    const body = (more: number[]): Mesh => makeMesh({ positions, corners: Uint32Array.of(...corners, ...more), uniform: 3 });
    expect((await figures([body([0, 0, 1]), cube([0.5, 0.5, 0.5])], 'difference')).volume).toBeCloseTo(7 / 8, 6);
    await expect(solid([whole, body([0, 1, 2])], 'union')).rejects.toThrow(/^Body 2 (is not closed|has \d+ edges where more than two)/);
    const flat = makeMesh({ positions: whole.positions, corners: Uint32Array.of(0, 0, 1, 2, 3, 3), uniform: 3 });
    await expect(solid([whole, flat], 'union')).rejects.toThrow('Body 2 has no face with a surface.');
  });

  test('thousands of bodies that cannot be are refused, and the library is as it was before', async () => {
    let key = 0;
    const below = (count: number): number => Math.floor(randomAt(23, key++) * count);
    const soup = (): Mesh => {
      const count = 4 + below(12);
      const corners = Uint32Array.from({ length: 3 * (1 + below(10)) }, () => below(count));
      return makeMesh({ positions: Float32Array.from({ length: count * 3 }, () => below(7) - 3), corners, uniform: 3 });
    };
    for (let round = 0; round < 3000; round++) {
      const refusal = await solid([soup(), soup()], 'union').then(() => null, (error: unknown) => error); // prettier-ignore
      if (refusal !== null) expect(refusal, String(refusal)).toBeInstanceOf(NotSolid);
    }
    expect((await figures([cube([0, 0, 0]), cube([0.5, 0.5, 0.5])], 'union')).volume).toBeCloseTo(2 - 1 / 8, 6);
  });

  test('bodies that touch, are the same, or have nothing in common', async () => {
    expect((await figures([cube([0, 0, 0]), cube([1, 0, 0])], 'union')).volume).toBeCloseTo(2, 6);
    expect((await solid([cube([0, 0, 0]), cube([0, 0, 0])], 'difference')).mesh.corners.length).toBe(0);
    expect((await solid([cube([0, 0, 0]), cube([5, 0, 0])], 'intersection')).mesh.corners.length).toBe(0);
    expect((await solid([], 'union')).mesh.corners.length).toBe(0);
  });
});
