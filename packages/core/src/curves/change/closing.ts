import { cellSize, PointGrid } from '../../space/grid.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { withAttributes, type Attribute } from '../../geometry/attributes.js';
import { curveCount, curveKinds, type Curves } from '../../geometry/curves.js';
import { gatherCurves } from '../../geometry/gather.js';
import { asBezier } from '../evaluate/knots.js';

const samePlace = (p: Float32Array, a: number, b: number): boolean => p[a * 3] === p[b * 3] && p[a * 3 + 1] === p[b * 3 + 1] && p[a * 3 + 2] === p[b * 3 + 2];

/**
 * Closes or opens every curve. Closing drops a last point that repeats the first, and joins the ends of Bezier curves by a straight piece; curves of
 * fewer than three points stay open and are returned in `short`. Opening leaves out the closing piece.
 */
export function closeOpen(curves: Curves, closed: boolean): { curves: Curves; short: number[] } {
  const points: number[] = [];
  const starts = [0];
  const short: number[] = [];
  const marks = new Uint8Array(curveCount(curves));
  const joined: { last: number; first: number }[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    let to = curves.starts[c + 1];
    const repeats = closed && !curves.closed[c] && to - from > 3 && samePlace(curves.positions, from, to - 1);
    if (repeats) to--;
    const possible = to - from > 2;
    marks[c] = closed && possible ? 1 : 0;
    if (closed && !possible) short.push(c);
    for (let i = from; i < to; i++) points.push(i);
    if (marks[c] && !curves.closed[c] && !repeats && curveKinds[curves.kind[c]] === 'bezier') joined.push({ first: starts[c], last: points.length - 1 });
    starts.push(points.length);
  }
  const sources = Uint32Array.from({ length: marks.length }, (_, c) => c);
  const result = gatherCurves(curves, { points, starts, sources, closed: marks });
  const [out, into] = [result.attributes.get('handleOut'), result.attributes.get('handleIn')];
  if (out && into)
    for (const { first, last } of joined)
      for (let k = 0; k < 3; k++) {
        const gap = result.positions[first * 3 + k] - result.positions[last * 3 + k];
        out.data[last * 3 + k] = gap / 3;
        into.data[first * 3 + k] = -gap / 3;
      }
  return { curves: result, short };
}

/**
 * Chains open curves whose ends lie within `distance` metres of each other, turning them where needed; where the last end meets the first the
 * chain is closed. The nearest end is taken, of equals the one that comes first. Points that meet become one, at the earlier curve's place.
 * Smooth curves come out as Bezier curves of the same course.
 */
export function joinEnds(given: Curves, distance: number, work: Work = unbounded): Curves {
  const curves = asBezier(given);
  const p = curves.positions;
  const open: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) if (!curves.closed[c] && curves.starts[c + 1] - curves.starts[c] > 1) open.push(c);
  const ends = new EndGrid(curves, open, distance);
  const used = new Set<number>();
  const chains = new Map<number, { list: { curve: number; turned: boolean }[]; closed: boolean }>();
  const meets = (a: number, b: number): boolean => Math.hypot(p[a * 3] - p[b * 3], p[a * 3 + 1] - p[b * 3 + 1], p[a * 3 + 2] - p[b * 3 + 2]) <= distance;
  const endOf = ({ curve, turned }: { curve: number; turned: boolean }, tail: boolean): number =>
    tail !== turned ? curves.starts[curve + 1] - 1 : curves.starts[curve];
  for (const c of open) {
    tick(work, c, curveCount(curves));
    if (used.has(c)) continue;
    used.add(c);
    const list = [{ curve: c, turned: false }];
    for (const tail of [true, false])
      for (;;) {
        const at = endOf(tail ? list[list.length - 1] : list[0], tail);
        const next = ends.nearest(at, used);
        if (!next) break;
        used.add(next.curve);
        if (tail) list.push({ curve: next.curve, turned: next.last });
        else list.unshift({ curve: next.curve, turned: !next.last });
      }
    const [head, foot] = [endOf(list[0], false), endOf(list[list.length - 1], true)];
    const count = list.reduce((sum, { curve }) => sum + curves.starts[curve + 1] - curves.starts[curve] - 1, 0);
    chains.set(c, { list, closed: count > 2 && meets(head, foot) });
  }
  return chained(curves, chains, used);
}

/** Ends of curves in cells of the joining distance. */
class EndGrid {
  private readonly grid: PointGrid;
  private readonly ends: { curve: number; last: boolean; at: number }[] = [];

  constructor(
    private readonly curves: Curves,
    open: readonly number[],
    private readonly distance: number,
  ) {
    const p = curves.positions;
    this.grid = new PointGrid(cellSize(p, distance), Math.max(1, open.length * 2));
    for (const curve of open)
      for (const last of [false, true]) {
        const at = last ? curves.starts[curve + 1] - 1 : curves.starts[curve];
        this.grid.add(p[at * 3], p[at * 3 + 1], p[at * 3 + 2]);
        this.ends.push({ curve, last, at });
      }
  }

