import { noise3 } from '../noise.js';
import { hash } from '../random.js';
import { sineAt } from './sine.js';

/** A function of formulas: how many arguments it takes, what it gives for each set of them, and what it is in words. */
export interface FormulaFunction {
  readonly least: number;
  readonly most: number;
  readonly help: string;
  /** Over one set of arguments. Written once here and used both for folding constants and, in loops, for blocks. */
  readonly of: (...args: number[]) => number;
}

const one = (help: string, of: (x: number) => number): FormulaFunction => ({ least: 1, most: 1, help, of });
const two = (help: string, of: (x: number, y: number) => number): FormulaFunction => ({ least: 2, most: 2, help, of });
const three = (help: string, of: (x: number, y: number, z: number) => number): FormulaFunction => ({ least: 3, most: 3, help, of });

/** Remainder with the sign of the divisor: x − y·floor(x ÷ y). */
export const modulo = (x: number, y: number): number => (y === 0 ? x : x - y * Math.floor(x / y));

const clamp = (x: number, low: number, high: number): number => Math.min(Math.max(x, low), high);
const turbulence = noise3(0);

/** Every function that a formula may call. `random` is apart: it depends on the element, so it is never folded. */
export const formulaFunctions: Readonly<Record<string, FormulaFunction>> = {
  sin: one('sine of radians', (x) => sineAt(x, 0)),
  cos: one('cosine of radians', (x) => sineAt(x, 1)),
  tan: one('tangent of radians', Math.tan),
  asin: one('radians whose sine it is', Math.asin),
  acos: one('radians whose cosine it is', Math.acos),
  atan: one('radians whose tangent it is', Math.atan),
  atan2: two('radians of the direction y, x', Math.atan2),
  sinh: one('hyperbolic sine', Math.sinh),
  cosh: one('hyperbolic cosine', Math.cosh),
  tanh: one('hyperbolic tangent', Math.tanh),
  sqrt: one('square root', Math.sqrt),
  cbrt: one('cube root', Math.cbrt),
  exp: one('e to the power of x', Math.exp),
  log: one('natural logarithm', Math.log),
  log2: one('logarithm to base 2', Math.log2),
  log10: one('logarithm to base 10', Math.log10),
  abs: one('without its sign', Math.abs),
  sign: one('−1, 0 or 1', Math.sign),
  floor: one('next whole number down', Math.floor),
  ceil: one('next whole number up', Math.ceil),
  round: one('nearest whole number, halves up', Math.round),
  fract: one('what is left of x above its whole number: x − floor(x)', (x) => x - Math.floor(x)),
  min: { least: 1, most: 16, help: 'the least of its arguments', of: Math.min },
  max: { least: 1, most: 16, help: 'the greatest of its arguments', of: Math.max },
  clamp: three('x, but not below low or above high: clamp(x, low, high)', clamp),
  mix: three('from a at 0 to b at 1: mix(a, b, f)', (a, b, f) => a + (b - a) * f),
  step: two('0 below the edge, 1 from it on: step(edge, x)', (edge, x) => (x < edge ? 0 : 1)),
  smoothstep: three('0 below a, 1 above b, smooth between: smoothstep(a, b, x)', (a, b, x) => {
    const f = a === b ? Number(x >= a) : clamp((x - a) / (b - a), 0, 1);
    return f * f * (3 - 2 * f);
  }),
  mod: two('remainder with the sign of the divisor', modulo),
  pow: two('x to the power of y', Math.pow),
  hypot: { least: 1, most: 16, help: 'root of the sum of squares', of: Math.hypot },
  noise: three('smooth noise at a place, −1 to 1: noise(x, y, z)', turbulence),
  random: one('0 to 1, another for each element and each k: random(k)', () => NaN),
};

const bits = new DataView(new ArrayBuffer(8));

/** `random(k)` for an element: the same for the same element and k, whatever else there is. */
export function elementRandom(k: number, id: number): number {
  bits.setFloat64(0, k === 0 ? 0 : k);
  return hash(hash(bits.getInt32(0), bits.getInt32(4)), id) / 4294967296;
}

/** Numbers with a name. */
export const formulaConstants: Readonly<Record<string, number>> = { pi: Math.PI, e: Math.E, true: 1, false: 0 };
