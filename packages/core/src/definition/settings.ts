import type { RampKeys } from '../values/ramp.js';
import type { PerElement } from '../varying/perElement.js';
import { varyingFault, type Varying } from '../varying/varying.js';
import type { VaryingVector } from '../varying/varyingVector.js';

/** What every setting has. `group` gathers fields on screen; `shownWhen` hides those that do not apply. */
interface SettingBase {
  readonly label: string;
  readonly help: string;
  readonly group?: string;
  readonly shownWhen?: Readonly<Record<string, readonly unknown[]>>;
  /** Names that documents of an earlier time have for it. */
  readonly formerly?: readonly string[];
  /** The default of documents before an edition (see `currentEdition`). They get it written down when they are read. */
  readonly earlier?: { readonly before: number; readonly default: unknown };
}

export interface NumberSetting extends SettingBase {
  readonly kind: 'number' | 'integer';
  /** A number; a ramp where the setting varies and usually should. */
  readonly default: number | { readonly ramp: RampKeys };
  readonly min?: number;
  readonly max?: number;
  /** The minimum itself is refused too. */
  readonly above?: boolean;
  readonly unit?: string;
  /** How far one pixel of scrubbing goes. */
  readonly step?: number;
  /** May vary: one value per point or per curve. */
  readonly varies?: PerElement;
  /** A fixed value may be two numbers instead, for two directions. */
  readonly pair?: boolean;
  /** The default stands for something else than a number: what that is called, and the number that is begun with instead of it. */
  readonly special?: { readonly called: string; readonly instead: number };
  /** What the two directions are called; with names there are always two fields for them. */
  readonly axes?: readonly [string, string];
}
export interface VectorSetting extends SettingBase {
  readonly kind: 'vector';
  /** Three numbers, or two where the default has two. */
  readonly default: readonly [number, number, number] | readonly [number, number];
  readonly unit?: string;
  readonly step?: number;
  /** What two numbers are called; u and v when left out. */
  readonly axes?: readonly [string, string];
  /** 0, 0, 0 is refused. */
  readonly direction?: boolean;
  /** May vary: a vector per element. */
  readonly varies?: PerElement;
}
export interface BooleanSetting extends SettingBase {
  readonly kind: 'boolean';
  readonly default: boolean;
  /** May be a condition: true or false for each element. */
  readonly condition?: boolean;
}
export interface ChoiceSetting extends SettingBase {
  readonly kind: 'choice';
  readonly default: string;
  readonly choices: Readonly<Record<string, string>>;
  /** Other spellings that documents may use, with the choice each stands for. */
  readonly aliases?: Readonly<Record<string, string>>;
}
export interface TextSetting extends SettingBase {
  readonly kind: 'text';
  readonly default: string;
  readonly pattern?: RegExp;
  readonly accepts?: string;
  /** The text is a formula over numbers of the document. */
  readonly formula?: boolean;
}
/** A colour as #rrggbb, or as three numbers from 0 to 1 (red, green, blue, as sRGB has them) of which each may follow a dial; nodes get it as #rrggbb. */
export interface ColourSetting extends SettingBase {
  readonly kind: 'colour';
  readonly default: string;
}
/** SHA-256 of a file of the document (imported, or a result that was frozen), 64 hexadecimal digits; empty: none yet. */
export interface AssetSetting extends SettingBase {
  readonly kind: 'asset';
  /** What is looked for in the file, how its absence is told (“The file has …”), and the endings of files that may have it. */
  readonly holds: 'curves' | 'mesh' | 'points' | 'frozen';
  readonly absent: string;
  readonly endings: readonly string[];
  readonly default: '';
}
/** How data is edited: drawn curves in the 3D view, a plane by point and normal, or a row for each object that comes in. */
export type DataEditor = 'curves' | 'strokes' | 'plane' | 'shares' | 'stands' | 'rules' | 'planes';

/** Data edited by hand, checked by the node's own function, which returns what is wrong (path inside the value, message) or null. */
export interface DataSetting<T> extends SettingBase {
  readonly kind: 'data';
  readonly edit: DataEditor;
  readonly default: T;
  readonly fault: (value: unknown, settings: Readonly<Record<string, unknown>>) => { path: string; message: string } | null;
}

export type Setting = NumberSetting | VectorSetting | BooleanSetting | ChoiceSetting | TextSetting | ColourSetting | AssetSetting | DataSetting<unknown>;
export type Settings = Readonly<Record<string, Setting>>;

/** The value that a node's `run` gets for a setting. */
export type ValueOf<S extends Setting> = S extends { kind: 'number' | 'integer' }
  ? S extends { varies: PerElement }
    ? S extends { pair: true }
      ? Varying | readonly [number, number]
      : Varying
    : S extends { pair: true }
      ? number | readonly [number, number]
      : number
  : S extends { kind: 'vector'; default: infer V }
    ? V extends readonly [number, number]
      ? readonly [number, number]
      : S extends { varies: PerElement }
        ? VaryingVector
        : readonly [number, number, number]
    : S extends { kind: 'boolean' }
      ? S extends { condition: true }
        ? boolean | Varying
        : boolean
      : S extends { kind: 'choice'; choices: infer C }
        ? Extract<keyof C, string>
        : S extends DataSetting<infer T>
          ? T
          : string;
