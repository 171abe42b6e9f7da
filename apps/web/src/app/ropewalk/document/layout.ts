import { indexOf, type FilaxisDocument, type GraphNode } from '@filaxis/core';
import { tagGap, tagHeight, widthOf } from '../graph/tag-geometry';
import { freshId, moveNodes } from './edits';

/** Where things stand in the graph: areas, notes, alignment, room. Functions from one document to the next. */

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
const placeOf = (node: GraphNode): readonly [number, number] => node.at ?? [0, 0];

/** An area round the nodes. */
export function addArea(document: FilaxisDocument, ids: ReadonlySet<string>, title = 'Area'): FilaxisDocument {
  const nodes = document.nodes.filter(({ id }) => ids.has(id));
  const places = nodes.map(placeOf);
  if (!places.length) return document;
  const [x, y] = [Math.min(...places.map((at) => at[0])), Math.min(...places.map((at) => at[1]))];
  const [right, bottom] = [Math.max(...nodes.map((node) => placeOf(node)[0] + widthOf(node))), Math.max(...places.map((at) => at[1])) + tagHeight];
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
  const nodes = document.nodes.filter((node) => inside(placeOf(node)[0] + widthOf(node) / 2, placeOf(node)[1] + tagHeight / 2));
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

/** Moves what stands after a node to the right until it has room there; the node itself goes to the right of what leads to it. */
export function makeRoom(document: FilaxisDocument, id: string): FilaxisDocument {
  const { nodes, wiresTo, wiresFrom } = indexOf(document);
  const node = nodes.get(id);
  if (!node) return document;
  const near = (other: GraphNode): boolean => Math.abs(placeOf(other)[1] - placeOf(node)[1]) < tagHeight + 12;
  const sources = (wiresTo.get(id) ?? []).flatMap(({ from }) => nodes.get(from[0]) ?? []).filter(near);
  const x = Math.max(placeOf(node)[0], ...sources.map((source) => placeOf(source)[0] + widthOf(source) + tagGap));
  const after = new Set([id]);
  for (const each of after) for (const { to } of wiresFrom.get(each) ?? []) after.add(to[0]);
  after.delete(id);
  const targets = (wiresFrom.get(id) ?? []).flatMap(({ to }) => nodes.get(to[0]) ?? []).filter(near);
  const by = Math.max(0, ...targets.map((target) => x + widthOf(node) + tagGap - placeOf(target)[0]));
  const moved = [...after]
    .flatMap((each) => nodes.get(each) ?? [])
    .map((other): [string, [number, number]] => [other.id, [placeOf(other)[0] + by, placeOf(other)[1]]]);
  return moveNodes(document, new Map([[id, [x, placeOf(node)[1]]], ...(by ? moved : [])]));
}
