/** The table of values as the worker makes it: rows, columns, sorting, filters, places, and its text. */
import { beforeAll, describe, expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument, resultOf, type FilaxisDocument, type GeometrySet } from '@filaxis/core';
import type { TableQuestion } from '@filaxis/protocol';
import type { Newest } from '../src/workers/newest';
import { onBody, strokePoints } from '../src/workers/onBody';
import { columnFigures, locate, tableText, tableWindow } from '../src/workers/table';

/** A line of five points a metre apart with a value of ten times x, a square plate of 2 × 2 faces, and three copies along the line. */
const document = requireDocument({
  format: 'filaxis-graph', version: 1, title: 'Values',
  dials: [{ id: 'least', label: 'Least', kind: 'number', value: 25 }],
  nodes: [
    { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0] } },
    { id: 'five', type: 'pace.resample', settings: { by: 'count', count: 5 } },
    { id: 'worn', type: 'gauge.set', name: 'Worn', settings: { name: 'wear', value: { formula: '10*x' } } },
    { id: 'tube', type: 'skin.tube', settings: { radius: 0.1, sides: 4, caps: 'open' } },
    { id: 'stroke', type: 'lay.surfaceStroke', settings: { strokes: [] } },
  ],
  wires: [
    { from: ['line', 'curves'], to: ['five', 'curves'] }, { from: ['five', 'curves'], to: ['worn', 'any'] },
    { from: ['worn', 'any'], to: ['tube', 'curves'] }, { from: ['tube', 'mesh'], to: ['stroke', 'mesh'] },
  ],
}); // prettier-ignore

async function ran(given: FilaxisDocument): Promise<Newest> {
  const plan = new Plan(given);
  return { plan, run: await new Evaluator().run(plan, {}), time: 0 } as unknown as Newest;
}
let newest: Newest;
beforeAll(async () => {
  newest = await ran(document);
  for (const [id, { error }] of newest.run.nodes) if (error) throw new Error(`${id}: ${error.message}`);
});
const asked = (more: Partial<TableQuestion> = {}): TableQuestion => ({
  node: 'worn',
  kind: null,
  per: null,
  sort: null,
  filter: '',
  from: 0,
  count: 100,
  ...more,
});
const column = (question: TableQuestion, name: string): number[] => {
  const { columns, elements, values } = tableWindow(newest, question);
  return Array.from(elements, (_, r) => values[r * columns.length + columns.indexOf(name)]);
};

describe('rows', () => {
  test('are the points of curves first, with their own names and attributes; frames that no step asked for are left out', () => {
    const table = tableWindow(newest, asked());
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
    expect([column(asked(), 'wear'), column(asked(), 's')]).toEqual([[0, 10, 20, 30, 40], [0, 1, 2, 3, 4]]); // prettier-ignore
    expect([...table.places.slice(6, 9)]).toEqual([2, 0, 0]);
  });

  test('of a curve are one each, with its length and middle', () => {
    const table = tableWindow(newest, asked({ per: 'curve' }));
    expect([table.total, table.columns.slice(0, 2), column(asked({ per: 'curve' }), 'L'), [...table.places]]).toEqual([1, ['c', 'L'], [4], [2, 0, 0]]); // prettier-ignore
    // What a kind has no elements for is its usual one.
    expect(tableWindow(newest, asked({ per: 'face' })).per).toBe('point');
  });

  test('of a mesh are its faces, which lie in their middles, or its points', () => {
    const faces = tableWindow(newest, asked({ node: 'tube' }));
    expect([faces.kind, faces.per, faces.total]).toEqual(['mesh', 'face', 16]);
    const [x, y, z] = faces.places;
    expect([x % 1, Math.hypot(y, z)]).toEqual([0.5, expect.closeTo(0.1 * Math.SQRT1_2, 6)]);
    const points = tableWindow(newest, asked({ node: 'tube', per: 'point' }));
    expect(Math.hypot(points.places[1], points.places[2])).toBeCloseTo(0.1, 6);
  });

  test('are a window of all: from where, how many, never beyond the end', () => {
    expect([...tableWindow(newest, asked({ from: 1, count: 2 })).elements]).toEqual([1, 2]);
    const beyond = tableWindow(newest, asked({ from: 99, count: 2 }));
    expect([beyond.from, beyond.elements.length, beyond.total]).toEqual([5, 0, 5]);
    expect(tableWindow(newest, asked({ from: -3, count: 2 })).from).toBe(0);
  });

  test('that are not there are said by the name of the node', async () => {
    const empty = await ran(
      requireDocument({ format: 'filaxis-graph', version: 1, title: 'E', wires: [], nodes: [{ id: 'a', type: 'skin.tube', name: 'Hose' }] }),
    );
    expect(() => tableWindow(empty, asked({ node: 'a' }))).toThrow(/Hose/);
  });
});

