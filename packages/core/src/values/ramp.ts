/** A drawn graph: keys of place and value, places rising from 0 to 1 (or over whatever the ramp runs). */
export type RampKeys = readonly (readonly [number, number])[];
export const rampEases = ['linear', 'smooth', 'steps'] as const;
export type RampEase = (typeof rampEases)[number];

/**
 * Value of a ramp at `x`: constant before the first and after the last key. `linear` between the keys, `smooth` with level tangents at the
 * keys (3f² − 2f³), `steps` holds each key's value up to the next. Two keys at one place make a jump.
 */
export function rampAt(keys: RampKeys, ease: RampEase, x: number): number {
  const last = keys.length - 1;
  if (x <= keys[0][0]) return keys[0][1];
  if (x >= keys[last][0]) return keys[last][1];
  let k = 0;
  while (k + 1 < last && keys[k + 1][0] <= x) k++;
  const [x0, y0] = keys[k];
  const [x1, y1] = keys[k + 1];
  if (ease === 'steps' || x1 <= x0) return y0;
  const f = (x - x0) / (x1 - x0);
  return y0 + (y1 - y0) * (ease === 'smooth' ? f * f * (3 - 2 * f) : f);
}
