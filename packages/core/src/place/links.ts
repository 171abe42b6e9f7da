import { mixedRows, type Attribute } from '../geometry/attributes.js';
import { makeCurves, type Curves } from '../geometry/curves.js';
import type { Points } from '../geometry/points.js';
import { tick, type Work } from '../base/work.js';
import type { Surface } from '../near/surface.js';
import { hash, randomAt } from '../values/random.js';
import { sharesAlong, WayRound } from './wayRound.js';

export interface LinkOptions {
  count: number;
  seed: number;
  /** Metres between the two points of a link, at least and at most. */
  least: number;
  greatest: number;
  /** Points of the same `part` are not linked. */
  avoidSamePart: boolean;
}

/** What became of links that come too near to a body. */
export interface LinksClear {
  readonly body: Surface;
  /** Metres off the body. */
  readonly clearance: number;
  readonly then: 'drop' | 'leadRound';
}

export interface Links {
  /** Straight curves from point to point, with `from` and `to` (numbers of the points), and the values of the points at their ends. */
  readonly curves: Curves;
  /** Links that were asked for and could not be had. */
  readonly missing: number;
  /** Pairs that were left out since they come too near to the body. */
  readonly dropped: number;
}

/** Up to so many pairs all are looked at; of more, as many are drawn as it takes. */
const allPairs = 300_000;

/** Draws for each link that is asked for, when pairs are drawn. */
const draws = 200;

/**
 * Links random pairs of points, each pair once. The same seed draws the same links, and more of them keep those there were. What lies between the ends
 * has values between theirs, by length.
 */
export function linkPoints(points: Points, options: LinkOptions, clear: LinksClear | null, work: Work): Links {
  const n = points.positions.length / 3;
  const p = points.positions;
  const part = options.avoidSamePart ? points.attributes.get('body') : undefined;
  const fits = (a: number, b: number): boolean => {
    if (part?.size === 1 && part.data[a] === part.data[b]) return false;
    const away = Math.hypot(p[a * 3] - p[b * 3], p[a * 3 + 1] - p[b * 3 + 1], p[a * 3 + 2] - p[b * 3 + 2]);
    return away > 0 && away >= options.least && away <= options.greatest;
  };
  const way = clear && new WayRound(clear.body, clear.clearance);
  const lines: Float64Array[] = [];
  const ends: [number, number][] = [];
  let dropped = 0;
  const take = (a: number, b: number): void => {
    const [from, to] = [p.subarray(a * 3, a * 3 + 3), p.subarray(b * 3, b * 3 + 3)];
    let line: Float64Array = Float64Array.from([...from, ...to]);
    if (way && !way.isFree(from, to)) {
      const round = clear.then === 'leadRound' ? way.round(from, to, work) : null;
      if (!round) return void dropped++;
      line = round;
    }
    lines.push(line);
    ends.push([a, b]);
  };
  let looked = 0;
  for (const [a, b] of candidates(n, options)) {
    if (lines.length >= options.count) break;
    tick(work, looked++, options.count);
    if (fits(a, b)) take(a, b);
  }
  return { curves: curvesOf(points, lines, ends), missing: options.count - lines.length, dropped };
}

/** Pairs in the order in which the seed draws them, each once. */
function* candidates(n: number, { count, seed }: LinkOptions): Generator<readonly [number, number]> {
  const pairs = (n * (n - 1)) / 2;
  if (pairs <= allPairs) {
    const rank = (a: number, b: number): number => randomAt(hash(seed, a), b);
    const all: [number, number, number][] = [];
    for (let a = 0; a < n; a++) for (let b = a + 1; b < n; b++) all.push([rank(a, b), a, b]);
    all.sort((x, y) => x[0] - y[0] || x[1] - y[1] || x[2] - y[2]);
    for (const [, a, b] of all) yield [a, b];
    return;
  }
  const drawn = new Set<number>();
  for (let i = 0; i < count * draws; i++) {
    const [x, y] = [Math.floor(randomAt(hash(seed, 1), i) * n), Math.floor(randomAt(hash(seed, 2), i) * n)];
    const [a, b] = [Math.min(x, y), Math.max(x, y)];
    if (a === b || drawn.has(a * n + b)) continue;
    drawn.add(a * n + b);
    yield [a, b];
  }
}

/** A value for each place of a line. */
const eachPlace = (line: Float64Array, value: number): number[] => new Array<number>(line.length / 3).fill(value);

function curvesOf(points: Points, lines: readonly Float64Array[], ends: readonly (readonly [number, number])[]): Curves {
  const starts = new Uint32Array(lines.length + 1);
  lines.forEach((line, c) => (starts[c + 1] = starts[c] + line.length / 3));
  const positions = new Float32Array(starts[lines.length] * 3);
  lines.forEach((line, c) => positions.set(line, starts[c] * 3));
  const between = { a: ends.flatMap(([a], c) => eachPlace(lines[c], a)), b: ends.flatMap(([, b], c) => eachPlace(lines[c], b)), share: lines.flatMap((line) => [...sharesAlong(line)]) }; // prettier-ignore
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of points.attributes)
    if (attribute.carrier === 'point' && !['tangent', 'normal', 'id'].includes(name))
      attributes.set(name, { ...attribute, data: mixedRows(attribute, between) });
  const perCurve = (which: 0 | 1): Attribute => ({ carrier: 'curve', size: 1, data: Float32Array.from(ends, (pair) => pair[which]) });
  attributes.set('from', perCurve(0)).set('to', perCurve(1));
  return makeCurves({ positions, starts, closed: new Uint8Array(lines.length), attributes });
}