  nearest(at: number, used: ReadonlySet<number>): { curve: number; last: boolean } | null {
    const p = this.curves.positions;
    let best: { curve: number; last: boolean } | null = null;
    let least = this.distance;
    this.grid.near(p[at * 3], p[at * 3 + 1], p[at * 3 + 2], least, (item) => {
      const end = this.ends[item];
      if (used.has(end.curve)) return;
      const d = Math.hypot(p[end.at * 3] - p[at * 3], p[end.at * 3 + 1] - p[at * 3 + 1], p[end.at * 3 + 2] - p[at * 3 + 2]);
      // Of ends as near as each other the earlier one, whichever way its cell is looked through.
      const before = best && (end.curve < best.curve || (end.curve === best.curve && !end.last));
      if (d < least || (d === least && (!best || before))) [least, best] = [d, end];
    });
    return best;
  }
}

/** The chains as curves, in the order of their first members; curves that are in none stay where they are. */
function chained(
  curves: Curves,
  chains: ReadonlyMap<number, { list: { curve: number; turned: boolean }[]; closed: boolean }>,
  used: ReadonlySet<number>,
): Curves {
  const points: number[] = [];
  const turnedPoint: boolean[] = [];
  /** The given point whose handle leads out of each new point: at joints it is the next curve's. */
  const leaving: { point: number; turned: boolean }[] = [];
  const starts = [0];
  const sources: number[] = [];
  const closed: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const chain = chains.get(c);
    if (!chain && used.has(c)) continue;
    const list = chain?.list ?? [{ curve: c, turned: false }];
    const first = points.length;
    list.forEach(({ curve, turned }, member) => {
      const from = curves.starts[curve];
      const to = curves.starts[curve + 1];
      for (let i = 0; i < to - from; i++) {
        const point = turned ? to - 1 - i : from + i;
        if (i === 0 && member > 0) leaving[leaving.length - 1] = { point, turned };
        else {
          points.push(point);
          turnedPoint.push(turned);
          leaving.push({ point, turned });
        }
      }
    });
    if (chain?.closed) {
      // The last point is the first: its handle leads into the first.
      const last = points.length - 1;
      points[first] = points[last];
      turnedPoint[first] = turnedPoint[last];
      points.pop();
      turnedPoint.pop();
      leaving.pop();
    }
    starts.push(points.length);
    sources.push(c);
    closed.push(chain?.closed || (!chain && curves.closed[c]) ? 1 : 0);
  }
  const kinds = sources.map((c) => Math.max(...(chains.get(c)?.list ?? [{ curve: c }]).map(({ curve }) => curves.kind[curve])));
  const result = gatherCurves(curves, { points, starts, sources, closed });
  const changes: Record<string, Attribute | null> = {};
  const [into, out] = [curves.attributes.get('handleIn'), curves.attributes.get('handleOut')];
  if (kinds.some((kind) => kind !== 0)) {
    const handleIn = new Float32Array(points.length * 3);
    const handleOut = new Float32Array(points.length * 3);
    for (let i = 0; i < points.length; i++)
      for (let k = 0; k < 3; k++) {
        handleIn[i * 3 + k] = (turnedPoint[i] ? out : into)?.data[points[i] * 3 + k] ?? 0;
        handleOut[i * 3 + k] = (leaving[i].turned ? into : out)?.data[leaving[i].point * 3 + k] ?? 0;
      }
    straightHandles(result, kinds, handleIn, handleOut);
    changes['handleIn'] = { carrier: 'point', size: 3, data: handleIn };
    changes['handleOut'] = { carrier: 'point', size: 3, data: handleOut };
  }
  // A joint may be a corner, which has no one direction: chains are sampled anew where rings are wanted.
  if (curves.attributes.has('tangent') || curves.attributes.has('normal')) {
    changes['tangent'] = null;
    changes['normal'] = null;
  }
  return { ...result, kind: Uint8Array.from(kinds), attributes: withAttributes(result.attributes, changes) };
}

/** Gives pieces that were straight handles of a third, where they became part of a Bezier curve. */
function straightHandles(curves: Curves, kinds: readonly number[], handleIn: Float32Array, handleOut: Float32Array): void {
  const p = curves.positions;
  const none = (data: Float32Array, i: number): boolean => !data[i * 3] && !data[i * 3 + 1] && !data[i * 3 + 2];
  for (let c = 0; c < kinds.length; c++) {
    if (!kinds[c]) continue;
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    for (let i = from; i < (curves.closed[c] ? to : to - 1); i++) {
      const next = i + 1 < to ? i + 1 : from;
      if (!none(handleOut, i) || !none(handleIn, next)) continue;
      for (let k = 0; k < 3; k++) {
        const third = (p[next * 3 + k] - p[i * 3 + k]) / 3;
        handleOut[i * 3 + k] = third;
        handleIn[next * 3 + k] = -third;
      }
    }
  }
}