describe('sorting and filters', () => {
  test('rows go up and down by a column, those that are no numbers last either way; a column that is not there sorts nothing', async () => {
    expect(column(asked({ sort: { column: 'wear', descending: true } }), 'wear')).toEqual([40, 30, 20, 10, 0]);
    expect(column(asked({ sort: { column: 'lost', descending: true } }), 'wear')).toEqual([0, 10, 20, 30, 40]);
    // Nodes refuse to make such values; files may bring them.
    const odd = await ran(document);
    (resultOf(odd.run.nodes.get('worn')) as GeometrySet).curves!.attributes.get('wear')!.data.set([3, 2, NaN, 0, -1]);
    const sorted = (descending: boolean): number[] => [...tableWindow(odd, asked({ sort: { column: 'wear', descending } })).elements];
    expect([sorted(false), sorted(true)]).toEqual([[4, 3, 1, 0, 2], [0, 1, 3, 4, 2]]); // prettier-ignore
    expect(columnFigures(odd, { ...asked(), column: 'wear' })).toMatchObject({ notFinite: 1, sketch: { low: -1, high: 3, count: 4 } });
  });

  test('a formula keeps the rows for which it is true, with dials by their names', () => {
    expect(column(asked({ filter: 'wear > least' }), 'wear')).toEqual([30, 40]);
    const { total, all } = tableWindow(newest, asked({ filter: 'x < 0' }));
    expect([total, all]).toEqual([0, 5]);
    expect(() => tableWindow(newest, asked({ filter: 'wear >' }))).toThrow();
  });

  test('the same question again is answered by the same rows; another is not', () => {
    const question = asked({ filter: 'wear > least' });
    expect(tableWindow(newest, question)).toEqual(tableWindow(newest, { ...question }));
    expect(tableWindow(newest, { ...question, filter: 'wear > 5' }).total).toBe(4);
  });
});

describe('one column, one place, and the text', () => {
  test('figures of a column are of the rows that are shown', () => {
    const { sketch, notFinite } = columnFigures(newest, { ...asked({ filter: 'wear > least' }), column: 'wear' });
    expect([sketch!.low, sketch!.high, sketch!.mean, sketch!.count, notFinite]).toEqual([30, 40, 35, 2, 0]);
    expect(() => columnFigures(newest, { ...asked(), column: 'lost' })).toThrow('There is no column "lost".');
  });

  test('the element nearest to a place is found, with its row; of faces the one that the place lies on', () => {
    expect(locate(newest, { ...asked({ sort: { column: 'x', descending: true } }), place: [2.9, 0, 0] })).toEqual({ element: 3, row: 1, place: [3, 0, 0] });
    expect(locate(newest, { ...asked({ filter: 'x < 1' }), place: [2.9, 0, 0] })).toMatchObject({ element: 3, row: null });
    const { element, place } = locate(newest, { ...asked({ node: 'tube' }), place: [2.5, 0.08, 0] });
    expect([place[0], place[1] > 0, element]).toEqual([2.5, true, expect.any(Number)]);
  });

  test('its text is CSV: a heading, the element’s number, then its columns', () => {
    const [head, first, second, ...rest] = tableText(newest, asked({ sort: { column: 'wear', descending: true } })).split('\r\n');
    const names = head.split(',');
    expect([names[0], first.split(',')[0], second.split(',')[names.indexOf('wear')], rest.length]).toEqual(['point', '4', '30', 4]);
    expect(rest.at(-1)).toBe('');
  });
});

describe('lines of sight onto a body', () => {
  test('meet its nearest side, told by triangle and weights; what misses meets nothing', () => {
    const { triangles, hits } = onBody(newest, { node: 'stroke', rays: [{ from: [2.5, 5, 0.01], along: [0, -1, 0] }, { from: [9, 5, 0], along: [0, -1, 0] }] }); // prettier-ignore
    expect([triangles, hits[1]]).toEqual([32, null]);
    const { place, on } = hits[0]!;
    expect([place[0], place[2], place[1] > 0]).toEqual([2.5, 0.01, true]);
    expect([on[0] >= 0 && on[0] < 32, on[1] >= 0, on[2] >= 0, on[1] + on[2] <= 1]).toEqual([true, true, true, true]);
  });

  test('without a body there is nothing to meet', () => {
    expect(onBody(newest, { node: 'line', rays: [{ from: [0, 1, 0], along: [0, -1, 0] }] })).toEqual({ triangles: 0, hits: [null] });
    expect([strokePoints(newest, { node: 'line' }), strokePoints(newest, { node: 'lost' })]).toEqual([[], []]);
  });

  test('points of strokes lie where they were laid', async () => {
    const { hits, triangles } = onBody(newest, { node: 'stroke', rays: [{ from: [1.5, 5, 0.01], along: [0, -1, 0] }, { from: [2.5, 5, 0.01], along: [0, -1, 0] }] }); // prettier-ignore
    const strokes = [{ triangles, points: hits.map((hit) => hit!.place), on: hits.map((hit) => hit!.on) }];
    const drawn = await ran({ ...document, nodes: document.nodes.map((node) => (node.id === 'stroke' ? { ...node, settings: { strokes } } : node)) });
    const [points] = strokePoints(drawn, { node: 'stroke' });
    expect(points).toHaveLength(2);
    points.forEach((point, i) => point.forEach((value, k) => expect(value).toBeCloseTo(hits[i]!.place[k], 5)));
  });
});
