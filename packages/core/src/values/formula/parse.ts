import { formulaFunctions } from './functions.js';
import { FormulaError, tokensOf, type Token } from './tokens.js';

/** A formula as a tree. Every part knows its column, so that whatever is found later can be told there. */
export type FormulaTree =
  | { readonly kind: 'number'; readonly value: number; readonly column: number }
  | { readonly kind: 'name'; readonly name: string; readonly column: number }
  | { readonly kind: 'call'; readonly name: string; readonly args: readonly FormulaTree[]; readonly column: number };

/** Operators that stand between two values: how tightly they bind, and the name of what they do. Comparisons do not chain. */
const binary: Readonly<Record<string, readonly [strength: number, operation: string]>> = {
  or: [1, 'or'],
  and: [2, 'and'],
  '<': [4, 'less'],
  '<=': [4, 'lessEqual'],
  '>': [4, 'greater'],
  '>=': [4, 'greaterEqual'],
  '==': [4, 'equal'],
  '!=': [4, 'unequal'],
  '+': [5, 'add'],
  '-': [5, 'subtract'],
  '*': [6, 'multiply'],
  '/': [6, 'divide'],
  '%': [6, 'mod'],
  '^': [8, 'pow'],
};
const notStrength = 3;
const comparison = 4;
const minusStrength = 7;
const powerStrength = 8;

/** Deepest nesting of brackets, conditions and signs. */
const deepest = 100;

const parsed = new Map<string, FormulaTree | FormulaError>();

/**
 * Reads a formula. `^` binds tighter than a minus before it and from right to left; then `* / %`, `+ -`, comparisons, `not`, `and`, `or`, and
 * `cond ? a : b` last. Results are kept, so asking again costs nothing.
 * @throws FormulaError saying what was expected, at its column.
 */
export function parseFormula(text: string): FormulaTree {
  let result = parsed.get(text);
  if (!result) {
    try {
      result = new Parser(text).whole();
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      result = error;
    }
    if (parsed.size > 500) parsed.clear();
    parsed.set(text, result);
  }
  if (result instanceof FormulaError) throw result;
  return result;
}

class Parser {
  private readonly tokens: Token[];
  private at = 0;
  private depth = 0;

  constructor(text: string) {
    this.tokens = tokensOf(text);
  }

  whole(): FormulaTree {
    if (this.tokens[0].kind === 'end') throw new FormulaError('the formula is empty; a value was expected', 1);
    const tree = this.choice();
    if (this.token.kind !== 'end')
      throw this.unexpected(this.token.text === ')' ? 'an operator or the end, since no bracket is open' : 'an operator or the end');
    return tree;
  }

  private get token(): Token {
    return this.tokens[this.at];
  }

  private unexpected(expected: string): FormulaError {
    const { kind, text, column } = this.token;
    return new FormulaError(`expected ${expected}, found ${kind === 'end' ? 'the end' : `"${text}"`}`, column, Math.max(1, text.length));
  }

  private take(text: string, expected: string): void {
    if (this.token.text !== text) throw this.unexpected(expected);
    this.at++;
  }

  /** Counts nesting while `read` runs. */
  private deeper<T>(read: () => T): T {
    if (++this.depth > deepest) throw new FormulaError(`the formula is nested more than ${deepest} deep`, this.token.column);
    const result = read();
    this.depth--;
    return result;
  }

  /** `cond ? a : b`, or what is simpler. */
  private choice(): FormulaTree {
    return this.deeper(() => {
      const condition = this.operation(0);
      if (this.token.text !== '?') return condition;
      const { column } = this.tokens[this.at++];
      const yes = this.choice();
      this.take(':', 'an operator, or ":" and the value for when it is not so');
      return { kind: 'call', name: 'choose', args: [condition, yes, this.choice()], column };
    });
  }

  /** Values joined by operators that bind more tightly than `floor`. */
  private operation(floor: number): FormulaTree {
    let left = this.signed();
    for (;;) {
      const { text, column, kind } = this.token;
      const known = kind !== 'number' && Object.hasOwn(binary, text) ? binary[text] : null;
      if (!known || known[0] <= floor) return left;
      this.at++;
      const [strength, name] = known;
      const right = this.deeper(() => this.operation(strength === powerStrength ? strength - 1 : strength));
      if (strength === comparison && Object.hasOwn(binary, this.token.text) && binary[this.token.text][0] === comparison)
        throw new FormulaError('comparisons do not chain; join two of them with "and"', this.token.column, this.token.text.length);
      left = { kind: 'call', name, args: [left, right], column };
    }
  }

