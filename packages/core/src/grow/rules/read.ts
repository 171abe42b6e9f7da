import { nearest, parseFormula, type FormulaTree } from '../../values/formula/parse.js';
import { FormulaError } from '../../values/formula/tokens.js';
import { compiled, type Expression } from './expression.js';
import { turtleSymbols } from './turtleSymbols.js';

/** What is wrong with an axiom or with rules, and where: lines and columns from 1; line 0 is the axiom. */
export class RulesError extends RangeError {
  override name = 'RulesError';
  constructor(
    readonly reason: string,
    readonly line: number,
    readonly column: number,
    /** Characters from the column on that are meant. */
    readonly length = 1,
  ) {
    super(`${line ? `line ${line}` : 'axiom'}, column ${column}: ${reason}`);
  }
}

/** A symbol with the formulas of its parameters. */
export interface Module {
  readonly symbol: number;
  readonly args: readonly Expression[];
  readonly line: number;
  readonly column: number;
}

/** A symbol with the names that its parameters have in a rule. */
export interface Pattern {
  readonly symbol: number;
  readonly names: readonly string[];
  readonly line: number;
  readonly column: number;
}

/** `left < symbol > right : condition ->(chance) successor`. Values come in the order: given names, left, own, right. */
export interface Rule {
  readonly line: number;
  readonly own: Pattern;
  readonly left: readonly Pattern[];
  readonly right: readonly Pattern[];
  readonly condition: Expression | null;
  /** Null: the rule is taken whenever it fits. */
  readonly chance: Expression | null;
  readonly successor: readonly Module[];
}

export interface RuleSet {
  readonly axiom: readonly Module[];
  /** By the code of the symbol. */
  readonly rules: ReadonlyMap<number, readonly Rule[]>;
  /** Codes of symbols that contexts do not see. */
  readonly ignored: ReadonlySet<number>;
  /** Values of the names that the text gives, behind those that it was given. */
  readonly constants: readonly { readonly name: string; readonly value: Expression }[];
  /** Symbols that nothing is done with, with where they stand first. */
  readonly idle: readonly { readonly symbol: string; readonly line: number; readonly column: number }[];
}

/** Longest text of rules, characters. */
export const longestRules = 20_000;

const open = '['.charCodeAt(0);
const close = ']'.charCodeAt(0);

/**
 * Reads an axiom and rules in the notation of Prusinkiewicz & Lindenmayer (1990), written in plain characters: a rule a line, `#` begins a comment, `name = formula` gives a number a
 * name, `ignore: +-` names symbols that contexts do not see. `given` are names that are there already. @throws RulesError
 */
export function readRules(axiom: string, text: string, given: readonly string[]): RuleSet {
  if (text.length > longestRules) throw new RulesError(`the rules have ${text.length} characters; they may have ${longestRules}`, 1, 1);
  return new Reader(given).read(axiom, text);
}

class Reader {
  private readonly constants: { name: string; value: Expression }[] = [];
  private readonly rules = new Map<number, Rule[]>();
  private readonly ignored = new Set<number>();
  /** How many parameters symbols have, and where that was seen first. */
  private readonly counts = new Map<number, { readonly count: number; readonly line: number }>();
  private readonly used: Module[] = [];
  private line = 0;

  constructor(private readonly given: readonly string[]) {}

