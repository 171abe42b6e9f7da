import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { leanPlaces } from '../src/app/ropewalk/strip/lean-line';

const rising = (steps: readonly number[]): number[] => steps.reduce<number[]>((all, step) => [...all, (all.at(-1) ?? 0) + step], []);
const lines = fc
  .array(fc.tuple(fc.double({ min: 0, max: 2, noNaN: true }), fc.oneof({ weight: 9, arbitrary: fc.double({ min: -5, max: 5, noNaN: true }) }, { weight: 1, arbitrary: fc.constant(null) })), { minLength: 1, maxLength: 200 })
  .map((places) => ({ x: rising(places.map(([step]) => step)), y: places.map(([, value]) => value) })); // prettier-ignore

describe('places enough to draw a line', () => {
  test('a short line keeps all of its places; a look at a part those in it, and one beyond either end', () => {
    const x = [0, 1, 2, 3, 4, 5];
    const y = [3, 1, 4, 1, 5, 9];
    expect(leanPlaces(x, y, 0, 5, 100)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(leanPlaces(x, y, 1.5, 3.5, 100)).toEqual([1, 2, 3, 4]);
    expect(leanPlaces([0], [7], 0, 1, 10)).toEqual([0]);
  });

  test('a long one keeps its peaks: the lowest and highest of each column', () =>
    fc.assert(
      fc.property(lines, fc.integer({ min: 1, max: 20 }), ({ x, y }, columns) => {
        const end = x.at(-1)! || 1;
        const kept = leanPlaces(x, y, 0, end, columns);
        expect(kept).toEqual([...new Set(kept)].sort((a, b) => a - b));
        expect(x[kept.at(-1)!]).toBe(x.at(-1));
        const gaps = y.flatMap((value, i) => (value === null && i <= kept.at(-1)! && i >= kept[0] ? [i] : []));
        expect(kept).toEqual(expect.arrayContaining(gaps));
        const inColumn = (list: readonly number[], column: number): number[] =>
          list.flatMap((i) => (Math.floor((x[i] / end) * columns) === column && y[i] !== null ? [y[i]] : []));
        const drawn = y.map((_, i) => i).filter((i) => i >= kept[0] && i <= kept.at(-1)!);
        for (let column = 0; column < columns; column++) {
          expect(Math.min(...inColumn(kept, column))).toBe(Math.min(...inColumn(drawn, column)));
          expect(Math.max(...inColumn(kept, column))).toBe(Math.max(...inColumn(drawn, column)));
        }
        expect(kept.length).toBeLessThanOrEqual(Math.max(columns * 2 + 1, 2 * (columns + gaps.length) + gaps.length + 2));
      }),
    ));
});
