import { describe, expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument } from '@filaxis/core';
import type { TableQuestion } from '@filaxis/protocol';
import { answer } from '../src/workers/answers';
import type { Newest } from '../src/workers/newest';
import { apart, colourNames, meshValues, rangeOfValues } from '../src/workers/colour';
import { sketchOf } from '../src/workers/sketch';

type NodeList = readonly (readonly [id: string, type: string, settings?: object])[];

/** A run of nodes wired one after the other. */
async function ran(nodes: NodeList, dials: object[] = []): Promise<Newest> {
  const document = requireDocument({
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
  });
  const plan = new Plan(document);
  return { plan, time: 0, shown: [nodes.at(-1)![0]], run: await new Evaluator().run(plan) };
}

const curves: NodeList = [
  ['d', 'lay.drawn', { curves: [{ points: [[0, 0, 0], [1, 0, 0], [4, 0, 0]] }, { points: [[0, 5, 0], [0, 7, 0]] }] }],
  ['a', 'gauge.set', { name: 'width', value: { formula: 'c*10 + i' } }],
]; // prettier-ignore
const question = (more: Partial<TableQuestion> = {}): TableQuestion => ({
  node: 'a',
  kind: null,
  per: null,
  sort: null,
  filter: '',
  from: 0,
  count: 100,
  ...more,
});

test('what can be chosen for a file: UV sets, values that could be a colour, parts and copies', async () => {
  const run = await ran([...curves, ['t', 'skin.tube', { caps: 'flat' }]]);
  expect(answer(run, 'writable', { node: 't' })).toEqual({ uvSets: ['uv'], colours: ['material', 'normal', 'part', 'width'].filter((name) => name !== 'material'), parts: 3, copies: 0, called: 't', counts: { vertices: expect.any(Number), faces: expect.any(Number) } }); // prettier-ignore
  expect(() => answer(run, 'writable', { node: 'late' })).toThrow('late has not been computed yet.');
  expect(answer(run, 'writable', { node: 'd' })).toEqual({ uvSets: [], colours: [], parts: 0, copies: 0, called: 'd', counts: { curves: 2, points: 5 } });
});

describe('the table of values', () => {
  test('a row for each point with its own names and attributes', async () => {
    const table = answer(await ran(curves), 'table', question());
    expect(table).toMatchObject({ kind: 'curves', per: 'point', pers: ['point', 'curve', 'whole'], total: 5, all: 5 });
    const width = table.columns.indexOf('width');
    const s = table.columns.indexOf('s');
    const cell = (row: number, column: number): number => table.values[row * table.columns.length + column];
    expect([0, 1, 2, 3, 4].map((row) => cell(row, width))).toEqual([0, 1, 2, 10, 11]);
    expect([0, 1, 2, 3, 4].map((row) => Number(cell(row, s).toFixed(9)))).toEqual([0, 1, 4, 0, 2]);
    expect([...table.places.slice(6, 9)]).toEqual([4, 0, 0]);
  });

  test('filtered by a formula, sorted both ways, a window of it', async () => {
    const run = await ran(curves);
    expect([...answer(run, 'table', question({ filter: 'width > 1' })).elements]).toEqual([2, 3, 4]);
    expect([...answer(run, 'table', question({ sort: { column: 'width', descending: true } })).elements]).toEqual([4, 3, 2, 1, 0]);
    expect([...answer(run, 'table', question({ sort: { column: 'width', descending: false }, from: 1, count: 2 })).elements]).toEqual([1, 2]);
    expect(() => answer(run, 'table', question({ filter: 'widht > 1' }))).toThrow('Column 1: there is no "widht" here; "width" may be meant');
    expect(() => answer(run, 'table', question({ node: 'nobody' }))).toThrow('nobody has no elements to list.');
  });

  test('per curve: length and place; per face of a mesh: its middle', async () => {
    const perCurve = answer(await ran(curves), 'table', question({ per: 'curve' }));
    expect(perCurve.columns).toEqual(['c', 'L', 'x', 'y', 'z']);
    expect([...perCurve.values.slice(0, 3)]).toEqual([0, 4, 5 / 3]);
    const tube = await ran([
      ['l', 'lay.line', { to: [2, 0, 0] }],
      ['t', 'skin.tube', { sides: 4, radius: 1 }],
    ]);
    const faces = answer(tube, 'table', question({ node: 't' }));
    expect(faces).toMatchObject({ kind: 'mesh', per: 'face', total: 4 });
    expect(faces.places[0]).toBeCloseTo(1, 6);
    expect(Math.hypot(faces.places[1], faces.places[2])).toBeCloseTo(Math.SQRT1_2, 6);
    // A place on the second face finds it, though its middle may not be the nearest.
    const at = [...faces.places.slice(3, 6)] as [number, number, number];
    expect(answer(tube, 'locate', { ...question({ node: 't' }), place: [0.05, at[1], at[2]] })).toMatchObject({ element: 1, row: 1 });
  });

  test('figures of a column, what is not finite apart; the whole as CSV', async () => {
    const run = await ran(curves);
    const { sketch, notFinite } = answer(run, 'column', { ...question(), column: 'width' });
    expect([sketch!.low, sketch!.high, sketch!.mean, sketch!.count, notFinite]).toEqual([0, 11, 4.8, 5, 0]);
    expect(sketch!.bins.reduce((sum, n) => sum + n, 0)).toBe(5);
    const lines = answer(run, 'csv', question({ filter: 'width > 10' }))
      .trim()
      .split('\r\n');
    expect(lines[0].split(',')[0]).toBe('point');
    expect(lines.length).toBe(2);
    expect(sketchOf((i) => [NaN, 1, Infinity][i], 3)).toMatchObject({ low: 1, high: 1, count: 1 });
    expect(sketchOf(() => NaN, 3)).toBeNull();
  });
});

