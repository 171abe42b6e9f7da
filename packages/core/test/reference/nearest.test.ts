import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  box,
  firstHit,
  icosphere,
  makeCurves,
  makeMesh,
  nearestTreeOf,
  newHit,
  newRayHit,
  spanPoint,
  spansOf,
  Surface,
  type Curves,
  type Mesh,
} from '../../src/index.js';
import { runGraph, type Chain } from '../graph.js';
import { expectReference, reference, singlePrecision } from './reference.js';

const mesh = (positions: readonly (readonly number[])[], faces: readonly (readonly number[])[]): Mesh =>
  makeMesh({ positions: Float32Array.from(positions.flat()), corners: Uint32Array.from(faces.flat()), uniform: 3 });
const nearest = (surface: Surface, [x, y, z]: readonly number[]) => {
  const hit = newHit();
  return { signed: surface.signedDistance(x, y, z, hit), place: [...hit.place], distance: hit.distance };
};

describe('nearest places', () => {
  const one = reference<{ triangle: number[][]; points: number[][] }>('NP-O-01');
  test(one.name, () => {
    const surface = new Surface(mesh(one.inputs.triangle, [[0, 1, 2]]));
    const found = one.inputs.points.map((point) => nearest(surface, point));
    expectReference(found.map(({ place }) => place), one.expected['closest']); // prettier-ignore
    expectReference(found.map(({ distance }) => distance), one.expected['distance']); // prettier-ignore
  });

  const two = reference<{ points: number[][] }>('NP-O-02');
  test(two.name, () => {
    const surface = new Surface(box([2, 2, 2], 1));
    const found = two.inputs.points.map((point) => nearest(surface, point));
    expectReference(found.map(({ place }) => place), two.expected['closest']); // prettier-ignore
    expectReference(found.map(({ signed }) => signed), two.expected['signedDistance']); // prettier-ignore
    expectReference(found.map(({ signed }) => signed < 0), two.expected['inside']); // prettier-ignore
  });

  const four = reference<{ points: number[][]; rays: [number[], number[]][] }>('NP-O-04');
  test(four.name, () => {
    const ball = icosphere(1, 4);
    const surface = new Surface(ball);
    // The sphere inside touches the largest faces in their middles: the nearest place to the origin.
    expectReference(nearest(surface, [0, 0, 0]).distance, four.expected['inscribedRadius'], singlePrecision);
    expectReference(four.inputs.points.map((point) => nearest(surface, point).distance), four.expected['distances'], 3 * singlePrecision); // prettier-ignore
    const hits = four.inputs.rays.map(([from, way]) => firstHit(surface.nearest.tree, from, unit(way), newRayHit()));
    const wanted = four.expected['firstHit_t'];
    hits.forEach(({ t, piece }, i) => {
      const value = (wanted.value as (number | null)[])[i];
      if (value === null) expect(piece).toBe(-1);
      else expectReference(t, { ...wanted, value }, 4 * singlePrecision);
    });
  });

  const five = reference<{ p: number[] }>('NP-O-05');
  test(five.name, () => {
    const plane = new Surface(mesh([[-9, -9, 0], [9, -9, 0], [9, 9, 0], [-9, 9, 0]], [[0, 1, 2], [0, 2, 3]])); // prettier-ignore
    const { place, signed } = nearest(plane, five.inputs.p);
    expectReference(place, five.expected['nearest']);
    expectReference(signed, five.expected['signedDistance']);
  });

  const six = reference<{ wedge: number[][]; query: number[] }>('NP-O-06');
  test(six.name, () => {
    // Bottom y = 0, slope y = x/8, the back at x = 4, and both ends.
    const surface = new Surface(mesh(six.inputs.wedge, [[0, 1, 4], [0, 4, 3], [0, 3, 5], [0, 5, 2], [1, 2, 5], [1, 5, 4], [0, 2, 1], [3, 4, 5]])); // prettier-ignore
    const { place, signed } = nearest(surface, six.inputs.query);
    expectReference(place, six.expected['nearest']);
    expectReference(signed < 0, six.expected['inside']);
  });
});

const unit = (v: readonly number[]): number[] => v.map((value) => value / Math.hypot(...v));

