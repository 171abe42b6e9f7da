import type { Copies } from '../../geometry/copies.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import { asBezier } from '../../curves/evaluate/knots.js';
import { stationsOf } from '../../curves/evaluate/arcLength.js';
import { tick, type Work } from '../../base/work.js';
import { CopiesOfRun } from './copying.js';
import type { RunIssue, RunOptions } from './options.js';
import { cornersOf, dividedStretch, stationAway } from './stretch.js';

/**
 * Pieces one after another along curves, each from one place to the next, so that neighbours meet: chains, fences, kerbs. A piece reaches straight from its
 * place to that of its neighbour (not along the curve between), so they meet in bends too; or bends with the curve, and is then an object of its own.
 * @throws RangeError when there is no object left to pick from, or one has no extent along the axis.
 */
export function runOfPieces(given: Curves, objects: readonly Mesh[], options: RunOptions, work: Work): { copies: Copies; issues: RunIssue[] } {
  const curves = asBezier(given, true);
  const { normal } = framesOf(curves);
  const stations = stationsOf(curves);
  const made = new CopiesOfRun(objects, options, work);
  const issues: RunIssue[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    work.progress(c / curveCount(curves));
    const path = new AlongCurve(curves, c, normal);
    if (!(path.total > 0)) {
      issues.push({ code: 'no-length', curve: c });
      continue;
    }
    const own = stations.subarray(curves.starts[c], curves.starts[c + 1]);
    const corners = cornersOf(curves, c, options).map((i) => stations[i]);
    made.begin(c);
    new RunOnCurve(path, own, corners, curves.closed[c] === 1, made, options, work).lay();
    if (!made.last) issues.push({ code: 'too-short', curve: c });
    if (made.steep) issues.push({ code: 'upright', curve: c });
    if (made.folds) issues.push({ code: 'folds', curve: c });
  }
  return { copies: made.finish(), issues };
}

/** The run on one curve. */
class RunOnCurve {
  /** Where pieces meet, metres, in order. */
  private readonly joints: number[] = [];
  /** Places nearer to each other than this are one, metres. */
  private readonly same: number;

  constructor(
    private readonly path: AlongCurve,
    /** Metres of the given points. */
    private readonly points: ArrayLike<number>,
    private readonly corners: readonly number[],
    private readonly closed: boolean,
    private readonly made: CopiesOfRun,
    private readonly options: RunOptions,
    private readonly work: Work,
  ) {
    this.same = path.total * 1e-9;
  }

  lay(): void {
    const { path, made, closed, corners } = this;
    const [from, to] = closed ? [corners[0] ?? 0, (corners[0] ?? 0) + path.total] : [0, path.total];
    const first = closed ? null : this.endPiece('first', from, to, 1);
    const last = closed ? null : this.endPiece('last', to, from, -1);
    const [begins, ends] = [first?.at ?? from, last?.at ?? to];
    if (begins > ends + this.same) return;
    if (first) this.piece(first.which, from, begins, false);
    if (ends - begins > this.same) this.layBetween(begins, ends, from);
    if (last) this.piece(last.which, ends, to, false);
    this.putJoints(to);
    if (made.last && !closed && made.standsAt('ends')) made.putBeyond(path);
  }

  /** The first or the last piece, and where it meets the next, if there is one that stands there. */
  private endPiece(place: 'first' | 'last', from: number, to: number, way: 1 | -1): { which: number; at: number } | null {
    const { made, path, options } = this;
    if (options.fit === 'spans' || !made.standsAt(place)) return null;
    const which = made.drawn(place, made.count + (place === 'last' ? 1 : 0));
    return { which, at: stationAway(path, from, made.lengthOf(which), to, way) };
  }

  /** The pieces from corner to corner. */
  private layBetween(begins: number, ends: number, from: number): void {
    const { path, made, closed, corners, options, work } = this;
    const inner = corners.slice(closed ? 1 : 0).filter((s) => s > begins + this.same && s < ends - this.same);
    const stops = [begins, ...inner, ends];
    for (let k = 0; k + 1 < stops.length; k++) {
      const [a, b] = [stops[k], stops[k + 1]];
      const { which, breaks } = dividedStretch(path, a, b, this.pointsBetween(a, b), (i, s) => made.planned(i, this.pointAt(s)), made.longest, options, work);
      for (let i = 0; i + 1 < breaks.length; i++) {
        tick(work, i, breaks.length);
        this.piece(this.inSpan(which[i], breaks[i], breaks[i + 1], from), breaks[i], breaks[i + 1], options.fit === 'stretch' || options.fit === 'spans');
      }
      if (made.standsAt('bends') && (closed ? corners.length > 0 : k > 0)) made.putAcross('bends', path, a);
    }
  }

  /** The object of a span: one that stands first or last, where the span is that. */
  private inSpan(which: number, a: number, b: number, from: number): number {
    const { made, path, closed, options } = this;
    if (options.fit !== 'spans' || closed) return which;
    if (made.standsAt('first') && a - from <= this.same) return made.drawn('first');
    if (made.standsAt('last') && path.total - b <= this.same) return made.drawn('last');
    return which;
  }

  private piece(which: number, from: number, to: number, stretched: boolean): void {
    this.joints.push(from, to);
    this.made.piece(which, this.path, from, to, stretched);
  }

  /** Puts an object at each joint and at the free ends, except where a corner or the end has an object of its own. */
  private putJoints(to: number): void {
    const { made, path, closed, corners } = this;
    if (!made.standsAt('joints')) return;
    const taken = made.standsAt('bends') ? [...corners] : [];
    if (!closed && made.standsAt('ends')) taken.push(this.joints.at(-1)!);
    this.joints.forEach((s, i) => {
      const again = (i && s - this.joints[i - 1] <= this.same) || (closed && to - s <= this.same);
      if (!again && !taken.some((other) => Math.abs(other - s) <= this.same)) made.putAcross('joints', path, s);
    });
  }

  /** Metres of the given points between two stops. */
  private pointsBetween(from: number, to: number): number[] {
    if (this.options.fit !== 'spans') return [];
    const between: number[] = [];
    for (const round of this.closed ? [0, this.path.total] : [0])
      for (let i = 0; i < this.points.length; i++) {
        const s = this.points[i] + round;
        if (s > (between.at(-1) ?? from) + this.same && s < to - this.same) between.push(s);
      }
    return between;
  }

  /** The number of the given point at a place or before it, of this curve. */
  private pointAt(s: number): number {
    const on = this.closed && s >= this.path.total - this.same ? s - this.path.total : s;
    let [low, high] = [0, this.points.length];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.points[middle] <= on + this.same) low = middle;
      else high = middle;
    }
    return low;
  }
}
