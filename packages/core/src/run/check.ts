import { nodeDefinitions } from '../nodes/index.js';
import { conversions } from './convert.js';
import type { InputPort, NodeDefinition, PortKind, WarningCode } from '../graph/define.js';
import { dialFault } from '../graph/dials.js';
import { faultyText } from '../graph/text.js';
import type { FilaxisDocument, GraphNode, Wire } from '../graph/document.js';
import type { ChoiceSetting } from '../graph/settings.js';
import { validate } from '../graph/generated/documentValidator.js';

/** Something wrong with a document: where (JSON Pointer), what, and which node shows it, if one does. */
export interface Problem {
  readonly pointer: string;
  readonly message: string;
  readonly node?: string;
  readonly setting?: string;
  /** What kind of fault it is, where one of the names of warnings says it. */
  readonly code?: WarningCode;
  /** Only follows from another problem, so it need not be told beside it. */
  readonly follows?: boolean;
}

/** A document that cannot be used, with all that is known to be wrong. */
export class DocumentError extends Error {
  override name = 'DocumentError';
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(({ pointer, message }) => (pointer ? `${pointer}: ${message}` : message)).join('\n'));
  }
}

const oldestVersion = 1;
const newestVersion = 1;

/**
 * Reads JSON text as a document.
 * @throws DocumentError when the text is no JSON (with the place), or does not fit the schema (with the JSON Pointer).
 */
export function parseDocument(text: string): FilaxisDocument {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new DocumentError([{ pointer: '', message: `This is not JSON: ${(error as Error).message}.` }]);
  }
  return requireDocument(data);
}

/**
 * Checks the form of a document; node settings and wires are checked by `checkDocument`.
 * @throws DocumentError naming the first place that does not fit.
 */
export function requireDocument(data: unknown): FilaxisDocument {
  const version = (data as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && (data as { format?: unknown }).format === 'filaxis-graph' && (version < oldestVersion || version > newestVersion))
    throw new DocumentError([{ pointer: '/version', message: `The document has version ${version}; this Filaxis reads version ${newestVersion}.` }]);
  const text = faultyText(data);
  if (text) throw new DocumentError([text]);
  if (validate(data)) return upgradeDocument(data as FilaxisDocument);
  const [error] = validate.errors ?? [];
  const extra = error?.params['additionalProperty'] as string | undefined;
  const allowed = error?.params['allowedValue'] ?? error?.params['allowedValues'];
  const detail = allowed === undefined ? '' : `: ${JSON.stringify(allowed)}`;
  const message = extra === undefined ? `${error?.message ?? 'does not fit the schema'}${detail}` : `has no "${extra}"`;
  throw new DocumentError([{ pointer: error?.instancePath ?? '', message: `The document ${error?.instancePath ? 'here ' : ''}${message}.` }]);
}

/** The choice that another spelling stands for, or a choice written as a number or truth value; undefined when nothing needs to be rewritten. */
function choiceNamed({ choices, aliases = {} }: ChoiceSetting, value: unknown): string | undefined {
  if (typeof value === 'object') return undefined;
  const text = String(value);
  if (Object.hasOwn(choices, text)) return text === value ? undefined : text;
  return Object.hasOwn(aliases, text) ? aliases[text] : undefined;
}

/**
 * A document of an earlier time as it is written now: settings that were put otherwise, and every port and choice under its own name. The same object where
 * there is nothing to change. Documents that are read by `requireDocument` have been through it.
 */
