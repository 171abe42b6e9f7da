import { definitionOf, givenName, labelOf, labelsOf, numberedName, outputsOf, settingsOf } from '@filaxis/core';
import type { AssetInfo, Dial, FilaxisDocument, GraphNode, Wire } from '@filaxis/core';
import { dialUses } from './dials';
import { connect, freshId, nodeIds, wireRefusal } from './edits';

/** A piece of a document for the clipboard. */
export interface Cutting {
  readonly format: 'filaxis-cutting';
  readonly nodes: readonly GraphNode[];
  readonly wires: readonly Wire[];
  /** Wires that come in from nodes outside: laid again where those nodes are. */
  readonly feeds: readonly Wire[];
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
    feeds: document.wires.filter((wire) => !ids.has(wire.from[0]) && ids.has(wire.to[0])),
    dials: (document.dials ?? []).filter(used),
    assets: document.assets ?? {},
  };
}

/** Puts a cutting in with fresh ids, moved by `by`, fed by the same nodes as before where those are. Dials that the document has already are shared. */
export function paste(document: FilaxisDocument, cutting: Cutting, by: readonly [number, number]): { document: FilaxisDocument; ids: string[] } {
  const renamed = new Map<string, string>();
  const taken = nodeIds(document);
  for (const node of cutting.nodes) {
    const id = freshId(node.id, taken);
    renamed.set(node.id, id);
    taken.push(id);
  }
  const outputs = new Set(outputsOf(document).map((node) => String(settingsOf(document, node)['name'])));
  const labels = labelsOf(document);
  const nodes = cutting.nodes.map(putIn);

  /** The node as pasted: one that nobody named gets its own number. */
  function putIn(node: GraphNode): GraphNode {
    const name = givenName(document, node) ?? numberedName(document, node.type, labels);
    labels.add(labelOf(document, { type: node.type, name }));
    const [x, y] = node.at ?? [0, 0];
    const settings = definitionOf(document, node)?.role === 'output' ? { ...node.settings, name: resultName(node) } : node.settings;
    return { id: renamed.get(node.id)!, type: node.type, ...(name !== undefined && { name }), at: [x + by[0], y + by[1]], ...(settings && { settings }) };
  }

  /** A result's name that no other has. */
  function resultName({ settings }: GraphNode): string {
    const name = freshId(String(settings?.['name'] ?? 'main'), outputs);
    outputs.add(name);
    return name;
  }
  const wires = cutting.wires.map((wire): Wire => ({ from: [renamed.get(wire.from[0])!, wire.from[1]], to: [renamed.get(wire.to[0])!, wire.to[1]] }));
  const known = new Set((document.dials ?? []).map((dial) => dial.id));
  const put: FilaxisDocument = {
    ...document,
    nodes: [...document.nodes, ...nodes],
    wires: [...document.wires, ...wires],
    dials: [...(document.dials ?? []), ...cutting.dials.filter((dial) => !known.has(dial.id))],
    assets: { ...cutting.assets, ...document.assets },
  };
  const fed = cutting.feeds.map(({ from, to }): Wire => ({ from, to: [renamed.get(to[0])!, to[1]] }));
  const laid = fed.reduce<FilaxisDocument>((now, { from, to }) => (wireRefusal(now, from, to) ? now : connect(now, from, to)), put);
  return { document: laid, ids: nodes.map((node) => node.id) };
}

/** Reads clipboard text as a cutting; null when it is none. */
export function readCutting(text: string): Cutting | null {
  try {
    const data = JSON.parse(text) as Partial<Cutting>;
    const whole = data.format === 'filaxis-cutting' && Array.isArray(data.nodes) && Array.isArray(data.wires);
    return whole
      ? { format: 'filaxis-cutting', nodes: data.nodes, wires: data.wires, feeds: data.feeds ?? [], dials: data.dials ?? [], assets: data.assets ?? {} }
      : null;
  } catch {
    return null;
  }
}
