import { tick, unbounded, type Work } from '../../base/work.js';
import { blocks, blockSize, kernels } from './blocks.js';
import { formulaConstants } from './functions.js';
import { isPlain, plainLine, plusNumber, timesNumber, type Line } from './line.js';
import { blockOperation, lineProduct, lineSum, lineValues, valueOf, type BlockOperation } from './operations.js';
import { nearest, parseFormula, type FormulaTree } from './parse.js';
import { FormulaError } from './tokens.js';

/** Where a name's numbers come from: one for all elements, or `fill`, which writes those of the elements `from` … `from + count` − 1 to `out`. */
export type NameSource = number | { readonly fill: (out: Float64Array, from: number, count: number) => void };

/** What a formula can see: its names, and nothing else. */
export interface FormulaScope {
  /** The source of a name; undefined: there is none; a text: why it cannot be used here. */
  source(name: string): NameSource | string | undefined;
  /** Every name there is, for suggestions. */
  readonly names: readonly string[];
  /** The stable number of each element, for `random`. */
  readonly id: NameSource;
}

/** An operation on blocks, which are told by their numbers. */
interface Step {
  readonly operation: BlockOperation;
  readonly args: readonly number[];
  readonly out: number;
}

/** What values must be: from `low` to `high`. One that is not is given to `mend`, which gives another or throws. */
export interface ValueRange {
  readonly low: number;
  readonly high: number;
  mend(value: number, index: number): number;
}

/** A formula made ready for a scope: constants folded, names found. */
export interface CompiledFormula {
  /** The value, when it is the same for all elements. */
  readonly constant: number | null;
  /** Values of `count` elements, each within the range where one is given. */
  evaluate(count: number, work?: Work, range?: ValueRange): Float64Array;
}

/**
 * Makes a formula ready for a scope. Evaluated in blocks of 1,024 elements, an operation after the other: no code is made from text.
 * @throws FormulaError at the column of a name that is not there or cannot be used.
 */
export function compileFormula(text: string, scope: FormulaScope): CompiledFormula {
  const builder = new Builder(scope);
  const result = builder.part(parseFormula(text));
  if (typeof result === 'number') return { constant: result, evaluate: (count, work = unbounded) => work.memory.float64(count).fill(result) };
  const block = builder.blockOf(result);
  // Steps after the one that gives the result belong to branches that were not taken.
  const needed = builder.steps.slice(0, builder.steps.findLastIndex(({ out }) => out === block) + 1);
  return {
    constant: null,
    evaluate(count, work = unbounded, range) {
      const values = work.memory.float64(count);
      const all = blocks(builder.blockCount);
      const loads = builder.loads.map(({ fill, out }) => ({ fill, out: all[out] }));
      const steps = needed.map(({ operation, args, out }) => ({ operation, args: args.map((arg) => all[arg]), out: all[out] }));
      for (const constant of builder.constants) all[constant.block].fill(constant.value);
      for (let from = 0; from < count; from += blockSize) {
        tick(work, from, count);
        const size = Math.min(blockSize, count - from);
        for (const { fill, out } of loads) fill(out, from, size);
        for (const { operation, args, out } of steps) operation(out, args, size);
        values.set(size === blockSize ? all[block] : all[block].subarray(0, size), from);
        if (range && !kernels.within(all[block].byteOffset, range.low, range.high, size)) mendValues(values, from, from + size, range);
      }
      return values;
    },
  };
}

/** Gives the values `from` … `to` − 1 that are out of range, or no numbers, to be mended. */
export function mendValues(values: Float64Array, from: number, to: number, { low, high, mend }: ValueRange): void {
  // One comparison a side finds what is not a number too.
  for (let i = from; i < to; i++) if (!(values[i] >= low && values[i] <= high)) values[i] = mend(values[i], i);
}

/** A part of a formula: the same number for all elements, or a line over a block. */
type Part = Line | number;