export function upgradeDocument(document: FilaxisDocument): FilaxisDocument {
  const types = new Map(document.nodes.map((node) => [node.id, nodeDefinitions.get(node.type)]));
  const named = (ports: readonly { name: string; aliases?: readonly string[] }[] | undefined, name: string): string =>
    ports?.some((port) => port.name === name) ? name : (ports?.find((port) => port.aliases?.includes(name))?.name ?? name);
  let changed = false;
  const wires = document.wires.map((wire): Wire => {
    const from = named(types.get(wire.from[0])?.outputs, wire.from[1]);
    const to = named(types.get(wire.to[0])?.inputs, wire.to[1]);
    if (from === wire.from[1] && to === wire.to[1]) return wire;
    changed = true;
    return { ...wire, from: [wire.from[0], from], to: [wire.to[0], to] };
  });
  const nodes = document.nodes.map((given): GraphNode => {
    const definition = types.get(given.id);
    const upgraded = given.settings && definition?.upgrade?.(given.settings);
    const node = upgraded && upgraded !== given.settings ? { ...given, settings: upgraded } : given;
    if (node !== given) changed = true;
    const settings = definition?.settings;
    const renamed = Object.entries(node.settings ?? {}).flatMap(([key, value]) => {
      const setting = settings && Object.hasOwn(settings, key) ? settings[key] : undefined;
      const choice = setting?.kind === 'choice' ? choiceNamed(setting, value) : undefined;
      return choice === undefined ? [] : [[key, choice]];
    });
    if (!renamed.length) return node;
    changed = true;
    return { ...node, settings: { ...node.settings, ...Object.fromEntries(renamed) } };
  });
  return changed ? { ...document, nodes, wires } : document;
}

/** The input port of a definition by name. Settings of one number, or of three, take a wire under their own names. */
export function inputPort({ inputs, settings }: NodeDefinition, name: string): InputPort | undefined {
  const port = inputs.find((candidate) => candidate.name === name);
  if (port || !Object.hasOwn(settings, name)) return port;
  const setting = settings[name];
  if (setting.kind === 'number' || setting.kind === 'integer') return { name, kinds: ['number'], optional: true };
  return setting.kind === 'vector' && setting.default.length === 3 ? { name, kinds: ['vector'], optional: true } : undefined;
}

/** Whether an output of `kind` may be wired to `port`. `any` outputs of unknown kind fit everywhere; the evaluator looks again. */
export const fits = (kind: PortKind, port: InputPort): boolean =>
  kind === 'any' || port.kinds.includes('any') || port.kinds.includes(kind) || (kind in conversions && port.kinds.includes(conversions[kind]!));

/** What is looked up of a document again and again, found once for each. */
interface Lookup {
  readonly nodes: ReadonlyMap<string, GraphNode>;
  readonly wiresTo: ReadonlyMap<string, readonly Wire[]>;
  readonly wiresFrom: ReadonlyMap<string, readonly Wire[]>;
  /** Kinds of outputs that are known already. */
  readonly kinds: Map<string, PortKind>;
}
const lookups = new WeakMap<FilaxisDocument, Lookup>();

function lookupOf(document: FilaxisDocument): Lookup {
  const known = lookups.get(document);
  if (known) return known;
  const by = (end: 'from' | 'to'): Map<string, Wire[]> => {
    const lists = new Map<string, Wire[]>();
    for (const wire of document.wires) {
      const list = lists.get(wire[end][0]);
      if (list) list.push(wire);
      else lists.set(wire[end][0], [wire]);
    }
    return lists;
  };
  // Of two nodes of one name the first counts.
  const nodes = new Map([...document.nodes].reverse().map((node) => [node.id, node]));
  const made = { nodes, wiresTo: by('to'), wiresFrom: by('from'), kinds: new Map<string, PortKind>() };
  lookups.set(document, made);
  return made;
}

/** The kind that an output gives, following `any` ports back to what is wired into them. */
export function outputKind(document: FilaxisDocument, nodeId: string, port: string): PortKind {
  const { nodes, wiresTo, kinds } = lookupOf(document);
  const passed = new Set<string>();
  let kind: PortKind = 'any';
  for (let [at, output] = [nodeId, port]; ;) {
    const key = `${at}\n${output}`;
    const known = kinds.get(key);
    if (known !== undefined) {
      kind = known;
      break;
    }
    // A circle gives no kind.
    if (passed.has(key)) break;
    passed.add(key);
    const definition = nodeDefinitions.get(nodes.get(at)?.type ?? '');
    kind = definition?.outputs.find((candidate) => candidate.name === output)?.kind ?? 'any';
    const wire = kind === 'any' && definition ? wiresTo.get(at)?.find(({ to }) => inputPort(definition, to[1])?.kinds.includes('any')) : undefined;
    if (!wire) break;
    [at, output] = wire.from;
  }
  for (const key of passed) kinds.set(key, kind);
  return kind;
}

