import { fits, nodeDefinitions, type NodeDefinition, type PortKind } from '@filaxis/core';
import type { Found } from '../../shared/finder';
import { elsewhere } from './elsewhere';
import { asked, fitOf, indexed, named, nearlyFits, type Index } from './fit';

/** What can be found, in the order in which it stands where nothing is typed. */
export const groups = { node: 'Nodes', recipe: 'Recipes', action: 'Actions', place: 'In this graph', elsewhere: 'Not here' } as const;
export type Group = keyof typeof groups;

/** Something that the search gives. */
export interface Entry extends Found {
  readonly group: Group;
  /** A node that it adds, with these settings. */
  readonly adds?: { readonly type: string; readonly settings: Readonly<Record<string, unknown>> };
  readonly run: () => void;
}

/** An entry with the words that find it. */
export interface Candidate {
  readonly entry: Entry;
  readonly index: Index;
  readonly definition?: NodeDefinition;
}

/** What fits a text, best first; `kind`: the wire that is to be taken by it. */
export type Find = (text: string, kind: PortKind | null) => readonly Entry[];

/** Adds a node at the next free place. */
export type AddNode = (type: string, settings: Readonly<Record<string, unknown>>) => void;

/** Every kind of node, and what is looked for and is not here. */
export function knownNodes(add: AddNode): Candidate[] {
  const adding = (type: string): Pick<Entry, 'adds' | 'run'> => ({ adds: { type, settings: {} }, run: () => add(type, {}) });
  const nodes = [...nodeDefinitions.values()].map((definition): Candidate => {
    const { type, label, family, summary, keywords } = definition;
    return {
      definition,
      entry: { group: 'node', name: label, mark: family.label, detail: summary, ...adding(type) },
      index: indexed({ name: label, words: [...keywords, type.split('.')[1].replace(/[A-Z]/g, ' $&')], text: summary }),
    };
  });
  const absent = elsewhere.map(({ name, words, nearest, says }): Candidate => {
    const { label } = nodeDefinitions.get(nearest)!;
    return {
      entry: { group: 'elsewhere', name: `${name}: not here`, mark: `nearest: ${label}`, detail: says, ...adding(nearest) },
      index: indexed({ name, words, text: '' }),
    };
  });
  return [...nodes, ...absent];
}

/** What words count in each group: many actions speak of what nodes are called. */
const weights: Readonly<Record<Group, number>> = { node: 1, recipe: 1, place: 1, action: 0.75, elsewhere: 0.7 };

/** Most recipes that are offered. */
const mostRecipes = 4;

/**
 * What fits a search, in groups, the group of the best first. In a group that whose whole name it is comes first, then, when a wire is to be taken, nodes that can take it
 * and are called so or known by the words. Misspelt words are looked for when nothing fits as they are written.
 * @param recipes What the text asks for, the likeliest first, with how well it fits.
 */
export function search(
  text: string,
  kind: PortKind | null,
  known: readonly Candidate[],
  recipes: (text: string) => readonly { entry: Entry; likeness: number }[] = () => [],
): Entry[] {
  const words = asked(text);
  const takes = ({ definition }: Candidate): boolean => !kind || !!definition?.inputs.some((port) => fits(kind, port));
  const guess = ({ definition }: Candidate): number => (kind && definition?.usualAfter[kind]) || 99;
  if (!words.length)
    return known
      .filter((each) => each.entry.group !== 'elsewhere' && (!kind || takes(each)))
      .sort((a, b) => groupOrder(a) - groupOrder(b) || guess(a) - guess(b))
      .map(({ entry }) => entry);
  const scored = (fit: typeof fitOf): Scored[] => known.flatMap((each) => {
    const score = fit(each.index, words) * weights[each.entry.group];
    return score > 0 ? [{ ...each, score, suits: score > words.length && takes(each) }] : [];
  }); // prettier-ignore
  const found = scored(fitOf);
  const wished = recipes(text).slice(0, mostRecipes).map(({ entry, likeness }): Scored => ({ entry, index: none, score: likeness * words.length * 6, suits: !kind })); // prettier-ignore
  const all = [...(found.length || wished.length ? found : scored(nearlyFits)), ...wished];
  const rank = (a: Scored, b: Scored): number =>
    Number(b.score >= named) - Number(a.score >= named) || (kind ? Number(b.suits) - Number(a.suits) : 0) || b.score - a.score || guess(a) - guess(b);
  all.sort(rank);
  const first = new Map<Group, number>();
  all.forEach(({ entry }, i) => first.has(entry.group) || first.set(entry.group, i));
  return all
    .map((each, i) => ({ each, i }))
    .sort((a, b) => first.get(a.each.entry.group)! - first.get(b.each.entry.group)! || a.i - b.i)
    .map(({ each }) => each.entry);
}

interface Scored extends Candidate {
  readonly score: number;
  /** It can take the wire, and more than its summary speaks of what is looked for. */
  readonly suits: boolean;
}

const none: Index = indexed({ name: '', words: [], text: '' });
const order = Object.keys(groups) as Group[];
const groupOrder = ({ entry }: Candidate): number => order.indexOf(entry.group);
