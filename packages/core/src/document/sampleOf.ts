import type { NodeDefinition } from '../definition/define.js';
import type { GraphNode, Wire } from '../definition/graph.js';
import { usualSamples, type SampleNode, type SampleWire } from '../definition/sample.js';
import { nodeDefinitions } from '../nodes/catalogue.js';
import { columnWidth, rowHeight } from './builder.js';
import { currentEdition, type FilaxisDocument } from './document.js';
import { requireDocument } from './parse.js';

/** A node in which nothing more has to be wired: the usual goes where its example says nothing. */
function complete(type: string, settings: SampleNode['settings'], given: SampleNode['given'] = {}): SampleNode {
  const usual = Object.fromEntries(
    nodeDefinitions.get(type)!.inputs.flatMap(({ name, kinds, optional }) => {
      const [stands] = kinds.flatMap((kind) => usualSamples[kind] ?? []);
      return optional || given[name] || !stands ? [] : [[name, stands]];
    }),
  );
  return { type, settings, given: { ...usual, ...given } };
}

/**
 * A small document in which a node is at work, what it needs before it; null where that needs a file of the artist's. Its node is the one of its type that is last.
 *
 * @example
 * const rope = sampleOf(nodeDefinitions.get('skin.rope')!);
 */
export function sampleOf({ type, label, sample }: NodeDefinition): FilaxisDocument | null {
  if (!sample) return null;
  const itself = complete(type, sample.settings, sample.given);
  const last = sample.shownBy?.(itself) ?? itself;
  const ids = new Map<SampleNode, string>();
  const columns = new Map<SampleNode, number>();
  const wires: Wire[] = [];
  /** Goes to the left from a node, which then stands before all that it feeds. */
  const visit = (node: SampleNode, column: number): string => {
    columns.set(node, Math.max(columns.get(node) ?? 0, column));
    const known = ids.get(node);
    const name = node.type.split('.')[1];
    const count = [...ids.keys()].filter((each) => each.type === node.type).length;
    const id = known ?? `${name}${count ? count + 1 : ''}`;
    ids.set(node, id);
    const { given = {} } = node === itself ? node : complete(node.type, node.settings, node.given);
    for (const [port, fed] of Object.entries(given))
      for (const wire of [fed].flat<readonly (SampleWire | readonly SampleWire[])[]>()) {
        const [of, output] = 'of' in wire ? [wire.of, wire.output] : [wire, nodeDefinitions.get(wire.type)!.outputs[0].name];
        const from = visit(of, column + 1);
        if (!known) wires.push({ from: [from, output], to: [id, port] });
      }
    return id;
  };
  visit(last, 0);
  const most = Math.max(...columns.values());
  const rows = new Array<number>(most + 1).fill(0);
  const nodes = [...ids].map(([node, id]): GraphNode => {
    const column = most - columns.get(node)!;
    const at = [column * columnWidth, rows[column]++ * rowHeight] as const;
    return { id, type: node.type, at, ...(node.settings && { settings: node.settings }) };
  });
  return requireDocument({ format: 'filaxis-graph', version: 1, edition: currentEdition, title: label, nodes: nodes.reverse(), wires });
}
