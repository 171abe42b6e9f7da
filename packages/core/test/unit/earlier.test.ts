import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { defineNode } from '../../src/definition/define.js';
import { families } from '../../src/definition/families.js';
import { curvesOut } from '../../src/definition/ports.js';
import {
  emptyCurves,
  Evaluator,
  makeReport,
  nodeDefinitions,
  parseDocument,
  Plan,
  type FilaxisDocument,
  type Curves,
  type NodeDefinition,
} from '../../src/index.js';

/** Documents as they were written on 26 November 2026, and the figures that the program of that day gave for them. */
const earlier: Readonly<Record<string, { readonly output: string; readonly figures: object; readonly volume: number }>> = {
  'paddock-fence': { output: 'paddock', figures: { vertices: 6909, faces: 6576, triangles: 13152, euler: 177, parts: 89 }, volume: 125.33623 },
  'wash-house-hood': { output: 'hood', figures: { vertices: 2234, faces: 1872, triangles: 3836, euler: 316, parts: 158 }, volume: 0.29568 },
  'clinker-dinghy': { output: 'dinghy', figures: { vertices: 5518, faces: 5450, triangles: 11020, euler: 8, parts: 4 }, volume: 0.17484 },
};

for (const [name, { output, figures, volume }] of Object.entries(earlier))
  test(`${name} of an earlier time opens and gives what it gave`, async () => {
    const plan = new Plan(parseDocument(readFileSync(resolve(import.meta.dirname, `../fixtures/earlier/${name}.json`), 'utf8')));
    const report = makeReport(plan, await new Evaluator().run(plan));
    expect(report.problems).toEqual([]);
    expect(report.outputs[output]).toMatchObject(figures);
    expect(report.outputs[output].volume).toBeCloseTo(volume, 4);
  });

describe('what was called otherwise', () => {
  const renamed = defineNode({
    type: 'lay.today',
    label: 'Today',
    family: families.lay,
    summary: 'A node of a test.',
    help: 'A node of a test.',
    formerly: ['lay.yesterday', 'lay.before'],
    outputs: [{ ...curvesOut, aliases: ['lines'] }],
    settings: {
      length: { kind: 'number', label: 'Length', help: '', default: 1, formerly: ['reach'] },
      hand: {
        kind: 'choice',
        label: 'Hand',
        help: '',
        default: 'left',
        choices: { left: 'left', right: 'right' },
        aliases: { port: 'left', starboard: 'right' },
      },
    },
    upgrade: ({ halves, ...rest }) => (halves === undefined ? { ...rest } : { ...rest, length: Number(halves) / 2 }),
    run: () => ({ curves: emptyCurves }),
  });
  const catalogue = nodeDefinitions as Map<string, NodeDefinition>;
  beforeEach(() => void catalogue.set(renamed.type, renamed));
  afterEach(() => void catalogue.delete(renamed.type));

  const read = (node: object, wires: object[] = []): FilaxisDocument =>
    parseDocument(JSON.stringify({ format: 'filaxis-graph', version: 1, title: 'T', nodes: [{ id: 'a', ...node }, { id: 'n', type: 'gauge.number' }, { id: 'b', type: 'shape.hang' }], wires })); // prettier-ignore

  test('kinds of nodes, names of settings, settings put otherwise, choices and ports are read as they are now', () => {
    const { nodes, wires } = read({ type: 'lay.yesterday', settings: { reach: 3, hand: 'starboard' } }, [
      { from: ['a', 'lines'], to: ['b', 'curves'] },
      { from: ['n', 'number'], to: ['a', 'reach'] },
    ]);
    expect(nodes[0]).toEqual({ id: 'a', type: 'lay.today', settings: { length: 3, hand: 'right' } });
    expect(wires).toEqual([
      { from: ['a', 'curves'], to: ['b', 'curves'] },
      { from: ['n', 'number'], to: ['a', 'length'] },
    ]);
    expect(read({ type: 'lay.before', settings: { halves: 5 } }).nodes[0].settings).toEqual({ length: 2.5 });
  });

  test('what has its name of today keeps it, and its value goes before an older one', () => {
    expect(read({ type: 'lay.today', settings: { length: 2, reach: 9 } }).nodes[0]).toEqual({ id: 'a', type: 'lay.today', settings: { length: 2 } });
    expect(read({ type: 'lay.tomorrow', settings: { reach: 1 } }).nodes[0].type).toBe('lay.tomorrow');
  });

  test('a document of a later version is refused with both versions', () => {
    expect(() => parseDocument('{"format":"filaxis-graph","version":2,"title":"T","nodes":[],"wires":[]}')).toThrow(
      'The document has version 2; this Filaxis reads version 1.',
    );
  });
});

