import { dialFault } from './dials.js';
import type { FilaxisDocument } from './document.js';
import type { Wire } from '../definition/graph.js';
import { definitionOf, indexOf, type DocumentIndex } from './documentIndex.js';
import { type Problem } from './problem.js';
import { inputPort, outputKind, fits } from './ports.js';
import { orderNodes } from './order.js';

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
    const definition = definitionOf(document, node);
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
    if (definition.role !== 'output') return;
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
  const index = indexOf(document);
  const taken = new Set<string>();
  document.wires.forEach((wire, w) => {
    const fault = wireFault(document, wire, index, taken);
    if (fault) problems.push({ pointer: `/wires/${w}${fault.at}`, message: fault.message, node: index.nodes.has(wire.to[0]) ? wire.to[0] : undefined });
  });
  const { circle } = orderNodes(document);
  if (circle.length) problems.push({ pointer: '/wires', message: `The wires go round in a circle through ${quoted(circle)}.`, node: circle[0] });
  return problems;
}

function wireFault(document: FilaxisDocument, wire: Wire, { nodes, definitions }: DocumentIndex, taken: Set<string>): { at: string; message: string } | null {
  const [from, to] = [nodes.get(wire.from[0]), nodes.get(wire.to[0])];
  if (!from) return { at: '/from/0', message: `There is no node "${wire.from[0]}".` };
  if (!to) return { at: '/to/0', message: `There is no node "${wire.to[0]}".` };
  const [source, target] = [definitions.get(from.id), definitions.get(to.id)];
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
