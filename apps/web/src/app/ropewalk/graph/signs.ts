import type { GraphNode } from '@filaxis/core';
import { nameWidth, placeOf, tagHeight, widthOf } from './tag-geometry';

/** The zoom below which the least letters of a tag, 12 px, would be smaller than 10 px on screen: from there on nodes are signs with their names alone. */
export const tagZoom = 0.84;
/** Least width of a tag that holds its sign, and greatest of a sign, in pixels on screen, and its height. */
const [least, greatest, height] = [44, 150, 17];
/** How wide letters of signs are, to those of tags; and what the mark of the family takes, px. */
const [letters, markRoom] = [11 / 13.5, 14];
/** Width below which a sign says nothing. */
const shortest = 22;

/** About how wide a name is as a sign, in pixels on screen; more where it stands in its tag, beside the ports. */
const neededBy = (name: string, own: boolean): number => Math.min(greatest, nameWidth(name) * letters + (own ? 16 : 10));

/** How a sign is shown: its width in pixels on screen, whether it is a slip of its own over a tag that is too small for it, and whether the family's mark has room in it. */
export interface Sign {
  readonly width: number;
  readonly free: boolean;
  readonly marked: boolean;
}

/**
 * The signs that are shown at a zoom, by the nodes' ids. A sign is as wide as its tag where the name fits there; else it is as wide as its name, or as there is room up to the
 * next tag, and of two that would overlap the first stays. `first`: nodes whose signs go before others.
 */
export function signsAt(nodes: readonly GraphNode[], zoom: number, nameOf: (node: GraphNode) => string, first: ReadonlySet<string>): ReadonlyMap<string, Sign> {
  const rows = rowsOf(nodes, zoom);
  const shown = new Map<string, Sign>();
  const placed = new Map<number, { left: number; right: number; top: number }[]>();
  for (const node of [...nodes].sort((a, b) => Number(first.has(b.id)) - Number(first.has(a.id)))) {
    const own = widthOf(node) * zoom;
    const [inside, outside] = [neededBy(nameOf(node), true), neededBy(nameOf(node), false)];
    const within = { width: own, free: false, marked: inside + markRoom <= own };
    if (inside <= own) {
      shown.set(node.id, within);
      continue;
    }
    const { x, y } = placeOf(node);
    const [left, top] = [x * zoom, (y + tagHeight / 2) * zoom - height / 2];
    const row = Math.floor(top / height);
    const about = [row - 1, row, row + 1];
    const next = Math.min(Infinity, ...about.flatMap((each) => rows.get(each) ?? []).filter((tag) => tag.left > left && Math.abs(tag.top - top) < height).map((tag) => tag.left)); // prettier-ignore
    const width = Math.min(outside, first.has(node.id) ? Infinity : next - left - 3);
    const right = left + width;
    const taken = about
      .flatMap((each) => placed.get(each) ?? [])
      .some((other) => other.left < right && other.right > left && Math.abs(other.top - top) < height);
    if (width < shortest || taken || (width < own && own >= least)) {
      if (own >= least) shown.set(node.id, within);
      continue;
    }
    shown.set(node.id, { width, free: true, marked: false });
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
