import type { Copies } from './copies.js';
import { boundsOf, type Bounds, type GeometrySet } from './geometry.js';
import { joinMeshes } from './join.js';
import { emptyMesh, faceCount, type Mesh } from './mesh.js';
import { transformGeometry, type Affine } from './transform.js';

/** The affine map of copy `i`. */
export function matrixOf({ matrices }: Copies, i: number): Affine {
  const m = matrices.subarray(i * 16, i * 16 + 16);
  return [m[0], m[4], m[8], m[12], m[1], m[5], m[9], m[13], m[2], m[6], m[10], m[14]];
}

/** The matrix of copy `i`: 16 numbers, column-major. */
export const matrixColumns = ({ matrices }: Copies, i: number): Float32Array => matrices.subarray(i * 16, i * 16 + 16);

/** How much a mesh of all copies would hold. */
export function expandedSize(copies: Copies): { vertices: number; faces: number } {
  const size = { vertices: 0, faces: 0 };
  for (const which of copies.object) {
    size.vertices += copies.objects[which].pointCount;
    size.faces += faceCount(copies.objects[which]);
  }
  return size;
}

/** All copies as one mesh. */
export function expandCopies(copies: Copies): Mesh {
  if (!copies.object.length) return emptyMesh;
  return joinMeshes(Array.from(copies.object, (which, i) => transformGeometry(copies.objects[which], matrixOf(copies, i))));
}

/** A result with its copies joined to its mesh; the same result when it has none. */
export function withoutCopies(set: GeometrySet): GeometrySet {
  if (!set.copies?.object.length) return set;
  const { curves, points, mesh } = set;
  const expanded = expandCopies(set.copies);
  return { ...(curves && { curves }), ...(points && { points }), mesh: mesh ? joinMeshes([mesh, expanded]) : expanded };
}

/** Box round all copies, by the corners of their objects' boxes; null when there are none. */
export function copiesBounds(copies: Copies): Bounds | null {
  const boxes = copies.objects.map((mesh) => boundsOf(mesh.positions));
  const places: number[] = [];
  copies.object.forEach((which, i) => {
    const box = boxes[which];
    if (!box) return;
    const m = matrixOf(copies, i);
    for (let corner = 0; corner < 8; corner++) {
      const [x, y, z] = [0, 1, 2].map((k) => (corner & (1 << k) ? box.max[k] : box.min[k]));
      for (let row = 0; row < 12; row += 4) places.push(m[row] * x + m[row + 1] * y + m[row + 2] * z + m[row + 3]);
    }
  });
  return boundsOf(places);
}