export type ValuesOf<S extends Settings> = { readonly [K in keyof S]: ValueOf<S[K]> };

/** A wrong value: where inside the setting (JSON Pointer below it, often empty) and what to do. */
export interface SettingFault {
  readonly path: string;
  readonly message: string;
}

const shown = (value: unknown): string => {
  // JSON has no word for what is not finite, and would say null.
  const text = JSON.stringify(value, (_, inner: unknown) => (typeof inner === 'number' && !Number.isFinite(inner) ? String(inner) : inner)) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

const rangeText = (setting: NumberSetting): string => {
  const whole = setting.kind === 'integer' ? 'whole numbers' : 'numbers';
  const unit = setting.unit ? ` ${setting.unit}` : '';
  const { min, max, above } = setting;
  if (min !== undefined && max !== undefined) return above ? `${whole} above ${min}, up to ${max}${unit}` : `${whole} from ${min} to ${max}${unit}`;
  if (min !== undefined) return above ? `${whole} above ${min}${unit}` : `${whole}, ${min}${unit} or more`;
  return max === undefined ? `finite ${whole}${unit ? ` in${unit}` : ''}` : `${whole} up to ${max}${unit}`;
};

/**
 * Sizes of numbers that settings take, but for 0: results are kept in 32 bits (up to 3·10³⁸), and what is made of numbers is multiplied; and what is smaller cannot be told from 0
 * once it is added to anything.
 */
const [largest, smallest] = [1e15, 1e-20];

/** Whether a setting applies beside the others of its node. What is given in another way than fixed may come out as anything, and leaves it open. */
export const applies = ({ shownWhen = {} }: Setting, valueOf: (name: string) => unknown): boolean =>
  Object.entries(shownWhen).every(([name, values]) => typeof valueOf(name) === 'object' || values.includes(valueOf(name)));

/** Longer lists are data, not vectors. */
const mostParts = 4;

/** The parts of a setting's value: of a vector its numbers, each of which may be given in its own way; of anything else the value itself. */
export const partsOf = (value: unknown): readonly unknown[] => (Array.isArray(value) && value.length <= mostParts ? value : [value]);

/** A setting's value with one part in place of another. */
export const withPart = (whole: unknown, at: number, part: unknown): unknown =>
  Array.isArray(whole) ? whole.map((old: unknown, k) => (k === at ? part : old)) : part;

/** What the numbers of a vector or a colour are called. */
export function partNames(setting: VectorSetting | ColourSetting): readonly string[] {
  if (setting.kind === 'colour') return ['r', 'g', 'b'];
  return setting.axes ?? (setting.default.length === 2 ? ['u', 'v'] : ['x', 'y', 'z']);
}

/** Red, green and blue of #rrggbb, from 0 to 1: with three places, which is enough to give the same colour back. */
export const colourParts = (hex: string): number[] => [1, 3, 5].map((at) => Number((parseInt(hex.slice(at, at + 2), 16) / 255).toFixed(3)));

/** #rrggbb of red, green and blue from 0 to 1. */
export const colourOf = (parts: readonly number[]): string =>
  `#${parts.map((part) => Math.round(Math.min(1, Math.max(0, part)) * 255).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore

/** The parts of a setting's value as settings of their own: the numbers of a vector; red, green and blue of a colour. Others have none. */
export function partSettings(setting: Setting): NumberSetting[] {
  const { label, help } = setting;
  if (setting.kind === 'vector') {
    const { unit, step, varies } = setting;
    return partNames(setting).map((name, k) => ({ kind: 'number', label: `${label} ${name}`, help, unit, step, varies, default: setting.default[k] ?? 0 }));
  }
  if (setting.kind !== 'colour') return [];
  const usual = colourParts(setting.default);
  return partNames(setting).map((name, k) => ({ kind: 'number', label: `${label} ${name}`, help, min: 0, max: 1, step: 0.005, default: usual[k] }));
}

/** What is wrong with the size of a number, whatever its setting; null: nothing. */
function sizeFault(label: string, value: number): SettingFault | null {
  const size = Math.abs(value);
  if (size > largest) return { path: '', message: `${label} is ${shown(value)}; numbers go up to ${largest.toExponential().replace('+', '')} here.` };
  if (size > 0 && size < smallest)
    return { path: '', message: `${label} is ${shown(value)}, which is too small to be told from 0; give 0, or ${smallest} or more.` };
  return null;
}

function numberFault(setting: NumberSetting, label: string, value: unknown): SettingFault | null {
  const wrong =
    typeof value !== 'number' ||
    !Number.isFinite(value) ||
    (setting.kind === 'integer' && !Number.isInteger(value)) ||
    (setting.min !== undefined && (setting.above ? value <= setting.min : value < setting.min)) ||
    (setting.max !== undefined && value > setting.max);
  if (wrong) return { path: '', message: `${label} is ${shown(value)}; it accepts ${rangeText(setting)}.` };
  return sizeFault(label, value);
}

/** A varying value that is not fixed: its form, and every number that is written in it, against the setting's range. */
function variedFault(setting: NumberSetting, label: string, value: object): SettingFault | null {
  const fault = varyingFault(value);
  if (fault) return { path: '', message: `${label}: ${fault}` };
  const written: readonly (readonly [string, number, string])[] =
    'ramp' in value
      ? (value.ramp as [number, number][]).map(([, y], k) => [`/ramp/${k}/1`, y, `at key ${k} of the ramp`])
      : 'random' in value
        ? (value.random as number[]).map((y, k) => [`/random/${k}`, y, `at the ${k ? 'upper' : 'lower'} end of its random values`])
        : [];
  for (const [path, number, where] of written) {
    const wrong = numberFault({ ...setting, above: false, kind: 'number' }, `${label} ${where}`, number);
    if (wrong) return { path, message: wrong.message };
  }
  return null;
}

/** The range of a setting for values worked out later. As in ramps a value may touch the minimum where a fixed one may not: a tip runs out to 0. */
export const rangeOf = (setting: NumberSetting): { min: number; max: number; accepts: string } => ({
  min: setting.min ?? -largest,
  max: setting.max ?? largest,
  accepts: rangeText({ ...setting, kind: 'number', above: false }),
});

/**
 * What is wrong with `value` for a setting, or null. Dials must have been replaced by their values. `settings` are all values of the node.
 */
export function settingFault(setting: Setting, value: unknown, settings: Readonly<Record<string, unknown>>): SettingFault | null {
  const label = setting.label;
  const says = (accepts: string): SettingFault => ({ path: '', message: `${label} is ${shown(value)}; it accepts ${accepts}.` });
  switch (setting.kind) {
    case 'number':
    case 'integer':
      if (setting.pair && Array.isArray(value))
        return value.length === 2
          ? (value.map((each, k) => numberFault(setting, `${label} [${k}]`, each)).find((fault) => fault) ?? null)
          : says(`${rangeText(setting)}, or two of them`);
      return setting.varies && typeof value === 'object' && value !== null && !Array.isArray(value)
        ? variedFault(setting, label, value)
        : numberFault(setting, label, value);
    case 'vector': {
      const size = setting.default.length;
      if (setting.varies && typeof value === 'object' && value !== null && !Array.isArray(value)) {
        const fault = varyingFault(value);
        return fault === null ? null : { path: '', message: `${label}: ${fault}` };
      }
      const names = partNames(setting);
      const varied = (part: unknown): part is object => !!setting.varies && typeof part === 'object' && part !== null && !Array.isArray(part);
      if (!Array.isArray(value) || value.length !== size || !value.every((n) => varied(n) || (typeof n === 'number' && Number.isFinite(n))))
        return says(`${size === 2 ? 'two' : 'three'} finite numbers [${names.join(', ')}]${setting.varies ? ', each of which may vary' : ''}`);
      if (setting.direction && value.every((n) => n === 0)) return says('a direction that is not 0, 0, 0');
      const faults = (value as (number | object)[]).map((part, k): SettingFault | null => {
        if (!varied(part)) return sizeFault(label, part);
        const fault = variedFault({ kind: 'number', label, help: '', default: 0 }, `${label} ${names[k]}`, part);
        return fault && { path: `/${k}${fault.path}`, message: fault.message };
      });
      return faults.find((fault) => fault) ?? null;
    }
    case 'boolean': {
      if (typeof value === 'boolean') return null;
      if (!setting.condition || typeof value !== 'object' || value === null) return says(setting.condition ? 'true, false or a condition' : 'true or false');
      const fault = varyingFault(value);
      return fault === null ? null : { path: '', message: `${label}: ${fault}` };
    }
    case 'choice':
      return typeof value === 'string' && Object.hasOwn(setting.choices, value) ? null : says(Object.keys(setting.choices).join(', '));
    case 'text':
      if (setting.formula) {
        const fault = varyingFault({ formula: value });
        return fault === null ? null : { path: '', message: `${label}: ${fault}` };
      }
      return typeof value === 'string' && value.length <= 200 && (setting.pattern?.test(value) ?? true)
        ? null
        : says(setting.accepts ?? 'text of up to 200 characters');
    case 'colour':
      if (Array.isArray(value) && value.length === 3)
        return (
          partSettings(setting)
            .map((own, k) => numberFault(own, own.label, value[k]))
            .find((fault) => fault) ?? null
        );
      return typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value) ? null : says('a colour such as #a2323f, or its red, green and blue from 0 to 1');
    case 'asset':
      return typeof value === 'string' && (value === '' || /^[0-9a-f]{64}$/.test(value))
        ? null
        : says('the SHA-256 of an imported file (64 hexadecimal digits)');
    case 'data': {
      const fault = setting.fault(value, settings);
      return fault && { path: fault.path, message: `${label}: ${fault.message}` };
    }
  }
}
