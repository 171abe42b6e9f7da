import { curveKinds, type Curves } from '../../geometry/curves.js';

/**
 * A curve as cubic Bezier spans in 64 bits: every kind has an exact form of this shape, so that evaluation, length and inversion are
 * written once. A straight piece is marked, since its length and its points are known at once.
 */
export interface Spans {
  readonly count: number;
  /** 12 numbers a span: the four control points, metres. */
  readonly control: Float64Array;
  readonly straight: boolean;
}

/** Number of spans of curve `c`: pieces between neighbouring points, one more when closed. */
export function spanCount(curves: Curves, c: number): number {
  const points = curves.starts[c + 1] - curves.starts[c];
  if (points < 2) return 0;
  return curves.closed[c] ? points : points - 1;
}

/** True when curve `c` has points that are its rings already: chords, or an exact tangent at each point. */
export function isPaced(curves: Curves, c: number): boolean {
  if (curveKinds[curves.kind[c]] === 'straight') return true;
  const tangent = curves.attributes.get('tangent');
  const at = curves.starts[c] * 3;
  return !!tangent && tangent.carrier === 'point' && (tangent.data[at] !== 0 || tangent.data[at + 1] !== 0 || tangent.data[at + 2] !== 0);
}

/** The spans of curve `c`. Curves of fewer than two points have none. */
export function spansOf(curves: Curves, c: number): Spans {
  const from = curves.starts[c];
  const points = curves.starts[c + 1] - from;
  const count = spanCount(curves, c);
  const control = new Float64Array(count * 12);
  const kind = curveKinds[curves.kind[c]];
  const p = curves.positions;
  if (kind === 'bezier') bezierControl(curves, c, control, count);
  else if (kind === 'through') throughControl(p, from, points, curves.closed[c] === 1, control, count);
  else if (kind === 'bspline') bsplineControl(p, from, points, curves.closed[c] === 1, control, count);
  else straightControl(p, from, points, control, count);
  return { count, control, straight: kind === 'straight' };
}

function straightControl(p: Float32Array, from: number, points: number, control: Float64Array, count: number): void {
  for (let i = 0; i < count; i++) {
    const a = (from + i) * 3;
    const b = (from + ((i + 1) % points)) * 3;
    for (let k = 0; k < 3; k++) {
      const third = (p[b + k] - p[a + k]) / 3;
      control[i * 12 + k] = p[a + k];
      control[i * 12 + 3 + k] = p[a + k] + third;
      control[i * 12 + 6 + k] = p[b + k] - third;
      control[i * 12 + 9 + k] = p[b + k];
    }
  }
}

function bezierControl(curves: Curves, c: number, control: Float64Array, count: number): void {
  const from = curves.starts[c];
  const points = curves.starts[c + 1] - from;
  const p = curves.positions;
  const out = curves.attributes.get('handleOut')?.data;
  const into = curves.attributes.get('handleIn')?.data;
  for (let i = 0; i < count; i++) {
    const a = (from + i) * 3;
    const b = (from + ((i + 1) % points)) * 3;
    for (let k = 0; k < 3; k++) {
      control[i * 12 + k] = p[a + k];
      control[i * 12 + 3 + k] = p[a + k] + (out ? out[a + k] : 0);
      control[i * 12 + 6 + k] = p[b + k] + (into ? into[b + k] : 0);
      control[i * 12 + 9 + k] = p[b + k];
    }
  }
}

/**
 * Centripetal Catmull–Rom (Barry & Goldman 1988; knots spaced by the square root of the chord) written as Bezier spans. Open ends use
 * phantom points 2·P0 − P1. Where neighbouring points coincide the knot spacing is that of the span itself, so nothing divides by 0.
 */
