import { makePoints, type Points } from '../../geometry/points.js';
import { hash } from '../../values/random.js';
import { drawKeys } from '../../varying/drawKeys.js';
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

/** The seed of each plant: from one for all and the key of its point (`drawKeys`), so that it stays as it is when others go. */
export function seedsOf(points: Points, seed: number): (plant: number) => number {
  const keys = drawKeys(points, 'point');
  return (plant) => hash(seed, keys[plant]);
}

function unit(v: ArrayLike<number>): number[] {
  const size = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / size, v[1] / size, v[2] / size];
}
