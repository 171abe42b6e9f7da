import { withAttributes } from '../../geometry/attributes.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import { placesBetween } from '../../curves/change/cut.js';
import { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { stationsOf } from '../../curves/evaluate/arcLength.js';
import { ArcLengthInverse } from '../../curves/evaluate/arcLengthInverse.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import { PlacedCurves, PlaceList } from '../../curves/evaluate/places.js';
import { isPaced, spansOf } from '../../curves/evaluate/spans.js';
import { fieldAt, type Field } from '../../values/field.js';
import type { PieceOf } from '../parts/sink.js';
import { findForks, type Arm } from './findForks.js';
import { metresBetween, type OnCurve } from './meetings.js';
import { clearOf } from './measureFork.js';

/** An end of a cut curve at a fork. */
export interface CutEnd {
  readonly curve: number;
  readonly end: 'start' | 'end';
}

/** Curves cut back where they meet, so that there is room for a joint. */
export interface CutAtForks {
  readonly curves: Curves;
  /** Metres, a value a point. */
  readonly radius: Field;
  readonly pieces: PieceOf;
  /** The curve that each was cut out of. */
  readonly source: readonly number[];
  /** The ends at each fork. */
  readonly forks: readonly (readonly CutEnd[])[];
  /** Forks that cannot be joined, by their shortest arm: these stay as they are. `fits`: metres of radius there up to which they could; 0: none. */
  readonly tooTight: readonly (OnCurve & { readonly fits: number })[];
  /** Whether a place of the given curves lies at a joint, where two ways are near each other by design. */
  readonly atJoint: (place: OnCurve) => boolean;
}

/** The name under which radii go along while curves are cut; nobody can name a value so. */
const radiusName = '#radius';
/** Share of the way to the next fork, or to an end, that a fork may take. */
const most = { fork: 0.45, end: 0.85 } as const;
/** How far the ways out of a joint may be near each other, in what it took of them. */
const beside = 3;

/** A cut: about a place of a curve, so far to either side. */
interface Cut {
  readonly at: number;
  readonly back: number;
  readonly fork: number;
}

/** Cuts curves back from where three ways or more meet, as far as their radii need. */
export function cutAtForks(given: Curves, radius: Field, work: Work): CutAtForks {
  const { normal } = framesOf(given);
  const stations = stationsOf(given);
  const paths = Array.from({ length: curveCount(given) }, (_, c) => new AlongCurve(given, c, normal));
  const radiusAt = (curve: number, at: number): number => {
    const { span, u } = paths[curve].spanAt(at);
    const from = given.starts[curve];
    const next = from + span + 1;
    const [a, b] = [from + span, next < given.starts[curve + 1] ? next : given.closed[curve] ? from : next - 1].map((i) => fieldAt(radius, i));
    return a + u * (b - a);
  };
  const found = findForks({ curves: given, paths, stations, radiusAt }, work);
  const places = new Map<number, number[]>();
  for (const { curve, at } of found.flat()) {
    const list = places.get(curve);
    if (list) list.push(at);
    else places.set(curve, [at]);
  }
  const sorted = new Map([...places].map(([curve, list]) => [curve, [...new Set(list)].sort((a, b) => a - b)]));
  /** Metres of an arm that its fork may take. */
  const free = ({ curve, at, way }: Arm): number => {
    const list = sorted.get(curve)!;
    const rank = rankOf(list, at) + way;
    const { total } = paths[curve];
    if (given.closed[curve]) {
      const round = list.length === 1 ? total : (list[(rank + list.length) % list.length] - at) * way;
      return (round > 0 ? round : round + total) * most.fork;
    }
    const next = list[rank];
    return next === undefined ? (way > 0 ? total - at : at) * most.end : Math.abs(next - at) * most.fork;
  };
  const cuts = new Map<number, Cut[]>();
  const tooTight: (OnCurve & { fits: number })[] = [];
  let forks = 0;
  for (const arms of found) {
    const back = clearOf(arms, paths, radiusAt, Math.min(...arms.map(free)));
    if (back === null) {
      const shortest = arms.reduce((best, arm) => (free(arm) < free(best) ? arm : best));
      tooTight.push({ curve: shortest.curve, at: shortest.at, fits: fitting(arms, paths, radiusAt, free(shortest)) });
      continue;
    }
    // Both ways from a place inside a curve are one cut.
    const cut = new Set<string>();
    for (const { curve, at } of arms) {
      if (cut.has(`${curve} ${at}`)) continue;
      cut.add(`${curve} ${at}`);
      const list = cuts.get(curve);
      if (list) list.push({ at, back, fork: forks });
      else cuts.set(curve, [{ at, back, fork: forks }]);
    }
    forks++;
  }
  const atJoint = ({ curve, at }: OnCurve): boolean =>
    (cuts.get(curve) ?? []).some((cut) => metresBetween(given, paths, curve, cut.at, at) < cut.back * beside);
  return { ...pieced(given, radius, paths, cuts, forks), tooTight, atJoint };
}

/** The greatest radius at the fork, of its widest arm, with which it could be joined within a limit; 0: none. */
function fitting(arms: readonly Arm[], paths: readonly AlongCurve[], radiusAt: (curve: number, at: number) => number, limit: number): number {
  const widest = Math.max(...arms.map(({ curve, at }) => radiusAt(curve, at)));
  for (let share = 0.9; share > 0.02; share *= 0.9) {
    const thinner = (curve: number, at: number): number => radiusAt(curve, at) * share;
    if (clearOf(arms, paths, thinner, limit) !== null) return widest * share;
  }
  return 0;
}

/** Where a number stands in a sorted list that has it. */
function rankOf(list: readonly number[], value: number): number {
  let [low, high] = [0, list.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

function pieced(
  given: Curves,
  radius: Field,
  paths: readonly AlongCurve[],
  cuts: ReadonlyMap<number, readonly Cut[]>,
  forks: number,
): Omit<CutAtForks, 'tooTight' | 'atJoint'> {
  const points = given.positions.length / 3;
  const radii = Float32Array.from({ length: points }, (_, i) => fieldAt(radius, i));
  const marked: Curves = { ...given, attributes: withAttributes(given.attributes, { [radiusName]: { carrier: 'point', size: 1, data: radii } }) };
  const result = new PlacedCurves(marked, points, undefined, given.attributes.has('normal'));
  const list = new PlaceList();
  const inverse = new ArcLengthInverse();
  const source: number[] = [];
  const [before, open]: [number[], number[]] = [[], []];
  const ends: CutEnd[][] = Array.from({ length: forks }, () => []);
  for (let c = 0; c < curveCount(given); c++) {
    const spans = spansOf(marked, c);
    const closed = given.closed[c] === 1;
    inverse.load(spans);
    const add = (from: number, to: number, startFork: number | undefined, endFork: number | undefined): void => {
      list.clear();
      if (closed && startFork === undefined) for (let i = 0; i < spans.count; i++) list.push(i, 0);
      else placesBetween(spans, inverse, { from, to, across: from > to }, list);
      result.add(c, spans, list, { closed: closed && startFork === undefined, handles: 'exact', tangents: isPaced(given, c) });
      if (startFork !== undefined) ends[startFork].push({ curve: source.length, end: 'start' });
      if (endFork !== undefined) ends[endFork].push({ curve: source.length, end: 'end' });
      open.push((startFork === undefined ? 0 : 1) + (endFork === undefined ? 0 : 2));
      source.push(c);
      before.push(from);
    };
    const { total } = paths[c];
    if (!(total > 0)) {
      list.clear();
      list.push(0, 0);
      result.add(c, spans, list, { closed: false, handles: 'exact', tangents: false });
      source.push(c);
      before.push(0);
      open.push(0);
      continue;
    }
    const own = [...(cuts.get(c) ?? [])].sort((a, b) => a.at - b.at);
    if (closed && own.length) {
      const round = (s: number): number => s - Math.floor(s / total) * total;
      own.forEach((cut, k) => {
        const next = own[(k + 1) % own.length];
        add(round(cut.at + cut.back), round(next.at - next.back), cut.fork, next.fork);
      });
      continue;
    }
    let [from, fork]: [number, number | undefined] = [0, undefined];
    for (const cut of own) {
      if (cut.at > 0) add(from, cut.at - cut.back, fork, cut.fork);
      [from, fork] = [cut.at + cut.back, cut.fork];
    }
    if (from < total) add(from, total, fork, undefined);
  }
  const made = result.finish();
  const cutRadii = made.attributes.get(radiusName)!.data;
  const whole = source.map((c) => paths[c].total);
  return {
    curves: { ...made, attributes: withAttributes(made.attributes, { [radiusName]: null }) },
    radius: { values: Float64Array.from(cutRadii), constant: 0 },
    pieces: { before, whole, open: Uint8Array.from(open) },
    source,
    forks: ends,
  };
}