/** Turns a tree into steps over blocks. A part that is the same for all elements becomes a number at once. */
class Builder {
  readonly steps: Step[] = [];
  readonly loads: { fill: (out: Float64Array, from: number, count: number) => void; out: number }[] = [];
  /** Blocks of one number each. A list, since a map takes −0 for 0. */
  readonly constants: { readonly value: number; readonly block: number }[] = [];
  blockCount = 0;
  private readonly loaded = new Map<string, Part>();
  /** Blocks whose numbers are not needed any more. */
  private readonly free: number[] = [];
  private readonly temporary = new Set<number>();

  constructor(private readonly scope: FormulaScope) {}

  part(tree: FormulaTree): Part {
    if (tree.kind === 'number') return tree.value;
    if (tree.kind === 'name') return this.named(tree.name, tree.column);
    const args = tree.args.map((arg) => this.part(arg));
    if (tree.name === 'random') args.push(this.source('element id', this.scope.id));
    else if (args.every((arg) => typeof arg === 'number')) return valueOf(tree.name)(...args);
    // A condition that is the same everywhere leaves one branch.
    if (tree.name === 'choose' && typeof args[0] === 'number') return args[0] ? args[1] : args[2];
    const [a, b] = args;
    switch (tree.name) {
      case 'negate':
        return this.times(a as Line, -1);
      case 'multiply':
        return this.product(a, b);
      case 'add':
        return this.sum(a, b);
      case 'subtract':
        // a − b and a + (−1 · b) are the same in every bit.
        return this.sum(a, typeof b === 'number' ? -b : this.times(b, -1));
      default: {
        const blocks = args.map((arg) => (typeof arg === 'number' ? this.filled(arg) : this.blockOf(arg)));
        return this.step(blockOperation(tree.name, blocks.length), blocks);
      }
    }
  }

  private times(line: Line, factor: number): Line {
    return timesNumber(line, factor) ?? timesNumber(plainLine(this.blockOf(line)), factor)!;
  }

  private plus(line: Line, sum: number): Line {
    return plusNumber(line, sum) ?? plusNumber(plainLine(this.blockOf(line)), sum)!;
  }

  private product(a: Part, b: Part): Line {
    if (typeof a === 'number') return this.times(b as Line, a);
    return typeof b === 'number' ? this.times(a, b) : this.step(lineProduct(a, b), [a.block, b.block]);
  }

  private sum(a: Part, b: Part): Line {
    if (typeof a === 'number') return this.plus(b as Line, a);
    return typeof b === 'number' ? this.plus(a, b) : this.step(lineSum(a, b), [a.block, b.block]);
  }

  /** The block that holds a line's values. */
  blockOf(line: Line): number {
    return isPlain(line) ? line.block : this.step(lineValues(line), [line.block]).block;
  }

  private step(operation: BlockOperation, args: readonly number[]): Line {
    for (const block of args) if (this.temporary.delete(block)) this.free.push(block);
    const out = this.free.pop() ?? this.blockCount++;
    this.temporary.add(out);
    this.steps.push({ operation, args, out });
    return plainLine(out);
  }

  /** A block of one number, shared by all that use it. */
  private filled(value: number): number {
    const known = this.constants.find((constant) => Object.is(constant.value, value));
    if (known) return known.block;
    const block = this.blockCount++;
    this.constants.push({ value, block });
    return block;
  }

  private named(name: string, column: number): Part {
    if (Object.hasOwn(formulaConstants, name)) return formulaConstants[name];
    const source = this.scope.source(name);
    if (source === undefined)
      throw new FormulaError(
        `there is no "${name}" here${nearest(name, this.scope.names) || `; there are ${shortList(this.scope.names)}`}`,
        column,
        name.length,
      );
    if (typeof source === 'string') throw new FormulaError(source, column, name.length);
    return this.source(name, source);
  }

  private source(name: string, source: NameSource): Part {
    if (typeof source === 'number') return source;
    let line = this.loaded.get(name);
    if (line === undefined) {
      const block = this.blockCount++;
      line = plainLine(block);
      this.loaded.set(name, line);
      this.loads.push({ fill: source.fill, out: block });
    }
    return line;
  }
}

const shortList = (names: readonly string[]): string => (names.length > 16 ? `${names.slice(0, 16).join(', ')} …` : names.join(', '));
