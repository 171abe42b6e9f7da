import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';

type Triple = [number, number, number];

/** How a part of a mesh lies in space. */
export interface PartShape {
  /** Middle of its surface, metres. */
  readonly centre: Triple;
  /** Its principal axes, the longest first, a right-handed frame of unit vectors. */
  readonly axes: readonly [Triple, Triple, Triple];
  /** How far it reaches along each axis, metres. */
  readonly size: Triple;
  /** Where it begins along its long axis, metres from the centre (negative). */
  readonly from: number;
  /** Area, m². */
  readonly area: number;
  /** Its two longest axes are as good as equal, so that which is the long one was agreed, not found. */
  readonly uncertain: boolean;
}

/** Axes whose second moments differ by less than this share count as equal. */
const equalShare = 1e-4;

/** Components below this do not decide a sign. */
const tiny = 1e-3;

/**
 * Middle, principal axes and size of each part of a mesh, from the second moments of its surface (exact over triangles), so that how finely it is divided does not
 * matter. An axis has no sign of its own; agreed is: it points up, one that lies level to the right, one that points neither way to the front.
 */
export function partShapes(mesh: Mesh, ofFace: ArrayLike<number>, count: number, work: Work = unbounded): PartShape[] {
  const moments = Array.from({ length: count }, () => new Moments());
  const seen = new Int32Array(count).fill(-1);
  const p = mesh.positions;
  eachTriangle(mesh, work, (f, a, b, c) => {
    const part = ofFace[f];
    // About a place of the part itself, so that those far from the origin keep their digits.
    if (seen[part] < 0) {
      seen[part] = a;
      moments[part].origin = [p[a], p[a + 1], p[a + 2]];
    }
    moments[part].add(p, a, b, c);
  });
  const frames = moments.map((moment) => moment.frame());
  const low = frames.map((): Triple => [Infinity, Infinity, Infinity]);
  const high = frames.map((): Triple => [-Infinity, -Infinity, -Infinity]);
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const part = ofFace[f];
    const { centre, axes } = frames[part];
    for (let i = faceStart(mesh, f), to = faceStart(mesh, f + 1); i < to; i++) {
      const o = mesh.corners[i] * 3;
      for (let k = 0; k < 3; k++) {
        const along = (p[o] - centre[0]) * axes[k][0] + (p[o + 1] - centre[1]) * axes[k][1] + (p[o + 2] - centre[2]) * axes[k][2];
        if (along < low[part][k]) low[part][k] = along;
        if (along > high[part][k]) high[part][k] = along;
      }
    }
  }
  return frames.map((frame, part) => ({ ...frame, size: [0, 1, 2].map((k) => Math.max(0, high[part][k] - low[part][k])) as Triple, from: low[part][0] }));
}

function eachTriangle(mesh: Mesh, work: Work, visit: (face: number, a: number, b: number, c: number) => void): void {
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
    for (let i = from + 1; i + 1 < to; i++) visit(f, mesh.corners[from] * 3, mesh.corners[i] * 3, mesh.corners[i + 1] * 3);
  }
}

/** Area and first and second moments of triangles about an origin. */
class Moments {
  origin: Triple = [0, 0, 0];
  private area = 0;
  private readonly first: Triple = [0, 0, 0];
  /** xx, xy, xz, yy, yz, zz. */
  private readonly second = [0, 0, 0, 0, 0, 0];

  add(p: Float32Array, a: number, b: number, c: number): void {
    const { origin, first, second } = this;
    const at = (o: number): Triple => [p[o] - origin[0], p[o + 1] - origin[1], p[o + 2] - origin[2]];
    const [u, v, w] = [at(a), at(b), at(c)];
    const [ux, uy, uz] = [v[0] - u[0], v[1] - u[1], v[2] - u[2]];
    const [vx, vy, vz] = [w[0] - u[0], w[1] - u[1], w[2] - u[2]];
    const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
    this.area += area;
    const sum = [0, 1, 2].map((k) => u[k] + v[k] + w[k]);
    for (let k = 0; k < 3; k++) first[k] += (area * sum[k]) / 3;
    for (let i = 0, n = 0; i < 3; i++) for (let j = i; j < 3; j++, n++) second[n] += (area / 12) * (u[i] * u[j] + v[i] * v[j] + w[i] * w[j] + sum[i] * sum[j]);
  }

