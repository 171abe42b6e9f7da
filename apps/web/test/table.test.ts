/** The table of values as the worker makes it: rows, columns, sorting, filters, places, and its text. */
import { beforeAll, describe, expect, test } from 'vitest';
import { requireDocument, resultOf, type GeometrySet } from '@filaxis/core';
import type { TableQuestion } from '@filaxis/protocol';
import { answer } from '../src/workers/answers';
import type { Newest } from '../src/workers/newest';
import { sketchOf } from '../src/workers/sketch';
import { columnFigures, locate, tableText, tableWindow } from '../src/workers/table';
import { asked, curves, ran, ranDocument } from './runs';

/** A line of five points a metre apart with a value of ten times x, and a tube of sixteen faces along it. */
const document = requireDocument({
  format: 'filaxis-graph', version: 1, title: 'Values',
  dials: [{ id: 'least', label: 'Least', kind: 'number', value: 25 }],
  nodes: [
    { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0] } },
    { id: 'five', type: 'pace.resample', settings: { by: 'count', count: 5 } },
    { id: 'worn', type: 'gauge.set', name: 'Worn', settings: { name: 'wear', value: { formula: '10*x' } } },
    { id: 'tube', type: 'skin.tube', settings: { radius: 0.1, sides: 4, caps: 'open' } },
  ],
  wires: [
    { from: ['line', 'curves'], to: ['five', 'curves'] }, { from: ['five', 'curves'], to: ['worn', 'any'] },
    { from: ['worn', 'any'], to: ['tube', 'curves'] },
  ],
}); // prettier-ignore

let newest: Newest;
beforeAll(async () => {
  newest = await ranDocument(document);
  for (const [id, { error }] of newest.run.nodes) if (error) throw new Error(`${id}: ${error.message}`);
});
const column = (question: TableQuestion, name: string): number[] => {
  const { columns, elements, values } = tableWindow(newest, question);
  return Array.from(elements, (_, r) => values[r * columns.length + columns.indexOf(name)]);
};

describe('rows', () => {
  test('are the points of curves first, with their own names and attributes; frames that no step asked for are left out', () => {
    const table = tableWindow(newest, asked('worn'));
    expect([table.kind, table.kinds, table.per, table.pers, table.total, table.all, table.from]).toEqual([
      'curves',
      ['curves'],
      'point',
      ['point', 'curve', 'whole'],
      5,
      5,
      0,
    ]);
    expect(table.columns).toEqual(expect.arrayContaining(['t', 's', 'x', 'y', 'z', 'wear']));
    expect(table.columns.filter((name) => ['nx', 'L', 'n', 'id', 'normal'].includes(name))).toEqual([]);
    expect([column(asked('worn'), 'wear'), column(asked('worn'), 's')]).toEqual([[0, 10, 20, 30, 40], [0, 1, 2, 3, 4]]); // prettier-ignore
    expect([...table.places.slice(6, 9)]).toEqual([2, 0, 0]);
  });

  test('of a curve are one each, with its length and middle', () => {
    const table = tableWindow(newest, asked('worn', { per: 'curve' }));
    expect([table.total, table.columns.slice(0, 2), column(asked('worn', { per: 'curve' }), 'L'), [...table.places]]).toEqual([1, ['c', 'L'], [4], [2, 0, 0]]); // prettier-ignore
    // What a kind has no elements for is its usual one.
    expect(tableWindow(newest, asked('worn', { per: 'face' })).per).toBe('point');
  });

  test('of a mesh are its faces, which lie in their middles, or its points', () => {
    const faces = tableWindow(newest, asked('tube'));
    expect([faces.kind, faces.per, faces.total]).toEqual(['mesh', 'face', 16]);
    const [x, y, z] = faces.places;
    expect([x % 1, Math.hypot(y, z)]).toEqual([0.5, expect.closeTo(0.1 * Math.SQRT1_2, 6)]);
    const points = tableWindow(newest, asked('tube', { per: 'point' }));
    expect(Math.hypot(points.places[1], points.places[2])).toBeCloseTo(0.1, 6);
  });

  test('are a window of all: from where, how many, never beyond the end', () => {
    expect([...tableWindow(newest, asked('worn', { from: 1, count: 2 })).elements]).toEqual([1, 2]);
    const beyond = tableWindow(newest, asked('worn', { from: 99, count: 2 }));
    expect([beyond.from, beyond.elements.length, beyond.total]).toEqual([5, 0, 5]);
    expect(tableWindow(newest, asked('worn', { from: -3, count: 2 })).from).toBe(0);
  });

  test('that are not there are said by the name of the node', async () => {
    const empty = await ranDocument(
      requireDocument({ format: 'filaxis-graph', version: 1, title: 'E', wires: [], nodes: [{ id: 'a', type: 'skin.tube', name: 'Hose' }] }),
    );
    expect(() => tableWindow(empty, asked('a'))).toThrow(/Hose/);
  });
});

