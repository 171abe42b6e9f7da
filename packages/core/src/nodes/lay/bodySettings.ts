import { uvSettings } from '../settings/uv.js';

export const tileSetting = { ...uvSettings.uvScale, help: 'Metres per UV tile; or fitted, 0…1 over each side.' } as const;

export const two = (value: number | readonly [number, number]): readonly [number, number] => (typeof value === 'number' ? [value, value] : value);

export const divisionsSetting = {
  kind: 'integer',
  label: 'Divisions',
  help: 'Squares along each side, or [x, z].',
  min: 1,
  max: 10_000,
  pair: true,
  axes: ['x', 'z'],
} as const;

/** @throws RangeError naming the axis along which a body would have no extent. */
export function requireExtent(size: readonly number[]): void {
  const names = size.length === 2 ? 'xz' : 'xyz';
  const flat = size.findIndex((value) => !(value > 0));
  if (flat >= 0) throw new RangeError(`Size is ${size[flat]} m along ${names[flat]}; it must be more than 0.`);
}
