import { faceCount, type Mesh } from '../geometry/mesh.js';
import { triangulate } from './triangulate.js';

/**
 * Finds the place on a mesh for UVs: its triangles sorted into cells of the UV plane. Where UVs overlap the first triangle counts; just outside all
 * triangles the nearest one in reach serves.
 */
export class UvLookup {
  /** Least and greatest UV of the faces looked at. */
  readonly least: [number, number] = [Infinity, Infinity];
  readonly most: [number, number] = [-Infinity, -Infinity];
  private readonly triangles: Uint32Array;
  private readonly cells: number[][];
  private readonly side: number;
  private readonly uv: Float32Array;

  /** @param keep 1 for each face that counts. @throws RangeError when the mesh has no UVs, or they have no extent. */
  constructor(
    private readonly mesh: Mesh,
    keep: (face: number) => boolean = () => true,
  ) {
    const uv = mesh.attributes.get('uv');
    if (!uv || !faceCount(mesh)) throw new RangeError('The mesh has no UVs, so nothing can be laid out on it.');
    this.uv = uv.data;
    const { indices, faceOf } = triangulate(mesh);
    const kept: number[] = [];
    for (let t = 0; t < faceOf.length; t++) if (keep(faceOf[t])) kept.push(indices[t * 3], indices[t * 3 + 1], indices[t * 3 + 2]);
    this.triangles = Uint32Array.from(kept);
    for (const v of this.triangles)
      for (const k of [0, 1]) {
        this.least[k] = Math.min(this.least[k], this.uv[v * 2 + k]);
        this.most[k] = Math.max(this.most[k], this.uv[v * 2 + k]);
      }
    if (!(this.most[0] > this.least[0] && this.most[1] > this.least[1]))
      throw new RangeError('The UVs of the mesh cover no area, so nothing can be laid out on it.');
    this.side = Math.max(1, Math.min(512, Math.ceil(Math.sqrt(this.triangles.length / 3))));
    this.cells = Array.from({ length: this.side * this.side }, () => []);
    for (let t = 0; t < this.triangles.length; t += 3) {
      const corners = [0, 1, 2].map((i) => this.cellOf(this.uv[this.triangles[t + i] * 2], this.uv[this.triangles[t + i] * 2 + 1]));
      const [x0, x1] = [Math.min(...corners.map(([x]) => x)), Math.max(...corners.map(([x]) => x))];
      const [y0, y1] = [Math.min(...corners.map(([, y]) => y)), Math.max(...corners.map(([, y]) => y))];
      for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) this.cells[y * this.side + x].push(t);
    }
  }

  private cellOf(u: number, v: number): [number, number] {
    const at = (value: number, k: 0 | 1): number =>
      Math.min(this.side - 1, Math.max(0, Math.floor(((value - this.least[k]) / (this.most[k] - this.least[k])) * this.side)));
    return [at(u, 0), at(v, 1)];
  }

  /** Writes place and unit normal (6 numbers) for a UV; false when no triangle is in reach. */
  at(u: number, v: number, out: Float64Array): boolean {
    const [x, y] = this.cellOf(u, v);
    let best = -1;
    let slack = -Infinity;
    const weights = [0, 0, 0];
    for (let reach = 0; reach <= 1 && slack < -1e-9; reach++)
      for (let j = Math.max(0, y - reach); j <= Math.min(this.side - 1, y + reach); j++)
        for (let i = Math.max(0, x - reach); i <= Math.min(this.side - 1, x + reach); i++)
          for (const t of this.cells[j * this.side + i]) {
            const w = this.weights(t, u, v);
            if (!w) continue;
            const least = Math.min(w[0], w[1], w[2]);
            if (least <= slack) continue;
            [slack, best] = [least, t];
            weights.splice(0, 3, ...w);
          }
    if (best < 0) return false;
    const n = this.mesh.attributes.get('normal')?.data;
    // Just outside, the triangle's own border is taken.
    const inside = weights.map((w) => Math.max(0, w));
    const sum = inside[0] + inside[1] + inside[2];
    out.fill(0, 0, 6);
    inside.forEach((w, i) => {
      const o = this.triangles[best + i] * 3;
      for (let k = 0; k < 3; k++) {
        out[k] += (w / sum) * this.mesh.positions[o + k];
        out[3 + k] += n ? w * n[o + k] : 0;
      }
    });
    const size = Math.hypot(out[3], out[4], out[5]) || 1;
    for (let k = 3; k < 6; k++) out[k] /= size;
    return true;
  }

  /** Barycentric weights of a UV in triangle `t`; null when it has no area. */
  private weights(t: number, u: number, v: number): [number, number, number] | null {
    const [a, b, c] = [this.triangles[t] * 2, this.triangles[t + 1] * 2, this.triangles[t + 2] * 2];
    const uv = this.uv;
    const [ux, uy, vx, vy] = [uv[b] - uv[a], uv[b + 1] - uv[a + 1], uv[c] - uv[a], uv[c + 1] - uv[a + 1]];
    const det = ux * vy - uy * vx;
    if (Math.abs(det) < 1e-20) return null;
    const [px, py] = [u - uv[a], v - uv[a + 1]];
    const wb = (px * vy - py * vx) / det;
    const wc = (ux * py - uy * px) / det;
    return [1 - wb - wc, wb, wc];
  }
}
