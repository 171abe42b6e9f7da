import { generateTangents } from 'three/examples/jsm/libs/mikktspace.module.js';
import type { Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';

/**
 * Tangents at the corners of triangles (x, y, z, and the side of the bitangent), as most programs that bake normal maps have them (MikkTSpace, Mikkelsen 2008): 4 numbers a corner.
 * UVs have their origin at the bottom left, which is what the side is counted by.
 * @throws FormatError when the mesh has no UVs or no normals.
 */
export function cornerTangents({ positions, attributes }: Mesh, indices: Uint32Array): Float32Array {
  const [uv, normal] = ['uv', 'normal'].map((name) => attributes.get(name)?.data);
  if (!uv || !normal) throw new FormatError(`Tangents need UVs and normals; the mesh has no ${uv ? 'normals' : 'UVs'}.`, 'no-tangents');
  const rows = (data: Float32Array, size: number): Float32Array => {
    const out = new Float32Array(indices.length * size);
    for (let i = 0; i < indices.length; i++) for (let k = 0; k < size; k++) out[i * size + k] = data[indices[i] * size + k];
    return out;
  };
  return generateTangents(rows(positions, 3), rows(normal, 3), rows(uv, 2));
}
