import { hash, randomAt } from '../../values/random.js';
import { tick, type Work } from '../../base/work.js';
import type { Scope } from './expression.js';
import { RulesError, type Pattern, type Rule, type RuleSet } from './read.js';

/** Modules in flat arrays: symbols, their parameters from `starts` on, and the round that each was made in. */
export interface Modules {
  readonly count: number;
  readonly symbols: Uint8Array;
  readonly starts: Uint32Array;
  readonly params: Float64Array;
  readonly born: Uint16Array;
}

export interface Derivation {
  readonly modules: Modules;
  /** How many modules there were before the first round and after each. */
  readonly counts: readonly number[];
}

export interface DeriveOptions {
  times: number;
  seed: number;
  /** Values of the names that the rules were read with. */
  given: readonly number[];
  /** Modules that there may be. */
  most: number;
}

/** Modules that are made unless fewer are asked for. */
export const mostModules = 4_000_000;

const [open, close] = ['[', ']'].map((symbol) => symbol.charCodeAt(0));

/** Replaces all modules at once, so often (Lindenmayer 1968; parametric, stochastic and with contexts as in Prusinkiewicz & Lindenmayer 1990). @throws RulesError when there are too many. */
export function derive(set: RuleSet, options: DeriveOptions, work: Work): Derivation {
  const values = [...options.given];
  const scope: Scope = { values, id: 0 };
  for (const { value } of set.constants) values.push(value.of(scope));
  const fixedNames = values.length;
  const bySymbol: (readonly Rule[] | undefined)[] = [];
  for (const [symbol, rules] of set.rules) bySymbol[symbol] = rules;
  const contexts = [...set.rules.values()].flat().some(({ left, right }) => left.length + right.length > 0);
  let now = new ModuleList(256);
  for (const { symbol, args } of set.axiom) now.add(symbol, args.length ? args.map(({ of }) => of(scope)) : none, 0);
  const counts = [now.count];
  for (let round = 1; round <= options.times; round++) {
    const next = new ModuleList(now.count * 2);
    const matches = contexts ? matching(now) : null;
    const key = hash(options.seed, round);
    for (let i = 0; i < now.count; i++) {
      tick(work, i, now.count);
      const rules = bySymbol[now.symbols[i]];
      values.length = fixedNames;
      scope.id = hash(key, i);
      const rule = rules && chosen(rules, now, i, { scope, fixedNames, matches, ignored: set.ignored });
      if (!rule) next.copy(now, i);
      else
        for (const { symbol, args } of rule.successor) {
          const at = next.begin(symbol, args.length, round);
          for (let k = 0; k < args.length; k++) next.params[at + k] = args[k].of(scope);
        }
      if (next.count > options.most)
        throw new RulesError(`after round ${round} of ${options.times} there are more than ${options.most.toLocaleString('en-GB')} modules; give fewer rounds, or rules that grow less`, rules?.[0]?.line ?? 0, 1); // prettier-ignore
    }
    counts.push(next.count);
    now = next;
  }
  return { modules: now, counts };
}

const none: readonly number[] = [];

/** Modules that more can be added to. */
class ModuleList implements Modules {
  count = 0;
  symbols: Uint8Array;
  born: Uint16Array;
  starts: Uint32Array;
  params: Float64Array;

  constructor(room: number) {
    const size = Math.max(256, room);
    this.symbols = new Uint8Array(size);
    this.born = new Uint16Array(size);
    this.starts = new Uint32Array(size + 1);
    this.params = new Float64Array(size);
  }

  add(symbol: number, params: ArrayLike<number>, born: number): void {
    const at = this.begin(symbol, params.length, born);
    for (let k = 0; k < params.length; k++) this.params[at + k] = params[k];
  }

  copy(from: Modules, i: number): void {
    const start = from.starts[i];
    const size = from.starts[i + 1] - start;
    const at = this.begin(from.symbols[i], size, from.born[i]);
    for (let k = 0; k < size; k++) this.params[at + k] = from.params[start + k];
  }

  /** Adds a module whose parameters are written from the number that is given back on. */
  begin(symbol: number, params: number, born: number): number {
    const i = this.count++;
    if (i === this.symbols.length) this.grow();
    const at = this.starts[i];
    if (at + params > this.params.length) {
      const more = new Float64Array((at + params) * 2);
      more.set(this.params);
      this.params = more;
    }
    this.symbols[i] = symbol;
    this.born[i] = born;
    this.starts[i + 1] = at + params;
    return at;
  }

  private grow(): void {
    const size = this.symbols.length * 2;
    const [symbols, born, starts] = [new Uint8Array(size), new Uint16Array(size), new Uint32Array(size + 1)];
    symbols.set(this.symbols);
    born.set(this.born);
    starts.set(this.starts);
    [this.symbols, this.born, this.starts] = [symbols, born, starts];
  }
}

