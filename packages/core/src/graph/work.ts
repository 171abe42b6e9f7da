/** Numbers of elements that a step is about to make. */
export type Claimed = Partial<Record<'points' | 'vertices' | 'faces' | 'copies', number>>;

/** What a long step is given to be a good neighbour. Both may throw, to refuse or to stop. */
export interface Work {
  /** Told the size of the result before memory is spent; throws a `LimitError` beyond the limits. */
  claim(size: Claimed): void;
  /** Told now and then how far the step is, 0…1; throws when the run was cancelled. */
  progress(fraction: number): void;
}

/** For callers that neither limit nor stop. */
export const unbounded: Work = { claim: () => undefined, progress: () => undefined };

/** Elements between two tellings of progress: some milliseconds of work. */
export const progressEvery = 8192;
