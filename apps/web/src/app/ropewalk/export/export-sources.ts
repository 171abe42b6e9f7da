import { definitionOf, labelById, outputsOf, settingsOf, type FilaxisDocument } from '@filaxis/core';

/** Something that can be exported: the results of these nodes, in one file. */
export interface ExportSource {
  readonly id: string;
  readonly label: string;
  readonly nodes: readonly string[];
}

/** The outputs of a document: all of them, where there are several, and each by name. */
export function outputSources(document: FilaxisDocument): ExportSource[] {
  const outputs = outputsOf(document);
  const each = outputs.map((node): ExportSource => ({ id: node.id, label: `Output “${String(settingsOf(document, node)['name'])}”`, nodes: [node.id] }));
  return outputs.length > 1 ? [{ id: '', label: 'All outputs', nodes: outputs.map(({ id }) => id) }, ...each] : each;
}

/** What can be exported: what is shown first, then outputs, then the chosen node; the same thing once. */
export function exportSources(document: FilaxisDocument, shown: readonly string[], chosen: string | null): ExportSource[] {
  const nodes = new Map(document.nodes.map((node) => [node.id, node]));
  const seen = shown.filter((id) => nodes.has(id));
  const names = seen.length > 2 ? `${seen.length} nodes` : seen.map((id) => labelById(document, id)).join(', ');
  const isOutput = (id: string): boolean => definitionOf(document, nodes.get(id)!)?.role === 'output';
  const all: ExportSource[] = [
    // Outputs have names of their own.
    ...(seen.length && !seen.every(isOutput) ? [{ id: 'shown', label: `What is shown: ${names}`, nodes: seen }] : []),
    ...outputSources(document),
    ...(chosen !== null && nodes.has(chosen) && !isOutput(chosen)
      ? [{ id: 'chosen', label: `The chosen node: ${labelById(document, chosen)}`, nodes: [chosen] }]
      : []),
  ];
  const key = ({ nodes }: ExportSource): string => nodes.join(' ');
  return all.filter((source, i) => all.findIndex((other) => key(other) === key(source)) === i);
}
