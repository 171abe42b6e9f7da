import { progressEvery, type Work } from '../base/work.js';
import type { Geometry } from '../geometry/geometry.js';

/** Points, segments, cubic pieces or triangles in flat arrays, each with the element that it belongs to. */
export interface Pieces {
  /** 3, 6, 9 or 12 numbers a piece, metres: its corners; of a piece of a smooth curve its control points (cubic Bezier). */
  readonly corners: Float32Array;
  readonly size: 3 | 6 | 9 | 12;
  /** Point, piece of a curve (its first point) or face of each piece. */
  readonly element: Uint32Array;
  /** The points or vertices that a piece lies between, in `of`: 1 a point, 2 a piece of a curve, 3 a triangle. */
  readonly points: Uint32Array;
  readonly perPiece: 1 | 2 | 3;
  /** The geometry that elements and points are numbered in: as given, or curves at the places where they were sampled. */
  readonly of: Geometry;
}

/** Pieces of a leaf at most, unless they cannot be told apart. */
const leafSize = 4;
const bins = 16;
/** Up to so many pieces a box is halved in the middle: looking for better costs more than it saves. */
const few = 24;

/** Words of the two halves of a box: 64 bytes, which a processor fetches as one. */
export const halvesSize = 16;

/**
 * A tree of boxes over pieces, in flat arrays. Boxes are halved across their longest side where the surface area heuristic (MacDonald & Booth 1990, in bins as
 * Wald 2007) finds the searches cheapest. Numbers stay in 32 bits, as they are stored, so boxes are exact.
 */
export class BoxTree {
  /**
   * Both halves of each box that has them, side by side, as a search looks at both: of each half its least and its greatest corner (words 0 to 5 and 6 to 11), then, in
   * `links` over the same memory, of each half where it goes on and how many pieces it has (words 12, 13 and 14, 15): its first piece, or, where it has none of its
   * own (0), the number of its halves.
   */
  halves: Float32Array;
  links: Int32Array;
  /** Where it all begins: as the last two words of a half. */
  readonly first: Int32Array = new Int32Array(2);
  /** The box around everything: least corner, greatest corner. */
  readonly around = new Float32Array(6);
  /** Pieces in the order of the leaves: their numbers, and their corners. */
  readonly order: Uint32Array;
  readonly corners: Float32Array;
  /** The longest way from the first box to a leaf. */
  depth = 0;
  /** Boxes that have halves. */
  private count = 0;
  /** 6 numbers a piece, as of a box. */
  private extents: Float32Array;
  private readonly least = new Float64Array(bins * 3);
  private readonly most = new Float64Array(bins * 3);
  private readonly filled = new Uint32Array(bins);
  private readonly costs = new Float64Array(bins);

  constructor(
    readonly pieces: Pieces,
    private work: Work | null = null,
  ) {
    const n = pieces.element.length;
    const { size } = pieces;
    this.order = new Uint32Array(n);
    for (let i = 0; i < n; i++) this.order[i] = i;
    this.halves = new Float32Array(Math.max(0, n - 1) * halvesSize);
    this.links = new Int32Array(this.halves.buffer);
    this.extents = extentsOf(pieces);
    if (n) this.build(0, n, 1, this.around, 0, this.first, 0);
    // Most leaves have several pieces, so that half of the memory was enough.
    this.halves = this.halves.slice(0, this.count * halvesSize);
    this.links = new Int32Array(this.halves.buffer);
    this.extents = new Float32Array(0);
    this.work = null;
    this.corners = new Float32Array(n * size);
    for (let i = 0; i < n; i++) {
      const from = this.order[i] * size;
      for (let j = 0; j < size; j++) this.corners[i * size + j] = pieces.corners[from + j];
    }
  }

