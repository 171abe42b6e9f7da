import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveCount, curveLengths, type Curves, type Points } from '../../src/index.js';
import { points } from '../property/arbitrary.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

const made = async (...chain: Chain): Promise<Curves> => (await runChain(chain)).curves;
const gaps = (curves: Curves): number[] => {
  const p = places(curves.positions);
  return p.slice(1).map((b, i) => Math.hypot(...b.map((value, k) => value - p[i][k])));
};
const line = (count: number): Chain[number] => ['lay.line', { to: [count - 1, 0, 0], points: count }];
const xs = (curves: { positions: Float32Array }): number[] => places(curves.positions).map(([x]) => x);

describe('Resample', () => {
  test('closer to the ends: gaps shrink toward both, alike on both sides', async () => {
    const all = gaps(await made(['lay.line', { to: [10, 0, 0] }], ['pace.resample', { count: 11, spread: 'ends' }]));
    const sum = all.reduce((a, b) => a + b, 0);
    expect(sum).toBeCloseTo(10, 5);
    for (let i = 0; i < 5; i++) expect(all[i]).toBeCloseTo(all[9 - i], 4);
    for (let i = 1; i < 5; i++) expect(all[i]).toBeGreaterThan(all[i - 1]);
  });
  test('closer in bends: more points on the bend than on straight parts of the same length', async () => {
    const bend: Chain = [drawn([[0, 0, 0], [4, 0, 0], [4, 4, 0]]), ['shape.roundCorners', { radius: 1, points: 17 }]]; // prettier-ignore
    const share = async (spread: string): Promise<number> => {
      const p = places((await made(...bend, ['pace.resample', { count: 41, spread }])).positions);
      return p.filter(([x, y]) => x > 3 && y < 1).length / p.length;
    };
    expect(await share('curvature')).toBeGreaterThan(1.5 * (await share('even')));
  });
  test('by deviation: no chord lies farther from a circle than asked, and hardly nearer', async () => {
    for (const deviation of [0.1, 0.01, 0.001]) {
      const circle = await made(['lay.circle', { radius: 3, points: 48 }], ['pace.resample', { by: 'deviation', deviation }]);
      const p = places(circle.positions);
      const sagitta = Math.max(...p.map((a, i) => 3 - Math.hypot(...a.map((value, k) => (value + p[(i + 1) % p.length][k]) / 2))));
      expect(sagitta).toBeLessThanOrEqual(deviation * 1.001);
      expect(sagitta).toBeGreaterThan(deviation / 6);
    }
  });
  test('a number for each curve: counts and spacings by formula', async () => {
    const two = ['lay.drawn', { kind: 'straight', curves: [[0, 4], [1, 8]].map(([z, x]) => ({ points: [[0, 0, z], [x, 0, z]] })) }] as const; // prettier-ignore
    const counts = ({ starts }: Curves): number[] => [starts[1], starts[2] - starts[1]];
    expect(counts(await made(two, ['pace.resample', { count: { formula: '3 + 2*c' } }]))).toEqual([3, 5]);
    expect(counts(await made(two, ['pace.resample', { by: 'spacing', spacing: { formula: 'L/4' } }]))).toEqual([5, 5]);
  });
});

describe('Cut to span', () => {
  test('in fractions and in metres, per curve, beyond an end to the end', async () => {
    const length = async (settings: object): Promise<number> => curveLengths(await made(line(11), ['pace.cut', { ...settings }]))[0];
    expect(await length({ start: 0.2, end: 0.7 })).toBeCloseTo(5, 5);
    expect(await length({ in: 'metres', start: 2, end: 3.5 })).toBeCloseTo(1.5, 5);
    expect(await length({ in: 'metres', start: 4, end: 99 })).toBeCloseTo(6, 5);
    const { last } = await runChain([line(11), ['pace.cut', { start: 0.8, end: 0.3 }]]);
    expect(last.warnings.map(({ code, curve }) => [code, curve])).toEqual([['empty', 0]]);
  });
});

