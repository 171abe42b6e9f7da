import { nodeDefinitions, settingFault, type NodeDefinition } from '@filaxis/core';

/** Something that an artist may ask for, and what does it. */
export interface Wish {
  readonly phrase: string;
  /** The kind of node that does it. */
  readonly definition: NodeDefinition;
  readonly settings: Readonly<Record<string, unknown>>;
  /** It can be done on the chosen node; otherwise such a node is added. */
  readonly onChosen: boolean;
  /** How like it is to what was asked, from 0 to 1; a little more where it can be done on the chosen node. */
  readonly likeness: number;
}

/** Words that say nothing of what is wanted. */
const empty = new Set('a an and at be by do for from i in is it its make me my of on one please so some that the them this to want wants with'.split(' '));
/** Least likeness of what is offered, and what a wish gains when it can be done on the chosen node. */
const [alike, nearer] = [0.42, 0.12];

/** The words of a text that count, without the endings of plurals. */
const wordsOf = (text: string): string[] =>
  (text.toLowerCase().match(/[\p{L}\d]+/gu) ?? []).filter((word) => !empty.has(word)).map((word) => (word.length > 3 ? word.replace(/s$/, '') : word));

interface Known {
  readonly phrase: string;
  readonly definition: NodeDefinition;
  readonly settings: Readonly<Record<string, unknown>>;
  readonly words: readonly string[];
}

const known: readonly Known[] = [...nodeDefinitions.values()].flatMap((definition) =>
  Object.entries(definition.asks).map(([phrase, settings]) => ({ phrase, definition, settings, words: wordsOf(phrase) })),
);

/** How much a word tells: words of few phrases tell more. */
const weights = new Map<string, number>();
for (const { words } of known) for (const word of new Set(words)) weights.set(word, (weights.get(word) ?? 0) + 1);
for (const [word, count] of weights) weights.set(word, Math.log(1 + known.length / count));
const weightOf = (word: string): number => weights.get(word) ?? Math.log(1 + known.length);

/** How like two lists of words are, 0 to 1: the weight of what both have. A word that is still being typed counts by what there is of it. */
function likeness(asked: readonly string[], words: readonly string[]): number {
  const own = asked.reduce((sum, word) => sum + weightOf(words.find((each) => each.startsWith(word)) ?? word), 0);
  const all = words.reduce((sum, word) => sum + weightOf(word), 0);
  const shared = asked.reduce((sum, word) => {
    const found = words.find((each) => each === word) ?? words.find((each) => word.length > 2 && (each.startsWith(word) || word.startsWith(each)));
    return found === undefined ? sum : sum + weightOf(found) * (found === word ? 1 : 0.85);
  }, 0);
  return own + all ? (2 * shared) / (own + all) : 0;
}

/** Whether a node takes these settings, so that they can be put on it. */
function takes({ settings }: NodeDefinition, wanted: Readonly<Record<string, unknown>>, of: NodeDefinition): boolean {
  return Object.entries(wanted).every(([name, value]) => {
    const setting = settings[name];
    return setting?.kind === of.settings[name].kind && setting.label === of.settings[name].label && settingFault(setting, value, {}) === null;
  });
}

/** How usual a node is behind any wire; the first guess is 1. */
const usual = ({ usualAfter }: NodeDefinition): number => Math.min(99, ...Object.values(usualAfter));

/** What a text may ask for, the likeliest first, a phrase once: on the chosen node where it takes the settings, else by a new one. */
export function askedFor(text: string, chosen: NodeDefinition | null): Wish[] {
  const asked = wordsOf(text);
  if (!asked.length) return [];
  const found = known.flatMap(({ phrase, definition, settings, words }) => {
    const score = likeness(asked, words);
    if (score < alike) return [];
    const onChosen = !!chosen && Object.keys(settings).length > 0 && (chosen === definition || takes(chosen, settings, definition));
    return [{ phrase, definition: onChosen ? chosen : definition, settings, onChosen, likeness: score + (onChosen ? nearer : 0) }];
  });
  const seen = new Set<string>();
  return found
    .sort((a, b) => b.likeness - a.likeness || usual(a.definition) - usual(b.definition))
    .filter(({ phrase }) => !seen.has(phrase) && seen.add(phrase));
}
