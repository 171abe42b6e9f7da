import type { Geometry } from '../../geometry/geometry.js';
import { triangleCount } from '../../geometry/mesh.js';
import type { Claimed } from '../../base/work.js';

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
