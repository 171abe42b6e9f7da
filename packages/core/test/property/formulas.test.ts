import fc from 'fast-check';
import { all, create } from 'mathjs';
import { expect, test } from 'vitest';
import { compileFormula, elementRandom, FormulaError, formulaConstants, parseFormula, valueOf, type FormulaTree } from '../../src/index.js';

/** Without its tolerance, by which numbers that nearly agree count as equal. */
const math = create(all, { relTol: 1e-15, absTol: 0 });

/** Random formulas in the words that mathjs and Filaxis share, brackets wherever the two might bind differently. */
const expression = fc.letrec<{ value: string }>((tie) => {
  const value = tie('value');
  const call = (names: string[], arity: number): fc.Arbitrary<string> =>
    fc.tuple(fc.constantFrom(...names), ...Array.from({ length: arity }, () => value)).map(([name, ...args]) => `${name}(${args.join(', ')})`);
  return {
    value: fc.oneof(
      { maxDepth: 5, depthSize: 'small' },
      fc.constantFrom('x', 'y', 'pi', 'e', '0', '1', '2.5', '0.125', '3e-1'),
      fc.tuple(value, fc.constantFrom('+', '-', '*', '/', '<', '<=', '>', '>='), value).map(([a, op, b]) => `(${a} ${op} ${b})`),
      fc.tuple(value, fc.constantFrom('+', '-', '*'), value, fc.constantFrom('+', '-', '*'), value).map((parts) => `(${parts.join(' ')})`),
      fc.tuple(value, value).map(([a, b]) => `(abs(${a}) + 0.5) ^ (${b} / 8)`),
      fc.tuple(value, value, value).map(([a, b, c]) => `((${a}) > (${b}) ? (${c}) : (${a}))`),
      fc.tuple(value, fc.constantFrom('and', 'or'), value).map(([a, op, b]) => `((${a} > 0) ${op} (${b} > 0))`),
      value.map((a) => `-(${a})`),
      call(['sin', 'cos', 'atan', 'tanh', 'abs', 'floor', 'ceil', 'sign', 'cbrt'], 1),
      call(['atan2', 'min', 'max', 'hypot'], 2),
    ),
  };
}).value;

const numbers = fc.array(fc.tuple(fc.double({ min: -20, max: 20, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true })), {
  minLength: 1,
  maxLength: 4,
});

/** Far from the edges where the two functions' last bits decide on which side a comparison falls. */
const close = (ours: number, theirs: number): boolean =>
  Object.is(ours, theirs) || Math.abs(ours - theirs) <= 1e-9 * Math.max(1, Math.abs(ours), Math.abs(theirs)) || (Number.isNaN(ours) && Number.isNaN(theirs));

function ours(formula: string, rows: readonly (readonly [number, number])[]): Float64Array {
  const column = (k: number) => ({ fill: (out: Float64Array, from: number, count: number) => { for (let i = 0; i < count; i++) out[i] = rows[from + i][k]; } }); // prettier-ignore
  const scope = { source: (name: string) => (name === 'x' ? column(0) : name === 'y' ? column(1) : undefined), names: ['x', 'y'], id: { fill: (out: Float64Array, from: number, count: number) => { for (let i = 0; i < count; i++) out[i] = from + i; } } }; // prettier-ignore
  return compileFormula(formula, scope).evaluate(rows.length);
}

test('random formulas mean what they mean to mathjs (mathjs 15, live)', () => {
  let compared = 0;
  fc.assert(
    fc.property(expression, numbers, (formula, rows) => {
      const theirs = math.compile(formula);
      const values = ours(formula, rows);
      rows.forEach(([x, y], i) => {
        // mathjs goes to complex numbers where reals end; those are not compared.
        let answer: unknown;
        try {
          answer = theirs.evaluate({ x, y });
        } catch {
          return;
        }
        const number = typeof answer === 'boolean' ? Number(answer) : answer;
        if (typeof number !== 'number' || !Number.isFinite(number) || nearTie(formula, x, y)) return;
        compared++;
        if (!close(values[i], number)) throw new Error(`${formula} at x = ${x}, y = ${y}: ${values[i]}, mathjs ${number}`);
      });
    }),
    { numRuns: 2000 },
  );
  expect(compared).toBeGreaterThan(2000);
});

/** True when a small change of x or y changes the value by much: a comparison or a whole-number step is on its edge there. */
function nearTie(formula: string, x: number, y: number): boolean {
  const d = 1e-9;
  const values = ours(formula, [[x, y], [x + d, y], [x - d, y], [x, y + d], [x, y - d], [x + d, y + d], [x - d, y - d], [x + d, y - d], [x - d, y + d]]); // prettier-ignore
  return values.some((value) => !(Math.abs(value - values[0]) <= 1e-4 * Math.max(1, Math.abs(values[0]))));
}

/** One element at a time, straight from the tree: what blocks must agree with to the last bit. */
function plain(tree: FormulaTree, names: Readonly<Record<string, number>>, id: number): number {
  if (tree.kind === 'number') return tree.value;
  if (tree.kind === 'name') return Object.hasOwn(formulaConstants, tree.name) ? formulaConstants[tree.name] : names[tree.name];
  const args = tree.args.map((arg) => plain(arg, names, id));
  return tree.name === 'random' ? elementRandom(args[0], id) : valueOf(tree.name)(...args);
}

test('blocks give to the last bit what one element at a time gives, over more than one block', () => {
  const rows = Array.from({ length: 2500 }, (_, i) => [Math.sin(i) * 9, Math.cos(i * 0.7) * 5] as const);
  fc.assert(
    fc.property(expression, (formula) => {
      const withChance = `${formula} + random(x > 0) * noise(x, y, 1)`;
      const values = ours(withChance, rows);
      for (const i of [0, 1, 1023, 1024, 2047, 2048, 2499]) {
        const [x, y] = rows[i];
        expect(values[i]).toBe(plain(parseFormula(withChance), { x, y }, i));
      }
    }),
    { numRuns: 300 },
  );
});

test('100,000 random strings: each is a formula or is refused at a column inside it, and at once', () => {
  const pieces = ['sin', 'random', '(', ')', '+', '-', '*', '/', '^', '%', '?', ':', ',', '<', '>=', '==', '!=', 'and', 'not', 'or', 't', 'x', '1', '2.5', '.', '1e5', ' ', '=', '"', '[', '__proto__', 'constructor', '$', '\\', '\n', 'é', '∞', '💧', '`', ';', '{', 'this', 'import']; // prettier-ignore
  let state = 12345;
  const draw = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;
  let fine = 0;
  for (let run = 0; run < 100_000; run++) {
    const text = Array.from({ length: 1 + draw(14) }, () => pieces[draw(pieces.length)]).join('');
    try {
      const { constant, evaluate } = compileFormula(text, { source: (name) => (name === 't' ? 0.5 : undefined), names: ['t'], id: 0 });
      const value = constant ?? evaluate(1)[0];
      expect(typeof value).toBe('number');
      fine++;
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      if (!(error.column >= 1 && error.column <= text.length + 1)) throw new Error(`${text}: column ${error.column}`);
    }
  }
  expect(fine).toBeGreaterThan(500);
});
