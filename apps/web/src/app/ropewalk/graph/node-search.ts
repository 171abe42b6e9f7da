import { fits, nodeDefinitions, type NodeDefinition, type PortKind } from '@filaxis/core';

/** How well a node fits a word; 0: not at all. Keywords stand in the order in which they say it best. */
function scoreOf({ label, type, keywords, summary }: NodeDefinition, word: string): number {
  const name = label.toLowerCase();
  if (name === word) return 12;
  if (name.startsWith(word)) return 8;
  if (name.includes(word)) return 5;
  if (type.toLowerCase().includes(word)) return 4;
  const place = keywords.findIndex((keyword) => keyword.startsWith(word));
  if (place >= 0) return 3 - place / keywords.length;
  return summary.toLowerCase().includes(word) ? 1 : 0;
}

/** What a whole name counts. */
const named = 100;

/** The same for all words of a search, each of which has to fit; the whole name counts above all. */
function score(definition: NodeDefinition, words: readonly string[]): number {
  const each = words.map((word) => scoreOf(definition, word));
  if (each.includes(0)) return 0;
  return each.reduce((sum, found) => sum + found, definition.label.toLowerCase() === words.join(' ') ? named : 0);
}

/**
 * Nodes that fit a search, best first: that whose whole name it is, then, when they are to take a wire of `kind`, those that can and are called so or known by the words.
 * The others are found by their words only, and stay unwired.
 */
export function searchNodes(text: string, kind: PortKind | null): NodeDefinition[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const takes = (definition: NodeDefinition): boolean => !kind || definition.inputs.some((port) => fits(kind, port));
  const all = [...nodeDefinitions.values()].filter((definition) => words.length > 0 || takes(definition));
  /** It can take the wire, and more than its summary speaks of what is looked for. */
  const suits = ({ definition, found }: { definition: NodeDefinition; found: number }): boolean => found > words.length && takes(definition);
  const guess = ({ usualAfter }: NodeDefinition): number => (kind && usualAfter[kind]) || 99;
  if (!words.length) return all.sort((a, b) => guess(a) - guess(b));
  return all
    .map((definition) => ({ definition, found: score(definition, words) }))
    .filter(({ found }) => found > 0)
    .sort(
      (a, b) =>
        Number(b.found >= named) - Number(a.found >= named) ||
        Number(suits(b)) - Number(suits(a)) ||
        b.found - a.found ||
        guess(a.definition) - guess(b.definition),
    )
    .map(({ definition }) => definition);
}
