import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { defineNode } from '../../src/definition/define.js';
import { families } from '../../src/definition/families.js';
import { curvesOut } from '../../src/definition/ports.js';
import { emptyCurves, Evaluator, makeReport, nodeDefinitions, parseDocument, Plan, type FilaxisDocument, type NodeDefinition } from '../../src/index.js';

/** Documents as they were written on 26 November 2026, and the figures that the program of that day gave for them. */
const earlier: Readonly<Record<string, { readonly output: string; readonly figures: object; readonly volume: number }>> = {
  'paddock-fence': { output: 'paddock', figures: { vertices: 6909, faces: 6576, triangles: 13152, euler: 177, parts: 89 }, volume: 125.33623 },
  'boat-shed-roof': { output: 'shed', figures: { vertices: 9281, faces: 8494, triangles: 17383, euler: 176, parts: 316 }, volume: 49.23112 },
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
