import type { GraphNode } from '@filaxis/core';
import { placeOf, tagHeight, tagWidth } from './tag-geometry';

/** The zoom below which the least letters of a tag, 12 px, would be smaller than 10 px on screen: from there on nodes are signs with their names alone. */
export const tagZoom = 0.84;
/** Least and greatest width of a sign in pixels on screen, and its height. */
const [least, greatest, height] = [44, 120, 17];
/** Width below which a sign says nothing. */
const shortest = 22;

/** About how wide a name is as a sign, in pixels on screen. */
const widthOf = (name: string): number => Math.min(greatest, name.length * 6.2 + 12);

/** How a sign is shown: its width in pixels on screen, and whether it is a slip of its own over a tag that is too small for it. */
export interface Sign {
  readonly width: number;
  readonly free: boolean;
}

/**
 * The signs that are shown at a zoom, by the nodes' ids. A sign has the width of its tag while that is enough to read; where tags are smaller, it is as wide as its
 * name, or as there is room up to the next tag, and of two that would overlap the first stays. `first`: nodes whose signs go before others.
 */
export function signsAt(nodes: readonly GraphNode[], zoom: number, nameOf: (node: GraphNode) => string, first: ReadonlySet<string>): ReadonlyMap<string, Sign> {
  const own = tagWidth * zoom;
  if (own >= least) return new Map(nodes.map(({ id }) => [id, { width: own, free: false }]));
  const rows = rowsOf(nodes, zoom);
  const shown = new Map<string, Sign>();
  const placed = new Map<number, { left: number; right: number; top: number }[]>();
  for (const node of [...nodes].sort((a, b) => Number(first.has(b.id)) - Number(first.has(a.id)))) {
    const { x, y } = placeOf(node);
    const [left, top] = [x * zoom, (y + tagHeight / 2) * zoom - height / 2];
    const row = Math.floor(top / height);
    const about = [row - 1, row, row + 1];
    const next = Math.min(Infinity, ...about.flatMap((each) => rows.get(each) ?? []).filter((tag) => tag.left > left && Math.abs(tag.top - top) < height).map((tag) => tag.left)); // prettier-ignore
    const width = Math.min(widthOf(nameOf(node)), first.has(node.id) ? Infinity : next - left - 3);
    if (width < shortest) continue;
    const right = left + width;
    if (about.flatMap((each) => placed.get(each) ?? []).some((other) => other.left < right && other.right > left && Math.abs(other.top - top) < height))
      continue;
    shown.set(node.id, { width, free: true });
    placed.set(row, [...(placed.get(row) ?? []), { left, right, top }]);
  }
  return shown;
}

/** Where tags begin on screen, by rows as high as a sign. */
function rowsOf(nodes: readonly GraphNode[], zoom: number): Map<number, { left: number; top: number }[]> {
  const rows = new Map<number, { left: number; top: number }[]>();
  for (const node of nodes) {
    const { x, y } = placeOf(node);
    const top = (y + tagHeight / 2) * zoom - height / 2;
    const row = Math.floor(top / height);
    rows.set(row, [...(rows.get(row) ?? []), { left: x * zoom, top }]);
  }
  return rows;
}