describe('documents of an earlier edition', () => {
  const read = (nodes: object[], wires: object[] = [], edition?: number): FilaxisDocument =>
    parseDocument(JSON.stringify({ format: 'filaxis-graph', version: 1, ...(edition && { edition }), title: 'T', nodes, wires }));

  test('have the defaults of their time written down; what they say themselves stays, and so do those of today', () => {
    const nodes = [
      { id: 'a', type: 'lay.terrain' },
      { id: 'b', type: 'lay.terrain', settings: { size: [3, 4] } },
      { id: 'c', type: 'mesh.even' },
      { id: 'd', type: 'place.loops' },
      { id: 'e', type: 'shape.offset' },
      { id: 'f', type: 'skin.rope' },
    ];
    const earlier = read(nodes);
    expect(earlier.edition).toBe(3);
    expect(earlier.nodes.map(({ settings }) => settings)).toMatchObject([
      { size: [200, 200] },
      { size: [3, 4] },
      { edge: 0.1 },
      { spacing: 0.05 },
      { facing: 'axis' },
      { layLength: 0.28 },
    ]);
    const [, ...second] = read(nodes, [], 2).nodes.map(({ settings }) => settings);
    expect(second).toEqual([{ size: [3, 4] }, undefined, undefined, undefined, { layLength: 0.28 }]);
    expect(read(nodes, [], 3).nodes.at(-1)!.settings).toBeUndefined();
    expect(parseDocument(JSON.stringify(earlier))).toEqual(earlier);
    expect(() => read(nodes, [], 4)).toThrow('edition 4');
  });

  test('numbers of connected pieces are body where Parts wrote them; wall and caps of skins stay part', () => {
    const keep = { id: 'k', type: 'mesh.keep', settings: { by: 'condition', condition: { formula: 'part == 0 and partly > 1' } } };
    const [mesh, parts] = [
      { id: 'm', type: 'lay.cylinder' },
      { id: 'p', type: 'mesh.parts' },
    ];
    const condition = (document: FilaxisDocument): unknown => document.nodes.find(({ id }) => id === 'k')!.settings!['condition'];
    expect(condition(read([mesh, keep], [{ from: ['m', 'mesh'], to: ['k', 'any'] }]))).toEqual({ formula: 'part == 0 and partly > 1' });
    const after = read(
      [mesh, parts, keep],
      [
        { from: ['m', 'mesh'], to: ['p', 'mesh'] },
        { from: ['p', 'mesh'], to: ['k', 'any'] },
      ],
    );
    expect(condition(after)).toEqual({ formula: 'body == 0 and partly > 1' });
  });

  test('objects that were named by the curve of their points still are', () => {
    const place = { id: 'c', type: 'place.copies', settings: { pick: 'byAttribute' } };
    const line = { id: 'l', type: 'lay.line' };
    expect(read([line, place], [{ from: ['l', 'curves'], to: ['c', 'curves'] }]).nodes[1].settings).toMatchObject({ attribute: 'curve' });
    expect(read([line, place]).nodes[1].settings).toMatchObject({ attribute: 'id' });
  });

  test('plants whose numbers were a to d grow as they did, with dials and wires into them', async () => {
    const rules = { id: 'r', type: 'grow.rules', settings: { axiom: 'F(a) [ +(90) F(c) ]', rules: '', times: 0, a: { formula: '1 + 1' } } };
    const document = read([{ id: 'n', type: 'gauge.number', settings: { value: 3 } }, rules], [{ from: ['n', 'number'], to: ['r', 'c'] }]);
    expect(document.nodes[1].settings).toMatchObject({ names: 'a, b, c, d', first: { formula: '1 + 1' } });
    expect(document.wires[0].to).toEqual(['r', 'third']);
    const run = await new Evaluator().run(new Plan(document));
    const { positions } = run.nodes.get('r')!.outputs['curves'] as Curves;
    expect([positions[4], Math.max(...positions.map(Math.abs))]).toEqual([2, expect.closeTo(3, 5)]);
    // One that leaves its rules out has those of its time.
    expect((read([{ id: 'r', type: 'grow.rules' }]).nodes[0].settings as { rules: string }).rules).toContain('A(l * a, w * 0.86)');
  });
});
