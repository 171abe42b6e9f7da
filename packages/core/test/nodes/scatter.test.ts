import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { constantField, evenWeights, grid, makeMesh, scatterOnFaces, Surface, unbounded, type Mesh, type NodeResult, type Points } from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { expectReference, places, reference } from '../reference/reference.js';

type Step = Chain[number];

const points = (result: NodeResult): Points => {
  if (result.error) throw new Error(result.error.message);
  return result.outputs['points'] as Points;
};
const values = (of: Points, name: string): number[] => Array.from(of.attributes.get(name)!.data);

const curves: Step = ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [1, 0, 0]] }, { points: [[0, 1, 0], [4, 1, 0]] }, { points: [[0, 2, 0], [0, 2, 5], [5, 2, 5]] }] }]; // prettier-ignore
const onCurves = async (settings: object, path: Step = curves): Promise<Points> => points((await runChain([path, ['pace.scatter', settings as Record<string, unknown>]])).last); // prettier-ignore

describe('Scatter on curves', () => {
  test('each curve is drawn as often as the others, or as its length says, the last one too', async () => {
    const counts = async (share: string): Promise<number[]> => {
      const curve = values(await onCurves({ count: 6000, share }), 'curve');
      return [0, 1, 2].map((c) => curve.filter((each) => each === c).length);
    };
    for (const count of await counts('equalChance')) expect(Math.abs(count - 2000)).toBeLessThan(200);
    const [one, four, ten] = await counts('byLength');
    expect([one / 400, four / 1600, ten / 4000].every((ratio) => Math.abs(ratio - 1) < 0.15)).toBe(true);
  });

  test('places lie between the least and the greatest fraction of their own curve, even along it, and on it', async () => {
    for (const [least, greatest, low, high] of [[0, 1, 0, 1], [0.25, 0.5, 0.25, 0.5], [-3, 0.1, 0, 0.1], [0.9, 7, 0.9, 1], [0.4, 0.4, 0.4, 0.4]]) {
      const made = await onCurves({ count: 500, least, greatest });
      const [t, s, curve] = ['t', 's', 'curve'].map((name) => values(made, name));
      expect([Math.min(...t) >= low - 1e-6, Math.max(...t) <= high + 1e-6]).toEqual([true, true]);
      expect(t.reduce((sum, value) => sum + value, 0) / 500).toBeCloseTo((low + high) / 2, 1);
      places(made.positions).forEach(([x, , z], i) => {
        expect(s[i]).toBeCloseTo(t[i] * [1, 4, 10][curve[i]], 4);
        expect(curve[i] === 2 ? x + z : x).toBeCloseTo(s[i], 4);
      });
    }
    expect((await runChain([curves, ['pace.scatter', { least: 0.6, greatest: 0.5 }]])).last.error?.message).toContain('the least must not be more');
  }); // prettier-ignore

  test('the same seed draws the same, more points keep those there were, another seed draws others', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: 1e6 }), fc.constantFrom(0, 0.05), async (seed, minGap) => {
        const few = places((await onCurves({ count: 20, seed, minGap })).positions);
        expect(places((await onCurves({ count: 30, seed, minGap })).positions).slice(0, few.length)).toEqual(few);
        expect(places((await onCurves({ count: 20, seed: seed + 1, minGap })).positions)).not.toEqual(few);
      }),
      { numRuns: 20 },
    ));

  test('with a gap no two on a curve are nearer, round the closing of a closed one too; what finds no room is told', async () => {
    const ring: Step = ['lay.circle', { radius: 1 }];
    const result = (await runChain([ring, ['pace.scatter', { count: 100, minGap: 0.3 }]])).last;
    const s = values(points(result), 's').sort((a, b) => a - b);
    const gaps = s.map((value, i) => (i ? value - s[i - 1] : value + 2 * Math.PI - s[s.length - 1]));
    expect(Math.min(...gaps)).toBeGreaterThanOrEqual(0.3 - 1e-5);
    // Between a third (all in the worst places) and all of what fits.
    expect([s.length > 10, s.length <= 20]).toEqual([true, true]);
    expect(result.warnings[0].message).toBe(`There is no room for more: ${100 - s.length} points were left out.`);
  });

  test('tangents and normals are those of smooth curves there, square to each other; values of curves come along', async () => {
    const { results } = await runGraph(
      { path: ['lay.circle', { radius: 2, points: 12 }], own: ['gauge.set', { name: 'wear', carrier: 'curves', value: 7 }], it: ['pace.scatter', { count: 60 }] },
      ['path.curves > own.any', 'own.any > it.curves'],
    ); // prettier-ignore
    const made = points(results['it']);
    expect(values(made, 'wear')).toEqual(new Array(60).fill(7));
    const [t, n] = ['tangent', 'normal'].map((name) => places(made.attributes.get(name)!.data));
    places(made.positions).forEach((p, i) => {
      const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, k) => sum + value * b[k], 0);
      expect(Math.hypot(...p)).toBeCloseTo(2, 3);
      expect([dot(p, t[i]), dot(t[i], n[i]), Math.hypot(...t[i]), Math.hypot(...n[i])]).toEqual([0, 0, 1, 1].map((value) => expect.closeTo(value, 3)));
    });
  });

  test('a curve without length gets none; nothing but such gives nothing', async () => {
    const path: Step = ['lay.drawn', { kind: 'straight', curves: [{ points: [[1, 1, 1], [1, 1, 1]] }, { points: [[0, 0, 0], [1, 0, 0]] }] }]; // prettier-ignore
    expect(new Set(values(await onCurves({ count: 50 }, path), 'curve'))).toEqual(new Set([1]));
    expect((await onCurves({ count: 5 }, drawn([[1, 1, 1], [1, 1, 1]]))).positions).toHaveLength(0); // prettier-ignore
  });
});

