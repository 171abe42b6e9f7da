import type { BoxTree } from './boxTree.js';

/** Where a ray first meets a triangle. */
export interface RayHit {
  /** Metres along the ray. */
  t: number;
  /** The triangle and its face; −1 where nothing is met. */
  piece: number;
  element: number;
  /** Weights of the triangle's three corners there. */
  readonly weights: Float64Array;
}

export const newRayHit = (): RayHit => ({ t: Infinity, piece: -1, element: -1, weights: new Float64Array(3) });

/** Boxes that wait to be looked at; as deep as any tree. */
let waiting = new Int32Array(64);

/** How far beyond a triangle's edges a ray still meets it, in weights: none slips through between two neighbours. */
const slack = 1e-9;

/**
 * Where a ray from o along the unit vector d first meets the triangles of a tree, from either side, no further than `reach` metres (Möller & Trumbore 1997;
 * boxes by slabs, Kay & Kajiya 1986).
 */
export function firstHit(tree: BoxTree, o: ArrayLike<number>, d: ArrayLike<number>, hit: RayHit, reach = Infinity): RayHit {
  const { boxes, links, corners: c } = tree;
  hit.t = reach;
  hit.piece = hit.element = -1;
  if (tree.pieces.size !== 9 || !tree.count) return hit;
  if (waiting.length <= tree.depth) waiting = new Int32Array(tree.depth * 2);
  const [ox, oy, oz, dx, dy, dz] = [o[0], o[1], o[2], d[0], d[1], d[2]];
  const [ix, iy, iz] = [1 / dx, 1 / dy, 1 / dz];
  const entry = (node: number): number => {
    let from = 0;
    let to = hit.t;
    for (let k = 0; k < 3; k++) {
      const low = boxes[node * 6 + k];
      const high = boxes[node * 6 + 3 + k];
      const at = k === 0 ? ox : k === 1 ? oy : oz;
      const inverse = k === 0 ? ix : k === 1 ? iy : iz;
      if (inverse === Infinity || inverse === -Infinity) {
        if (at < low || at > high) return Infinity;
        continue;
      }
      const a = (low - at) * inverse;
      const b = (high - at) * inverse;
      from = Math.max(from, Math.min(a, b));
      to = Math.min(to, Math.max(a, b));
    }
    // Rounding may take a ray past the edge of a flat box.
    return from <= to * (1 + 1e-12) ? from : Infinity;
  };
  let top = 0;
  if (entry(0) < Infinity) waiting[top++] = 0;
  let found = -1;
  while (top > 0) {
    let node = waiting[--top];
    if (found >= 0 && entry(node) >= hit.t) continue;
    while (links[node * 2 + 1] === 0) {
      const left = node + 1;
      const right = links[node * 2];
      const tl = entry(left);
      const tr = entry(right);
      if (tl === Infinity && tr === Infinity) {
        node = -1;
        break;
      }
      const near = tl <= tr ? left : right;
      if (Math.max(tl, tr) < Infinity) waiting[top++] = near === left ? right : left;
      node = near;
    }
    if (node < 0) continue;
    const end = links[node * 2] + links[node * 2 + 1];
    for (let k = links[node * 2]; k < end; k++) {
      const a = k * 9;
      const ux = c[a + 3] - c[a];
      const uy = c[a + 4] - c[a + 1];
      const uz = c[a + 5] - c[a + 2];
      const vx = c[a + 6] - c[a];
      const vy = c[a + 7] - c[a + 1];
      const vz = c[a + 8] - c[a + 2];
      const px = dy * vz - dz * vy;
      const py = dz * vx - dx * vz;
      const pz = dx * vy - dy * vx;
      const determinant = ux * px + uy * py + uz * pz;
      if (determinant === 0) continue;
      const sx = ox - c[a];
      const sy = oy - c[a + 1];
      const sz = oz - c[a + 2];
      const u = (sx * px + sy * py + sz * pz) / determinant;
      if (!(u >= -slack && u <= 1 + slack)) continue;
      const qx = sy * uz - sz * uy;
      const qy = sz * ux - sx * uz;
      const qz = sx * uy - sy * ux;
      const v = (dx * qx + dy * qy + dz * qz) / determinant;
      if (!(v >= -slack && u + v <= 1 + slack)) continue;
      const t = (vx * qx + vy * qy + vz * qz) / determinant;
      if (!(t >= 0 && t < hit.t)) continue;
      hit.t = t;
      found = k;
      hit.weights[0] = 1 - u - v;
      hit.weights[1] = u;
      hit.weights[2] = v;
    }
  }
  if (found >= 0) {
    hit.piece = tree.order[found];
    hit.element = tree.pieces.element[hit.piece];
  }
  return hit;
}
