import type { Mesh } from '../../geometry/mesh.js';
import { triangleCount } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { withAttributes } from '../../geometry/attributes.js';
import { triangulate } from '../topology/triangulate.js';
import { gatherFaces } from './takeFaces.js';
import { refreshNormals } from './normals.js';

export interface ReduceOptions {
  /** Triangles that are to be left, at least as many as it takes to keep the shape. */
  triangles: number;
  /** Metres that the surface may be off at most; Infinity: as far as it takes. */
  maxError: number;
  /** Open borders stay as they are. */
  keepBorder: boolean;
}

/**
 * Fewer triangles: edges are collapsed where that changes the surface least (quadric errors, Garland & Heckbert 1997; meshoptimizer, which is loaded when it is first
 * asked for). Points that stay do not move, so seams, UVs and other values of corners stay true. `error` is how far the surface is off, metres.
 */
export async function reduce(given: Mesh, options: ReduceOptions, work: Work = unbounded): Promise<{ mesh: Mesh; error: number }> {
  const { indices } = triangulate(given);
  if (triangleCount(given) <= options.triangles) return { mesh: given, error: 0 };
  work.progress(0);
  const { MeshoptSimplifier } = await import('meshoptimizer');
  await MeshoptSimplifier.ready;
  const flags: ('LockBorder' | 'ErrorAbsolute')[] = options.keepBorder ? ['ErrorAbsolute', 'LockBorder'] : ['ErrorAbsolute'];
  const most = Number.isFinite(options.maxError) ? options.maxError : 1e30;
  const [left, error] = MeshoptSimplifier.simplify(indices, given.positions, 3, options.triangles * 3, most, flags);
  work.progress(0.9);
  const attributes = withAttributes(
    given.attributes,
    Object.fromEntries([...given.attributes].filter(([, { carrier }]) => carrier === 'face').map(([name]) => [name, null])),
  );
  const bare: Mesh = { ...given, corners: left, uniform: 3, faceStarts: null, attributes };
  const kept = gatherFaces(
    bare,
    Uint32Array.from({ length: left.length / 3 }, (_, f) => f),
    work,
  );
  return { mesh: refreshNormals(kept, kept, work), error };
}
