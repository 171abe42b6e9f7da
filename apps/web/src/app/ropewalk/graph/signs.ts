import type { GraphNode } from '@filaxis/core';
import { placeOf, tagHeight, tagWidth } from './tag-geometry';

/** The zoom below which the least letters of a tag, 12 px, would be smaller than 10 px on screen: from there on nodes are signs with their names alone. */
export const tagZoom = 0.84;
/** Least and greatest width of a sign in pixels on screen, and its height. */
const [least, greatest, height] = [44, 120, 17];

/** About how wide a name is as a sign, in pixels on screen. */
const widthOf = (name: string): number => Math.min(greatest, name.length * 6.2 + 12);

/**
 * Widths of the signs that are shown at a zoom, in pixels on screen, by the nodes' ids. A sign has the width of its tag while that is enough to read; where tags are
 * smaller, signs are as wide as their names, and of two that would overlap the first stays. `first`: nodes whose signs go before others.
 */
export function signsAt(
  nodes: readonly GraphNode[],
  zoom: number,
  nameOf: (node: GraphNode) => string,
  first: ReadonlySet<string>,
): ReadonlyMap<string, number> {
  const own = tagWidth * zoom;
  if (own >= least) return new Map(nodes.map(({ id }) => [id, own]));
  const shown = new Map<string, number>();
  const rows = new Map<number, { left: number; right: number; top: number }[]>();
  for (const node of [...nodes].sort((a, b) => Number(first.has(b.id)) - Number(first.has(a.id)))) {
    const { x, y } = placeOf(node);
    const [left, top] = [x * zoom, (y + tagHeight / 2) * zoom - height / 2];
    const right = left + Math.max(own, widthOf(nameOf(node)));
    const row = Math.floor(top / height);
    const near = [row - 1, row, row + 1].flatMap((each) => rows.get(each) ?? []);
    if (near.some((other) => other.left < right && other.right > left && Math.abs(other.top - top) < height)) continue;
    shown.set(node.id, right - left);
    rows.set(row, [...(rows.get(row) ?? []), { left, right, top }]);
  }
  return shown;
}
