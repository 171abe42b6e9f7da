import { faceCount, type Mesh } from '../../geometry/mesh.js';
import { PlaneCells } from '../../space/planeCells.js';
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
  private readonly cells: PlaneCells;
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
    const boxes = new Float64Array((kept.length / 3) * 4);
    for (let t = 0, box = 0; t < kept.length; t += 3, box += 4)
      for (const k of [0, 1]) {
        const [a, b, c] = [0, 1, 2].map((i) => this.uv[kept[t + i] * 2 + k]);
        boxes[box + k] = Math.min(a, b, c);
        boxes[box + 2 + k] = Math.max(a, b, c);
        this.least[k] = Math.min(this.least[k], boxes[box + k]);
        this.most[k] = Math.max(this.most[k], boxes[box + 2 + k]);
      }
    if (!(this.most[0] > this.least[0] && this.most[1] > this.least[1]))
      throw new RangeError('The UVs of the mesh cover no area, so nothing can be laid out on it.');
    this.cells = new PlaneCells(boxes, Math.sqrt(kept.length / 3));
  }

  /** Writes place and unit normal (6 numbers) for a UV; false when no triangle is in reach. */
  at(u: number, v: number, out: Float64Array): boolean {
    const { weights, best } = this;
    let found = -1;
    let slack = -Infinity;
    const look = (item: number): void => {
      if (!this.weigh(item * 3, u, v)) return;
      const least = Math.min(weights[0], weights[1], weights[2]);
      if (least <= slack) return;
      [slack, found] = [least, item * 3];
      best.set(weights);
    };
    for (let reach = 0; reach <= 1 && slack < -1e-9; reach++) this.cells.near(u, v, u, v, look, reach);
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
