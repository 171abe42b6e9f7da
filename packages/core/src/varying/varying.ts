import { unbounded, type Work } from '../base/work.js';
import type { Geometry } from '../geometry/geometry.js';
import { constantField, type Field } from '../values/field.js';
import { drawKeys, type DrawPer } from './drawKeys.js';
import { elementsOf, type Elements, type GivenNumbers } from './elements.js';
import type { PerElement } from './perElement.js';
import { compileFormula, mendValues, type NameSource, type ValueRange } from '../values/formula/evaluate.js';
import { nearest, parseFormula } from '../values/formula/parse.js';
import { FormulaError } from '../values/formula/tokens.js';
import { randomAt } from '../values/random.js';
import { rampAt, rampEases, type RampEase, type RampKeys } from '../values/ramp.js';

/** A setting that may vary along a curve, per curve or per element. Dials are replaced before a node sees it. */
export type Varying = number | VaryingFormula | VaryingAttribute | VaryingRamp | VaryingRandom | { readonly dial: string };
export interface VaryingFormula {
  readonly formula: string;
  /** Numbers of the document that the formula uses (dials, time), filled in before a node sees it. */
  readonly given?: GivenNumbers;
  /** Names of all numbers of the document, for suggestions. */
  readonly known?: readonly string[];
}
export interface VaryingAttribute {
  readonly attribute: string;
  readonly scale?: number;
  readonly offset?: number;
}
export interface VaryingRamp {
  readonly ramp: RampKeys;
  readonly ease?: RampEase;
  /** `t`, `s`, or any name that formulas know. */
  readonly over?: string;
}
export interface VaryingRandom {
  readonly random: readonly [number, number];
  readonly seed?: number;
  readonly per?: RandomPer;
}

export const randomPers = ['point', 'curve', 'face', 'copy', 'part', 'whole'] as const satisfies readonly DrawPer[];
export type RandomPer = (typeof randomPers)[number];

export const varyingModes = ['fixed', 'dial', 'formula', 'attribute', 'ramp', 'random'] as const;
export type VaryingMode = (typeof varyingModes)[number];

/** The mode that a value is written in, or null when it is none of them. */
export function modeOf(value: unknown): VaryingMode | null {
  if (typeof value === 'number' || typeof value === 'boolean' || typeof value === 'string' || Array.isArray(value)) return 'fixed';
  if (typeof value !== 'object' || value === null) return null;
  return varyingModes.find((mode) => mode !== 'fixed' && mode in value) ?? null;
}

const isFinite = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const shown = (value: unknown): string => JSON.stringify(value) ?? String(value);

/** Fields beside its own that a mode takes. */
const taken: Readonly<Record<Exclude<VaryingMode, 'fixed' | 'dial'>, readonly string[]>> = {
  formula: ['formula'],
  attribute: ['attribute', 'scale', 'offset'],
  ramp: ['ramp', 'ease', 'over'],
  random: ['random', 'seed', 'per'],
};

/** What is wrong with a value given by formula, attribute, ramp or at random, in words, or null. Names of formulas are looked up when it runs. */
export function varyingFault(value: object): string | null {
  const mode = modeOf(value);
  if (!mode || mode === 'fixed' || mode === 'dial') return `${shown(value)} is none of a number, dial, formula, attribute, ramp or random.`;
  const extra = Object.keys(value).find((key) => !taken[mode].includes(key));
  if (extra) return `${mode === 'attribute' ? 'An attribute' : `A ${mode} value`} has no "${extra}"; it takes ${taken[mode].join(', ')}.`;
  return faults[mode](value as never);
}

const faults: Readonly<Record<keyof typeof taken, (value: never) => string | null>> = {
  formula: ({ formula }: { formula: unknown }) => {
    if (typeof formula !== 'string') return `A formula is text, not ${shown(formula)}.`;
    try {
      parseFormula(formula);
      return null;
    } catch (error) {
      if (error instanceof FormulaError) return `${error.message}.`;
      throw error;
    }
  },
  attribute: ({ attribute, scale = 1, offset = 0 }: { attribute: unknown; scale?: unknown; offset?: unknown }) => {
    if (typeof attribute !== 'string' || !/^[A-Za-z_][A-Za-z0-9_]*$/.test(attribute)) return `${shown(attribute)} is no name of an attribute.`;
    if (!isFinite(scale)) return `The scale of an attribute is ${shown(scale)}; it accepts a finite number.`;
    return isFinite(offset) ? null : `The offset of an attribute is ${shown(offset)}; it accepts a finite number.`;
  },
  ramp: ({ ramp, ease, over }: { ramp: unknown; ease?: unknown; over?: unknown }) => {
    if (!Array.isArray(ramp) || ramp.length < 1 || ramp.length > 256) return 'A ramp needs a list of 1 to 256 keys [place, value].';
    for (let k = 0; k < ramp.length; k++) {
      const key: unknown = ramp[k];
      if (!Array.isArray(key) || key.length !== 2 || !key.every(isFinite))
        return `Key ${k} of the ramp is ${shown(key)}; a key is two numbers, [place, value].`;
      if (k && key[0] < (ramp[k - 1] as number[])[0]) return `Key ${k} of the ramp is at ${String(key[0])}, before key ${k - 1}; places must rise.`;
    }
    if (ease !== undefined && !rampEases.includes(ease as RampEase)) return `A ramp's ease is ${shown(ease)}; it accepts ${rampEases.join(', ')}.`;
    if (over !== undefined && (typeof over !== 'string' || !/^[A-Za-z_][A-Za-z0-9_]*$/.test(over)))
      return `A ramp runs over ${shown(over)}; it accepts "t", "s" or the name of an attribute.`;
    return null;
  },
  random: ({ random, seed = 0, per }: { random: unknown; seed?: unknown; per?: unknown }) => {
    if (!Array.isArray(random) || random.length !== 2 || !random.every(isFinite))
      return `A random value lies between two finite numbers, not ${shown(random)}.`;
    if (!Number.isSafeInteger(seed)) return `The seed of a random value is ${shown(seed)}; it accepts a whole number.`;
    return per === undefined || randomPers.includes(per as RandomPer)
      ? null
      : `A random value is drawn per ${shown(per)}; it accepts ${randomPers.join(', ')}.`;
  },
};

