import { withAttributes, type Attribute } from '../geometry/attributes.js';
import { curveCount, curveOfPoints, type Curves } from '../geometry/curves.js';
import { NearestTree, newHit } from '../near/nearest.js';
import { piecesOf } from '../near/pieces.js';
import { makePoints } from '../geometry/points.js';
import { tick, type Work } from '../base/work.js';

export interface BranchingOptions {
  /** Metres within which a curve that begins at another is a branch of it, where it does not say whose it is by `parent`. */
  within: number;
  /** Of the pipe model: 2 keeps the area of all sections, higher numbers thin more slowly. */
  exponent: number;
}

export interface Branching {
  readonly curves: Curves;
  /** Curves that are no branch of another. */
  readonly roots: number;
  /** Branches that would go round in a circle, and count as roots. */
  readonly circles: number;
}

/**
 * What is known of a network that branches, at each of its points: `distance` from the root along it (metres), `tips` beyond the point, `order` by Strahler (1957), and
 * `thickness` by the pipe model (Shinozaki et al. 1964): as many pipes as tips, 1 at the thickest. Curves begin at their parents.
 */
export function branching(curves: Curves, { within, exponent }: BranchingOptions, work: Work): Branching {
  const count = curveCount(curves);
  const at = attachments(curves, within, work);
  const { order, circles } = fromRoots(curves, at);
  const points = curves.positions.length / 3;
  const [distance, tips, strahler] = [0, 1, 2].map(() => new Float32Array(points));
  const p = curves.positions;
  for (const c of order) {
    const from = curves.starts[c];
    for (let i = from; i < curves.starts[c + 1]; i++) {
      const before = i > from ? i - 1 : at[c];
      const way = i > from ? Math.hypot(p[i * 3] - p[i * 3 - 3], p[i * 3 + 1] - p[i * 3 - 2], p[i * 3 + 2] - p[i * 3 - 1]) : 0;
      distance[i] = (before < 0 ? 0 : distance[before]) + way;
    }
  }
  const curveOf = curveOfPoints(curves);
  const sides = Array.from({ length: count }, (): number[] => []);
  for (let c = 0; c < count; c++) if (at[c] >= 0) sides[curveOf[at[c]]].push(c);
  // From the last to the first, so that branches are known before what they leave.
  for (const c of order.toReversed()) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    if (to === from) continue;
    const waiting = sides[c].filter((side) => curves.starts[side + 1] > curves.starts[side]).sort((a, b) => at[b] - at[a]);
    let [beyond, rank, k] = [0, 0, 0];
    for (let i = to - 1; i >= from; i--) {
      // Of all that goes on from here, the curve itself among it, two or more of the highest order make the next.
      let equal = rank > 0 ? 1 : 0;
      for (; k < waiting.length && at[waiting[k]] >= i; k++) {
        const side = curves.starts[waiting[k]];
        beyond += tips[side];
        if (strahler[side] > rank) [rank, equal] = [strahler[side], 1];
        else if (strahler[side] === rank) equal++;
      }
      if (equal > 1) rank++;
      // An end that nothing goes on from is a tip.
      if (i === to - 1 && !beyond) [beyond, rank] = [1, 1];
      tips[i] = beyond;
      strahler[i] = rank;
    }
  }
  const most = tips.reduce((sum, value) => Math.max(sum, value), 1);
  const of = (data: Float32Array): Attribute => ({ carrier: 'point', size: 1, data });
  const thickness = tips.map((value) => (value / most) ** (1 / exponent));
  const attributes = withAttributes(curves.attributes, { distance: of(distance), tips: of(tips), order: of(strahler), thickness: of(thickness) });
  return { curves: { ...curves, attributes }, roots: at.filter((point) => point < 0).length, circles };
}

/** The point of another curve that each curve begins at; −1: none. */
function attachments(curves: Curves, within: number, work: Work): Int32Array {
  const count = curveCount(curves);
  const at = new Int32Array(count).fill(-1);
  const parent = curves.attributes.get('parent');
  const known = parent?.carrier === 'curve' && parent.size === 1 ? parent.data : null;
  const p = curves.positions;
  const apart = (i: number, j: number): number => (p[i * 3] - p[j * 3]) ** 2 + (p[i * 3 + 1] - p[j * 3 + 1]) ** 2 + (p[i * 3 + 2] - p[j * 3 + 2]) ** 2;
  const nearestOf = (c: number, first: number): number => {
    let [best, least] = [-1, Infinity];
    for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) if (apart(i, first) < least) [best, least] = [i, apart(i, first)];
    return best;
  };
  if (known) {
    for (let c = 0; c < count; c++)
      if (known[c] >= 0 && known[c] < count && known[c] !== c && curves.starts[c + 1] > curves.starts[c]) at[c] = nearestOf(known[c], curves.starts[c]);
    return at;
  }
  // All points but the first of each curve, so that roots that begin together are no branches of each other.
  const others: number[] = [];
  for (let c = 0; c < count; c++) for (let i = curves.starts[c] + 1; i < curves.starts[c + 1]; i++) others.push(i);
  const tree = new NearestTree(piecesOf(makePoints(Float32Array.from(others.flatMap((i) => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]])))), work);
  const hit = newHit();
  const curveOf = curveOfPoints(curves);
  for (let c = 0; c < count; c++) {
    tick(work, c, count);
    const first = curves.starts[c];
    if (first === curves.starts[c + 1]) continue;
    tree.nearest(p[first * 3], p[first * 3 + 1], p[first * 3 + 2], hit, within + 1e-9);
    if (hit.element >= 0 && curveOf[others[hit.element]] !== c) at[c] = others[hit.element];
  }
  return at;
}

/** Curves, parents before their branches; branches that lead back to themselves are cut off (in `at`). */
function fromRoots(curves: Curves, at: Int32Array): { order: number[]; circles: number } {
  const curveOf = curveOfPoints(curves);
  const state = new Uint8Array(at.length);
  const order: number[] = [];
  let circles = 0;
  for (let start = 0; start < at.length; start++) {
    const way: number[] = [];
    let c = start;
    while (state[c] === 0) {
      state[c] = 1;
      way.push(c);
      if (at[c] < 0) break;
      c = curveOf[at[c]];
    }
    if (state[c] === 1 && way.length && at[way[way.length - 1]] >= 0 && way.includes(c)) {
      at[way[way.length - 1]] = -1;
      circles++;
    }
    for (const each of way.reverse()) {
      state[each] = 2;
      order.push(each);
    }
  }
  return { order, circles };
}
