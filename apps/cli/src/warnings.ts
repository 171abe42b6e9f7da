import type { RunResult } from '@filaxis/core';

/** Warnings of all nodes of a run, a line each, in the order of the run: the cause before what follows from it. */
export const warningsOf = (result: RunResult): string[] =>
  [...result.nodes].flatMap(([id, node]) => node.warnings.map(({ message, remedy }) => `${id}: ${message}${remedy ? ` ${remedy}` : ''}`));
