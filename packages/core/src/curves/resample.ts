import type { Attribute, Attributes } from '../geometry/attributes.js';
import { curveCount, curveKinds, makeCurves, type Curves } from '../geometry/curves.js';
import { progressEvery, unbounded, type Work } from '../graph/work.js';
import { fieldAt, type Field } from '../values/field.js';
import { ArcLengthInverse, cumulativeLengths, spanLength, type Place } from './arcLength.js';
import { isPaced, spanPoint, spansOf, spanTangent, type Spans } from './spans.js';

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
  /** `ends`: gaps shrink toward both ends of an open curve, as a cosine does. */
  spread: 'even' | 'ends';
}

const bezierKind = curveKinds.indexOf('bezier');

/** One curve's places, in rising order. */
type Places = readonly Place[];

/**
 * New points along every curve, by its true arc length (not that of its chords).
 *
 * Smooth curves come out as `bezier` with handles and the exact `tangent` at each point, so that they can be resampled again without
 * loss; straight ones stay straight. Point attributes are interpolated, frames are dropped. Curves of fewer than two points or of no
 * length keep their first point, repeated as often as asked for by count, else once.
 *
 * @throws RangeError naming the curve when its count, spacing or deviation cannot be used.
 */
export function resample(curves: Curves, options: ResampleOptions, work: Work = unbounded): Curves {
  const all: { spans: Spans; places: Places }[] = [];
  let total = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const closed = curves.closed[c] === 1;
    const expect = (points: number): void => work.claim({ points: total + points });
    const places = spans.count ? placesOf(spans, closed, options, c, expect, work) : [{ span: 0, u: 0 }];
    total += places.length;
    all.push({ spans, places });
  }
  return gather(curves, all, total);
}

function placesOf(spans: Spans, closed: boolean, options: ResampleOptions, c: number, expect: (points: number) => void, work: Work): Places {
  if (options.by === 'deviation') return byDeviation(spans, closed, requirePositive(options.deviation, 'deviation', c), expect);
  const inverse = new ArcLengthInverse(spans);
  const length = inverse.total;
  if (options.by === 'count') {
    const count = Math.round(fieldAt(options.count, c));
    const least = closed ? 3 : 2;
    if (!(count >= least)) throw new RangeError(`Curve ${c} was to get ${count} points; ${closed ? 'a closed' : 'an open'} curve needs ${least} or more.`);
    expect(count);
    const gaps = closed ? count : count - 1;
    return stations(count, work, (i) => inverse.at(length * warp(i / gaps, options.spread, closed)));
  }
  const spacing = requirePositive(fieldAt(options.spacing, c), 'spacing', c);
  if (!(length > 0)) return [{ span: 0, u: 0 }];
  if (options.fit === 'exact') {
    const whole = Math.floor(length / spacing + 1e-9);
    const rest = length - whole * spacing > 1e-9 * length;
    const count = whole + 1 + (rest && !closed ? 1 : 0) - (closed && !rest ? 1 : 0);
    expect(count);
    return stations(count, work, (i) => inverse.at(Math.min(i * spacing, length)));
  }
  const gaps = Math.max(closed ? 3 : 1, Math.round(length / spacing));
  expect(gaps + 1);
  return stations(closed ? gaps : gaps + 1, work, (i) => inverse.at(length * warp(i / gaps, options.spread, closed)));
}

function requirePositive(value: number, name: string, c: number): number {
  if (value > 0 && Number.isFinite(value)) return value;
  throw new RangeError(`The ${name} for curve ${c} is ${value} m; it must be more than 0.`);
}

/** Fraction of the length for a fraction of the count. */
const warp = (x: number, spread: ResampleOptions['spread'], closed: boolean): number => (spread === 'ends' && !closed ? (1 - Math.cos(Math.PI * x)) / 2 : x);

function stations(count: number, work: Work, place: (i: number) => Place): Places {
  const places: Place[] = [];
  for (let i = 0; i < count; i++) {
    if (i % progressEvery === 0) work.progress(i / count);
    places.push(place(i));
  }
  return places;
}

