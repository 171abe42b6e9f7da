import { fieldAt, type Field } from '../../values/field.js';
import { chord } from './arcLength.js';
import { twistBetween } from './transport.js';

const wrapped = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/**
 * What the frames of a closed path (with `roll`, degrees beyond them) turn from its last point to its first beyond what they turn in the pieces beside
 * it, radians −π…π; and how uneven those two are. `point` numbers the points, also those before the first and behind the last.
 */
export function seamJump(
  p: Float32Array,
  { tangent, normal }: { readonly tangent: Float32Array; readonly normal: Float32Array },
  point: (k: number) => number,
  roll: Field | null,
): { jump: number; uneven: number } {
  const turn = (k: number): number => {
    const [a, b] = [point(k), point(k + 1)];
    const rolled = roll ? ((fieldAt(roll, b) - fieldAt(roll, a)) * Math.PI) / 180 : 0;
    return wrapped(twistBetween(p, tangent, normal, a, b) + rolled);
  };
  const length = (k: number): number => chord(p, point(k), point(k + 1)) || 1;
  const [before, after] = [-2, 0].map((k) => (turn(k) * length(-1)) / length(k));
  return { jump: wrapped(turn(-1) - (before + after) / 2), uneven: Math.abs(before - after) };
}
