import fc from 'fast-check';
import { expect, test } from 'vitest';
import { DocumentError, Evaluator, makeReport, nodeDefinitions, Plan, requireDocument } from '../../src/index.js';

const types = [...nodeDefinitions.keys()];
const value = fc.oneof(
  fc.double(),
  fc.integer({ min: -3, max: 40 }),
  fc.boolean(),
  fc.constantFrom('flat', 'minimal', 'even', 'through', '', '#123456', null, [], {}, [0, 0, 0], [1, 2, 3], { dial: 'd' }, { ramp: [[0, 1]] }, { formula: '1' }), // prettier-ignore
  fc.jsonValue(),
);

/** A node of any kind with some of its settings given anything at all. */
const node = fc.constantFrom(...types).chain((type) => {
  const keys = Object.keys(nodeDefinitions.get(type)!.settings);
  return fc.record({ type: fc.constant(type), settings: fc.dictionary(fc.constantFrom(...keys, 'nonsense'), value, { maxKeys: 3 }) });
});
const ends = fc.tuple(fc.nat(7), fc.constantFrom('curves', 'mesh', 'any'));

test(
  'no document, however it is made, crashes the evaluator, loops, or gives what is not finite',
  () =>
    fc.assert(
      fc.asyncProperty(fc.array(node, { minLength: 1, maxLength: 7 }), fc.array(fc.tuple(ends, ends), { maxLength: 9 }), async (nodes, wires) => {
        const data = {
          format: 'filaxis-graph',
          version: 1,
          title: 'Any',
          dials: [{ id: 'd', label: 'D', kind: 'number', value: 2 }],
          nodes: nodes.map((each, i) => ({ id: `n${i}`, ...each })),
          wires: wires.map(([from, to]) => ({ from: [`n${from[0]}`, from[1]], to: [`n${to[0]}`, to[1]] })),
        };
        const plan = new Plan(requireDocument(JSON.parse(JSON.stringify(data))));
        const limits = { points: 20_000, vertices: 20_000, faces: 20_000, seconds: 20 };
        const run = await new Evaluator({ limits }).run(plan);
        expect(run.nodes.size).toBe(nodes.length);
        const report = makeReport(plan, run);
        expect(report.ok).toBe(report.problems.length === 0);
        for (const result of run.nodes.values())
          for (const output of Object.values(result.outputs)) {
            if (output.type === 'number' || output.type === 'vector') {
              expect([output.value].flat().every(Number.isFinite)).toBe(true);
              continue;
            }
            for (const geometry of output.type === 'set' ? Object.values(output.set) : [output]) {
              if (geometry.type === 'copies') continue;
              expect(geometry.positions.every(Number.isFinite)).toBe(true);
              for (const { data: values } of geometry.attributes.values()) expect(values.every(Number.isFinite)).toBe(true);
            }
          }
      }),
      { numRuns: 400 },
    ),
  60_000,
);

test('anything at all is either a document or refused with a place', () =>
  fc.assert(
    fc.property(fc.jsonValue(), (data) => {
      try {
        requireDocument(data);
      } catch (error) {
        expect(error).toBeInstanceOf(DocumentError);
        expect((error as DocumentError).problems[0].message).toMatch(/^The document/);
      }
    }),
  ));
