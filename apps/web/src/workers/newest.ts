import type { Plan, RunResult } from '@filaxis/core';

/** A complete run and what it ran. */
export interface Newest {
  readonly plan: Plan;
  readonly run: RunResult;
  /** Seconds of the timeline. */
  readonly time: number;
}
