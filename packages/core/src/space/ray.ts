import { halvesSize, type BoxTree } from './boxTree.js';

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

/** Halves that wait to be looked at, and where the ray enters them; as deep as any tree. */
let waiting = new Int32Array(128);
let entered = new Float64Array(64);

/** Squared sine of the least angle at which a ray meets a triangle. */
const flattest = 1e-18;

/** How far beyond a triangle's edges a ray still meets it, in weights: none slips through between two neighbours. */
const slack = 1e-9;

/**
 * Where a ray from o along the unit vector d first meets the triangles of a tree, from either side, no further than `reach` metres (Möller & Trumbore 1997;
 * boxes by slabs, Kay & Kajiya 1986).
 */
export function firstHit(tree: BoxTree, o: ArrayLike<number>, d: ArrayLike<number>, hit: RayHit, reach = Infinity): RayHit {
  const { halves, links, corners: c } = tree;
  hit.t = reach;
  hit.piece = hit.element = -1;
  if (tree.pieces.size !== 9 || !tree.order.length) return hit;
  makeRoom(tree.depth);
  const ox = o[0];
  const oy = o[1];
  const oz = o[2];
  const dx = d[0];
  const dy = d[1];
  const dz = d[2];
  const ix = 1 / dx;
  const iy = 1 / dy;
  const iz = 1 / dz;
  let [top, found] = [0, -1];
  let next = tree.first[0];
  let count = tree.first[1];
  if (entry(tree.around, 0, ox, oy, oz, ix, iy, iz, reach) === Infinity) return hit;
  for (;;) {
    if (count === 0) {
      const at = next * halvesSize;
      const tl = entry(halves, at, ox, oy, oz, ix, iy, iz, hit.t);
      const tr = entry(halves, at + 6, ox, oy, oz, ix, iy, iz, hit.t);
      const nearer = tl <= tr ? at + 12 : at + 14;
      if ((tl <= tr ? tl : tr) < Infinity) {
        const further = tl <= tr ? tr : tl;
        if (further < Infinity) {
          const other = tl <= tr ? at + 14 : at + 12;
          waiting[top * 2] = links[other];
          waiting[top * 2 + 1] = links[other + 1];
          entered[top++] = further;
        }
        next = links[nearer];
        count = links[nearer + 1];
        continue;
      }
    }
    for (let k = next, end = next + count; k < end; k++) {
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
      // Along its plane a ray meets a triangle nowhere in particular.
      if (determinant * determinant <= flattest * (ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz)) continue;
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
    // Rounding may have put a triangle that touches its box's side a little before it.
    while (top > 0 && entered[top - 1] > hit.t * (1 + 1e-12)) top--;
    if (top === 0) break;
    top--;
    next = waiting[top * 2];
    count = waiting[top * 2 + 1];
  }
  if (found < 0) return hit;
  hit.piece = tree.order[found];
  hit.element = tree.pieces.element[hit.piece];
  return hit;
}

/** Has boxes wait that lie as deep as this. */
function makeRoom(depth: number): void {
  if (waiting.length > depth * 2) return;
  waiting = new Int32Array(depth * 4);
  entered = new Float64Array(depth * 2);
}

/** Metres along a ray at which it comes into a box (its numbers from `o` on); infinite when it does not, or only beyond `to`. `i` are 1 ÷ the direction. */
function entry(b: Float32Array, o: number, x: number, y: number, z: number, ix: number, iy: number, iz: number, to: number): number {
  let from = 0;
  // Square to an axis the ray is between both sides or it is not; 0 × ∞ would be no number.
  if (ix === Infinity || ix === -Infinity) {
    if (x < b[o] || x > b[o + 3]) return Infinity;
  } else {
    const p = (b[o] - x) * ix;
    const q = (b[o + 3] - x) * ix;
    from = Math.max(from, Math.min(p, q));
    to = Math.min(to, Math.max(p, q));
  }
  if (iy === Infinity || iy === -Infinity) {
    if (y < b[o + 1] || y > b[o + 4]) return Infinity;
  } else {
    const p = (b[o + 1] - y) * iy;
    const q = (b[o + 4] - y) * iy;
    from = Math.max(from, Math.min(p, q));
    to = Math.min(to, Math.max(p, q));
  }
  if (iz === Infinity || iz === -Infinity) {
    if (z < b[o + 2] || z > b[o + 5]) return Infinity;
  } else {
    const p = (b[o + 2] - z) * iz;
    const q = (b[o + 5] - z) * iz;
    from = Math.max(from, Math.min(p, q));
    to = Math.min(to, Math.max(p, q));
  }
  // Rounding may take a ray past the edge of a flat box.
  return from <= to * (1 + 1e-12) ? from : Infinity;
}
