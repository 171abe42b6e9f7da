import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { curveKinds, makeCurves, type Curves } from '../../geometry/curves.js';
import { freshMemory, type Memory } from '../../base/work.js';
import { carryFrames } from './carryFrames.js';
import { bisector, kinksOf, type Kink } from './kinks.js';
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

  /** Makes room for so many places. */
  reserve(count: number): void {
    if (count <= this.span.length) return;
    const room = Math.max(count, this.span.length * 2);
    this.span = grown(this.span, room);
    this.u = grown(this.u, room);
    this.s = grown(this.s, room);
  }

  push(span: number, u: number, s = 0): void {
    const i = this.count++;
    this.reserve(this.count);
    this.span[i] = span;
    this.u[i] = u;
    this.s[i] = s;
  }
}

/** The first `length` numbers; the array itself where it has no more. */
const sized = (array: Float32Array, length: number): Float32Array => (array.length === length ? array : array.slice(0, length));

function grown<A extends Float64Array | Uint32Array>(array: A, length: number): A {
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
/** Attributes that tell how curves run through their points; they are void where those moved or changed. */
export const runValues = { tangent: null, normal: null, handleIn: null, handleOut: null } as const;
const piece = new Float64Array(12);

/**
 * Makes curves from places on other curves. Smooth ones come out as `bezier`, straight ones stay straight; point attributes are linear between
 * the old points, curve attributes are carried over; frames are dropped unless they are to be kept (see `carryFrames`).
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
  /** Between which points of the given curves each new one lies, where frames are kept. */
  private readonly between: { a: number[]; b: number[]; share: number[] } | null;
  private readonly values: { name: string; size: number; from: Float32Array; to: Float32Array }[] = [];

  constructor(
    private readonly given: Curves,
    expected = given.positions.length / 3,
    private readonly memory: Memory = freshMemory,
    keepFrames = false,
  ) {
    this.between = keepFrames ? { a: [], b: [], share: [] } : null;
    const room = Math.max(1, expected) * 3;
    this.positions = memory.float32(room);
    this.tangent = memory.float32(room);
    this.handleIn = memory.float32(room);
    this.handleOut = memory.float32(room);
    for (const [name, { carrier, size, data }] of given.attributes)
      if (carrier === 'point' && !(name in runValues)) this.values.push({ name, size, from: data, to: memory.float32((room / 3) * size) });
  }

  /** Number of points written so far. */
  get pointCount(): number {
    return this.points;
  }

  private reserve(points: number): void {
    if (points * 3 <= this.positions.length) return;
    const room = Math.max(16, points, (this.positions.length / 3) * 2);
    const larger = (array: Float32Array, size: number): Float32Array => {
      const more = this.memory.float32(room * size);
      more.set(array);
      return more;
    };
    this.positions = larger(this.positions, 3);
    this.tangent = larger(this.tangent, 3);
    this.handleIn = larger(this.handleIn, 3);
    this.handleOut = larger(this.handleOut, 3);
    for (const value of this.values) value.to = larger(value.to, value.size);
  }

  /** Adds a curve that runs through `places` of curve `source`, whose spans are `spans` (a curve without spans gives its one point). */
  add(source: number, spans: Spans, places: PlaceList, how: PlacedHow): void {
    const first = this.points;
    const { count } = places;
    this.reserve(first + count);
    const smooth = !spans.straight && spans.count > 0;
    const { given, positions } = this;
    if (smooth) writeSmooth(spans, places, positions, this.tangent, first * 3);
    else
      for (let i = 0; i < count; i++) {
        const o = (first + i) * 3;
        if (spans.count) spanPoint(spans, places.span[i], places.u[i], positions, o);
        else for (let k = 0; k < 3; k++) positions[o + k] = given.positions[given.starts[source] * 3 + k];
      }
    if (smooth) {
      const kinks = kinksOf(spans, places, how.closed);
      for (const { at, before, after } of kinks) bisector(before, after, this.tangent, (first + at) * 3);
      if (how.handles === 'exact') this.cutHandles(spans, places, first, how.closed);
      else this.lengthHandles(places, first, how.closed, how.handles.total, kinks);
      if (!how.tangents) this.tangent.fill(0, first * 3, (first + count) * 3);
      this.smooth = true;
    } else for (const array of [this.tangent, this.handleIn, this.handleOut]) array.fill(0, first * 3, (first + count) * 3);
    this.points += count;
    this.starts.push(this.points);
    this.closed.push(how.closed ? 1 : 0);
    this.kind.push(smooth ? bezierKind : 0);
    this.sources.push(source);
    for (const value of this.values) this.interpolate(value, source, places, first);
    if (this.between) this.noteBetween(this.between, source, places);
  }

  private noteBetween({ a, b, share }: { a: number[]; b: number[]; share: number[] }, source: number, places: PlaceList): void {
    const start = this.given.starts[source];
    const points = this.given.starts[source + 1] - start;
    for (let i = 0; i < places.count; i++) {
      a.push(start + Math.min(places.span[i], points - 1));
      b.push(start + ((places.span[i] + 1) % points));
      share.push(places.u[i]);
    }
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
    if (!closed && count) this.endHandles(first, count);
  }

  /** There is nothing before the first point of an open curve, nor behind its last. */
  private endHandles(first: number, count: number): void {
    this.handleIn.fill(0, first * 3, first * 3 + 3);
    this.handleOut.fill(0, (first + count - 1) * 3, (first + count) * 3);
  }

  /**
   * Handles of a third of the arc length to the neighbour, times tan(θ/4) ÷ (θ/4) with θ the angle between the end tangents: exact to sixth
   * order on arcs (4/3·tan(θ/4), common practice). At kinks each side has its own direction.
   */
  private lengthHandles(places: PlaceList, first: number, closed: boolean, total: number, kinks: readonly Kink[]): void {
    const { tangent, handleIn, handleOut } = this;
    const { count, s } = places;
    let a = first * 3;
    let ax = tangent[a];
    let ay = tangent[a + 1];
    let az = tangent[a + 2];
    for (let i = 1; i <= (closed ? count : count - 1); i++) {
      const b = i < count ? a + 3 : first * 3;
      const bx = tangent[b];
      const by = tangent[b + 1];
      const bz = tangent[b + 2];
      const handle = (((i < count ? s[i] : total) - s[i - 1]) / 3) * arcFactor(bx - ax, by - ay, bz - az);
      handleOut[a] = ax * handle;
      handleOut[a + 1] = ay * handle;
      handleOut[a + 2] = az * handle;
      handleIn[b] = -bx * handle;
      handleIn[b + 1] = -by * handle;
      handleIn[b + 2] = -bz * handle;
      a = b;
      ax = bx;
      ay = by;
      az = bz;
    }
    for (const { at, before, after } of kinks) {
      const o = (first + at) * 3;
      const next = at + 1 < count ? s[at + 1] : total;
      const last = at > 0 ? s[at - 1] : s[count - 1] - total;
      for (let k = 0; k < 3; k++) {
        handleIn[o + k] = (-before[k] * (s[at] - last)) / 3;
        handleOut[o + k] = (after[k] * (next - s[at])) / 3;
      }
    }
    if (!closed && count) this.endHandles(first, count);
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
    const made = makeCurves({
      positions: sized(this.positions, points * 3),
      starts: Uint32Array.from(this.starts),
      closed: Uint8Array.from(this.closed),
      kind: Uint8Array.from(this.kind),
      attributes,
    });
    return this.between ? carryFrames(given, made, this.between) : made;
  }
}

