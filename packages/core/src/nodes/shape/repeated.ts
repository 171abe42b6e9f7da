import type { Geometry } from '../../geometry/geometry.js';
import { faceCount } from '../../geometry/mesh.js';
import type { Claimed } from '../../base/work.js';

/** The size of `times` of a geometry together. */
export function sizeOf(geometry: Geometry, times: number): Claimed {
  if (geometry.type === 'copies') return { copies: geometry.object.length * times };
  if (geometry.type === 'mesh') return { vertices: geometry.pointCount * times, faces: faceCount(geometry) * times };
  return { points: (geometry.positions.length / 3) * times };
}
