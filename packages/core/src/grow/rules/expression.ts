import { elementRandom, formulaConstants } from '../../values/formula/functions.js';
import { valueOf } from '../../values/formula/operations.js';
import type { FormulaTree } from '../../values/formula/parse.js';

/** What a formula in a rule is worked out with: values by the place of their names, and a number of its own for chance. */
export interface Scope {
  readonly values: number[];
  id: number;
}

/** A formula ready to be worked out for one module at a time. */
export interface Expression {
  /** Its value where it is always the same; else null. */
  readonly constant: number | null;
  /** The same text for the same formula, over places of names. */
  readonly text: string;
  readonly of: (scope: Scope) => number;
}

const fixed = (value: number): Expression => ({ constant: value, text: String(value), of: () => value });

/** Makes a formula ready; `unknown` is told of a name that is not among the names, and throws. */
export function compiled(tree: FormulaTree, names: readonly string[], unknown: (name: string, column: number) => never): Expression {
  if (tree.kind === 'number') return fixed(tree.value);
  if (tree.kind === 'name') {
    const at = names.lastIndexOf(tree.name);
    if (at >= 0) return { constant: null, text: `$${at}`, of: ({ values }) => values[at] };
    return Object.hasOwn(formulaConstants, tree.name) ? fixed(formulaConstants[tree.name]) : unknown(tree.name, tree.column);
  }
  const args = tree.args.map((arg) => compiled(arg, names, unknown));
  const text = `${tree.name}(${args.map((arg) => arg.text).join()})`;
  const [a, b, c] = args.map(({ of }) => of);
  if (tree.name === 'random') return { constant: null, text, of: (scope) => elementRandom(a(scope), scope.id) };
  const does = valueOf(tree.name);
  if (args.every(({ constant }) => constant !== null)) return { ...fixed(does(...args.map(({ constant }) => constant!))), text };
  if (args.length === 1) return { constant: null, text, of: (scope) => does(a(scope)) };
  if (args.length === 2) return { constant: null, text, of: (scope) => does(a(scope), b(scope)) };
  if (tree.name === 'choose') return { constant: null, text, of: (scope) => (a(scope) ? b(scope) : c(scope)) };
  return { constant: null, text, of: (scope) => does(...args.map(({ of }) => of(scope))) };
}
