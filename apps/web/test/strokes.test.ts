import { describe, expect, test } from 'vitest';
import { closedStroke, extended, movedTo, withoutPoint, withoutStroke, type Strokes } from '../src/app/ropewalk/document/strokes';

const hit = (x: number) => ({ place: [x, 0, 0], on: [x, 0.25, 0.5] }) as const;
const drawn: Strokes = extended([], 0, [hit(1), hit(2), hit(3)], 12);

describe('strokes on a body', () => {
  test('points keep their places on the body beside those in space', () => {
    expect(drawn).toEqual([{ points: [[1, 0, 0], [2, 0, 0], [3, 0, 0]], on: [[1, 0.25, 0.5], [2, 0.25, 0.5], [3, 0.25, 0.5]], triangles: 12 }]); // prettier-ignore
    expect(extended(drawn, 0, [hit(4)], 12)[0].on).toHaveLength(4);
    expect(extended(drawn, 0, [], 12)).toBe(drawn);
  });

  test('one after the last begins a new stroke, however far beyond it is', () => {
    expect(extended(drawn, 7, [hit(9)], 12).map(({ points }) => points.length)).toEqual([3, 1]);
  });

  test('a body of other triangles: places on it are given up, those in space stay', () => {
    const [stroke] = extended(drawn, 0, [hit(4)], 20);
    expect([stroke.points.length, stroke.on, stroke.triangles]).toEqual([4, undefined, undefined]);
    expect(movedTo(drawn, { stroke: 0, point: 1 }, hit(8), 20)[0].on).toBeUndefined();
  });

  test('a point is moved or taken away with its place; the last one takes the stroke', () => {
    expect(movedTo(drawn, { stroke: 0, point: 1 }, hit(8), 12)[0]).toEqual({ ...drawn[0], points: [[1, 0, 0], [8, 0, 0], [3, 0, 0]], on: [[1, 0.25, 0.5], [8, 0.25, 0.5], [3, 0.25, 0.5]] }); // prettier-ignore
    const shorter = withoutPoint(drawn, { stroke: 0, point: 0 });
    expect([shorter[0].points.length, shorter[0].on!.length, shorter[0].triangles]).toEqual([2, 2, 12]);
    expect(withoutPoint(extended([], 0, [hit(1)], 12), { stroke: 0, point: 0 })).toEqual([]);
  });

  test('closing stays with a stroke through other changes, and others are left alone', () => {
    const two = extended(closedStroke(drawn, 0, true), 1, [hit(5)], 12);
    expect(two.map(({ closed }) => closed)).toEqual([true, undefined]);
    expect(movedTo(two, { stroke: 0, point: 0 }, hit(6), 12)[0].closed).toBe(true);
    expect(movedTo(two, { stroke: 0, point: 0 }, hit(6), 12)[1]).toBe(two[1]);
    expect(withoutStroke(two, 0)).toEqual([two[1]]);
  });
});
