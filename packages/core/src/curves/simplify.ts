import { gatherCurves } from '../geometry/gather.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { paced, segmentDistance } from './resample.js';
import { throughMoved } from './knots.js';

/**
 * Leaves out the points that lie within `tolerance` metres of the straight line between those that stay (Ramer 1972; Douglas & Peucker 1973;
 * distances are to the segment, not to its endless line). Smooth curves are sampled first; all come out straight. A closed curve is cut at
 * its first point and the point farthest from it, which both stay.
 */
export function simplify(curves: Curves, tolerance: number): Curves {
  const given = paced(curves);
  const points: number[] = [];
  const starts = [0];
  for (let c = 0; c < curveCount(given); c++) {
    const from = given.starts[c];
    const to = given.starts[c + 1];
    keptPoints(given.positions, from, to, given.closed[c] === 1, tolerance, points);
    starts.push(points.length);
  }
  const sources = Uint32Array.from({ length: starts.length - 1 }, (_, c) => c);
  const kept = throughMoved(gatherCurves(given, { points, starts, sources, closed: given.closed }));
  return { ...kept, kind: new Uint8Array(kept.kind.length) };
}

function keptPoints(p: Float32Array, from: number, to: number, closed: boolean, tolerance: number, out: number[]): void {
  const count = to - from;
  if (count <= 2) {
    for (let i = from; i < to; i++) out.push(i);
    return;
  }
  // A closed curve has its first point once more at the end.
  const last = closed ? count : count - 1;
  const at = (i: number): number => (from + (i % count)) * 3;
  const keep = new Uint8Array(last + 1);
  keep[0] = keep[last] = 1;
  const open: [number, number][] = [];
  if (closed) {
    let far = 0;
    let most = -1;
    for (let i = 1; i < count; i++) {
      const d = Math.hypot(p[at(i)] - p[at(0)], p[at(i) + 1] - p[at(0) + 1], p[at(i) + 2] - p[at(0) + 2]);
      if (d > most) [most, far] = [d, i];
    }
    keep[far] = 1;
    open.push([0, far], [far, last]);
  } else open.push([0, last]);
  while (open.length) {
    const [a, b] = open.pop()!;
    let worst = tolerance;
    let which = -1;
    for (let i = a + 1; i < b; i++) {
      const d = segmentDistance(p, at(i), p, at(a), at(b));
      // Of places equally far (to a millionth, so that storage in 32 bits does not decide) the first is kept.
      if (d > (which < 0 ? worst : worst * (1 + 1e-6))) [worst, which] = [d, i];
    }
    if (which < 0) continue;
    keep[which] = 1;
    open.push([a, which], [which, b]);
  }
  for (let i = 0; i < count; i++) if (keep[i]) out.push(from + i);
}