/**
 * Halves every span until its chord lies within `tolerance` of the curve, looked at at a quarter, a half and three quarters (an S-shaped
 * span crosses its chord at the half). At most 2^16 pieces a span.
 */
function byDeviation(spans: Spans, closed: boolean, tolerance: number, expect: (points: number) => void): Places {
  const places: Place[] = [];
  const ends = new Float64Array(6);
  const probe = new Float64Array(3);
  const far = (i: number, from: number, to: number): boolean => {
    spanPoint(spans, i, from, ends, 0);
    spanPoint(spans, i, to, ends, 3);
    return [0.25, 0.5, 0.75].some((f) => {
      spanPoint(spans, i, from + (to - from) * f, probe, 0);
      return distanceToChord(probe, ends) > tolerance;
    });
  };
  const cut = (i: number, from: number, to: number, depth: number): void => {
    if (depth > 0 && far(i, from, to)) {
      const middle = (from + to) / 2;
      cut(i, from, middle, depth - 1);
      cut(i, middle, to, depth - 1);
      return;
    }
    places.push({ span: i, u: from });
    if (places.length % 4096 === 0) expect(places.length);
  };
  for (let i = 0; i < spans.count; i++) cut(i, 0, 1, spans.straight ? 0 : 16);
  if (!closed) places.push({ span: spans.count - 1, u: 1 });
  expect(places.length);
  return places;
}

/** Distance of a point from the segment between the first and the second point of `ends`. */
function distanceToChord(p: Float64Array, ends: Float64Array): number {
  const d = [0, 1, 2].map((k) => ends[3 + k] - ends[k]);
  const squared = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
  const along = squared > 0 ? ((p[0] - ends[0]) * d[0] + (p[1] - ends[1]) * d[1] + (p[2] - ends[2]) * d[2]) / squared : 0;
  const t = Math.min(1, Math.max(0, along));
  return Math.hypot(p[0] - ends[0] - t * d[0], p[1] - ends[1] - t * d[1], p[2] - ends[2] - t * d[2]);
}

/** Writes places of all curves into new arrays. */
function gather(curves: Curves, all: readonly { spans: Spans; places: Places }[], total: number): Curves {
  const positions = new Float32Array(total * 3);
  const tangent = new Float32Array(total * 3);
  const starts = new Uint32Array(all.length + 1);
  const kind = new Uint8Array(all.length);
  let at = 0;
  all.forEach(({ spans, places }, c) => {
    kind[c] = spans.straight || !spans.count ? 0 : bezierKind;
    for (const { span, u } of places) {
      if (spans.count) spanPoint(spans, span, u, positions, at * 3);
      else positions.set(curves.positions.subarray(curves.starts[c] * 3, curves.starts[c] * 3 + 3), at * 3);
      if (kind[c]) spanTangent(spans, span, u, tangent, at * 3);
      at++;
    }
    if (curves.starts[c] === curves.starts[c + 1]) at = starts[c]; // a curve of no points stays one
    starts[c + 1] = at;
  });
  const sized = at === total ? positions : positions.slice(0, at * 3);
  const attributes = interpolated(curves, all, at);
  if (kind.some((k) => k !== 0)) addHandles(attributes, sized, starts, curves.closed, kind, tangent.subarray(0, at * 3), all);
  return makeCurves({ positions: sized, starts, closed: curves.closed, kind, attributes });
}

/**
 * Gives `tangent`, `handleOut` and `handleIn`. A handle is a third of the arc length to the neighbour, so that spans run by length, times
 * tan(θ/4) ÷ (θ/4) with θ the angle between the end tangents: exact to sixth order on arcs (4/3·tan(θ/4), common practice).
 */
