import { FormatError } from '../errors.js';

/** A plane affine map as SVG writes it: x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const identity: Matrix = [1, 0, 0, 1, 0, 0];
export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];

/** First `n`, then `m`. */
export const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

const radians: Readonly<Record<string, number>> = { '': Math.PI / 180, deg: Math.PI / 180, rad: 1, turn: 2 * Math.PI, grad: Math.PI / 200 };

/** How many numbers each function takes, and the matrix that it means (CSS Transforms 1; SVG 2, 8.5). Lengths are in user units, angles in radians. */
const functions: Readonly<Record<string, { readonly counts: readonly number[]; readonly make: (n: readonly number[]) => Matrix }>> = {
  matrix: { counts: [6], make: (n) => n as unknown as Matrix },
  translate: { counts: [1, 2], make: ([x, y = 0]) => translation(x, y) },
  translatex: { counts: [1], make: ([x]) => translation(x, 0) },
  translatey: { counts: [1], make: ([y]) => translation(0, y) },
  scale: { counts: [1, 2], make: ([x, y = x]) => [x, 0, 0, y, 0, 0] },
  scalex: { counts: [1], make: ([x]) => [x, 0, 0, 1, 0, 0] },
  scaley: { counts: [1], make: ([y]) => [1, 0, 0, y, 0, 0] },
  rotate: {
    counts: [1, 3],
    make: ([angle, x = 0, y = 0]) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      return times(times(translation(x, y), [c, s, -s, c, 0, 0]), translation(-x, -y));
    },
  },
  skewx: { counts: [1], make: ([angle]) => [1, 0, Math.tan(angle), 1, 0, 0] },
  skewy: { counts: [1], make: ([angle]) => [1, Math.tan(angle), 0, 1, 0, 0] },
  skew: { counts: [1, 2], make: ([x, y = 0]) => [1, Math.tan(y), Math.tan(x), 1, 0, 0] },
};

const angular = new Set(['rotate', 'skewx', 'skewy', 'skew']);

/**
 * The map of a transform list, as an attribute or a CSS property has it. `length`: user units of a length with its unit, across (0) or down (1).
 * @throws FormatError naming what cannot be read.
 */
export function readTransform(text: string, where: string, length: (text: string, direction: 0 | 1) => number): Matrix {
  let matrix = identity;
  let rest = text.trim();
  if (rest === 'none') return identity;
  while (rest) {
    const open = rest.indexOf('(');
    const close = rest.indexOf(')');
    const name = rest.slice(0, Math.max(0, open)).trim().toLowerCase();
    const known = functions[name];
    if (open < 0 || close < open || !known) throw new FormatError(`${where}: the transform "${rest.slice(0, 40)}" cannot be read.`);
    const words = rest.slice(open + 1, close).split(/[\s,]+/).filter(Boolean); // prettier-ignore
    const numbers = words.map((word, i) => {
      if (angular.has(name) && (i === 0 || name === 'skew')) return angle(word);
      return name.startsWith('translate') || name === 'rotate'
        ? length(word, name === 'translatey' || i % 2 === (name === 'rotate' ? 0 : 1) ? 1 : 0)
        : Number(word);
    });
    if (!known.counts.includes(numbers.length) || !numbers.every(Number.isFinite))
      throw new FormatError(`${where}: the transform "${rest.slice(0, close + 1)}" has the wrong numbers.`);
    matrix = times(matrix, known.make(numbers));
    rest = rest.slice(close + 1).replace(/^[\s,]+/, '');
  }
  return matrix;
}

function angle(word: string): number {
  const [, number, unit] = /^([-+.\deE]+?)(deg|rad|turn|grad|)$/.exec(word) ?? [];
  return number === undefined ? NaN : Number(number) * radians[unit];
}
