import type { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { curveKinds, type Curves } from '../../geometry/curves.js';
import { progressEvery, type Work } from '../../base/work.js';
import type { RunOptions } from './options.js';

/** A piece that is to be placed: which object, and how long it is, metres. */
export interface Planned {
  readonly which: number;
  readonly length: number;
}

/** The pieces between two stops: `breaks` has the metres at which each begins, and where the last one ends. */
export interface Stretch {
  readonly which: readonly number[];
  readonly breaks: readonly number[];
}

/**
 * Divides the way from one stop to another among pieces.
 * @param points metres of the given points between them, for one piece a span.
 * @param next the piece number `k` of this stretch, which begins at about `s` metres; it claims what it takes.
 * @param longest metres of the longest piece.
 */
export function dividedStretch(
  path: AlongCurve,
  from: number,
  to: number,
  points: readonly number[],
  next: (k: number, s: number) => Planned,
  longest: number,
  { fit, bendPieces }: Pick<RunOptions, 'fit' | 'bendPieces'>,
  work: Work,
): Stretch {
  if (fit === 'spans') {
    const breaks = [from, ...points, to];
    return { which: breaks.slice(0, -1).map((s, k) => next(k, s).which), breaks };
  }
  if (fit !== 'exact') return evenly(from, to, next, longest, work);
  const which: number[] = [];
  const breaks = [from];
  for (;;) {
    const s = breaks[breaks.length - 1];
    if (which.length % progressEvery === 0) work.progress((s - from) / (to - from));
    const piece = next(which.length, s);
    const end = bendPieces ? s + piece.length : stationAway(path, s, piece.length, to);
    if (end > to + piece.length * 1e-6) return { which, breaks: which.length ? breaks : [] };
    which.push(piece.which);
    breaks.push(Math.min(end, to));
  }
}

/** As many pieces as come nearest to the way, each with its share of it. */
function evenly(from: number, to: number, next: (k: number, s: number) => Planned, longest: number, work: Work): Stretch {
  // Counted in the longest, so that pieces of one length have whole numbers.
  const way = (to - from) / longest;
  const which: number[] = [];
  const reached = [0];
  for (let sum = 0; sum < way || !which.length;) {
    if (which.length % progressEvery === 0) work.progress(sum / way);
    const piece = next(which.length, from + sum * longest);
    which.push(piece.which);
    reached.push((sum += piece.length / longest));
  }
  const count = which.length;
  if (count > 1 && way - reached[count - 1] < reached[count] - way) {
    which.pop();
    reached.pop();
  }
  const all = reached[which.length];
  return { which, breaks: reached.map((each) => from + ((to - from) * each) / all) };
}

/** How far along a path one is a straight distance away from where one was; beyond `to` where that is not reached before it. `way` −1: backwards. */
export function stationAway(path: AlongCurve, from: number, distance: number, to: number, way: 1 | -1 = 1): number {
  const start = path.place(from);
  let s = from + way * distance;
  // A chord is never longer than its arc, so what is missing is not too much.
  for (let turn = 0; turn < 60 && (to - s) * way >= 0; turn++) {
    const missing = distance - Math.hypot(...path.place(s).map((value, k) => value - start[k]));
    if (!(missing > distance * 1e-9)) break;
    s += way * missing;
  }
  return s;
}

/** Points of a straight curve at which it turns by more than the angle, without its ends; for upright pieces as seen from above, so that bumps are no corners. */
export function cornersOf(curves: Curves, c: number, { cornerAngle, upright }: Pick<RunOptions, 'cornerAngle' | 'upright'>): number[] {
  if (curveKinds[curves.kind[c]] !== 'straight') return [];
  const p = curves.positions;
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  const count = to - from;
  const closed = curves.closed[c] === 1;
  const corners: number[] = [];
  for (let i = closed ? 0 : 1; i < (closed ? count : count - 1); i++) {
    const [a, b, d] = [from + ((i + count - 1) % count), from + i, from + ((i + 1) % count)];
    const [u, v] = [[a, b], [b, d]].map(([x, y]) => [0, 1, 2].map((k) => (upright && k === 1 ? 0 : p[y * 3 + k] - p[x * 3 + k]))); // prettier-ignore
    const size = Math.hypot(...u) * Math.hypot(...v);
    const cosine = size > 0 ? u.reduce((sum, value, k) => sum + value * v[k], 0) / size : 1;
    if (Math.acos(Math.min(1, Math.max(-1, cosine))) > (cornerAngle * Math.PI) / 180) corners.push(b);
  }
  return corners;
}
