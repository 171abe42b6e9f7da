import { gatherRows, type Attribute } from '../geometry/attributes.js';
import { curveKinds, makeCurves, type Curves } from '../geometry/curves.js';
import { spanPoint, spanTangent, splitSpan, type Spans } from './spans.js';

/** Places on one curve in rising order: span and parameter in it (0…1), and metres from the start where they are known. */
export class PlaceList {
  count = 0;
  span = new Uint32Array(64);
  u = new Float64Array(64);
  s = new Float64Array(64);

  clear(): void {
    this.count = 0;
  }

  push(span: number, u: number, s = 0): void {
    const i = this.count++;
    if (i >= this.span.length) {
      this.span = grown(this.span, i * 2);
      this.u = grown(this.u, i * 2);
      this.s = grown(this.s, i * 2);
    }
    this.span[i] = span;
    this.u[i] = u;
    this.s[i] = s;
  }
}

/** The first `length` numbers; the array itself where it has no more. */
const sized = (array: Float32Array, length: number): Float32Array => (array.length === length ? array : array.slice(0, length));

function grown<A extends Float32Array | Float64Array | Uint32Array>(array: A, length: number): A {
  const more = new (array.constructor as new (length: number) => A)(length);
  more.set(array);
  return more;
}

/** How the new curve runs between its places. */
export interface PlacedHow {
  /** The new curve is closed. */
  readonly closed: boolean;
  /**
   * `exact`: each piece is cut out of the span it lies in, so the curve does not change. `length`: handles are a third of the arc length to the
   * neighbour (places need `s`, and the curve's whole length is `total`), so that the new spans run by length.
   */
  readonly handles: 'exact' | { readonly total: number };
  /** Give exact tangents, which say that the points are where rings belong. */
  readonly tangents: boolean;
}

const bezierKind = curveKinds.indexOf('bezier');
/** Belong to the old points, so they are not interpolated. */
const bySpans = new Set(['tangent', 'normal', 'handleIn', 'handleOut']);
const piece = new Float64Array(12);

/**
 * Makes curves from places on other curves. Smooth ones come out as `bezier`, straight ones stay straight; point attributes are linear between
 * the old points, curve attributes are carried over, frames dropped.
 */
export class PlacedCurves {
  private points = 0;
  private positions: Float32Array;
  private tangent: Float32Array;
  private handleIn: Float32Array;
  private handleOut: Float32Array;
  private smooth = false;
  private readonly starts: number[] = [0];
  private readonly closed: number[] = [];
  private readonly kind: number[] = [];
  private readonly sources: number[] = [];
  private readonly values: { name: string; size: number; from: Float32Array; to: Float32Array }[] = [];

  constructor(
    private readonly given: Curves,
    expected = given.positions.length / 3,
  ) {
    const room = Math.max(1, expected) * 3;
    this.positions = new Float32Array(room);
    this.tangent = new Float32Array(room);
    this.handleIn = new Float32Array(room);
    this.handleOut = new Float32Array(room);
    for (const [name, { carrier, size, data }] of given.attributes)
      if (carrier === 'point' && !bySpans.has(name)) this.values.push({ name, size, from: data, to: new Float32Array((room / 3) * size) });
  }

  /** Number of points written so far. */
  get pointCount(): number {
    return this.points;
  }

  private reserve(points: number): void {
    if (points * 3 <= this.positions.length) return;
    const room = Math.max(16, points, (this.positions.length / 3) * 2);
    this.positions = grown(this.positions, room * 3);
    this.tangent = grown(this.tangent, room * 3);
    this.handleIn = grown(this.handleIn, room * 3);
    this.handleOut = grown(this.handleOut, room * 3);
    for (const value of this.values) value.to = grown(value.to, room * value.size);
  }

  /** Adds a curve that runs through `places` of curve `source`, whose spans are `spans` (a curve without spans gives its one point). */
  add(source: number, spans: Spans, places: PlaceList, how: PlacedHow): void {
    const first = this.points;
    const { count } = places;
    this.reserve(first + count);
    const smooth = !spans.straight && spans.count > 0;
    const { given, positions } = this;
    for (let i = 0; i < count; i++) {
      const o = (first + i) * 3;
      if (spans.count) spanPoint(spans, places.span[i], places.u[i], positions, o);
      else for (let k = 0; k < 3; k++) positions[o + k] = given.positions[given.starts[source] * 3 + k];
      if (smooth) spanTangent(spans, places.span[i], places.u[i], this.tangent, o);
    }
    if (smooth) {
      if (how.handles === 'exact') this.cutHandles(spans, places, first, how.closed);
      else this.lengthHandles(places, first, how.closed, how.handles.total);
      if (!how.tangents) this.tangent.fill(0, first * 3, (first + count) * 3);
      this.smooth = true;
    }
    this.points += count;
    this.starts.push(this.points);
    this.closed.push(how.closed ? 1 : 0);
    this.kind.push(smooth ? bezierKind : 0);
    this.sources.push(source);
    for (const value of this.values) this.interpolate(value, source, places, first);
  }

