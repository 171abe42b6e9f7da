import type { Surface } from './surface.js';

/** How a walk ended: at its length, at a border of the body, or where it could not go on (a body of slivers). */
export type WalkEnd = 'there' | 'border' | 'stuck';

/** Most triangles that one walk passes. */
const mostTriangles = 20_000;

/** A place shared by two triangles counts as passed when it is this much of a side nearer. */
const slack = 1e-9;

/**
 * Walks straight on over a body, triangle by triangle: the way is unfolded at every side, so it is a geodesic of the triangles, and stays on them exactly. One walker is used
 * for many walks; `place`, `along` and `triangle` say where it is and which way it looks.
 */
export class SurfaceWalk {
  readonly place = new Float64Array(3);
  /** Unit direction, in the plane of the triangle. */
  readonly along = new Float64Array(3);
  triangle = 0;
  private readonly corners: Float32Array;

  private readonly normals: Float64Array;
  private readonly beyond: Int32Array;

  constructor(body: Surface) {
    this.corners = body.nearest.pieces.corners;
    this.normals = body.triangleNormals;
    this.beyond = body.beyond;
  }

  /** Stands at a place of a triangle, looking as much in a direction as its plane lets; false where the direction is across it, or the triangle has no area. */
  stand(triangle: number, place: ArrayLike<number>, direction: ArrayLike<number>): boolean {
    this.triangle = triangle;
    for (let k = 0; k < 3; k++) this.place[k] = place[k];
    return this.look(direction);
  }

  /** Looks in another direction, as much as the plane of the triangle lets. */
  look(direction: ArrayLike<number>): boolean {
    const n = this.normals.subarray(this.triangle * 3, this.triangle * 3 + 3);
    const off = direction[0] * n[0] + direction[1] * n[1] + direction[2] * n[2];
    const [x, y, z] = [direction[0] - off * n[0], direction[1] - off * n[1], direction[2] - off * n[2]];
    const size = Math.sqrt(x * x + y * y + z * z);
    if (!(size > 1e-9) || n[0] * n[0] + n[1] * n[1] + n[2] * n[2] < 0.5) return false;
    this.along[0] = x / size;
    this.along[1] = y / size;
    this.along[2] = z / size;
    return true;
  }

  /** Turns to the left about the normal, by an angle in radians. */
  turn(angle: number): void {
    const { along, normals } = this;
    const o = this.triangle * 3;
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    const x = along[0];
    const y = along[1];
    const z = along[2];
    along[0] = c * x + s * (normals[o + 1] * z - normals[o + 2] * y);
    along[1] = c * y + s * (normals[o + 2] * x - normals[o] * z);
    along[2] = c * z + s * (normals[o] * y - normals[o + 1] * x);
  }

  /** Goes on by so many metres. `crossed` is told of each side passed: the triangle before it, and how far the way had gone. */
  go(length: number, crossed?: (before: number, gone: number) => void): WalkEnd {
    const { corners: c, place: p, along: d, beyond, normals } = this;
    let left = length;
    let from = -1;
    for (let passed = 0; passed < mostTriangles; passed++) {
      const o = this.triangle * 9;
      const nx = normals[this.triangle * 3];
      const ny = normals[this.triangle * 3 + 1];
      const nz = normals[this.triangle * 3 + 2];
      let side = -1;
      let reach = Infinity;
      for (let k = 0; k < 3; k++) {
        if (k === from) continue;
        const a = o + k * 3;
        const b = k === 2 ? o : a + 3;
        const ex = c[b] - c[a];
        const ey = c[b + 1] - c[a + 1];
        const ez = c[b + 2] - c[a + 2];
        // Inwards from the side, in the plane.
        const mx = ny * ez - nz * ey;
        const my = nz * ex - nx * ez;
        const mz = nx * ey - ny * ex;
        const speed = d[0] * mx + d[1] * my + d[2] * mz;
        if (!(speed < 0) || !(speed * speed > slack * slack * (mx * mx + my * my + mz * mz))) continue;
        const t = Math.max(0, ((p[0] - c[a]) * mx + (p[1] - c[a + 1]) * my + (p[2] - c[a + 2]) * mz) / -speed);
        if (t < reach) {
          reach = t;
          side = k;
        }
      }
      if (side < 0) return 'stuck';
      const step = Math.min(left, reach);
      for (let k = 0; k < 3; k++) p[k] += d[k] * step;
      left -= step;
      if (reach > left + step) return 'there';
      const next = beyond[this.triangle * 3 + side];
      if (next < 0) return 'border';
      const before = this.triangle;
      if (!this.cross(side, next)) return 'stuck';
      from = beyond[next * 3] === before ? 0 : beyond[next * 3 + 1] === before ? 1 : beyond[next * 3 + 2] === before ? 2 : -1;
      crossed?.(before, length - left);
      if (left <= 0) return 'there';
    }
    return 'stuck';
  }

  /** Into the triangle beyond a side: the direction keeps its angle to the side. */
  private cross(side: number, next: number): boolean {
    const { corners: c, along: d } = this;
    const o = this.triangle * 9;
    const a = o + side * 3;
    const b = side === 2 ? o : a + 3;
    let ex = c[b] - c[a];
    let ey = c[b + 1] - c[a + 1];
    let ez = c[b + 2] - c[a + 2];
    const size = Math.sqrt(ex * ex + ey * ey + ez * ez);
    if (!(size > 0)) return false;
    ex /= size;
    ey /= size;
    ez /= size;
    const share = d[0] * ex + d[1] * ey + d[2] * ez;
    const over = Math.sqrt(Math.max(0, 1 - share * share));
    // Away from the side within the next triangle: towards its corner that lies furthest off the side.
    let ox = 0;
    let oy = 0;
    let oz = 0;
    let most = 0;
    for (let k = next * 9; k < next * 9 + 9; k += 3) {
      const x = c[k] - c[a];
      const y = c[k + 1] - c[a + 1];
      const z = c[k + 2] - c[a + 2];
      const on = x * ex + y * ey + z * ez;
      const rx = x - on * ex;
      const ry = y - on * ey;
      const rz = z - on * ez;
      const far = rx * rx + ry * ry + rz * rz;
      if (far <= most) continue;
      ox = rx;
      oy = ry;
      oz = rz;
      most = far;
    }
    if (!(most > 0)) return false;
    const away = over / Math.sqrt(most);
    this.triangle = next;
    d[0] = share * ex + away * ox;
    d[1] = share * ey + away * oy;
    d[2] = share * ez + away * oz;
    return true;
  }
}
