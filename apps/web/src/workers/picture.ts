import {
  boundsOf,
  copiesBounds,
  curveCount,
  curveLengths,
  curvesBounds,
  expandedSize,
  faceCount,
  faceStart,
  hasExactTangent,
  joinCurves,
  joinMeshes,
  paced,
  tangentsOf,
  triangleCount,
  unionBounds,
  type Copies,
  type Curves,
  type GeometrySet,
  type Mesh,
} from '@filaxis/core';
import { trianglesByMaterial } from '@filaxis/formats';
import type { CurvesPicture, MeshPicture, Picture } from '@filaxis/protocol';

/** Buffers of a mesh, copied so that they can be handed over while the kept result stays here. */
function meshPicture(mesh: Mesh): MeshPicture {
  const groups: MeshPicture['groups'][number][] = [];
  const lists = [...trianglesByMaterial(mesh)];
  const indices = new Uint32Array(lists.reduce((sum, [, list]) => sum + list.length, 0));
  let at = 0;
  for (const [material, list] of lists) {
    indices.set(list, at);
    groups.push({ start: at, count: list.length, material: mesh.materials[material] ?? null });
    at += list.length;
  }
  return {
    positions: mesh.positions.slice(),
    normals: mesh.attributes.get('normal')?.data.slice() ?? null,
    uv: mesh.attributes.get('uv')?.data.slice() ?? null,
    indices,
    groups,
    edges: edgesOf(mesh),
  };
}

/** Polygon edges for the wire view. Quads of a band share edges, so each gives its first and its last; other faces give all. */
function edgesOf(mesh: Mesh): Uint32Array {
  const { corners } = mesh;
  const quads: boolean[] = [];
  let count = 0;
  for (let f = 0; f < faceCount(mesh); f++) {
    const size = faceStart(mesh, f + 1) - faceStart(mesh, f);
    quads.push(size === 4);
    count += size === 4 ? 2 : size;
  }
  const edges = new Uint32Array(count * 2);
  let at = 0;
  for (let f = 0; f < quads.length; f++) {
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    for (let i = from; i < to; i++) {
      if (quads[f] && (i === from + 1 || i === from + 2)) continue;
      edges[at++] = corners[i];
      edges[at++] = corners[i + 1 < to ? i + 1 : from];
    }
  }
  return edges;
}

function curvesPicture(curves: Curves): CurvesPicture {
  const lines = paced(curves);
  const pieces: number[] = [];
  const curveOf: number[] = [];
  const points = lines.positions.length / 3;
  const pointCurve = new Uint32Array(points);
  for (let c = 0; c < curveCount(lines); c++) {
    const from = lines.starts[c];
    const to = lines.starts[c + 1];
    pointCurve.fill(c, from, to);
    for (let i = from; i < (lines.closed[c] ? to : to - 1); i++) {
      const next = i + 1 < to ? i + 1 : from;
      for (const p of [i, next]) for (let k = 0; k < 3; k++) pieces.push(lines.positions[p * 3 + k]);
      curveOf.push(c);
    }
  }
  const normal = lines.attributes.get('normal');
  return {
    lines: Float32Array.from(pieces),
    curveOf: Uint32Array.from(curveOf),
    points: lines.positions.slice(),
    tangents: normal || (points && hasExactTangent(lines, 0)) ? tangentsOf(lines).slice() : new Float32Array(0),
    normals: normal?.carrier === 'point' ? normal.data.slice() : new Float32Array(0),
    pointCurve,
  };
}

/**
 * Puts results together for the 3D view; `paths` are drawn as curves before those in the results, so that they are numbered as
 * the Path strip numbers them.
 */
export function makePicture(sets: readonly GeometrySet[], paths: readonly Curves[], budget: number): Picture {
  const meshes = sets.flatMap((set) => (set.mesh ? [set.mesh] : []));
  const shown = sets.flatMap((set) => (set.curves ? [set.curves] : []));
  const mesh = meshes.length ? joinMeshes(meshes) : null;
  const drawn = [...new Set([...paths, ...shown])];
  const curves = drawn.length ? joinCurves(drawn) : null;
  const own = shown.length ? joinCurves(shown) : null;
  const counted = own ?? curves;
  const placed = sets.flatMap((set) => (set.copies?.object.length ? [set.copies] : []));
  const inPlace = placed.map(expandedSize);
  const triangles = placed.reduce((sum, copies) => sum + copies.object.reduce((own, which) => own + triangleCount(copies.objects[which]), 0), 0);
  let bounds = unionBounds(mesh && boundsOf(mesh.positions), curves && curvesBounds(curves));
  for (const copies of placed) bounds = unionBounds(bounds, copiesBounds(copies));
  return {
    mesh: mesh && mesh.corners.length ? meshPicture(mesh) : null,
    copies: placed.flatMap(copiesPictures),
    curves: curves && curves.positions.length ? curvesPicture(curves) : null,
    counts: {
      faces: (mesh ? faceCount(mesh) : 0) + inPlace.reduce((sum, { faces }) => sum + faces, 0),
      triangles: (mesh ? triangleCount(mesh) : 0) + triangles,
      copies: placed.reduce((sum, { object }) => sum + object.length, 0),
      points: (mesh?.pointCount ?? 0) + inPlace.reduce((sum, { vertices }) => sum + vertices, 0) + (own ? own.positions.length / 3 : 0),
      curves: counted ? curveCount(counted) : 0,
      length: counted ? curveLengths(counted).reduce((sum, length) => sum + length, 0) : 0,
    },
    bounds: bounds && { min: [...bounds.min], max: [...bounds.max] },
    budget,
  };
}

/** Each object that is used, with the matrices of its copies. */
function copiesPictures({ objects, object, matrices }: Copies): Picture['copies'][number][] {
  return objects.flatMap((mesh, which) => {
    const own = Array.from(object, (used, i) => (used === which ? i : -1)).filter((i) => i >= 0);
    if (!own.length || !mesh.corners.length) return [];
    const list = new Float32Array(own.length * 16);
    own.forEach((copy, i) => list.set(matrices.subarray(copy * 16, copy * 16 + 16), i * 16));
    return [{ mesh: meshPicture(mesh), matrices: list }];
  });
}

/** The buffers of a picture, to be handed over without copying. */
export function buffersOf(picture: Picture): ArrayBuffer[] {
  const { mesh, curves, copies } = picture;
  const arrays = [
    ...[mesh, ...copies.map((each) => each.mesh)].flatMap((each) => [each?.positions, each?.normals, each?.uv, each?.indices, each?.edges]),
    ...copies.map(({ matrices }) => matrices),
    curves?.lines,
    curves?.curveOf,
    curves?.points,
    curves?.tangents,
    curves?.normals,
    curves?.pointCurve,
  ];
  return arrays.flatMap((array) => (array ? [array.buffer as ArrayBuffer] : []));
}
