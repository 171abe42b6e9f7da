import { indexOf, outputKind, type FilaxisDocument, type PortKind } from '@filaxis/core';
import type { End } from '../document/edits';
import { inputPlace, outputPlace, wireCurve, type Place } from './tag-geometry';
import type { Viewport } from './viewport';

/** A wire that is being drawn out: its course in pixels of the pane, and its kind. */
export interface DrawnWire {
  readonly course: string;
  readonly kind: PortKind;
}

/**
 * The wire from an output to the hand, or to an input that would take it. It is drawn as a shape of its own, not on the canvas of the others: where software draws, a canvas
 * of the pane's size takes 70 ms to come to the screen.
 */
export function drawnWire(document: FilaxisDocument, viewport: Viewport, end: End, hand: Place, to: End | null): DrawnWire | null {
  const nodes = indexOf(document).nodes;
  const from = nodes.get(end[0]);
  if (!from) return null;
  const target = to && nodes.get(to[0]);
  const curve = wireCurve(outputPlace(document, from, end[1]), target ? inputPlace(document, target, to[1]) : hand);
  const [a, b, c, d] = curve.map((place) => viewport.toScreen(place)).map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`);
  return { course: `M${a}C${b} ${c} ${d}`, kind: outputKind(document, ...end) };
}
