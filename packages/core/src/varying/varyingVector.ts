import type { Geometry } from '../geometry/geometry.js';
import { componentOf, elementsOf } from './elements.js';
import { elementCount, type PerElement } from './perElement.js';
import { fieldAt, type Field } from '../values/field.js';
import { requireGood, resolveVarying, type ResolveOptions, type Varying } from './varying.js';

/** Three numbers, each of which may vary by itself. */
export type VaryingParts = readonly [Varying, Varying, Varying];

/** A vector that may vary: part by part, or as a whole. An attribute may have three numbers; chance draws each axis apart; what gives one number gives it to all three axes. */
export type VaryingVector = VaryingParts | Exclude<Varying, number>;

/** Three values for every element, an axis a field. */
export type VectorField = readonly [Field, Field, Field];

export const vectorAt = ([x, y, z]: VectorField, i: number): [number, number, number] => [fieldAt(x, i), fieldAt(y, i), fieldAt(z, i)];

/** Values of a varying vector for the elements of a geometry, as `resolveVarying` gives those of a number. */
export function resolveVaryingVector(value: VaryingVector, over: Geometry, per: PerElement, options: ResolveOptions = {}): VectorField {
  if (Array.isArray(value)) {
    const parts = value as VaryingParts;
    const label = (k: number): ResolveOptions => ({ ...options, label: `${options.label ?? 'The value'} ${'xyz'[k]}` });
    return axes((k) => resolveVarying(parts[k], over, per, label(k)));
  }
  const varying = value as Exclude<Varying, number>;
  if ('random' in varying) return axes((k) => resolveVarying({ ...varying, seed: (varying.seed ?? 0) * 3 + k }, over, per, options));
  if ('attribute' in varying && over.attributes.get(varying.attribute)?.size === 3) {
    const { attribute, scale = 1, offset = 0 } = varying;
    const count = elementCount(over, per);
    return axes((k) => {
      const source = componentOf(over, per, attribute, k);
      if (typeof source === 'string') throw new RangeError(`The attribute "${attribute}" cannot be used: ${source}.`);
      const values = new Float64Array(count);
      if (typeof source === 'number') values.fill(source);
      else source.fill(values, 0, count);
      for (let i = 0; i < count; i++) values[i] = values[i] * scale + offset;
      return requireGood({ constant: 0, values }, elementsOf(over, per), options);
    });
  }
  const one = resolveVarying(varying, over, per, options);
  return [one, one, one];
}

const axes = (of: (axis: 0 | 1 | 2) => Field): VectorField => [of(0), of(1), of(2)];
