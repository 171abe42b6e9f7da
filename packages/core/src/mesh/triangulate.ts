import { faceCount, faceStart, triangleCount, type Mesh } from '../geometry/mesh.js';

/**
 * Vertex indices of triangles, 3 each, and the face each came from. Faces are cut into fans from their first corner, which is right for
 * the convex faces that skins make.
 */
export function triangulate(mesh: Mesh): { indices: Uint32Array; faceOf: Uint32Array } {
  const indices = new Uint32Array(triangleCount(mesh) * 3);
  const faceOf = new Uint32Array(triangleCount(mesh));
  const { corners } = mesh;
  let at = 0;
  for (let f = 0; f < faceCount(mesh); f++) {
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    for (let i = from + 1; i + 1 < to; i++) {
      faceOf[at / 3] = f;
      indices[at++] = corners[from];
      indices[at++] = corners[i];
      indices[at++] = corners[i + 1];
    }
  }
  return { indices, faceOf };
}
