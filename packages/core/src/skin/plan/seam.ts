import type { Curves } from '../../geometry/curves.js';
import type { Frames } from '../../curves/evaluate/frames.js';
import { seamJump } from '../../curves/evaluate/seamJump.js';
import type { Field } from '../../values/field.js';
import type { SkinIssue, TubePlan, TubePlans } from './tubePlan.js';

/** How the last ring of a closed skin is joined to the first. */
export interface Seam {
  /** Steps of the section's symmetry by which columns of the last ring go on in the first: that at angle θ at θ + steps · 360° ÷ symmetry. */
  readonly steps: number;
  /** Degrees that are left, so that the wall twists by them in its last piece. */
  readonly left: number;
}

const straightOn: Seam = { steps: 0, left: 0 };

/** Degrees that a seam may turn untold, unless the twist beside it is uneven by more. */
const untold = 1;

/** The seam of a closed skin: steps of a section that looks the same after 360° ÷ `symmetry` take up what they can of the jump. */
export function seamOf(curves: Curves, { rings }: TubePlans, { from, count, closed }: TubePlan, frames: Frames, roll: Field | null, symmetry: number): Seam {
  if (!closed || count < 3) return straightOn;
  const { jump, uneven } = seamJump(curves.positions, frames, (k) => rings[from + ((k + count) % count)], roll);
  const step = (2 * Math.PI) / symmetry;
  const steps = Math.round(jump / step);
  const left = ((jump - steps * step) * 180) / Math.PI;
  return { steps: -steps, left: Math.abs(left) > Math.max(untold, (uneven * 180) / Math.PI) ? left : 0 };
}

/** Tells a seam that turns. */
export function tellSeam({ left }: Seam, { curve }: TubePlan, symmetry: number, issues: SkinIssue[]): void {
  if (left) issues.push({ code: 'flip', curve, at: 0, reason: 'seam', turn: Math.abs(left), symmetry });
}
