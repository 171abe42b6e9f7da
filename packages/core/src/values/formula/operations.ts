import { kernels } from './blocks.js';
import { elementRandom, formulaFunctions, modulo } from './functions.js';
import type { Line } from './line.js';
import { farthest, sineAt } from './sine.js';

/** Works on one block: `count` numbers of each argument into `out`. They are of `blocks`, and may be the same. */
export type BlockOperation = (out: Float64Array, args: readonly Float64Array[], count: number) => void;

/** What the operators do, one set of values at a time. Truth is any number but 0; comparisons give 1 or 0. */
export const operators: Readonly<Record<string, (...args: number[]) => number>> = {
  add: (a, b) => a + b,
  subtract: (a, b) => a - b,
  multiply: (a, b) => a * b,
  divide: (a, b) => a / b,
  mod: modulo,
  pow: (a, b) => a ** b,
  negate: (a) => -a,
  not: (a) => (a ? 0 : 1),
  and: (a, b) => (a && b ? 1 : 0),
  or: (a, b) => (a || b ? 1 : 0),
  less: (a, b) => (a < b ? 1 : 0),
  lessEqual: (a, b) => (a <= b ? 1 : 0),
  greater: (a, b) => (a > b ? 1 : 0),
  greaterEqual: (a, b) => (a >= b ? 1 : 0),
  equal: (a, b) => (a === b ? 1 : 0),
  unequal: (a, b) => (a !== b ? 1 : 0),
  choose: (condition, yes, no) => (condition ? yes : no),
};

/** Operations with loops of their own: one shared by all calls through a pointer for each number, which takes up to 1.8 times as long for sums. */
const written: Readonly<Record<string, BlockOperation>> = {
  divide: (out, [a, b], n) => {
    for (let i = 0; i < n; i++) out[i] = a[i] / b[i];
  },
  sqrt: (out, [a], n) => {
    for (let i = 0; i < n; i++) out[i] = Math.sqrt(a[i]);
  },
  sin: (out, [a], n) => sines(out, a, 0, n),
  cos: (out, [a], n) => sines(out, a, 1, n),
};

function sines(out: Float64Array, a: Float64Array, quadrant: 0 | 1, n: number): void {
  if (kernels.within(a.byteOffset, -farthest, farthest, n)) kernels.sine(out.byteOffset, a.byteOffset, quadrant, n);
  else for (let i = 0; i < n; i++) out[i] = sineAt(a[i], quadrant);
}

/** The values of a line. */
export const lineValues =
  ({ m, s, m2, s2 }: Line): BlockOperation =>
  (out, [a], n) =>
    kernels.line(out.byteOffset, a.byteOffset, m, s, m2, s2, n);

/** Sums of two lines. */
export const lineSum =
  (a: Line, b: Line): BlockOperation =>
  (out, [x, y], n) =>
    kernels.sum(out.byteOffset, x.byteOffset, a.m, a.s, a.m2, a.s2, y.byteOffset, b.m, b.s, b.m2, b.s2, n);

/** Products of two lines. */
export const lineProduct =
  (a: Line, b: Line): BlockOperation =>
  (out, [x, y], n) =>
    kernels.product(out.byteOffset, x.byteOffset, a.m, a.s, a.m2, a.s2, y.byteOffset, b.m, b.s, b.m2, b.s2, n);

/** One value of a call, for folding constants and for the plain evaluator of tests. */
export const valueOf = (name: string): ((...args: number[]) => number) => operators[name] ?? formulaFunctions[name].of;

const others = new Map<string, BlockOperation>();

/** The loop over a block for an operator or a function with so many arguments. The arguments of `random` are k and the element's id. */
export function blockOperation(name: string, arity: number): BlockOperation {
  if (Object.hasOwn(written, name)) return written[name];
  const key = `${name}/${arity}`;
  let operation = others.get(key);
  if (!operation) others.set(key, (operation = looped(name === 'random' ? elementRandom : valueOf(name), arity)));
  return operation;
}

function looped(of: (...args: number[]) => number, arity: number): BlockOperation {
  if (arity === 1)
    return (out, [a], n) => {
      for (let i = 0; i < n; i++) out[i] = of(a[i]);
    };
  if (arity === 2)
    return (out, [a, b], n) => {
      for (let i = 0; i < n; i++) out[i] = of(a[i], b[i]);
    };
  if (arity === 3)
    return (out, [a, b, c], n) => {
      for (let i = 0; i < n; i++) out[i] = of(a[i], b[i], c[i]);
    };
  const values = new Array<number>(arity);
  return (out, args, n) => {
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < arity; k++) values[k] = args[k][i];
      out[i] = of(...values);
    }
  };
}
