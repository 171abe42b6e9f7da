import { withAttributes } from '../../geometry/attributes.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { gatherCurves } from '../../geometry/gather.js';
import { makeMesh } from '../../geometry/mesh.js';
import { paced } from '../../curves/change/resample.js';
import { runValues } from '../../curves/evaluate/places.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { chains } from '../topology/edgePaths.js';
import { weldPoints } from './weld.js';

/**
 * Curves as one network: points within `distance` of each other become one, pieces that lie on each other are there once, and curves run from fork to fork. A curve has the values of
 * the one that its first piece was of.
 */
export function weldCurves(given: Curves, distance: number, work: Work = unbounded): Curves {
  // Smooth curves at the places where rings would stand on them, and straight between those.
  const curves = paced(given, work);
  const { pointOf } = weldPoints(makeMesh({ positions: curves.positions, corners: new Uint32Array(0), uniform: 3 }), distance, work);
  const numberOf = (i: number): number => (pointOf ? pointOf[i] : i);
  /** A point of the given curves for each of the network. */
  const first: number[] = [];
  for (let i = curves.positions.length / 3 - 1; i >= 0; i--) first[numberOf(i)] = i;
  const edges: number[] = [];
  /** The curve that each piece was of, by its two points. */
  const curveOf = new Map<string, number>();
  const key = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
  for (let c = 0; c < curveCount(curves); c++) {
    tick(work, c, curveCount(curves));
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    for (let i = from; i < (curves.closed[c] ? to : to - 1); i++) {
      const [a, b] = [numberOf(i), numberOf(i + 1 < to ? i + 1 : from)];
      if (a === b || curveOf.has(key(a, b))) continue;
      curveOf.set(key(a, b), c);
      edges.push(a, b);
    }
  }
  const paths = chains(edges);
  const points = paths.flatMap((path) => path.points.map((point) => first[point]));
  const starts = [0];
  for (const path of paths) starts.push(starts[starts.length - 1] + path.points.length);
  const sources = paths.map((path) => curveOf.get(key(path.points[0], path.points[1]))!);
  const made = gatherCurves(curves, { points, starts, sources, closed: paths.map(({ closed }) => Number(closed)) });
  return { ...made, kind: new Uint8Array(made.kind.length), attributes: withAttributes(made.attributes, { ...runValues, parent: null }) };
}
