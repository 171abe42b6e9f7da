import { describe, expect, test } from 'vitest';
import { catenaryAt, catenaryByLength, catenaryBySag, curveLengths, sagOf } from '../../src/index.js';
import { runChain } from '../graph.js';
import { expectReference, places, reference } from './reference.js';

describe('a rope of given length between two places (catenary)', () => {
  for (const id of ['HG-O-01', 'HG-O-02', 'HG-O-03', 'HG-O-04']) {
    const { name, inputs, expected } = reference<{ p1: number[]; p2: number[]; length: number; count: number }>(id);
    const [span, rise] = inputs.p2;
    test(name, () => {
      const curve = catenaryByLength(span, rise, inputs.length);
      expectReference(curve.a, expected['a']);
      expectReference(curve.x0, expected['x0_vertex']);
      expectReference(sagOf(curve), expected['maxSagBelowChord']);
      const points = Array.from({ length: inputs.count }, (_, i) => [...catenaryAt(curve, (curve.length * i) / (inputs.count - 1)).slice(0, 2), 0]);
      expectReference(points, expected['points']);
      const angles = [0, curve.length].map((s) => {
        const [, , dx, dy] = catenaryAt(curve, s);
        return (Math.atan2(dy, dx) * 180) / Math.PI;
      });
      expectReference(angles, expected['endAnglesDeg']);
    });

    test(`${id} by the node Hang: ends exact, length within 1e-4, even points`, async () => {
      const slack = inputs.length / Math.hypot(span, rise) - 1;
      const { curves } = await runChain([
        ['lay.line', { from: [0, 0, 0], to: [span, rise, 0] }],
        ['shape.hang', { by: 'slack', value: slack, points: inputs.count }],
      ]);
      const made = places(curves.positions);
      expect(made[0]).toEqual([0, 0, 0]);
      expect(made[made.length - 1]).toEqual([span, rise, 0]);
      expectReference(made, { value: expected['points'].value, abs: 2e-5 });
      expect(Math.abs(curveLengths(curves)[0] - inputs.length)).toBeLessThan(1e-4 * inputs.length);
    });
  }
});

describe('a rope of given sag', () => {
  for (const id of ['HG-O-05', 'HG-O-06']) {
    const { name, inputs, expected } = reference<{ span: number; sag: number }>(id);
    test(name, () => {
      const curve = catenaryBySag(inputs.span, 0, inputs.sag);
      expectReference(curve.a, expected['a']);
      expectReference(curve.length, { ...expected['length'], rel: 1e-8 });
      expectReference(sagOf(curve), { value: inputs.sag, abs: 1e-9 });
    });
  }

  test('ends at different heights: the slope is linear in length', () => {
    const curve = catenaryBySag(7, 2.5, 1.3);
    expect(sagOf(curve)).toBeCloseTo(1.3, 9);
    const slopes = Array.from({ length: 9 }, (_, i) => {
      const [, , dx, dy] = catenaryAt(curve, (curve.length * i) / 8);
      return dy / dx;
    });
    const step = slopes[1] - slopes[0];
    slopes.slice(1).forEach((slope, i) => expect(slope - slopes[i]).toBeCloseTo(step, 9));
    const [x, y] = catenaryAt(curve, curve.length);
    expect(x).toBeCloseTo(7, 9);
    expect(y).toBeCloseTo(2.5, 9);
  });
});

describe('limits (HG-O-07)', () => {
  test('no slack is a straight line; too short is refused; no span is a fold straight down', () => {
    expect(catenaryByLength(10, 0, 10).a).toBe(Infinity);
    expect(() => catenaryByLength(10, 0, 9)).toThrow('A rope of 9 m cannot reach over 10 m.');
    const fold = catenaryByLength(0, 0, 6);
    expect(catenaryAt(fold, 3)[1]).toBeCloseTo(-3, 6);
  });

  test('a sag between ends one above the other is told, and drawn straight', async () => {
    const { last, curves } = await runChain([
      ['lay.line', { from: [0, 0, 0], to: [0, 2, 0] }],
      ['shape.hang', { value: 0.4, points: 5 }],
    ]);
    expect(last.warnings[0]).toMatchObject({ code: 'degenerate', curve: 0 });
    expectReference(places(curves.positions), { value: [0, 0.5, 1, 1.5, 2].map((y) => [0, y, 0]), abs: 1e-6 });
  });
});

describe('deep ropes keep their length', () => {
  const hung = async (to: readonly number[], slack: number, points: number): Promise<{ count: number; error: number }> => {
    const { curves } = await runChain([['lay.line', { to }], ['shape.hang', { by: 'slack', value: slack, points }]]); // prettier-ignore
    return { count: curves.positions.length / 3, error: Math.abs(curveLengths(curves)[0] / (Math.hypot(...to) * (1 + slack)) - 1) };
  };
  test('within 1e-4 at any slack, with the points that were asked for where they can hold it', async () => {
    for (const slack of [0.01, 0.5, 1, 3, 9, 99, 1e4])
      for (const to of [[1, 0, 0], [1, 3, 0], [0.01, -2, 0]]) {
        const { count, error } = await hung(to, slack, 24);
        expect(error).toBeLessThan(1e-4);
        if (to[0] === 1) expect(count).toBe(24);
      } // prettier-ignore
  });
  test('so few points that they cannot hold it become more', async () => {
    const { count, error } = await hung([1, 0, 0], 9, 3);
    expect(error).toBeLessThan(1e-4);
    expect(count).toBeGreaterThan(3);
    expect((await hung([1, 0, 0], 0.02, 6)).count).toBe(6);
  });
  test('a rope with both ends in one line down has its fold as a point', async () => {
    for (const points of [3, 24]) expect((await hung([0, -2, 0], 1, points)).error).toBeLessThan(1e-6);
  });
});
