import { gauss, isGentle, nodes8, spanLength, weights8 } from './arcLength.js';
import { interpolation, toMiddle } from './gaussPolynomial.js';
import { spanSpeed, type Spans } from './spans.js';

/** The sum of four samples weighed by a row of the interpolation. */
const weighed = (w: number, samples: Float64Array): number =>
  interpolation[w] * samples[0] + interpolation[w + 1] * samples[1] + interpolation[w + 2] * samples[2] + interpolation[w + 3] * samples[3];

/** Numbers kept a piece: span, start, end, length before it, own length, and 9 coefficients of the length over z = −1…1. */
const stride = 14;

/**
 * Finds places by arc length along one curve. Each span is cut into pieces on which the speed is a polynomial of degree 7 to 1e-8 (through the
 * nodes of Gauss's rule, so that whole pieces have Gauss's length); its integral is then turned round by Newton's method. Ask in rising order for speed;
 * any order works.
 *
 * One object serves many curves: `load` starts another and keeps the memory.
 */
export class ArcLengthInverse {
  /** Length of the loaded curve, metres. */
  total = 0;
  /** Place found last by `at`: span and parameter in it, 0…1. */
  span = 0;
  u = 0;
  private spans!: Spans;
  private pieces = new Float64Array(stride * 16);
  private count = 0;
  private piece = 0;
  /** A third of the derivative of the span being cut: A + B·u + C·u², x, y, z each. */
  private readonly derivative = new Float64Array(9);
  /** A ninth of the squared speed on the piece being cut: coefficients of 1, z … z⁴. */
  private readonly quartic = new Float64Array(5);
  /** Sums and differences of the speeds at the nodes ± of Gauss's rule, the nodes rising. */
  private readonly sums = new Float64Array(4);
  private readonly differences = new Float64Array(4);
  private readonly one = { s: new Float64Array(1), span: new Uint32Array(1), u: new Float64Array(1) };

  constructor(spans?: Spans) {
    if (spans) this.load(spans);
  }

  load(spans: Spans): this {
    this.spans = spans;
    this.count = 0;
    this.piece = 0;
    this.total = 0;
    for (let i = 0; i < spans.count; i++) {
      if (spans.straight) this.push(i, 0, 1, spanLength(spans, i));
      else {
        this.derive(i);
        this.cut(i, 0, 1, isGentle(spans.control, i * 12) ? 0 : 26);
      }
    }
    return this;
  }

  /** Makes room for one more piece and returns where it begins. */
  private push(span: number, from: number, to: number, length: number): number {
    const at = this.count++ * stride;
    if (at + stride > this.pieces.length) {
      const more = new Float64Array(this.pieces.length * 2);
      more.set(this.pieces);
      this.pieces = more;
    }
    this.pieces[at] = span;
    this.pieces[at + 1] = from;
    this.pieces[at + 2] = to;
    this.pieces[at + 3] = this.total;
    this.pieces[at + 4] = length;
    this.total += length;
    return at;
  }

  private derive(span: number): void {
    const b = this.spans.control;
    for (let k = 0, a = span * 12; k < 3; k++, a++) {
      const d0 = b[a + 3] - b[a];
      const d1 = b[a + 6] - b[a + 3];
      const d2 = b[a + 9] - b[a + 6];
      this.derivative[k] = d0;
      this.derivative[k + 3] = 2 * (d1 - d0);
      this.derivative[k + 6] = d0 - 2 * d1 + d2;
    }
  }

