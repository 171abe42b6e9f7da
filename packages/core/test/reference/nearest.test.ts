import { describe, expect, test } from 'vitest';
import { box, firstHit, icosphere, makeMesh, newHit, newRayHit, Surface, type Mesh } from '../../src/index.js';
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
