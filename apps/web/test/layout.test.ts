import { describe, expect, test } from 'vitest';
import { checkDocument, requireDocument, type FilaxisDocument } from '@filaxis/core';
import { remedied } from '../src/app/ropewalk/checks/remedies';
import { addDial, dialFromSetting, dialUses, moveDial, removeDial } from '../src/app/ropewalk/document/dials';
import { bestInput, connect, insertOnWire, moveNodes, sameMeaning, setSetting, writerOf } from '../src/app/ropewalk/document/edits';
import { addArea, addNote, align, areasOf, changeNote, moveArea, notesOf, removeArea, removeNote } from '../src/app/ropewalk/document/layout';

const base = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Layout',
  dials: [{ id: 'thick', label: 'Thick', kind: 'number', value: -0.3 }],
  nodes: [
    { id: 'line', type: 'lay.line', at: [0, 0] },
    { id: 'set', type: 'gauge.set', at: [200, 30], settings: { name: 'width', value: { formula: 'thick*2 + thickness' } } },
    { id: 'tube', type: 'skin.tube', at: [430, 10], settings: { radius: { attribute: 'width' }, sides: { dial: 'thick' } } },
    { id: 'number', type: 'gauge.number', at: [200, 300] },
    { id: 'hang', type: 'shape.hang', at: [90, 200] },
  ],
  wires: [
    { from: ['line', 'curves'], to: ['set', 'any'] },
    { from: ['set', 'any'], to: ['tube', 'curves'] },
  ],
});
const at = (document: FilaxisDocument, id: string): readonly number[] => document.nodes.find((node) => node.id === id)!.at!;

describe('areas and notes', () => {
  test('an area lies round its nodes, moves with what stands in it, and leaves it when it goes', () => {
    const grouped = addArea(base, new Set(['line', 'set']), 'Start');
    const [area] = areasOf(grouped);
    expect(area).toMatchObject({ id: 'area', title: 'Start', at: [-18, -34] });
    const noted = addNote(grouped, [20, 20]).document;
    const moved = moveArea(noted, 'area', 100, 50);
    expect([at(moved, 'line'), at(moved, 'set'), at(moved, 'tube')]).toEqual([[100, 50], [300, 80], [430, 10]]); // prettier-ignore
    expect(notesOf(moved)[0].at).toEqual([120, 70]);
    expect(areasOf(moved)[0].at).toEqual([82, 16]);
    expect(removeArea(moved, 'area').nodes).toEqual(moved.nodes);
    const written = changeNote(noted, 'note', { text: 'Mind the tide' });
    expect(notesOf(written)[0].text).toBe('Mind the tide');
    expect(notesOf(removeNote(written, 'note'))).toEqual([]);
    expect(requireDocument(JSON.parse(JSON.stringify(written)))).toMatchObject({ notes: [{ text: 'Mind the tide' }] });
  });

  test('areas of another form are left alone', () => expect(areasOf({ ...base, areas: [{ shape: 'round' }] })).toEqual([]));
});

describe('the graph', () => {
  test('nodes are lined up and spread evenly', () => {
    const ids = new Set(['line', 'set', 'tube']);
    expect([...ids].map((id) => at(align(base, ids, 'column'), id)[0])).toEqual([0, 0, 0]);
    expect([...ids].map((id) => at(align(base, ids, 'row'), id)[1])).toEqual([0, 0, 0]);
    expect([...ids].map((id) => at(align(base, ids, 'evenAcross'), id)[0])).toEqual([0, 215, 430]);
  });

  test('a node is put on a wire where it fits', () => {
    const inserted = insertOnWire(base, 'hang', base.wires[0])!;
    expect(inserted.wires).toEqual([
      { from: ['line', 'curves'], to: ['hang', 'curves'] },
      { from: ['hang', 'curves'], to: ['set', 'any'] },
      { from: ['set', 'any'], to: ['tube', 'curves'] },
    ]);
    expect(checkDocument(inserted)).toEqual([]);
    expect(insertOnWire(base, 'number', base.wires[0])).toBeNull();
    expect(insertOnWire(base, 'tube', base.wires[1])).toBeNull();
  });

  test('a number goes into a setting', () => {
    expect(bestInput(base, ['number', 'number'], 'tube')).toEqual(['tube', 'radius']);
    const wired = connect(base, ['number', 'number'], ['tube', 'sides']);
    expect(checkDocument(wired)).toEqual([]);
    expect(bestInput(base, ['number', 'number'], 'line')).toEqual(['line', 'points']);
  });

  test('moving tags, areas and notes does not change what is made; settings, wires and dials do', () => {
    expect(sameMeaning(base, moveNodes(base, new Map([['line', [5, 5]]])))).toBe(true);
    expect(sameMeaning(base, addNote(base, [0, 0]).document)).toBe(true);
    expect(sameMeaning(base, setSetting(base, 'line', 'points', 3))).toBe(false);
    expect(sameMeaning(base, connect(base, ['number', 'number'], ['tube', 'sides']))).toBe(false);
  });

  test('where an attribute comes from', () => {
    expect(writerOf(base, 'tube', 'width')).toBe('set');
    expect(writerOf(base, 'tube', 'depth')).toBeNull();
  });
});

describe('dials', () => {
  test('formulas count as uses, and keep the value when the dial goes', () => {
    expect(dialUses(base, 'thick')).toEqual([{ node: 'set', setting: 'value' }, { node: 'tube', setting: 'sides' }]); // prettier-ignore
    const without = removeDial(base, 'thick');
    expect(without.dials).toEqual([]);
    expect(without.nodes[1].settings!['value']).toEqual({ formula: '(-0.3)*2 + thickness' });
    expect(without.nodes[2].settings!['sides']).toBe(-0.3);
  });

  test('new ones get ids that formulas can read, and are put in order', () => {
    const { document, id } = addDial(base, 'number');
    expect(id).toBe('number');
    const third = addDial(document, 'number');
    expect(third.id).toBe('number2');
    expect(moveDial(third.document, 'number2', -1).dials!.map((dial) => dial.id)).toEqual(['thick', 'number2', 'number']);
    expect(moveDial(base, 'thick', -1)).toBe(base);
    for (const kind of ['integer', 'vector', 'boolean', 'choice', 'colour', 'text', 'seed'] as const)
      expect(checkDocument(addDial(base, kind).document)).toEqual([]);
    // "step" is a function of formulas.
    expect(dialFromSetting({ ...base, nodes: [...base.nodes, { id: 'row', type: 'shape.row' }] }, 'row', 'step')!.id).toBe('stepDial');
  });
});

describe('remedies change the graph', () => {
  test('a setting is put', () =>
    expect(remedied(base, { do: 'set', label: '', node: 'tube', setting: 'caps', value: 'flat' }).nodes[2].settings).toMatchObject({ caps: 'flat' }));

  test('a node is put after another, with all its wires', () => {
    const wired = connect({ ...base, nodes: [...base.nodes, { id: 'out', type: 'flow.output' }] }, ['tube', 'mesh'], ['out', 'any']);
    const mended = remedied(wired, { do: 'insert', label: '', after: 'tube', type: 'mesh.normals', settings: { flip: true } });
    expect(mended.wires.slice(2)).toEqual([
      { from: ['normals', 'mesh'], to: ['out', 'any'] },
      { from: ['tube', 'mesh'], to: ['normals', 'mesh'] },
    ]);
    expect(checkDocument(mended).filter(({ node }) => node === 'normals')).toEqual([]);
  });
});
