import { describe, expect, test } from 'vitest';
import { checkDocument, Evaluator, Plan, requireDocument, type Dial, type FilaxisDocument, type NodeResult } from '../../src/index.js';

/** A line that is moved by a vector with parts of their own. */
const document = (move: unknown, dials: readonly Dial[] = []): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Parts',
    dials,
    nodes: [
      { id: 'line', type: 'lay.line', settings: { points: 2 } },
      { id: 'it', type: 'shape.transform', settings: { move } },
    ],
    wires: [{ from: ['line', 'curves'], to: ['it', 'any'] }],
  });
const height: Dial = { id: 'height', label: 'Height', kind: 'number', value: 1.5, min: 0, max: 3 };

const run = async (of: FilaxisDocument, dials = {}, evaluator = new Evaluator()): Promise<NodeResult> =>
  (await evaluator.run(new Plan(of), { dials })).nodes.get('it')!;

async function first(of: FilaxisDocument, dials = {}): Promise<number[] | string> {
  const { outputs, error } = await run(of, dials);
  return outputs['any']?.type === 'curves' ? Array.from(outputs['any'].positions.subarray(0, 3), (value) => Number(value.toFixed(6))) : (error?.message ?? '');
}

describe('a number of a vector that follows a dial', () => {
  test('is that of the dial, also when it is turned', async () => {
    const at = (y: number): Promise<unknown> => first(document([1, y, 2]));
    const made = document([1, { dial: 'height' }, 2], [height]);
    expect(await first(made)).toEqual(await at(1.5));
    expect(await first(made, { height: 2.5 })).toEqual(await at(2.5));
    expect(await at(1.5)).not.toEqual(await at(2.5));
  });

  test('is part of a document without fault, and is run again when the dial turns', async () => {
    const made = document([0, { dial: 'height' }, 0], [height]);
    expect(checkDocument(made)).toEqual([]);
    const evaluator = new Evaluator();
    const places: number[] = [];
    for (const value of [1, 2, 1]) {
      const out = (await run(made, { height: value }, evaluator)).outputs['any'];
      places.push(out?.type === 'curves' ? out.positions[1] : NaN);
    }
    expect(places[1] - places[0]).toBeCloseTo(1, 6);
    expect(places[2]).toBe(places[0]);
  });

  test('that is not there, or gives no number, is told where', async () => {
    expect(await first(document([0, { dial: 'gone' }, 0]))).toBe('There is no dial "gone".');
    expect((await run(document([0, 0, { dial: 'gone' }]))).error?.pointer).toBe('/nodes/1/settings/move/2/dial');
    expect(await first(document([0, { dial: 'dye' }, 0], [{ id: 'dye', label: 'Dye', kind: 'colour', value: '#aabbcc' }]))).toContain(
      'accepts three finite numbers',
    );
  });

  test('a setting that is the same for all takes dials and numbers alone', async () => {
    expect(await first(document([0, { formula: 't' }, 0]))).toBe('Move is [0,{"formula":"t"},0]; it accepts three finite numbers [x, y, z].');
  });
});
