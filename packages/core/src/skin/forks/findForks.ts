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

/** A place of a curve that takes part in a meeting. */
interface Meeting {
  readonly curve: number;
  readonly at: number;
  group: number;
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
export function findForks({ curves, paths, stations, radiusAt }: ForkFinding, work: Work): Arm[][] {
  const { starts, closed, positions: p } = curves;
  const count = curveCount(curves);
  let longest = 0;
  let widest = 0;
  for (let c = 0; c < count; c++) {
    if (closed[c] || !(paths[c].total > 0)) continue;
    for (let i = starts[c]; i < starts[c + 1]; i++) {
      if (i > starts[c]) longest = Math.max(longest, stations[i] - stations[i - 1]);
      widest = Math.max(widest, radiusAt(c, stations[i]));
    }
  }
  const reach = longest / 2 + widest * near;
  const grid = new PointGrid(reach || 1, p.length / 3);
  const [curveOf, pointOf]: [number[], number[]] = [[], []];
  for (let c = 0; c < count; c++)
    for (let i = starts[c]; i < starts[c + 1]; i++) {
      if (closed[c] || !(paths[c].total > 0)) continue;
      grid.add(p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
      curveOf.push(c);
      pointOf.push(i);
    }
  const meetings: Meeting[] = [];
  const meet = (curve: number, at: number): Meeting => {
    const { total } = paths[curve];
    const radius = radiusAt(curve, at);
    // What is nearer to an end than the curve is thick is that end.
    const snapped = at < radius ? 0 : total - at < radius ? total : at;
    let known = meetings.find((each) => each.curve === curve && Math.abs(each.at - snapped) < radius);
    if (!known) meetings.push((known = { curve, at: snapped, group: meetings.length }));
    return known;
  };
  const join = (a: Meeting, b: Meeting): void => {
    const [from, to] = [b.group, a.group];
    for (const each of meetings) if (each.group === from) each.group = to;
  };
  for (let c = 0; c < count; c++) {
    work.progress(c / count);
    if (closed[c] || !(paths[c].total > 0)) continue;
    for (const at of [0, paths[c].total]) {
      const [x, y, z] = paths[c].place(at);
      const found = new Map<number, { away: number; at: number }>();
      grid.near(x, y, z, reach, (item) => {
        const [curve, i] = [curveOf[item], pointOf[item]];
        if (curve === c) return;
        for (const a of [i - 1, i]) {
          if (a < starts[curve] || a + 1 >= starts[curve + 1]) continue;
          const { away, share } = toSegment(p, a, a + 1, x, y, z);
          const s = stations[a] + share * (stations[a + 1] - stations[a]);
          if (away < Math.max(1e-6, near * radiusAt(curve, s)) && away < (found.get(curve)?.away ?? Infinity)) found.set(curve, { away, at: s });
        }
      });
      for (const [curve, { at: s }] of found) join(meet(c, at), meet(curve, s));
    }
  }
  const groups = new Map<number, Meeting[]>();
  for (const each of meetings) groups.set(each.group, [...(groups.get(each.group) ?? []), each]);
  return [...groups.values()]
    .map((group) =>
      group.flatMap(({ curve, at }): Arm[] => [
        ...(at < paths[curve].total ? [{ curve, at, way: 1 } as const] : []),
        ...(at > 0 ? [{ curve, at, way: -1 } as const] : []),
      ]),
    )
    .filter((arms) => arms.length > 2);
}

/** How far a place is from a segment, and where on it (0…1) the nearest place lies. */
function toSegment(p: ArrayLike<number>, a: number, b: number, x: number, y: number, z: number): { away: number; share: number } {
  const [ox, oy, oz] = [p[a * 3], p[a * 3 + 1], p[a * 3 + 2]];
  const [dx, dy, dz] = [p[b * 3] - ox, p[b * 3 + 1] - oy, p[b * 3 + 2] - oz];
  const size = dx * dx + dy * dy + dz * dz;
  const share = size > 0 ? Math.min(1, Math.max(0, ((x - ox) * dx + (y - oy) * dy + (z - oz) * dz) / size)) : 0;
  return { away: Math.hypot(x - ox - share * dx, y - oy - share * dy, z - oz - share * dz), share };
}
