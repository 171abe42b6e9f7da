import {
  fits,
  inputPort,
  nodeDefinitions,
  outputKind,
  wouldCycle,
  type AssetInfo,
  type Dial,
  type DialValue,
  type FilaxisDocument,
  type GraphNode,
  type Wire,
} from '@filaxis/core';

/** Changes to documents, as functions from one document to the next. Nothing here knows the screen. */

/** An id that no node (or dial) has yet: the base, or the base with a number. */
export function freshId(base: string, taken: Iterable<string>): string {
  const used = new Set(taken);
  if (!used.has(base)) return base;
  for (let n = 2; ; n++) if (!used.has(`${base}${n}`)) return `${base}${n}`;
}

const nodeIds = (document: FilaxisDocument): string[] => document.nodes.map((node) => node.id);

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
  if (type === 'flow.output') {
    const names = document.nodes.filter((node) => node.type === type).map((node) => String(node.settings?.['name'] ?? 'main'));
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
  const target = document.nodes.find((node) => node.id === to[0]);
  const definition = target && nodeDefinitions.get(target.type);
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
  const target = document.nodes.find((node) => node.id === to[0])!;
  const many = inputPort(nodeDefinitions.get(target.type)!, to[1])?.many;
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
  const definition = nodeDefinitions.get(document.nodes.find(({ id }) => id === node)?.type ?? '');
  const fitting = (definition?.inputs ?? []).filter((port) => !wireRefusal(document, from, [node, port.name]));
  const free = fitting.find((port) => port.many || !document.wires.some(({ to }) => to[0] === node && to[1] === port.name));
  const port = free ?? fitting[0];
  return port ? [node, port.name] : null;
}

export function setDialValue(document: FilaxisDocument, id: string, value: DialValue): FilaxisDocument {
  return { ...document, dials: (document.dials ?? []).map((dial) => (dial.id === id ? { ...dial, value } : dial)) };
}

export function changeDial(document: FilaxisDocument, id: string, change: Partial<Dial>): FilaxisDocument {
  return { ...document, dials: (document.dials ?? []).map((dial) => (dial.id === id ? { ...dial, ...change } : dial)) };
}

/** Takes a dial away; settings that used it keep its value. */
export function removeDial(document: FilaxisDocument, id: string): FilaxisDocument {
  const value = document.dials?.find((dial) => dial.id === id)?.value;
  const uses = (setting: unknown): boolean => typeof setting === 'object' && setting !== null && (setting as { dial?: unknown }).dial === id;
  return {
    ...document,
    dials: (document.dials ?? []).filter((dial) => dial.id !== id),
    nodes: document.nodes.map((node) =>
      Object.values(node.settings ?? {}).some(uses)
        ? { ...node, settings: Object.fromEntries(Object.entries(node.settings ?? {}).map(([key, setting]) => [key, uses(setting) ? value : setting])) }
        : node,
    ),
  };
}

/** Makes a dial of a setting's present value, and lets the setting follow it. Null when the setting has no kind of dial. */
export function dialFromSetting(document: FilaxisDocument, nodeId: string, key: string): { document: FilaxisDocument; id: string } | null {
  const node = document.nodes.find(({ id }) => id === nodeId);
  const definition = node && nodeDefinitions.get(node.type);
  const setting = definition?.settings[key];
  if (!node || !setting || setting.kind === 'data' || setting.kind === 'asset') return null;
  const given = node.settings?.[key] ?? setting.default;
  const value = (typeof given === 'object' && !Array.isArray(given) ? setting.default : given) as DialValue;
  const id = freshId(key, (document.dials ?? []).map((dial) => dial.id)); // prettier-ignore
  const dial: Dial = { id, label: `${definition.label} ${setting.label.toLowerCase()}`, kind: setting.kind, value, ...dialRange(setting, value) };
  const withDial = { ...document, dials: [...(document.dials ?? []), dial] };
  return { document: setSetting(withDial, nodeId, key, { dial: id }), id };
}