  /** Makes the box of some pieces and all in it; it is written to `boxes` from `box` on, where it goes on to `links` at `link`. */
  private build(from: number, to: number, depth: number, boxes: Float32Array, box: number, links: Int32Array, link: number): void {
    if (depth > this.depth) this.depth = depth;
    const { order, extents } = this;
    let x0 = Infinity;
    let y0 = Infinity;
    let z0 = Infinity;
    let x1 = -Infinity;
    let y1 = -Infinity;
    let z1 = -Infinity;
    // Twice the middles of the pieces.
    let mx0 = Infinity;
    let my0 = Infinity;
    let mz0 = Infinity;
    let mx1 = -Infinity;
    let my1 = -Infinity;
    let mz1 = -Infinity;
    for (let k = from; k < to; k++) {
      const o = order[k] * 6;
      const ax = extents[o];
      const ay = extents[o + 1];
      const az = extents[o + 2];
      const bx = extents[o + 3];
      const by = extents[o + 4];
      const bz = extents[o + 5];
      if (ax < x0) x0 = ax;
      if (ay < y0) y0 = ay;
      if (az < z0) z0 = az;
      if (bx > x1) x1 = bx;
      if (by > y1) y1 = by;
      if (bz > z1) z1 = bz;
      const x = ax + bx;
      const y = ay + by;
      const z = az + bz;
      if (x < mx0) mx0 = x;
      if (x > mx1) mx1 = x;
      if (y < my0) my0 = y;
      if (y > my1) my1 = y;
      if (z < mz0) mz0 = z;
      if (z > mz1) mz1 = z;
    }
    boxes[box] = x0;
    boxes[box + 1] = y0;
    boxes[box + 2] = z0;
    boxes[box + 3] = x1;
    boxes[box + 4] = y1;
    boxes[box + 5] = z1;
    const [dx, dy, dz] = [mx1 - mx0, my1 - my0, mz1 - mz0];
    const axis = dx >= dy && dx >= dz ? 0 : dy >= dz ? 1 : 2;
    const extent = Math.max(dx, dy, dz);
    if (to - from <= leafSize || (!(extent > 0) && to - from <= 64)) {
      links[link] = from;
      links[link + 1] = to - from;
      return;
    }
    let middle = extent > 0 ? this.split(from, to, axis, axis === 0 ? mx0 : axis === 1 ? my0 : mz0, extent) : from;
    // Pieces that cannot be told apart, or that all fall to one side, are halved as they come.
    if (middle <= from || middle >= to) middle = (from + to) >> 1;
    const own = this.count++;
    if (own % progressEvery === 0) this.work?.progress(from / order.length);
    links[link] = own;
    links[link + 1] = 0;
    const at = own * halvesSize;
    this.build(from, middle, depth + 1, this.halves, at, this.links, at + 12);
    this.build(middle, to, depth + 1, this.halves, at + 6, this.links, at + 14);
  }

  /** Puts the pieces of the cheaper side first and returns where the other begins. */
  private split(from: number, to: number, axis: number, low: number, extent: number): number {
    const { order, extents, least, most, filled, costs } = this;
    const scale = (bins * (1 - 1e-6)) / extent;
    if (to - from <= few) return this.part(from, to, axis, low, scale, bins / 2);
    least.fill(Infinity);
    most.fill(-Infinity);
    filled.fill(0);
    for (let k = from; k < to; k++) {
      const piece = order[k] * 6;
      const bin = ((extents[piece + axis] + extents[piece + 3 + axis] - low) * scale) | 0;
      filled[bin]++;
      const o = bin * 3;
      if (extents[piece] < least[o]) least[o] = extents[piece];
      if (extents[piece + 1] < least[o + 1]) least[o + 1] = extents[piece + 1];
      if (extents[piece + 2] < least[o + 2]) least[o + 2] = extents[piece + 2];
      if (extents[piece + 3] > most[o]) most[o] = extents[piece + 3];
      if (extents[piece + 4] > most[o + 1]) most[o + 1] = extents[piece + 4];
      if (extents[piece + 5] > most[o + 2]) most[o + 2] = extents[piece + 5];
    }
    costs.fill(0);
    this.sweep(0, 1);
    this.sweep(bins - 1, -1);
    let best = 1;
    for (let cut = 2; cut < bins; cut++) if (costs[cut] < costs[best]) best = cut;
    return this.part(from, to, axis, low, scale, best);
  }

  /** Puts pieces of bins before `cut` first and returns where the others begin. */
  private part(from: number, to: number, axis: number, low: number, scale: number, cut: number): number {
    const { order, extents } = this;
    let at = from;
    for (let k = from; k < to; k++) {
      const piece = order[k];
      if ((((extents[piece * 6 + axis] + extents[piece * 6 + 3 + axis] - low) * scale) | 0) >= cut) continue;
      order[k] = order[at];
      order[at++] = piece;
    }
    return at;
  }

  /** Adds to the cost of each cut (before bin `cut`) the area of the boxes on one side, times how many pieces lie there. */
  private sweep(first: number, step: 1 | -1): void {
    const { least, most, filled, costs } = this;
    let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    let pieces = 0;
    for (let bin = first; step > 0 ? bin < bins - 1 : bin > 0; bin += step) {
      const o = bin * 3;
      pieces += filled[bin];
      x0 = Math.min(x0, least[o]);
      y0 = Math.min(y0, least[o + 1]);
      z0 = Math.min(z0, least[o + 2]);
      x1 = Math.max(x1, most[o]);
      y1 = Math.max(y1, most[o + 1]);
      z1 = Math.max(z1, most[o + 2]);
      const [dx, dy, dz] = [x1 - x0, y1 - y0, z1 - z0];
      // A side without pieces would not halve anything.
      costs[step > 0 ? bin + 1 : bin] += pieces ? pieces * (dx * dy + dy * dz + dz * dx) : Infinity;
    }
  }
}

/** The box of each piece. */
function extentsOf({ corners, size, element }: Pieces): Float32Array {
  const extents = new Float32Array(element.length * 6);
  for (let i = 0; i < element.length; i++)
    for (let k = 0; k < 3; k++) {
      const o = i * size + k;
      let low = corners[o];
      let high = low;
      for (let at = o + 3; at < o - k + size; at += 3) {
        const value = corners[at];
        if (value < low) low = value;
        if (value > high) high = value;
      }
      extents[i * 6 + k] = low;
      extents[i * 6 + 3 + k] = high;
    }
  return extents;
}
