/** Numbers of elements that a step is about to make. */
export type Claimed = Partial<Record<'points' | 'vertices' | 'faces' | 'copies', number>>;

/** Where a step takes its large arrays from. They hold anything at first: whoever takes one writes every number of it. */
export interface Memory {
  float32(length: number): Float32Array;
  float64(length: number): Float64Array;
  uint32(length: number): Uint32Array;
}

/** What a long step is given to be a good neighbour. `claim` and `progress` may throw, to refuse or to stop. */
export interface Work {
  /** Told the size of the result before memory is spent; throws a `LimitError` beyond the limits. */
  claim(size: Claimed): void;
  /** Told now and then how far the step is, 0…1; throws when the run was cancelled. */
  progress(fraction: number): void;
  readonly memory: Memory;
}

/** Arrays that nobody had before. */
export const freshMemory: Memory = {
  float32: (length) => new Float32Array(length),
  float64: (length) => new Float64Array(length),
  uint32: (length) => new Uint32Array(length),
};

/** For callers that neither limit nor stop. */
export const unbounded: Work = { claim: () => undefined, progress: () => undefined, memory: freshMemory };

/** Elements between two tellings of progress: some milliseconds of work. */
export const progressEvery = 8192;

/** Tells how far a loop is, every so often: `i` of `count`. */
export function tick(work: Work, i: number, count: number): void {
  if (i % progressEvery === 0) work.progress(i / count);
}
