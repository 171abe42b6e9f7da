import {
  compileFormula,
  elementCount,
  elementsOf,
  givenFor,
  timelineOf,
  newHit,
  NearestTree,
  labelById,
  piecesOf,
  resultOf,
  type Elements,
  type Geometry,
  type GeometryKind,
  type NameSource,
  type PerElement,
} from '@filaxis/core';
import { csvHeading } from '@filaxis/formats';
import type { ColumnAnswer, LocateAnswer, TableAnswer, TableQuestion } from '@filaxis/protocol';
import type { Newest } from './newest';
import { sketchOf } from './sketch';

/** Element kinds of each geometry, the most asked for first. */
const persOf: Readonly<Record<GeometryKind, readonly PerElement[]>> = {
  curves: ['point', 'curve', 'whole'],
  points: ['point', 'whole'],
  mesh: ['face', 'point', 'whole'],
  copies: ['copy', 'whole'],
};

/** A table of one kind of element of one geometry: its columns, and its rows in the order asked for. */
interface Table {
  readonly geometry: Geometry;
  readonly kinds: readonly string[];
  readonly per: PerElement;
  readonly columns: readonly Column[];
  readonly rows: Uint32Array;
}

interface Column {
  readonly name: string;
  at(i: number): number;
}

/** The last table that was put in order: scrolling asks for windows of the same one. */
let kept: { key: string; result: unknown; table: Table } | null = null;

function tableOf({ plan, run, time }: Newest, question: TableQuestion): Table {
  const result = run.nodes.get(question.node);
  const key = JSON.stringify([question.node, question.kind, question.per, question.sort, question.filter]);
  if (kept && kept.key === key && kept.result === result) return kept.table;
  const set = resultOf(result) as Readonly<Record<string, Geometry | undefined>>;
  const kinds = Object.keys(set).filter((kind) => set[kind]);
  const geometry = set[question.kind ?? ''] ?? set[kinds[0]];
  const label = labelById(plan.document, question.node);
  if (!geometry) throw new Error(`${label} has no elements to list.`);
  const pers = persOf[geometry.type];
  const per = question.per && pers.includes(question.per) ? question.per : pers[0];
  const elements = elementsOf(geometry, per);
  const columns = columnsOf(geometry, elements);
  let rows = Uint32Array.from({ length: elements.count }, (_, i) => i);
  if (question.filter.trim()) {
    const dials = Object.fromEntries((plan.document.dials ?? []).map(({ id, value }) => [id, value]));
    const scope = elementsOf(geometry, per, givenFor(question.filter, { dials, time, rate: timelineOf(plan.document).rate })).scope;
    const chosen = compileFormula(question.filter, scope).evaluate(elements.count);
    rows = rows.filter((i) => chosen[i] !== 0 && !Number.isNaN(chosen[i]));
  }
  const { sort } = question;
  const by = sort && columns.find(({ name }) => name === sort.column);
  if (by) {
    const values = new Float64Array(elements.count);
    for (const i of rows) values[i] = by.at(i);
    const sign = sort.descending ? -1 : 1;
    // What is not a number comes last, whichever way.
    rows.sort((a, b) => (Number.isNaN(values[a]) ? 1 : 0) - (Number.isNaN(values[b]) ? 1 : 0) || sign * (values[a] - values[b]) || a - b);
  }
  const table = { geometry, kinds, per, columns, rows };
  kept = { key, result, table };
  return table;
}

/** Columns: the element's own names that have values, then every attribute it carries, number by number. */
function columnsOf(geometry: Geometry, { scope, per, count }: Elements): Column[] {
  const left = new Set(['n', 'curves', 'L', 'id', 'u', 'v', per === 'curve' || per === 'whole' ? 'i' : '']);
  // Frames that no step asked for are not worked out for the table alone: of a million points they take long.
  if (geometry.type === 'curves' && !geometry.attributes.has('normal')) for (const name of ['nx', 'ny', 'nz']) left.add(name);
  const columns: Column[] = [];
  const carriers = per === 'point' ? ['point', 'corner'] : [per];
  for (const name of per === 'curve' ? ['c', 'L', 'x', 'y', 'z'] : scope.names) {
    const attribute = geometry.attributes.get(name);
    if (left.has(name) && per !== 'curve' && !attribute) continue;
    if (attribute && !carriers.includes(attribute.carrier)) continue;
    const source = scope.source(name);
    if (source !== undefined && typeof source !== 'string') columns.push({ name, at: reader(source, count) });
  }
  for (const [name, { carrier, size, data }] of geometry.attributes) {
    if (!carriers.includes(carrier) || columns.some((column) => column.name === name) || name === 'normal') continue;
    const parts = size === 1 ? [''] : size === 2 ? [' u', ' v'] : size === 3 ? [' x', ' y', ' z'] : Array.from({ length: size }, (_, k) => ` ${k}`);
    parts.forEach((part, k) => columns.push({ name: name + part, at: (i) => data[i * size + k] }));
  }
  if (geometry.type === 'copies' && per === 'copy') columns.push({ name: 'object', at: (i) => geometry.object[i] });
  return columns;
}