  frame(): { centre: Triple; axes: [Triple, Triple, Triple]; area: number; uncertain: boolean } {
    const { area, first, origin } = this;
    const upright: [Triple, Triple, Triple] = [[0, 1, 0], [0, 0, 1], [1, 0, 0]]; // prettier-ignore
    if (!(area > 0)) return { centre: origin, axes: upright, area: 0, uncertain: true };
    const middle = first.map((value) => value / area);
    const [xx, xy, xz, yy, yz, zz] = this.second.map((value) => value / area);
    const [mx, my, mz] = middle;
    const { values, vectors } = eigen([
      [xx - mx * mx, xy - mx * my, xz - mx * mz],
      [xy - mx * my, yy - my * my, yz - my * mz],
      [xz - mx * mz, yz - my * mz, zz - mz * mz],
    ]);
    const equal = (a: number, b: number): boolean => values[a] - values[b] <= equalShare * Math.max(values[0], 1e-300);
    const uncertain = equal(0, 1);
    const long = agreed(uncertain ? within(vectors.slice(0, equal(0, 2) ? 3 : 2)) : vectors[0]);
    const rest = uncertain || equal(1, 2) ? within(uncertain && !equal(0, 2) ? vectors.slice(0, 2) : vectors, long) : vectors[1];
    const second = agreed(rest);
    const third: Triple = [long[1] * second[2] - long[2] * second[1], long[2] * second[0] - long[0] * second[2], long[0] * second[1] - long[1] * second[0]];
    return { centre: [0, 1, 2].map((k) => origin[k] + middle[k]) as Triple, axes: [long, second, third], area, uncertain };
  }
}

/** Up; if level to the right; if neither to the front. */
function agreed(axis: Triple): Triple {
  const deciding = [axis[1], axis[0], axis[2]].find((value) => Math.abs(value) > tiny) ?? 1;
  return deciding < 0 ? [-axis[0], -axis[1], -axis[2]] : axis;
}

/** Of all directions among equal axes (across `from`) the one nearest to an axis of space: up first, then right, then front. */
function within(vectors: readonly Triple[], from: Triple | null = null): Triple {
  let best: Triple = vectors[0];
  let most = 0;
  for (const k of [1, 0, 2]) {
    const d: Triple = [0, 0, 0];
    for (const v of vectors) for (let i = 0; i < 3; i++) d[i] += v[k] * v[i];
    if (from) {
      const along = d[0] * from[0] + d[1] * from[1] + d[2] * from[2];
      for (let i = 0; i < 3; i++) d[i] -= along * from[i];
    }
    const size = Math.hypot(...d);
    if (size > most + 1e-6) [best, most] = [[d[0] / size, d[1] / size, d[2] / size], size];
  }
  return best;
}

/** Eigenvalues, the greatest first, and unit eigenvectors of a symmetric matrix (Jacobi 1846; sweeps as in common practice). */
function eigen(matrix: number[][]): { values: Triple; vectors: Triple[] } {
  const a = matrix.map((row) => [...row]);
  const v = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
  for (let sweep = 0; sweep < 30; sweep++) {
    const off = Math.abs(a[0][1]) + Math.abs(a[0][2]) + Math.abs(a[1][2]);
    if (!(off > 1e-300)) break;
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      // prettier-ignore
      if (a[p][q] === 0) continue;
      const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
      const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) [a[k][p], a[k][q]] = [c * a[k][p] - s * a[k][q], s * a[k][p] + c * a[k][q]];
      for (let k = 0; k < 3; k++) [a[p][k], a[q][k]] = [c * a[p][k] - s * a[q][k], s * a[p][k] + c * a[q][k]];
      for (let k = 0; k < 3; k++) [v[k][p], v[k][q]] = [c * v[k][p] - s * v[k][q], s * v[k][p] + c * v[k][q]];
    }
  }
  const order = [0, 1, 2].sort((i, j) => a[j][j] - a[i][i]);
  return { values: order.map((i) => a[i][i]) as Triple, vectors: order.map((i): Triple => [v[0][i], v[1][i], v[2][i]]) };
}
