import { describe, expect, test } from 'vitest';
import { checkDocument, colourOf, colourParts, Evaluator, Plan, requireDocument, type Dial, type FilaxisDocument, type NodeResult } from '../../src/index.js';

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

  test('a setting that is the same for all takes formulas of dials and time, not of elements', async () => {
    expect(await first(document([0, { formula: 't' }, 0]))).toContain('"t" belongs to single elements');
    expect(await first(document([0, { ramp: [[0, 1]] }, 0]))).toContain('it accepts three finite numbers [x, y, z].');
  });
});

describe('a colour part by part', () => {
  const painted = (colour: unknown, dials: readonly Dial[] = []): FilaxisDocument =>
    requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Paint',
      dials,
      nodes: [
        { id: 'box', type: 'lay.box' },
        { id: 'it', type: 'mesh.material', settings: { colour } },
      ],
      wires: [{ from: ['box', 'mesh'], to: ['it', 'any'] }],
    });
  const colourOfRun = async (of: FilaxisDocument, dials = {}): Promise<unknown> => {
    const { outputs, error } = await run(of, dials);
    const made = outputs['any'];
    return made?.type === 'mesh' ? made.materials[0].colour : error?.message;
  };
  const red: Dial = { id: 'red', label: 'Red', kind: 'number', value: 1, min: 0, max: 1 };

  test('is the colour that its parts make, each of which may follow a dial', async () => {
    expect(await colourOfRun(painted([1, 0.5, 0]))).toBe(await colourOfRun(painted('#ff8000')));
    const made = painted([{ dial: 'red' }, 0, 1], [red]);
    expect(checkDocument(made)).toEqual([]);
    expect(await colourOfRun(made)).toBe(await colourOfRun(painted('#ff00ff')));
    expect(await colourOfRun(made, { red: 0 })).toBe(await colourOfRun(painted('#0000ff')));
  });

  test('every colour comes back from its parts', () => {
    for (let n = 0; n < 256; n++) {
      const hex = `#${[n, 255 - n, (n * 7) % 256].map((part) => part.toString(16).padStart(2, '0')).join('')}`;
      expect(colourOf(colourParts(hex))).toBe(hex);
    }
  });

  test.each([
    [[1, 0.5], 'Colour is [1,0.5]; it accepts a colour such as #a2323f, or its red, green and blue from 0 to 1.'],
    [[1, 2, 0], 'Colour g is 2; it accepts numbers from 0 to 1.'],
    [[1, 'x', 0], 'Colour g is "x"; it accepts numbers from 0 to 1.'],
  ])('%j is refused by its part', async (colour, says) => expect(await colourOfRun(painted(colour))).toBe(says));
});