function reader(source: NameSource, count: number): (i: number) => number {
  if (typeof source === 'number') return () => source;
  const values = new Float64Array(1);
  let all: Float64Array | null = null;
  let asked = 0;
  return (i) => {
    // A few are read one by one; who asks for many gets all at once.
    if (!all && ++asked > 400) {
      all = new Float64Array(count);
      source.fill(all, 0, count);
    }
    if (all) return all[i];
    source.fill(values, i, 1);
    return values[0];
  };
}

export function tableWindow(newest: Newest, question: TableQuestion): TableAnswer {
  const { geometry, kinds, per, columns, rows } = tableOf(newest, question);
  const from = Math.max(0, Math.min(question.from, rows.length));
  const elements = rows.slice(from, from + question.count);
  const values = new Float64Array(elements.length * columns.length);
  const places = new Float32Array(elements.length * 3);
  elements.forEach((element, r) => {
    columns.forEach((column, c) => (values[r * columns.length + c] = column.at(element)));
    places.set(placeOf(geometry, per, element), r * 3);
  });
  return {
    kind: geometry.type,
    kinds,
    per,
    pers: persOf[geometry.type],
    columns: columns.map(({ name }) => name),
    total: rows.length,
    all: elementCount(geometry, per),
    from,
    elements,
    values,
    places,
  };
}

/** Where an element lies. */
function placeOf(geometry: Geometry, per: PerElement, i: number): [number, number, number] {
  if (geometry.type === 'copies') return [12, 13, 14].map((k) => geometry.matrices[i * 16 + k]) as [number, number, number];
  const point = (p: number): [number, number, number] => [0, 1, 2].map((k) => geometry.positions[p * 3 + k]) as [number, number, number];
  if (per === 'point') return point(i);
  if (geometry.type === 'curves') return point(per === 'curve' ? (geometry.starts[i] + geometry.starts[i + 1]) >> 1 : 0);
  if (geometry.type !== 'mesh' || per !== 'face') return point(0);
  const { scope } = elementsOf(geometry, 'face');
  return ['x', 'y', 'z'].map((name) => reader(scope.source(name) as NameSource, 1)(i)) as [number, number, number];
}

const trees = new WeakMap<Geometry, NearestTree>();

/** The element of a table that is nearest to a place: of faces the one that the place lies on. */
export function locate(newest: Newest, question: TableQuestion & { readonly place: readonly [number, number, number] }): LocateAnswer {
  const { geometry, per, rows } = tableOf(newest, question);
  const [x, y, z] = question.place;
  let element = 0;
  if (per === 'face') {
    let tree = trees.get(geometry);
    if (!tree) trees.set(geometry, (tree = new NearestTree(piecesOf(geometry))));
    element = Math.max(0, tree.nearest(x, y, z, newHit()).element);
  } else {
    let least = Infinity;
    for (let i = 0; i < elementCount(geometry, per); i++) {
      const p = placeOf(geometry, per, i);
      const distance = (p[0] - x) ** 2 + (p[1] - y) ** 2 + (p[2] - z) ** 2;
      if (distance < least) [least, element] = [distance, i];
    }
  }
  const row = rows.indexOf(element);
  return { element, row: row < 0 ? null : row, place: placeOf(geometry, per, element) };
}

export function columnFigures(newest: Newest, question: TableQuestion & { readonly column: string }): ColumnAnswer {
  const { columns, rows } = tableOf(newest, question);
  const column = columns.find(({ name }) => name === question.column);
  if (!column) throw new Error(`There is no column "${question.column}".`);
  const sketch = sketchOf((k) => column.at(rows[k]), rows.length);
  return { column: question.column, sketch, notFinite: rows.length - (sketch?.count ?? 0) };
}

/** The whole table as CSV (RFC 4180): the element's number, then its columns. */
export function tableText(newest: Newest, question: TableQuestion): string {
  const { per, columns, rows } = tableOf(newest, question);
  const lines: string[] = [];
  // Numbers need no quotes.
  for (const i of rows) lines.push(`${[i, ...columns.map((column) => column.at(i))].join(',')}\r\n`);
  return csvHeading([per, ...columns.map(({ name }) => name)]) + lines.join('');
}
