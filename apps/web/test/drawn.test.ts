import { describe, expect, test } from 'vitest';
import { addCurve, asKind, insertPoint, moveTo, removePoint, removePoints, setClosed, setSharp, snapped, withHandles, type DrawnCurves } from '../src/app/ropewalk/document/drawn'; // prettier-ignore

const straight: DrawnCurves = [{ points: [[0, 0, 0], [1, 0, 0], [2, 0, 0]] }, { points: [[5, 0, 0]] }]; // prettier-ignore
const polygon: DrawnCurves = [{ points: [[0, 0, 0], [0, 1, 0], [1, 1, 0], [1, 0, 0], [1, -1, 0], [2, -1, 0], [2, 0, 0]] }]; // prettier-ignore

describe('points of drawn curves', () => {
  test('are inserted, moved and taken away; other curves stay the same objects', () => {
    const more = insertPoint(straight, 0, 0, [0.5, 1, 0]);
    expect(more[0].points).toEqual([[0, 0, 0], [0.5, 1, 0], [1, 0, 0], [2, 0, 0]]); // prettier-ignore
    expect(more[1]).toBe(straight[1]);
    expect(insertPoint(straight, 0, -1, [9, 9, 9])[0].points[0]).toEqual([9, 9, 9]);
    expect(moveTo(straight, { curve: 0, point: 1 }, [1, 2, 3])[0].points[1]).toEqual([1, 2, 3]);
    expect(removePoint(straight, { curve: 0, point: 1 })[0].points.length).toBe(2);
    expect(removePoint(straight, { curve: 1, point: 0 }).length).toBe(1);
    expect(setClosed(straight, 0, true)[0].closed).toBe(true);
    expect(addCurve(straight, [7, 0, 0], false)[2]).toEqual({ points: [[7, 0, 0]] });
  });

  test('snap to the nearest crossing of the grid, without round-off', () => {
    expect(snapped([0.1234, -0.26, 0.30000004], 0.1)).toEqual([0.1, -0.3, 0.3]);
    expect(snapped([0.1234, 0, 1], 0)).toEqual([0.1234, 0, 1]);
  });
});

describe('handles of Bezier curves', () => {
  test('a control polygon is taken apart into corners and the handles before and after', () => {
    expect(withHandles(polygon)[0]).toMatchObject({
      points: [[0, 0, 0], [1, 0, 0], [2, 0, 0]],
      handles: [[[0, 0, 0], [0, 1, 0]], [[1, 1, 0], [1, -1, 0]], [[2, -1, 0], [2, 0, 0]]],
    }); // prettier-ignore
  });

  test('go along with their point; one turns the other along, unless broken', () => {
    const curves = withHandles(polygon);
    expect(moveTo(curves, { curve: 0, point: 1 }, [1, 5, 0])[0].handles![1]).toEqual([[1, 6, 0], [1, 4, 0]]); // prettier-ignore
    const turned = moveTo(curves, { curve: 0, point: 1, handle: 1 }, [3, 0, 0])[0].handles![1];
    expect(turned).toEqual([[0, 0, 0], [3, 0, 0]]); // prettier-ignore
    const broken = moveTo(curves, { curve: 0, point: 1, handle: 1 }, [3, 0, 0], true)[0].handles![1];
    expect(broken).toEqual([[1, 1, 0], [3, 0, 0]]); // prettier-ignore
  });

  test('sharp draws them in; round lays them along the neighbours, a third of the way', () => {
    const curves = withHandles(polygon);
    expect(setSharp(curves, { curve: 0, point: 1 }, true)[0].handles![1]).toEqual([[1, 0, 0], [1, 0, 0]]); // prettier-ignore
    const [before, after] = setSharp(curves, { curve: 0, point: 1 }, false)[0].handles![1];
    expect(before[0]).toBeCloseTo(2 / 3, 9);
    expect(after[0]).toBeCloseTo(4 / 3, 9);
  });

  test('an inserted point gets round handles of its own', () => {
    const more = insertPoint(withHandles(polygon), 0, 0, [0.5, 0.75, 0]);
    expect(more[0].handles!.length).toBe(4);
    expect(more[0].handles![1][1][0]).toBeGreaterThan(0.5);
  });
});

describe('another kind of curve', () => {
  const zigzag: DrawnCurves = [{ points: [[0, 0, 0], [1, 1, 0], [2, 0, 0]] }]; // prettier-ignore

  test('straight to Bezier keeps the shape: handles are drawn in', () => {
    const { curves, says } = asKind(zigzag, 'straight', 'bezier');
    expect(curves[0].handles).toEqual(zigzag[0].points.map((p) => [p, p]));
    expect(says).toContain('sharp');
  });

  test('a smooth one to Bezier goes on smoothly at its points', () => {
    const [, middle] = asKind(zigzag, 'through', 'bezier').curves[0].handles!;
    // Level there, since the neighbours are as high as each other.
    expect([middle[0][1], middle[1][1]]).toEqual([1, 1]);
    expect(middle[0][0]).toBeLessThan(1);
    expect(middle[1][0]).toBeGreaterThan(1);
  });

  test('Bezier to another keeps the corners, also of a control polygon', () => {
    const polygon: DrawnCurves = [{ points: [[0, 0, 0], [0, 1, 0], [1, 1, 0], [1, 0, 0]] }]; // prettier-ignore
    expect(asKind(polygon, 'bezier', 'straight')).toEqual({ curves: [{ points: [[0, 0, 0], [1, 0, 0]] }], says: 'Handles went; the points stay where they are.' }); // prettier-ignore
  });

  test('what changes nothing says nothing', () => {
    expect(asKind(zigzag, 'straight', 'through')).toEqual({ curves: zigzag, says: null });
    expect(asKind([], 'straight', 'bezier')).toEqual({ curves: [], says: null });
  });
});

test('points that a box was drawn round go together, and curves that have none left', () => {
  const two: DrawnCurves = [{ points: [[0, 0, 0], [1, 0, 0], [2, 0, 0]] }, { points: [[5, 0, 0]] }]; // prettier-ignore
  const gone = [{ curve: 0, point: 0 }, { curve: 1, point: 0 }, { curve: 0, point: 2 }]; // prettier-ignore
  expect(removePoints(two, gone)).toEqual([{ points: [[1, 0, 0]] }]);
});
