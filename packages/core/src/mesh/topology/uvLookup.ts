import { faceCount, type Mesh } from '../../geometry/mesh.js';
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
  /** Triangles of each cell, one cell after another from `cellStarts` on. */
  private readonly cells: Uint32Array;
  private readonly cellStarts: Uint32Array;
  private readonly side: number;
  private readonly uv: Float32Array;
  /** Barycentric weights of the UV that was looked at last, and of the best triangle so far. */
  private readonly weights = new Float64Array(3);
  private readonly best = new Float64Array(3);

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
    this.cellStarts = new Uint32Array(this.side * this.side + 1);
    this.forEachCell((cell) => void this.cellStarts[cell + 1]++);
    for (let cell = 0; cell < this.side * this.side; cell++) this.cellStarts[cell + 1] += this.cellStarts[cell];
    this.cells = new Uint32Array(this.cellStarts[this.side * this.side]);
    const filled = this.cellStarts.slice();
    this.forEachCell((cell, t) => void (this.cells[filled[cell]++] = t));
  }

  /** Every cell that the box of a triangle touches, for every triangle. */
  private forEachCell(visit: (cell: number, triangle: number) => void): void {
    const { triangles, uv, side } = this;
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [triangles[t] * 2, triangles[t + 1] * 2, triangles[t + 2] * 2];
      const [x0, x1] = [this.cellOf(Math.min(uv[a], uv[b], uv[c]), 0), this.cellOf(Math.max(uv[a], uv[b], uv[c]), 0)];
      const [y0, y1] = [this.cellOf(Math.min(uv[a + 1], uv[b + 1], uv[c + 1]), 1), this.cellOf(Math.max(uv[a + 1], uv[b + 1], uv[c + 1]), 1)];
      for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) visit(y * side + x, t);
    }
  }

  private cellOf(value: number, k: 0 | 1): number {
    return Math.min(this.side - 1, Math.max(0, Math.floor(((value - this.least[k]) / (this.most[k] - this.least[k])) * this.side)));
  }

  /** Writes place and unit normal (6 numbers) for a UV; false when no triangle is in reach. */
  at(u: number, v: number, out: Float64Array): boolean {
    const [x, y] = [this.cellOf(u, 0), this.cellOf(v, 1)];
    const { side, cells, cellStarts, weights, best } = this;
    let found = -1;
    let slack = -Infinity;
    for (let reach = 0; reach <= 1 && slack < -1e-9; reach++)
      for (let j = Math.max(0, y - reach); j <= Math.min(side - 1, y + reach); j++)
        for (let i = Math.max(0, x - reach); i <= Math.min(side - 1, x + reach); i++)
          for (let at = cellStarts[j * side + i]; at < cellStarts[j * side + i + 1]; at++) {
            if (!this.weigh(cells[at], u, v)) continue;
            const least = Math.min(weights[0], weights[1], weights[2]);
            if (least <= slack) continue;
            [slack, found] = [least, cells[at]];
            best[0] = weights[0];
            best[1] = weights[1];
            best[2] = weights[2];
          }
    if (found < 0) return false;
    const { positions } = this.mesh;
    const n = this.mesh.attributes.get('normal')?.data;
    // Just outside, the triangle's own border is taken.
    for (let i = 0; i < 3; i++) best[i] = Math.max(0, best[i]);
    const sum = best[0] + best[1] + best[2];
    out.fill(0, 0, 6);
    for (let i = 0; i < 3; i++) {
      const o = this.triangles[found + i] * 3;
      for (let k = 0; k < 3; k++) {
        out[k] += (best[i] / sum) * positions[o + k];
        if (n) out[3 + k] += best[i] * n[o + k];
      }
    }
    const size = Math.hypot(out[3], out[4], out[5]) || 1;
    for (let k = 3; k < 6; k++) out[k] /= size;
    return true;
  }

  /** Writes the barycentric weights of a UV in triangle `t`; false when it has no area. */
  private weigh(t: number, u: number, v: number): boolean {
    const { uv, triangles, weights } = this;
    const a = triangles[t] * 2;
    const b = triangles[t + 1] * 2;
    const c = triangles[t + 2] * 2;
    const ux = uv[b] - uv[a];
    const uy = uv[b + 1] - uv[a + 1];
    const vx = uv[c] - uv[a];
    const vy = uv[c + 1] - uv[a + 1];
    const det = ux * vy - uy * vx;
    if (Math.abs(det) < 1e-20) return false;
    const px = u - uv[a];
    const py = v - uv[a + 1];
    weights[1] = (px * vy - py * vx) / det;
    weights[2] = (ux * py - uy * px) / det;
    weights[0] = 1 - weights[1] - weights[2];
    return true;
  }
}
