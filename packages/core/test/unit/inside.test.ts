/** Graphs that run inside a node, and nodes that take their time: for a node of this test alone, put into the catalogue while it runs. */
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { Evaluator, nodeDefinitions, Plan, requireDocument, type FilaxisDocument, type Graph, type NodeDefinition, type RunRequest } from '../../src/index.js';
import { defineNode } from '../../src/definition/define.js';
import { families } from '../../src/definition/families.js';
import { curvesIn, meshOut } from '../../src/definition/ports.js';

/** A tube, made by two nodes inside. */
const inside: Graph = {
  nodes: [
    { id: 'given', type: 'lay.line' },
    { id: 'moved', type: 'shape.transform', settings: { move: [0, 1, 0] } },
    { id: 'tube', type: 'skin.tube', settings: { radius: { dial: 'thick' } } },
  ],
  wires: [
    { from: ['given', 'curves'], to: ['moved', 'any'] },
    { from: ['moved', 'any'], to: ['tube', 'curves'] },
  ],
};
let graph = inside;
const wrapped = defineNode({
  type: 'flow.wrapped',
  label: 'Wrapped',
  family: families.flow,
  summary: 'A node of a test.',
  help: 'A node of a test.',
  inputs: [curvesIn],
  outputs: [meshOut],
  settings: { salt: { kind: 'integer', label: 'Salt', help: '', default: 0 } },
  run: async ({ input, evaluate }) => {
    const { tube } = await evaluate(graph, { given: { curves: input('curves') } });
    if (tube['mesh']?.type !== 'mesh') throw new Error('No mesh.');
    return { mesh: tube['mesh'] };
  },
});

const catalogue = nodeDefinitions as Map<string, NodeDefinition>;
beforeEach(() => void catalogue.set(wrapped.type, wrapped));
afterEach(() => {
  catalogue.delete(wrapped.type);
  graph = inside;
});

const document = (thick: number, salt = 0): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'T',
    dials: [{ id: 'thick', label: 'Thick', kind: 'number', value: thick }],
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [2, 0, 0] } },
      { id: 'wrapped', type: 'flow.wrapped', settings: { salt } },
    ],
    wires: [{ from: ['line', 'curves'], to: ['wrapped', 'curves'] }],
  });

describe('a graph inside a node', () => {
  test('runs on what is given, with the dials of the document, and what did not change is kept', async () => {
    const evaluator = new Evaluator();
    const begun: string[] = [];
    const request: RunRequest = { onBegin: (node) => void begun.push(node) };
    const first = await evaluator.run(new Plan(document(0.1)), request);
    expect(first.nodes.get('wrapped')!.error).toBeUndefined();
    const { positions } = first.nodes.get('wrapped')!.outputs['mesh'] as { positions: Float32Array };
    const heights = Array.from(positions).filter((_, i) => i % 3 === 1);
    expect(Math.min(...heights)).toBeCloseTo(0.9, 6);
    expect(Math.max(...heights)).toBeCloseTo(1.1, 6);
    // Inside and outside are told as the one node that the artist sees.
    expect(new Set(begun)).toEqual(new Set(['line', 'wrapped']));
    const once = begun.length;
    await evaluator.run(new Plan(document(0.1, 1)), request);
    // The node itself runs again, nothing inside it does.
    expect(begun.length).toBe(once + 1);
  });

  test('an error inside is told at the node, with the name of the one inside', async () => {
    graph = { ...inside, nodes: inside.nodes.map((node) => (node.id === 'tube' ? { ...node, settings: { sides: 1 } } : node)) };
    const { nodes } = await new Evaluator().run(new Plan(document(0.1)));
    expect(nodes.get('wrapped')!.error).toMatchObject({ node: 'wrapped', message: expect.stringMatching(/^Tube \(tube\): Sides is 1/) });
  });

  test('warnings inside are told at the node', async () => {
    graph = { ...inside, nodes: inside.nodes.map((node) => (node.id === 'given' ? node : node.id === 'tube' ? { ...node, settings: { radius: 0.1 } } : node)) };
    const bent = {
      ...document(0.1),
      nodes: [
        { id: 'line', type: 'lay.circle', settings: { radius: 0.05 } },
        { id: 'wrapped', type: 'flow.wrapped' },
      ],
    };
    const { nodes } = await new Evaluator().run(new Plan(bent));
    expect(nodes.get('wrapped')!.warnings[0]).toMatchObject({ code: 'pinch', message: expect.stringMatching(/^Tube \(tube\): /) });
  });

  test('a stop is heard inside, and limits hold there', async () => {
    let looks = 0;
    const stopped = await new Evaluator().run(new Plan(document(0.1)), { cancelled: () => ++looks > 3 });
    expect(stopped.cancelled).toBe(true);
    expect(stopped.nodes.has('wrapped')).toBe(false);
    const { nodes } = await new Evaluator({ limits: { vertices: 10 } }).run(new Plan(document(0.1)));
    expect(nodes.get('wrapped')!.error!.message).toContain('the limit is 10');
  });
});
