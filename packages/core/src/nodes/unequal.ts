import type { Settings } from '../graph/settings.js';
import { UnequalLists } from '../graph/unequal.js';

/** What happens when lists that belong together have different numbers of elements. */
export const unequalSetting = {
  unequal: {
    kind: 'choice',
    label: 'Unequal lists',
    help: 'What to do when the lists have different numbers: refuse, stop at the shortest, or begin the shorter ones again.',
    default: 'error',
    choices: { error: 'error', shortest: 'shortest', cycle: 'cycle' },
    group: 'Lists',
  },
} as const satisfies Settings;

/**
 * How many elements to make from lists of these lengths. Element i of a list of n is then i mod n.
 * @throws UnequalLists naming all counts when they differ and the rule is `error`.
 */
export function pairedCount(lists: Readonly<Record<string, number>>, rule: 'error' | 'shortest' | 'cycle'): number {
  const counts = Object.values(lists);
  if (counts.every((count) => count === counts[0])) return counts[0];
  if (rule === 'shortest' || counts.includes(0)) return Math.min(...counts);
  if (rule === 'cycle') return Math.max(...counts);
  const named = Object.entries(lists).map(([name, count]) => `${name} ${count}`);
  throw new UnequalLists(
    `The lists are unequal: ${named.slice(0, -1).join(', ')} and ${named[named.length - 1]}. Make them equal, or choose shortest or cycle.`,
  );
}