/** Writes places and exact directions from `o` on, a span after the other: its control points are fetched once for all the places in it. */
function writeSmooth(spans: Spans, { count, span, u }: PlaceList, positions: Float32Array, tangent: Float32Array, o: number): void {
  const b = spans.control;
  for (let i = 0; i < count;) {
    const own = span[i];
    const a = own * 12;
    const x0 = b[a];
    const y0 = b[a + 1];
    const z0 = b[a + 2];
    const x1 = b[a + 3];
    const y1 = b[a + 4];
    const z1 = b[a + 5];
    const x2 = b[a + 6];
    const y2 = b[a + 7];
    const z2 = b[a + 8];
    const x3 = b[a + 9];
    const y3 = b[a + 10];
    const z3 = b[a + 11];
    for (; i < count && span[i] === own; i++, o += 3) {
      const w = u[i];
      const v = 1 - w;
      const vv = v * v;
      const vw = v * w;
      const ww = w * w;
      positions[o] = vv * v * x0 + 3 * vv * w * x1 + 3 * v * ww * x2 + ww * w * x3;
      positions[o + 1] = vv * v * y0 + 3 * vv * w * y1 + 3 * v * ww * y2 + ww * w * y3;
      positions[o + 2] = vv * v * z0 + 3 * vv * w * z1 + 3 * v * ww * z2 + ww * w * z3;
      const x = vv * (x1 - x0) + 2 * vw * (x2 - x1) + ww * (x3 - x2);
      const y = vv * (y1 - y0) + 2 * vw * (y2 - y1) + ww * (y3 - y2);
      const z = vv * (z1 - z0) + 2 * vw * (z2 - z1) + ww * (z3 - z2);
      const speed = Math.sqrt(x * x + y * y + z * z);
      if (speed > 1e-12) {
        tangent[o] = x / speed;
        tangent[o + 1] = y / speed;
        tangent[o + 2] = z / speed;
      } else spanTangent(spans, own, w, tangent, o);
    }
  }
}

/** tan(θ/4) ÷ (θ/4) by its series where the angle θ between two unit tangents, given by their difference, is small, which saves two slow functions a point. */
function arcFactor(x: number, y: number, z: number): number {
  const half = Math.min(1, Math.sqrt(x * x + y * y + z * z) / 2);
  // asin by its series is good to 1e-9 here; tan(q)/q = 1 + q²/3 + 2q⁴/15 + 17q⁶/315 (Abramowitz & Stegun 1964, 4.3.67).
  const square = half * half;
  const quarter = half < 0.15 ? (half * (1 + square * (1 / 6 + square * (3 / 40 + (square * 15) / 336)))) / 2 : Math.asin(half) / 2;
  const q = quarter * quarter;
  return q < 0.02 ? 1 + q * (1 / 3 + q * (2 / 15 + (q * 17) / 315)) : Math.tan(quarter) / quarter;
}
