/**
 * Attributes: named values carried by the elements of a geometry.
 *
 * Structure of arrays: one flat array an attribute, `size` numbers an element. Attributes are immutable once made; a node that
 * changes one shares all the others with its input.
 */

import { unbounded, type Memory } from '../base/work.js';

/**
 * What an attribute is carried by. `corner` attributes of a mesh are stored once per *vertex* (a point as one side of a seam sees
 * it, see `Mesh`), which is the same thing without the repetition.
 */
export type Carrier = 'point' | 'curve' | 'corner' | 'face' | 'copy' | 'whole';

export interface Attribute {
  readonly carrier: Carrier;
  /** Numbers per element, 1 to 16. */
  readonly size: number;
  /** `size` × number of elements values, 32-bit. */
  readonly data: Float32Array;
}

export type Attributes = ReadonlyMap<string, Attribute>;

export const noAttributes: Attributes = new Map();

/** Attributes that are directions in space: they turn with a transform, and are not moved by it. */
export const directionAttributes: ReadonlySet<string> = new Set(['tangent', 'normal', 'handleIn', 'handleOut', 'axis']);

/** Attributes that are places in space: they go where a transform takes them. */
export const placeAttributes: ReadonlySet<string> = new Set(['centre']);

/** A copy of `attributes` with `changes` put in (or taken out where the change is `null`); untouched arrays are shared. */
export function withAttributes(attributes: Attributes, changes: Readonly<Record<string, Attribute | null>>): Attributes {
  const result = new Map(attributes);
  for (const [name, attribute] of Object.entries(changes)) {
    if (attribute) result.set(name, attribute);
    else result.delete(name);
  }
  return result;
}

/** Number of bytes held by the attributes. */
export function attributeBytes(attributes: Attributes): number {
  let bytes = 0;
  for (const attribute of attributes.values()) bytes += attribute.data.byteLength;
  return bytes;
}

/** Rows of an attribute in another order. */
export function gatherRows({ size, data }: Attribute, which: ArrayLike<number>, memory: Memory = unbounded.memory): Float32Array {
  const result = memory.float32(which.length * size);
  // Kinds of lists each have a loop of their own: one that meets several takes nearly twice as long for each.
  if (size === 1 && which instanceof Uint32Array) gatherNumbers(data, which, result);
  else if (size === 1) for (let i = 0; i < which.length; i++) result[i] = data[which[i]];
  else for (let i = 0, at = 0; i < which.length; i++) for (let k = 0; k < size; k++) result[at++] = data[which[i] * size + k];
  return result;
}

/** Rows of an attribute between rows `a` and `b`, at `share` of the way (0 at `a`). */
export function mixedRows({ size, data }: Attribute, { a, b, share }: { a: ArrayLike<number>; b: ArrayLike<number>; share: ArrayLike<number> }): Float32Array {
  const result = new Float32Array(a.length * size);
  for (let i = 0, at = 0; i < a.length; i++)
    for (let k = 0; k < size; k++) {
      const from = data[a[i] * size + k];
      result[at++] = share[i] === 0 ? from : from + (data[b[i] * size + k] - from) * share[i];
    }
  return result;
}

function gatherNumbers(data: Float32Array, which: Uint32Array, result: Float32Array): void {
  for (let i = 0; i < which.length; i++) result[i] = data[which[i]];
}
