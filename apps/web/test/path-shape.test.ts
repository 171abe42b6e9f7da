/** A curve unrolled along its length. */
import { expect, test } from 'vitest';
import { curvesFromLists, Evaluator, Plan, requireDocument, type Curves } from '@filaxis/core';
import { shapeOf, stripStep } from '../src/workers/pathShape';

const circle = (radius: number, points: number): Curves =>
  curvesFromLists(
    [Array.from({ length: points }, (_, i) => [radius * Math.cos((2 * Math.PI * i) / points), 0, radius * Math.sin((2 * Math.PI * i) / points)])],
    { closed: [true] },
  );

test('a closed curve ends where it began, one place more, at its whole length', () => {
  const { closed, length, s, positions, spacing } = shapeOf(circle(2, 64), 0);
  expect([closed, s.length, positions.length, s[64]]).toEqual([true, 65, 65 * 3, Math.fround(length)]);
  expect([...positions.slice(-3)]).toEqual([...positions.slice(0, 3)]);
  // A chord of a regular polygon: 2 r sin(π/n).
  for (const gap of spacing) expect(gap).toBeCloseTo(4 * Math.sin(Math.PI / 64), 5);
});

test('a circle bends by one over its radius everywhere, and does not roll', () => {
  const { curvature, roll, bends } = shapeOf(circle(2, 256), 0);
  for (const value of [...curvature, ...bends.values]) expect(value).toBeCloseTo(0.5, 3);
  for (const value of roll) expect(Math.abs(value)).toBeLessThan(0.01);
});

test('roll is told in degrees about the way the curve runs, from the frame that turns least', async () => {
  const nodes = [
    { id: 'line', type: 'lay.line', settings: { from: [1, 2, 3], to: [3, 3, 1], points: 5 } },
    { id: 'frames', type: 'aim.frames', settings: { twist: 120 } },
  ];
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Twist',
    nodes,
    wires: [{ from: ['line', 'curves'], to: ['frames', 'curves'] }],
  });
  const { nodes: results } = await new Evaluator().run(new Plan(document));
  const { roll } = shapeOf(results.get('frames')!.outputs['curves'] as Curves, 0);
  [0, 30, 60, 90, 120].forEach((degrees, i) => expect(roll[i]).toBeCloseTo(degrees, 3));
});

test('an open straight line: its metres, its gaps, the last as the one before', () => {
  const shape = shapeOf(curvesFromLists([[[0, 0, 0], [1, 0, 0], [3, 0, 0]]]), 0); // prettier-ignore
  expect([shape.closed, [...shape.s], [...shape.spacing], [...shape.curvature]]).toEqual([false, [0, 1, 3], [1, 2, 2], [0, 0, 0]]);
});

test('a long curve has at most some thousand places, the last among them', () => {
  expect([1, 4000, 4001, 8000, 8001].map(stripStep)).toEqual([1, 1, 2, 2, 3]);
  const long = curvesFromLists([Array.from({ length: 9001 }, (_, i) => [i / 1000, 0, 0])]);
  const { s, positions, spacing, roll, curvature } = shapeOf(long, 0);
  expect([s.length, positions.length / 3, spacing.length, roll.length, curvature.length]).toEqual([3001, 3001, 3001, 3001, 3001]);
  expect([s[1], s[3000], positions[9000]].map((value) => Number(value.toFixed(4)))).toEqual([0.003, 9, 9]);
});

test('each curve is looked at once, as long as the curves are there', () => {
  const two = curvesFromLists([[[0, 0, 0], [1, 0, 0]], [[0, 0, 0], [0, 2, 0]]]); // prettier-ignore
  expect([shapeOf(two, 1).length, shapeOf(two, 0).length, shapeOf(two, 1) === shapeOf(two, 1)]).toEqual([2, 1, true]);
});
