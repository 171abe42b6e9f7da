import { perpendicular } from './transport.js';

/** A plane through an origin with two unit directions in it; their cross product is its normal. */
export interface Plane {
  readonly origin: readonly number[];
  readonly normal: readonly number[];
  readonly u: readonly number[];
  readonly v: readonly number[];
}

/** The axis that a direction points along most. */
const dominant = (n: readonly number[]): number => {
  const size = n.map(Math.abs);
  // A little in favour of the earlier axis, so that round-off does not decide.
  return size[1] >= size[0] * (1 - 1e-9) && size[1] >= size[2] * (1 - 1e-9) ? 1 : size[2] >= size[0] * (1 - 1e-9) ? 2 : 0;
};

/**
 * The plane square to a normal, with u along world X as far as the plane allows (Y where the normal is X), as circles have it. The normal is turned
 * so that its greatest part is positive.
 */
export function planeOf(normal: readonly number[], origin: readonly number[] = [0, 0, 0]): Plane {
  const size = Math.hypot(...normal) || 1;
  const sign = normal[dominant(normal)] < 0 ? -1 : 1;
  const n = normal.map((value) => (sign * value) / size);
  const u = new Float64Array(3);
  perpendicular(Math.abs(n[0]) > 1 - 1e-6 ? [0, 1, 0] : [1, 0, 0], n[0], n[1], n[2], u, 0);
  return { origin, normal: n, u: [...u], v: [n[1] * u[2] - n[2] * u[1], n[2] * u[0] - n[0] * u[2], n[0] * u[1] - n[1] * u[0]] };
}

/**
 * The plane of a run of points by their vector area; points in a line have none: then the level plane through it, or an upright one where the line
 * stands upright. The origin is the first point.
 */
export function planeThrough(p: ArrayLike<number>, from: number, to: number): Plane {
  const n = areaVector(p, from, to);
  const origin = [0, 1, 2].map((k) => p[from * 3 + k]);
  let reach = 0;
  let far = from;
  for (let i = from; i < to; i++) {
    const d = Math.hypot(p[i * 3] - origin[0], p[i * 3 + 1] - origin[1], p[i * 3 + 2] - origin[2]);
    if (d > reach) [reach, far] = [d, i];
  }
  if (Math.hypot(...n) > 1e-9 * reach * reach) return planeOf(n, origin);
  const along = [0, 1, 2].map((k) => (reach > 0 ? (p[far * 3 + k] - origin[k]) / reach : k === 0 ? 1 : 0));
  const across = new Float64Array(3);
  perpendicular([0, 1, 0], along[0], along[1], along[2], across, 0);
  return planeOf([...across], origin);
}

/** Coordinates of points in the plane and their heights above it: 3 numbers each. */
export function intoPlane({ origin, u, v, normal }: Plane, p: ArrayLike<number>, from: number, to: number): Float64Array {
  const result = new Float64Array((to - from) * 3);
  for (let i = from; i < to; i++) {
    const d = [0, 1, 2].map((k) => p[i * 3 + k] - origin[k]);
    const o = (i - from) * 3;
    [u, v, normal].forEach((axis, k) => (result[o + k] = d[0] * axis[0] + d[1] * axis[1] + d[2] * axis[2]));
  }
  return result;
}

/** The place in space of plane coordinates (x, y) at a height. */
export const outOfPlane = ({ origin, u, v, normal }: Plane, x: number, y: number, height: number): number[] =>
  origin.map((value, k) => value + x * u[k] + y * v[k] + height * normal[k]);

/** Twice the vector area of the polygon of a curve's points (Newell; common practice): square to its plane, by its direction of turning. */
export function areaVector(p: ArrayLike<number>, from: number, to: number): [number, number, number] {
  const n: [number, number, number] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const a = i * 3;
    const b = (i + 1 < to ? i + 1 : from) * 3;
    // Measured from the first point, so that small outlines far away keep their digits.
    const [ax, ay, az] = [p[a] - p[from * 3], p[a + 1] - p[from * 3 + 1], p[a + 2] - p[from * 3 + 2]];
    const [bx, by, bz] = [p[b] - p[from * 3], p[b + 1] - p[from * 3 + 1], p[b + 2] - p[from * 3 + 2]];
    n[0] += ay * bz - az * by;
    n[1] += az * bx - ax * bz;
    n[2] += ax * by - ay * bx;
  }
  return n;
}
