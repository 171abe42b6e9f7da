import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { checkDocument, emptyDocument, requireDocument, type FilaxisDocument } from '@filaxis/core';
import { cut, paste, readCutting } from '../src/app/ropewalk/document/cutting';
import { changeDial, dialFromSetting, dialUses, removeDial } from '../src/app/ropewalk/document/dials';
import { addNode, bestInput, connect, disconnect, removeNodes, moveWire, setSetting, thickAsGiven, wireRefusal } from '../src/app/ropewalk/document/edits';
import { shortcutOf } from '../src/app/ropewalk/actions';
import { arithmetic } from '../src/app/shared/arithmetic';
import { hoverPlace } from '../src/app/ropewalk/strip/strip-plot';

const empty = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Test', nodes: [], wires: [] });

/** Line → Hang → Tube → Output, built by edits. */
function tubeDocument(): FilaxisDocument {
  let document = empty;
  let before: string | null = null;
  for (const type of ['lay.line', 'shape.hang', 'skin.tube', 'flow.output']) {
    const made = addNode(document, type, [0, 0]);
    const from = before && ([before, type === 'flow.output' ? 'mesh' : 'curves'] as const);
    const input = from && bestInput(made.document, from, made.id);
    document = input ? connect(made.document, from, input) : made.document;
    before = made.id;
  }
  return document;
}

describe('edits', () => {
  test('adding and wiring gives a document without fault', () => {
    const document = tubeDocument();
    expect(document.nodes.map(({ id }) => id)).toEqual(['line', 'hang', 'tube', 'output']);
    expect(document.wires.length).toBe(3);
    expect(checkDocument(requireDocument(document))).toEqual([]);
  });

  test('a skin behind curves that know their thickness begins as thick; one that was told, or has none before it, stays', () => {
    const skinned = (between: readonly string[], type: string, settings: object = {}): unknown => {
      let document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'T', nodes: [], wires: [] });
      let last: string | null = null;
      for (const each of [...between, type]) {
        const made = addNode(document, each, [0, 0], each === type ? { ...settings } : {});
        document = last === null ? made.document : connect(made.document, [last, 'curves'], [made.id, 'curves']);
        last = made.id;
      }
      return thickAsGiven(document, last!).nodes.at(-1)!.settings;
    };
    expect(skinned(['grow.rules'], 'skin.tube')).toEqual({ radius: { formula: '0.5 * width' } });
    expect(skinned(['grow.rules', 'pace.resample'], 'skin.ribbon')).toEqual({ width: { formula: 'width' } });
    expect(skinned(['grow.rules', 'gauge.branching'], 'skin.tube')).toEqual({ radius: { formula: '0.5 * 0.04 * thickness' } });
    expect(skinned(['grow.rules'], 'skin.tube', { radius: 0.2 })).toEqual({ radius: 0.2 });
    expect(skinned(['lay.line'], 'skin.tube')).toEqual({});
  });

  test('nodes of one type that nobody named are told apart by numbers, copies too', () => {
    const names = ({ nodes }: FilaxisDocument): (string | undefined)[] => nodes.map(({ name }) => name);
    let document = empty;
    for (let i = 0; i < 3; i++) document = addNode(document, 'lay.line', [0, 0]).document;
    expect(names(document)).toEqual([undefined, 'Line 2', 'Line 3']);
    // A number that is free is taken again; names that were given are copied.
    const shorter = { ...document, nodes: [document.nodes[0], document.nodes[2], { id: 'own', type: 'lay.line', name: 'Keel' }] };
    const copied = paste(shorter, cut(shorter, new Set(['line', 'line3', 'own'])), [0, 0]).document;
    expect(names(copied).slice(3)).toEqual(['Line 2', 'Line 4', 'Keel']);
  });

  test('only fitting wires are laid, and none in a circle', () => {
    const document = tubeDocument();
    expect(wireRefusal(document, ['tube', 'mesh'], ['hang', 'curves'])).toBe('Hang takes curves there, not mesh.');
    expect(wireRefusal(document, ['hang', 'curves'], ['hang', 'curves'])).toBe('A node cannot be wired to itself.');
    expect(bestInput(document, ['tube', 'mesh'], 'hang')).toBeNull();
    const turned = addNode(document, 'shape.transform', [0, 0]);
    const wired = connect(connect(turned.document, ['hang', 'curves'], ['transform', 'any']), ['transform', 'any'], ['tube', 'curves']);
    expect(wireRefusal(wired, ['transform', 'any'], ['hang', 'curves'])).toBe('That would make the wires go round in a circle.');
    // The tube's input took one wire: the new one replaced the old.
    expect(wired.wires.filter(({ to }) => to[0] === 'tube')).toEqual([{ from: ['transform', 'any'], to: ['tube', 'curves'] }]);
  });

  test('deleting nodes takes their wires; a wire goes alone', () => {
    const document = tubeDocument();
    expect(removeNodes(document, new Set(['hang'])).wires).toEqual([document.wires[2]]);
    expect(disconnect(document, document.wires[0]).wires.length).toBe(2);
  });

  test('a setting becomes a dial and comes back as its value', () => {
    const made = dialFromSetting(setSetting(tubeDocument(), 'tube', 'radius', 0.02), 'tube', 'radius')!;
    expect(made.document.dials).toEqual([{ id: 'radius', label: 'Tube radius', kind: 'number', value: 0.02, min: 0.0005, max: 0.08, step: 0.0005, unit: 'm' }]);
    expect(dialUses(made.document, 'radius')).toEqual([{ node: 'tube', setting: 'radius' }]);
    expect(checkDocument(requireDocument(made.document))).toEqual([]);
    const changed = changeDial(made.document, 'radius', { value: 0.05, label: 'Thickness' });
    expect(removeDial(changed, 'radius').nodes.find(({ id }) => id === 'tube')!.settings).toEqual({ radius: 0.05 });
    expect(dialFromSetting(tubeDocument(), 'tube', 'caps')!.document.dials![0]).toMatchObject({ kind: 'choice', choices: ['open', 'flat', 'domed'] });
  });

  test('copies have fresh ids, their own wires and output names', () => {
    const document = tubeDocument();
    const cutting = cut(document, new Set(['hang', 'tube', 'output']));
    const pasted = paste(document, readCutting(JSON.stringify(cutting))!, [10, 20]);
    expect(pasted.ids).toEqual(['hang2', 'tube2', 'output2']);
    const own = [
      { from: ['hang2', 'curves'], to: ['tube2', 'curves'] },
      { from: ['tube2', 'mesh'], to: ['output2', 'any'] },
    ];
    // They are fed as what they were copied from is, where that is there.
    expect(pasted.document.wires.slice(3)).toEqual([...own, { from: ['line', 'curves'], to: ['hang2', 'curves'] }]);
    expect(paste(document, { ...cutting, feeds: [] }, [0, 0]).document.wires.slice(3)).toEqual(own);
    expect(paste(empty, cutting, [0, 0]).document.wires.length).toBe(2);
    expect(checkDocument(requireDocument(pasted.document))).toEqual([]);
    expect(readCutting('{"nodes":[]}')).toBeNull();
    expect(readCutting('not JSON')).toBeNull();
  });

  test('wires of a multi-port change places', () => {
    let document = tubeDocument();
    const made = addNode(document, 'skin.rope', [0, 0]);
    document = connect(connect(made.document, ['hang', 'curves'], ['rope', 'curves']), ['rope', 'mesh'], ['output', 'any']);
    const second = document.wires[document.wires.length - 1];
    const moved = moveWire(document, second, -1);
    expect(moved.wires.filter(({ to }) => to[0] === 'output').map(({ from }) => from[0])).toEqual(['rope', 'tube']);
    expect(moveWire(moved, second, -1)).toBe(moved);
  });
});

