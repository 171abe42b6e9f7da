import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fits, nodeDefinitions, requireDocument } from '@filaxis/core';
import { ropewalkActions, type RopewalkScreen } from '../src/app/ropewalk/ropewalk-actions';
import { actionWords } from '../src/app/ropewalk/search/action-words';
import { screenSearch } from '../src/app/ropewalk/search/screen-search';
import { asked, fitOf } from '../src/app/ropewalk/search/fit';
import { elsewhere } from '../src/app/ropewalk/search/elsewhere';
import { knownNodes, search, type Entry } from '../src/app/ropewalk/search/search';
import { tradeWords } from './search-words';

const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'T', nodes: [{ id: 'rope', type: 'skin.rope', name: 'Guy rope' }], wires: [] });
/** Anything that is asked of it is possible, and does nothing. */
const anything: unknown = new Proxy(() => anything, { get: (_, key) => (key === Symbol.toPrimitive ? () => '' : anything) });
const screen = {
  documents: { selection: () => new Set(['rope']), selectedWire: () => null, chosen: () => document.nodes[0], chosenDefinition: () => null, undoLabel: () => 'Move', redoLabel: () => 'Move', document: () => document },
  editing: { canSwitch: () => true }, peeking: { peek: () => null, ghost: () => null }, player: { timed: () => true, playing: () => false }, graph: anything, panes: anything,
} as unknown as RopewalkScreen; // prettier-ignore
const find = screenSearch(screen);

/** An entry as the list of words names it. */
const told = (entry: Entry | undefined): string => {
  if (!entry) return 'nothing';
  if (entry.group === 'action') return `!${entry.name}`;
  return entry.group === 'elsewhere' ? `-${entry.name}` : (entry.adds?.type ?? entry.name);
};

describe('the one search', () => {
  test(`${Object.keys(tradeWords).length} words of the trade find what they must find, first`, () => {
    expect(Object.keys(tradeWords).length).toBeGreaterThanOrEqual(250);
    const wrong = Object.entries(tradeWords).flatMap(([word, wanted]) => {
      const first = told(find(word, null)[0]);
      return (/^[!-]/.test(wanted) ? first.startsWith(wanted) : wanted.split('|').includes(first)) ? [] : [`${word}: ${first}, not ${wanted}`];
    });
    expect(wrong).toEqual([]);
  });

  test('the search at a wire finds the same, first what takes it', () => {
    const types = (text: string, kind: 'curves' | 'mesh' | null): (string | undefined)[] => find(text, kind).map(({ adds }) => adds?.type);
    expect(types('grid', 'curves')[0]).toBe('lay.grid');
    expect(types('pipe', null)[0]).toBe('skin.tube');
    expect(types('star', 'mesh')[0]).toBe('lay.polygon');
    expect(types('catenary', 'curves')[0]).toBe('shape.hang');
    expect(types('', 'mesh')[0]).toBe('flow.output');
    expect(find('', 'mesh').every(({ adds }) => nodeDefinitions.get(adds!.type)!.inputs.some((port) => fits('mesh', port)))).toBe(true);
    for (const word of ['rope', 'undo', 'wrap'])
      expect(new Set(find(word, 'mesh').map(({ name }) => name))).toEqual(new Set(find(word, null).map(({ name }) => name)));
  });

  test('words are matched from their beginnings, never inside', () => {
    const names = (text: string): string[] => find(text, null).map(({ name }) => name);
    expect(names('pen')).not.toContain('Close or open');
    expect(names('hose')).not.toContain('Join ends');
    expect(find('qqqq', null)).toEqual([]);
  });

  test('every node is found by its name, also with a letter left out, too many, or swapped', () => {
    const known = knownNodes(() => undefined);
    fc.assert(
      fc.property(
        fc.constantFrom(...nodeDefinitions.values()),
        fc.nat(),
        fc.constantFrom('out', 'twice', 'swapped', 'right'),
        ({ type, label }, where, how) => {
          const word = label.split(' ').toSorted((a, b) => b.length - a.length)[0];
          if (word.length < 5) return;
          const at = 1 + (where % (word.length - 2));
          const [before, letter, next, after] = [word.slice(0, at), word[at], word[at + 1], word.slice(at + 2)];
          const wrong = { right: word, out: before + next + after, twice: before + letter + letter + next + after, swapped: before + next + letter + after }[how]; // prettier-ignore
          const typed = label.replace(word, wrong);
          const found = search(typed, null, known).map(({ adds }) => adds?.type);
          if (how === 'right') expect(found[0]).toBe(type);
          // What is misspelt may fit something else as it is written.
          else if (!known.some(({ index }) => fitOf(index, asked(typed)) > 0)) expect(found).toContain(type);
        },
      ),
      { numRuns: 400, seed: 3 },
    );
  });

  test('what is not here names a node that is, and its words lead to nothing that is here', () => {
    for (const { nearest, name } of elsewhere) expect([name, nodeDefinitions.has(nearest)]).toEqual([name, true]);
  });

  test('words of actions belong to actions that there are', () => {
    const names = new Set(ropewalkActions(screen).map(({ name }) => name));
    expect(Object.keys(actionWords).filter((name) => !names.has(name))).toEqual([]);
  });

  test('groups stand together, and what is off or only a second key is not offered', () => {
    for (const text of ['', 'rope', 'smooth', 'fit', 'cut']) {
      const order = find(text, null).map(({ group }) => group);
      expect(order.filter((group, i) => group !== order[i - 1]).length).toBe(new Set(order).size);
    }
    expect(find('second key', null).filter(({ group }) => group === 'action')).toEqual([]);
  });
});
