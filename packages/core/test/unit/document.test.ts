import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { generateDocumentValidator, generatedPath } from '../../../../scripts/generate-validators.js';
import type { DocumentError } from '../../src/index.js';
import {
  checkDocument,
  Evaluator,
  faultyText,
  orderNodes,
  outputKind,
  parseDocument,
  Plan,
  problemsOf,
  requireDocument,
  wouldCycle,
  type FilaxisDocument,
} from '../../src/index.js';
import { chainDocument } from '../graph.js';

const base = { format: 'filaxis-graph', version: 1, title: 'Fender', nodes: [], wires: [] };
const line = { id: 'a', type: 'lay.line' };

/** Pointer and message of the first thing that is wrong with the form. */
function formFault(data: unknown): string {
  try {
    requireDocument(data);
    return 'fine';
  } catch (error) {
    const [{ pointer, message }] = (error as DocumentError).problems;
    return `${pointer}: ${message}`;
  }
}

test('the generated validator is that of the schema (else: npm run generate)', async () => {
  expect(readFileSync(generatedPath, 'utf8')).toBe(await generateDocumentValidator());
});

describe('the form of a document is checked with exact places', () => {
  const cases: readonly (readonly [unknown, string])[] = [
    [{ ...base }, 'fine'],
    ['text', ': The document must be object.'],
    [{ ...base, format: 'other' }, '/format: The document here must be equal to constant: "filaxis-graph".'],
    [{ ...base, version: 2 }, '/version: The document has version 2; this Filaxis reads version 1.'],
    [{ ...base, title: '' }, '/title: The document here must NOT have fewer than 1 characters.'],
    [{ ...base, surprise: 1 }, ': The document has no "surprise".'],
    [{ ...base, nodes: [{ id: 'a' }] }, "/nodes/0: The document here must have required property 'type'."],
    [{ ...base, nodes: [{ ...line, at: [0, Infinity] }] }, '/nodes/0/at/1: The document here must be <= 1000000000000.'],
    [{ ...base, nodes: [{ ...line, id: '7 of 9' }] }, '/nodes/0/id: The document here must match pattern "^[A-Za-z][A-Za-z0-9_-]{0,63}$".'],
    [{ ...base, wires: [{ from: ['a'], to: ['b', 'curves'] }] }, '/wires/0/from: The document here must NOT have fewer than 2 items.'],
    [
      { ...base, dials: [{ id: 'd', label: 'D', kind: 'knob', value: 1 }] },
      '/dials/0/kind: The document here must be equal to one of the allowed values: ["number","integer","vector","boolean","choice","colour","text","seed"].',
    ],
  ];
  for (const [data, wanted] of cases) test(wanted, () => expect(formFault(data)).toBe(wanted));

  test('text that is no JSON', () => expect(() => parseDocument('{"format":')).toThrow(/^This is not JSON: /));
});

