import { describe, expect, test } from 'vitest';
import { curveLengths, type Curves } from '../../src/index.js';
import { drawn, runChain, runGraph } from '../graph.js';
import { expectReference, places, reference, singlePrecision } from './reference.js';

const lengthOf = (curves: Curves): number => curveLengths(curves)[0];

describe('simplify', () => {
  for (const id of ['PL-O-01', 'PL-O-02', 'PL-O-03']) {
    const { name, inputs, expected } = reference<{ points: number[][]; eps: number[] }>(id);
    for (const eps of inputs.eps)
      test(`${name}, tolerance ${eps}`, async () => {
        const { curves } = await runChain([drawn(inputs.points), ['pace.simplify', { tolerance: eps }]]);
        const kept = expected[`keptIndices_eps_${eps}`].value as number[];
        expect(places(curves.positions)).toEqual(kept.map((i) => inputs.points[i].map(Math.fround)));
      });
  }
});

describe('round corners', () => {
  for (const id of ['PL-O-04', 'PL-O-05', 'PL-O-06']) {
    const { name, inputs, expected } = reference<{ A: number[]; B: number[]; C: number[]; r: number }>(id);
    test(name, async () => {
      const { curves } = await runChain([drawn([inputs.A, inputs.B, inputs.C]), ['shape.roundCorners', { radius: inputs.r, points: 9 }]]);
      const p = places(curves.positions);
      expectReference([p[1], p[9]], expected['tangentPoints'], 10 * singlePrecision);
      expectReference(p[5], expected['arcMiddle'], 10 * singlePrecision);
      for (const place of p.slice(1, 10)) {
        const fromCentre = place.map((value, k) => value - (expected['centre'].value as number[])[k]);
        expect(Math.hypot(...fromCentre)).toBeCloseTo(inputs.r, 6);
      }
      expectReference(lengthOf(curves), expected['pathLength'], 1e-6);
    });
    test(`${id}: the largest radius takes half of the shorter leg, or the whole without the limit`, async () => {
      for (const [limit, key] of [
        [true, 'maxRadius_halfSegments'],
        [false, 'maxRadius_wholeSegments'],
      ] as const) {
        // prettier-ignore
        const { curves } = await runChain([drawn([inputs.A, inputs.B, inputs.C]), ['shape.roundCorners', { radius: 100, points: 3, limit }]]);
        const p = places(curves.positions);
        // Where the arc takes the whole first leg, it begins at the path's first point; where it takes the whole last one, it ends at the last.
        const legs = [inputs.A, inputs.C].map((end) => Math.hypot(...end.map((value, k) => value - inputs.B[k])));
        // Legs of one length are both taken whole.
        expect(p).toHaveLength(limit ? 5 : Math.abs(legs[0] - legs[1]) < 1e-9 ? 3 : 4);
        const at = !limit && legs[0] <= legs[1] ? 0 : 1;
        const [a, m, b] = [p[at], p[at + 1], p[at + 2]];
        // From chord and sagitta: r = (c²/4 + h²) / 2h with c the chord between the tangent points.
        const chord = Math.hypot(...b.map((value, k) => value - a[k]));
        const middle = b.map((value, k) => (value + a[k]) / 2);
        const height = Math.hypot(...m.map((value, k) => value - middle[k]));
        expectReference((chord * chord) / 4 / (2 * height) + height / 2, expected[key], 2e-5);
      }
    });
  }

  const { name, inputs, expected } = reference<{ side: number; r: number }>('PL-O-07');
  test(name, async () => {
    const square = ['lay.rectangle', { width: inputs.side, height: inputs.side }] as const;
    const rounded = await runChain([square, ['shape.roundCorners', { radius: inputs.r, points: 16 }]]);
    expectReference(lengthOf(rounded.curves), expected['length'], 2e-6);
    const round = await runChain([square, ['shape.roundCorners', { radius: 9, points: 16 }]]);
    expectReference(lengthOf(round.curves), expected['atMaxRadius_length'], 2e-6);
    expect((await runChain([['lay.rectangle', { width: inputs.side, height: inputs.side, corner: inputs.r }]])).curves.closed[0]).toBe(1);
  });
});

