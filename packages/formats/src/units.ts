import { measuredAs, type GeometrySet } from '@filaxis/core';
import type { WriteOptions } from './writeOptions.js';

/** Metres of a unit. */
export const metres = { m: 1, cm: 0.01, mm: 0.001 } as const;
export type Unit = keyof typeof metres;

function moved({ curves, points, mesh, copies }: GeometrySet, turn: number, size: number): GeometrySet {
  return {
    ...(curves && { curves: measuredAs(curves, turn, size) }),
    ...(points && { points: measuredAs(points, turn, size) }),
    ...(mesh && { mesh: measuredAs(mesh, turn, size) }),
    ...(copies && { copies: measuredAs(copies, turn, size) }),
  };
}

/** Turns a result whose up axis is Z so that Y points up. */
export const standUp = (set: GeometrySet): GeometrySet => moved(set, -90, 1);

/** A result that was measured in a unit, in metres. */
export const inMetres = (set: GeometrySet, unit: Unit): GeometrySet => (unit === 'm' ? set : moved(set, 0, metres[unit]));

/** A result as a file with this up axis and unit has it. */
export function asWritten(set: GeometrySet, { up = 'y', unit = 'm' }: WriteOptions): GeometrySet {
  return up === 'y' && unit === 'm' ? set : moved(set, up === 'z' ? 90 : 0, 1 / metres[unit]);
}
