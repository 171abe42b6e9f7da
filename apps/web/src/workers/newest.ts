import type { Plan, RunResult } from '@filaxis/core';

/** A complete run and what it ran. */
export interface Newest {
  readonly plan: Plan;
  readonly run: RunResult;
  /** Nodes whose results are in the picture. */
  readonly shown: readonly string[];
  /** Seconds of the timeline. */
  readonly time: number;
}
