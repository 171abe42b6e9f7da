import { curveCount, type Curves } from '../geometry/curves.js';

/**
 * Whether curves that are paired in turn (`pairs`: first with second, third with fourth) or lofted in a row look like two lists joined one after the other: the
 * middles of those that belong together then lie at half the number from each other.
 */
export function looksJoined(curves: Curves, as: 'pairs' | 'row'): boolean {
  const count = curveCount(curves);
  if (count < 4 || count % 2) return false;
  const middle = Array.from({ length: count }, (_, c) => middleOf(curves, c));
  const apart = (a: number, b: number): number => Math.hypot(...middle[a].map((value, k) => value - middle[b][k]));
  const half = count / 2;
  const sum = (steps: readonly (readonly [number, number])[]): number => steps.reduce((all, [a, b]) => all + apart(a, b), 0);
  if (as === 'pairs') {
    const [inTurn, byHalves] = [
      Array.from({ length: half }, (_, i) => [2 * i, 2 * i + 1] as const),
      Array.from({ length: half }, (_, i) => [i, i + half] as const),
    ];
    return sum(byHalves) < clearly * sum(inTurn);
  }
  const order = Array.from({ length: count }, (_, i) => (i % 2 ? half : 0) + (i >> 1));
  const row = (list: readonly number[]): number => sum(list.slice(1).map((c, i) => [list[i], c] as const));
  return row(order) < clearly * row(order.map((_, i) => i));
}

/** The other way is taken for what was meant where it is this much shorter. */
const clearly = 0.6;

function middleOf({ positions: p, starts }: Curves, c: number): number[] {
  const [from, to] = [starts[c], starts[c + 1]];
  const sum = [0, 0, 0];
  for (let i = from; i < to; i++) for (let k = 0; k < 3; k++) sum[k] += p[i * 3 + k] / (to - from);
  return sum;
}
