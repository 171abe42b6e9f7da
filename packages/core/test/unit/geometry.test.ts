import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  affineFrom,
  boundsOf,
  curveCount,
  curvesBounds,
  curvesFromLists,
  emptyMesh,
  expandCopies,
  faceCount,
  GeometryError,
  joinCurves,
  joinMeshes,
  joinPoints,
  makeCopies,
  makeCurves,
  makeMesh,
  makePoints,
  measure,
  plainMaterial,
  transformGeometry,
  triangleCount,
  triangulate,
  unionBounds,
  type Mesh,
} from '../../src/index.js';

const still = { move: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1], pivot: [0, 0, 0] };

/** A cube of side 1 from the origin: 8 points, 6 quads, faces outwards. */
function cube(): Mesh {
  const positions = Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1, 0, 1, 1]);
  const corners = Uint32Array.from([0, 3, 2, 1, 4, 5, 6, 7, 0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6, 3, 0, 4, 7]);
  return makeMesh({ positions, corners, uniform: 4 });
}

describe('figures of a mesh', () => {
  test('a cube of side 1: Euler characteristic 2, area 6, volume 1 (elementary geometry)', () => {
    const figures = measure({ mesh: cube() });
    expect(figures).toMatchObject({
      vertices: 8,
      faces: 6,
      triangles: 12,
      parts: 1,
      boundaryEdges: 0,
      nonManifoldEdges: 0,
      euler: 2,
      degenerateFaces: 0,
      materials: 1,
    });
    expect(figures.area).toBeCloseTo(6, 12);
    expect(figures.volume).toBeCloseTo(1, 12);
    expect(figures.bounds).toEqual({ min: [0, 0, 0], max: [1, 1, 1] });
  });

  test('without one face: four open edges, Euler characteristic 1', () => {
    const whole = cube();
    const open = makeMesh({ positions: whole.positions, corners: whole.corners.slice(4), uniform: 4 });
    expect(measure({ mesh: open })).toMatchObject({ faces: 5, boundaryEdges: 4, euler: 1 });
  });

  test('a face twice makes its edges non-manifold; one without area is counted', () => {
    const whole = cube();
    const doubled = makeMesh({ positions: whole.positions, corners: Uint32Array.from([...whole.corners, ...whole.corners.slice(0, 4)]), uniform: 4 });
    expect(measure({ mesh: doubled }).nonManifoldEdges).toBe(4);
    const flat = makeMesh({ positions: Float32Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0), corners: Uint32Array.of(0, 1, 2), uniform: 3 });
    expect(measure({ mesh: flat }).degenerateFaces).toBe(1);
  });

  test('two cubes apart are two parts; volume is right far from the origin', () => {
    const far = transformGeometry(cube(), affineFrom({ ...still, move: [100_000, 0, 0] }));
    const both = joinMeshes([cube(), far]);
    expect(measure({ mesh: both })).toMatchObject({ parts: 2, euler: 4 });
    expect(measure({ mesh: far }).volume).toBeCloseTo(1, 6);
  });

  test('polygons are cut into as many triangles as they have corners, less two', () => {
    const pentagon = makeMesh({
      positions: Float32Array.from(Array.from({ length: 5 }, (_, i) => [Math.cos((i * 2 * Math.PI) / 5), Math.sin((i * 2 * Math.PI) / 5), 0]).flat()),
      corners: Uint32Array.of(0, 1, 2, 3, 4),
      faceStarts: Uint32Array.of(0, 5),
    });
    const { indices, faceOf } = triangulate(pentagon);
    expect([...indices]).toEqual([0, 1, 2, 0, 2, 3, 0, 3, 4]);
    expect([...faceOf]).toEqual([0, 0, 0]);
    expect(triangleCount(pentagon)).toBe(3);
  });
});

