import { shuffled } from '../../values/random.js';

export interface ReorderOptions {
  /** Places that the first point moves along the list, which comes round. */
  shift: number;
  /** Every k-th point, then every k-th from the second on, and so forth; 0 or 1: as they are. */
  interleave: number;
  reverse: boolean;
  /** Values to sort by, rising, a value per point; null: not sorted. */
  keys: ArrayLike<number> | null;
  /** Positions, where each point is to be followed by the nearest that is left; null: they are not. */
  nearest: ArrayLike<number> | null;
  /** Seed of a shuffle; null: not shuffled. */
  shuffle: number | null;
}

/** The points `from`…`to` − 1 in a new order: sorted, shuffled, reversed, interleaved, shifted, in this order. */
export function reordered(from: number, to: number, { shift, interleave, reverse, keys, nearest, shuffle }: ReorderOptions): number[] {
  let order = Array.from({ length: to - from }, (_, i) => from + i);
  const count = order.length;
  if (keys) order.sort((a, b) => keys[a] - keys[b] || a - b);
  if (nearest) order = nearestNext(Array.from({ length: count * 3 }, (_, k) => nearest[from * 3 + k])).map((i) => from + i);
  if (shuffle !== null) order = shuffled(order, shuffle);
  if (reverse) order.reverse();
  if (interleave > 1) {
    const woven: number[] = [];
    for (let first = 0; first < interleave; first++) for (let i = first; i < count; i += interleave) woven.push(order[i]);
    order = woven;
  }
  if (shift && count) {
    const by = ((shift % count) + count) % count;
    order = [...order.slice(by), ...order.slice(0, by)];
  }
  return order;
}

/** An order that goes from each place to the nearest not yet visited, from the first on. Positions: 3 numbers a place. Time grows with the square of the number. */
export function nearestNext(p: ArrayLike<number>): number[] {
  const count = p.length / 3;
  const left = Array.from({ length: count }, (_, i) => i);
  const order: number[] = [];
  let at = 0;
  while (left.length) {
    order.push(left[at]);
    const here = left[at] * 3;
    left[at] = left[left.length - 1];
    left.pop();
    let best = Infinity;
    left.forEach((i, k) => {
      const d = (p[i * 3] - p[here]) ** 2 + (p[i * 3 + 1] - p[here + 1]) ** 2 + (p[i * 3 + 2] - p[here + 2]) ** 2;
      if (d < best || (d === best && i < left[at])) [best, at] = [d, k];
    });
  }
  return order;
}
