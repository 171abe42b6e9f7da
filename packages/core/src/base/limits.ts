import type { Claimed } from './work.js';

/** How much a single step may make, and how long a run may take. */
export interface Limits {
  readonly points: number;
  readonly vertices: number;
  readonly faces: number;
  readonly copies: number;
  readonly seconds: number;
}

export const defaultLimits: Limits = { points: 20_000_000, vertices: 20_000_000, faces: 20_000_000, copies: 2_000_000, seconds: 300 };

/** A step that would have made, or taken, more than the limits allow. */
export class LimitError extends Error {
  override name = 'LimitError';
}

/** Thrown inside a step when the run was cancelled. */
export class Cancelled extends Error {
  override name = 'Cancelled';
}

/** @throws LimitError naming the count and the limit. */
export function requireWithin(limits: Limits, size: Claimed): void {
  for (const kind of ['points', 'vertices', 'faces', 'copies'] as const) {
    const wanted = size[kind] ?? 0;
    if (!(wanted <= limits[kind]))
      throw new LimitError(`This would make ${wanted.toLocaleString('en-GB')} ${kind}; the limit is ${limits[kind].toLocaleString('en-GB')}.`);
  }
}
