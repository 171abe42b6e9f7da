import { curveCount, type Curves } from '../../geometry/curves.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { gatherCurves, gatherPoints } from '../../geometry/gather.js';
import type { Points } from '../../geometry/points.js';
import { asBezier, pointsOf } from '../evaluate/knots.js';
import { cornersOf } from './resample.js';
import { spansOf } from '../evaluate/spans.js';

/** Where curves are cut: at every point, at corners that turn by more than some degrees, or where a point value changes. */
export type SplitAt =
  { readonly at: 'everyPoint' } | { readonly at: 'corners'; readonly angle: number } | { readonly at: 'attributeChange'; readonly attribute: string };

/** Points (counted in their curve) at which curve `c` is cut. */
function cutsOf(curves: Curves, c: number, how: SplitAt): number[] {
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1;
  const inner = Array.from({ length: count }, (_, i) => i).slice(closed ? 0 : 1, closed ? count : count - 1);
  if (how.at === 'everyPoint') return inner;
  if (how.at === 'corners') return cornersOf(spansOf(curves, c), closed, how.angle);
  const values = curves.attributes.get(how.attribute);
  if (!values || values.carrier !== 'point') throw new RangeError(`The curves have no value "${how.attribute}" on their points.`);
  const differs = (a: number, b: number): boolean => {
    for (let k = 0; k < values.size; k++) if (values.data[(from + a) * values.size + k] !== values.data[(from + b) * values.size + k]) return true;
    return false;
  };
  return inner.filter((i) => differs(i, (i + count - 1) % count));
}

/** Cuts curves into pieces that share their end points. Smooth pieces keep their course; curves without a cut stay as they are. */
export function split(given: Curves, how: SplitAt, work: Work = unbounded): Curves {
  const curves = asBezier(given);
  const points: number[] = [];
  const starts = [0];
  const sources: number[] = [];
  const closed: number[] = [];
  const end = (source: number, isClosed: boolean): void => {
    starts.push(points.length);
    sources.push(source);
    closed.push(isClosed ? 1 : 0);
  };
  for (let c = 0; c < curveCount(curves); c++) {
    tick(work, c, curveCount(curves));
    const from = curves.starts[c];
    const count = curves.starts[c + 1] - from;
    const cuts = cutsOf(curves, c, how);
    if (!cuts.length) {
      for (let i = 0; i < count; i++) points.push(from + i);
      end(c, curves.closed[c] === 1);
      continue;
    }
    const stops = curves.closed[c] ? [...cuts, cuts[0] + count] : [0, ...cuts, count - 1];
    for (let k = 0; k + 1 < stops.length; k++) {
      for (let i = stops[k]; i <= stops[k + 1]; i++) points.push(from + (i % count));
      end(c, false);
    }
  }
  return gatherCurves(curves, { points, starts, sources, closed });
}

/** Some of the points of curves: every n-th of each, only the ends, or only the corners. */
export function pickPoints(given: Curves, which: 'every' | 'ends' | 'corners', every: number, angle: number, work: Work = unbounded): Points {
  const curves = asBezier(given, true);
  const list: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    tick(work, c, curveCount(curves));
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    if (which === 'every') for (let i = from; i < to; i += every) list.push(i);
    else if (which === 'corners') list.push(...cornersOf(spansOf(given, c), given.closed[c] === 1, angle).map((i) => from + i));
    else if (to > from && !curves.closed[c]) list.push(from, ...(to - 1 > from ? [to - 1] : []));
  }
  return gatherPoints(pointsOf(curves), list);
}