function dialRange(
  setting: { kind: string; min?: number; max?: number; above?: boolean; unit?: string; step?: number; choices?: object },
  value: DialValue,
): Partial<Dial> {
  if (setting.kind === 'choice') return { choices: Object.keys(setting.choices ?? {}) };
  if (setting.kind !== 'number' && setting.kind !== 'integer') return setting.unit ? { unit: setting.unit } : {};
  const size = Math.max(Math.abs(Number(value)), setting.kind === 'integer' ? 4 : 0.01);
  const step = setting.kind === 'integer' ? 1 : (setting.step ?? 0.01);
  const min = Math.max(setting.min ?? -Infinity, Number(value) < 0 ? -4 * size : 0);
  const max = Math.min(setting.max ?? Infinity, Number((4 * size).toPrecision(2)));
  return { min: setting.above && min === setting.min ? min + step : min, max, step, ...(setting.unit && { unit: setting.unit }) };
}

/** Where each dial is used: node and setting. */
export function dialUses(document: FilaxisDocument, id: string): { node: string; setting: string }[] {
  return document.nodes.flatMap((node) =>
    Object.entries(node.settings ?? {})
      .filter(([, value]) => typeof value === 'object' && value !== null && (value as { dial?: unknown }).dial === id)
      .map(([setting]) => ({ node: node.id, setting })),
  );
}

/** A piece of a document for the clipboard. */
export interface Cutting {
  readonly format: 'filaxis-cutting';
  readonly nodes: readonly GraphNode[];
  readonly wires: readonly Wire[];
  readonly dials: readonly Dial[];
  readonly assets: Readonly<Record<string, AssetInfo>>;
}

/** The chosen nodes with the wires between them and the dials they use. */
export function cut(document: FilaxisDocument, ids: ReadonlySet<string>): Cutting {
  const nodes = document.nodes.filter((node) => ids.has(node.id));
  const used = (dial: Dial): boolean => dialUses({ ...document, nodes }, dial.id).length > 0;
  return {
    format: 'filaxis-cutting',
    nodes,
    wires: document.wires.filter((wire) => ids.has(wire.from[0]) && ids.has(wire.to[0])),
    dials: (document.dials ?? []).filter(used),
    assets: document.assets ?? {},
  };
}

/** Puts a cutting in with fresh ids, moved by `by`. Dials that the document has already are shared. */
export function paste(document: FilaxisDocument, cutting: Cutting, by: readonly [number, number]): { document: FilaxisDocument; ids: string[] } {
  const renamed = new Map<string, string>();
  const taken = nodeIds(document);
  for (const node of cutting.nodes) {
    const id = freshId(node.id, taken);
    renamed.set(node.id, id);
    taken.push(id);
  }
  const outputs = new Set(document.nodes.filter(({ type }) => type === 'flow.output').map(({ settings }) => String(settings?.['name'] ?? 'main')));
  const nodes = cutting.nodes.map((node) => {
    const moved: GraphNode = { ...node, id: renamed.get(node.id)!, at: [(node.at?.[0] ?? 0) + by[0], (node.at?.[1] ?? 0) + by[1]] };
    if (node.type !== 'flow.output') return moved;
    const name = freshId(String(node.settings?.['name'] ?? 'main'), outputs);
    outputs.add(name);
    return { ...moved, settings: { ...node.settings, name } };
  });
  const wires = cutting.wires.map((wire): Wire => ({ from: [renamed.get(wire.from[0])!, wire.from[1]], to: [renamed.get(wire.to[0])!, wire.to[1]] }));
  const known = new Set((document.dials ?? []).map((dial) => dial.id));
  return {
    document: {
      ...document,
      nodes: [...document.nodes, ...nodes],
      wires: [...document.wires, ...wires],
      dials: [...(document.dials ?? []), ...cutting.dials.filter((dial) => !known.has(dial.id))],
      assets: { ...cutting.assets, ...document.assets },
    },
    ids: nodes.map((node) => node.id),
  };
}

/** Reads clipboard text as a cutting; null when it is none. */
export function readCutting(text: string): Cutting | null {
  try {
    const data = JSON.parse(text) as Partial<Cutting>;
    const whole = data.format === 'filaxis-cutting' && Array.isArray(data.nodes) && Array.isArray(data.wires);
    return whole ? { format: 'filaxis-cutting', nodes: data.nodes!, wires: data.wires!, dials: data.dials ?? [], assets: data.assets ?? {} } : null;
  } catch {
    return null;
  }
}
