import type { Pieces } from './pieces.js';

/** Pieces of a leaf at most, unless they cannot be told apart. */
const leafSize = 4;
const bins = 16;

/**
 * A tree of boxes over pieces, in flat arrays. Boxes are halved across their longest side where the surface area heuristic (MacDonald & Booth 1990, in bins as
 * Wald 2007) finds the searches cheapest. Numbers stay in 32 bits, as they are stored, so boxes are exact.
 */
export class BoxTree {
  /** 6 numbers a box: least corner, greatest corner. The left box of one comes right after it. */
  readonly boxes: Float32Array;
  /** For each box its first piece (leaf) or its right box, and how many pieces (0: no leaf). */
  readonly links: Int32Array;
  /** Pieces in the order of the leaves: their numbers, and their corners. */
  readonly order: Uint32Array;
  readonly corners: Float32Array;
  /** Boxes. */
  count = 0;
  /** The longest way from the first box to a leaf. */
  depth = 0;
  private middles: Float32Array;
  private readonly least = new Float64Array(bins * 3);
  private readonly most = new Float64Array(bins * 3);
  private readonly filled = new Uint32Array(bins);
  private readonly costs = new Float64Array(bins);

  constructor(readonly pieces: Pieces) {
    const n = pieces.element.length;
    const { size } = pieces;
    this.order = new Uint32Array(n);
    for (let i = 0; i < n; i++) this.order[i] = i;
    this.boxes = new Float32Array(Math.max(1, 2 * n) * 6);
    this.links = new Int32Array(Math.max(1, 2 * n) * 2);
    this.middles = new Float32Array(n * 3);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++) {
        let [low, high] = [Infinity, -Infinity];
        for (let j = k; j < size; j += 3) {
          const value = pieces.corners[i * size + j];
          if (value < low) low = value;
          if (value > high) high = value;
        }
        this.middles[i * 3 + k] = (low + high) / 2;
      }
    if (n) this.build(0, n, 1);
    this.middles = new Float32Array(0);
    this.corners = new Float32Array(n * size);
    for (let i = 0; i < n; i++) {
      const from = this.order[i] * size;
      for (let j = 0; j < size; j++) this.corners[i * size + j] = pieces.corners[from + j];
    }
  }

  private build(from: number, to: number, depth: number): number {
    const node = this.count++;
    if (depth > this.depth) this.depth = depth;
    const { boxes, links, order, middles } = this;
    const { corners, size } = this.pieces;
    const box = node * 6;
    let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    let [mx0, my0, mz0, mx1, my1, mz1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let k = from; k < to; k++) {
      const piece = order[k];
      for (let at = piece * size, end = at + size; at < end; at += 3) {
        const x = corners[at];
        const y = corners[at + 1];
        const z = corners[at + 2];
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        if (y > y1) y1 = y;
        if (z < z0) z0 = z;
        if (z > z1) z1 = z;
      }
      const x = middles[piece * 3];
      const y = middles[piece * 3 + 1];
      const z = middles[piece * 3 + 2];
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
      links[node * 2] = from;
      links[node * 2 + 1] = to - from;
      return node;
    }
    let middle = extent > 0 ? this.split(from, to, axis, axis === 0 ? mx0 : axis === 1 ? my0 : mz0, extent) : from;
    // Pieces that cannot be told apart, or that all fall to one side, are halved as they come.
    if (middle <= from || middle >= to) middle = (from + to) >> 1;
    this.build(from, middle, depth + 1);
    links[node * 2] = this.build(middle, to, depth + 1);
    return node;
  }

  /** Puts the pieces of the cheaper side first and returns where the other begins. */
  private split(from: number, to: number, axis: number, low: number, extent: number): number {
    const { order, middles, least, most, filled, costs } = this;
    const { corners, size } = this.pieces;
    const scale = (bins * (1 - 1e-6)) / extent;
    least.fill(Infinity);
    most.fill(-Infinity);
    filled.fill(0);
    for (let k = from; k < to; k++) {
      const piece = order[k];
      const bin = ((middles[piece * 3 + axis] - low) * scale) | 0;
      filled[bin]++;
      const o = bin * 3;
      for (let at = piece * size, end = at + size; at < end; at += 3)
        for (let j = 0; j < 3; j++) {
          const value = corners[at + j];
          if (value < least[o + j]) least[o + j] = value;
          if (value > most[o + j]) most[o + j] = value;
        }
    }
    costs.fill(0);
    this.sweep(0, 1);
    this.sweep(bins - 1, -1);
    let best = 1;
    for (let cut = 2; cut < bins; cut++) if (costs[cut] < costs[best]) best = cut;
    let at = from;
    for (let k = from; k < to; k++) {
      const piece = order[k];
      if ((((middles[piece * 3 + axis] - low) * scale) | 0) >= best) continue;
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
