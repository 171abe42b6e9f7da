import { curvesFromLists, type Curves } from '../../geometry/curves.js';
import { constantField } from '../../values/field.js';
import { roundCorners } from '../change/roundCorners.js';

/** World planes an outline can lie in, each with its two directions; their cross product points along +Z, +Y and +X. */
export const outlinePlanes = {
  XY: [[1, 0, 0], [0, 1, 0]],
  XZ: [[1, 0, 0], [0, 0, -1]],
  YZ: [[0, 1, 0], [0, 0, 1]],
} as const; // prettier-ignore
export type OutlinePlane = keyof typeof outlinePlanes;

/** A closed outline from places in a plane (pairs of metres), counter-clockwise, with its corners rounded by `corner` metres. */
export function outline(places: readonly (readonly [number, number])[], plane: OutlinePlane, corner: number): Curves {
  const [u, v] = outlinePlanes[plane];
  const sharp = curvesFromLists([places.map(([a, b]) => u.map((value, k) => value * a + v[k] * b))], { closed: [true] });
  return corner > 0 ? roundCorners(sharp, { radius: constantField(corner), points: 6, limit: true }) : sharp;
}

/** Corners of a regular polygon, the first at angle `turn` (degrees); with `inner` below 1 a star, its inner corners at that share of the radius. */
export function polygonPlaces(sides: number, radius: number, inner: number, turn: number): [number, number][] {
  const star = inner < 1;
  const count = star ? sides * 2 : sides;
  return Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count + (turn * Math.PI) / 180;
    const r = star && i % 2 ? radius * inner : radius;
    return [r * Math.cos(angle), r * Math.sin(angle)];
  });
}

/** Corners of a rectangle about the origin. */
export function rectanglePlaces(width: number, height: number): [number, number][] {
  const [w, h] = [width / 2, height / 2];
  return [[-w, -h], [w, -h], [w, h], [-w, h]]; // prettier-ignore
}
