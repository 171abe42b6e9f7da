import { attributeBytes, noAttributes, type Attributes } from './attributes.js';
import { GeometryError } from '../base/errors.js';
import { meshBytes, type Mesh } from './mesh.js';

/** Placed objects: prototypes, and for each copy which one and where. Drawn and exported as instances, expanded only when asked. */
export interface Copies {
  readonly type: 'copies';
  readonly objects: readonly Mesh[];
  /** Index into `objects`, a copy. */
  readonly object: Uint32Array;
  /** 16 numbers a copy, column-major. */
  readonly matrices: Float32Array;
  readonly attributes: Attributes;
}

/** @throws GeometryError when a copy names no object, or the lengths do not agree. */
export function makeCopies(objects: readonly Mesh[], object: Uint32Array, matrices: Float32Array, attributes: Attributes = noAttributes): Copies {
  if (matrices.length !== object.length * 16)
    throw new GeometryError(`${object.length} copies need ${object.length * 16} matrix numbers, got ${matrices.length}.`);
  for (let i = 0; i < object.length; i++)
    if (object[i] >= objects.length) throw new GeometryError(`Copy ${i} names object ${object[i]}; there are ${objects.length}.`);
  return { type: 'copies', objects, object, matrices, attributes };
}

export const copiesBytes = (copies: Copies): number =>
  copies.object.byteLength + copies.matrices.byteLength + attributeBytes(copies.attributes) + copies.objects.reduce((sum, mesh) => sum + meshBytes(mesh), 0);
