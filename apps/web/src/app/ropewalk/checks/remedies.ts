import { definitionById, type FilaxisDocument, type Remedy } from '@filaxis/core';
import { addNode, setSetting } from '../document/edits';

/** The document with a remedy put into the graph. */
export function remedied(document: FilaxisDocument, remedy: Remedy): FilaxisDocument {
  if (remedy.do === 'set') return setSetting(document, remedy.node, remedy.setting, remedy.value);
  const before = document.nodes.find(({ id }) => id === remedy.after);
  const [x, y] = before?.at ?? [0, 0];
  const made = addNode(document, remedy.type, [x + 150, y + 60], remedy.settings);
  const output = definitionById(document, remedy.after)?.outputs[0].name ?? 'mesh';
  const { inputs, outputs } = definitionById(made.document, made.id)!;
  const wires = made.document.wires.map((wire) =>
    wire.from[0] === remedy.after && wire.from[1] === output ? { ...wire, from: [made.id, outputs[0].name] as const } : wire,
  );
  return { ...made.document, wires: [...wires, { from: [remedy.after, output], to: [made.id, inputs[0].name] }] };
}