function throughControl(p: Float32Array, from: number, points: number, closed: boolean, control: Float64Array, count: number): void {
  if (!count) return;
  // Four neighbouring points in a window that goes along the curve; phantom points stand before and after open ends.
  const w = windowRoom;
  const load = (slot: number, i: number): void => {
    const inside = closed ? (i + points) % points : Math.min(points - 1, Math.max(0, i));
    const a = (from + inside) * 3;
    const o = slot * 3;
    w[o] = p[a];
    w[o + 1] = p[a + 1];
    w[o + 2] = p[a + 2];
    if (closed || i === inside) return;
    const b = (from + (i < 0 ? 1 : points - 2)) * 3;
    for (let k = 0; k < 3; k++) w[o + k] = 2 * w[o + k] - p[b + k];
  };
  /** Centripetal knot spacing between two points of the window: the square root of their distance. */
  const spacing = (o: number): number => {
    const x = w[o + 3] - w[o];
    const y = w[o + 4] - w[o + 1];
    const z = w[o + 5] - w[o + 2];
    return Math.sqrt(Math.sqrt(x * x + y * y + z * z));
  };
  load(0, -1);
  load(1, 0);
  load(2, 1);
  let before = spacing(0);
  let own = spacing(3);
  for (let i = 0; i < count; i++) {
    load(3, i + 2);
    const after = spacing(6);
    const d0 = before || own || 1;
    const d1 = own || 1;
    const d2 = after || own || 1;
    // Tangents at both ends times a third of the span, as weights of the four points.
    const third = own ? d1 / 3 : 0;
    const a0 = third / d0;
    const a1 = third / (d0 + d1);
    const a2 = third / d1;
    const a3 = third / (d1 + d2);
    const a4 = third / d2;
    for (let k = 0, at = i * 12; k < 3; k++, at++) {
      const p0 = w[k];
      const p1 = w[3 + k];
      const p2 = w[6 + k];
      const p3 = w[9 + k];
      control[at] = p1;
      control[at + 3] = p1 + (p1 - p0) * a0 - (p2 - p0) * a1 + (p2 - p1) * a2;
      control[at + 6] = p2 - ((p2 - p1) * a2 - (p3 - p1) * a3 + (p3 - p2) * a4);
      control[at + 9] = p2;
    }
    before = own;
    own = after;
    for (let k = 0; k < 9; k++) w[k] = w[k + 3];
  }
}

/** Room for four points. */
const windowRoom = new Float64Array(12);

/**
 * Uniform cubic B-spline as Bezier spans (Boehm's knot insertion, de Boor 1978). Open curves reach their end points: phantom points
 * 2·P0 − P1 give a second derivative of zero there.
 */
function bsplineControl(p: Float32Array, from: number, points: number, closed: boolean, control: Float64Array, count: number): void {
  const at = (i: number, k: number): number => {
    if (closed) return p[(from + ((i + points) % points)) * 3 + k];
    if (i < 0) return 2 * p[from * 3 + k] - p[(from + 1) * 3 + k];
    if (i >= points) return 2 * p[(from + points - 1) * 3 + k] - p[(from + points - 2) * 3 + k];
    return p[(from + i) * 3 + k];
  };
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) {
      const p0 = at(i - 1, k);
      const p1 = at(i, k);
      const p2 = at(i + 1, k);
      const p3 = at(i + 2, k);
      control[i * 12 + k] = (p0 + 4 * p1 + p2) / 6;
      control[i * 12 + 3 + k] = (2 * p1 + p2) / 3;
      control[i * 12 + 6 + k] = (p1 + 2 * p2) / 3;
      control[i * 12 + 9 + k] = (p1 + 4 * p2 + p3) / 6;
    }
}

/** Writes the place at parameter `u` (0…1) of span `i` to `out` at `o`. */
export function spanPoint(spans: Spans, i: number, u: number, out: Float64Array | Float32Array, o: number): void {
  const b = spans.control;
  const v = 1 - u;
  const w0 = v * v * v;
  const w1 = 3 * v * v * u;
  const w2 = 3 * v * u * u;
  const w3 = u * u * u;
  const a = i * 12;
  out[o] = w0 * b[a] + w1 * b[a + 3] + w2 * b[a + 6] + w3 * b[a + 9];
  out[o + 1] = w0 * b[a + 1] + w1 * b[a + 4] + w2 * b[a + 7] + w3 * b[a + 10];
  out[o + 2] = w0 * b[a + 2] + w1 * b[a + 5] + w2 * b[a + 8] + w3 * b[a + 11];
}

