import { definitionById, inputPort, labelById, type FilaxisDocument, type GraphNode, type InputPort, type Wire } from '@filaxis/core';
import { bestInput, disconnect, fittingInputs, wireRefusal, type End } from '../document/edits';
import { inputPlace, placeOf, tagHeight, widthOf, type Place } from './tag-geometry';

/** What a wire under the hand is held over. */
export interface Aim {
  readonly node: string;
  /** The input that takes the wire when it is let go. Null: none does, or several settings might and are asked about. */
  readonly to: End | null;
  /** The input whose eyelet is under the hand, whether it takes the wire or not. */
  readonly port: string | null;
  readonly refused: boolean;
  /** What would happen, in words. */
  readonly says: string;
}

/** How near to an eyelet, in pixels on screen, it is meant. */
const reach = 11;

/** The topmost node at a place, with a rim for hands that fall a little short of its eyelets. */
export function nodeAt(document: FilaxisDocument, { x, y }: Place): GraphNode | null {
  const over = (node: GraphNode): boolean => {
    const at = placeOf(node);
    return x > at.x - 14 && x < at.x + widthOf(node) && y > at.y - 6 && y < at.y + tagHeight + 6;
  };
  return document.nodes.findLast(over) ?? null;
}

/** The input of a node whose eyelet is under a place. */
export function eyeletAt(document: FilaxisDocument, node: GraphNode, at: Place, zoom: number): string | null {
  let [best, least] = [null as string | null, reach / Math.min(1, zoom)];
  for (const { name } of definitionById(document, node.id)?.inputs ?? []) {
    const { x, y } = inputPlace(document, node, name);
    const distance = Math.hypot(x - at.x, y - at.y);
    if (distance < least) [best, least] = [name, distance];
  }
  return best;
}

/** What a port is called on screen: one for anything has no name to tell. */
export const portName = (name: string, side: 'input' | 'output'): string => (name === 'any' ? side : name);

/** A port in words: its name, what it takes, and whether it takes many. */
export function portText({ name, kinds, many, optional }: InputPort): string {
  const takes = kinds.includes('any') ? 'anything' : kinds.join(' or ');
  const called = portName(name, 'input');
  return [takes === called ? called : `${called}: ${takes}`, many && 'takes many', optional && 'may be left open'].filter(Boolean).join(', ');
}

/** What a wire from `end` is held over at a place; `pulled` is the wire that was taken off an input for it. The port under the hand wins over every guess. */
export function aimOf(before: FilaxisDocument, end: End, at: Place, zoom: number, pulled: Wire | null): Aim | null {
  const document = pulled ? disconnect(before, pulled) : before;
  const node = nodeAt(document, at);
  if (!node || node.id === end[0]) return null;
  const port = eyeletAt(document, node, at, zoom);
  const [label, definition] = [labelById(document, node.id), definitionById(document, node.id)];
  if (port !== null) {
    const refusal = wireRefusal(document, end, [node.id, port]);
    if (refusal) return { node: node.id, to: null, port, refused: true, says: refusal };
    return {
      node: node.id,
      to: [node.id, port],
      port,
      refused: false,
      says: `${label} · ${portText(inputPort(definition!, port)!)}${instead(document, node.id, port)}`,
    };
  }
  const to = bestInput(document, end, node.id);
  if (!to) return { node: node.id, to, port, refused: true, says: whyNone(document, end, node) };
  if (definition?.settings[to[1]]) {
    // Of several settings that take a number none is a guess worth making: it is asked.
    const open = fittingInputs(document, end, node.id);
    if (open.length > 1) return { node: node.id, to: null, port, refused: false, says: `${label}: one of ${open.length} settings` };
    return { node: node.id, to, port, refused: false, says: `${label} · ${definition.settings[to[1]].label.toLowerCase()}` };
  }
  return { node: node.id, to, port, refused: false, says: `${label} · ${portText(inputPort(definition!, to[1])!)}${instead(document, node.id, to[1])}` };
}

/** Which wire a new one would take the place of. */
function instead(document: FilaxisDocument, node: string, port: string): string {
  if (inputPort(definitionById(document, node)!, port)?.many) return '';
  const old = document.wires.find(({ to }) => to[0] === node && to[1] === port);
  return old ? `, instead of ${labelById(document, old.from[0])}` : '';
}

/** Why a node takes a wire at no input. */
function whyNone(document: FilaxisDocument, end: End, { id }: GraphNode): string {
  const [first] = definitionById(document, id)?.inputs ?? [];
  return (first && wireRefusal(document, end, [id, first.name])) ?? `${labelById(document, id)} takes no wires of that kind.`;
}
