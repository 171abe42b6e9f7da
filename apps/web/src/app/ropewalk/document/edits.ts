import {
  fits,
  inputPort,
  outputKind,
  wouldCycle,
  type FilaxisDocument,
  type GraphNode,
  type Wire,
  definitionById,
  definitionOf,
  outputsOf,
  settingsOf,
} from '@filaxis/core';

/** Changes to documents, as functions from one document to the next. Nothing here knows the screen. */

/** An id that no node (or dial) has yet: the base, or the base with a number. */
export function freshId(base: string, taken: Iterable<string>): string {
  const used = new Set(taken);
  if (!used.has(base)) return base;
  for (let n = 2; ; n++) if (!used.has(`${base}${n}`)) return `${base}${n}`;
}

export const nodeIds = (document: FilaxisDocument): string[] => document.nodes.map((node) => node.id);

export const sameWire = (a: Wire, b: Wire): boolean => a.from[0] === b.from[0] && a.from[1] === b.from[1] && a.to[0] === b.to[0] && a.to[1] === b.to[1];

export function addNode(
  document: FilaxisDocument,
  type: string,
  at: readonly [number, number],
  settings: Readonly<Record<string, unknown>> = {},
): { document: FilaxisDocument; id: string } {
  const base = type.split('.')[1].replace(/[^A-Za-z]/g, '');
  const id = freshId(base, nodeIds(document));
  let own = settings;
  if (definitionOf(document, { type })?.role === 'output') {
    const names = outputsOf(document).map((node) => String(settingsOf(document, node)['name']));
    if (names.includes('main')) own = { name: freshId('result', names), ...settings };
  }
  return { document: { ...document, nodes: [...document.nodes, { id, type, at, settings: own }] }, id };
}

export function removeNodes(document: FilaxisDocument, ids: ReadonlySet<string>): FilaxisDocument {
  return {
    ...document,
    nodes: document.nodes.filter((node) => !ids.has(node.id)),
    wires: document.wires.filter((wire) => !ids.has(wire.from[0]) && !ids.has(wire.to[0])),
  };
}

/** True when two documents make the same: they differ in places, areas, notes or titles at most. */
export function sameMeaning(a: FilaxisDocument, b: FilaxisDocument): boolean {
  if (a === b) return true;
  if (a.wires !== b.wires || a.dials !== b.dials || a.assets !== b.assets || a.nodes.length !== b.nodes.length) return false;
  return a.nodes.every(
    (node, i) => node === b.nodes[i] || (node.id === b.nodes[i].id && node.type === b.nodes[i].type && node.settings === b.nodes[i].settings),
  );
}

export function moveNodes(document: FilaxisDocument, places: ReadonlyMap<string, readonly [number, number]>): FilaxisDocument {
  return { ...document, nodes: document.nodes.map((node) => (places.has(node.id) ? { ...node, at: places.get(node.id)! } : node)) };
}

/** Puts one setting, or takes it back to its default with `undefined`. */
export function setSetting(document: FilaxisDocument, id: string, key: string, value: unknown): FilaxisDocument {
  const change = (node: GraphNode): GraphNode => {
    const settings = { ...node.settings };
    if (value === undefined) delete settings[key];
    else settings[key] = value;
    return { ...node, settings };
  };
  return { ...document, nodes: document.nodes.map((node) => (node.id === id ? change(node) : node)) };
}

/** Why a wire cannot be laid, in words, or null. */
export function wireRefusal(document: FilaxisDocument, from: readonly [string, string], to: readonly [string, string]): string | null {
  const definition = definitionById(document, to[0]);
  const port = definition && inputPort(definition, to[1]);
  if (!definition || !port) return 'There is no such input.';
  if (from[0] === to[0]) return 'A node cannot be wired to itself.';
  const kind = outputKind(document, from[0], from[1]);
  if (!fits(kind, port)) return `${definition.label} takes ${port.kinds.join(' or ')} there, not ${kind}.`;
  if (wouldCycle(document, from[0], to[0])) return 'That would make the wires go round in a circle.';
  return document.wires.some((wire) => sameWire(wire, { from, to })) ? 'They are wired already.' : null;
}

/** Lays a wire; an input that takes one wire lets go of the one it had. */
export function connect(document: FilaxisDocument, from: readonly [string, string], to: readonly [string, string]): FilaxisDocument {
  const many = inputPort(definitionById(document, to[0])!, to[1])?.many;
  const kept = many ? document.wires : document.wires.filter((wire) => wire.to[0] !== to[0] || wire.to[1] !== to[1]);
  return { ...document, wires: [...kept, { from, to }] };
}

export function disconnect(document: FilaxisDocument, wire: Wire): FilaxisDocument {
  return { ...document, wires: document.wires.filter((other) => !sameWire(other, wire)) };
}

/** Moves a wire of a multi-port before or after its neighbour. */
export function reorderWire(document: FilaxisDocument, wire: Wire, by: -1 | 1): FilaxisDocument {
  const wires = [...document.wires];
  const same = wires.map((other, i) => ({ other, i })).filter(({ other }) => other.to[0] === wire.to[0] && other.to[1] === wire.to[1]);
  const place = same.findIndex(({ other }) => sameWire(other, wire));
  const other = same[place + by];
  if (place < 0 || !other) return document;
  [wires[same[place].i], wires[other.i]] = [wires[other.i], wires[same[place].i]];
  return { ...document, wires };
}

/** The input of a node that a new wire of `from` would go to: the first that fits and is free, else the first that fits. */
export function bestInput(document: FilaxisDocument, from: readonly [string, string], node: string): readonly [string, string] | null {
  const definition = definitionById(document, node);
  const fitting = (definition?.inputs ?? []).filter((port) => !wireRefusal(document, from, [node, port.name]));
  const free = fitting.find((port) => port.many || !document.wires.some(({ to }) => to[0] === node && to[1] === port.name));
  const port = free ?? fitting[0];
  if (port) return [node, port.name];
  // Numbers and vectors go into settings: the first that no wire feeds yet.
  const setting = Object.keys(definition?.settings ?? {}).find(
    (name) => !wireRefusal(document, from, [node, name]) && !document.wires.some(({ to }) => to[0] === node && to[1] === name),
  );
  return setting === undefined ? null : [node, setting];
}
