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

/** The box of all copies as they are written, from their own vertices; null when there are none. Copies whose object's box lies inside what is known are not looked at. */
export function copiesBounds(copies: Copies): Bounds | null {
  const boxes = copies.objects.map((mesh) => boundsOf(mesh.positions));
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  copies.object.forEach((which, i) => {
    const box = boxes[which];
    if (!box) return;
    const m = matrixOf(copies, i);
    const p = copies.objects[which].positions;
    for (let k = 0; k < 3; k++) {
      const [x, y, z, move] = [m[k * 4], m[k * 4 + 1], m[k * 4 + 2], m[k * 4 + 3]];
      const [low, high] = [x, y, z].reduce(
        ([least, most], factor, axis) => [least + factor * (factor > 0 ? box.min : box.max)[axis], most + factor * (factor > 0 ? box.max : box.min)[axis]],
        [move, move],
      );
      if (low >= min[k] && high <= max[k]) continue;
      for (let o = 0; o < p.length; o += 3) {
        const value = x * p[o] + y * p[o + 1] + z * p[o + 2] + move;
        if (value < min[k]) min[k] = value;
        if (value > max[k]) max[k] = value;
      }
    }
  });
  return min[0] <= max[0] ? { min, max } : null;
}
