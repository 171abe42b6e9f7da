import {
  bestPorts,
  fits,
  indexOf,
  inputPort,
  labelById,
  longestName,
  nearestFirst,
  outputKind,
  wouldCycle,
  type FilaxisDocument,
  type GraphNode,
  type NodeDefinition,
  type Wire,
  definitionById,
  definitionOf,
  numberedName,
  outputsOf,
  settingsOf,
} from '@filaxis/core';

/** Changes to documents, as functions from one document to the next. Nothing here knows the screen. */

/** A port of a node: its id and the port's name. */
export type End = readonly [string, string];

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
  // What is drawn by hand begins empty, so that nothing has to be taken away first.
  const drawn = Object.entries(definitionOf(document, { type })?.settings ?? {}).filter(([, setting]) => setting.kind === 'data' && setting.edit === 'curves');
  let own: Readonly<Record<string, unknown>> = { ...Object.fromEntries(drawn.map(([name]) => [name, []])), ...settings };
  if (definitionOf(document, { type })?.role === 'output') {
    const names = outputsOf(document).map((node) => String(settingsOf(document, node)['name']));
    if (names.includes('main')) own = { name: freshId('result', names), ...settings };
  }
  const name = numberedName(document, type);
  return { document: { ...document, nodes: [...document.nodes, { id, type, ...(name !== undefined && { name }), at, settings: own }] }, id };
}

/** Gives a node a name, or takes it away with an empty one. */
export function renameNode(document: FilaxisDocument, id: string, name: string): FilaxisDocument {
  const text = name.trim().slice(0, longestName);
  const renamed = (node: GraphNode): GraphNode => {
    const { name, ...bare } = node;
    return text ? { ...node, name: text } : name === undefined ? node : bare;
  };
  return { ...document, nodes: document.nodes.map((node) => (node.id === id && (node.name ?? '') !== text ? renamed(node) : node)) };
}

/** Removes nodes one after another; what came into one goes on to where it led, where that fits. */
export function removeJoining(document: FilaxisDocument, ids: ReadonlySet<string>): FilaxisDocument {
  let now = document;
  for (const id of ids) now = joinedPast(now, id);
  return now;
}

/** The document without a node, the first fitting of the wires that came into it led on to each place that it led to. */
function joinedPast(document: FilaxisDocument, id: string): FilaxisDocument {
  const inputs = definitionById(document, id)?.inputs ?? [];
  const into = inputs.flatMap(({ name }) => document.wires.filter(({ to }) => to[0] === id && to[1] === name));
  let now = removeNodes(document, new Set([id]));
  for (const { to } of document.wires.filter(({ from }) => from[0] === id)) {
    const fitting = into.filter(({ from }) => !wireRefusal(now, from, to));
    const many = inputPort(definitionById(now, to[0])!, to[1])?.many;
    // Where one wire is taken, the first; where many are, all that came into the same input.
    for (const source of many ? fitting.filter((wire) => wire.to[1] === fitting[0].to[1]) : fitting.slice(0, 1)) now = connect(now, source.from, to);
  }
  return now;
}

export function removeNodes(document: FilaxisDocument, ids: ReadonlySet<string>): FilaxisDocument {
  return {
    ...document,
    nodes: document.nodes.filter((node) => !ids.has(node.id)),
    wires: document.wires.filter((wire) => !ids.has(wire.from[0]) && !ids.has(wire.to[0])),
  };
}

