import { connectedParts, placesOfMesh, elementsOf, faceCount, faceStart, type Geometry, type Mesh, type NameSource, type PerElement } from '@filaxis/core';

/** Names that are numbers of the element, not worth a colour of their own. */
const dull = new Set(['n', 'curves', 'id']);

/** Names of a geometry's elements that can be shown as colour. */
export function colourNames(geometry: Geometry): string[] {
  const pers: PerElement[] = geometry.type === 'mesh' ? ['point', 'face'] : geometry.type === 'copies' ? ['copy'] : ['point'];
  return pers.flatMap((per) => elementsOf(geometry, per).scope.names).filter((name) => !dull.has(name));
}

/** Values of a name for all elements; null when the geometry does not have it for them. */
export function valuesOf(geometry: Geometry, per: PerElement, name: string): Float32Array | null {
  const { scope, count } = elementsOf(geometry, per);
  const source: NameSource | string | undefined = scope.source(name);
  if (source === undefined || typeof source === 'string') return null;
  const values = new Float64Array(count);
  if (typeof source === 'number') values.fill(source);
  else source.fill(values, 0, count);
  return Float32Array.from(values);
}

/** Values of a mesh for colour: a number a vertex, or, where only faces have it, a number a face. */
export function meshValues(mesh: Mesh, name: string): { readonly per: 'point' | 'face'; readonly values: Float32Array } | null {
  // Which piece a face belongs to is known without anybody having written it.
  if (name === 'body' && !mesh.attributes.has(name)) return { per: 'face', values: Float32Array.from(connectedParts(mesh, placesOfMesh(mesh)).ofFace) };
  const face = mesh.attributes.get(name)?.carrier === 'face';
  const vertex = face ? null : valuesOf(mesh, 'point', name);
  if (vertex) return { per: 'point', values: vertex };
  const values = valuesOf(mesh, 'face', name);
  return values && { per: 'face', values };
}

/** The mesh with vertices of its own for every face, so that each can have its own colour. */
export function apart(mesh: Mesh): Mesh {
  const corners = Uint32Array.from({ length: mesh.corners.length }, (_, i) => i);
  const taken = (data: Float32Array, size: number): Float32Array => {
    const result = new Float32Array(mesh.corners.length * size);
    for (let i = 0; i < mesh.corners.length; i++) for (let k = 0; k < size; k++) result[i * size + k] = data[mesh.corners[i] * size + k];
    return result;
  };
  const attributes = new Map(
    [...mesh.attributes].map(([name, attribute]) => [
      name,
      attribute.carrier === 'corner' ? { ...attribute, data: taken(attribute.data, attribute.size) } : attribute,
    ]),
  );
  return { ...mesh, positions: taken(mesh.positions, 3), corners, pointOf: null, pointCount: corners.length, attributes };
}

/** A number a face as a number a vertex of the mesh taken apart. */
export function spreadOverCorners(mesh: Mesh, values: Float32Array): Float32Array {
  const result = new Float32Array(mesh.corners.length);
  for (let f = 0; f < faceCount(mesh); f++) result.fill(values[f], faceStart(mesh, f), faceStart(mesh, f + 1));
  return result;
}

/** Least and greatest finite value of several lists; null: there is none. */
export function rangeOfValues(lists: readonly (Float32Array | null)[]): { low: number; high: number } | null {
  let [low, high] = [Infinity, -Infinity];
  for (const list of lists)
    for (const value of list ?? [])
      if (Number.isFinite(value)) {
        if (value < low) low = value;
        if (value > high) high = value;
      }
  return low <= high ? { low, high } : null;
}