describe('Scatter on faces', () => {
  const one = reference<{ triangles: number[][][]; N: number }>('SC-O-01');
  test(one.name, () => {
    const positions = Float32Array.from(one.inputs.triangles.flat(2));
    const mesh = makeMesh({ positions, corners: Uint32Array.from({ length: positions.length / 3 }, (_, i) => i), uniform: 3 });
    const made = scatterOnFaces(mesh, { by: 'count', count: one.inputs.N, density: constantField(0), where: constantField(1), seed: 4, minGap: 0 }, unbounded);
    const z = places(made.points.positions).map(([, , each]) => each);
    const expected = one.expected['expectedCounts'].value as number[];
    const chi = expected.reduce((sum, count, i) => sum + (z.filter((each) => each === i).length - count) ** 2 / count, 0);
    expect(chi).toBeLessThan(one.expected['chiSquareMax'].value as number);
    const middle = [0, 1, 2].map((k) => places(made.points.positions).reduce((sum, p) => sum + p[k], 0) / one.inputs.N);
    const bound = one.expected['centroidSixSigma'].value as number[];
    middle.forEach((value, k) => expect(Math.abs(value - (one.expected['centroid'].value as number[])[k])).toBeLessThan(bound[k]));
  });

  const two = reference<{ triangle: number[][]; r: [number, number][] }>('SC-O-02');
  test(two.name, () => {
    const { triangle, r } = two.inputs;
    const made = r.map(([a, b]) => [0, 1, 2].map((k) => evenWeights(a, b).reduce((sum, weight, j) => sum + weight * triangle[j][k], 0)));
    expectReference(made, two.expected['points']);
  });

  const five = reference<{ W: number; H: number; minDistance: number }>('SC-O-05');
  test(
    five.name,
    () => {
      const { W, H, minDistance } = five.inputs;
      const how = { by: 'count', count: 2000, density: constantField(0), where: constantField(1), seed: 2, minGap: minDistance } as const;
      const { points: made, left } = scatterOnFaces(grid([W, H], [4, 4]), how, unbounded);
      const p = places(made.positions);
      for (let i = 0; i < p.length; i++)
        for (let j = 0; j < i; j++) expect(Math.hypot(...p[i].map((value, k) => value - p[j][k]))).toBeGreaterThanOrEqual(minDistance - 1e-6);
      expect(p.length).toBeGreaterThan(five.expected['countLower'].value as number);
      expect(p.length).toBeLessThan(five.expected['countUpper'].value as number);
      expect(Math.abs(p.length / (five.expected['typicalDartThrowing'].value as number) - 1)).toBeLessThan(five.expected['typicalDartThrowing'].rel!);
      expect(left).toBe(2000 - p.length);
    },
    20_000,
  );

  const scattered = async (body: Step, settings: object): Promise<{ made: Points; body: Mesh; result: NodeResult }> => {
    const { results } = await runGraph({ body, it: ['place.scatter', settings as Record<string, unknown>] }, ['body.mesh > it.mesh']);
    return { made: points(results['it']), body: results['body'].outputs['mesh'] as Mesh, result: results['it'] };
  };

  test('points lie on the body, with its normals and a tangent across them, and corner values between', async () => {
    const { made, body } = await scattered(['lay.sphere', { radius: 2, divisions: 8 }], { count: 200 });
    const surface = new Surface(body);
    const [n, t] = ['normal', 'tangent'].map((name) => places(made.attributes.get(name)!.data));
    places(made.positions).forEach((p, i) => {
      expect(Math.abs(surface.signedDistance(p[0], p[1], p[2]))).toBeLessThan(1e-5);
      expect(p.reduce((sum, value, k) => sum + value * n[i][k], 0) / Math.hypot(...p)).toBeGreaterThan(0.999);
      expect(n[i].reduce((sum, value, k) => sum + value * t[i][k], 0)).toBeCloseTo(0, 5);
    });
    expect(made.attributes.get('uv')).toMatchObject({ carrier: 'point', size: 2 });
    expect(values(made, 'id')).toEqual(Array.from({ length: 200 }, (_, i) => i));
  });

  test('by density as many as the area says, more where a formula says so, none where the condition does not hold', async () => {
    const ground: Step = ['lay.grid', { size: [10, 10], divisions: 20 }];
    const flat = await scattered(ground, { by: 'density', density: 12 });
    expect(Math.abs(flat.made.positions.length / 3 / 1200 - 1)).toBeLessThan(0.05);
    const graded = places((await scattered(ground, { by: 'density', density: { formula: 'x > 0 ? 30 : 3' } })).made.positions);
    const right = graded.filter(([x]) => x > 0).length;
    expect([Math.abs(right / 1500 - 1) < 0.1, Math.abs((graded.length - right) / 150 - 1) < 0.3]).toEqual([true, true]);
    const half = places((await scattered(ground, { count: 300, where: { formula: 'z < 0' } })).made.positions);
    expect([half.length, half.every(([, , z]) => z < 0)]).toEqual([300, true]);
    expect((await scattered(ground, { where: { formula: '0' } })).made.positions).toHaveLength(0);
  });

  test('by density a face keeps its points when another gets more; by count more points keep those there were', async () => {
    const ground: Step = ['lay.grid', { size: [4, 4], divisions: 8 }];
    const left = async (density: string): Promise<number[][]> => places((await scattered(ground, { by: 'density', density: { formula: density } })).made.positions).filter(([x]) => x < 0); // prettier-ignore
    expect(await left('x > 0 ? 40 : 10')).toEqual(await left('x > 0 ? 5 : 10'));
    const counted = async (count: number): Promise<number[][]> => places((await scattered(ground, { count, minGap: 0.05 })).made.positions);
    expect((await counted(60)).slice(0, 30)).toEqual(await counted(30));
  });

  test('faces without an area get none; more than there is room for is told', async () => {
    const folded = makeMesh({ positions: Float32Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0]), corners: Uint32Array.of(0, 1, 2), uniform: 3 });
    const how = { by: 'count', count: 9, density: constantField(0), where: constantField(1), seed: 1, minGap: 0 } as const;
    expect(scatterOnFaces(folded, how, unbounded).points.positions).toHaveLength(0);
    const { result } = await scattered(['lay.grid', {}], { count: 50, minGap: 0.6 });
    expect(result.warnings[0].message).toMatch(/^There is no room for more: 4\d points were left out.$/);
  });
});