describe('nodes, wires and dials are checked with exact places', () => {
  const problems = (change: object): string[] =>
    checkDocument(requireDocument({ ...base, ...change }) as FilaxisDocument).map(({ pointer, message }) => `${pointer}: ${message}`);
  const nodes = [line, { id: 'b', type: 'skin.tube' }, { id: 'c', type: 'skin.tube' }];
  const wire = (from: string[], to: string[]): object => ({ from, to });

  const cases: readonly (readonly [object, string])[] = [
    [{ nodes: [{ id: 'a', type: 'lay.rope' }] }, '/nodes/0/type: There is no node "lay.rope".'],
    [{ nodes: [line, line] }, '/nodes/1/id: Two nodes have the id "a".'],
    [
      { nodes: [{ ...line, settings: { colour: 1 } }] },
      '/nodes/0/settings/colour: Line has no setting "colour"; it has "from", "to", "points", "length", "direction", "centred".',
    ],
    [{ nodes, wires: [wire(['z', 'curves'], ['b', 'curves'])] }, '/wires/0/from/0: There is no node "z".'],
    [{ nodes, wires: [wire(['a', 'mesh'], ['b', 'curves'])] }, '/wires/0/from/1: Line has no output "mesh"; it has "curves".'],
    [{ nodes, wires: [wire(['a', 'curves'], ['b', 'mesh'])] }, '/wires/0/to/1: Tube has no input "mesh"; it has "curves".'],
    [{ nodes, wires: [wire(['b', 'mesh'], ['c', 'curves'])] }, '/wires/0: Tube gives mesh, which does not fit "curves" of Tube; that takes curves.'],
    [
      { nodes, wires: [wire(['a', 'curves'], ['b', 'curves']), wire(['a', 'curves'], ['b', 'curves'])] },
      '/wires/1/to: "curves" of "b" takes one wire and has one already.',
    ],
    [{ dials: [{ id: 'd', label: 'D', kind: 'number', value: 5, max: 2 }] }, '/dials/0/value: Dial "d" is 5; it accepts numbers from -Infinity to 2.'],
    [
      {
        nodes: [
          { id: 'o', type: 'flow.output' },
          { id: 'p', type: 'flow.output' },
        ],
      },
      '/nodes/1/settings/name: Outputs "o" and "p" have the same name, "main".',
    ],
  ];
  for (const [change, wanted] of cases) test(wanted, () => expect(problems(change)).toContain(wanted));

  test('wires in a circle are refused, and told', () => {
    const circle = requireDocument({ ...base, nodes: [{ id: 'x', type: 'shape.transform' }, { id: 'y', type: 'shape.transform' }], wires: [wire(['x', 'any'], ['y', 'any']), wire(['y', 'any'], ['x', 'any'])] }); // prettier-ignore
    expect(checkDocument(circle).map(({ message }) => message)).toContain('The wires go round in a circle through "x", "y".');
    expect(orderNodes(circle).circle).toEqual(['x', 'y']);
    // A node behind the circle is no part of it.
    const behind = {
      ...circle,
      nodes: [...circle.nodes, { id: 'z', type: 'flow.output' }],
      wires: [...circle.wires, { from: ['y', 'any'], to: ['z', 'any'] } as const],
    };
    expect(orderNodes(behind)).toEqual({ order: ['x', 'y', 'z'], circle: ['x', 'y'] });
    expect(wouldCycle(chainDocument([['lay.line'], ['shape.transform'], ['shape.transform']]), 'n2', 'n1')).toBe(true);
  });

  test('the kind of an any-output is followed back', () => {
    const chain = chainDocument([['lay.circle'], ['shape.transform'], ['flow.join'], ['shape.transform']]);
    expect(outputKind(chain, 'n3', 'any')).toBe('curves');
  });
});