describe('the names a setting can be given by', () => {
  test('elements, attributes and dials with their ranges, and the values it has', async () => {
    const dials = [{ id: 'thick', label: 'Thick', kind: 'number', value: 0.3 }];
    const run = await ran([...curves, ['t', 'skin.tube', { radius: { formula: 'thick + 0.01*width' } }]], dials);
    const { names, values, complete } = answer(run, 'names', { node: 't', setting: 'radius' });
    expect(complete).toBe(true);
    const known = Object.fromEntries(names.map((each) => [each.name, each]));
    expect(known['width']).toMatchObject({ kind: 'attribute', range: [0, 11] });
    expect(known['s']).toMatchObject({ kind: 'element', range: [0, 4] });
    expect(known['thick']).toMatchObject({ kind: 'dial', range: [0.3, 0.3] });
    expect(values!.low).toBeCloseTo(0.3, 9);
    expect(values!.line.length).toBe(3);
  });

  test('names stay known while a mistake is in the value', async () => {
    const wrong = await ran([...curves, ['t', 'skin.tube', { radius: { formula: '0.1*widht' } }]]);
    const { names, values } = answer(wrong, 'names', { node: 't', setting: 'radius' });
    expect(names.map(({ name }) => name)).toContain('width');
    expect(values).toBeNull();
  });
});

describe('values as colour', () => {
  test('of vertices, and of faces on a mesh taken apart', async () => {
    const { run } = await ran([['l', 'lay.line', { to: [2, 0, 0] }], ['t', 'skin.tube', { sides: 4 }], ['f', 'gauge.set', { name: 'own', carrier: 'faces', value: { formula: 'i' } }]]); // prettier-ignore
    const mesh = run.nodes.get('f')!.outputs['any'];
    if (mesh.type !== 'mesh') throw new Error('no mesh');
    expect(colourNames(mesh)).toEqual(expect.arrayContaining(['x', 'u', 'own']));
    expect(meshValues(mesh, 'own')).toMatchObject({ per: 'face', values: Float32Array.of(0, 1, 2, 3) });
    expect(meshValues(mesh, 'x')!.per).toBe('point');
    expect(meshValues(mesh, 'nothing')).toBeNull();
    const own = apart(mesh);
    expect(own.positions.length).toBe(mesh.corners.length * 3);
    expect([...own.positions.slice(0, 3)]).toEqual([...mesh.positions.slice(mesh.corners[0] * 3, mesh.corners[0] * 3 + 3)]);
    expect(rangeOfValues([Float32Array.of(NaN, 2), null, Float32Array.of(-1)])).toEqual({ low: -1, high: 2 });
    expect(rangeOfValues([Float32Array.of(NaN)])).toBeNull();
  });
});