describe('geometry that cannot be is refused, with its place', () => {
  test('positions that are not finite', () => {
    expect(() => curvesFromLists([[[0, 0, 0], [1, NaN, 0]]])).toThrow('The y of point 1 is NaN; positions must be finite numbers.'); // prettier-ignore
    expect(() => makePoints(Float32Array.of(0, 0, Infinity))).toThrow(GeometryError);
  });

  test('arrays that do not agree', () => {
    expect(() => makeCurves({ positions: new Float32Array(6), starts: Uint32Array.of(0, 3) })).toThrow('Curves hold 2 positions, but their starts end at 3.');
    expect(() => makeCurves({ positions: new Float32Array(6), starts: Uint32Array.of(0, 2), closed: new Uint8Array(2) })).toThrow(
      '1 starts, 2 closed marks and 1 kinds',
    );
    expect(() => makeMesh({ positions: new Float32Array(9), corners: Uint32Array.of(0, 1, 3), uniform: 3 })).toThrow(
      'Corner 2 names vertex 3; the mesh has 3.',
    );
    expect(() => makeMesh({ positions: new Float32Array(9), corners: Uint32Array.of(0, 1, 2) })).toThrow('A mesh needs face starts, or faces of one size.');
    expect(() => makeCopies([cube()], Uint32Array.of(1), new Float32Array(16))).toThrow('Copy 0 names object 1; there are 1.');
    expect(() => makeCopies([cube()], Uint32Array.of(0), new Float32Array(12))).toThrow('1 copies need 16 matrix numbers, got 12.');
  });
});

describe('transforms', () => {
  const angle = fc.integer({ min: -360, max: 360 });
  const factor = fc.constantFrom(-2, -1, 0.5, 1, 3);

  test('volume goes with the product of the sizes, and stays positive when they mirror', () =>
    fc.assert(
      fc.property(fc.tuple(angle, angle, angle), fc.tuple(factor, factor, factor), (turn, size) => {
        const moved = transformGeometry(cube(), affineFrom({ move: [1, 2, 3], turn, size, pivot: [0.5, 0, 2] }));
        expect(measure({ mesh: moved }).volume).toBeCloseTo(Math.abs(size[0] * size[1] * size[2]), 3);
      }),
    ));

  test('the pivot stays where it is; turning goes about X, then Y, then Z', () => {
    const turned = transformGeometry(makePoints(Float32Array.of(1, 2, 3, 2, 2, 3)), affineFrom({ ...still, turn: [0, 0, 90], pivot: [1, 2, 3] }));
    expect([...turned.positions].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([1, 2, 3, 1, 3, 3]);
    const order = transformGeometry(makePoints(Float32Array.of(0, 1, 0)), affineFrom({ ...still, turn: [90, 90, 0] }));
    // y goes to z about X, then z goes to x about Y.
    expect([...order.positions].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([1, 0, 0]);
  });

  test('copies turn with their matrices and share their objects', () => {
    const matrices = Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1);
    const copies = makeCopies([cube()], Uint32Array.of(0), matrices);
    const moved = transformGeometry(copies, affineFrom({ ...still, move: [0, 2, 0] }));
    expect([...moved.matrices.slice(12, 15)]).toEqual([5, 2, 0]);
    expect(moved.objects).toBe(copies.objects);
  });

  test('what is not moved is shared', () => {
    const mesh = cube();
    expect(transformGeometry(mesh, affineFrom({ ...still, move: [1, 0, 0] })).corners).toBe(mesh.corners);
  });
});

describe('joining', () => {
  test('curves keep their order, closing and kind; missing values become 0', () => {
    const rolled = { ...curvesFromLists([[[0, 0, 0], [1, 0, 0]]]), attributes: new Map([['roll', { carrier: 'point' as const, size: 1, data: Float32Array.of(5, 6) }]]) }; // prettier-ignore
    const closed = curvesFromLists([[[0, 0, 0], [1, 0, 0], [0, 1, 0]]], { closed: [true], kind: 'through' }); // prettier-ignore
    const joined = joinCurves([closed, rolled]);
    expect([...joined.starts]).toEqual([0, 3, 5]);
    expect([...joined.closed]).toEqual([1, 0]);
    expect([...joined.kind]).toEqual([1, 0]);
    expect([...joined.attributes.get('roll')!.data]).toEqual([0, 0, 0, 5, 6]);
    expect(joinCurves([closed])).toBe(closed);
  });

  test('meshes of different faces, an empty one among them, and alike materials', () => {
    const red = { ...plainMaterial, name: 'red' };
    const painted = (mesh: Mesh): Mesh => ({
      ...mesh,
      materials: [red],
      attributes: new Map([['material', { carrier: 'face' as const, size: 1, data: new Float32Array(faceCount(mesh)) }]]),
    });
    const triangle = makeMesh({ positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), corners: Uint32Array.of(0, 1, 2), uniform: 3 });
    const joined = joinMeshes([painted(cube()), emptyMesh, painted(triangle)]);
    expect(joined.uniform).toBe(0);
    expect([...joined.faceStarts!]).toEqual([0, 4, 8, 12, 16, 20, 24, 27]);
    expect(joined.materials).toEqual([red]);
    expect(joined.pointCount).toBe(11);
    expect(measure({ mesh: joined }).parts).toBe(2);
  });

  test('points', () => {
    expect([...joinPoints([makePoints(Float32Array.of(1, 2, 3)), makePoints(Float32Array.of(4, 5, 6))]).positions]).toEqual([1, 2, 3, 4, 5, 6]);
  });
});

