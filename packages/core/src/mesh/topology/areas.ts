import { tick, unbounded, type Work } from '../../base/work.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';

/** Twice the vector area of each face (Newell; common practice): 3 numbers a face, along the outward normal. */
export function faceAreas(mesh: Mesh, work: Work = unbounded): Float64Array {
  const { positions: p, corners } = mesh;
  const faces = faceCount(mesh);
  const result = new Float64Array(faces * 3);
  for (let f = 0; f < faces; f++) {
    tick(work, f, faces);
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    const o = corners[from] * 3;
    let x = 0;
    let y = 0;
    let z = 0;
    for (let i = from + 1; i + 1 < to; i++) {
      const a = corners[i] * 3;
      const b = corners[i + 1] * 3;
      const ux = p[a] - p[o];
      const uy = p[a + 1] - p[o + 1];
      const uz = p[a + 2] - p[o + 2];
      const vx = p[b] - p[o];
      const vy = p[b + 1] - p[o + 1];
      const vz = p[b + 2] - p[o + 2];
      x += uy * vz - uz * vy;
      y += uz * vx - ux * vz;
      z += ux * vy - uy * vx;
    }
    result[f * 3] = x;
    result[f * 3 + 1] = y;
    result[f * 3 + 2] = z;
  }
  return result;
}

/** Volume that the faces of `which` (all, by default) enclose, positive when they face outwards (divergence theorem); from the first place on, so that small bodies far away keep their digits. */
export function signedVolume(mesh: Mesh, areas: Float64Array = faceAreas(mesh), which: ArrayLike<number> | null = null): number {
  const p = mesh.positions;
  let volume = 0;
  const count = which ? which.length : faceCount(mesh);
  const origin = mesh.corners[count ? faceStart(mesh, which ? which[0] : 0) : 0] * 3;
  for (let i = 0; i < count; i++) {
    const f = which ? which[i] : i;
    const a = mesh.corners[faceStart(mesh, f)] * 3;
    for (let k = 0; k < 3; k++) volume += (p[a + k] - p[origin + k]) * areas[f * 3 + k];
  }
  return volume / 6;
}
