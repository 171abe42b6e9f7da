import Papa from 'papaparse';
import { curveCount, curvesFromLists, paced, type Curves, type GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';

/**
 * Curves from a CSV table (RFC 4180): columns x, y, z by name or, without a heading, the first three; a column `curve` tells several curves
 * apart (rows of one curve need not follow one another), `closed` (1 or true in any row) closes them. z may be missing (0).
 * @throws FormatError with the line of what cannot be read.
 */
export function readCsvCurves(text: string): Curves {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), { skipEmptyLines: false });
  const quote = parsed.errors.find((error) => error.type === 'Quotes');
  if (quote) throw new FormatError(`Line ${(quote.row ?? 0) + 1}: ${quote.message}.`);
  const rows = parsed.data;
  if (!rows.length || rows.every((row) => row.every((cell) => !cell.trim()))) throw new FormatError('The table is empty.');
  const heading = rows[0].map((cell) => cell.trim().toLowerCase());
  const named = heading.some((cell) => cell !== '' && !Number.isFinite(Number(cell)));
  const column = (name: string, otherwise: number): number => (named ? heading.indexOf(name) : otherwise);
  const [x, y, z] = [column('x', 0), column('y', 1), column('z', 2)];
  if (x < 0 || y < 0) throw new FormatError(`Line 1: the table has columns ${heading.join(', ')}; it needs x and y.`);
  const [which, closing] = [column('curve', -1), column('closed', -1)];
  const lists = new Map<string, { points: number[][]; closed: boolean }>();
  rows.forEach((row, at) => {
    if ((named && at === 0) || row.every((cell) => !cell.trim())) return;
    const value = (index: number, name: string): number => {
      const cell = row[index]?.trim() ?? '';
      const number = Number(cell);
      if (cell === '' || !Number.isFinite(number)) throw new FormatError(`Line ${at + 1}: ${name} is "${cell}"; it must be a finite number.`);
      return number;
    };
    const key = which >= 0 ? (row[which]?.trim() ?? '') : '';
    const list = lists.get(key) ?? { points: [], closed: false };
    list.points.push([value(x, 'x'), value(y, 'y'), z >= 0 && (named || row.length > 2) ? value(z, 'z') : 0]);
    if (closing >= 0) list.closed ||= ['1', 'true', 'yes'].includes(row[closing]?.trim().toLowerCase() ?? '');
    lists.set(key, list);
  });
  const all = [...lists.values()];
  return curvesFromLists(all.map(({ points }) => points), { closed: all.map(({ closed }) => closed) }); // prettier-ignore
}

/**
 * Points of a result's curves, or its points, as a CSV table (RFC 4180): x, y, z in metres, the number of the curve and whether it is closed, then
 * every value on the points, one column a number. Smooth curves are sampled.
 * @throws FormatError when the result has neither curves nor points.
 */
export function writeCsv(set: GeometrySet): string {
  const source = set.curves?.positions.length ? paced(set.curves) : set.points;
  if (!source?.positions.length) throw new FormatError('There is nothing to write: CSV holds curves and points, and the result has neither.');
  const values = [...source.attributes].filter(([name, { carrier }]) => carrier === 'point' && !name.startsWith('handle'));
  const heading = ['x', 'y', 'z', ...(source.type === 'curves' ? ['curve', 'closed'] : [])];
  for (const [name, { size }] of values) heading.push(...(size === 1 ? [name] : Array.from({ length: size }, (_, k) => `${name}.${'xyzw'[k] ?? k}`)));
  const rows: (string | number)[][] = [heading];
  const curveOf = new Uint32Array(source.positions.length / 3);
  if (source.type === 'curves') for (let c = 0; c < curveCount(source); c++) curveOf.fill(c, source.starts[c], source.starts[c + 1]);
  for (let i = 0; i < curveOf.length; i++) {
    const row: number[] = Array.from(source.positions.subarray(i * 3, i * 3 + 3));
    if (source.type === 'curves') row.push(curveOf[i], source.closed[curveOf[i]]);
    for (const [, { size, data }] of values) for (let k = 0; k < size; k++) row.push(data[i * size + k]);
    rows.push(row.map((value) => Number(value.toPrecision(9))));
  }
  return `${Papa.unparse(rows, { newline: '\r\n' })}\r\n`;
}
