import { kernelBytes } from './generated/kernels.js';

/** Elements in one block: the numbers of an operation stay in the processor's nearest memory. */
export const blockSize = 1024;

const bytes = blockSize * 8;
const page = 65_536;
const memory = new WebAssembly.Memory({ initial: 16 });
let views: Float64Array[] = [];

/**
 * The first `count` blocks. All formulas share them: each is evaluated from start to end before another, and keeps nothing in them.
 */
export function blocks(count: number): readonly Float64Array[] {
  const missing = Math.ceil((count * bytes - memory.buffer.byteLength) / page);
  if (missing > 0) {
    memory.grow(missing);
    // Views of the memory as it was hold nothing any more.
    views = [];
  }
  while (views.length < count) views.push(new Float64Array(memory.buffer, views.length * bytes, blockSize));
  return views;
}

/** The loops of kernels.wat. Blocks are given by their offset in bytes, lines by their four numbers. */
interface Kernels {
  countUp(out: number, first: number, count: number): void;
  divide(out: number, by: number, count: number): void;
  within(a: number, low: number, high: number, count: number): 0 | 1;
  line(out: number, a: number, m: number, s: number, m2: number, s2: number, count: number): void;
  sum: LinePair;
  product: LinePair;
  /** Angles must be within `farthest`. */
  sine(out: number, a: number, quadrant: 0 | 1, count: number): void;
}
type LinePair = (
  out: number,
  ...rest: [a: number, m: number, s: number, m2: number, s2: number, b: number, bm: number, bs: number, bm2: number, bs2: number, count: number]
) => void;

const program = new WebAssembly.Module(Uint8Array.from(atob(kernelBytes), (letter) => letter.charCodeAt(0)));
export const kernels = new WebAssembly.Instance(program, { blocks: { memory } }).exports as unknown as Kernels;

/** Fewer numbers are written faster than a kernel is called. */
const few = 32;

/** Writes `first`, `first` + 1 … to `count` places of a block or any other array, from `o`. */
export function countUp(out: Float64Array, o: number, first: number, count: number): void {
  if (count >= few && out.buffer === memory.buffer) kernels.countUp(out.byteOffset + o * 8, first, count);
  else for (let k = 0; k < count; k++) out[o + k] = first + k;
}

/** Writes the numbers `from` … `to` − 1 of `data`, divided by one, to a block or any other array, from `o`. */
export function writeDivided(out: Float64Array, o: number, data: Float64Array, from: number, to: number, by: number): void {
  if (to - from >= few && out.buffer === memory.buffer) {
    out.set(data.subarray(from, to), o);
    kernels.divide(out.byteOffset + o * 8, by, to - from);
  } else for (let i = from, k = o; i < to; i++, k++) out[k] = data[i] / by;
}