  private signed(): FormulaTree {
    const { text, column } = this.token;
    if (text === '-' || text === '+' || text === 'not') {
      this.at++;
      const value = this.deeper(() => this.operation(text === 'not' ? notStrength : minusStrength));
      return text === '+' ? value : { kind: 'call', name: text === '-' ? 'negate' : 'not', args: [value], column };
    }
    return this.value();
  }

  private value(): FormulaTree {
    const { kind, text, column } = this.token;
    if (kind === 'number') {
      this.at++;
      const value = Number(text);
      if (!Number.isFinite(value)) throw new FormulaError(`"${text}" is too large a number`, column, text.length);
      return { kind: 'number', value, column };
    }
    if (text === '(') {
      this.at++;
      const inner = this.choice();
      this.take(')', 'an operator or ")"');
      return inner;
    }
    if (kind !== 'name' || Object.hasOwn(binary, text)) throw this.unexpected('a number, a name or "("');
    this.at++;
    const called = this.token.text === '(';
    if (Object.hasOwn(formulaFunctions, text)) {
      if (!called) throw new FormulaError(`"${text}" is a function; expected "(" after it`, this.token.column);
      return this.call(text, column);
    }
    if (called) throw new FormulaError(`there is no function "${text}"${nearest(text, Object.keys(formulaFunctions))}`, column, text.length);
    return { kind: 'name', name: text, column };
  }

  private call(name: string, column: number): FormulaTree {
    this.at++;
    const { least, most } = formulaFunctions[name];
    const args: FormulaTree[] = [];
    while (this.token.text !== ')') {
      if (args.length === most && this.token.text === ',') throw new FormulaError(`"${name}" takes ${counted(least, most)}; expected ")"`, this.token.column);
      if (args.length) this.take(',', args.length < most ? 'an operator, "," or ")"' : 'an operator or ")"');
      args.push(this.choice());
    }
    if (args.length < least) throw new FormulaError(`"${name}" takes ${counted(least, most)}, and has ${args.length}`, this.token.column);
    this.at++;
    return { kind: 'call', name, args, column };
  }
}

function counted(least: number, most: number): string {
  if (least !== most) return `${least} to ${most} arguments`;
  return most === 1 ? 'one argument' : `${most} arguments`;
}

/** "; nearest: …" with the name that differs least, when one differs little. */
export function nearest(name: string, known: readonly string[]): string {
  let best = '';
  let least = name.length > 4 ? 2.5 : 1.5;
  for (const candidate of known) {
    const steps = editDistance(name.toLowerCase(), candidate.toLowerCase());
    if (steps < least) [least, best] = [steps, candidate];
  }
  return best ? `; "${best}" may be meant` : '';
}

/** Letters to change, add, take out, or swap with the next, to make one word of another (Damerau 1964; no part is changed twice). */
export function editDistance(a: string, b: string): number {
  const rows = [Array.from({ length: b.length + 1 }, (_, j) => j)];
  for (let i = 1; i <= a.length; i++) {
    const [row, next] = [rows[i - 1], [i]];
    for (let j = 1; j <= b.length; j++) {
      const steps = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
      next.push(swapped ? Math.min(steps, rows[i - 2][j - 2] + 1) : steps);
    }
    rows.push(next);
  }
  return rows[a.length][b.length];
}

/** Every name that a formula uses and is no constant, each once, with the column where it stands first. */
export function namesIn(tree: FormulaTree): Map<string, number> {
  const names = new Map<string, number>();
  const visit = (part: FormulaTree): void => {
    if (part.kind === 'name' && !names.has(part.name)) names.set(part.name, part.column);
    if (part.kind === 'call') part.args.forEach(visit);
  };
  visit(tree);
  return names;
}

/** Names that a formula uses; none when it cannot be read. */
export function formulaNames(text: string): string[] {
  try {
    return [...namesIn(parseFormula(text)).keys()];
  } catch (error) {
    if (error instanceof FormulaError) return [];
    throw error;
  }
}

/** The formula with other text in the place of a name. @throws FormulaError for characters that mean nothing. */
export function withFormulaName(text: string, name: string, instead: string): string {
  let result = '';
  let at = 0;
  for (const token of tokensOf(text)) {
    if (token.kind !== 'name' || token.text !== name) continue;
    result += text.slice(at, token.column - 1) + instead;
    at = token.column - 1 + name.length;
  }
  return result + text.slice(at);
}
