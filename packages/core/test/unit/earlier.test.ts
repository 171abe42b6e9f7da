import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from 'vitest';
import { Evaluator, makeReport, parseDocument, Plan } from '../../src/index.js';

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