/** Whether adding a wire from node `from` to node `to` would close a circle. */
export function wouldCycle(document: FilaxisDocument, from: string, to: string): boolean {
  const { wiresFrom } = lookupOf(document);
  const seen = new Set([to]);
  for (const id of seen) {
    if (id === from) return true;
    for (const wire of wiresFrom.get(id) ?? []) seen.add(wire.to[0]);
  }
  return false;
}

/** All nodes, each after those it takes from as far as there is no circle; and the nodes of circles. */
export function orderNodes(document: FilaxisDocument): { order: readonly string[]; circle: readonly string[] } {
  const waiting = new Map(document.nodes.map((node) => [node.id, 0]));
  const followers = new Map<string, string[]>();
  for (const { from, to } of document.wires) {
    if (!waiting.has(from[0]) || !waiting.has(to[0])) continue;
    waiting.set(to[0], waiting.get(to[0])! + 1);
    const list = followers.get(from[0]);
    if (list) list.push(to[0]);
    else followers.set(from[0], [to[0]]);
  }
  const order = [...waiting].filter(([, count]) => count === 0).map(([id]) => id);
  for (const id of order)
    for (const follower of followers.get(id) ?? []) {
      waiting.set(follower, waiting.get(follower)! - 1);
      if (waiting.get(follower) === 0) order.push(follower);
    }
  const done = new Set(order);
  const left = document.nodes.map((node) => node.id).filter((id) => !done.has(id));
  // What is left stands in a circle or behind one; those behind lead back to nothing that is left.
  const add = (lists: Map<string, string[]>, key: string, id: string): void => {
    const list = lists.get(key);
    if (list) list.push(id);
    else lists.set(key, [id]);
  };
  const inside = new Set(left);
  const ahead = new Map(left.map((id) => [id, (followers.get(id) ?? []).filter((follower) => inside.has(follower)).length]));
  const sources = new Map<string, string[]>();
  for (const id of left) for (const follower of followers.get(id) ?? []) add(sources, follower, id);
  const ends = left.filter((id) => ahead.get(id) === 0);
  for (const id of ends) {
    inside.delete(id);
    for (const source of sources.get(id) ?? []) {
      ahead.set(source, ahead.get(source)! - 1);
      if (ahead.get(source) === 0) ends.push(source);
    }
  }
  const circle = left.filter((id) => inside.has(id));
  return { order: [...order, ...left], circle };
}

/** Everything that is wrong with nodes, wires, dials and outputs of a document of the right form. Setting values are the evaluator's matter. */
export function checkDocument(document: FilaxisDocument): Problem[] {
  return [...checkNodes(document), ...checkWires(document), ...checkDials(document)];
}

const quoted = (names: readonly string[]): string => (names.length ? names.map((name) => `"${name}"`).join(', ') : 'none');

function checkNodes(document: FilaxisDocument): Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  const outputs = new Map<string, string>();
  document.nodes.forEach((node, n) => {
    const at = `/nodes/${n}`;
    if (seen.has(node.id)) problems.push({ pointer: `${at}/id`, message: `Two nodes have the id "${node.id}".`, node: node.id });
    seen.add(node.id);
    const definition = nodeDefinitions.get(node.type);
    if (!definition) {
      problems.push({ pointer: `${at}/type`, message: `There is no node "${node.type}".`, node: node.id });
      return;
    }
    for (const key of Object.keys(node.settings ?? {}))
      if (!Object.hasOwn(definition.settings, key))
        problems.push({
          pointer: `${at}/settings/${key}`,
          message: `${definition.label} has no setting "${key}"; it has ${quoted(Object.keys(definition.settings))}.`,
          node: node.id,
          setting: key,
        });
    if (node.type !== 'flow.output') return;
    const name = String(node.settings?.['name'] ?? definition.settings['name'].default);
    const other = outputs.get(name);
    if (other)
      problems.push({
        pointer: `${at}/settings/name`,
        message: `Outputs "${other}" and "${node.id}" have the same name, "${name}".`,
        node: node.id,
        setting: 'name',
      });
    outputs.set(name, node.id);
  });
  return problems;
}

