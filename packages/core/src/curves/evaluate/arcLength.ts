import { boundsOf, unionBounds, type Bounds } from '../../geometry/geometry.js';
import { curveCount, curveKinds, type Curves } from '../../geometry/curves.js';
import { spanPoint, spansOf, spanSpeed, type Spans } from './spans.js';

/** Gauss–Legendre abscissae and weights on −1…1, 8 points (Abramowitz & Stegun 1964, table 25.4). */
export const nodes8 = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
export const weights8 = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/** Arc length of span `i` between two parameters by one Gauss rule of 8 points: exact for gentle pieces. */
export function gauss(spans: Spans, i: number, from: number, to: number): number {
  const middle = (from + to) / 2;
  const half = (to - from) / 2;
  let sum = 0;
  for (let n = 0; n < 4; n++) sum += weights8[n] * (spanSpeed(spans, i, middle - half * nodes8[n]) + spanSpeed(spans, i, middle + half * nodes8[n]));
  return sum * half;
}

/** Halves the interval until both halves agree with the whole to 1e-10 of it; 26 halvings find the tip of a cusp. */
function adaptive(spans: Spans, i: number, from: number, to: number, whole: number, depth: number): number {
  const middle = (from + to) / 2;
  const left = gauss(spans, i, from, middle);
  const right = gauss(spans, i, middle, to);
  if (depth <= 0 || Math.abs(left + right - whole) <= 1e-10 * (left + right) + 1e-15) return left + right;
  return adaptive(spans, i, from, middle, left, depth - 1) + adaptive(spans, i, middle, to, right, depth - 1);
}

/** Arc length of span `i` between parameters `from` and `to`, metres, relative error below 1e-9 on smooth spans. */
export function spanLength(spans: Spans, i: number, from = 0, to = 1): number {
  const b = spans.control;
  const a = i * 12;
  if (spans.straight) return Math.hypot(b[a + 9] - b[a], b[a + 10] - b[a + 1], b[a + 11] - b[a + 2]) * (to - from);
  const once = gauss(spans, i, from, to);
  return isGentle(b, a) ? once : adaptive(spans, i, from, to, once, 26);
}

/** True when the control polygon is within 2 % of the chord: there one Gauss rule of 8 points is good to 1e-11. */
export function isGentle(b: Float64Array, a: number): boolean {
  const side = (p: number, q: number): number => {
    const x = b[q] - b[p];
    const y = b[q + 1] - b[p + 1];
    const z = b[q + 2] - b[p + 2];
    return Math.sqrt(x * x + y * y + z * z);
  };
  const sides = [side(a, a + 3), side(a + 3, a + 6), side(a + 6, a + 9)];
  const least = Math.min(sides[0], sides[1], sides[2]);
  return sides[0] + sides[1] + sides[2] <= 1.02 * side(a, a + 9) && least * 6 > side(a, a + 9);
}

/** Arc length from the start of the curve to the start of each span, and the whole length last: spans + 1 numbers, metres. */
export function cumulativeLengths(spans: Spans): Float64Array {
  const lengths = new Float64Array(spans.count + 1);
  for (let i = 0; i < spans.count; i++) lengths[i + 1] = lengths[i] + spanLength(spans, i);
  return lengths;
}

const stationsCache = new WeakMap<Curves, Float64Array>();

/**
 * Arc length from the start of its curve to each point, metres: one number a point. For the points of a B-spline this is the place
 * nearest by parameter. Kept for as long as the curves are.
 */
export function stationsOf(curves: Curves): Float64Array {
  let stations = stationsCache.get(curves);
  if (stations) return stations;
  stations = new Float64Array(curves.positions.length / 3);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const points = curves.starts[c + 1] - from;
    if (curveKinds[curves.kind[c]] === 'straight') {
      for (let i = from + 1; i < from + points; i++) stations[i] = stations[i - 1] + chord(curves.positions, i - 1, i);
      continue;
    }
    const spans = spansOf(curves, c);
    for (let i = 1; i < points; i++) stations[from + i] = stations[from + i - 1] + spanLength(spans, i - 1);
  }
  stationsCache.set(curves, stations);
  return stations;
}

/** Straight distance between points `a` and `b`, metres. */
export function chord(positions: ArrayLike<number>, a: number, b: number): number {
  const x = positions[b * 3] - positions[a * 3];
  const y = positions[b * 3 + 1] - positions[a * 3 + 1];
  const z = positions[b * 3 + 2] - positions[a * 3 + 2];
  return Math.sqrt(x * x + y * y + z * z);
}

const lengthsCache = new WeakMap<Curves, Float64Array>();

/** Arc length of every curve, metres; closed curves with their closing piece. Kept for as long as the curves are. */
export function curveLengths(curves: Curves): Float64Array {
  let lengths = lengthsCache.get(curves);
  if (lengths) return lengths;
  const stations = stationsOf(curves);
  lengths = new Float64Array(curveCount(curves));
  for (let c = 0; c < lengths.length; c++) {
    const from = curves.starts[c];
    const last = curves.starts[c + 1] - 1;
    if (last <= from) continue;
    lengths[c] = stations[last];
    if (!curves.closed[c]) continue;
    lengths[c] += curveKinds[curves.kind[c]] === 'straight' ? chord(curves.positions, last, from) : spanLength(spansOf(curves, c), last - from);
  }
  lengthsCache.set(curves, lengths);
  return lengths;
}

/** The box round all curves; smooth ones are sampled at 8 places a span. */
export function curvesBounds(curves: Curves): Bounds | null {
  let places = new Float64Array(0);
  let bounds: Bounds | null = null;
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = curveKinds[curves.kind[c]] === 'straight' ? null : spansOf(curves, c);
    if (!spans || !spans.count) {
      bounds = unionBounds(bounds, boundsOf(curves.positions.subarray(curves.starts[c] * 3, curves.starts[c + 1] * 3)));
      continue;
    }
    // Each span begins where the last one ended.
    const count = spans.count * 8 + 1;
    if (places.length < count * 3) places = new Float64Array(count * 3);
    for (let i = 0; i < count; i++) {
      const span = Math.min(spans.count - 1, i >> 3);
      spanPoint(spans, span, i / 8 - span, places, i * 3);
    }
    bounds = unionBounds(bounds, boundsOf(places.subarray(0, count * 3)));
  }
  return bounds;
}
