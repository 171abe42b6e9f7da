import { curveCount } from '../geometry/curves.js';
import type { Geometry, GeometryKind } from '../geometry/geometry.js';
import { faceCount } from '../geometry/mesh.js';

/** What a value is given for: each point (vertex of a mesh), curve, face or copy, or once for the whole. */
export type PerElement = 'point' | 'curve' | 'face' | 'copy' | 'whole';

/** How many elements of a kind a geometry has. */
export function elementCount(geometry: Geometry, per: PerElement): number {
  if (per === 'whole') return 1;
  if (per === 'point') return geometry.type === 'copies' ? 0 : geometry.positions.length / 3;
  if (per === 'curve') return geometry.type === 'curves' ? curveCount(geometry) : 0;
  if (per === 'face') return geometry.type === 'mesh' ? faceCount(geometry) : 0;
  return geometry.type === 'copies' ? geometry.object.length : 0;
}

/** What a geometry's own elements are: those that a value is given for where nothing else is said. */
export const ownElements: Readonly<Record<GeometryKind, PerElement>> = { curves: 'point', points: 'point', mesh: 'point', copies: 'copy' };
