import type { Curves } from '../geometry/curves.js';
import type { Geometry } from '../geometry/geometry.js';
import { curveCount } from '../geometry/curves.js';
import { curveLengths, stationsOf } from '../curves/arcLength.js';
import { constantField, type Field } from './field.js';
import { rampAt, rampEases, type RampEase, type RampKeys } from './ramp.js';

/**
 * A setting that may vary along a curve, per curve or per element. All six modes have their place in documents; `fixed`, `dial` and
 * `ramp` over t are evaluated so far, the others are refused with a message that says so.
 */
export type Varying =
  | number
  | { readonly dial: string }
  | { readonly formula: string }
  | { readonly attribute: string; readonly scale?: number; readonly offset?: number }
  | { readonly ramp: RampKeys; readonly ease?: RampEase; readonly over?: string }
  | { readonly random: readonly [number, number]; readonly seed?: number; readonly per?: 'point' | 'curve' | 'face' | 'copy' };

export const varyingModes = ['fixed', 'dial', 'formula', 'attribute', 'ramp', 'random'] as const;
export type VaryingMode = (typeof varyingModes)[number];

/** The modes that can be evaluated today. */
export const readyModes: ReadonlySet<VaryingMode> = new Set(['fixed', 'dial', 'ramp']);

/** The mode that a value is written in, or null when it is none of them. */
export function modeOf(value: unknown): VaryingMode | null {
  if (typeof value === 'number' || typeof value === 'boolean' || typeof value === 'string' || Array.isArray(value)) return 'fixed';
  if (typeof value !== 'object' || value === null) return null;
  return varyingModes.find((mode) => mode !== 'fixed' && mode in value) ?? null;
}

/** What is wrong with a ramp, in words, or null. Keys: 1 to 256 pairs of finite numbers, places not falling. */
export function rampFault(value: object): string | null {
  const { ramp, ease, over, ...rest } = value as { ramp: unknown; ease?: unknown; over?: unknown };
  const extra = Object.keys(rest)[0];
  if (extra) return `A ramp has no "${extra}"; it takes ramp, ease and over.`;
  if (!Array.isArray(ramp) || ramp.length < 1 || ramp.length > 256) return 'A ramp needs a list of 1 to 256 keys [place, value].';
  for (let k = 0; k < ramp.length; k++) {
    const key: unknown = ramp[k];
    if (!Array.isArray(key) || key.length !== 2 || !key.every((n) => typeof n === 'number' && Number.isFinite(n)))
      return `Key ${k} of the ramp is ${JSON.stringify(key)}; a key is two numbers, [place, value].`;
    if (k && key[0] < (ramp[k - 1] as number[])[0]) return `Key ${k} of the ramp is at ${String(key[0])}, before key ${k - 1}; places must rise.`;
  }
  if (ease !== undefined && !rampEases.includes(ease as RampEase)) return `A ramp's ease is ${JSON.stringify(ease)}; it accepts ${rampEases.join(', ')}.`;
  if (over !== undefined && over !== 't') return `A ramp over ${JSON.stringify(over)} cannot be evaluated yet; it accepts "t" (0 to 1 along the curve).`;
  return null;
}

/** Whether a setting takes one value a point or one a curve. */
export type PerElement = 'point' | 'curve';

/**
 * Values of a varying setting for the points or the curves of `over`; vertices count as the points of a mesh. Dials are replaced before; the value
 * must have been checked. A ramp over t on a value per curve is read at the curve's place among the curves (0 first, 1 last); on points by their
 * attribute `t`, or by their place among the points where they have none.
 * @throws RangeError for a ramp over t on a mesh, which has no t.
 */
export function resolveVarying(value: Varying, over: Geometry, per: PerElement): Field {
  if (typeof value === 'number') return constantField(value);
  if (!('ramp' in value)) throw new Error(`A value in the mode ${modeOf(value)} reached the evaluator unresolved.`);
  const { ramp, ease = 'linear' } = value;
  if (ramp.length === 1) return constantField(ramp[0][1]);
  const places = over.type === 'curves' && per === 'point' ? placesOf(over) : null;
  if (places) return { constant: 0, values: places.map((t) => rampAt(ramp, ease, t)) };
  if (over.type === 'mesh' || over.type === 'copies')
    throw new RangeError(`A ramp runs along curves or points; a ${over.type} has no such place. Use one value.`);
  const count = over.type === 'curves' ? curveCount(over) : over.positions.length / 3;
  const t = over.type === 'points' ? over.attributes.get('t') : undefined;
  const at = (i: number): number => (t?.size === 1 ? t.data[i] : count > 1 ? i / (count - 1) : 0);
  return { constant: 0, values: Float64Array.from({ length: count }, (_, i) => rampAt(ramp, ease, at(i))) };
}

/** t of every point: its share of the curve's length. */
function placesOf(curves: Curves): Float64Array {
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  const values = new Float64Array(stations.length);
  for (let c = 0; c < curveCount(curves); c++)
    for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) values[i] = lengths[c] > 0 ? stations[i] / lengths[c] : 0;
  return values;
}
