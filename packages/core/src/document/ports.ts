import type { InputPort, NodeDefinition, PortKind } from '../definition/define.js';
import type { FilaxisDocument } from './document.js';
import type { Wire } from '../definition/graph.js';
import { indexOf } from './documentIndex.js';

/** What happens by itself where a port takes only the second: curves give their points, copies are expanded. */
export const conversions: Partial<Record<PortKind, PortKind>> = { curves: 'points', copies: 'mesh' };

/** The input port of a definition by name. Settings of one number, or of three, take a wire under their own names. */
export function inputPort({ inputs, settings }: NodeDefinition, name: string): InputPort | undefined {
  const port = inputs.find((candidate) => candidate.name === name);
  if (port || !Object.hasOwn(settings, name)) return port;
  const setting = settings[name];
  if (setting.kind === 'number' || setting.kind === 'integer') return { name, kinds: ['number'], optional: true };
  return setting.kind === 'vector' && setting.default.length === 3 ? { name, kinds: ['vector'], optional: true } : undefined;
}

/** Whether an output of `kind` may be wired to `port`. Outputs whose kind is not known yet fit everywhere; the evaluator looks again. */
export const fits = (kind: PortKind, port: InputPort): boolean =>
  kind === 'any' || port.kinds.includes('any') || port.kinds.includes(kind) || (kind in conversions && port.kinds.includes(conversions[kind]!));

/** The ports in the order in which a wire of a kind looks for one: those that take it as it is before those for which it is turned into something else. */
export const nearestFirst = (kind: PortKind, ports: readonly InputPort[]): InputPort[] => {
  const asIs = ({ kinds }: InputPort): boolean => kinds.includes(kind) || kinds.includes('any');
  return [...ports.filter(asIs), ...ports.filter((port) => !asIs(port))];
};

/** Kinds of outputs that are known already, by node and port. */
const kindsOf = new WeakMap<FilaxisDocument, Map<string, PortKind>>();

/** The kind that an output gives: its own, or that of what is wired to the input that it follows, however far back that goes. `any`: nothing tells. */
export function outputKind(document: FilaxisDocument, nodeId: string, port: string): PortKind {
  const { definitions, wiresTo } = indexOf(document);
  let kinds = kindsOf.get(document);
  if (!kinds) kindsOf.set(document, (kinds = new Map()));
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
    const found = definitions.get(at)?.outputs.find((candidate) => candidate.name === output);
    kind = found?.kind ?? 'any';
    const wire = kind === 'any' && found?.follows !== undefined ? wiresTo.get(at)?.find(({ to }) => to[1] === found.follows) : undefined;
    if (!wire) break;
    [at, output] = wire.from;
  }
  for (const key of passed) kinds.set(key, kind);
  return kind;
}

/** Whether adding a wire from node `from` to node `to` would close a circle. */
export function wouldCycle(document: FilaxisDocument, from: string, to: string): boolean {
  const { wiresFrom } = indexOf(document);
  const seen = new Set([to]);
  for (const id of seen) {
    if (id === from) return true;
    for (const wire of wiresFrom.get(id) ?? []) seen.add(wire.to[0]);
  }
  return false;
}

/** The ports by which a node can stand on a wire: an input that takes what comes, an output that fits where it goes. Null: there are none. */
export function bestPorts(document: FilaxisDocument, { from, to }: Wire, id: string): { input: string; output: string } | null {
  const { definitions, wiresTo } = indexOf(document);
  const definition = definitions.get(id);
  const target = definitions.get(to[0]);
  const into = target && inputPort(target, to[1]);
  if (!definition || !into || wouldCycle(document, from[0], id) || wouldCycle(document, id, to[0])) return null;
  const kind = outputKind(document, from[0], from[1]);
  const taken = new Set((wiresTo.get(id) ?? []).map((wire) => wire.to[1]));
  const input = nearestFirst(kind, definition.inputs).find((port) => fits(kind, port) && (port.many || !taken.has(port.name)));
  // What comes out of an `any` port is of the kind that goes in.
  const output = definition.outputs.find((port) => fits(port.kind === 'any' ? kind : port.kind, into));
  return input && output ? { input: input.name, output: output.name } : null;
}
