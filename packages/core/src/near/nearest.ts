import type { Geometry } from '../geometry/geometry.js';
import { unbounded, type Work } from '../base/work.js';
import { BoxTree, halvesSize, type Pieces } from '../space/boxTree.js';
import { piecesOf } from './pieces.js';

/** The nearest place that a search found. */
export interface Hit {
  distance: number;
  /** The piece and its element; −1 where there is none. */
  piece: number;
  element: number;
  /** Weights of the piece's corners at the place: they sum to 1. */
  readonly weights: Float64Array;
  readonly place: Float64Array;
}

export const newHit = (): Hit => ({ distance: Infinity, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });

/** Finds nearest places of points, curves or triangles: the nearer box first, leaving out those that are further than what is found. */
export class NearestTree {
  readonly tree: BoxTree;
  /** Halves that wait to be looked at: where each goes on, how many pieces it has, and how far away it is, squared. */
  private readonly waiting: Int32Array;
  private readonly away: Float64Array;

  constructor(
    readonly pieces: Pieces,
    work: Work = unbounded,
  ) {
    this.tree = new BoxTree(pieces, work);
    this.waiting = new Int32Array((this.tree.depth + 1) * 2);
    this.away = new Float64Array(this.tree.depth + 1);
  }

  /** Finds the nearest place to x, y, z within `reach` metres; `hit.element` is −1 when there is none. */
  nearest(x: number, y: number, z: number, hit: Hit, reach = Infinity): Hit {
    const { tree, waiting, away } = this;
    const { halves, links, corners } = tree;
    const { size } = this.pieces;
    hit.distance = reach;
    hit.element = hit.piece = -1;
    let best = reach * reach;
    let found = -1;
    let w0 = 1;
    let w1 = 0;
    let w2 = 0;
    let top = 0;
    let next = tree.first[0];
    let count = tree.first[1];
    if (!tree.order.length) return hit;
    for (;;) {
      if (count === 0) {
        const o = next * halvesSize;
        const dl = boxDistance(halves, o, x, y, z);
        const dr = boxDistance(halves, o + 6, x, y, z);
        const nearer = dl <= dr ? o + 12 : o + 14;
        if ((dl <= dr ? dl : dr) < best) {
          const further = dl <= dr ? dr : dl;
          if (further < best) {
            const other = dl <= dr ? o + 14 : o + 12;
            waiting[top * 2] = links[other];
            waiting[top * 2 + 1] = links[other + 1];
            away[top++] = further;
          }
          next = links[nearer];
          count = links[nearer + 1];
          continue;
        }
      } else {
        for (let k = next, end = next + count; k < end; k++) {
          const squared = toPiece(size, corners, k * size, x, y, z);
          if (!(squared < best)) continue;
          best = squared;
          found = k;
          w0 = weights[0];
          w1 = weights[1];
          w2 = weights[2];
        }
      }
      while (top > 0 && !(away[top - 1] < best)) top--;
      if (top === 0) break;
      top--;
      next = waiting[top * 2];
      count = waiting[top * 2 + 1];
    }
    if (found < 0) return hit;
    hit.distance = Math.sqrt(best);
    hit.piece = tree.order[found];
    hit.element = this.pieces.element[hit.piece];
    hit.weights[0] = w0;
    hit.weights[1] = w1;
    hit.weights[2] = w2;
    const o = found * size;
    if (size === 12) cubicPoint(corners, o, w1, hit.place);
    else for (let k = 0; k < 3; k++) hit.place[k] = w0 * corners[o + k] + (size > 3 ? w1 * corners[o + 3 + k] : 0) + (size > 6 ? w2 * corners[o + 6 + k] : 0);
    return hit;
  }
}

const trees = new WeakMap<Geometry, NearestTree>();

/** The tree over a geometry, the same one as long as that is: a drag of what looks for it does not build it anew. */
export function nearestTreeOf(geometry: Geometry, work: Work = unbounded): NearestTree {
  let tree = trees.get(geometry);
  if (!tree) trees.set(geometry, (tree = new NearestTree(piecesOf(geometry), work)));
  return tree;
}

function boxDistance(b: Float32Array, o: number, x: number, y: number, z: number): number {
  const dx = x < b[o] ? b[o] - x : x > b[o + 3] ? x - b[o + 3] : 0;
  const dy = y < b[o + 1] ? b[o + 1] - y : y > b[o + 4] ? y - b[o + 4] : 0;
  const dz = z < b[o + 2] ? b[o + 2] - z : z > b[o + 5] ? z - b[o + 5] : 0;
  return dx * dx + dy * dy + dz * dz;
}

/** Weights of the corners at the nearest place of the piece that was looked at last. */
const weights = new Float64Array(3);

/** Squared distance to a piece; `weights` tell where on it the nearest place is. */
function toPiece(size: Pieces['size'], c: Float32Array, o: number, x: number, y: number, z: number): number {
  if (size === 9) return toTriangle(c, o, x, y, z);
  if (size === 6) return toSegment(c, o, x, y, z);
  return size === 12 ? toCubic(c, o, x, y, z) : toPoint(c, o, x, y, z);
}

function toPoint(c: Float32Array, o: number, x: number, y: number, z: number): number {
  weights[0] = 1;
  weights[1] = weights[2] = 0;
  const dx = x - c[o];
  const dy = y - c[o + 1];
  const dz = z - c[o + 2];
  return dx * dx + dy * dy + dz * dz;
}