const three = reference<{ triangle: number[][]; rays: [number[], number[]][] }>('NP-O-03');
test(three.name, () => {
  const surface = new Surface(mesh(three.inputs.triangle, [[0, 1, 2]]));
  const wanted = three.expected['hits'].value as ({ t: number; u: number; v: number } | null)[];
  three.inputs.rays.forEach(([from, way], i) => {
    const { t, piece, weights } = firstHit(surface.nearest.tree, from, unit(way), newRayHit());
    const found = wanted[i];
    if (!found) expect(piece).toBe(-1);
    else expectReference([t, weights[1], weights[2]], { value: [found.t, found.u, found.v], abs: 1e-9 });
  });
});

describe('distance to smooth curves is that to the curve, not to chords', () => {
  const distances = async (curve: Chain[number], points: readonly (readonly number[])[], kind = 'curves'): Promise<number[]> => {
    const { results } = await runGraph({ curve, from: ['lay.drawn', { kind: 'straight', curves: [{ points, closed: false }] }], it: ['gauge.distance'] }, [
      'from.curves > it.any',
      `curve.${kind} > it.to`,
    ]);
    return Array.from((results['it'].outputs['any'] as Curves).attributes.get('distance')!.data);
  };

  test('a circle of radius R from a point at height h and distance a from its axis: √((a − R)² + h²)', async () => {
    const points = [[0, 0, 0], [0.3, 0, 0], [0, 0, 0.999], [2, 0, 1], [0.1, 0.7, -0.2], [50, 3, 0]]; // prettier-ignore
    for (const count of [16, 32, 200]) {
      const made = await distances(['lay.circle', { radius: 1, points: count }], points);
      points.forEach(([x, y, z], i) => {
        const wanted = Math.hypot(Math.hypot(x, z) - 1, y);
        expect(Math.abs(made[i] - wanted)).toBeLessThan(1e-6 * Math.max(wanted, 0.1));
      });
    }
  });

  test('the parabola y = x² (one cubic): from (0, h) it is √(h − 1/4) above h = 1/2, else h (the foot where 2x² = 2h − 1)', async () => {
    // y = x² from −1 to 1 as a Bezier curve: control points at thirds, y by blossoming.
    const parabola = { points: [[-1, 1, 0], [1, 1, 0]], handles: [[[-1, 1, 0], [-1 / 3, -1 / 3, 0]], [[1 / 3, -1 / 3, 0], [1, 1, 0]]], closed: false }; // prettier-ignore
    const heights = [0.1, 0.3, 0.5, 0.75, 1, 1.2];
    const made = await distances(['lay.drawn', { kind: 'bezier', curves: [parabola] }], heights.map((h) => [0, h, 0])); // prettier-ignore
    heights.forEach((h, i) => expect(made[i]).toBeCloseTo(h > 0.5 ? Math.sqrt(h - 0.25) : h, 6));
  });

  test('random cubics: no place on the curve, looked at closely, is nearer than what is found', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 15, maxLength: 15 }), (n) => {
        const handle = (a: number, b: number): number[] => [0, 1, 2].map((k) => n[b + k] - n[a + k]);
        const curves = makeCurves({
          positions: Float32Array.from([...n.slice(0, 3), ...n.slice(9, 12)]),
          starts: Uint32Array.of(0, 2),
          kind: Uint8Array.of(2),
          attributes: new Map([
            ['handleOut', { carrier: 'point' as const, size: 3, data: Float32Array.from([...handle(0, 3), 0, 0, 0]) }],
            ['handleIn', { carrier: 'point' as const, size: 3, data: Float32Array.from([0, 0, 0, ...handle(9, 6)]) }],
          ]),
        });
        const [x, y, z] = n.slice(12);
        const { distance, place } = nearestTreeOf(curves).nearest(x, y, z, newHit());
        const spans = spansOf(curves, 0);
        const at = new Float64Array(3);
        let least = Infinity;
        for (let i = 0; i <= 4000; i++) {
          spanPoint(spans, 0, i / 4000, at, 0);
          least = Math.min(least, Math.hypot(at[0] - x, at[1] - y, at[2] - z));
        }
        expect(distance).toBeLessThan(least + 1e-6);
        expect(distance).toBeGreaterThan(least - 3e-3);
        expect(Math.hypot(place[0] - x, place[1] - y, place[2] - z)).toBeCloseTo(distance, 9);
      }),
      { numRuns: 200 },
    );
  });
});