  /** Speeds at the nodes of a piece, as sums and differences. False where the squared speed loses its digits: it nearly vanishes there. */
  private speedsOfPiece(middle: number, half: number): boolean {
    const d = this.derivative;
    let q0 = 0;
    let q1 = 0;
    let q2 = 0;
    let q3 = 0;
    let q4 = 0;
    for (let k = 0; k < 3; k++) {
      const c = d[k + 6];
      const a = d[k] + middle * (d[k + 3] + middle * c);
      const b = (d[k + 3] + 2 * middle * c) * half;
      const e = c * half * half;
      q0 += a * a;
      q1 += 2 * a * b;
      q2 += b * b + 2 * a * e;
      q3 += 2 * b * e;
      q4 += e * e;
    }
    const { quartic, sums, differences } = this;
    quartic[0] = q0;
    quartic[1] = q1;
    quartic[2] = q2;
    quartic[3] = q3;
    quartic[4] = q4;
    const trusted = 1e-4 * (q0 + Math.abs(q1) + Math.abs(q2) + Math.abs(q3) + q4);
    let good = trusted > 0;
    for (let n = 0; n < 4; n++) {
      const x = nodes8[n];
      const square = x * x;
      const even = q0 + square * (q2 + square * q4);
      const odd = x * (q1 + square * q3);
      good &&= even - odd > trusted && even + odd > trusted;
      const plus = 3 * Math.sqrt(even + odd);
      const minus = 3 * Math.sqrt(even - odd);
      sums[n] = plus + minus;
      differences[n] = plus - minus;
    }
    return good;
  }

  /** Length of the first half of the piece whose squared speed is known, ÷ `half`, by Gauss's rule of its own. */
  private firstHalf(): number {
    const q = this.quartic;
    const q0 = q[0];
    const q1 = q[1];
    const q2 = q[2];
    const q3 = q[3];
    const q4 = q[4];
    let sum = 0;
    for (let n = 0; n < 4; n++) {
      const y = -0.5 - 0.5 * nodes8[n];
      const z = -0.5 + 0.5 * nodes8[n];
      const before = Math.sqrt(q0 + y * (q1 + y * (q2 + y * (q3 + y * q4))));
      sum += weights8[n] * (before + Math.sqrt(q0 + z * (q1 + z * (q2 + z * (q3 + z * q4)))));
    }
    return 1.5 * sum;
  }

  private cut(span: number, from: number, to: number, depth: number): void {
    const half = (to - from) / 2;
    const middle = (from + to) / 2;
    const { sums, differences } = this;
    const known = this.speedsOfPiece(middle, half);
    if (!known)
      for (let n = 0; n < 4; n++) {
        const plus = spanSpeed(this.spans, span, middle + half * nodes8[n]);
        const minus = spanSpeed(this.spans, span, middle - half * nodes8[n]);
        sums[n] = plus + minus;
        differences[n] = plus - minus;
      }
    if (depth > 0) {
      // The polynomial's length to the middle of the piece must agree with Gauss's rule on that half.
      let left = 0;
      for (let n = 0; n < 4; n++) left += toMiddle[n] * sums[n] + toMiddle[n + 4] * differences[n];
      const own = known ? this.firstHalf() : gauss(this.spans, span, from, middle) / half;
      if (Math.abs(own - left) * half > 2e-8 * Math.abs(left * half) + 1e-15) {
        this.cut(span, from, middle, depth - 1);
        this.cut(span, middle, to, depth - 1);
        return;
      }
    }
    const before = this.total;
    const at = this.push(span, from, to, 0);
    const { pieces } = this;
    // Coefficients of ∫ speed: term k of the speed gives z^(k+1)/(k+1); the constant makes it 0 at z = −1. Even terms are made of the sums, odd ones of
    // the differences.
    let constant = 0;
    let length = 0;
    for (let k = 0, w = 0; k < 8; k += 2, w += 8) {
      const even = (weighed(w, sums) * half) / (k + 1);
      const odd = (weighed(w + 4, differences) * half) / (k + 2);
      pieces[at + 6 + k] = even;
      pieces[at + 7 + k] = odd;
      constant += even - odd;
      length += 2 * even;
    }
    pieces[at + 5] = constant;
    pieces[at + 4] = length;
    this.total = before + length;
  }

  /** Finds the place `s` metres from the start (clamped to the curve) and leaves it in `span` and `u`. */
  at(s: number): this {
    const { one } = this;
    one.s[0] = s;
    this.find(one.s, 1, one.span, one.u);
    this.span = one.span[0];
    this.u = one.u[0];
    return this;
  }

