import { type GraphNode, type Wire, definitionOf, nodeDefinitions, type FilaxisDocument } from '@filaxis/core';

/** Measures of tags and wires on the graph, in its own pixels (zoom 1). */
export const tagWidth = 152;
/** Widest that a tag gets for its name. */
const widestTag = 248;
export const tagHeight = 62;
/** Between a tag and the next to its right. */
export const tagGap = 52;
export const eyeletX = 13;

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** About how wide letters are in the semibold of names, 13.5 px; all others are as wide as most. */
const letterWidths: readonly (readonly [letters: RegExp, width: number])[] = [
  [/[iljI.,:;'|!]/, 4],
  [/[ftr()\[\]\- ]/, 5.2],
  [/[mwMW@%]/, 12.2],
  [/[A-Z]/, 9.2],
];
const mostLetters = 7.8;

/** About how wide a name is on a tag, px. */
export const nameWidth = (name: string): number =>
  Array.from(name).reduce((sum, letter) => sum + (letterWidths.find(([letters]) => letters.test(letter))?.[1] ?? mostLetters), 0);

/** Width of everything beside the name, px: eyelets, padding, family mark, warning icon. */
const besideName = 27 + 8 + 20 + 20;
const widths = new WeakMap<GraphNode, number>();

/** How wide a node's tag is: as its name needs. */
export function widthOf(node: GraphNode): number {
  const known = widths.get(node);
  if (known !== undefined) return known;
  const name = node.name ?? nodeDefinitions.get(node.type)?.label ?? node.type;
  const width = Math.min(widestTag, Math.max(tagWidth, Math.ceil(nameWidth(name) + besideName)));
  widths.set(node, width);
  return width;
}

export const placeOf = (node: GraphNode): Place => ({ x: node.at?.[0] ?? 0, y: node.at?.[1] ?? 0 });

/** Where an input's eyelet is: the first in the middle of the left side, several spread over it. */
export function inputPlace(document: FilaxisDocument, node: GraphNode, port: string): Place {
  const inputs = definitionOf(document, node)?.inputs ?? [];
  const index = inputs.findIndex((input) => input.name === port);
  const { x, y } = placeOf(node);
  // A setting has no eyelet: its thread ends at the lower edge.
  if (index < 0) return { x: x + 26, y: y + tagHeight };
  return { x: x + eyeletX, y: y + (tagHeight * (index + 1)) / (Math.max(1, inputs.length) + 1) };
}

export function outputPlace(document: FilaxisDocument, node: GraphNode, port: string): Place {
  const outputs = definitionOf(document, node)?.outputs ?? [];
  const index = Math.max(0, outputs.findIndex((output) => output.name === port)); // prettier-ignore
  const { x, y } = placeOf(node);
  return { x: x + widthOf(node), y: y + (tagHeight * (index + 1)) / (Math.max(1, outputs.length) + 1) };
}

/** Four control points. */
export type WireCurve = readonly [Place, Place, Place, Place];

/** A wire straight from place to place: level at both ends, hanging a little when it runs back. */
export function wireCurve(from: Place, to: Place): WireCurve {
  const reach = Math.max(26, Math.min(140, Math.abs(to.x - from.x) * 0.45 + Math.abs(to.y - from.y) * 0.1));
  return [from, { x: from.x + reach, y: from.y }, { x: to.x - reach, y: to.y }, to];
}

export function wirePoint([a, b, c, d]: WireCurve, t: number): Place {
  const s = 1 - t;
  const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return { x: w0 * a.x + w1 * b.x + w2 * c.x + w3 * d.x, y: w0 * a.y + w1 * b.y + w2 * c.y + w3 * d.y };
}

/** Distance of a place from a wire, in graph pixels. */
export function wireDistance(curve: WireCurve, place: Place): number {
  let least = Infinity;
  for (let i = 0; i <= 32; i++) {
    const { x, y } = wirePoint(curve, i / 32);
    least = Math.min(least, Math.hypot(x - place.x, y - place.y));
  }
  return least;
}

export const wireKey = (wire: Wire): string => `${wire.from.join('.')}>${wire.to.join('.')}`;

/** The box round nodes, or null. */
export function boxOf(nodes: readonly GraphNode[]): { x: number; y: number; width: number; height: number } | null {
  if (!nodes.length) return null;
  const places = nodes.map(placeOf);
  const x = Math.min(...places.map((place) => place.x));
  const y = Math.min(...places.map((place) => place.y));
  return {
    x,
    y,
    width: Math.max(...nodes.map((node) => placeOf(node).x + widthOf(node))) - x,
    height: Math.max(...places.map((place) => place.y)) + tagHeight - y,
  };
}

/** Room left between a tag that is brought into view and the border, which the buttons at the bottom fit into. */
const margin = 54;

/** How far a stretch from `start` must be moved to lie within 0…`whole`: not at all, just inside, or to the middle when it is far off. */
export function intoView(start: number, length: number, whole: number): number {
  const [low, high] = [margin - start, whole - margin - length - start];
  if (low <= 0 && high >= 0) return 0;
  const near = low > 0 ? low : high;
  return Math.abs(near) < whole ? near : whole / 2 - length / 2 - start;
}
