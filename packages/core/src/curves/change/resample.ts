import { curveCount, type Curves } from '../../geometry/curves.js';
import { progressEvery, unbounded, type Work } from '../../base/work.js';
import { constantField, fieldAt, type Field } from '../../values/field.js';
import { cumulativeLengths } from '../evaluate/arcLength.js';
import { ArcLengthInverse } from '../evaluate/arcLengthInverse.js';
import { byDeviation } from './byDeviation.js';
import { PlacedCurves, PlaceList } from '../evaluate/places.js';
import { isPaced, spansOf, spanTangent, type Spans } from '../evaluate/spans.js';

export interface ResampleOptions {
  by: 'count' | 'spacing' | 'deviation';
  /** Points per curve, ends included, a value per curve; open curves 2 or more, closed ones 3 or more. */
  count: Field;
  /** Metres between points along the curve, a value per curve, more than 0. */
  spacing: Field;
  /** Largest distance of a chord from the curve, metres, more than 0. */
  deviation: number;
  /** `even`: the spacing is adjusted so that the end is met; `exact`: the last piece is shorter. */
  fit: 'even' | 'exact';
  /** `ends`: gaps shrink toward both ends of an open curve, as a cosine does. `curvature`: they shrink where the curve bends. */
  spread: 'even' | 'ends' | 'curvature';
  /** Degrees; corners that turn by more stay points. 0 (default): none is kept. */
  keepCorners?: number;
  /** New points have the frames that the old ones had (see `carryFrames`). Default: false, frames are dropped. */
  keepFrames?: boolean;
}

/** Eight points, evenly: give `by` and its value. */
export const defaultResample = {
  by: 'count',
  count: constantField(8),
  spacing: constantField(0.1),
  deviation: 0.001,
  fit: 'even',
  spread: 'even',
} as const satisfies ResampleOptions;

/**
 * New points along every curve, by its true arc length (not that of its chords).
 *
 * Smooth curves come out as `bezier` with handles and the exact `tangent` at each point, so that they can be resampled again. The
 * curve through few points is not quite the given one: of a circle it lies off by 3e-4 of the radius at 4 points, 4e-6 at 8 and 1e-7 at 16; straight ones stay straight. Point attributes are interpolated, frames are dropped unless kept. Curves of fewer than two points or of no
 * length keep their first point, repeated as often as asked for by count, else once.
 *
 * With `keepCorners` above 0 the corners that turn by more than it stay points; the places between two corners are spread as asked, each
 * stretch getting its share of the count by length.
 *
 * @throws RangeError naming the curve when its count, spacing or deviation cannot be used.
 */
export function resample(curves: Curves, options: ResampleOptions, work: Work = unbounded): Curves {
  const result = new PlacedCurves(curves, expectedPoints(curves, options, work), work.memory, options.keepFrames);
  const places = new PlaceList();
  const inverse = new ArcLengthInverse();
  const keepCorners = options.keepCorners ?? 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const closed = curves.closed[c] === 1;
    const done = result.pointCount;
    const expect = (points: number): void => work.claim({ points: done + points });
    places.clear();
    // A curve of no points stays one.
    if (!spans.count) {
      if (curves.starts[c + 1] > curves.starts[c]) places.push(0, 0);
      result.add(c, spans, places, { closed, handles: 'exact', tangents: false });
      continue;
    }
    if (options.by === 'deviation') {
      const handles = byDeviation(spans, closed, requirePositive(options.deviation, 'deviation', c), expect, places);
      result.add(c, spans, places, { closed, handles, tangents: true });
      continue;
    }
    inverse.load(spans);
    const corners = keepCorners > 0 && inverse.total > 0 ? cornersOf(spans, closed, keepCorners) : [];
    if (corners.length) betweenCorners(spans, closed, options, c, corners, expect, places, inverse);
    else placesOf(spans, closed, options, c, expect, work, places, inverse);
    result.add(c, spans, places, { closed, handles: { total: inverse.total }, tangents: true });
  }
  return result.finish();
}

/** Points that will be made, where that is known beforehand, so that room is made once. */
function expectedPoints(curves: Curves, { by, count }: ResampleOptions, work: Work): number | undefined {
  if (by !== 'count') return undefined;
  let points = 0;
  for (let c = 0; c < curveCount(curves); c++) points += Math.max(0, Math.round(fieldAt(count, c)));
  if (!Number.isFinite(points)) return undefined;
  work.claim({ points });
  return points;
}

function countFor(options: ResampleOptions, c: number, closed: boolean): number {
  const count = Math.round(fieldAt(options.count, c));
  const least = closed ? 3 : 2;
  if (!(count >= least)) throw new RangeError(`Curve ${c + 1} was to get ${count} points; ${closed ? 'a closed' : 'an open'} curve needs ${least} or more.`);
  return count;
}

