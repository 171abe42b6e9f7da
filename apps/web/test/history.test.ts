import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import { applyChange, changeBetween, reversed, type Change } from '../src/app/ropewalk/document/change';
import { addNode, connect, moveNodes, removeNodes, setSetting } from '../src/app/ropewalk/document/edits';
import { History } from '../src/app/ropewalk/document/history';
import { addArea, addNote } from '../src/app/ropewalk/document/layout';

const empty = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Test', nodes: [], wires: [] });

/** What may be done to any document; `n` says to which of its nodes. */
const edits: Readonly<Record<string, (document: FilaxisDocument, n: number) => FilaxisDocument>> = {
  add: (document) => addNode(document, 'lay.line', [0, 0]).document,
  remove: (document, n) => removeNodes(document, new Set(pick(document, n))),
  set: (document, n) => pick(document, n).reduce((changed, id) => setSetting(changed, id, 'count', n), document),
  move: (document, n) => moveNodes(document, new Map(document.nodes.flatMap(({ id }, i) => (i % 2 ? [] : [[id, [n, i] as const]])))),
  wire: (document, n) => (document.nodes.length > 1 ? connect(document, [document.nodes[0].id, 'curves'], [pick(document, n)[0], 'start']) : document),
  turn: (document) => ({ ...document, nodes: document.nodes.toReversed() }),
  note: (document, n) => addNote(document, [n, 0]).document,
  area: (document, n) => addArea(document, new Set(pick(document, n))),
  title: (document, n) => ({ ...document, title: `Title ${n}` }),
  asset: (document, n) => ({ ...document, assets: { ['ab'.repeat(32)]: { name: 'a.obj', bytes: n } } }),
};
const pick = ({ nodes }: FilaxisDocument, n: number): string[] => (nodes.length ? [nodes[n % nodes.length].id] : []);
const steps = fc.array(fc.tuple(fc.constantFrom(...Object.keys(edits)), fc.nat(50)), { maxLength: 30 });

test('undo and redo give back every state, whatever was done', () =>
  fc.assert(
    fc.property(fc.array(fc.oneof(fc.constantFrom('undo', 'redo'), fc.tuple(fc.constantFrom(...Object.keys(edits)), fc.nat(50))), { maxLength: 60 }), (all) => {
      let history = History.empty;
      // The states as a plain list with a place in it: what undo and redo mean.
      let states = [empty];
      let place = 0;
      for (const step of all) {
        const now = states[place];
        if (typeof step !== 'string') {
          const next = edits[step[0]](now, step[1]);
          history = history.done(changeBetween(step[0], now, next));
          states = [...states.slice(0, place + 1), next];
          place++;
          continue;
        }
        const result = history[step](now);
        const to = place + (step === 'undo' ? -1 : 1);
        expect(result === null).toBe(states[to] === undefined);
        if (!result) continue;
        history = result.history;
        place = to;
        expect(result.document).toEqual(states[place]);
        expect(Object.keys(result.document)).toEqual(expect.arrayContaining(Object.keys(states[place])));
      }
    }),
  ));

describe('changes', () => {
  test('a change that was sent as text does the same', () =>
    fc.assert(
      fc.property(steps, (all) => {
        let [mine, theirs] = [empty, empty];
        for (const [name, n] of all) {
          const next = edits[name](mine, n);
          const sent = JSON.parse(JSON.stringify(changeBetween(name, mine, next))) as Change;
          theirs = applyChange(theirs, sent);
          mine = next;
          expect(JSON.parse(JSON.stringify(theirs))).toEqual(JSON.parse(JSON.stringify(mine)));
        }
      }),
    ));

  test('a change holds what differs, not the document', () => {
    let document = empty;
    for (let i = 0; i < 300; i++) document = addNode(document, 'lay.line', [i, 0]).document;
    const one = changeBetween('Count', document, setSetting(document, 'line200', 'count', 7));
    expect(JSON.stringify(one).length).toBeLessThan(300);
    const deleted = changeBetween('Delete', document, removeNodes(document, new Set(['line150'])));
    expect(JSON.stringify(deleted).length).toBeLessThan(300);
    // What it does not touch stays the same object: pictures and caches go by that.
    expect(applyChange(document, one).nodes[0]).toBe(document.nodes[0]);
  });

  test('a field that was not there goes again', () => {
    const bare: FilaxisDocument = { format: 'filaxis-graph', version: 1, title: 'Bare', nodes: [], wires: [] };
    const change = changeBetween('Add a note', bare, addNote(bare, [0, 0]).document);
    expect(applyChange(applyChange(bare, change), reversed(change))).toEqual(bare);
    expect('notes' in applyChange(applyChange(bare, change), reversed(change))).toBe(false);
  });

  test('a change to another document is refused by name', () => {
    const document = addNode(empty, 'lay.line', [0, 0]).document;
    const change = changeBetween('Count', document, setSetting(document, 'line', 'count', 7));
    expect(() => applyChange(setSetting(document, 'line', 'count', 3), change)).toThrow('“Count” was done to a document with other nodes.');
    expect(() => applyChange(empty, changeBetween('Title', document, { ...document, title: 'New' }))).not.toThrow();
    expect(() => applyChange({ ...empty, title: 'Another' }, changeBetween('Title', empty, { ...empty, title: 'New' }))).toThrow('other title');
  });
});