/** For every bracket where its partner is. */
function matching({ symbols, count }: Modules): Int32Array {
  const matches = new Int32Array(count);
  const opened: number[] = [];
  for (let i = 0; i < count; i++) {
    if (symbols[i] === open) opened.push(i);
    else if (symbols[i] === close) {
      const from = opened.pop()!;
      matches[i] = from;
      matches[from] = i;
    }
  }
  return matches;
}

interface Sight {
  readonly scope: Scope;
  /** Values that are there before those of the modules. */
  readonly fixedNames: number;
  readonly matches: Int32Array | null;
  readonly ignored: ReadonlySet<number>;
}

/** The rule for a module, its values in the scope; null: none fits, and the module stays. */
function chosen(rules: readonly Rule[], modules: Modules, i: number, sight: Sight): Rule | null {
  const { scope } = sight;
  let sum = 0;
  let fitting: { rule: Rule; chance: number }[] | null = null;
  for (const rule of rules) {
    if (!fits(rule, modules, i, sight)) continue;
    if (!rule.chance) {
      if (!fitting) return rule;
      continue;
    }
    const chance = Math.max(0, rule.chance.of(scope));
    (fitting ??= []).push({ rule, chance });
    sum += chance;
  }
  if (!fitting || !(sum > 0)) return null;
  let draw = randomAt(scope.id, 1) * sum;
  const found = fitting.find(({ chance }) => (draw -= chance) < 0) ?? fitting[fitting.length - 1];
  // The values of the last that was looked at stand there.
  if (found.rule !== fitting[fitting.length - 1].rule || found.rule.left.length + found.rule.right.length) fits(found.rule, modules, i, sight);
  else {
    scope.values.length = sight.fixedNames;
    pushParams(scope, modules, i);
  }
  return found.rule;
}

/** Whether a rule is for a module here; its values are in the scope then. */
function fits({ own, left, right, condition }: Rule, modules: Modules, i: number, { scope, fixedNames, matches, ignored }: Sight): boolean {
  scope.values.length = fixedNames;
  if (modules.starts[i + 1] - modules.starts[i] !== own.names.length) return false;
  if (left.length) {
    const found = leftOf(modules, i, left, matches!, ignored);
    if (!found) return false;
    for (const at of found) pushParams(scope, modules, at);
  }
  pushParams(scope, modules, i);
  if (right.length) {
    const found = rightOf(modules, i, right, matches!, ignored);
    if (!found) return false;
    for (const at of found) pushParams(scope, modules, at);
  }
  return !condition || condition.of(scope) !== 0;
}

function pushParams({ values }: Scope, { starts, params }: Modules, i: number): void {
  for (let k = starts[i]; k < starts[i + 1]; k++) values.push(params[k]);
}

const isLike = ({ symbols, starts }: Modules, i: number, { symbol, names }: Pattern): boolean =>
  symbols[i] === symbol && starts[i + 1] - starts[i] === names.length;

/** The modules towards the root that a left context asks for, in its order: branches beside the way are passed over. */
function leftOf(modules: Modules, i: number, patterns: readonly Pattern[], matches: Int32Array, ignored: ReadonlySet<number>): number[] | null {
  const found: number[] = [];
  let at = i - 1;
  for (let p = patterns.length - 1; p >= 0; at--) {
    if (at < 0) return null;
    const symbol = modules.symbols[at];
    if (symbol === close) at = matches[at];
    else if (symbol !== open && !ignored.has(symbol)) {
      if (!isLike(modules, at, patterns[p])) return null;
      found.unshift(at);
      p--;
    }
  }
  return found;
}

/** The modules away from the root that a right context asks for: branches are passed over, and the end of its own ends it. */
function rightOf(modules: Modules, i: number, patterns: readonly Pattern[], matches: Int32Array, ignored: ReadonlySet<number>): number[] | null {
  const found: number[] = [];
  let at = i + 1;
  for (let p = 0; p < patterns.length; at++) {
    if (at >= modules.count) return null;
    const symbol = modules.symbols[at];
    if (symbol === close) return null;
    if (symbol === open) at = matches[at];
    else if (!ignored.has(symbol)) {
      if (!isLike(modules, at, patterns[p])) return null;
      found.push(at);
      p++;
    }
  }
  return found;
}

/** Modules as text, for tests and to be looked at: numbers to six digits. */
export function asText({ count, symbols, starts, params }: Modules): string {
  return Array.from({ length: count }, (_, i) => {
    const own = [...params.subarray(starts[i], starts[i + 1])].map((value) => Number(value.toPrecision(6)));
    return String.fromCharCode(symbols[i]) + (own.length ? `(${own.join()})` : '');
  }).join('');
}
