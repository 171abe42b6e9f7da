import type { StripRamp } from '@filaxis/protocol';

/** A ramp as the strip has changed it. */
export interface StripEdit {
  readonly node: string;
  readonly setting: string;
  readonly value: StripRamp['value'];
}

/** Metres for one of the ramp's own measure, on a curve of a length. */
export const metresOf = ({ value }: StripRamp, length: number): number => (value.over === 's' ? 1 : length);

const editOf = ({ node, setting, value }: StripRamp, ramp: StripRamp['value']['ramp']): StripEdit => ({ node, setting, value: { ...value, ramp } });

/** The ramp with a key put at metres and a radius; it stays between its neighbours and in the setting's range. */
export function withKeyAt(ramp: StripRamp, length: number, key: number, metres: number, radius: number): StripEdit {
  const keys = ramp.value.ramp;
  const measure = metresOf(ramp, length);
  const low = key > 0 ? keys[key - 1][0] : 0;
  const high = key + 1 < keys.length ? keys[key + 1][0] : length / measure;
  const at = Math.min(high, Math.max(low, metres / measure));
  const value = Math.min(ramp.max, Math.max(ramp.min, radius / ramp.factor));
  const put = [Number(at.toPrecision(4)), Number(value.toPrecision(4))] as const;
  return editOf(
    ramp,
    keys.map((each, k) => (k === key ? put : each)),
  );
}

/** What a key of the keyboard does to a key of the ramp: arrows move it by a hundredth of the length or a millimetre, ten with Shift; Delete takes it away. */
export function afterPress(ramp: StripRamp, length: number, key: number, { key: name, shiftKey }: Pick<KeyboardEvent, 'key' | 'shiftKey'>): StripEdit | null {
  const keys = ramp.value.ramp;
  if (name === 'Delete' || name === 'Backspace')
    return keys.length > 1
      ? editOf(
          ramp,
          keys.filter((_, k) => k !== key),
        )
      : null;
  const moves: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
  const move = moves[name];
  if (!move) return null;
  const size = shiftKey ? 10 : 1;
  const [place, value] = keys[key];
  const metres = place * metresOf(ramp, length) + move[0] * length * 0.01 * size;
  return withKeyAt(ramp, length, key, metres, value * ramp.factor + move[1] * 0.001 * size);
}
