import { faceCount, faceStart, gatherRows, makeMesh, triangulate, type Attribute, type Memory, type Mesh } from '@filaxis/core';

/** The place of each point, whichever of its vertices are asked: 3 numbers a point. */
export function pointPlaces({ positions, pointOf, pointCount }: Mesh): Float32Array {
  if (!pointOf) return positions;
  const places = new Float32Array(pointCount * 3);
  for (let v = 0; v < pointOf.length; v++) for (let k = 0; k < 3; k++) places[pointOf[v] * 3 + k] = positions[v * 3 + k];
  return places;
}

/** Values of vertices as values of points; null where vertices of one point have different ones. */
export function pointValues({ pointOf, pointCount }: Mesh, { size, data }: Attribute): Float32Array | null {
  if (!pointOf) return data;
  const values = new Float32Array(pointCount * size);
  const known = new Uint8Array(pointCount);
  for (let v = 0; v < pointOf.length; v++) {
    const point = pointOf[v];
    for (let k = 0; k < size; k++) {
      if (known[point] && values[point * size + k] !== data[v * size + k]) return null;
      values[point * size + k] = data[v * size + k];
    }
    known[point] = 1;
  }
  return values;
}

/** The point of each corner. */
export const cornerPoints = ({ corners, pointOf }: Mesh): Uint32Array => (pointOf ? corners.map((vertex) => pointOf[vertex]) : corners);

/** Polygons of up to four corners. */
export interface Polygons {
  /** Vertices, polygon after polygon. */
  readonly corners: Uint32Array;
  /** Where each begins in `corners`, and the number of corners last. */
  readonly starts: Uint32Array;
  /** The face that each is, or is cut from; null: polygon by polygon a face. */
  readonly faceOf: Uint32Array | null;
}

/** Triangles and quads as they are; larger faces as triangles, since many readers leave them out. */
export function smallPolygons(mesh: Mesh): Polygons {
  const faces = faceCount(mesh);
  if (mesh.uniform) return { corners: mesh.corners, starts: Uint32Array.from({ length: faces + 1 }, (_, f) => f * mesh.uniform), faceOf: null };
  const { indices, faceOf } = triangulate(mesh);
  let [polygons, corners] = [0, 0];
  const size = (f: number): number => faceStart(mesh, f + 1) - faceStart(mesh, f);
  for (let f = 0; f < faces; f++) {
    const large = size(f) > 4;
    polygons += large ? size(f) - 2 : 1;
    corners += large ? (size(f) - 2) * 3 : size(f);
  }
  const made = { corners: new Uint32Array(corners), starts: new Uint32Array(polygons + 1), faceOf: new Uint32Array(polygons) };
  for (let t = 0, p = 0, at = 0; t < faceOf.length; t++) {
    const f = faceOf[t];
    const whole = size(f) <= 4;
    if (whole && t > 0 && faceOf[t - 1] === f) continue;
    const own = whole ? mesh.corners.subarray(faceStart(mesh, f), faceStart(mesh, f + 1)) : indices.subarray(t * 3, t * 3 + 3);
    made.corners.set(own, at);
    made.faceOf[p] = f;
    made.starts[++p] = at += own.length;
  }
  return made;
}

/** Triangle indices for each material number, and the triangles (null: all in their order); −1 for faces without one. */
export function trianglesByMaterial(mesh: Mesh, memory?: Memory): (readonly [material: number, indices: Uint32Array, triangles: Uint32Array | null])[] {
  const { indices, faceOf } = triangulate(mesh, memory);
  const own = mesh.attributes.get('material')?.data;
  if (!own) return [[-1, indices, null]];
  const counts = new Map<number, number>();
  for (let i = 0; i < faceOf.length; i++) counts.set(own[faceOf[i]], (counts.get(own[faceOf[i]]) ?? 0) + 1);
  if (counts.size === 1) return [[[...counts.keys()][0], indices, null]];
  return [...counts].sort(([a], [b]) => a - b).map(([material, count]) => {
    const [list, triangles] = [new Uint32Array(count * 3), new Uint32Array(count)];
    for (let i = 0, at = 0; i < faceOf.length; i++) {
      if (own[faceOf[i]] !== material) continue;
      triangles[at] = i;
      for (let k = 0; k < 3; k++) list[at * 3 + k] = indices[i * 3 + k];
      at++;
    }
    return [material, list, triangles] as const;
  }); // prettier-ignore
}

/** Some faces of a mesh, with the vertices and points that they use. */
export function takeFaces(mesh: Mesh, faces: Uint32Array): Mesh {
  const vertexOf = new Int32Array(mesh.positions.length / 3).fill(-1);
  const pointOf = new Int32Array(mesh.pointCount).fill(-1);
  const [vertices, points, corners]: [number[], number[], number[]] = [[], [], []];
  const faceStarts = new Uint32Array(faces.length + 1);
  let pointCount = 0;
  faces.forEach((f, i) => {
    for (let c = faceStart(mesh, f); c < faceStart(mesh, f + 1); c++) {
      const vertex = mesh.corners[c];
      if (vertexOf[vertex] < 0) {
        vertexOf[vertex] = vertices.push(vertex) - 1;
        const point = mesh.pointOf ? mesh.pointOf[vertex] : vertex;
        if (pointOf[point] < 0) pointOf[point] = pointCount++;
        points.push(pointOf[point]);
      }
      corners.push(vertexOf[vertex]);
    }
    faceStarts[i + 1] = corners.length;
  });
  const attributes = new Map(
    [...mesh.attributes].map(([name, attribute]): [string, Attribute] => {
      const rows = attribute.carrier === 'corner' ? vertices : attribute.carrier === 'face' ? faces : null;
      return [name, rows ? { ...attribute, data: gatherRows(attribute, rows) } : attribute];
    }),
  );
  return makeMesh({
    positions: gatherRows({ carrier: 'corner', size: 3, data: mesh.positions }, vertices),
    pointOf: mesh.pointOf && Uint32Array.from(points),
    pointCount,
    corners: Uint32Array.from(corners),
    ...(mesh.uniform ? { uniform: mesh.uniform } : { faceStarts }),
    materials: mesh.materials,
    attributes,
  });
}

/**
 * Faces of a range by the connected piece they belong to (`body`), or where that is not known by their kind (`part`), in the order of its numbers; all in one where there is
 * neither.
 */
export function facesByPart(mesh: Mesh, from = 0, to = faceCount(mesh)): (readonly [part: number, faces: Uint32Array])[] {
  const part = (mesh.attributes.get('body') ?? mesh.attributes.get('part'))?.data;
  const lists = new Map<number, number[]>();
  for (let f = from; f < to; f++) {
    const which = part?.[f] ?? 0;
    const list = lists.get(which);
    if (list) list.push(f);
    else lists.set(which, [f]);
  }
  return [...lists].sort(([a], [b]) => a - b).map(([which, faces]) => [which, Uint32Array.from(faces)] as const);
}

/** A mesh part by part, each with its name; the whole under `name` where it is not to be taken apart. */
export function namedParts(mesh: Mesh, name: string, apart: boolean | undefined): (readonly [name: string, mesh: Mesh])[] {
  const parts = apart ? facesByPart(mesh) : [];
  return parts.length > 1 ? parts.map(([part, faces]) => [`${name} part ${part}`, takeFaces(mesh, faces)] as const) : [[name, mesh]];
}
