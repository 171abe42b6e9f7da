import { describe, expect, test } from 'vitest';
import { constantField, curveLengths, curvesFromLists, resample, type Curves } from '../../src/index.js';
import { runChain } from '../graph.js';
import { expectReference, fineBezier, places, reference, singlePrecision, type FormulaCurve } from './reference.js';

const byCount = (curves: Curves, count: number): number[][] =>
  places(resample(curves, { by: 'count', count: constantField(count), spacing: constantField(1), deviation: 1, fit: 'even', spread: 'even' }).positions);
const bySpacing = (curves: Curves, spacing: number, fit: 'even' | 'exact'): number[][] =>
  places(resample(curves, { by: 'spacing', count: constantField(2), spacing: constantField(spacing), deviation: 1, fit, spread: 'even' }).positions);

describe('arc length and even points of curves given by formulas', () => {
  for (const id of ['AL-O-01', 'AL-O-03', 'AL-O-04', 'AL-O-05', 'AL-O-06', 'AL-O-11', 'AL-O-12']) {
    const { name, inputs, expected } = reference<{ curve: FormulaCurve; count: number }>(id);
    test(name, () => {
      const curves = fineBezier(inputs.curve, 801);
      expectReference(curveLengths(curves)[0], expected['length']);
      expectReference(byCount(curves, inputs.count), expected['points'], 4e-6);
    });
  }
});

test(reference('AL-O-01').name + ' by the nodes Circle and Resample', async () => {
  const { expected } = reference('AL-O-01');
  const { curves } = await runChain([
    ['lay.circle', { radius: 2.5, points: 32, centre: [1, -2, 0.5], axis: [0, 0, 1] }],
    ['pace.resample', { count: 12 }],
  ]);
  expectReference(places(curves.positions), expected['points']);
  expectReference(curveLengths(curves)[0], expected['length']);
});

test(reference('AL-O-04').name + ' by the nodes Helix and Resample', async () => {
  const { expected } = reference('AL-O-04');
  const helix = ['lay.helix', { radius: 1, height: 2.4, turns: 3, pointsPerTurn: 64 }] as const;
  expectReference(curveLengths((await runChain([helix])).curves)[0], expected['length']);
  const { curves } = await runChain([helix, ['pace.resample', { count: 10 }]]);
  // The case rises along z; the node rises along y, so (x, y, z) there is (x, −z, y) here.
  expectReference(places(curves.positions).map(([x, y, z]) => [x, -z, y]), expected['points']); // prettier-ignore
});

test('by spacing: the last piece is shorter (exact), or the spacing is evened out (even)', () => {
  for (const id of ['AL-O-04', 'AL-O-06']) {
    const { inputs } = reference<{ curve: FormulaCurve; spacing: number }>(id);
    const curves = fineBezier(inputs.curve, 801);
    const exact = bySpacing(curves, inputs.spacing, 'exact');
    const length = curveLengths(curves)[0];
    expect(exact.length).toBe(Math.floor(length / inputs.spacing) + 2);
    const even = bySpacing(curves, inputs.spacing, 'even');
    expect(even.length).toBe(Math.round(length / inputs.spacing) + 1);
    expect(even[even.length - 1]).toEqual(exact[exact.length - 1]);
  }
});

describe('curves by the node Drawn curve', () => {
  const drawn = (points: readonly (readonly number[])[], kind: string, closed = false) => ['lay.drawn', { kind, curves: [{ points, closed }] }] as const;

  for (const id of ['AL-O-06', 'AL-O-07']) {
    const { name, inputs, expected } = reference<{ controlPoints: number[][]; count: number }>(id);
    test(`${name}, as a Bezier control polygon`, async () => {
      const bezier = drawn(inputs.controlPoints, 'bezier');
      expectReference(curveLengths((await runChain([bezier])).curves)[0], expected['length']);
      const { curves } = await runChain([bezier, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['points'], 2e-6);
    });
  }

  for (const id of ['AL-O-08', 'AL-O-09']) {
    const { name, inputs, expected } = reference<{ points: number[][]; closed: boolean; count: number }>(id);
    test(`${name}, through its points`, async () => {
      const through = drawn(inputs.points, 'through', inputs.closed);
      expectReference(curveLengths((await runChain([through])).curves)[0], expected['length']);
      const { curves } = await runChain([through, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['equallySpacedPoints'], 4e-6);
    });
  }

  for (const id of ['AL-O-13', 'AL-O-14', 'AL-O-15']) {
    const { name, inputs, expected } = reference<{ points: number[][]; closed: boolean; count: number }>(id);
    test(`${name}, straight`, async () => {
      const straight = drawn(inputs.points, 'straight', inputs.closed);
      expectReference(curveLengths((await runChain([straight])).curves)[0], expected['length'], 20 * singlePrecision);
      const { curves } = await runChain([straight, ['pace.resample', { count: inputs.count }]]);
      expectReference(places(curves.positions), expected['points'], 20 * singlePrecision);
    });
  }
});

test(reference('AL-O-02').name, () => {
  const { inputs, expected } = reference<{ r: number; N: number[] }>('AL-O-02');
  const lengths = inputs.N.map((n) => {
    const polygon = Array.from({ length: n }, (_, i) => [inputs.r * Math.cos((2 * Math.PI * i) / n), inputs.r * Math.sin((2 * Math.PI * i) / n), 0]);
    return curveLengths(curvesFromLists([polygon], { closed: [true] }))[0];
  });
  expectReference(lengths, expected['polygonLengths'], 16 * singlePrecision);
});