describe('Reverse', () => {
  test('turns all, or those that run against the first', async () => {
    const three = ['lay.drawn', { kind: 'straight', curves: [[0, 1], [1, 0], [0, 1]].map(([from, to], z) => ({ points: [[from, 0, z], [to, 0, z]] })) }] as const; // prettier-ignore
    expect(xs(await made(three, ['pace.reverse']))).toEqual([1, 0, 0, 1, 1, 0]);
    expect(xs(await made(three, ['pace.reverse', { match: 'first' }]))).toEqual([0, 1, 0, 1, 0, 1]);
    expect(xs(await made(three, ['pace.reverse', { where: { formula: 'c == 2' } }]))).toEqual([0, 1, 1, 0, 1, 0]);
  });
  test('closed ones by the sense they turn in', async () => {
    const rings = ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [1, 0, 0], [1, 1, 0]], closed: true }, { points: [[5, 0, 0], [6, 1, 0], [6, 0, 0]], closed: true }] }] as const; // prettier-ignore
    const second = places((await made(rings, ['pace.reverse', { match: 'first' }])).positions).slice(3);
    const area = second.reduce((sum, [x, y], i) => sum + x * second[(i + 1) % 3][1] - second[(i + 1) % 3][0] * y, 0) / 2;
    expect(area).toBeCloseTo(0.5, 6);
  });
});

describe('Reorder points', () => {
  const order = async (settings: object): Promise<number[]> => xs(await made(line(6), ['pace.reorder', { ...settings }]));
  test('shifted the list comes round, interleaved it takes every k-th, reversed it runs back', async () => {
    expect(await order({ shift: 2 })).toEqual([2, 3, 4, 5, 0, 1]);
    expect(await order({ shift: -1 })).toEqual([5, 0, 1, 2, 3, 4]);
    expect(await order({ interleave: 2 })).toEqual([0, 2, 4, 1, 3, 5]);
    expect(await order({ reverse: true })).toEqual([5, 4, 3, 2, 1, 0]);
  });
  test('sorted by an axis or a value; several at once in their order', async () => {
    const zigzag = drawn([[2, 0, 5], [0, 1, 4], [1, -1, 3]]); // prettier-ignore
    const sorted = async (settings: object): Promise<number[]> => xs(await made(zigzag, ['gauge.set', { name: 'rank', value: { formula: '0 - x' } }], ['pace.reorder', { ...settings }])); // prettier-ignore
    expect(await sorted({ sort: 'x' })).toEqual([0, 1, 2]);
    expect(await sorted({ sort: 'y' })).toEqual([1, 2, 0]);
    expect(await sorted({ sort: 'attribute', attribute: 'rank' })).toEqual([2, 1, 0]);
    expect(await sorted({ sort: 'x', reverse: true, shift: 1 })).toEqual([1, 0, 2]);
  });
  test('along any direction, and from each point to the nearest that is left', async () => {
    const zigzag = drawn([[2, 0, 5], [0, 1, 4], [1, -1, 3]]); // prettier-ignore
    expect(xs(await made(zigzag, ['pace.reorder', { sort: 'direction', direction: [0, -2, 0] }]))).toEqual([0, 2, 1]);
    const jumping = drawn([[0, 0, 0], [9, 0, 0], [1, 0, 0], [8, 0, 0], [2, 0, 0]]); // prettier-ignore
    expect(xs(await made(jumping, ['pace.reorder', { sort: 'nearest' }]))).toEqual([0, 1, 2, 8, 9]);
  });
  test('documents that sorted by an axis or shuffled by a seed of its own give what they gave', async () => {
    const zigzag = drawn([[2, 0, 5], [0, 1, 4], [1, -1, 3]]); // prettier-ignore
    for (const [before, now] of [
      [
        { sort: 'z', shuffle: -1 },
        { sort: 'direction', direction: [0, 0, 1] },
      ],
      [
        { sort: 'x', shuffle: 7 },
        { sort: 'direction', direction: [1, 0, 0], mix: true, seed: 7 },
      ],
      [{ shuffle: 3 }, { mix: true, seed: 3 }],
    ] as const)
      expect((await made(zigzag, ['pace.reorder', before])).positions).toEqual((await made(zigzag, ['pace.reorder', now])).positions);
  });
  test('shuffled: the same for the same seed, another for another, and never a point lost', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: 2, max: 40 }), fc.integer({ min: 0, max: 1000 }), async (count, seed) => {
        const once = xs(await made(line(count), ['pace.reorder', { shuffle: seed }]));
        expect(xs(await made(line(count), ['pace.reorder', { shuffle: seed }]))).toEqual(once);
        expect([...once].sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, i) => i));
      }),
      { numRuns: 20 },
    ));
  test('undone by its opposite: a shift and one back', () =>
    fc.assert(
      fc.asyncProperty(points(2, 9), fc.integer({ min: -12, max: 12 }), async (list, shift) => {
        const back = await made(drawn(list), ['pace.reorder', { shift }], ['pace.reorder', { shift: -shift }]);
        expect(back.positions).toEqual((await made(drawn(list))).positions);
      }),
      { numRuns: 25 },
    ));
});