  /** Linear between the old points on either side. */
  private interpolate({ size, from, to }: { size: number; from: Float32Array; to: Float32Array }, source: number, places: PlaceList, first: number): void {
    const start = this.given.starts[source];
    const points = this.given.starts[source + 1] - start;
    for (let i = 0, at = first * size; i < places.count; i++) {
      const u = places.u[i];
      const a = (start + Math.min(places.span[i], points - 1)) * size;
      const b = (start + ((places.span[i] + 1) % points)) * size;
      for (let k = 0; k < size; k++) to[at++] = u === 0 ? from[a + k] : from[a + k] * (1 - u) + from[b + k] * u;
    }
  }

  /** Handles of the pieces as they are cut out of their spans. */
  private cutHandles(spans: Spans, places: PlaceList, first: number, closed: boolean): void {
    const { count } = places;
    for (let i = 0; i < (closed ? count : count - 1); i++) {
      const next = i + 1 < count ? i + 1 : 0;
      // A place at the end of a span and the start of the next are the same.
      const atEnd = places.u[i] === 1;
      const span = atEnd ? (places.span[i] + 1) % spans.count : places.span[i];
      const from = atEnd ? 0 : places.u[i];
      const to = places.span[next] === span && places.u[next] > from ? places.u[next] : 1;
      splitSpan(spans, span, from, to, piece);
      const a = (first + i) * 3;
      const b = (first + next) * 3;
      for (let k = 0; k < 3; k++) {
        this.handleOut[a + k] = piece[3 + k] - piece[k];
        this.handleIn[b + k] = piece[6 + k] - piece[9 + k];
      }
    }
    if (!closed && count) {
      this.handleIn.fill(0, first * 3, first * 3 + 3);
      this.handleOut.fill(0, (first + count - 1) * 3, (first + count) * 3);
    }
  }

  /**
   * Handles of a third of the arc length to the neighbour, times tan(θ/4) ÷ (θ/4) with θ the angle between the end tangents: exact to sixth
   * order on arcs (4/3·tan(θ/4), common practice).
   */
  private lengthHandles(places: PlaceList, first: number, closed: boolean, total: number): void {
    const { tangent, handleIn, handleOut } = this;
    const { count } = places;
    for (let i = 0; i < (closed ? count : count - 1); i++) {
      const next = i + 1 < count ? i + 1 : 0;
      const a = (first + i) * 3;
      const b = (first + next) * 3;
      const handle = (((next ? places.s[next] : total) - places.s[i]) / 3) * arcFactor(tangent, a, b);
      for (let k = 0; k < 3; k++) {
        handleOut[a + k] = tangent[a + k] * handle;
        handleIn[b + k] = -tangent[b + k] * handle;
      }
    }
  }

  /** All curves added. */
  finish(): Curves {
    const { points, given, sources } = this;
    const attributes = new Map<string, Attribute>();
    const sameCurves = sources.length === given.starts.length - 1 && sources.every((source, c) => source === c);
    for (const [name, attribute] of given.attributes) {
      if (attribute.carrier === 'point') continue;
      attributes.set(name, attribute.carrier === 'curve' && !sameCurves ? { ...attribute, data: gatherRows(attribute, sources) } : attribute);
    }
    for (const { name, size, to } of this.values) attributes.set(name, { carrier: 'point', size, data: sized(to, points * size) });
    if (this.smooth)
      for (const [name, data] of [
        ['tangent', this.tangent],
        ['handleOut', this.handleOut],
        ['handleIn', this.handleIn],
      ] as const)
        attributes.set(name, { carrier: 'point', size: 3, data: sized(data, points * 3) });
    return makeCurves({
      positions: sized(this.positions, points * 3),
      starts: Uint32Array.from(this.starts),
      closed: Uint8Array.from(this.closed),
      kind: Uint8Array.from(this.kind),
      attributes,
    });
  }
}

/** tan(θ/4) ÷ (θ/4) by its series where the angle θ between two unit tangents is small, which saves two slow functions a point. */
function arcFactor(tangent: Float32Array, a: number, b: number): number {
  const x = tangent[b] - tangent[a];
  const y = tangent[b + 1] - tangent[a + 1];
  const z = tangent[b + 2] - tangent[a + 2];
  const half = Math.min(1, Math.sqrt(x * x + y * y + z * z) / 2);
  // asin by its series is good to 1e-9 here; tan(q)/q = 1 + q²/3 + 2q⁴/15 + 17q⁶/315 (Abramowitz & Stegun 1964, 4.3.67).
  const square = half * half;
  const quarter = half < 0.15 ? (half * (1 + square * (1 / 6 + square * (3 / 40 + (square * 15) / 336)))) / 2 : Math.asin(half) / 2;
  const q = quarter * quarter;
  return q < 0.02 ? 1 + q * (1 / 3 + q * (2 / 15 + (q * 17) / 315)) : Math.tan(quarter) / quarter;
}
