import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import type { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { PointGrid } from '../../space/grid.js';

/** One way that leaves a fork: along a curve, from metres on it, forwards or back. */
export interface Arm {
  readonly curve: number;
  readonly at: number;
  readonly way: 1 | -1;
}

/** A place of a curve that takes part in a meeting; `next` leads to the one that stands for all of the meeting, which is its own. */
interface Meeting {
  readonly curve: number;
  readonly at: number;
  next: Meeting | null;
}

export interface ForkFinding {
  readonly curves: Curves;
  readonly paths: readonly AlongCurve[];
  /** Metres from the start of its curve, a point. */
  readonly stations: ArrayLike<number>;
  /** Metres, of a curve at metres along it. */
  readonly radiusAt: (curve: number, at: number) => number;
}

/** Ends count as lying on a curve when they are nearer to it than this share of its radius. */
const near = 0.5;

/**
 * Where three ways or more meet: ends of open curves that lie on another curve, or where other curves end. Closed curves have no forks.
 * @returns the arms of each fork, by curve and metres.
 */
export function findForks(given: ForkFinding, work: Work): Arm[][] {
  const { curves, paths, stations, radiusAt } = given;
  const { positions: p } = curves;
  const count = curveCount(curves);
  const { grid, segments, reach } = sampled(given);
  const known = new Map<number, Meeting[]>();
  const meet = (curve: number, at: number): Meeting => {
    const { total } = paths[curve];
    const radius = radiusAt(curve, at);
    // What is nearer to an end than the curve is thick is that end.
    const snapped = at < radius ? 0 : total - at < radius ? total : at;
    const list = known.get(curve) ?? [];
    const same = list.find((each) => Math.abs(each.at - snapped) < radius);
    if (same) return same;
    const made: Meeting = { curve, at: snapped, next: null };
    list.push(made);
    known.set(curve, list);
    return made;
  };
  for (let c = 0; c < count; c++) {
    work.progress(c / count);
    if (!takesPart(given, c)) continue;
    for (const at of [0, paths[c].total]) {
      const [x, y, z] = paths[c].place(at);
      const found = new Map<number, { away: number; at: number }>();
      grid.near(x, y, z, reach, (item) => {
        const { curve, point } = segments[item];
        if (curve === c) return;
        const { away, share } = toSegment(p, point, point + 1, x, y, z);
        const s = stations[point] + share * (stations[point + 1] - stations[point]);
        if (away < Math.max(1e-6, near * radiusAt(curve, s)) && away < (found.get(curve)?.away ?? Infinity)) found.set(curve, { away, at: s });
      });
      for (const [curve, { at: s }] of found) {
        const [a, b] = [head(meet(c, at)), head(meet(curve, s))];
        if (a !== b) b.next = a;
      }
    }
  }
  const groups = new Map<Meeting, Meeting[]>();
  for (const each of [...known.values()].flat()) {
    const group = groups.get(head(each));
    if (group) group.push(each);
    else groups.set(head(each), [each]);
  }
  return [...groups.values()].map((group) => group.flatMap((each) => armsOf(each, paths[each.curve].total))).filter((arms) => arms.length > 2);
}

/** Whether a curve can have forks. */
const takesPart = ({ curves, paths }: ForkFinding, c: number): boolean => !curves.closed[c] && paths[c].total > 0;

function head(meeting: Meeting): Meeting {
  let at = meeting;
  while (at.next) at = at.next;
  return at;
}

const armsOf = ({ curve, at }: Meeting, total: number): Arm[] => [
  ...(at < total ? [{ curve, at, way: 1 } as const] : []),
  ...(at > 0 ? [{ curve, at, way: -1 } as const] : []),
];

/** Places along all segments, so near to each other that whatever lies on one is within `reach` of one of its places. */
function sampled(given: ForkFinding): { grid: PointGrid; segments: { readonly curve: number; readonly point: number }[]; reach: number } {
  const { curves, paths, stations, radiusAt } = given;
  const { starts, positions: p } = curves;
  let [widest, length] = [0, 0];
  for (let c = 0; c < curveCount(curves); c++) {
    if (!takesPart(given, c)) continue;
    length += paths[c].total;
    for (let i = starts[c]; i < starts[c + 1]; i++) widest = Math.max(widest, radiusAt(c, stations[i]));
  }
  // Not many more than there are points, however long some segments are.
  const step = Math.max(widest * 2, length / (1000 + (p.length / 3) * 4)) || 1;
  const reach = step / 2 + widest * near;
  const grid = new PointGrid(reach, p.length / 3);
  const segments: { curve: number; point: number }[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    if (!takesPart(given, c)) continue;
    for (let i = starts[c]; i + 1 < starts[c + 1]; i++) {
      const pieces = Math.max(1, Math.ceil((stations[i + 1] - stations[i]) / step));
      for (let k = 0; k < pieces; k++) {
        const u = (k + 0.5) / pieces;
        const [x, y, z] = [0, 1, 2].map((axis) => p[i * 3 + axis] * (1 - u) + p[i * 3 + 3 + axis] * u);
        grid.add(x, y, z);
        segments.push({ curve: c, point: i });
      }
    }
  }
  return { grid, segments, reach };
}

/** How far a place is from a segment, and where on it (0…1) the nearest place lies. */
function toSegment(p: ArrayLike<number>, a: number, b: number, x: number, y: number, z: number): { away: number; share: number } {
  const [ox, oy, oz] = [p[a * 3], p[a * 3 + 1], p[a * 3 + 2]];
  const [dx, dy, dz] = [p[b * 3] - ox, p[b * 3 + 1] - oy, p[b * 3 + 2] - oz];
  const size = dx * dx + dy * dy + dz * dz;
  const share = size > 0 ? Math.min(1, Math.max(0, ((x - ox) * dx + (y - oy) * dy + (z - oz) * dz) / size)) : 0;
  return { away: Math.hypot(x - ox - share * dx, y - oy - share * dy, z - oz - share * dz), share };
}
