import type { Plan, RunResult } from '@filaxis/core';
import type { Answers, Questions, Topic } from '@filaxis/protocol';
import { namesFor } from './names';
import { columnFigures, tableText, tableWindow } from './table';

/** A complete run and what it ran. */
export interface Newest {
  readonly plan: Plan;
  readonly run: RunResult;
}

const answers: { readonly [T in Topic]: (newest: Newest, question: Questions[T]) => Answers[T] } = {
  names: namesFor,
  table: tableWindow,
  column: columnFigures,
  csv: tableText,
};

/** Answers a question. @throws Error with a message for the artist. */
export const answer = <T extends Topic>(newest: Newest, topic: T, question: Questions[T]): Answers[T] => answers[topic](newest, question);
