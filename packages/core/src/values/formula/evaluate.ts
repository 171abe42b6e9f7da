import { progressEvery, unbounded, type Work } from '../../graph/work.js';
import { formulaConstants } from './functions.js';
import { blockOperation, valueOf, withConstant, type BlockOperation } from './operations.js';
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

/** Elements in one block: the numbers of an operation stay in the processor's nearest memory. */
const blockSize = 1024;

interface Step {
  readonly operation: BlockOperation;
  readonly args: readonly Float64Array[];
  readonly out: Float64Array;
}

/** A formula made ready for a scope: constants folded, names found. */
export interface CompiledFormula {
  /** The value, when it is the same for all elements. */
  readonly constant: number | null;
  /** Values of `count` elements. */
  evaluate(count: number, work?: Work): Float64Array;
}

/**
 * Makes a formula ready for a scope. Evaluated in blocks of 1,024 elements, an operation after the other, over typed arrays: no code is made
 * from text.
 * @throws FormulaError at the column of a name that is not there or cannot be used.
 */
export function compileFormula(text: string, scope: FormulaScope): CompiledFormula {
  const builder = new Builder(scope);
  const result = builder.build(parseFormula(text));
  const constant = typeof result === 'number' ? result : null;
  return {
    constant,
    evaluate(count, work = unbounded) {
      const values = new Float64Array(count);
      if (typeof result === 'number') return values.fill(result);
      // Steps after the one that gives the result belong to branches that were not taken.
      const lastStep = builder.steps.findLastIndex((step) => step.out === result);
      for (let from = 0; from < count; from += blockSize) {
        if (from % progressEvery === 0) work.progress(from / count);
        const size = Math.min(blockSize, count - from);
        for (const load of builder.loads) load.fill(load.out, from, size);
        const target = values.subarray(from, from + size);
        // The last step writes straight into the result.
        for (let k = 0; k < lastStep; k++) builder.steps[k].operation(builder.steps[k].out, builder.steps[k].args, size);
        if (lastStep >= 0) builder.steps[lastStep].operation(target, builder.steps[lastStep].args, size);
        else target.set(size === blockSize ? result : result.subarray(0, size));
      }
      return values;
    },
  };
}

/** Turns a tree into steps over blocks. A part that is the same for all elements becomes a number at once. */
class Builder {
  readonly steps: Step[] = [];
  readonly loads: { fill: (out: Float64Array, from: number, count: number) => void; out: Float64Array }[] = [];
  private readonly loaded = new Map<string, Float64Array | number>();
  private readonly constants = new Map<number, Float64Array>();
  /** Blocks whose numbers are not needed any more. */
  private readonly free: Float64Array[] = [];
  private readonly temporary = new Set<Float64Array>();

  constructor(private readonly scope: FormulaScope) {}

  build(tree: FormulaTree): Float64Array | number {
    if (tree.kind === 'number') return tree.value;
    if (tree.kind === 'name') return this.named(tree.name, tree.column);
    const args = tree.args.map((arg) => this.build(arg));
    if (tree.name === 'random') args.push(this.source('element id', this.scope.id));
    if (args.every((arg) => typeof arg === 'number')) return tree.name === 'random' ? this.step('random', args) : valueOf(tree.name)(...args);
    // A condition that is the same everywhere leaves one branch.
    if (tree.name === 'choose' && typeof args[0] === 'number') return args[0] ? args[1] : args[2];
    return this.step(tree.name, args);
  }

  private step(name: string, args: readonly (Float64Array | number)[]): Float64Array {
    const made = Object.hasOwn(withConstant, name) ? args.findIndex((arg) => typeof arg === 'number') : -1;
    const operation = made < 0 ? null : withConstant[name](args[made] as number, made === 0);
    const blocks = (operation ? args.filter((_, k) => k !== made) : args).map((arg) => (typeof arg === 'number' ? this.filled(arg) : arg));
    for (const block of blocks) if (this.temporary.delete(block)) this.free.push(block);
    const out = this.free.pop() ?? new Float64Array(blockSize);
    this.temporary.add(out);
    this.steps.push({ operation: operation ?? blockOperation(name, blocks.length), args: blocks, out });
    return out;
  }

  /** A block of one number, shared by all that use it. */
  private filled(value: number): Float64Array {
    let block = this.constants.get(value);
    if (!block) this.constants.set(value, (block = new Float64Array(blockSize).fill(value)));
    return block;
  }

  private named(name: string, column: number): Float64Array | number {
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

  private source(name: string, source: NameSource): Float64Array | number {
    if (typeof source === 'number') return source;
    let block = this.loaded.get(name);
    if (block === undefined) {
      block = new Float64Array(blockSize);
      this.loaded.set(name, block);
      this.loads.push({ fill: source.fill, out: block });
    }
    return block;
  }
}

const shortList = (names: readonly string[]): string => (names.length > 16 ? `${names.slice(0, 16).join(', ')} …` : names.join(', '));
