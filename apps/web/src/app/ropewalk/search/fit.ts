import { editDistance } from '@filaxis/core';

/** Words by which something is found: those of its name, those it is known by besides (the best first), and those of what is said of it. */
export interface Terms {
  readonly name: string;
  readonly words: readonly string[];
  readonly text: string;
}

/** The same, taken apart once. */
export interface Index {
  readonly whole: string;
  readonly name: readonly string[];
  readonly words: readonly string[];
  readonly phrases: ReadonlySet<string>;
  readonly text: readonly string[];
}

/** Words of a text, in small letters. */
export const split = (text: string): string[] => text.toLowerCase().match(/[\p{L}\d]+/gu) ?? [];

export const indexed = ({ name, words, text }: Terms): Index => ({
  whole: asked(name).join(' '),
  name: asked(name),
  words: words.flatMap(asked),
  phrases: new Set(words.map((word) => asked(word).join(' '))),
  text: split(text),
});

/** Words that are typed about what is looked for. */
const filler = new Set('a add an i in me my of on the to want with'.split(' '));

/** The words of a search that count. */
export function asked(text: string): string[] {
  const words = split(text);
  const counting = words.filter((word) => !filler.has(word));
  return counting.length ? counting : words;
}

/** Endings that make several of one, and those that make other forms of a word. */
const plurals = new Set(['s', 'es']);
const endings = new Set(['d', 'ed', 'ing', 'ly', 'er']);

/** How well a typed word fits a known one: 2 the same, 1.9 its plural or singular, 1.5 another form, 1 its beginning, 0 anything else, the inside of a word too. */
function agreement(typed: string, known: string): number {
  if (typed === known) return 2;
  const [short, long] = typed.length < known.length ? [typed, known] : [known, typed];
  if (short.length > 1 && long.startsWith(short)) {
    const ending = long.slice(short.length);
    if (plurals.has(ending)) return 1.9;
    if (endings.has(ending)) return 1.5;
  }
  return known.startsWith(typed) ? 1 : 0;
}

/** 1 if a typed word may be a misspelling of a known one: one letter missing, added, wrong or swapped, or two in a word of eight letters and more; else 0. */
function misspelt(typed: string, known: string): number {
  if (typed.length < 4 || Math.abs(typed.length - known.length) > 2) return 0;
  return editDistance(typed, known) <= (typed.length > 7 ? 2 : 1) ? 1 : 0;
}

type Compare = (typed: string, known: string) => number;

/** What a word counts in each place; words that it is known by count less the later they stand. */
function scoreOf({ name, words, text }: Index, typed: string, compare: Compare): number {
  let best = 0;
  const count = (fit: number, weight: number): void => void (best = Math.max(best, fit * weight));
  name.forEach((word, i) => count(compare(typed, word), i ? 3.6 - 0.1 * i : 4.5));
  words.forEach((word, i) => count(compare(typed, word), 3.6 - 0.1 * Math.min(i, 20)));
  if (!best) for (const word of text) count(compare(typed, word), 0.5);
  return best;
}

/** What a whole name counts, and a phrase of several words that something is known by. */
export const named = 100;
const phrased = 20;

function scoreBy(index: Index, words: readonly string[], compare: Compare): number {
  let sum = 0;
  for (const word of words) {
    const score = scoreOf(index, word, compare);
    if (!score) return 0;
    sum += score;
  }
  const all = words.join(' ');
  return sum + (index.whole === all ? named : words.length > 1 && index.phrases.has(all) ? phrased : 0);
}

/** How well something fits a search, each word of which has to fit; 0: not at all. */
export const fitOf = (index: Index, words: readonly string[]): number => scoreBy(index, words, agreement);

/** The same, for a search that nothing fits as it is written. */
export const nearlyFits = (index: Index, words: readonly string[]): number =>
  scoreBy(index, words, (typed, known) => agreement(typed, known) || misspelt(typed, known));
