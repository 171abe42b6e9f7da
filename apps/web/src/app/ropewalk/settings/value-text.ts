import { modeOf, type Dial, type Setting, type VaryingAttribute, type VaryingFormula, type VaryingRandom } from '@filaxis/core';
import { figure } from '../../shared/figures';

/** Units that are written without a space. */
const tight = new Set(['°', '%']);
export const withUnit = (text: string, unit: string | undefined): string => (unit ? `${text}${tight.has(unit) ? '' : ' '}${unit}` : text);

/** The value of a setting in one short line, as it is given: a number with its unit, a choice by its name, a formula, the dial that it follows. */
export function valueText(setting: Setting, value: unknown, dials: readonly Dial[] = []): string {
  const unit = 'unit' in setting ? setting.unit : undefined;
  switch (modeOf(value)) {
    case 'dial': {
      const { dial } = value as { dial: string };
      const followed = dials.find(({ id }) => id === dial);
      return followed ? valueText(setting, followed.value) : `${dial} (missing)`;
    }
    case 'ramp': {
      const keys = (value as { ramp: readonly (readonly [number, number])[] }).ramp;
      return withUnit(`${figure(keys[0]?.[1] ?? 0, 3)} → ${figure(keys.at(-1)?.[1] ?? 0, 3)}`, unit);
    }
    case 'formula':
      return `ƒ ${(value as VaryingFormula).formula || 'empty'}`;
    case 'random': {
      const [low, high] = (value as VaryingRandom).random;
      return withUnit(`${figure(low, 3)} … ${figure(high, 3)}`, unit);
    }
    case 'attribute': {
      const { attribute, scale = 1, offset = 0 } = value as VaryingAttribute;
      return `${attribute}${scale === 1 ? '' : ` × ${figure(scale, 3)}`}${offset ? ` + ${figure(offset, 3)}` : ''}`;
    }
    case 'fixed':
    case null:
      return fixedText(setting, value, unit);
  }
}

function fixedText(setting: Setting, value: unknown, unit: string | undefined): string {
  if (setting.kind === 'choice') return setting.choices[String(value)] ?? String(value);
  if (setting.kind === 'asset' && setting.holds === 'frozen') return value ? 'frozen' : 'passing';
  if ('special' in setting && setting.special && value === setting.default) return setting.special.called;
  if (typeof value === 'number') return withUnit(figure(value), unit);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'string') return value;
  const numbers = Array.isArray(value) && value.length <= 4 && value.every((each) => typeof each === 'number');
  return numbers ? withUnit(value.map((each) => figure(each, 3)).join(', '), unit) : '';
}
