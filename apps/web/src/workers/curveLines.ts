import { curveCount, type Curves } from '@filaxis/core';

/** Calls with both points of every piece of the curves, and the curve it is of. */
export function eachPiece(curves: Curves, call: (from: number, to: number, curve: number) => void): void {
  const { starts, closed } = curves;
  for (let c = 0; c < curveCount(curves); c++)
    for (let i = starts[c]; i < (closed[c] ? starts[c + 1] : starts[c + 1] - 1); i++) call(i, i + 1 < starts[c + 1] ? i + 1 : starts[c], c);
}

/** Pairs of ends of curves, 6 numbers a piece. */
export function linesOf(curves: Curves): Float32Array {
  const { positions } = curves;
  const ends: number[] = [];
  eachPiece(curves, (a, b) => {
    for (const p of [a, b]) ends.push(positions[p * 3], positions[p * 3 + 1], positions[p * 3 + 2]);
  });
  return Float32Array.from(ends);
}
