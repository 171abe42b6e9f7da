import { faceCount, faceStart, triangleCount, type Mesh } from '../../geometry/mesh.js';
import { intoPlane, planeOf } from '../../curves/evaluate/plane.js';
import { freshMemory, type Memory } from '../../base/work.js';
import { isConvex, triangulatePolygon } from './polygon.js';

/**
 * Vertex indices of triangles, 3 each, and the face each came from. Faces are cut into fans from their first corner; faces of mixed meshes that
 * are not convex by ears in their own plane, each into as many triangles as a fan has.
 */
export function triangulate(mesh: Mesh, memory: Memory = freshMemory): { indices: Uint32Array; faceOf: Uint32Array } {
  const indices = memory.uint32(triangleCount(mesh) * 3);
  const faceOf = memory.uint32(triangleCount(mesh));
  const { corners } = mesh;
  if (mesh.uniform === 4) {
    for (let f = 0; f < corners.length / 4; f++) quadTriangles(corners, f * 4, f, indices, faceOf, f * 6);
    return { indices, faceOf };
  }
  const faces = faceCount(mesh);
  const { uniform } = mesh;
  for (let f = 0, from = 0, at = 0; f < faces; f++) {
    const to = faceStart(mesh, f + 1);
    const size = to - from;
    if (!uniform && size === 4 && isFan(mesh, from)) {
      quadTriangles(corners, from, f, indices, faceOf, at);
      at += 6;
      from = to;
      continue;
    }
    const ears = uniform || size === 3 ? null : earsOf(mesh, from, to);
    for (let i = 0; i < to - from - 2; i++) {
      faceOf[at / 3] = f;
      indices[at++] = corners[from + (ears ? ears[i * 3] : 0)];
      indices[at++] = corners[from + (ears ? ears[i * 3 + 1] : i + 1)];
      indices[at++] = corners[from + (ears ? ears[i * 3 + 2] : i + 2)];
    }
    from = to;
  }
  return { indices, faceOf };
}

/** Writes the two triangles of a quad, which begins at `from` among the corners, from `at` on. */
function quadTriangles(corners: Uint32Array, from: number, face: number, indices: Uint32Array, faceOf: Uint32Array, at: number): void {
  const a = corners[from];
  const c = corners[from + 2];
  indices[at] = a;
  indices[at + 1] = corners[from + 1];
  indices[at + 2] = c;
  indices[at + 3] = a;
  indices[at + 4] = c;
  indices[at + 5] = corners[from + 3];
  faceOf[at / 3] = face;
  faceOf[at / 3 + 1] = face;
}

/** Whether the two triangles of a quad's fan face the same way, so that the fan covers it. */
function isFan({ corners, positions: p }: Mesh, from: number): boolean {
  const a = corners[from] * 3;
  const b = corners[from + 1] * 3;
  const c = corners[from + 2] * 3;
  const d = corners[from + 3] * 3;
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[c] - p[a];
  const vy = p[c + 1] - p[a + 1];
  const vz = p[c + 2] - p[a + 2];
  const wx = p[d] - p[a];
  const wy = p[d + 1] - p[a + 1];
  const wz = p[d + 2] - p[a + 2];
  const facing = (uy * vz - uz * vy) * (vy * wz - vz * wy) + (uz * vx - ux * vz) * (vz * wx - vx * wz) + (ux * vy - uy * vx) * (vx * wy - vy * wx);
  return facing > 0;
}

/** Ears of a face that is not convex. */
function earsOf(mesh: Mesh, from: number, to: number): number[] | null {
  const places = new Float64Array((to - from) * 3);
  for (let i = 0; i < to - from; i++) for (let k = 0; k < 3; k++) places[i * 3 + k] = mesh.positions[mesh.corners[from + i] * 3 + k];
  return earsOfPolygon(places);
}

/**
 * Ears of a polygon that is not convex, 3 corners each, in its own plane; null for convex ones, and where ears do not come out whole (an outline that crosses
 * itself): a fan serves those.
 */
export function earsOfPolygon(places: Float64Array): number[] | null {
  const count = places.length / 3;
  const n = [0, 0, 0];
  for (let i = 1; i + 1 < count; i++) {
    const [a, b] = [i * 3, i * 3 + 3];
    const u = [0, 1, 2].map((k) => places[a + k] - places[k]);
    const v = [0, 1, 2].map((k) => places[b + k] - places[k]);
    n[0] += u[1] * v[2] - u[2] * v[1];
    n[1] += u[2] * v[0] - u[0] * v[2];
    n[2] += u[0] * v[1] - u[1] * v[0];
  }
  const plane = planeOf(n, [places[0], places[1], places[2]]);
  const turned = plane.normal[0] * n[0] + plane.normal[1] * n[1] + plane.normal[2] * n[2] < 0;
  const local = intoPlane(plane, places, 0, count);
  const flat: number[] = [];
  for (let i = 0; i < count; i++) flat.push(local[i * 3], turned ? -local[i * 3 + 1] : local[i * 3 + 1]);
  if (isConvex(flat)) return null;
  const ears = triangulatePolygon(flat);
  return ears.length === (count - 2) * 3 ? ears : null;
}
