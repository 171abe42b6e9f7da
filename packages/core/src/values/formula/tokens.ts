/** What is wrong with a formula, and at which column: 1 is the first character. */
export class FormulaError extends Error {
  override name = 'FormulaError';
  constructor(
    /** What was expected or is wrong, without the place. */
    readonly reason: string,
    readonly column: number,
    /** Characters from the column on that are meant. */
    readonly length = 1,
  ) {
    super(`Column ${column}: ${reason}`);
  }
}

export interface Token {
  readonly kind: 'number' | 'name' | 'sign' | 'end';
  readonly text: string;
  /** 1 is the first character. */
  readonly column: number;
}

/** Longest formula, characters. */
export const longestFormula = 2000;

const number = /(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const name = /[A-Za-z_][A-Za-z0-9_]*/y;
const sign = /<=|>=|==|!=|[-+*/%^<>()?:,]/y;

/**
 * Cuts a formula into tokens, an end token last.
 * @throws FormulaError for characters that mean nothing, and for formulas that are too long.
 */
export function tokensOf(text: string): Token[] {
  if (text.length > longestFormula) throw new FormulaError(`the formula has ${text.length} characters; it may have ${longestFormula}`, longestFormula + 1);
  const tokens: Token[] = [];
  let at = 0;
  const take = (kind: Token['kind'], pattern: RegExp): boolean => {
    pattern.lastIndex = at;
    const found = pattern.exec(text);
    if (!found) return false;
    tokens.push({ kind, text: found[0], column: at + 1 });
    at += found[0].length;
    return true;
  };
  while (at < text.length) {
    if (/\s/.test(text[at])) at++;
    else if (!take('number', number) && !take('name', name) && !take('sign', sign)) throw new FormulaError(stray(text, at), at + 1);
  }
  tokens.push({ kind: 'end', text: '', column: text.length + 1 });
  return tokens;
}

/** A word on a character that formulas do not know, with what is probably meant. */
function stray(text: string, at: number): string {
  const character = text[at];
  const meant: Readonly<Record<string, string>> = {
    '=': '"=="',
    '&': '"and"',
    '|': '"or"',
    '!': '"not" or "!="',
    '×': '"*"',
    '÷': '"/"',
    '−': '"-"',
    '²': '"^2"',
  };
  return Object.hasOwn(meant, character) ? `"${character}" is not known here; ${meant[character]} may be meant` : `"${character}" means nothing in a formula`;
}