describe('Close or open', () => {
  test('closing drops a last point that repeats the first; opening takes the last piece away', async () => {
    const square = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]]; // prettier-ignore
    const closed = await made(drawn([...square, square[0]]), ['pace.closeOpen', { closed: true }]);
    expect([closed.closed[0], closed.positions.length / 3, curveLengths(closed)[0]]).toEqual([1, 4, 4]);
    const open = await made(drawn(square, true), ['pace.closeOpen', { closed: false }]);
    expect([open.closed[0], curveLengths(open)[0]]).toEqual([0, 3]);
  });
});

describe('Split', () => {
  test('at every point, at corners beyond the angle, where a value changes', async () => {
    const path = drawn([[0, 0, 0], [1, 0, 0], [2, 0.2, 0], [2, 1, 0], [2, 2, 0]]); // prettier-ignore
    const pieces = async (settings: object, ...before: Chain): Promise<number[]> => [...curveLengths(await made(path, ...before, ['pace.split', { ...settings }]))].map((length) => Number(length.toFixed(3))); // prettier-ignore
    expect((await pieces({})).length).toBe(4);
    expect(await pieces({ at: 'corners', angle: 45 })).toEqual([2.02, 1.8]);
    expect((await pieces({ at: 'corners', angle: 5 })).length).toBe(3);
    const half: Chain = [['gauge.set', { name: 'zone', value: { formula: 'i >= 3' } }]];
    expect(await pieces({ at: 'attributeChange', attribute: 'zone' }, ...half)).toHaveLength(2);
  });
});

describe('Points of curves', () => {
  test('every n-th, the ends, the corners: with the curve they come from and their place along it', async () => {
    const { results } = await runGraph(
      {
        a: ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [1, 0, 0], [2, 0, 0], [2, 2, 0]] }, { points: [[9, 0, 0], [9, 1, 0], [9, 2, 0]] }] }],
        all: ['pace.points', { every: 2 }],
        ends: ['pace.points', { which: 'ends' }],
        corners: ['pace.points', { which: 'corners', angle: 60 }],
      },
      ['a.curves > all.curves', 'a.curves > ends.curves', 'a.curves > corners.curves'],
    ); // prettier-ignore
    const of = (id: string): Points => results[id].outputs['points'] as Points;
    expect(places(of('all').positions)).toEqual([[0, 0, 0], [2, 0, 0], [9, 0, 0], [9, 2, 0]]); // prettier-ignore
    expect([...of('all').attributes.get('curve')!.data]).toEqual([0, 0, 1, 1]);
    expect([...of('all').attributes.get('id')!.data]).toEqual([0, 2, 4, 6]);
    expect([...of('all').attributes.get('s')!.data]).toEqual([0, 2, 0, 2]);
    expect([...of('all').attributes.get('t')!.data]).toEqual([0, 0.5, 0, 1]);
    expect(places(of('ends').positions)).toEqual([[0, 0, 0], [2, 2, 0], [9, 0, 0], [9, 2, 0]]); // prettier-ignore
    expect(places(of('corners').positions)).toEqual([[2, 0, 0]]); // prettier-ignore
    for (const name of ['tangent', 'normal']) for (const way of places(of('ends').attributes.get(name)!.data)) expect(Math.hypot(...way)).toBeCloseTo(1, 6);
  });
});

test('Join ends: pieces in any order and sense become one curve; a gap beyond the distance stays', async () => {
  const pieces = (gap: number): Chain[number] => ['lay.drawn', { kind: 'straight', curves: [{ points: [[2, 0, 0], [1, 0, 0]] }, { points: [[3 + gap, 0, 0], [2 + gap, 0, 0]] }, { points: [[0, 0, 0], [1, 0, 0]] }] }]; // prettier-ignore
  const joined = await made(pieces(0.0005), ['pace.joinEnds', { distance: 0.001 }]);
  expect([curveCount(joined), Math.round(curveLengths(joined)[0] * 100) / 100]).toEqual([1, 3]);
  expect(curveCount(await made(pieces(0.01), ['pace.joinEnds', { distance: 0.001 }]))).toBe(2);
});