describe('typing into number fields', () => {
  const cases: readonly (readonly [string, number | null])[] = [
    ['2*15mm', 0.03],
    ['360/8', 45],
    ['-(1+2)^2', -9],
    ['1,5 m + 20cm', 1.7],
    ['1e-3', 0.001],
    ['0.5turn', 180],
    ['.25', 0.25],
    ['2 (3)', null],
    ['3 parsecs', null],
    ['1/0', null],
    ['', null],
    ['constructor', null],
    ['(1', null],
  ];
  for (const [text, value] of cases)
    test(`"${text}" is ${value}`, () => (value === null ? expect(arithmetic(text)).toBeNull() : expect(arithmetic(text)).toBeCloseTo(value, 12)));

  test('any number written out comes back', () =>
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: 0 }), (value) => {
        expect(arithmetic(String(value))).toBe(value);
      }),
    ));
});

test('the place nearest to the pointer on the strip', () => {
  const s = Float32Array.of(0, 1, 2.5, 4);
  expect([-1, 0.4, 0.6, 1.8, 9].map((metres) => hoverPlace(s, metres))).toEqual([0, 0, 1, 2, 3]);
});

describe('keys', () => {
  const press = (key: string, more: object = {}): KeyboardEvent =>
    ({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, target: null, ...more }) as KeyboardEvent;

  test('are told as they are written', () => {
    expect(shortcutOf(press('n'))).toBe('N');
    expect(shortcutOf(press('z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl Shift Z');
    expect(shortcutOf(press('z', { metaKey: true }))).toBe('Ctrl Z');
    expect(shortcutOf(press('+', { shiftKey: true }))).toBe('+');
    expect(shortcutOf(press('ArrowLeft'))).toBe('←');
  });
});

test('a wire goes to what takes it as it is before what it would be turned into', () => {
  const [copies, line] = [addNode(addNode(emptyDocument, 'lay.line', [0, 0]).document, 'place.copies', [0, 0]), 'line'];
  // Curves are taken as points too, by an input that comes before the one for curves.
  expect(bestInput(copies.document, [line, 'curves'], copies.id)).toEqual([copies.id, 'curves']);
  const wired = connect(copies.document, [line, 'curves'], [copies.id, 'curves']);
  expect(bestInput(wired, [line, 'curves'], copies.id)).toEqual([copies.id, 'points']);
});