  read(axiom: string, text: string): RuleSet {
    const lines = text.split('\n').map((line) => line.replace(/#.*/, ''));
    // Names first, so that the axiom and every rule know them, wherever they stand.
    lines.forEach((line, i) => {
      this.line = i + 1;
      if (isNaming(line)) this.readName(line);
    });
    this.line = 0;
    const start = this.modules(axiom, 0, this.names());
    if (!start.length) throw new RulesError('the axiom is empty; there is nothing to begin with', 0, 1);
    lines.forEach((line, i) => {
      this.line = i + 1;
      if (!line.trim() || isNaming(line)) return;
      const ignore = /^\s*ignore\s*:/.exec(line);
      if (ignore) for (const symbol of line.slice(ignore[0].length).replace(/\s/g, '')) this.ignored.add(symbol.charCodeAt(0));
      else this.readRule(line);
    });
    this.requireChances();
    return { axiom: start, rules: this.rules, ignored: this.ignored, constants: this.constants, idle: this.idle() };
  }

  private fail(reason: string, at: number, length = 1): never {
    throw new RulesError(reason, this.line, at + 1, length);
  }

  private names(): string[] {
    return [...this.given, ...this.constants.map(({ name }) => name)];
  }

  private readName(line: string): void {
    const at = line.indexOf('=');
    const name = line.slice(0, at).trim();
    const from = line.search(/\S/);
    if (!/^[A-Za-z_][A-Za-z0-9_]*$/.test(name)) this.fail(`"${name}" is no name; names have letters, digits and _`, from, Math.max(1, name.length));
    if (this.names().includes(name)) this.fail(`"${name}" is there already`, from, name.length);
    this.constants.push({ name, value: this.formula(line.slice(at + 1), at + 1, this.names()) });
  }

  private readRule(line: string): void {
    const arrow = /->|→/.exec(line);
    if (!arrow) this.fail('expected "->" and what the symbol becomes', line.trimEnd().length);
    const head = line.slice(0, arrow.index);
    const colon = head.indexOf(':');
    const patterns = colon < 0 ? head : head.slice(0, colon);
    const [left, own, right] = this.patternsOf(patterns);
    const names = [...this.names()];
    for (const { names: more, column } of [...left, ...own, ...right])
      for (const name of more) {
        if (names.includes(name)) this.fail(`"${name}" is there already; parameters need names of their own`, column - 1);
        names.push(name);
      }
    const condition = colon < 0 ? null : this.formula(head.slice(colon + 1), colon + 1, names);
    let after = arrow.index + arrow[0].length;
    let chance: Expression | null = null;
    const weight = /^\s*\(/.exec(line.slice(after));
    if (weight) {
      const from = after + weight[0].length - 1;
      const to = this.closing(line, from);
      chance = this.formula(line.slice(from + 1, to), from + 1, names);
      after = to + 1;
    }
    const successor = this.modules(line.slice(after), after, names);
    this.count(own[0].symbol, own[0].names.length, own[0].column - 1);
    const rule: Rule = { line: this.line, own: own[0], left, right, condition, chance, successor };
    const list = this.rules.get(own[0].symbol);
    if (list) list.push(rule);
    else this.rules.set(own[0].symbol, [rule]);
  }

  /** What stands to the left, the symbol itself, and what stands to the right. */
  private patternsOf(text: string): [Pattern[], [Pattern], Pattern[]] {
    const less = text.indexOf('<');
    const more = text.indexOf('>', less + 1);
    const own = this.patterns(text.slice(less + 1, more < 0 ? text.length : more), less + 1);
    if (own.length !== 1) this.fail(own.length ? 'a rule is for one symbol; to say what stands beside it write left < symbol > right' : 'expected a symbol', less + 1 + (text.slice(less + 1).search(/\S/) + 1 || 1) - 1); // prettier-ignore
    return [less < 0 ? [] : this.patterns(text.slice(0, less), 0), own as [Pattern], more < 0 ? [] : this.patterns(text.slice(more + 1), more + 1)];
  }

  private patterns(text: string, offset: number): Pattern[] {
    return this.symbols(text, offset).map(({ symbol, inside, at }) => {
      if (symbol === open || symbol === close) this.fail('a context cannot have brackets: it sees through branches by itself', at);
      const names = inside === null ? [] : inside.text.split(',').map((name) => name.trim());
      const bad = names.find((name) => !/^[A-Za-z_][A-Za-z0-9_]*$/.test(name));
      if (bad !== undefined) this.fail(`"${bad}" is no name for a parameter`, inside!.at);
      return { symbol, names, line: this.line, column: at + 1 };
    });
  }

  private modules(text: string, offset: number, names: readonly string[]): Module[] {
    const opened: number[] = [];
    const list = this.symbols(text, offset).map(({ symbol, inside, at }): Module => {
      if (symbol === open) opened.push(at);
      if (symbol === close && opened.pop() === undefined) this.fail('this bracket was not opened', at);
      const args = inside === null ? [] : this.parts(inside.text, inside.at).map((part) => this.formula(part.text, part.at, names));
      this.count(symbol, args.length, at);
      return { symbol, args, line: this.line, column: at + 1 };
    });
    if (opened.length) this.fail('this bracket is not closed', opened[opened.length - 1]);
    this.used.push(...list);
    return list;
  }

  /** Symbols of a text, with what stands in round brackets behind each. */
  private symbols(text: string, offset: number): { symbol: number; inside: { text: string; at: number } | null; at: number }[] {
    const list: { symbol: number; inside: { text: string; at: number } | null; at: number }[] = [];
    for (let i = 0; i < text.length; i++) {
      if (/\s/.test(text[i])) continue;
      if (/[(),:<>=\d]/.test(text[i])) this.fail(`"${text[i]}" is no symbol; a symbol is one letter or sign`, offset + i);
      if (text.charCodeAt(i) > 126) this.fail(`"${text[i]}" is no symbol; symbols are plain letters and signs`, offset + i);
      const at = offset + i;
      const symbol = text.charCodeAt(i);
      let inside: { text: string; at: number } | null = null;
      if (text[i + 1] === '(') {
        const to = this.closing(text, i + 1, offset);
        inside = { text: text.slice(i + 2, to), at: offset + i + 2 };
        i = to;
      }
      list.push({ symbol, inside, at });
    }
    return list;
  }

  private closing(text: string, from: number, offset = 0): number {
    let depth = 0;
    for (let i = from; i < text.length; i++) {
      if (text[i] === '(') depth++;
      if (text[i] === ')' && --depth === 0) return i;
    }
    return this.fail('this round bracket is not closed', offset + from);
  }

  /** Texts between commas that stand in no bracket. */
  private parts(text: string, offset: number): { text: string; at: number }[] {
    const parts: { text: string; at: number }[] = [];
    let [depth, from] = [0, 0];
    for (let i = 0; i <= text.length; i++) {
      if (text[i] === '(') depth++;
      if (text[i] === ')') depth--;
      if (i < text.length && (text[i] !== ',' || depth)) continue;
      parts.push({ text: text.slice(from, i), at: offset + from });
      from = i + 1;
    }
    return parts;
  }

  private formula(text: string, at: number, names: readonly string[]): Expression {
    let tree: FormulaTree;
    try {
      tree = parseFormula(text);
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      return this.fail(error.reason, at + error.column - 1, error.length);
    }
    return compiled(tree, names, (name, column) => this.fail(`there is no "${name}" here${nearest(name, names)}`, at + column - 1, name.length));
  }

  /** Symbols that rules are for have the same number of parameters everywhere; those of the turtle may have none. */
  private count(symbol: number, count: number, at: number): void {
    if (turtleSymbols.has(String.fromCharCode(symbol))) return;
    const known = this.counts.get(symbol);
    if (!known) this.counts.set(symbol, { count, line: this.line });
    else if (known.count !== count) {
      const name = String.fromCharCode(symbol);
      this.fail(`${name} has ${count} parameters here and ${known.count} in ${known.line ? `line ${known.line}` : 'the axiom'}`, at);
    }
  }

  /** Chances of rules that are for the same are 1 together, as far as they are numbers. */
  private requireChances(): void {
    for (const rules of this.rules.values()) {
      const groups = new Map<string, Rule[]>();
      for (const rule of rules) {
        if (!rule.chance) continue;
        const key = JSON.stringify([rule.left, rule.right, rule.own].map((each) => (Array.isArray(each) ? each : [each]).map(({ symbol }: Pattern) => symbol))) + (rule.condition?.text ?? ''); // prettier-ignore
        groups.set(key, [...(groups.get(key) ?? []), rule]);
      }
      for (const group of groups.values()) {
        const sum = group.reduce((total, { chance }) => total + (chance!.constant ?? NaN), 0);
        if (!Number.isFinite(sum) || Math.abs(sum - 1) < 1e-6) continue;
        const { line, own } = group[group.length - 1];
        throw new RulesError(`the chances of ${String.fromCharCode(own.symbol)} add up to ${Number(sum.toPrecision(6))}, not to 1`, line, own.column);
      }
    }
  }

  private idle(): { symbol: string; line: number; column: number }[] {
    const seen = new Map<number, Module>();
    const contexts = new Set([...this.rules.values()].flat().flatMap(({ left, right }) => [...left, ...right].map(({ symbol }) => symbol)));
    for (const module of this.used)
      if (!this.rules.has(module.symbol) && !contexts.has(module.symbol) && !turtleSymbols.has(String.fromCharCode(module.symbol)) && !seen.has(module.symbol)) seen.set(module.symbol, module); // prettier-ignore
    return [...seen.values()].map(({ symbol, line, column }) => ({ symbol: String.fromCharCode(symbol), line, column }));
  }
}

const isNaming = (line: string): boolean => /^\s*[A-Za-z_][A-Za-z0-9_]*\s*=(?!=)/.test(line) && !/->|→/.test(line);
