import type { Accessor, Buffer, Document, Primitive } from '@gltf-transform/core';
import type { Attribute, Attributes, Carrier, Mesh } from '@filaxis/core';

export const gathered = (data: Float32Array, size: number, which: Uint32Array): Float32Array =>
  Float32Array.from({ length: which.length * size }, (_, i) => data[which[Math.floor(i / size)] * size + (i % size)]);

/** Vertices of a primitive. */
interface UsedVertices {
  /** The triangles' indices among them. */
  readonly order: Uint32Array;
  /** The mesh's vertex of each, and a face of each where values of faces go out. */
  readonly source: Uint32Array;
  readonly face: Uint32Array | null;
  readonly tangent: Float32Array | null;
}

/**
 * The vertices that triangles use, each once, in the order that the mesh has them; where values of faces or tangents go out, once for each value or tangent that it has.
 * `triangles`: which of the mesh's these are (null: all); `tangents`: 4 numbers a corner.
 */
export function usedVertices(
  mesh: Mesh,
  indices: Uint32Array,
  triangles: Uint32Array | null,
  faceOf: Uint32Array | null,
  values: readonly (readonly [string, Attribute])[],
  tangents: Float32Array | null,
): UsedVertices {
  const order = new Uint32Array(indices.length);
  if (!faceOf && !tangents) {
    const place = new Int32Array(mesh.positions.length / 3);
    for (const vertex of indices) place[vertex] = 1;
    let count = 0;
    for (let v = 0; v < place.length; v++) place[v] = place[v] ? count++ : -1;
    const source = new Uint32Array(count);
    for (let v = 0; v < place.length; v++) if (place[v] >= 0) source[place[v]] = v;
    for (let i = 0; i < indices.length; i++) order[i] = place[indices[i]];
    return { order, source, face: null, tangent: null };
  }
  const known = new Map<string, number>();
  /** The corner that each was first met at. */
  const first: number[] = [];
  const faceAt = (i: number): number => (faceOf ? faceOf[triangles ? triangles[Math.floor(i / 3)] : Math.floor(i / 3)] : 0);
  const ofFace = (f: number): string => values.map(([, { size, data }]) => data.subarray(f * size, f * size + size).join(' ')).join('/');
  for (let i = 0; i < indices.length; i++) {
    const key = `${indices[i]}:${faceOf ? ofFace(faceAt(i)) : ''}:${tangents ? tangents.subarray(i * 4, i * 4 + 4).join(' ') : ''}`;
    let vertex = known.get(key);
    if (vertex === undefined) known.set(key, (vertex = first.push(i) - 1));
    order[i] = vertex;
  }
  return {
    order,
    source: Uint32Array.from(first, (i) => indices[i]),
    face: faceOf && Uint32Array.from(first, faceAt),
    tangent: tangents && gathered(tangents, 4, Uint32Array.from(first)),
  };
}

/** Attributes that have a place of their own in the file, or mean nothing outside. */
const builtIn = /^(normal|tangent|uv[2-9]?|part|material|colour|handleIn|handleOut|origin)$/;

/** The values that go out by their names. */
export const ownValues = (attributes: Attributes, carriers: readonly Carrier[]): (readonly [string, Attribute])[] =>
  [...attributes].filter(([name, { carrier, size }]) => !builtIn.test(name) && carriers.includes(carrier) && size <= 4);

/** Adds values as attributes of the file's own names: an underline and capitals; names that capitals do not tell stand beside. */
export function addValues(document: Document, buffer: Buffer, primitive: Primitive, values: readonly (readonly [string, Attribute])[]): void {
  const names: Record<string, string> = {};
  for (const [name, { size, data }] of values) {
    const own = `_${name.toUpperCase().replace(/[^A-Z0-9_]/g, '_')}`;
    if (name !== name.toLowerCase()) names[own] = name;
    primitive.setAttribute(own, accessorOf(document, buffer, data, size));
  }
  if (Object.keys(names).length) primitive.setExtras({ names });
}

export const accessorOf = (document: Document, buffer: Buffer, data: Float32Array, size: number): Accessor =>
  document
    .createAccessor()
    .setType((['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const)[size - 1])
    .setArray(data)
    .setBuffer(buffer);
