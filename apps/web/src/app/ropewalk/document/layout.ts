import { bestPorts, definitionById, definitionOf, indexOf, settingsOf, type FilaxisDocument, type GraphNode, type Wire } from '@filaxis/core';
import { freshId, moveNodes, sameWire } from './edits';

/** Where things stand in the graph: areas, notes, alignment, nodes put on wires. Functions from one document to the next. */

/** A titled area round nodes that belong together. */
export interface Area {
  readonly id: string;
  readonly title: string;
  readonly at: readonly [number, number];
  readonly size: readonly [number, number];
}

/** A slip of paper in the graph. */
export interface Note {
  readonly id: string;
  readonly text: string;
  readonly at: readonly [number, number];
}

const isPair = (value: unknown): value is [number, number] => Array.isArray(value) && value.length === 2 && value.every((n) => Number.isFinite(n));

/** The areas of a document; those of another form are left alone. */
export const areasOf = (document: FilaxisDocument): Area[] =>
  (document.areas ?? []).filter((area): area is Record<string, unknown> & Area => typeof area['id'] === 'string' && typeof area['title'] === 'string' && isPair(area['at']) && isPair(area['size'])); // prettier-ignore
export const notesOf = (document: FilaxisDocument): Note[] =>
  (document.notes ?? []).filter((note): note is Record<string, unknown> & Note => typeof note['id'] === 'string' && typeof note['text'] === 'string' && isPair(note['at'])); // prettier-ignore

const margin = { side: 18, top: 34, bottom: 18 };
const tag = { width: 152, height: 56 };
const placeOf = (node: GraphNode): readonly [number, number] => node.at ?? [0, 0];

/** An area round the nodes. */
export function addArea(document: FilaxisDocument, ids: ReadonlySet<string>, title = 'Area'): FilaxisDocument {
  const places = document.nodes.filter(({ id }) => ids.has(id)).map(placeOf);
  if (!places.length) return document;
  const [x, y] = [Math.min(...places.map((at) => at[0])), Math.min(...places.map((at) => at[1]))];
  const [right, bottom] = [Math.max(...places.map((at) => at[0])) + tag.width, Math.max(...places.map((at) => at[1])) + tag.height];
  const area: Area = {
    id: freshId('area', (document.areas ?? []).map((each) => String(each['id']))), // prettier-ignore
    title,
    at: [x - margin.side, y - margin.top],
    size: [right - x + 2 * margin.side, bottom - y + margin.top + margin.bottom],
  };
  return { ...document, areas: [...(document.areas ?? []), { ...area }] };
}

export const changeArea = (document: FilaxisDocument, id: string, change: Partial<Area>): FilaxisDocument => ({
  ...document,
  areas: (document.areas ?? []).map((area) => (area['id'] === id ? { ...area, ...change } : area)),
});

/** Takes an area away; its nodes stay. */
export const removeArea = (document: FilaxisDocument, id: string): FilaxisDocument => ({
  ...document,
  areas: (document.areas ?? []).filter((area) => area['id'] !== id),
});

/** Moves an area with the nodes and notes whose middles lie in it. */
export function moveArea(document: FilaxisDocument, id: string, dx: number, dy: number): FilaxisDocument {
  const area = areasOf(document).find((each) => each.id === id);
  if (!area) return document;
  const inside = (x: number, y: number): boolean => x > area.at[0] && y > area.at[1] && x < area.at[0] + area.size[0] && y < area.at[1] + area.size[1];
  const nodes = document.nodes.filter((node) => inside(placeOf(node)[0] + tag.width / 2, placeOf(node)[1] + tag.height / 2));
  const moved = moveNodes(document, new Map(nodes.map((node) => [node.id, [placeOf(node)[0] + dx, placeOf(node)[1] + dy]])));
  const notes = (document.notes ?? []).map((note) => {
    const at = note['at'];
    return isPair(at) && inside(at[0], at[1]) ? { ...note, at: [at[0] + dx, at[1] + dy] } : note;
  });
  return changeArea({ ...moved, notes }, id, { at: [area.at[0] + dx, area.at[1] + dy] });
}

export function addNote(document: FilaxisDocument, at: readonly [number, number]): { document: FilaxisDocument; id: string } {
  const id = freshId('note', (document.notes ?? []).map((each) => String(each['id']))); // prettier-ignore
  return { document: { ...document, notes: [...(document.notes ?? []), { id, text: '', at }] }, id };
}

export const changeNote = (document: FilaxisDocument, id: string, change: Partial<Note>): FilaxisDocument => ({
  ...document,
  notes: (document.notes ?? []).map((note) => (note['id'] === id ? { ...note, ...change } : note)),
});

export const removeNote = (document: FilaxisDocument, id: string): FilaxisDocument => ({
  ...document,
  notes: (document.notes ?? []).filter((note) => note['id'] !== id),
});

export type Alignment = 'column' | 'row' | 'evenAcross' | 'evenDown';

/** Chosen nodes in one column or row (that of the first of them), or with even gaps between the outermost. */
export function align(document: FilaxisDocument, ids: ReadonlySet<string>, how: Alignment): FilaxisDocument {
  const nodes = document.nodes.filter(({ id }) => ids.has(id));
  if (nodes.length < 2) return document;
  const axis = how === 'column' || how === 'evenAcross' ? 0 : 1;
  const sorted = [...nodes].sort((a, b) => placeOf(a)[axis] - placeOf(b)[axis]);
  const [first, last] = [placeOf(sorted[0])[axis], placeOf(sorted[sorted.length - 1])[axis]];
  const even = how === 'evenAcross' || how === 'evenDown';
  const places = sorted.map((node, k): [string, [number, number]] => {
    const value = Math.round(even ? first + ((last - first) * k) / (sorted.length - 1) : first);
    return [node.id, axis === 0 ? [value, placeOf(node)[1]] : [placeOf(node)[0], value]];
  });
  return moveNodes(document, new Map(places));
}

/** Puts a node on a wire: what came along it goes through the node. Null: it does not fit there. */
export function insertOnWire(document: FilaxisDocument, id: string, wire: Wire): FilaxisDocument | null {
  if (wire.from[0] === id || wire.to[0] === id) return null;
  const ports = bestPorts(document, wire, id);
  if (!ports || !definitionById(document, id)) return null;
  const wires = document.wires.flatMap((other): Wire[] => (sameWire(other, wire) ? [{ from: wire.from, to: [id, ports.input] }, { from: [id, ports.output], to: wire.to }] : [other])); // prettier-ignore
  return { ...document, wires };
}

/** The node that a value of an attribute comes from: the nearest before `node` that writes it; null when it is the elements' own. */
export function writerOf(document: FilaxisDocument, node: string, attribute: string): string | null {
  const { nodes, wiresTo } = indexOf(document);
  const seen = new Set([node]);
  for (const id of seen) {
    const source = nodes.get(id)!;
    const use = definitionOf(document, source)?.attributes;
    if (id !== node && (use?.writes.includes(attribute) || use?.named?.(settingsOf(document, source)).includes(attribute))) return id;
    for (const { from } of wiresTo.get(id) ?? []) if (nodes.has(from[0])) seen.add(from[0]);
  }
  return null;
}
