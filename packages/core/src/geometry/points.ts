import { attributeBytes, noAttributes, type Attributes } from './attributes.js';
import { requireFinite } from './curves.js';

/** Places with attributes. Positions in metres, 3 numbers a point. */
export interface Points {
  readonly type: 'points';
  readonly positions: Float32Array;
  readonly attributes: Attributes;
}

/** @throws GeometryError when a position is not finite. */
export function makePoints(positions: Float32Array, attributes: Attributes = noAttributes): Points {
  requireFinite(positions, 'point');
  return { type: 'points', positions, attributes };
}

export const emptyPoints: Points = makePoints(new Float32Array(0));

export const pointsBytes = (points: Points): number => points.positions.byteLength + attributeBytes(points.attributes);
