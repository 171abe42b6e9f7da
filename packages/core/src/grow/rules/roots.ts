import { makePoints, type Points } from '../../geometry/points.js';
import { hash } from '../../values/random.js';
import { cross, type Root } from './turtle.js';

/** Where a plant begins that has no point to begin at. */
export const origin: Points = makePoints(new Float32Array(3));

/** Roots at points: upright, or along their normals with their tangents as what is up for the turtle. `flat` counts points without a frame, which are upright then. */
export function rootsOf({ positions, attributes }: Points, alongNormals: boolean): { roots: Root[]; flat: number } {
  const [tangent, normal, birth] = ['tangent', 'normal', 'birth'].map((name) => attributes.get(name)?.data);
  let flat = 0;
  const roots = Array.from({ length: positions.length / 3 }, (_, i): Root => {
    const o = i * 3;
    const place = positions.slice(o, o + 3);
    const begins = birth?.length === positions.length / 3 ? birth[i] : 0;
    const [n, t] = [normal?.subarray(o, o + 3), tangent?.subarray(o, o + 3)];
    const framed = alongNormals && n && t && Math.hypot(...n) > 0.5;
    if (alongNormals && !framed) flat++;
    if (!framed) return { place, heading: [0, 1, 0], left: [-1, 0, 0], birth: begins };
    const heading = unit(n);
    return { place, heading, left: unit(cross(t, heading)), birth: begins };
  });
  return { roots, flat };
}

/**
 * The seed of each plant: from one for all and from `seed` or `id` of its point, so that it stays as it is when others go; of points with the same the second is another than the first.
 * From its number where it has neither.
 */
export function seedsOf({ attributes }: Points, seed: number): (plant: number) => number {
  const own = ['seed', 'id'].map((name) => attributes.get(name)).find((each) => each?.carrier === 'point' && each.size === 1);
  if (!own) return (plant) => hash(seed, plant);
  const met = new Map<number, number>();
  // By their bits, so that values between 0 and 1 are as good as whole ones.
  const bits = new Int32Array(own.data.buffer, own.data.byteOffset, own.data.length);
  const seeds = Uint32Array.from(bits, (value) => {
    const before = met.get(value) ?? 0;
    met.set(value, before + 1);
    return hash(hash(seed, value), before);
  });
  return (plant) => seeds[plant];
}

function unit(v: ArrayLike<number>): number[] {
  const size = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / size, v[1] / size, v[2] / size];
}