/** Length of the derivative by the span's parameter. Written out, since lengths ask for it many times. */
export function spanSpeed(spans: Spans, i: number, u: number): number {
  const b = spans.control;
  const a = i * 12;
  const v = 1 - u;
  const w0 = v * v;
  const w1 = 2 * v * u;
  const w2 = u * u;
  const x = w0 * (b[a + 3] - b[a]) + w1 * (b[a + 6] - b[a + 3]) + w2 * (b[a + 9] - b[a + 6]);
  const y = w0 * (b[a + 4] - b[a + 1]) + w1 * (b[a + 7] - b[a + 4]) + w2 * (b[a + 10] - b[a + 7]);
  const z = w0 * (b[a + 5] - b[a + 2]) + w1 * (b[a + 8] - b[a + 5]) + w2 * (b[a + 11] - b[a + 8]);
  return 3 * Math.sqrt(x * x + y * y + z * z);
}

/**
 * Writes the unit direction at `u` of span `i` to `out` at `o`. Where the derivative vanishes (a cusp, handles of no length) it is taken
 * just inside the span; a span of no length gives 0, 0, 0.
 */
export function spanTangent(spans: Spans, i: number, u: number, out: Float64Array | Float32Array, o: number): void {
  if (unitDerivative(spans, i, u, out, o)) return;
  if (unitDerivative(spans, i, u > 0.5 ? u - 1e-4 : u + 1e-4, out, o) || unitDerivative(spans, i, 0.5, out, o)) return;
  out.fill(0, o, o + 3);
}

/** Writes the unit derivative; false where it vanishes. Written out, since it is asked for at every point that is made. */
function unitDerivative(spans: Spans, i: number, u: number, out: Float64Array | Float32Array, o: number): boolean {
  const b = spans.control;
  const a = i * 12;
  const v = 1 - u;
  const w0 = v * v;
  const w1 = 2 * v * u;
  const w2 = u * u;
  const x = 3 * (w0 * (b[a + 3] - b[a]) + w1 * (b[a + 6] - b[a + 3]) + w2 * (b[a + 9] - b[a + 6]));
  const y = 3 * (w0 * (b[a + 4] - b[a + 1]) + w1 * (b[a + 7] - b[a + 4]) + w2 * (b[a + 10] - b[a + 7]));
  const z = 3 * (w0 * (b[a + 5] - b[a + 2]) + w1 * (b[a + 8] - b[a + 5]) + w2 * (b[a + 11] - b[a + 8]));
  const length = Math.sqrt(x * x + y * y + z * z);
  if (!(length > 1e-12)) return false;
  out[o] = x / length;
  out[o + 1] = y / length;
  out[o + 2] = z / length;
  return true;
}

/**
 * The control points of the part of span `i` between `from` and `to` (de Casteljau's construction, by blossoming): 12 numbers into `out`.
 */
export function splitSpan(spans: Spans, i: number, from: number, to: number, out: Float64Array): void {
  const b = spans.control;
  const v = 1 - from;
  const w = 1 - to;
  for (let k = 0, a = i * 12; k < 3; k++, a++) {
    const [p0, p1, p2, p3] = [b[a], b[a + 3], b[a + 6], b[a + 9]];
    // Blossom values: the same parameter three times, or two of one and one of the other.
    const f01 = v * p0 + from * p1;
    const f12 = v * p1 + from * p2;
    const f23 = v * p2 + from * p3;
    const t01 = w * p0 + to * p1;
    const t12 = w * p1 + to * p2;
    const t23 = w * p2 + to * p3;
    const ff0 = v * f01 + from * f12;
    const ff1 = v * f12 + from * f23;
    const tt0 = w * t01 + to * t12;
    const tt1 = w * t12 + to * t23;
    out[k] = v * ff0 + from * ff1;
    out[3 + k] = w * ff0 + to * ff1;
    out[6 + k] = v * tt0 + from * tt1;
    out[9 + k] = w * tt0 + to * tt1;
  }
}