function placesOf(
  spans: Spans,
  closed: boolean,
  options: ResampleOptions,
  c: number,
  expect: (points: number) => void,
  work: Work,
  places: PlaceList,
  inverse: ArcLengthInverse,
): void {
  const length = inverse.total;
  const put = (count: number, station: (i: number) => number): void => {
    expect(count);
    places.reserve(count);
    const { s, span, u } = places;
    for (let i = 0; i < count; i++) s[i] = station(i);
    for (let i = 0; i < count; i += progressEvery) {
      work.progress(i / count);
      const to = Math.min(count, i + progressEvery);
      inverse.find(s.subarray(i, to), to - i, span.subarray(i, to), u.subarray(i, to));
    }
    places.count = count;
  };
  let gaps: number;
  if (options.by === 'count') gaps = countFor(options, c, closed) - (closed ? 0 : 1);
  else {
    const spacing = requirePositive(fieldAt(options.spacing, c), 'spacing', c);
    if (!(length > 0)) return places.push(0, 0);
    if (options.fit === 'exact') {
      const whole = Math.floor(length / spacing + 1e-9);
      const rest = length - whole * spacing > 1e-9 * length;
      return put(whole + 1 + (rest && !closed ? 1 : 0) - (closed && !rest ? 1 : 0), (i) => Math.min(i * spacing, length));
    }
    gaps = Math.max(closed ? 3 : 1, Math.round(length / spacing));
  }
  const count = closed ? gaps : gaps + 1;
  if (options.spread === 'curvature') {
    const stations = byCurvature(spans, closed, inverse, gaps);
    return put(count, (i) => stations[i]);
  }
  if (options.spread === 'even') put(count, (i) => length * (i / gaps));
  else put(count, (i) => length * warp(i / gaps, options.spread, closed));
}

/** Places between corners, each stretch with its share of the points and both corners among them. */
function betweenCorners(
  spans: Spans,
  closed: boolean,
  options: ResampleOptions,
  c: number,
  corners: readonly number[],
  expect: (points: number) => void,
  places: PlaceList,
  inverse: ArcLengthInverse,
): void {
  const before = cumulativeLengths(spans);
  const length = inverse.total;
  // Stretches begin at these lengths; an open curve's first at its start, a closed curve's at its first corner.
  const stops = corners.map((span) => before[span]);
  const starts = closed ? stops : [0, ...stops];
  const ends = closed ? [...stops.slice(1), stops[0] + length] : [...stops, length];
  const lengths = starts.map((from, i) => ends[i] - from);
  const total = options.by === 'count' ? countFor(options, c, closed) - (closed ? 0 : 1) : 0;
  if (options.by === 'count' && total < starts.length)
    throw new RangeError(`Curve ${c + 1} was to get ${total + (closed ? 0 : 1)} points, but keeping its ${corners.length} corners needs ${starts.length + (closed ? 0 : 1)} or more.`); // prettier-ignore
  const spacing = options.by === 'spacing' ? requirePositive(fieldAt(options.spacing, c), 'spacing', c) : 0;
  const gaps = options.by === 'count' ? apportion(lengths, total) : lengths.map((own) => Math.max(1, Math.round(own / spacing)));
  expect(gaps.reduce((sum, n) => sum + n, 1));
  const at: number[] = [];
  starts.forEach((from, i) => {
    for (let n = 0; n < gaps[i]; n++) at.push((from + lengths[i] * warp(n / gaps[i], options.spread, false)) % (closed ? length : Infinity));
  });
  if (!closed) at.push(length);
  at.sort((a, b) => a - b);
  for (const s of at) {
    inverse.at(s);
    places.push(inverse.span, inverse.u, s);
  }
}

/** Shares `total` out in proportion to `lengths`, at least one each (largest remainders first). */
function apportion(lengths: readonly number[], total: number): number[] {
  const sum = lengths.reduce((a, b) => a + b, 0) || 1;
  const free = total - lengths.length;
  const quotas = lengths.map((length) => (free * length) / sum);
  const shares = quotas.map((quota) => 1 + Math.floor(quota));
  const order = quotas.map((quota, i) => [quota - Math.floor(quota), i]).sort((a, b) => b[0] - a[0] || a[1] - b[1]);
  let left = total - shares.reduce((a, b) => a + b, 0);
  for (let k = 0; left > 0; k++, left--) shares[order[k][1]]++;
  return shares;
}

/** Spans at whose start the curve turns by more than `degrees`; ends of open curves are no corners. */
export function cornersOf(spans: Spans, closed: boolean, degrees: number): number[] {
  const limit = Math.cos((degrees * Math.PI) / 180);
  const t = new Float64Array(6);
  const corners: number[] = [];
  for (let i = closed ? 0 : 1; i < spans.count; i++) {
    spanTangent(spans, i > 0 ? i - 1 : spans.count - 1, 1, t, 0);
    spanTangent(spans, i, 0, t, 3);
    if (t[0] * t[3] + t[1] * t[4] + t[2] * t[5] < limit - 1e-9) corners.push(i);
  }
  return corners;
}

/**
 * Lengths of places that lie closer where the curve bends more: even in the sum of length and turn, one full turn counting as much as the whole
 * length. Looked at in 16 steps a wanted gap, at least 512.
 */
