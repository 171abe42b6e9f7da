import Papa from 'papaparse';
import { curveCount, paced, type Curves, type GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';
import { curvesOf, originOf } from './far.js';
import { TextSink } from './textSink.js';
import { metres, type Unit } from './units.js';
import type { Out } from './writeOptions.js';

/** A heading without what stands beside the name: `X [m]`, `x (m)` and `Pos_X` are x. */
function headingName(cell: string): string {
  const bracket = [cell.indexOf('['), cell.indexOf('(')].filter((at) => at >= 0);
  const name = cell.slice(0, bracket.length ? Math.min(...bracket) : cell.length);
  return name
    .trim()
    .toLowerCase()
    .replace(/^(pos|position|coord|p)[ _.-]?(?=[xyz]$)/, '');
}

/** Metres of the unit that a heading names in brackets; 1 where it names none. */
function headingUnit(cell: string, at: number): number {
  const unit = /[[(]\s*([a-z]+)\s*[\])]/i.exec(cell)?.[1]?.toLowerCase();
  if (unit === undefined) return 1;
  if (!Object.hasOwn(metres, unit)) throw new FormatError(`Line ${at}: the unit "${unit}" is not known; it may be ${Object.keys(metres).join(', ')}.`);
  return metres[unit as Unit];
}

/** The lines of a table that are no remarks, and what they say of the separator; each with its number in the file. */
function tableLines(text: string): { rows: [line: number, text: string][]; separator: string } {
  const rows: [number, string][] = [];
  let separator = '';
  text.split(/\r\n|\r|\n/).forEach((line, i) => {
    if (!rows.length && line.slice(0, 4).toLowerCase() === 'sep=') separator = line.slice(4, 5);
    else if (line.trim() && !line.startsWith('#')) rows.push([i + 1, line]);
  });
  return { rows, separator };
}

/** The sign between the cells: as it is said, else the first of semicolon, tab, comma and spaces that the first row has. */
function separatorOf(said: string, first: string): string {
  if (said) return said;
  return [';', '\t', ','].find((sign) => first.includes(sign)) ?? ' ';
}

/**
 * Curves from a CSV table (RFC 4180): columns x, y, z by name (with a unit in brackets where they are not in metres) or, without a heading, the first three; a column `curve`
 * tells several curves apart (rows of one curve need not follow one another), `closed` (1 or true in any row) closes them. z may be missing (0). Cells may stand apart by commas,
 * semicolons, tabs or spaces, or as a line `sep=` says; other columns of numbers are values of the points; numbers may have a decimal comma where no comma separates; lines that begin with # are remarks.
 * @throws FormatError with the line of what cannot be read.
 */
export function readCsvCurves(text: string): Curves {
  const { rows: lines, separator: said } = tableLines(text.replace(/^\uFEFF/, ''));
  if (!lines.length) throw new FormatError('The table is empty.');
  const separator = separatorOf(said, lines[0][1]);
  const cellsOf = ([line, row]: [number, string]): string[] => {
    if (separator === ' ') return row.trim().split(/\s+/);
    const { data, errors } = Papa.parse<string[]>(row, { delimiter: separator });
    const quote = errors.find((error) => error.type === 'Quotes');
    if (quote) throw new FormatError(`Line ${line}: ${quote.message}.`);
    return data[0] ?? [];
  };
  const numberOf = (cell: string): number => (cell.trim() === '' ? NaN : Number(separator === ',' ? cell : cell.trim().replace(/^([-+]?\d*),(\d+)$/, '$1.$2')));
  const first = cellsOf(lines[0]);
  if (first.every((cell) => !cell.trim())) throw new FormatError('The table is empty.');
  const named = first.some((cell) => cell.trim() !== '' && !Number.isFinite(numberOf(cell)));
  const heading = first.map(headingName);
  const column = (name: string, otherwise: number): number => (named ? heading.indexOf(name) : otherwise);
  const [x, y, z] = [column('x', 0), column('y', 1), column('z', 2)];
  if (x < 0 || y < 0) throw new FormatError(`Line ${lines[0][0]}: the table has columns ${heading.join(', ')}; it needs x and y.`);
  const units = [x, y, z].map((index) => (named && index >= 0 ? headingUnit(first[index], lines[0][0]) : 1));
  const [which, closing] = [column('curve', -1), column('closed', -1)];
  if (!named) refuseNumbering(lines, cellsOf, numberOf);
  const others = named ? valueColumns(first, new Set([x, y, z, which, closing])) : [];
  const lists = new Map<string, { points: number[][]; closed: boolean; values: number[][] }>();
  for (const row of named ? lines.slice(1) : lines) {
    const cells = cellsOf(row);
    if (cells.every((cell) => !cell.trim())) continue;
    const value = (index: number, axis: number): number => {
      const cell = cells[index] ?? '';
      const number = numberOf(cell);
      if (!Number.isFinite(number)) throw new FormatError(`Line ${row[0]}: ${'xyz'[axis]} is "${cell.trim()}"; it must be a finite number.`);
      return number * units[axis];
    };
    const key = which >= 0 ? (cells[which]?.trim() ?? '') : '';
    const list = lists.get(key) ?? { points: [], closed: false, values: [] };
    list.points.push([value(x, 0), value(y, 1), z >= 0 && (named || cells.length > 2) ? value(z, 2) : 0]);
    list.values.push(others.map(({ index }) => numberOf(cells[index] ?? '')));
    if (closing >= 0) list.closed ||= ['1', 'true', 'yes'].includes(cells[closing]?.trim().toLowerCase() ?? '');
    lists.set(key, list);
  }
  const all = [...lists.values()];
  const curves = curvesOf(all.map(({ points }) => points), all.map(({ closed }) => closed)); // prettier-ignore
  return withValues(curves, others, all.flatMap(({ values }) => values)); // prettier-ignore
}

/** A column of numbers beside the places: a value of the points, or one of its numbers. */
interface ValueColumn {
  readonly index: number;
  readonly name: string;
  readonly part: number;
}

/** Columns that could be values, by their headings: `flow`, or `lean.x`, `lean.y` … together. */
function valueColumns(heading: readonly string[], taken: ReadonlySet<number>): ValueColumn[] {
  return heading.flatMap((cell, index) => {
    const [, name, part] = /^([a-z][A-Za-z0-9_]*)(?:\.([xyzw]))?$/.exec(cell.trim()) ?? [];
    return name === undefined || taken.has(index) ? [] : [{ index, name, part: part ? 'xyzw'.indexOf(part) : 0 }];
  });
}

/** Curves with the values of their points; columns with a cell that is no number are none. */
function withValues(curves: Curves, columns: readonly ValueColumn[], rows: readonly (readonly number[])[]): Curves {
  const attributes = new Map(curves.attributes);
  for (const name of new Set(columns.map((column) => column.name))) {
    const own = columns.map((column, k) => ({ ...column, k })).filter((column) => column.name === name);
    if (own.some(({ part }, i) => part !== i) || rows.some((row) => own.some(({ k }) => !Number.isFinite(row[k])))) continue;
    attributes.set(name, { carrier: 'point', size: own.length, data: Float32Array.from(rows.flatMap((row) => own.map(({ k }) => row[k]))) });
  }
  return { ...curves, attributes };
}

/** @throws FormatError where a table without a heading begins with a column that only numbers its rows: it is not to be taken for x. */
function refuseNumbering(lines: [number, string][], cellsOf: (line: [number, string]) => string[], numberOf: (cell: string) => number): void {
  if (lines.length < 3) return;
  const rows = lines.slice(0, 50).map(cellsOf);
  const begin = numberOf(rows[0][0]);
  if (rows.every((cells) => cells.length >= 4) && (begin === 0 || begin === 1) && rows.every(([cell], i) => numberOf(cell) === begin + i))
    throw new FormatError(
      `Line ${lines[0][0]}: the first column only numbers the rows, and there is no heading. Give the columns headings, such as id, x, y, z.`,
    );
}

/** A line of names as CSV has them (RFC 4180): in quotes where they hold commas, quotes or breaks. */
export const csvHeading = (names: readonly string[]): string => `${Papa.unparse([names])}\r\n`;

/**
 * Points of a result's curves, or its points, as a CSV table (RFC 4180): x, y, z in metres, the number of the curve and whether it is closed, then
 * every value on the points, one column a number. Smooth curves are sampled.
 * @throws FormatError when the result has neither curves nor points.
 */
export function writeCsv(set: GeometrySet, out: Out): void {
  const source = set.curves?.positions.length ? paced(set.curves) : set.points;
  if (!source) throw new FormatError('There is nothing to write: CSV holds curves and points, and the result has neither.', 'format');
  const values = [...source.attributes].filter(([name, { carrier }]) => carrier === 'point' && !name.startsWith('handle'));
  const heading = ['x', 'y', 'z', ...(source.type === 'curves' ? ['curve', 'closed'] : [])];
  for (const [name, { size }] of values) heading.push(...(size === 1 ? [name] : Array.from({ length: size }, (_, k) => `${name}.${'xyzw'[k] ?? k}`)));
  const sink = new TextSink(out);
  sink.text(csvHeading(heading));
  const origin = originOf(source.attributes);
  const far = origin.some((value) => value !== 0);
  const curveOf = new Uint32Array(source.positions.length / 3);
  if (source.type === 'curves') for (let c = 0; c < curveCount(source); c++) curveOf.fill(c, source.starts[c], source.starts[c + 1]);
  for (let i = 0; i < curveOf.length; i++) {
    const row: number[] = Array.from(source.positions.subarray(i * 3, i * 3 + 3), (value, k) => value + origin[k]);
    if (source.type === 'curves') row.push(curveOf[i], source.closed[curveOf[i]]);
    for (const [, { size, data }] of values) for (let k = 0; k < size; k++) row.push(data[i * size + k]);
    // Numbers need no quotes.
    sink.text(`${row.map((value, k) => Number(value.toPrecision(k < 3 && far ? 12 : 9))).join(',')}\r\n`);
  }
  sink.end();
}
