import { gatherCurves } from '../../geometry/gather.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { unbounded, type Work } from '../../base/work.js';
import { keptPoints } from './keptPoints.js';
import { paced } from './resample.js';
import { throughMoved } from '../evaluate/knots.js';

/**
 * Leaves out the points that lie within `tolerance` metres of the straight line between those that stay (see `keptPoints`). Smooth curves are
 * sampled first; all come out straight.
 */
export function simplify(curves: Curves, tolerance: number, work: Work = unbounded): Curves {
  const given = paced(curves);
  const points: number[] = [];
  const starts = [0];
  for (let c = 0; c < curveCount(given); c++) {
    const from = given.starts[c];
    const to = given.starts[c + 1];
    keptPoints(given.positions, from, to, given.closed[c] === 1, tolerance, points, work);
    starts.push(points.length);
  }
  const sources = Uint32Array.from({ length: starts.length - 1 }, (_, c) => c);
  const kept = throughMoved(gatherCurves(given, { points, starts, sources, closed: given.closed }));
  return { ...kept, kind: new Uint8Array(kept.kind.length) };
}
