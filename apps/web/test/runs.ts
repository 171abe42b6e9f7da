/** Runs of small documents, as the worker has them when it is asked something. */
import { Evaluator, Plan, requireDocument, type FilaxisDocument } from '@filaxis/core';
import type { TableQuestion } from '@filaxis/protocol';
import type { Newest } from '../src/workers/newest';

export type NodeList = readonly (readonly [id: string, type: string, settings?: object])[];

/** A run of a document, of which the last node is in the picture. */
export async function ranDocument(document: FilaxisDocument): Promise<Newest> {
  const plan = new Plan(document);
  return { plan, time: 0, shown: [document.nodes.at(-1)!.id], run: await new Evaluator().run(plan) };
}

/** A run of nodes wired one after the other. */
export const ran = (nodes: NodeList, dials: object[] = []): Promise<Newest> =>
  ranDocument(
    requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Answers',
      dials,
      nodes: nodes.map(([id, type, settings = {}]) => ({ id, type, settings })),
      wires: nodes.slice(1).map(([id, type], i) => {
        const from = nodes[i][1];
        const port = from.startsWith('skin') ? 'mesh' : from.startsWith('gauge') ? 'any' : 'curves';
        return { from: [nodes[i][0], port], to: [id, type.startsWith('gauge') ? 'any' : 'curves'] };
      }),
    }),
  );

/** Two curves of three and two points with a value that tells them apart. */
export const curves: NodeList = [
  ['d', 'lay.drawn', { curves: [{ points: [[0, 0, 0], [1, 0, 0], [4, 0, 0]] }, { points: [[0, 5, 0], [0, 7, 0]] }] }],
  ['a', 'gauge.set', { name: 'width', value: { formula: 'c*10 + i' } }],
]; // prettier-ignore

/** A question for all rows of a node's table, as they are. */
export const asked = (node: string, more: Partial<TableQuestion> = {}): TableQuestion => ({
  node,
  kind: null,
  per: null,
  sort: null,
  filter: '',
  from: 0,
  count: 100,
  ...more,
});
