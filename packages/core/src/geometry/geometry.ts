import { copiesBytes, type Copies } from './copies.js';
import { curveCount, curvePointCount, curvesBytes, type Curves } from './curves.js';
import { faceCount, meshBytes, type Mesh } from './mesh.js';
import { pointsBytes, type Points } from './points.js';

/** What one wire carries when it carries geometry. */
export type Geometry = Curves | Points | Mesh | Copies;
export type GeometryKind = Geometry['type'];

/** A result: at most one geometry of each kind. */
export interface GeometrySet {
  readonly curves?: Curves;
  readonly points?: Points;
  readonly mesh?: Mesh;
  readonly copies?: Copies;
}

/** Counts shown on tags and in reports. Vertices are distinct points of a mesh. */
export type Counts = Partial<Record<'curves' | 'points' | 'vertices' | 'faces' | 'copies', number>>;

export function countsOf(geometry: Geometry): Counts {
  switch (geometry.type) {
    case 'curves':
      return { curves: curveCount(geometry), points: curvePointCount(geometry) };
    case 'points':
      return { points: geometry.positions.length / 3 };
    case 'mesh':
      return { vertices: geometry.pointCount, faces: faceCount(geometry) };
    case 'copies':
      return { copies: geometry.object.length };
  }
}

export function bytesOf(geometry: Geometry): number {
  switch (geometry.type) {
    case 'curves':
      return curvesBytes(geometry);
    case 'points':
      return pointsBytes(geometry);
    case 'mesh':
      return meshBytes(geometry);
    case 'copies':
      return copiesBytes(geometry);
  }
}

/** Every array of a geometry. */
export function arraysOf(geometry: Geometry): ArrayBufferView[] {
  const attributes = [...geometry.attributes.values()].map(({ data }) => data);
  switch (geometry.type) {
    case 'curves':
      return [geometry.positions, geometry.starts, geometry.closed, geometry.kind, ...attributes];
    case 'points':
      return [geometry.positions, ...attributes];
    case 'mesh':
      return [
        geometry.positions,
        geometry.corners,
        ...(geometry.pointOf ? [geometry.pointOf] : []),
        ...(geometry.faceStarts ? [geometry.faceStarts] : []),
        ...attributes,
      ];
    case 'copies':
      return [geometry.object, geometry.matrices, ...geometry.objects.flatMap(arraysOf), ...attributes];
  }
}

export interface Bounds {
  readonly min: [number, number, number];
  readonly max: [number, number, number];
}

/** Least box round the positions (3 numbers each), or null when there are none. */
export function boundsOf(positions: ArrayLike<number>): Bounds | null {
  if (!positions.length) return null;
  let x0 = Infinity;
  let y0 = Infinity;
  let z0 = Infinity;
  let x1 = -Infinity;
  let y1 = -Infinity;
  let z1 = -Infinity;
  for (let i = 0; i < positions.length; i += 3) {
    const x = positions[i];
    const y = positions[i + 1];
    const z = positions[i + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  return { min: [x0, y0, z0], max: [x1, y1, z1] };
}

export function unionBounds(a: Bounds | null, b: Bounds | null): Bounds | null {
  if (!a || !b) return a ?? b;
  return {
    min: [Math.min(a.min[0], b.min[0]), Math.min(a.min[1], b.min[1]), Math.min(a.min[2], b.min[2])],
    max: [Math.max(a.max[0], b.max[0]), Math.max(a.max[1], b.max[1]), Math.max(a.max[2], b.max[2])],
  };
}