/** What resolving a value may need beside its elements. */
export interface ResolveOptions {
  /** The setting's name, for messages. */
  readonly label?: string;
  /** What each value must be, and its words for the message; values within round-off of an end are brought to it. */
  readonly range?: { readonly min: number; readonly max: number; readonly accepts: string };
  readonly work?: Work;
}

/**
 * Values of a varying setting for the elements of a geometry (the points of a mesh are its vertices). The value must have been checked, and its
 * dials replaced. A ramp over t on a value per curve is read at the curve's place among the curves (0 first, 1 last).
 * @throws FormulaError at the column of a name that is not there; RangeError naming the first element whose value is not finite or out of range.
 */
export function resolveVarying(value: Varying, over: Geometry, per: PerElement, options: ResolveOptions = {}): Field {
  if (typeof value === 'number') return constantField(value);
  if ('formula' in value) return byFormula(value, elementsOf(over, per, value.given, value.known), options);
  const elements = elementsOf(over, per);
  const field = resolved(value, elements, over, options);
  return 'ramp' in value ? field : requireGood(field, elements, options);
}

function byFormula({ formula }: VaryingFormula, elements: Elements, options: ResolveOptions): Field {
  const { constant, evaluate } = compileFormula(formula, elements.scope);
  if (constant !== null) return requireGood(constantField(constant), elements, options);
  return {
    constant: 0,
    values: evaluate(
      elements.count,
      options.work,
      rangeOfValues(options, (i) => `at ${elements.describe(i)}`),
    ),
  };
}

function resolved(value: Exclude<Varying, number | VaryingFormula>, elements: Elements, over: Geometry, { work }: ResolveOptions): Field {
  if ('ramp' in value) {
    const { ramp, ease = 'linear', over: name = 't' } = value;
    if (ramp.length === 1) return constantField(ramp[0][1]);
    return mapped(named(elements, name, `A ramp over "${name}"`), elements.count, (x) => rampAt(ramp, ease, x), work);
  }
  if ('attribute' in value) {
    const { attribute, scale = 1, offset = 0 } = value;
    return mapped(named(elements, attribute, `The attribute "${attribute}"`), elements.count, (x) => x * scale + offset, work);
  }
  if ('random' in value) {
    const { random, seed = 0, per } = value;
    const [low, high] = random;
    const keys = drawKeys(over, elements.per, per);
    const values = (work ?? unbounded).memory.float64(elements.count);
    for (let i = 0; i < elements.count; i++) values[i] = low + (high - low) * randomAt(seed, keys[i]);
    return { constant: 0, values };
  }
  throw new Error(`A value in the mode ${modeOf(value)} reached the evaluator unresolved.`);
}

function named({ scope, per }: Elements, name: string, what: string): NameSource {
  const source = scope.source(name);
  if (source === undefined)
    throw new RangeError(`${what} was not found on the ${per}s${nearest(name, scope.names) || `; there are ${scope.names.join(', ')}`}.`);
  if (typeof source === 'string') throw new RangeError(`${what} cannot be used: ${source}.`);
  return source;
}

function mapped(source: NameSource, count: number, of: (x: number) => number, work: Work = unbounded): Field {
  if (typeof source === 'number') return constantField(of(source));
  const values = work.memory.float64(count);
  source.fill(values, 0, count);
  work.progress(0);
  for (let i = 0; i < count; i++) values[i] = of(values[i]);
  return { constant: 0, values };
}

/** @throws RangeError naming the first element whose value is not finite, or not in the range. */
export function requireGood(field: Field, elements: Elements, options: ResolveOptions): Field {
  const { values } = field;
  if (values) {
    mendValues(
      values,
      0,
      values.length,
      rangeOfValues(options, (i) => `at ${elements.describe(i)}`),
    );
    return field;
  }
  const one = Float64Array.of(field.constant);
  mendValues(
    one,
    0,
    1,
    rangeOfValues(options, () => 'everywhere'),
  );
  return constantField(one[0]);
}

/** What the values must be. Those beyond an end by round-off are brought to it, for others it throws as `requireGood`; `where` names an element. */
function rangeOfValues({ label = 'The value', range }: ResolveOptions, where: (i: number) => string): ValueRange {
  const { min, max } = range ?? { min: -Infinity, max: Infinity };
  const slack = 1e-9 * Math.max(1, Math.abs(Number.isFinite(min) ? min : 0));
  return {
    low: Math.max(min, -Number.MAX_VALUE),
    high: Math.min(max, Number.MAX_VALUE),
    mend: (value, i) => {
      if (value >= min - slack && value < min) return min;
      if (value > max && value <= max + slack) return max;
      throw new RangeError(`${label} is ${Number(value.toPrecision(4))} ${where(i)}; it accepts ${range?.accepts ?? 'finite numbers'}.`);
    },
  };
}