/** True when two documents make the same: they differ in places, areas, notes or titles at most. Names are in what is told of a result. */
export function sameMeaning(a: FilaxisDocument, b: FilaxisDocument): boolean {
  if (a === b) return true;
  if (a.wires !== b.wires || a.dials !== b.dials || a.assets !== b.assets || a.nodes.length !== b.nodes.length) return false;
  return a.nodes.every(
    (node, i) =>
      node === b.nodes[i] ||
      (node.id === b.nodes[i].id && node.type === b.nodes[i].type && node.name === b.nodes[i].name && node.settings === b.nodes[i].settings),
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
export function wireRefusal(document: FilaxisDocument, from: End, to: End): string | null {
  const definition = definitionById(document, to[0]);
  const port = definition && inputPort(definition, to[1]);
  if (!definition || !port) return 'There is no such input.';
  if (!definitionById(document, from[0])?.outputs.some(({ name }) => name === from[1])) return 'There is no such output.';
  if (from[0] === to[0]) return 'A node cannot be wired to itself.';
  const kind = outputKind(document, from[0], from[1]);
  if (!fits(kind, port)) return `${labelById(document, to[0])} takes ${port.kinds.join(' or ')} there, not ${kind}.`;
  if (wouldCycle(document, from[0], to[0])) return 'That would make the wires go round in a circle.';
  return document.wires.some((wire) => sameWire(wire, { from, to })) ? 'They are wired already.' : null;
}

/** Lays a wire; an input that takes one wire lets go of the one it had. */
export function connect(document: FilaxisDocument, from: End, to: End): FilaxisDocument {
  const many = inputPort(definitionById(document, to[0])!, to[1])?.many;
  const kept = many ? document.wires : document.wires.filter((wire) => wire.to[0] !== to[0] || wire.to[1] !== to[1]);
  return { ...document, wires: [...kept, { from, to }] };
}

export function disconnect(document: FilaxisDocument, wire: Wire): FilaxisDocument {
  return { ...document, wires: document.wires.filter((other) => !sameWire(other, wire)) };
}

/** Moves a wire by some places among those that go to the same input. */
export function moveWire(document: FilaxisDocument, wire: Wire, by: number): FilaxisDocument {
  const places = document.wires.flatMap(({ to }, i) => (to[0] === wire.to[0] && to[1] === wire.to[1] ? [i] : []));
  const at = places.findIndex((i) => sameWire(document.wires[i], wire));
  if (at < 0 || !by || at + by < 0 || at + by >= places.length) return document;
  const ordered = places.map((i) => document.wires[i]);
  ordered.splice(at + by, 0, ...ordered.splice(at, 1));
  const wires = [...document.wires];
  places.forEach((place, i) => (wires[place] = ordered[i]));
  return { ...document, wires };
}

/** All inputs of a node, and settings, that could take a wire of `from` and have none. */
export function fittingInputs(document: FilaxisDocument, from: End, node: string): End[] {
  const definition = definitionById(document, node);
  const names = [...(definition?.inputs ?? []).map(({ name }) => name), ...Object.keys(definition?.settings ?? {})];
  return names.filter((name) => !wireRefusal(document, from, [node, name]) && !document.wires.some(({ to }) => to[0] === node && to[1] === name)).map((name) => [node, name]); // prettier-ignore
}

/** Wires outputs into a node, each to the best input that none of the others has taken. */
export function connectAll(document: FilaxisDocument, ends: readonly End[], node: string): FilaxisDocument {
  return ends.reduce((now, end) => {
    const input = bestInput(now, end, node);
    const taken = input && now.wires.some(({ to }) => to[0] === node && to[1] === input[1]);
    return input && (!taken || inputPort(definitionById(now, node)!, input[1])?.many) ? connect(now, end, input) : now;
  }, document);
}

/** The input of a node that a new wire of `from` would go to: the first that fits and is free, else the first that fits; what takes it as it is before what it is turned into. */
export function bestInput(document: FilaxisDocument, from: End, node: string): End | null {
  const definition = definitionById(document, node);
  const inputs = nearestFirst(outputKind(document, from[0], from[1]), definition?.inputs ?? []);
  const fitting = inputs.filter((port) => !wireRefusal(document, from, [node, port.name]));
  const free = fitting.find((port) => port.many || !document.wires.some(({ to }) => to[0] === node && to[1] === port.name));
  const port = free ?? fitting[0];
  if (port) return [node, port.name];
  // Numbers and vectors go into settings: the first that no wire feeds yet.
  const setting = Object.keys(definition?.settings ?? {}).find(
    (name) => !wireRefusal(document, from, [node, name]) && !document.wires.some(({ to }) => to[0] === node && to[1] === name),
  );
  return setting === undefined ? null : [node, setting];
}

/** Puts a node on a wire: what came along it goes through the node. Null: it does not fit there. */
export function insertOnWire(document: FilaxisDocument, id: string, wire: Wire): FilaxisDocument | null {
  if (wire.from[0] === id || wire.to[0] === id) return null;
  const ports = bestPorts(document, wire, id);
  if (!ports || !definitionById(document, id)) return null;
  const wires = document.wires.flatMap((other): Wire[] => (sameWire(other, wire) ? [{ from: wire.from, to: [id, ports.input] }, { from: [id, ports.output], to: wire.to }] : [other])); // prettier-ignore
  return { ...document, wires };
}

/** Has a skin whose thickness nobody has said be as thick as the nearest of what comes before it says. */
export function thickAsGiven(document: FilaxisDocument, id: string): FilaxisDocument {
  const definition = definitionById(document, id);
  const skin = definition?.thickness;
  if (!skin || Object.hasOwn(indexOf(document).nodes.get(id)!.settings ?? {}, skin.setting)) return document;
  const setting = definition.settings[skin.setting];
  if (!('varies' in setting && setting.varies)) return document;
  const before = nearestBefore(document, id, (_, { thick }) => thick !== undefined);
  const thick = before && definitionById(document, before)?.thick;
  return thick ? setSetting(document, id, skin.setting, { formula: skin.toRadius === 0.5 ? thick : `${0.5 / skin.toRadius} * ${thick}` }) : document;
}

/** The nearest node before another, by wires, that is of some kind; null when there is none. */
function nearestBefore(document: FilaxisDocument, node: string, wanted: (node: GraphNode, definition: NodeDefinition) => boolean): string | null {
  const { nodes, wiresTo } = indexOf(document);
  const seen = new Set([node]);
  for (const id of seen) {
    const [source, definition] = [nodes.get(id)!, definitionById(document, id)];
    if (id !== node && definition && wanted(source, definition)) return id;
    for (const { from } of wiresTo.get(id) ?? []) if (nodes.has(from[0])) seen.add(from[0]);
  }
  return null;
}

/** A new node behind the first output of another: all that this led to is led to by the new one. */
export function putBehind(
  document: FilaxisDocument,
  after: string,
  type: string,
  settings: Readonly<Record<string, unknown>> = {},
): { document: FilaxisDocument; id: string } {
  const [x, y] = document.nodes.find(({ id }) => id === after)?.at ?? [0, 0];
  const made = addNode(document, type, [x + 150, y + 60], settings);
  const output = definitionById(document, after)?.outputs[0].name ?? 'mesh';
  const { inputs, outputs } = definitionById(made.document, made.id)!;
  const wires = made.document.wires.map((wire) =>
    wire.from[0] === after && wire.from[1] === output ? { ...wire, from: [made.id, outputs[0].name] as const } : wire,
  );
  return { document: { ...made.document, wires: [...wires, { from: [after, output], to: [made.id, inputs[0].name] }] }, id: made.id };
}

/** A new node in what comes into a node's first input. Its further inputs are given what those of the same names at the node are given. */
export function putBefore(document: FilaxisDocument, node: string, type: string, settings: Readonly<Record<string, unknown>>): FilaxisDocument {
  const [x, y] = document.nodes.find(({ id }) => id === node)?.at ?? [0, 0];
  const made = addNode(document, type, [x - 150, y + 80], settings);
  const { inputs, outputs } = definitionById(made.document, made.id)!;
  const [first, ...others] = definitionById(document, node)!.inputs;
  const shared = others.filter(({ name }) => inputs.some((own) => own.name === name));
  const into = (port: string) => made.document.wires.filter(({ to }) => to[0] === node && to[1] === port);
  const led = into(first.name).map((wire) => ({ ...wire, to: [made.id, inputs[0].name] as const }));
  const given = shared.flatMap(({ name }) => into(name).map((wire) => ({ ...wire, to: [made.id, name] as const })));
  const kept = made.document.wires.filter(({ to }) => to[0] !== node || to[1] !== first.name);
  return { ...made.document, wires: [...kept, ...led, ...given, { from: [made.id, outputs[0].name], to: [node, first.name] }] };
}

/** The node that a value of an attribute comes from: the nearest before `node` that writes it; null when it is the elements' own. */
export function writerOf(document: FilaxisDocument, node: string, attribute: string): string | null {
  return nearestBefore(
    document,
    node,
    (source, { attributes }) => attributes.writes.includes(attribute) || !!attributes.named?.(settingsOf(document, source)).includes(attribute),
  );
}
