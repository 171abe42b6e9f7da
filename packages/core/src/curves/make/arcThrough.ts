import type { Attribute } from '../../geometry/attributes.js';
import { curveKinds, makeCurves, type Curves } from '../../geometry/curves.js';
import { progressEvery, unbounded, type Work } from '../../base/work.js';

/** The circle through three places, metres; null when they lie in a line (or two in one place) to 1e-9 of their distances. */
interface ThreePointCircle {
  readonly centre: readonly number[];
  readonly radius: number;
  /** Unit direction from the centre to the first place, and the one a quarter turn on, toward the second. */
  readonly u: readonly number[];
  readonly v: readonly number[];
  /** Radians from the first place past the second to the third, 0…2π. */
  readonly span: number;
}

const minus = (a: readonly number[], b: readonly number[]): number[] => a.map((value, k) => value - b[k]);
const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: readonly number[], b: readonly number[]): number[] => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** Circumcentre by the cross products of the two chords from the first place (common practice). */
export function circleThrough(a: readonly number[], b: readonly number[], c: readonly number[]): ThreePointCircle | null {
  const p = minus(b, a);
  const q = minus(c, a);
  const n = cross(p, q);
  const [pp, qq, nn] = [dot(p, p), dot(q, q), dot(n, n)];
  if (!(nn > 1e-18 * pp * qq) || !(dot(minus(c, b), minus(c, b)) > 0)) return null;
  const toCentre = cross(p.map((value, k) => qq * value - pp * q[k]), n).map((value) => -value / (2 * nn)); // prettier-ignore
  const centre = a.map((value, k) => value + toCentre[k]);
  const radius = Math.hypot(...toCentre);
  const u = toCentre.map((value) => -value / radius);
  const size = Math.sqrt(nn);
  const v = cross(n.map((value) => value / size), u); // prettier-ignore
  const end = minus(c, centre);
  const angle = Math.atan2(dot(end, v), dot(end, u));
  return { centre, radius, u, v, span: angle > 0 ? angle : angle + 2 * Math.PI };
}

/**
 * One arc through each triple of places (lists of 3 numbers, equally many), with `points` points each and exact tangents. Triples in a line give
 * straight lines from the first to the last place; their numbers are returned in `collinear`.
 */
export function arcsThrough(
  a: readonly (readonly number[])[],
  b: readonly (readonly number[])[],
  c: readonly (readonly number[])[],
  points: number,
  work: Work = unbounded,
): { curves: Curves; collinear: number[] } {
  const count = a.length;
  const total = count * points;
  const positions = new Float32Array(total * 3);
  const tangent = new Float32Array(total * 3);
  const handleOut = new Float32Array(total * 3);
  const handleIn = new Float32Array(total * 3);
  const kind = new Uint8Array(count);
  const collinear: number[] = [];
  for (let i = 0; i < count; i++) {
    const arc = circleThrough(a[i], b[i], c[i]);
    if (arc) kind[i] = curveKinds.indexOf('bezier');
    else collinear.push(i);
    const step = arc ? arc.span / (points - 1) : 0;
    const handle = arc ? arc.radius * (4 / 3) * Math.tan(step / 4) : 0;
    for (let j = 0; j < points; j++) {
      if ((i * points + j) % progressEvery === 0) work.progress((i * points + j) / total);
      const o = (i * points + j) * 3;
      const [cosine, sine] = [Math.cos(j * step), Math.sin(j * step)];
      const end = j === 0 ? a[i] : j === points - 1 ? c[i] : null;
      for (let k = 0; k < 3; k++) {
        if (!arc) positions[o + k] = a[i][k] + ((c[i][k] - a[i][k]) * j) / (points - 1);
        else {
          positions[o + k] = end ? end[k] : arc.centre[k] + arc.radius * (cosine * arc.u[k] + sine * arc.v[k]);
          tangent[o + k] = cosine * arc.v[k] - sine * arc.u[k];
          handleOut[o + k] = tangent[o + k] * handle;
          handleIn[o + k] = -tangent[o + k] * handle;
        }
      }
    }
  }
  const attributes = new Map<string, Attribute>();
  if (collinear.length < count)
    for (const [name, data] of [
      ['tangent', tangent],
      ['handleOut', handleOut],
      ['handleIn', handleIn],
    ] as const)
      // prettier-ignore
      attributes.set(name, { carrier: 'point', size: 3, data });
  return { curves: makeCurves({ positions, starts: Uint32Array.from({ length: count + 1 }, (_, i) => i * points), kind, attributes }), collinear };
}