function byCurvature(spans: Spans, closed: boolean, inverse: ArcLengthInverse, gaps: number): Float64Array {
  const steps = Math.min(1_000_000, Math.max(512, gaps * 16));
  const weight = new Float64Array(steps + 1);
  const t = new Float64Array(6);
  const { total } = inverse;
  for (let i = 0; i <= steps; i++) {
    inverse.at((total * i) / steps);
    spanTangent(spans, inverse.span, inverse.u, t, 3);
    if (i > 0) {
      const cosine = t[0] * t[3] + t[1] * t[4] + t[2] * t[5];
      weight[i] = weight[i - 1] + 1 / steps + Math.acos(Math.min(1, Math.max(-1, cosine))) / (2 * Math.PI);
    }
    t.copyWithin(0, 3);
  }
  const stations = new Float64Array(gaps + 1);
  for (let i = 1, k = 0; i <= gaps; i++) {
    const wanted = (weight[steps] * i) / gaps;
    while (k + 1 < steps && weight[k + 1] < wanted) k++;
    const run = weight[k + 1] - weight[k];
    stations[i] = (total * (k + (run > 0 ? (wanted - weight[k]) / run : 0))) / steps;
  }
  if (!closed) stations[gaps] = total;
  return stations;
}

function requirePositive(value: number, name: string, c: number): number {
  if (value > 0 && Number.isFinite(value)) return value;
  throw new RangeError(`The ${name} for curve ${c + 1} is ${value} m; it must be more than 0.`);
}

/** Fraction of the length for a fraction of the count. */
const warp = (x: number, spread: ResampleOptions['spread'], closed: boolean): number => (spread === 'ends' && !closed ? (1 - Math.cos(Math.PI * x)) / 2 : x);

/** Degrees a sampled piece of a smooth curve may turn. */
const sampleTurn = 7.5;

/**
 * Curves whose points are where rings and frames belong. Smooth curves that are not paced yet get points at even parameters, about one
 * for each 7.5° that their control polygon turns (at most 64 a span), with exact tangents; the curve itself does not change.
 */
export function paced(curves: Curves, work: Work = unbounded): Curves {
  return pacedBy(curves, piecesOfSpan, work);
}

/**
 * The same of curves that have equally many points: a span gets as many on every curve as the one needs that turns most there, so that points go on answering to each other.
 */
export function pacedAlike(curves: Curves, work: Work = unbounded): Curves {
  const all = Array.from({ length: curveCount(curves) }, (_, c) => spansOf(curves, c));
  const pieces = Array.from({ length: all[0]?.count ?? 0 }, (_, i) =>
    all.reduce((most, spans, c) => (isPaced(curves, c) ? most : Math.max(most, piecesOfSpan(spans, i))), 1),
  );
  return pacedBy(curves, (_, i) => pieces[i], work, true);
}

/** How many pieces a span is sampled in. */
const piecesOfSpan = (spans: Spans, i: number): number => Math.min(64, Math.max(1, Math.ceil(spanTurn(spans, i) / sampleTurn)));

/** `alike`: curves that are paced already get the pieces too. */
function pacedBy(curves: Curves, piecesOf: (spans: Spans, i: number) => number, work: Work, alike = false): Curves {
  let done = true;
  for (let c = 0; c < curveCount(curves); c++) done &&= isPaced(curves, c);
  if (done) return curves;
  const result = new PlacedCurves(curves, undefined, work.memory);
  const places = new PlaceList();
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const closed = curves.closed[c] === 1;
    const asItIs = !alike && isPaced(curves, c);
    places.clear();
    for (let i = 0; i < spans.count; i++) {
      const pieces = asItIs ? 1 : piecesOf(spans, i);
      for (let step = 0; step < pieces; step++) places.push(i, step / pieces);
    }
    if (!closed && spans.count) places.push(spans.count - 1, 1);
    if (!spans.count && curves.starts[c + 1] > curves.starts[c]) places.push(0, 0);
    work.claim({ points: result.pointCount + places.count });
    result.add(c, spans, places, { closed, handles: 'exact', tangents: true });
  }
  return result.finish();
}

/** Degrees by which the control polygon of a span turns. */
function spanTurn(spans: Spans, i: number): number {
  const b = spans.control;
  const legs: number[][] = [];
  for (let j = 0; j < 3; j++) {
    const a = i * 12 + j * 3;
    const leg = [0, 1, 2].map((k) => b[a + 3 + k] - b[a + k]);
    const length = Math.hypot(...leg);
    if (length > 1e-12) legs.push(leg.map((value) => value / length));
  }
  let turn = 0;
  for (let j = 1; j < legs.length; j++)
    turn += Math.acos(Math.min(1, Math.max(-1, legs[j][0] * legs[j - 1][0] + legs[j][1] * legs[j - 1][1] + legs[j][2] * legs[j - 1][2])));
  return (turn * 180) / Math.PI;
}