function checkWires(document: FilaxisDocument): Problem[] {
  const problems: Problem[] = [];
  const byId = new Map<string, GraphNode>(document.nodes.map((node) => [node.id, node]));
  const taken = new Set<string>();
  document.wires.forEach((wire, w) => {
    const fault = wireFault(document, wire, byId, taken);
    if (fault) problems.push({ pointer: `/wires/${w}${fault.at}`, message: fault.message, node: byId.has(wire.to[0]) ? wire.to[0] : undefined });
  });
  const { circle } = orderNodes(document);
  if (circle.length) problems.push({ pointer: '/wires', message: `The wires go round in a circle through ${quoted(circle)}.`, node: circle[0] });
  return problems;
}

function wireFault(document: FilaxisDocument, wire: Wire, byId: ReadonlyMap<string, GraphNode>, taken: Set<string>): { at: string; message: string } | null {
  const [from, to] = [byId.get(wire.from[0]), byId.get(wire.to[0])];
  if (!from) return { at: '/from/0', message: `There is no node "${wire.from[0]}".` };
  if (!to) return { at: '/to/0', message: `There is no node "${wire.to[0]}".` };
  const source = nodeDefinitions.get(from.type);
  const target = nodeDefinitions.get(to.type);
  if (!source || !target) return null;
  if (!source.outputs.some((port) => port.name === wire.from[1]))
    return { at: '/from/1', message: `${source.label} has no output "${wire.from[1]}"; it has ${quoted(source.outputs.map((port) => port.name))}.` };
  const port = inputPort(target, wire.to[1]);
  if (!port) return { at: '/to/1', message: `${target.label} has no input "${wire.to[1]}"; it has ${quoted(target.inputs.map((input) => input.name))}.` };
  const kind = outputKind(document, wire.from[0], wire.from[1]);
  if (!fits(kind, port))
    return { at: '', message: `${source.label} gives ${kind}, which does not fit "${port.name}" of ${target.label}; that takes ${port.kinds.join(' or ')}.` };
  const end = wire.to.join('/');
  if (!port.many && taken.has(end)) return { at: '/to', message: `"${port.name}" of "${to.id}" takes one wire and has one already.` };
  taken.add(end);
  return null;
}

function checkDials(document: FilaxisDocument): Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  (document.dials ?? []).forEach((dial, d) => {
    if (seen.has(dial.id)) problems.push({ pointer: `/dials/${d}/id`, message: `Two dials have the id "${dial.id}".` });
    seen.add(dial.id);
    const fault = dialFault(dial, dial.value);
    if (fault) problems.push({ pointer: `/dials/${d}/value`, message: fault });
  });
  return problems;
}

/** The ports by which a node can stand on a wire: an input that takes what comes, an output that fits where it goes. Null: there are none. */
export function bestPorts(document: FilaxisDocument, { from, to }: Wire, id: string): { input: string; output: string } | null {
  const definition = nodeDefinitions.get(document.nodes.find((node) => node.id === id)?.type ?? '');
  const target = nodeDefinitions.get(document.nodes.find((node) => node.id === to[0])?.type ?? '');
  const into = target && inputPort(target, to[1]);
  if (!definition || !into || wouldCycle(document, from[0], id) || wouldCycle(document, id, to[0])) return null;
  const kind = outputKind(document, from[0], from[1]);
  const taken = new Set(document.wires.filter((wire) => wire.to[0] === id).map((wire) => wire.to[1]));
  const input = definition.inputs.find((port) => fits(kind, port) && (port.many || !taken.has(port.name)));
  // What comes out of an `any` port is of the kind that goes in.
  const output = definition.outputs.find((port) => fits(port.kind === 'any' ? kind : port.kind, into));
  return input && output ? { input: input.name, output: output.name } : null;
}