describe('subdivide', () => {
  const closed = reference<{ points: number[][] }>('PL-O-08');
  test(closed.name, async () => {
    const square = drawn(closed.inputs.points.map(([x, y]) => [x, y, 0]), true); // prettier-ignore
    const counts: number[] = [];
    for (let times = 0; times <= 5; times++) counts.push((await runChain([square, ['pace.subdivide', { times, smooth: true }]])).curves.positions.length / 3);
    expectReference(counts, closed.expected['counts_k0to5']);
    const { curves } = await runChain([square, ['pace.subdivide', { smooth: true }]]);
    expectReference(places(curves.positions).map(([x, y]) => [x, y]), closed.expected['k1']); // prettier-ignore
  });
  const open = reference<{ points: number[][] }>('PL-O-09');
  test(open.name, async () => {
    const counts: number[] = [];
    for (let times = 0; times <= 4; times++)
      counts.push((await runChain([drawn(open.inputs.points), ['pace.subdivide', { times, smooth: true, keepEnds: false }]])).curves.positions.length / 3);
    expectReference(counts, open.expected['counts']);
    const thrice = await runChain([drawn(open.inputs.points), ['pace.subdivide', { times: 3, smooth: true, keepEnds: false }]]);
    expectReference(places(thrice.curves.positions), open.expected['k3'], singlePrecision * 4);
  });
  test('halving a smooth curve changes neither its length nor its course', async () => {
    const wave = drawn([[0, 0, 0], [1, 2, 0], [3, 2.5, 1], [4, 0, 1.5]], false, 'through'); // prettier-ignore
    const [once, thrice] = [await runChain([wave]), await runChain([wave, ['pace.subdivide', { times: 3 }]])];
    expect(thrice.curves.positions.length / 3).toBe(25);
    expect(lengthOf(thrice.curves) / lengthOf(once.curves)).toBeCloseTo(1, 7);
  });
});

describe('arcs through three points', () => {
  const arcs = (a: number[][], b: number[][], c: number[][], settings = {}): ReturnType<typeof runGraph> =>
    runGraph({ a: drawn(a), b: drawn(b), c: drawn(c), arc: ['lay.arc3', settings] }, ['a.curves > arc.a', 'b.curves > arc.b', 'c.curves > arc.c']);

  test('a half circle: all points at the radius, ends exact, length πr (derived)', async () => {
    const { results } = await arcs([[1, 0, 0], [2, 0, 0]], [[0, 1, 0], [0, 2, 0]], [[-1, 0, 0], [-2, 0, 0]], { points: 9 }); // prettier-ignore
    const curves = results['arc'].outputs['curves'] as Curves;
    places(curves.positions).forEach((p, i) => expect(Math.hypot(...p)).toBeCloseTo(i < 9 ? 1 : 2, 6));
    expect(curveLengths(curves)[0] / Math.PI).toBeCloseTo(1, 5);
    expect(places(curves.positions)[8]).toEqual([-1, 0, 0]);
  });
  test('an arc of more than half a turn goes the long way, past its middle point', async () => {
    const { results } = await arcs([[1, 0, 0]], [[-1, 0, 0]], [[0, -1, 0]], { points: 33 });
    expect(curveLengths(results['arc'].outputs['curves'] as Curves)[0] / (1.5 * Math.PI)).toBeCloseTo(1, 5);
  });
  test('three points in a line give a straight line and a warning', async () => {
    const { results } = await arcs([[0, 0, 0]], [[1, 1, 0]], [[2, 2, 0]]);
    expect(results['arc'].warnings.map(({ code }) => code)).toEqual(['collinear']);
    expect(curveLengths(results['arc'].outputs['curves'] as Curves)[0]).toBeCloseTo(Math.sqrt(8), 6);
  });
  test('unequal lists are refused with both counts; shortest and cycle by choice', async () => {
    const lists = [[[0, 0, 0], [1, 0, 0], [2, 0, 0]], [[0, 1, 1], [1, 1, 1]], [[0, 0, 2], [1, 0, 2], [2, 0, 2]]] as const; // prettier-ignore
    const [a, b, c] = lists.map((list) => list.map((p) => [...p]));
    expect((await arcs(a, b, c)).results['arc'].error?.message).toMatch(/a 3, b 2 and c 3/);
    expect((await arcs(a, b, c, { unequal: 'shortest' })).results['arc'].out['curves']).toBe(2);
    const cycled = (await arcs(a, b, c, { unequal: 'cycle' })).results['arc'];
    expect(cycled.out['curves']).toBe(3);
  });
});

test('an arc that takes a whole leg ends in the end point itself, once, without a limit too', async () => {
  for (const end of [0, 1e-9, 1e-8, 1e-7])
    for (const at of [0, 1000]) {
      const bend = drawn([[at, 0, 0], [at + 1, 0, 0], [at + 1, 1 + end, 0]]); // prettier-ignore
      const { curves } = await runChain([bend, ['shape.roundCorners', { radius: 1, points: 5, limit: false }]]);
      const made = places(curves.positions);
      for (let i = 1; i < made.length; i++) expect(Math.hypot(...made[i].map((value, k) => value - made[i - 1][k]))).toBeGreaterThan(0.1);
      expect(made[made.length - 1]).toEqual([...Float32Array.of(at + 1, 1 + end, 0)]);
    }
});
