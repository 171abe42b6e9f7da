import { joinMeshes } from '../../geometry/join.js';
import type { Mesh } from '../../geometry/mesh.js';
import { flipFaces } from './normals.js';

/** The mesh and, at the same places, its faces turned over; the back has points and UVs of its own (u mirrored, so that lettering reads). */
export function doubleSided(mesh: Mesh): Mesh {
  const back = flipFaces(mesh);
  const uv = back.attributes.get('uv');
  if (!uv) return joinMeshes([mesh, back]);
  let least = Infinity;
  let most = -Infinity;
  for (let i = 0; i < uv.data.length; i += 2) {
    least = Math.min(least, uv.data[i]);
    most = Math.max(most, uv.data[i]);
  }
  const mirrored = uv.data.map((value, i) => (i % 2 ? value : least + most - value));
  return joinMeshes([mesh, { ...back, attributes: new Map(back.attributes).set('uv', { ...uv, data: mirrored }) }]);
}