test('boxes: of nothing, of one place, of two boxes, of a curve that bulges out of its points', () => {
  expect(boundsOf([])).toBeNull();
  expect(unionBounds(null, boundsOf([1, 2, 3]))).toEqual({ min: [1, 2, 3], max: [1, 2, 3] });
  expect(unionBounds(boundsOf([0, 0, 0]), boundsOf([1, -1, 2]))).toEqual({ min: [0, -1, 0], max: [1, 0, 2] });
  const bulging = curvesFromLists([[[0, 0, 0], [1, 1, 0], [2, 1, 0], [3, 0, 0]]], { kind: 'through' }); // prettier-ignore
  expect(curveCount(bulging)).toBe(1);
  expect(curvesBounds(bulging)!.max[1]).toBeGreaterThan(1.05);
});

describe('figures are those of what is written', () => {
  const random = fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 12, maxLength: 12 });
  test('the box of copies is that of their expanded mesh', () => {
    fc.assert(
      fc.property(fc.array(random, { minLength: 1, maxLength: 5 }), (maps) => {
        const object = makeMesh({ positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3), corners: Uint32Array.of(0, 1, 2, 0, 2, 3), uniform: 3 });
        const matrices = Float32Array.from(maps.flatMap((m) => [m[0], m[4], m[8], 0, m[1], m[5], m[9], 0, m[2], m[6], m[10], 0, m[3], m[7], m[11], 1]));
        const copies = makeCopies([object], new Uint32Array(maps.length), matrices);
        const [box, written] = [measure({ copies }).bounds!, boundsOf(expandCopies(copies).positions)!];
        for (const end of ['min', 'max'] as const) for (let k = 0; k < 3; k++) expect(box[end][k]).toBeCloseTo(written[end][k], 5);
      }),
    );
  });
  test('the area of bent faces is that of their triangles', () => {
    // A pentagon with one corner lifted, beside a quad that is bent.
    const positions = Float32Array.of(0, 0, 0, 2, 0, 0, 3, 0, 1, 2, 2, 3, 0, 2, 0, 5, 0, 0, 6, 0, 1, 6, 0, 2.5, 5, 1, 2);
    const mesh = makeMesh({ positions, corners: Uint32Array.of(0, 1, 2, 3, 4, 5, 6, 7, 8), faceStarts: Uint32Array.of(0, 5, 9) });
    const { indices } = triangulate(mesh);
    const triangles = makeMesh({ positions, corners: indices, uniform: 3 });
    expect(measure({ mesh }).area).toBeCloseTo(measure({ mesh: triangles }).area, 12);
    expect(measure({ mesh }).volume).toBeCloseTo(measure({ mesh: triangles }).volume, 12);
  });
});