function addHandles(
  attributes: Map<string, Attribute>,
  positions: Float32Array,
  starts: Uint32Array,
  closed: Uint8Array,
  kind: Uint8Array,
  tangent: Float32Array,
  all: readonly { spans: Spans; places: Places }[],
): void {
  const handleOut = new Float32Array(positions.length);
  const handleIn = new Float32Array(positions.length);
  for (let c = 0; c < starts.length - 1; c++) {
    if (!kind[c]) continue;
    const { spans, places } = all[c];
    const lengths = cumulativeLengths(spans);
    const along = places.map(({ span, u }) => lengths[span] + spanLength(spans, span, 0, u));
    const count = starts[c + 1] - starts[c];
    for (let i = 0; i < (closed[c] ? count : count - 1); i++) {
      const next = (i + 1) % count;
      const third = ((next ? along[next] : lengths[spans.count]) - along[i]) / 3;
      const a = (starts[c] + i) * 3;
      const b = (starts[c] + next) * 3;
      const handle = third * arcFactor(tangent, a, b);
      for (let k = 0; k < 3; k++) {
        handleOut[a + k] = tangent[a + k] * handle;
        handleIn[b + k] = -tangent[b + k] * handle;
      }
    }
  }
  attributes.set('tangent', { carrier: 'point', size: 3, data: tangent.slice() });
  attributes.set('handleOut', { carrier: 'point', size: 3, data: handleOut });
  attributes.set('handleIn', { carrier: 'point', size: 3, data: handleIn });
}

function arcFactor(tangent: Float32Array, a: number, b: number): number {
  const cosine = tangent[a] * tangent[b] + tangent[a + 1] * tangent[b + 1] + tangent[a + 2] * tangent[b + 2];
  const quarter = Math.acos(Math.min(1, Math.max(-1, cosine))) / 4;
  return quarter > 1e-4 ? Math.tan(quarter) / quarter : 1;
}

const droppedByResampling = new Set(['tangent', 'normal', 'handleIn', 'handleOut']);

/** Point attributes at the places, linear between the points; curve attributes are shared. */
function interpolated(curves: Curves, all: readonly { places: Places }[], total: number): Map<string, Attribute> {
  const result = new Map<string, Attribute>();
  for (const [name, attribute] of curves.attributes as Attributes) {
    if (attribute.carrier !== 'point') {
      result.set(name, attribute);
      continue;
    }
    if (droppedByResampling.has(name)) continue;
    const { size, data } = attribute;
    const values = new Float32Array(total * size);
    let at = 0;
    for (let c = 0; c < all.length; c++) {
      const from = curves.starts[c];
      const count = curves.starts[c + 1] - from;
      if (!count) continue;
      for (const { span, u } of all[c].places) {
        const a = (from + Math.min(span, count - 1)) * size;
        const b = (from + ((span + 1) % count)) * size;
        for (let k = 0; k < size; k++) values[at++] = data[a + k] * (1 - u) + data[b + k] * u;
      }
    }
    result.set(name, { carrier: 'point', size, data: values });
  }
  return result;
}

/** Degrees a sampled piece of a smooth curve may turn. */
const sampleTurn = 7.5;

/**
 * Curves whose points are where rings and frames belong. Smooth curves that are not paced yet get points at even parameters, about one
 * for each 7.5° that their control polygon turns (at most 64 a span), with exact tangents; the curve itself does not change.
 */
export function paced(curves: Curves, work: Work = unbounded): Curves {
  let done = true;
  for (let c = 0; c < curveCount(curves); c++) done &&= isPaced(curves, c);
  if (done) return curves;
  const all: { spans: Spans; places: Places }[] = [];
  let total = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const places: Place[] = [];
    for (let i = 0; i < spans.count; i++) {
      const pieces = isPaced(curves, c) ? 1 : Math.min(64, Math.max(1, Math.ceil(spanTurn(spans, i) / sampleTurn)));
      for (let step = 0; step < pieces; step++) places.push({ span: i, u: step / pieces });
    }
    if (!curves.closed[c] && spans.count) places.push({ span: spans.count - 1, u: 1 });
    if (!spans.count) places.push({ span: 0, u: 0 });
    total += places.length;
    work.claim({ points: total });
    all.push({ spans, places });
  }
  return gather(curves, all, total);
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
