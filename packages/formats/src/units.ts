import { affineFrom, transformGeometry, type Affine, type GeometrySet } from '@filaxis/core';
import type { WriteOptions } from './writeOptions.js';

/** Metres of a unit. */
export const metres = { m: 1, cm: 0.01, mm: 0.001 } as const;
export type Unit = keyof typeof metres;

function moved(set: GeometrySet, map: Affine): GeometrySet {
  return {
    ...(set.curves && { curves: transformGeometry(set.curves, map) }),
    ...(set.points && { points: transformGeometry(set.points, map) }),
    ...(set.mesh && { mesh: transformGeometry(set.mesh, map) }),
    ...(set.copies && { copies: transformGeometry(set.copies, map) }),
  };
}

const sized = (turn: number, size: number): Affine => affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [size, size, size], pivot: [0, 0, 0] });

/** Turns a result whose up axis is Z so that Y points up. */
export const standUp = (set: GeometrySet): GeometrySet => moved(set, sized(-90, 1));

/** A result that was measured in a unit, in metres. */
export const inMetres = (set: GeometrySet, unit: Unit): GeometrySet => (unit === 'm' ? set : moved(set, sized(0, metres[unit])));

/** A result as a file with this up axis and unit has it. */
export function asWritten(set: GeometrySet, { up = 'y', unit = 'm' }: WriteOptions): GeometrySet {
  return up === 'y' && unit === 'm' ? set : moved(set, sized(up === 'z' ? 90 : 0, 1 / metres[unit]));
}
