import type { Geometry, GeometryKind } from '../../geometry/geometry.js';
import { triangleCount } from '../../geometry/mesh.js';
import type { Claimed } from '../../base/work.js';

/** The geometries by kind, each kind's in the order given. */
export function byKind(list: readonly Geometry[]): Map<GeometryKind, Geometry[]> {
  const groups = new Map<GeometryKind, Geometry[]>();
  for (const geometry of list) groups.set(geometry.type, [...(groups.get(geometry.type) ?? []), geometry]);
  return groups;
}

export function totalOf(list: readonly Geometry[]): Claimed {
  const total = { points: 0, vertices: 0, faces: 0 };
  for (const geometry of list) {
    if (geometry.type === 'mesh') {
      total.vertices += geometry.pointCount;
      total.faces += triangleCount(geometry);
    } else if (geometry.type !== 'copies') total.points += geometry.positions.length / 3;
  }
  return total;
}
