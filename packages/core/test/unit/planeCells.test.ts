import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PlaneCells } from '../../src/space/planeCells.js';

const number = fc.double({ min: -100, max: 100, noNaN: true });
const box = fc.tuple(number, number, number, number).map(([a, b, c, d]) => [Math.min(a, b), Math.min(c, d), Math.max(a, b), Math.max(c, d)]);

describe('cells of a plane', () => {
  test('all boxes that touch another are among those near it, however many cells there are', () =>
    fc.assert(
      fc.property(fc.array(box, { maxLength: 40 }), box, fc.integer({ min: 0, max: 2000 }), (boxes, [x0, y0, x1, y1], along) => {
        const seen = new Set<number>();
        const ended = new PlaneCells(Float64Array.from(boxes.flat()), along).near(x0, y0, x1, y1, (item) => void seen.add(item));
        expect(ended).toBe(false);
        boxes.forEach(([a0, b0, a1, b1], item) => {
          if (a0 <= x1 && a1 >= x0 && b0 <= y1 && b1 >= y0) expect(seen).toContain(item);
        });
      }),
      { numRuns: 200 },
    ));

  test('only neighbours are looked at, with more cells those beside them, and it ends when asked', () => {
    // Ten boxes in a row, a cell each.
    const row = Float64Array.from(Array.from({ length: 10 }, (_, i) => [i, 0, i + 0.5, 1]).flat());
    const cells = new PlaneCells(row, 10);
    const near = (more: number): number[] => {
      const seen: number[] = [];
      cells.near(4.3, 0.5, 4.3, 0.5, (item) => void seen.push(item), more);
      return [...new Set(seen)];
    };
    expect(near(0)).toEqual([4]);
    expect(near(1).sort()).toEqual([3, 4, 5]);
    let asked = 0;
    expect([cells.near(0, 0, 10, 1, () => ++asked === 3), asked]).toEqual([true, 3]);
  });

  test('places on one line, at one place, or none at all', () => {
    const found = (boxes: number[]): number[] => {
      const seen: number[] = [];
      new PlaneCells(Float64Array.from(boxes), 4).near(0, 0, 0, 0, (item) => void seen.push(item));
      return [...new Set(seen)];
    };
    expect([found([0, 0, 0, 0]), found([0, 0, 0, 5, 0, 5, 0, 9]), found([])]).toEqual([[0], [0], []]);
  });
});