  /** Finds the places of the first `count` lengths of `s` (metres from the start, clamped to the curve), and writes their spans and parameters. */
  find(s: Float64Array, count: number, span: Uint32Array, u: Float64Array): void {
    const p = this.pieces;
    const last = this.count - 1;
    for (let i = 0; i < count;) {
      let { piece } = this;
      if (s[i] < p[piece * stride + 3]) piece = 0;
      while (piece < last && p[(piece + 1) * stride + 3] < s[i]) piece++;
      this.piece = piece;
      const to = this.onPiece(piece, piece < last ? p[(piece + 1) * stride + 3] : Infinity, s, i, count, u);
      for (const own = p[piece * stride]; i < to; i++) span[i] = own;
    }
  }

  /**
   * Writes the parameters of the lengths from `first` on that lie on one piece, up to its end at `next`, and returns the first that does not. Each is the z in
   * −1…1 where the polynomial length is the one wanted, by Newton's method, held between the ends it has passed.
   */
  private onPiece(piece: number, next: number, s: Float64Array, first: number, count: number, u: Float64Array): number {
    const p = this.pieces;
    const at = piece * stride;
    const from = p[at + 1];
    const to = p[at + 2];
    const before = p[at + 3];
    const length = p[at + 4];
    const end = Math.min(before + length, this.total);
    const { straight } = this.spans;
    const c0 = p[at + 5];
    const c1 = p[at + 6];
    const c2 = p[at + 7];
    const c3 = p[at + 8];
    const c4 = p[at + 9];
    const c5 = p[at + 10];
    const c6 = p[at + 11];
    const c7 = p[at + 12];
    const c8 = p[at + 13];
    // The derivative's coefficients.
    const d2 = 2 * c2;
    const d3 = 3 * c3;
    const d4 = 4 * c4;
    const d5 = 5 * c5;
    const d6 = 6 * c6;
    const d7 = 7 * c7;
    const d8 = 8 * c8;
    // The search begins on the cubic of the share of the length that has the right slopes at both ends.
    const startSlope = c1 - d2 + d3 - d4 + d5 - d6 + d7 - d8;
    const endSlope = c1 + d2 + d3 + d4 + d5 + d6 + d7 + d8;
    const sound = startSlope > 0.05 * length && endSlope > 0.05 * length;
    const m0 = sound ? length / (2 * startSlope) : 1;
    const m1 = sound ? length / (2 * endSlope) : 1;
    const lean = (m0 - m1) / 4;
    const bow = (2 - m0 - m1) / 4;
    let i = first;
    for (; i < count && s[i] <= next && (i === first || s[i] >= before); i++) {
      const wanted = s[i] - before;
      if (!(length > 0) || wanted <= 0) {
        u[i] = from;
        continue;
      }
      // The end is met to the last bit.
      if (s[i] >= end) {
        u[i] = to;
        continue;
      }
      if (straight) {
        u[i] = from + ((to - from) * wanted) / length;
        continue;
      }
      const share = (2 * wanted) / length - 1;
      let z = share + (1 - share * share) * (lean + bow * share);
      if (!(z > -1 && z < 1)) z = share;
      let low = -1;
      let high = 1;
      for (let round = 0; round < 60; round++) {
        // The polynomial and its derivative by pairs of terms, which do not wait for each other (Estrin 1960).
        const zz = z * z;
        const z4 = zz * zz;
        const value = c0 + c1 * z + zz * (c2 + c3 * z) + z4 * (c4 + c5 * z + zz * (c6 + c7 * z) + z4 * c8);
        const slope = c1 + d2 * z + zz * (d3 + d4 * z) + z4 * (d5 + d6 * z + zz * (d7 + d8 * z));
        const error = value - wanted;
        const off = Math.abs(error);
        // Places are stored in 32 bits.
        if (off <= 1e-10 * length) break;
        if (error > 0) high = z;
        else low = z;
        const newton = z - error / slope;
        const inside = slope > 0 && newton > low && newton < high;
        const moved = inside ? newton : (low + high) / 2;
        if (moved === z) break;
        z = moved;
        // The step just taken squares the error.
        if (inside && off <= 1e-5 * length) break;
      }
      u[i] = from + ((to - from) * (z + 1)) / 2;
    }
    return i;
  }
}
