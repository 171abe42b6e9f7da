import fc from 'fast-check';
import { expect, test } from 'vitest';
import { signsAt, tagZoom } from '../src/app/ropewalk/graph/signs';
import { tagHeight } from '../src/app/ropewalk/graph/tag-geometry';

const node = (id: string, x: number, y: number): { id: string; type: string; at: readonly [number, number] } => ({ id, type: 'lay.line', at: [x, y] });
const nameOf = ({ id }: { id: string }): string => id;

test('while tags are wide enough to read, each has its sign', () => {
  const nodes = [node('Rope', 0, 0), node('Material', 204, 0)];
  expect([...signsAt(nodes, 0.5, nameOf, new Set())]).toEqual([
    ['Rope', { width: 76, free: false, marked: true }],
    ['Material', { width: 76, free: false, marked: true }],
  ]);
  // A name that has no room in its tag takes what there is up to the next; without any it stays in its tag.
  const wide = [node('Shortest routes', 0, 0), node('Shortest ways', 204, 0), node('Line', 352, 0)];
  const signs = signsAt(wide, 0.4, nameOf, new Set());
  expect(signs.get('Shortest routes')).toMatchObject({ free: true, width: expect.closeTo(204 * 0.4 - 3, 6) });
  expect(signs.get('Shortest ways')).toMatchObject({ free: false, width: expect.closeTo(152 * 0.4, 6) });
  expect(tagZoom * 12).toBeGreaterThanOrEqual(10);
});

test('where tags are too small, no two signs overlap, and those asked for go first', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 12 })), { minLength: 1, maxLength: 60 }),
      fc.double({ min: 0.1, max: 0.28, noNaN: true }),
      (cells, zoom) => {
        const nodes = cells.map(([column, row], i) => node(`Node number ${i}`, column * 204, row * 90));
        const first = nodes.at(-1)!.id;
        const signs = signsAt(nodes, zoom, nameOf, new Set([first]));
        expect(signs.has(first)).toBe(true);
        const boxes = nodes
          .filter(({ id }) => signs.has(id))
          .map(({ id, at: [x, y] }) => ({ left: x * zoom, right: x * zoom + signs.get(id)!.width, middle: (y + tagHeight / 2) * zoom }));
        for (const [i, a] of boxes.entries())
          for (const b of boxes.slice(0, i)) expect(a.left < b.right && b.left < a.right && Math.abs(a.middle - b.middle) < 16.9).toBe(false);
      },
    ),
  ));
