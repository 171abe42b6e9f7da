/**
 * The numbers of a block times a number, plus a number, and that once more: (x · m + s) · m2 + s2, each step rounded as the formula says. Steps with
 * constants are gathered into lines, so that `0.02*(1-t)` costs no loop of its own where it is added to something.
 */
export interface Line {
  /** Number of the block. */
  readonly block: number;
  readonly m: number;
  readonly s: number;
  readonly m2: number;
  readonly s2: number;
  /** How many of the four are taken, in their order. */
  readonly taken: number;
}

/** The block as it is. Times 1 and plus −0 change no number, not even the sign of 0. */
export const plainLine = (block: number): Line => ({ block, m: 1, s: -0, m2: 1, s2: -0, taken: 0 });

export const isPlain = ({ taken }: Line): boolean => taken === 0;

/** The line times a number; null: it is full. */
export function timesNumber(line: Line, factor: number): Line | null {
  if (line.taken < 1) return { ...line, m: factor, taken: 1 };
  return line.taken < 3 ? { ...line, m2: factor, taken: 3 } : null;
}

/** The line plus a number; null: it is full. */
export function plusNumber(line: Line, sum: number): Line | null {
  if (line.taken < 2) return { ...line, s: sum, taken: 2 };
  return line.taken < 4 ? { ...line, s2: sum, taken: 4 } : null;
}
