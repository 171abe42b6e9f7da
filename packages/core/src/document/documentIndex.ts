import { distinctNames } from '../base/names.js';
import type { NodeDefinition } from '../definition/define.js';
import { nodeDefinitions } from '../nodes/catalogue.js';
import type { FilaxisDocument } from './document.js';
import type { GraphNode, Wire } from '../definition/graph.js';

/** What is looked up of a document again and again, found once for each. */
export interface DocumentIndex {
  /** Nodes by id; of two of one id the first. */
  readonly nodes: ReadonlyMap<string, GraphNode>;
  /** Wires by the node that they go to and come from, in their order. */
  readonly wiresTo: ReadonlyMap<string, readonly Wire[]>;
  readonly wiresFrom: ReadonlyMap<string, readonly Wire[]>;
  /** Definitions of all nodes whose kind is known, by id. */
  readonly definitions: ReadonlyMap<string, NodeDefinition>;
}
const indexes = new WeakMap<FilaxisDocument, DocumentIndex>();

/** The index of a document. Documents are never changed in place, so it is found once for each. */
export function indexOf(document: FilaxisDocument): DocumentIndex {
  const known = indexes.get(document);
  if (known) return known;
  const nodes = new Map<string, GraphNode>();
  const definitions = new Map<string, NodeDefinition>();
  for (const node of document.nodes) {
    if (nodes.has(node.id)) continue;
    nodes.set(node.id, node);
    const definition = definitionOf(document, node);
    if (definition) definitions.set(node.id, definition);
  }
  const made = { nodes, definitions, wiresTo: byEnd(document.wires, 'to'), wiresFrom: byEnd(document.wires, 'from') };
  indexes.set(document, made);
  return made;
}

function byEnd(wires: readonly Wire[], end: 'from' | 'to'): Map<string, Wire[]> {
  const lists = new Map<string, Wire[]>();
  for (const wire of wires) {
    const list = lists.get(wire[end][0]);
    if (list) list.push(wire);
    else lists.set(wire[end][0], [wire]);
  }
  return lists;
}

/**
 * What a node of a document is: all that knows a node asks here, so that a document can bring definitions of its own. Undefined: there is no such kind of node.
 */
export function definitionOf(_document: FilaxisDocument, node: Pick<GraphNode, 'type'>): NodeDefinition | undefined {
  return nodeDefinitions.get(node.type);
}

/** What a node's kind is called; the kind itself where there is no such. */
export const kindLabelOf = (document: FilaxisDocument, node: Pick<GraphNode, 'type'>): string => definitionOf(document, node)?.label ?? node.type;

/** What the artist calls a node: by its name, else by the label of its kind. */
export const labelOf = (document: FilaxisDocument, node: Pick<GraphNode, 'type' | 'name'>): string => node.name ?? kindLabelOf(document, node);

/** A name that is the kind with a number, "Tube 2": nobody gave it. */
export const isNumbered = (name: string, kind: string): boolean => name.startsWith(`${kind} `) && /^[1-9][0-9]*$/.test(name.slice(kind.length + 1));

/** The name that an artist gave a node; undefined where it goes by its kind, with a number or without. */
export const givenName = (document: FilaxisDocument, { type, name }: Pick<GraphNode, 'type' | 'name'>): string | undefined =>
  name === undefined || isNumbered(name, kindLabelOf(document, { type })) ? undefined : name;

/** What the nodes of a document are called. */
export const labelsOf = (document: FilaxisDocument): Set<string> => new Set(document.nodes.map((node) => labelOf(document, node)));

/**
 * The name of one more node beside those labelled so: none while its kind is free, else the kind with the first free number. Outputs have none, since their results have names.
 */
export function numberedName(document: FilaxisDocument, type: string, labels: ReadonlySet<string> = labelsOf(document)): string | undefined {
  const kind = kindLabelOf(document, { type });
  if (!labels.has(kind) || definitionOf(document, { type })?.role === 'output') return undefined;
  return distinctNames([kind], ' ', labels)[0];
}

/** `labelOf` the node with this id; the id where there is no such node. */
export function labelById(document: FilaxisDocument, id: string): string {
  const node = indexOf(document).nodes.get(id);
  return node ? labelOf(document, node) : id;
}

/** The nodes that are results of a document. */
export const outputsOf = (document: FilaxisDocument): GraphNode[] => document.nodes.filter((node) => definitionOf(document, node)?.role === 'output');

/** Settings of a node as they stand in its document, defaults put in where it has none. */
export function settingsOf(document: FilaxisDocument, node: GraphNode): Readonly<Record<string, unknown>> {
  const settings = definitionOf(document, node)?.settings ?? {};
  return { ...Object.fromEntries(Object.entries(settings).map(([name, setting]) => [name, setting.default])), ...node.settings };
}

/** The definition of the node with this id; undefined where there is no such node or kind. */
export const definitionById = (document: FilaxisDocument, id: string): NodeDefinition | undefined => indexOf(document).definitions.get(id);