function toSegment(c: Float32Array, o: number, x: number, y: number, z: number): number {
  const dx = c[o + 3] - c[o];
  const dy = c[o + 4] - c[o + 1];
  const dz = c[o + 5] - c[o + 2];
  const px = x - c[o];
  const py = y - c[o + 1];
  const pz = z - c[o + 2];
  const squared = dx * dx + dy * dy + dz * dz;
  let f = squared > 0 ? (px * dx + py * dy + pz * dz) / squared : 0;
  f = f < 0 ? 0 : f > 1 ? 1 : f;
  weights[0] = 1 - f;
  weights[1] = f;
  weights[2] = 0;
  const ex = px - f * dx;
  const ey = py - f * dy;
  const ez = pz - f * dz;
  return ex * ex + ey * ey + ez * ez;
}

const onCubic = new Float64Array(3);

/** The place at parameter `u` of a cubic Bezier piece. */
function cubicPoint(c: Float32Array, o: number, u: number, out: Float64Array): void {
  const v = 1 - u;
  const [w0, w1, w2, w3] = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u];
  for (let k = 0; k < 3; k++) out[k] = w0 * c[o + k] + w1 * c[o + 3 + k] + w2 * c[o + 6 + k] + w3 * c[o + 9 + k];
}

/** Half the derivative of the squared distance by `u`, and the derivative of that, at the place that `onCubic` is set to. */
const slope = { first: 0, second: 0 };

function cubicSlope(c: Float32Array, o: number, u: number, x: number, y: number, z: number): void {
  cubicPoint(c, o, u, onCubic);
  const v = 1 - u;
  slope.first = slope.second = 0;
  for (let k = 0; k < 3; k++) {
    const [p0, p1, p2, p3] = [c[o + k], c[o + 3 + k], c[o + 6 + k], c[o + 9 + k]];
    const away = onCubic[k] - (k === 0 ? x : k === 1 ? y : z);
    const d = 3 * (v * v * (p1 - p0) + 2 * v * u * (p2 - p1) + u * u * (p3 - p2));
    slope.first += away * d;
    slope.second += d * d + away * 6 * (v * (p2 - 2 * p1 + p0) + u * (p3 - 2 * p2 + p1));
  }
}

/** Parameters that a piece is looked at before the best is made exact. */
const looks = 8;

/** Squared distance to a cubic piece: the best of even places, then Newton's steps kept between its neighbours, until they move no more. */
function toCubic(c: Float32Array, o: number, x: number, y: number, z: number): number {
  let best = Infinity;
  let at = 0;
  const look = (u: number): void => {
    cubicPoint(c, o, u, onCubic);
    const squared = (onCubic[0] - x) ** 2 + (onCubic[1] - y) ** 2 + (onCubic[2] - z) ** 2;
    if (squared >= best) return;
    best = squared;
    at = u;
  };
  for (let i = 0; i <= looks; i++) look(i / looks);
  let low = Math.max(0, at - 1 / looks);
  let high = Math.min(1, at + 1 / looks);
  for (let step = 0, u = at; step < 40; step++) {
    cubicSlope(c, o, u, x, y, z);
    if (slope.first > 0) high = u;
    else low = u;
    const newton = u - slope.first / slope.second;
    const next = slope.second > 0 && newton >= low && newton <= high ? newton : (low + high) / 2;
    if (Math.abs(next - u) < 1e-12) break;
    u = next;
    look(u);
  }
  weights[0] = 1 - at;
  weights[1] = at;
  weights[2] = 0;
  return best;
}

/** Squared distance to a triangle, by the regions of its corners, edges and inside (Ericson 2005, "Real-Time Collision Detection", 5.1.5). */
function toTriangle(c: Float32Array, o: number, x: number, y: number, z: number): number {
  const abx = c[o + 3] - c[o];
  const aby = c[o + 4] - c[o + 1];
  const abz = c[o + 5] - c[o + 2];
  const acx = c[o + 6] - c[o];
  const acy = c[o + 7] - c[o + 1];
  const acz = c[o + 8] - c[o + 2];
  const apx = x - c[o];
  const apy = y - c[o + 1];
  const apz = z - c[o + 2];
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  let v = 0;
  let w = 0;
  if (d1 > 0 || d2 > 0) {
    const ab2 = abx * abx + aby * aby + abz * abz;
    const ac2 = acx * acx + acy * acy + acz * acz;
    const abac = abx * acx + aby * acy + abz * acz;
    // What Ericson calls d3 to d6, by what is known already: b − a and c − a taken from a's products.
    const d3 = d1 - ab2;
    const d4 = d2 - abac;
    const d5 = d1 - abac;
    const d6 = d2 - ac2;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    if (d3 >= 0 && d4 <= d3) v = 1;
    else if (ab2 > 0 && vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / ab2;
    else if (d6 >= 0 && d5 <= d6) w = 1;
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) w = ac2 > 0 ? d2 / ac2 : 0;
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      const run = d4 - d3 + (d5 - d6);
      w = run > 0 ? (d4 - d3) / run : 0;
      v = 1 - w;
    } else {
      const sum = va + vb + vc;
      // A triangle without an area has been found to be an edge already, but for what rounding leaves.
      v = sum > 0 ? vb / sum : 0;
      w = sum > 0 ? vc / sum : 0;
    }
  }
  weights[0] = 1 - v - w;
  weights[1] = v;
  weights[2] = w;
  const ex = apx - v * abx - w * acx;
  const ey = apy - v * aby - w * acy;
  const ez = apz - v * abz - w * acz;
  return ex * ex + ey * ey + ez * ez;
}
