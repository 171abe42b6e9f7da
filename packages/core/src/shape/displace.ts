import { framesOf } from '../curves/evaluate/frames.js';
import { asBezier, throughMoved } from '../curves/evaluate/knots.js';
import type { Copies } from '../geometry/copies.js';
import type { Geometry } from '../geometry/geometry.js';
import { tick, unbounded, type Work } from '../base/work.js';
import { refreshNormals } from '../mesh/change/normals.js';
import { fieldAt, type Field } from '../values/field.js';
import { noise3 } from '../values/noise.js';
import { vectorAt, type VectorField } from '../varying/varyingVector.js';

export interface DisplaceOptions {
  /** Metres, a value per point. */
  amount: Field;
  pattern: 'noise' | 'vector';
  /** Direction and factor of a displacement by vector, a value per point. */
  vector: VectorField;
  /** Metres from one bump of the noise to the next. */
  size: number;
  seed: number;
  /** `free`: any direction; `normal`: along the normal; `framePlane`: across the path, in the plane of normal and side. */
  along: 'free' | 'normal' | 'framePlane';
}

/** What points and meshes have to be displaced along: 3 numbers a point, unit, or null. */
function directionsOf(geometry: Geometry): { normal: Float32Array | null; tangent: Float32Array | null } {
  if (geometry.type === 'curves') return framesOf(geometry);
  if (geometry.type === 'copies') return { normal: null, tangent: null };
  return { normal: geometry.attributes.get('normal')?.data ?? null, tangent: geometry.attributes.get('tangent')?.data ?? null };
}

/**
 * Moves the points by noise or by a vector. Smooth curves run through their moved points afterwards; meshes get new normals, the same place
 * moving alike on both sides of a seam.
 * @throws RangeError when there are no normals or frames to go along.
 */
export function displace<G extends Geometry>(given: G, options: DisplaceOptions, work: Work = unbounded): G {
  if (given.type === 'copies')
    throw new RangeError('Copies cannot be displaced point by point; displace their points before placing, or turn them into a mesh.');
  const geometry: Exclude<Geometry, Copies> = given.type === 'curves' ? asBezier(given, options.along !== 'free') : given;
  const { normal, tangent } = options.along === 'free' ? { normal: null, tangent: null } : directionsOf(geometry);
  if (options.along !== 'free' && !normal) throw new RangeError(`The ${geometry.type} have no normals to be displaced along; use free.`);
  if (options.along === 'framePlane' && !tangent) throw new RangeError(`The ${geometry.type} have no frames; use free or normal.`);
  const p = geometry.positions;
  const positions = new Float32Array(p.length);
  const noises = [0, 1, 2].map((k) => noise3(options.seed * 3 + k));
  const shift = new Float64Array(3);
  // All vertices of a mesh point move as its first does, so that seams stay shut.
  const pointOf = geometry.type === 'mesh' ? geometry.pointOf : null;
  const first = pointOf && new Int32Array(geometry.type === 'mesh' ? geometry.pointCount : 0).fill(-1);
  for (let i = 0; i < p.length / 3; i++) {
    tick(work, i, p.length / 3);
    if (pointOf && first) {
      const same = first[pointOf[i]];
      if (same >= 0) {
        positions.copyWithin(i * 3, same * 3, same * 3 + 3);
        continue;
      }
      first[pointOf[i]] = i;
    }
    const o = i * 3;
    const amount = fieldAt(options.amount, i);
    const [x, y, z] = [p[o] / options.size, p[o + 1] / options.size, p[o + 2] / options.size];
    if (options.pattern === 'vector') shift.set(vectorAt(options.vector, i));
    else for (let k = 0; k < 3; k++) shift[k] = noises[k](x, y, z);
    if (options.along === 'normal' && normal) {
      const along = options.pattern === 'noise' ? shift[0] : shift[0] * normal[o] + shift[1] * normal[o + 1] + shift[2] * normal[o + 2];
      for (let k = 0; k < 3; k++) shift[k] = normal[o + k] * along;
    } else if (options.along === 'framePlane' && tangent) {
      const along = shift[0] * tangent[o] + shift[1] * tangent[o + 1] + shift[2] * tangent[o + 2];
      for (let k = 0; k < 3; k++) shift[k] -= tangent[o + k] * along;
    }
    for (let k = 0; k < 3; k++) positions[o + k] = p[o + k] + amount * shift[k];
  }
  if (geometry.type === 'curves') return throughMoved(geometry, positions) as G;
  if (geometry.type === 'mesh') return refreshNormals({ ...geometry, positions }, geometry, work) as G;
  return { ...geometry, positions } as G;
}
