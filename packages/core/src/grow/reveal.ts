import { gatherRows, withAttributes, type Attribute } from '../geometry/attributes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { gatherPoints } from '../geometry/gather.js';
import { makePoints, type Points } from '../geometry/points.js';
import { curveLengths, stationsOf } from '../curves/evaluate/arcLength.js';
import { PlacedCurves, PlaceList } from '../curves/evaluate/places.js';
import { isPaced, spansOf, type Spans } from '../curves/evaluate/spans.js';
import { tick, type Work } from '../base/work.js';

export interface RevealOptions {
  /** Seconds: what was born until then is there. */
  front: number;
  /** Seconds that things take to their whole size. */
  soft: number;
}

/** Sizes at the front: from 0 at the moment of birth to 1 after `soft` seconds, without a jerk at either end. */
function grownSince(birth: number, { front, soft }: RevealOptions): number {
  if (!(soft > 0)) return birth <= front ? 1 : 0;
  const share = Math.min(1, Math.max(0, (front - birth) / soft));
  return share * share * (3 - 2 * share);
}

/** When what is on each point is born: curves grow from their starts, all at one pace, the longest first, and all end after `seconds`. */
export function birthsByLength(curves: Curves, seconds: number): Float32Array {
  const lengths = curveLengths(curves);
  const longest = lengths.reduce((most, length) => Math.max(most, length), 0);
  const stations = stationsOf(curves);
  const births = new Float32Array(stations.length);
  for (let c = 0; c < curveCount(curves); c++)
    for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) births[i] = longest > 0 ? ((longest - lengths[c] + stations[i]) / longest) * seconds : 0;
  return births;
}

/**
 * What of curves is born until the front: each is cut where the front is, to a share of the piece that it has reached, and keeps its course. Points have `grown`, 0…1;
 * `width` is multiplied by it where they have that.
 */
export function revealCurves(curves: Curves, births: Float32Array, options: RevealOptions, work: Work): Curves {
  const { front } = options;
  const given = { ...curves, attributes: withAttributes(curves.attributes, { birth: { carrier: 'point', size: 1, data: births } }) };
  const placed = new PlacedCurves(given, undefined, work.memory, true);
  const places = new PlaceList();
  for (let c = 0; c < curveCount(given); c++) {
    tick(work, c, curveCount(given));
    const [from, to] = [given.starts[c], given.starts[c + 1]];
    const count = to - from;
    const spans = keptSpans(curves, c);
    const closed = given.closed[c] === 1;
    const tangents = isPaced(given, c);
    const born = (i: number): boolean => births[from + (i % count)] <= front;
    let all = true;
    for (let i = 0; i < count && all; i++) all = born(i);
    if (all || !spans.count) {
      if (!all || !count) continue;
      places.clear();
      for (let i = 0; i < spans.count; i++) places.push(i, 0);
      if (!closed) places.push(Math.max(0, spans.count - 1), spans.count ? 1 : 0);
      placed.add(c, spans, places, { closed, handles: 'exact', tangents });
      continue;
    }
    const share = (i: number): number => shareBorn(births[from + i], births[from + ((i + 1) % count)], front);
    eachRun(spans.count, born, share, places, () => placed.add(c, spans, places, { closed: false, handles: 'exact', tangents }));
  }
  const made = placed.finish();
  const birth = made.attributes.get('birth')!.data;
  const grown = birth.map((value) => grownSince(value, options));
  const width = made.attributes.get('width');
  const thinner = width?.carrier === 'point' && width.size === 1 && { width: { ...width, data: width.data.map((value, i) => value * grown[i]) } };
  return { ...made, attributes: withAttributes(made.attributes, { grown: { carrier: 'point', size: 1, data: grown }, ...thinner }) };
}

const spansKept = new WeakMap<Curves, Spans[]>();

/** The spans of a curve, kept as long as the curves: every moment asks for those of the same. */
function keptSpans(curves: Curves, c: number): Spans {
  let kept = spansKept.get(curves);
  if (!kept) spansKept.set(curves, (kept = []));
  return (kept[c] ??= spansOf(curves, c));
}

/** How far along a piece the front is, 0…1. */
const shareBorn = (a: number, b: number, front: number): number => (a === b ? 0 : Math.min(1, Math.max(0, (front - a) / (b - a))));

/** Lays down the parts of a curve that are born as places along its spans, one after another, and tells of each that has more than one. */
function eachRun(spans: number, born: (i: number) => boolean, share: (i: number) => number, places: PlaceList, tell: () => void): void {
  places.clear();
  const end = (): void => {
    if (places.count > 1) tell();
    places.clear();
  };
  let here = born(0);
  for (let i = 0; i < spans; i++) {
    const there = born(i + 1);
    if (here && !places.count) places.push(i, 0);
    if (!here && there) places.push(i, share(i));
    if (there) places.push(i + 1 < spans ? i + 1 : i, i + 1 < spans ? 0 : 1);
    else if (here) {
      const u = share(i);
      if (u > 0) places.push(i, u);
      end();
    }
    here = there;
  }
  end();
}

/** Copies that are born until the front, growing from their own origin. They have `grown`. */
export function revealCopies(copies: Copies, births: ArrayLike<number>, options: RevealOptions): Copies {
  const which: number[] = [];
  for (let i = 0; i < copies.object.length; i++) if (births[i] <= options.front && grownSince(births[i], options) > 0) which.push(i);
  const matrices = gatherRows({ carrier: 'copy', size: 16, data: copies.matrices }, which);
  const grown = Float32Array.from(which, (i) => grownSince(births[i], options));
  grown.forEach((size, i) => {
    for (let column = 0; column < 3; column++) for (let k = 0; k < 3; k++) matrices[i * 16 + column * 4 + k] *= size;
  });
  const attributes = new Map<string, Attribute>([...copies.attributes].map(([name, attribute]) => [name, attribute.carrier === 'copy' ? { ...attribute, data: gatherRows(attribute, which) } : attribute])); // prettier-ignore
  attributes.set('grown', { carrier: 'copy', size: 1, data: grown });
  return makeCopies(copies.objects, Uint32Array.from(which, (i) => copies.object[i]), matrices, attributes); // prettier-ignore
}

/** Points that are born until the front. They have `grown`. */
export function revealPoints(points: Points, births: ArrayLike<number>, options: RevealOptions): Points {
  const which = Array.from({ length: points.positions.length / 3 }, (_, i) => i).filter((i) => births[i] <= options.front);
  const kept = gatherPoints(points, which);
  const grown: Attribute = { carrier: 'point', size: 1, data: Float32Array.from(which, (i) => grownSince(births[i], options)) };
  return makePoints(kept.positions, withAttributes(kept.attributes, { grown }));
}
