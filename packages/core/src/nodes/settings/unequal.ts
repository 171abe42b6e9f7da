import type { Settings } from '../../definition/settings.js';
import { UnequalLists } from '../../base/unequal.js';

/** What happens when lists that belong together have different numbers of elements. */
export const unequalSetting = {
  unequal: {
    kind: 'choice',
    label: 'Unequal lists',
    help: 'What to do when the lists have different numbers: refuse, stop at the shortest, or begin the shorter ones again.',
    default: 'error',
    choices: { error: 'refuse', shortest: 'stop at the shortest', cycle: 'begin again' },
    group: 'Lists',
  },
} as const satisfies Settings;

/**
 * How many elements to make from lists of these lengths. Element i of a list of n is then i mod n.
 * @throws UnequalLists naming all counts and what helps when they differ and the rule is `error`.
 */
export function pairedCount(
  lists: Readonly<Record<string, number>>,
  rule: 'error' | 'shortest' | 'cycle',
  cure = 'Make them equal, or set Unequal lists to stop at the shortest or to begin again.',
): number {
  const counts = Object.values(lists);
  if (counts.every((count) => count === counts[0])) return counts[0];
  if (rule === 'shortest' || counts.includes(0)) return Math.min(...counts);
  if (rule === 'cycle') return Math.max(...counts);
  throw new UnequalLists(`The lists are unequal: ${namedCounts(lists)}. ${cure}`);
}

/** Counts with their names, the first few of many: "a 4, b 5 and c 6". */
export function namedCounts(lists: Readonly<Record<string, number>>): string {
  const named = Object.entries(lists).map(([name, count]) => `${name} ${count}`);
  if (named.length > mostNamed) return `${named.slice(0, mostNamed).join(', ')} and so on, ${named.length} in all`;
  return `${named.slice(0, -1).join(', ')} and ${named[named.length - 1]}`;
}

const mostNamed = 8;
