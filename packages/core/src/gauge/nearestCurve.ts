import { takeCurves } from '../geometry/gather.js';
import { boundsOf, type Bounds } from '../geometry/geometry.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import type { Work } from '../base/work.js';
import { nearestTreeOf, newHit, type Hit, type NearestTree } from '../near/nearest.js';

/** What is nearest on the curves but one. */
export interface NearestCurve {
  /** Metres between the axes; Infinity where there is no other curve. */
  distance: number;
  curve: number;
  /** The point of the given curves that is nearer to the place, of the two that it lies between. */
  point: number;
}

/** Looks for the nearest place on other curves: a tree for each curve, those first whose boxes are nearer. */
export class NearestCurves {
  private readonly boxes: readonly (Bounds | null)[];
  private readonly trees: (NearestTree | null)[];
  private readonly hit: Hit = newHit();

  constructor(
    private readonly curves: Curves,
    private readonly work: Work,
  ) {
    const count = curveCount(curves);
    this.boxes = Array.from({ length: count }, (_, c) => boundsOf(curves.positions.subarray(curves.starts[c] * 3, curves.starts[c + 1] * 3)));
    this.trees = new Array<NearestTree | null>(count).fill(null);
  }

  /** The nearest place on all curves but `own`, which stand straight between their points. */
  nearest(own: number, x: number, y: number, z: number): NearestCurve {
    const { hit, curves } = this;
    const found: NearestCurve = { distance: Infinity, curve: -1, point: -1 };
    const order = this.boxes.flatMap((box, c) => (box && c !== own ? [{ c, away: outside(box, x, y, z) }] : [])).sort((a, b) => a.away - b.away);
    for (const { c, away } of order) {
      if (away >= found.distance) break;
      const tree = (this.trees[c] ??= nearestTreeOf(takeCurves(curves, [c]), this.work));
      tree.nearest(x, y, z, hit, found.distance);
      if (hit.piece < 0 || !(hit.distance < found.distance)) continue;
      const points = tree.pieces.points.subarray(hit.piece * 2, hit.piece * 2 + 2);
      found.distance = hit.distance;
      found.curve = c;
      found.point = curves.starts[c] + points[hit.weights[0] >= hit.weights[1] ? 0 : 1];
    }
    return found;
  }
}

/** Metres from a place to a box; 0 within it. */
const outside = ({ min, max }: Bounds, x: number, y: number, z: number): number =>
  Math.hypot(...[x, y, z].map((value, k) => Math.max(0, min[k] - value, value - max[k])));
