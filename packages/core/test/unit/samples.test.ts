/** Examples of nodes, as Help puts them into a graph. */
import { describe, expect, test } from 'vitest';
import { Evaluator, geometriesOf, nodeDefinitions, Plan, problemsOf, sampleOf, type FilaxisDocument } from '../../src/index.js';

/** All numbers of all results, as text. */
async function whatComesOf(document: FilaxisDocument): Promise<string> {
  const { nodes } = await new Evaluator().run(new Plan(document));
  const plain = (_: string, value: unknown): unknown =>
    value instanceof Map ? [...value] : ArrayBuffer.isView(value) ? Array.from(value as Float64Array) : value;
  return JSON.stringify(
    [...nodes].map(([, { outputs }]) => outputs),
    plain,
  );
}
const switchedOff = (document: FilaxisDocument, type: string): FilaxisDocument => ({
  ...document,
  nodes: document.nodes.map((node) => (node.type === type ? { ...node, settings: { ...node.settings, on: false } } : node)),
});

describe('every node can be shown at work', () => {
  for (const definition of nodeDefinitions.values())
    test(definition.type, async () => {
      const document = sampleOf(definition);
      if (!document) return expect(definition.role).toBe('import');
      expect(document.nodes.filter(({ type }) => type === definition.type)).not.toEqual([]);
      const plan = new Plan(document);
      const run = await new Evaluator().run(plan);
      expect(problemsOf(plan, run)).toEqual([]);
      for (const [id, { warnings, error }] of run.nodes) expect([id, error?.message, warnings]).toEqual([id, undefined, []]);
      // What it is for is seen: something comes out at the end, and nothing in it stands idle.
      const fed = new Set(document.wires.map(({ from }) => from[0]));
      const ends = document.nodes.filter(({ id }) => !fed.has(id));
      expect(ends).toHaveLength(1);
      const all = Object.values(run.nodes.get(ends[0].id)!.outputs).flatMap((value) => geometriesOf(value));
      expect(all.some((value) => (value.type === 'copies' ? value.object.length : value.positions.length) > 0)).toBe(true);
      // What changes things changes something here.
      if (definition.passes) expect(await whatComesOf(switchedOff(document, definition.type))).not.toBe(await whatComesOf(document));
    });
});