describe('sorting and filters', () => {
  test('rows go up and down by a column, those that are no numbers last either way; a column that is not there sorts nothing', async () => {
    expect(column(asked('worn', { sort: { column: 'wear', descending: true } }), 'wear')).toEqual([40, 30, 20, 10, 0]);
    expect(column(asked('worn', { sort: { column: 'lost', descending: true } }), 'wear')).toEqual([0, 10, 20, 30, 40]);
    // Nodes refuse to make such values; files may bring them.
    const odd = await ranDocument(document);
    (resultOf(odd.run.nodes.get('worn')) as GeometrySet).curves!.attributes.get('wear')!.data.set([3, 2, NaN, 0, -1]);
    const sorted = (descending: boolean): number[] => [...tableWindow(odd, asked('worn', { sort: { column: 'wear', descending } })).elements];
    expect([sorted(false), sorted(true)]).toEqual([[4, 3, 1, 0, 2], [0, 1, 3, 4, 2]]); // prettier-ignore
    expect(columnFigures(odd, { ...asked('worn'), column: 'wear' })).toMatchObject({ notFinite: 1, sketch: { low: -1, high: 3, count: 4 } });
  });

  test('a formula keeps the rows for which it is true, with dials by their names', () => {
    expect(column(asked('worn', { filter: 'wear > least' }), 'wear')).toEqual([30, 40]);
    const { total, all } = tableWindow(newest, asked('worn', { filter: 'x < 0' }));
    expect([total, all]).toEqual([0, 5]);
    expect(() => tableWindow(newest, asked('worn', { filter: 'wear >' }))).toThrow();
  });

  test('the same question again is answered by the same rows; another is not', () => {
    const question = asked('worn', { filter: 'wear > least' });
    expect(tableWindow(newest, question)).toEqual(tableWindow(newest, { ...question }));
    expect(tableWindow(newest, { ...question, filter: 'wear > 5' }).total).toBe(4);
  });
});

describe('one column, one place, and the text', () => {
  test('figures of a column are of the rows that are shown', () => {
    const { sketch, notFinite } = columnFigures(newest, { ...asked('worn', { filter: 'wear > least' }), column: 'wear' });
    expect([sketch!.low, sketch!.high, sketch!.mean, sketch!.count, notFinite]).toEqual([30, 40, 35, 2, 0]);
    expect(() => columnFigures(newest, { ...asked('worn'), column: 'lost' })).toThrow('There is no column "lost".');
  });

  test('the element nearest to a place is found, with its row; of faces the one that the place lies on', () => {
    expect(locate(newest, { ...asked('worn', { sort: { column: 'x', descending: true } }), place: [2.9, 0, 0] })).toEqual({
      element: 3,
      row: 1,
      place: [3, 0, 0],
    });
    expect(locate(newest, { ...asked('worn', { filter: 'x < 1' }), place: [2.9, 0, 0] })).toMatchObject({ element: 3, row: null });
    const { element, place } = locate(newest, { ...asked('tube'), place: [2.5, 0.08, 0] });
    expect([place[0], place[1] > 0, element]).toEqual([2.5, true, expect.any(Number)]);
  });

  test('its text is CSV: a heading, the element’s number, then its columns', () => {
    const [head, first, second, ...rest] = tableText(newest, asked('worn', { sort: { column: 'wear', descending: true } })).split('\r\n');
    const names = head.split(',');
    expect([names[0], first.split(',')[0], second.split(',')[names.indexOf('wear')], rest.length]).toEqual(['point', '4', '30', 4]);
    expect(rest.at(-1)).toBe('');
  });
});

describe('asked as the page asks it', () => {
  test('a row for each point with its own names and attributes', async () => {
    const table = answer(await ran(curves), 'table', asked('a'));
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
    expect([...answer(run, 'table', asked('a', { filter: 'width > 1' })).elements]).toEqual([2, 3, 4]);
    expect([...answer(run, 'table', asked('a', { sort: { column: 'width', descending: true } })).elements]).toEqual([4, 3, 2, 1, 0]);
    expect([...answer(run, 'table', asked('a', { sort: { column: 'width', descending: false }, from: 1, count: 2 })).elements]).toEqual([1, 2]);
    expect(() => answer(run, 'table', asked('a', { filter: 'widht > 1' }))).toThrow('Column 1: there is no "widht" here; "width" may be meant');
    expect(() => answer(run, 'table', asked('nobody'))).toThrow('nobody has no elements to list.');
  });

  test('per curve: length and place; per face of a mesh: its middle', async () => {
    const perCurve = answer(await ran(curves), 'table', asked('a', { per: 'curve' }));
    expect(perCurve.columns).toEqual(['c', 'L', 'x', 'y', 'z']);
    expect([...perCurve.values.slice(0, 3)]).toEqual([0, 4, 5 / 3]);
    const tube = await ran([
      ['l', 'lay.line', { to: [2, 0, 0] }],
      ['t', 'skin.tube', { sides: 4, radius: 1 }],
    ]);
    const faces = answer(tube, 'table', asked('t'));
    expect(faces).toMatchObject({ kind: 'mesh', per: 'face', total: 4 });
    expect(faces.places[0]).toBeCloseTo(1, 6);
    expect(Math.hypot(faces.places[1], faces.places[2])).toBeCloseTo(Math.SQRT1_2, 6);
    // A place on the second face finds it, though its middle may not be the nearest.
    const at = [...faces.places.slice(3, 6)] as [number, number, number];
    expect(answer(tube, 'locate', { ...asked('t'), place: [0.05, at[1], at[2]] })).toMatchObject({ element: 1, row: 1 });
  });

  test('figures of a column, what is not finite apart; the whole as CSV', async () => {
    const run = await ran(curves);
    const { sketch, notFinite } = answer(run, 'column', { ...asked('a'), column: 'width' });
    expect([sketch!.low, sketch!.high, sketch!.mean, sketch!.count, notFinite]).toEqual([0, 11, 4.8, 5, 0]);
    expect(sketch!.bins.reduce((sum, n) => sum + n, 0)).toBe(5);
    const lines = answer(run, 'csv', asked('a', { filter: 'width > 10' }))
      .trim()
      .split('\r\n');
    expect(lines[0].split(',')[0]).toBe('point');
    expect(lines.length).toBe(2);
    expect(sketchOf((i) => [NaN, 1, Infinity][i], 3)).toMatchObject({ low: 1, high: 1, count: 1 });
    expect(sketchOf(() => NaN, 3)).toBeNull();
  });
});
