import { expect, test } from 'vitest';
import { curveLengths, curvesFromLists, unbounded, type Curves } from '../../src/index.js';
import { branching } from '../../src/gauge/branching.js';
import { weldCurves } from '../../src/mesh/change/weldCurves.js';
import { runGraph } from '../graph.js';

const values = ({ attributes }: Curves, name: string): number[] => [...attributes.get(name)!.data];
const look = (curves: Curves, options = {}) => branching(curves, { within: 0.001, exponent: 2, ...options }, unbounded);

/** A stem of 4 m with side branches at 1 m and 3 m; the first has one of its own. */
const tree = curvesFromLists([
  [[0, 0, 0], [0, 1, 0], [0, 2, 0], [0, 3, 0], [0, 4, 0]],
  [[0, 1, 0], [1, 1, 0], [2, 1, 0]],
  [[1, 1, 0], [1, 2, 0]],
  [[0, 3, 0], [-1, 3, 0]],
]); // prettier-ignore

test('distances from the root, tips beyond, Strahler orders and thickness, counted by hand', () => {
  const { curves, roots } = look(tree);
  expect(roots).toBe(1);
  expect(values(curves, 'distance')).toEqual([0, 1, 2, 3, 4, 1, 2, 3, 2, 3, 3, 4]);
  expect(values(curves, 'tips')).toEqual([4, 4, 2, 2, 1, 2, 2, 1, 1, 1, 1, 1]);
  // Two tips make 2 on the side branch and, with the last one, on the stem; two of 2 make 3 below.
  expect(values(curves, 'order')).toEqual([3, 3, 2, 2, 1, 2, 2, 1, 1, 1, 1, 1]);
  expect(values(curves, 'thickness')).toEqual([4, 4, 2, 2, 1, 2, 2, 1, 1, 1, 1, 1].map((tips) => expect.closeTo(Math.sqrt(tips / 4), 6) as number));
});

test('a fork is as thick as what leaves it: the areas of sections add up at exponent 2', () => {
  const { curves } = look(tree, { exponent: 2 });
  const thickness = values(curves, 'thickness');
  expect(thickness[1] ** 2).toBeCloseTo(thickness[2] ** 2 + thickness[5] ** 2, 6);
});

test('whose branch a curve is may be said; else it is what it begins at, within the distance', () => {
  const apart = curvesFromLists([[[0, 0, 0], [0, 1, 0], [0, 2, 0]], [[0.05, 1, 0], [1, 1, 0]]]); // prettier-ignore
  expect([look(apart).roots, look(apart, { within: 0.1 }).roots]).toEqual([2, 1]);
  const said = { ...apart, attributes: new Map([['parent', { carrier: 'curve', size: 1, data: Float32Array.of(-1, 0) }]] as const) };
  expect(look(said).roots).toBe(1);
  expect(values(look(said).curves, 'distance')[3]).toBeCloseTo(1, 6);
});

test('branches in a circle are told, and end somewhere', async () => {
  const ring = curvesFromLists([[[0, 0, 0], [1, 0, 0]], [[1, 0, 0], [1, 1, 0]], [[1, 1, 0], [0, 0, 0]]]); // prettier-ignore
  const { circles, curves } = look(ring);
  expect(circles).toBe(1);
  expect(values(curves, 'distance').every(Number.isFinite)).toBe(true);
  const { results } = await runGraph(
    { body: ['lay.sphere', {}], ways: ['grow.routes', { begin: { formula: 'y > 0.49' } }], it: ['gauge.branching', {}] },
    ['body.mesh > ways.mesh', 'ways.curves > it.curves'],
  ); // prettier-ignore
  const found = results['it'].outputs['curves'] as Curves;
  expect(values(found, 'thickness').reduce((most, value) => Math.max(most, value), 0)).toBe(1);
  // The same tips as routes count.
  const [tips, traffic] = ['tips', 'traffic'].map((name) => values(found, name));
  expect(tips.every((value, i) => value <= traffic[i])).toBe(true);
});

test('welded curves are one network: doubles once, curves from fork to fork, ends within the distance as one', () => {
  const crossing = curvesFromLists([
    [[-1, 0, 0], [0, 0, 0], [1, 0, 0]],
    [[0, -1, 0], [0, 0.0004, 0], [0, 1, 0]],
    // The same piece again, the other way, and on from there.
    [[1, 0, 0], [0, 0, 0], [-1, 0, 0], [-2, 0, 0]],
  ]); // prettier-ignore
  const made = weldCurves(crossing, 0.001);
  expect(made.starts.length - 1).toBe(4);
  const length = Array.from({ length: 4 }, (_, c) => [...made.positions.subarray(made.starts[c] * 3, made.starts[c + 1] * 3)].length / 3);
  // Three arms of one piece, and one of two.
  expect(length.sort()).toEqual([2, 2, 2, 3]);
  // A smooth curve keeps its course, as closely as rings would stand on it.
  const wave = curvesFromLists([[[0, 0, 0], [1, 1, 0], [2, 0, 0]]], { kind: 'through' }); // prettier-ignore
  expect(curveLengths(weldCurves(wave, 0))[0] / curveLengths(wave)[0]).toBeCloseTo(1, 2);
  // A ring of three curves is one closed curve.
  const ring = weldCurves(curvesFromLists([[[0, 0, 0], [1, 0, 0]], [[1, 0, 0], [1, 1, 0]], [[1, 1, 0], [0, 0, 0]]]), 0); // prettier-ignore
  expect([ring.starts.length - 1, ring.closed[0], ring.positions.length / 3]).toEqual([1, 1, 3]);
});