describe('wrong values are told at the node, with what is accepted', () => {
  const fault = async (type: string, settings: Record<string, unknown>): Promise<string> => {
    const plan = new Plan(chainDocument([['lay.line'], [type, settings]]));
    const run = await new Evaluator().run(plan);
    const [problem] = problemsOf(plan, run);
    return `${problem.pointer}: ${problem.message}`;
  };
  const cases: readonly (readonly [string, Record<string, unknown>, string])[] = [
    ['skin.tube', { radius: 0 }, '/nodes/1/settings/radius: Radius is 0; it accepts numbers above 0 m.'],
    ['skin.tube', { radius: -1 }, '/nodes/1/settings/radius: Radius is -1; it accepts numbers above 0 m.'],
    ['skin.tube', { radius: 'wide' }, '/nodes/1/settings/radius: Radius is "wide"; it accepts numbers above 0 m.'],
    ['skin.tube', { sides: 2.5 }, '/nodes/1/settings/sides: Sides is 2.5; it accepts whole numbers from 3 to 4096.'],
    ['skin.tube', { caps: 'pointed' }, '/nodes/1/settings/caps: Caps is "pointed"; it accepts open, flat, domed.'],
    ['skin.tube', { radius: { ramp: [[0, 1], [1, -2]] } }, '/nodes/1/settings/radius/ramp/1/1: Radius at key 1 of the ramp is -2; it accepts numbers, 0 m or more.'], // prettier-ignore
    ['skin.tube', { radius: { ramp: [[1, 1], [0, 2]] } }, '/nodes/1/settings/radius: Radius: Key 1 of the ramp is at 0, before key 0; places must rise.'], // prettier-ignore
    [
      'skin.tube',
      { radius: { formula: '0.1*t)' } },
      '/nodes/1/settings/radius: Radius: Column 6: expected an operator or the end, since no bracket is open, found ")".',
    ],
    ['skin.tube', { radius: { dial: 'nobody' } }, '/nodes/1/settings/radius/dial: There is no dial "nobody".'],
    ['pace.resample', { count: 1 }, '/nodes/1/settings/count: Count is 1; it accepts whole numbers from 2 to 20000000.'],
    ['pace.resample', { count: 100_000_000 }, '/nodes/1/settings/count: Count is 100000000; it accepts whole numbers from 2 to 20000000.'],
    ['pace.resample', { by: 'spacing', spacing: 1e-9 }, '/nodes/1: This would make 1,000,000,001 points; the limit is 20,000,000.'],
    ['shape.transform', { move: [0, 1] }, '/nodes/1/settings/move: Move is [0,1]; it accepts three finite numbers [x, y, z].'],
    ['shape.transform', { move: [0, Infinity, 0] }, '/nodes/1/settings/move: Move is [0,"Infinity",0]; it accepts three finite numbers [x, y, z].'],
    [
      'mesh.material',
      { colour: 'red' },
      '/nodes/1/settings/colour: Colour is "red"; it accepts a colour such as #a2323f, or its red, green and blue from 0 to 1.',
    ],
  ];
  for (const [type, settings, wanted] of cases)
    test(wanted, async () => {
      if (type === 'mesh.material') {
        const plan = new Plan(chainDocument([['lay.line'], ['skin.tube'], [type, settings]]));
        const [problem] = problemsOf(plan, await new Evaluator().run(plan));
        expect(`${problem.pointer}: ${problem.message}`).toBe(wanted.replace('/nodes/1', '/nodes/2'));
      } else expect(await fault(type, settings)).toBe(wanted);
    });

  test('drawn curves: the place inside the list', async () => {
    const plan = new Plan(chainDocument([['lay.drawn', { kind: 'bezier', curves: [{ points: [[0, 0, 0], [1, 0, 0]] }] }]])); // prettier-ignore
    const [problem] = problemsOf(plan, await new Evaluator().run(plan));
    expect(problem).toMatchObject({
      pointer: '/nodes/0/settings/curves/0/points',
      message: 'Curves: Bezier curve 0 has 2 points; without handles it needs 4, 7, 10 … (corner, handle, handle, corner).',
    });
  });

  test('a line of no length', async () => {
    const plan = new Plan(chainDocument([['lay.line', { to: [0, 0, 0] }]]));
    expect(problemsOf(plan, await new Evaluator().run(plan))[0].message).toBe(
      'The line starts and ends at [0,0,0]; it needs two different places, or a length above 0.',
    );
  });
});

describe('text anywhere in a document', () => {
  test('is well-formed Unicode without control characters, told by its place', () => {
    const document = (more: object): object => ({ format: 'filaxis-graph', version: 1, title: 'x', nodes: [], wires: [], ...more });
    const told = (more: object): string => {
      try {
        requireDocument(document(more));
        return 'fine';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(told({ title: 'Tauwerk, 縄, 🪢, e\u0301\tand\nmore' })).toBe('fine');
    expect(told({ title: 'a\u0000' })).toBe('/title: a text has the control character U+0000 at place 1; take it out.');
    expect(told({ notes: [{ text: 'ok' }, { text: '\ud800x' }] })).toContain('/notes/1/text: a text has half a character (U+D800) at place 0');
    expect(told({ nodes: [{ id: 'a', type: 'lay.line', settings: { 'a~/b': '\u007f' } }] })).toContain(
      '/nodes/0/settings/a~0~1b: a text has the control character U+007F',
    );
    expect(told({ view: { '\u0001': 1 } })).toContain('/view: the name of a field');
  });
  test('is looked through however deep it is', () => {
    let deep: unknown = 'x';
    for (let i = 0; i < 200_000; i++) deep = [deep];
    expect(faultyText(deep)).toBeNull();
  });
});
