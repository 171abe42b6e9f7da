import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { requireDocument } from '@filaxis/core';
import { inputPlace, outputPlace, tagHeight, tagWidth, wireCurve, wirePoint } from '../src/app/ropewalk/graph/tag-geometry';
import { pathOf, wayRound, wiresNear, type WirePath } from '../src/app/ropewalk/graph/wire-route';

const box = (x: number, y: number): Parameters<typeof wayRound>[2][number] => ({ left: x, right: x + tagWidth, top: y, bottom: y + tagHeight });
const places = (path: WirePath): { x: number; y: number }[] => path.flatMap((curve) => Array.from({ length: 101 }, (_, i) => wirePoint(curve, i / 100)));
const crossed = (path: WirePath, boxes: readonly ReturnType<typeof box>[]): number =>
  boxes.filter(({ left, right, top, bottom }) => places(path).some(({ x, y }) => x > left + 1 && x < right - 1 && y > top + 1 && y < bottom - 1)).length;

describe('the way of a wire', () => {
  test('is straight where nothing is between', () => {
    const [from, to] = [
      { x: 0, y: 0 },
      { x: 300, y: 100 },
    ];
    expect(wayRound(from, to, [box(100, 300)])).toEqual([wireCurve(from, to)]);
  });

  test('goes round a tag between, in one piece from end to end', () => {
    const [from, to] = [
      { x: 0, y: 31 },
      { x: 600, y: 31 },
    ];
    const path = wayRound(from, to, [box(200, 0)]);
    expect(path.length).toBe(3);
    expect(crossed(path, [box(200, 0)])).toBe(0);
    expect([path[0][0], path[2][3]]).toEqual([from, to]);
    for (const [a, b] of [[path[0], path[1]], [path[1], path[2]]] as const) expect(a[3]).toEqual(b[0]); // prettier-ignore
  });

  test('over any grid of tags, as they are laid out, crosses none', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.tuple(fc.nat(5), fc.nat(5)), { minLength: 3, maxLength: 24, selector: String }), fc.nat(5), (cells, row) => {
        const boxes = cells.map(([column, line]) => box(204 + column * 204, line * 96));
        const path = wayRound({ x: tagWidth, y: row * 96 + 31 }, { x: 204 * 7 + 13, y: 31 }, boxes);
        expect(crossed(path, boxes)).toBe(0);
      }),
    ));

  test('back to the left goes round too', () => {
    const path = wayRound({ x: 700, y: 31 }, { x: 13, y: 231 }, [box(204, 0), box(408, 0), box(204, 100), box(408, 200)]);
    expect(crossed(path, [box(204, 0), box(408, 0), box(204, 100), box(408, 200)])).toBe(0);
  });
});

test('wires of a document are found where they run, round the tags that they pass', () => {
  const at = (id: string, x: number): object => ({ id, type: id === 'line' ? 'lay.line' : 'skin.tube', at: [x, 0] });
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Round',
    nodes: [at('line', 0), at('a', 300), at('b', 600)],
    wires: [{ from: ['line', 'curves'], to: ['b', 'curves'] }],
  });
  const [wire] = document.wires;
  const path = pathOf(document, wire)!;
  expect(pathOf(document, wire)).toBe(path);
  expect(path[0][0]).toEqual(outputPlace(document, document.nodes[0], 'curves'));
  expect(path.at(-1)![3]).toEqual(inputPlace(document, document.nodes[2], 'curves'));
  expect(wiresNear(document, { x: 380, y: 31 }, 8)).toEqual([]);
  expect(wiresNear(document, wirePoint(path[1], 0.5), 8)).toEqual([wire]);
  expect(pathOf(document, { from: ['gone', 'curves'], to: ['b', 'curves'] })).toBeNull();
});
