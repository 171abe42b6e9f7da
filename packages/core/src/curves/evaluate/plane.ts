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

/** How far points reach: the farthest from the first, and the one farthest off the line through these two. */
export interface Extent {
  /** Metres from the first point to the farthest one, and from their line to the point farthest off it. */
  readonly reach: number;
  readonly width: number;
  readonly far: number;
  readonly wide: number;
}

export function extentOf(p: ArrayLike<number>, from: number, to: number): Extent {
  const away = (i: number): number[] => [0, 1, 2].map((k) => p[i * 3 + k] - p[from * 3 + k]);
  let [reach, far, width, wide] = [0, from, 0, from];
  for (let i = from; i < to; i++) {
    const d = Math.hypot(...away(i));
    if (d > reach) [reach, far] = [d, i];
  }
  const along = away(far);
  for (let i = from; i < to; i++) {
    const d = reach > 0 ? Math.hypot(...cross(along, away(i))) / reach : 0;
    if (d > width) [width, wide] = [d, i];
  }
  return { reach, width, far, wide };
}

/** Points nearer to a line than this share of their reach are in a line. */
export const straightness = 1e-6;

/**
 * The plane of a run of points by their vector area, or, where that cancels out as in a figure of eight, by the points farthest apart. Points in a line have none:
 * then the level plane through it, or an upright one where the line stands upright. The origin is the first point.
 */
export function planeThrough(p: ArrayLike<number>, from: number, to: number): Plane {
  const origin = [0, 1, 2].map((k) => p[from * 3 + k]);
  const { reach, width, far, wide } = extentOf(p, from, to);
  const [along, off] = [far, wide].map((i) => [0, 1, 2].map((k) => p[i * 3 + k] - origin[k]));
  if (width > straightness * reach) {
    const n = areaVector(p, from, to);
    return planeOf(Math.hypot(...n) > 1e-3 * reach * width ? n : cross(along, off), origin);
  }
  const way = reach > 0 ? along.map((value) => value / reach) : [1, 0, 0];
  const across = new Float64Array(3);
  perpendicular([0, 1, 0], way[0], way[1], way[2], across, 0);
  return planeOf([...across], origin);
}

const cross = (a: readonly number[], b: readonly number[]): number[] => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** The side a flat curve is seen from: its own (see `seenFrom`), that of the nearest axis, or that which a direction points to. */
export type Facing = 'own' | 'axis' | readonly [number, number, number];

/** Planes less than about a degree off the vertical count as upright. */
const upright = 0.02;

/**
 * The plane of a run of points with its normal on the side that it is seen from. A curve's own side is above where its plane is not upright. An upright closed
 * curve is seen from where it runs counter-clockwise; an upright open one from where up is to the left of its way from end to end, or, where that is straight up,
 * from where it bends to the left. So turning a curve about the vertical turns its normal with it.
 */
export function seenFrom(plane: Plane, facing: Facing, p: ArrayLike<number>, from: number, to: number, closed: boolean): Plane {
  if (facing === 'axis') return plane;
  const towards = facing === 'own' ? ownSide(plane, p, from, to, closed) : facing;
  const toward = dot(plane.normal, towards);
  // A direction within the plane decides nothing.
  if (Math.abs(toward) < 1e-9 * Math.hypot(...towards)) return facing === 'own' ? plane : seenFrom(plane, 'own', p, from, to, closed);
  return toward > 0 ? plane : { ...plane, normal: plane.normal.map((value) => -value), v: plane.v.map((value) => -value) };
}

function ownSide({ normal }: Plane, p: ArrayLike<number>, from: number, to: number, closed: boolean): readonly [number, number, number] {
  if (Math.abs(normal[1]) > upright) return [0, 1, 0];
  const [dx, dz] = [0, 2].map((k) => p[(to - 1) * 3 + k] - p[from * 3 + k]);
  let reach = 0;
  for (let i = from; i < to; i++) reach = Math.max(reach, Math.hypot(...[0, 1, 2].map((k) => p[i * 3 + k] - p[from * 3 + k])));
  // Square to the way from end to end and to up.
  return closed || Math.hypot(dx, dz) < 1e-3 * reach ? areaVector(p, from, to) : [-dz, 0, dx];
}

const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

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
