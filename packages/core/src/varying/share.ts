import { makePoints, type Points } from '../geometry/points.js';
import type { PerElement } from './perElement.js';
import type { Field } from '../values/field.js';
import { rampAt } from '../values/ramp.js';
import type { Varying } from './varying.js';

/** Even places from 0 to 1 at which values are worked out before anything is made; between them they run straight. */
const places = 4097;
const stations: Points = makePoints(Float32Array.from({ length: places * 3 }, (_, i) => (i % 3 ? 0 : i / 3 / (places - 1))));

/**
 * A varying value for what is only about to be made, as a function of the share 0…1 of the way. Formulas know it as `t`. Ramps over t are exact.
 * `field` is that of the node's context, so that mistakes and ranges are told at the setting.
 */
export function shareOf(value: Varying, field: (value: Varying, over: Points, per: PerElement) => Field): (share: number) => number {
  const { values, constant } = field(value, stations, 'point');
  if (!values) return () => constant;
  if (typeof value === 'object' && 'ramp' in value && (value.over ?? 't') === 't') return (share) => rampAt(value.ramp, value.ease ?? 'linear', share);
  return (share) => {
    const at = Math.min(1, Math.max(0, share)) * (places - 1);
    const k = Math.min(places - 2, Math.floor(at));
    return values[k] + (values[k + 1] - values[k]) * (at - k);
  };
}
