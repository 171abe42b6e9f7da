import { seedSetting as commonSeed } from './common.js';
import type { Warning } from '../../definition/define.js';

/** What nodes that scatter points have in common. */

export const seedSetting = { ...commonSeed, help: 'Another seed, other places.' } as const;
export const gapSetting = { kind: 'number', label: 'Least gap', help: 'Between two points at least; 0 lets them fall anywhere.', default: 0, min: 0, unit: 'm', step: 0.01 } as const; // prettier-ignore

/** Tells that some points found no place. */
export function tellLeft(left: number, warn: (warning: Warning) => void): void {
  if (!left) return;
  const points = left === 1 ? '1 point was' : `${left} points were`;
  warn({ code: 'empty', message: `There is no room for more: ${points} left out.`, remedy: 'Ask for fewer, or make the gap smaller.' });
}
