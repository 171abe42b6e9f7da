import { describe, expect, test } from 'vitest';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import { connect } from '../src/app/ropewalk/document/edits';
import { inputPlace, placeOf, tagHeight, tagWidth, type Place } from '../src/app/ropewalk/graph/tag-geometry';
import { aimOf, eyeletAt, nodeAt, portText } from '../src/app/ropewalk/graph/wire-aim';

const document = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Aim',
  nodes: [
    { id: 'line', type: 'lay.line', at: [0, 0] },
    { id: 'box', type: 'lay.box', at: [0, 200] },
    { id: 'run', type: 'place.run', at: [400, 0] },
    { id: 'hose', type: 'skin.tube', at: [400, 200] },
  ],
  wires: [],
});
const node = (id: string) => document.nodes.find((each) => each.id === id)!;
const middleOf = (id: string): Place => ({ x: placeOf(node(id)).x + tagWidth / 2, y: placeOf(node(id)).y + tagHeight / 2 });
const aim = (from: readonly [string, string], at: Place, given: FilaxisDocument = document, zoom = 1) => aimOf(given, from, at, zoom, null);

describe('what a wire under the hand is held over', () => {
  test('the topmost node with a rim to its left, and nothing on bare ground', () => {
    const { x, y } = placeOf(node('run'));
    expect(nodeAt(document, { x: x - 10, y: y + 10 })?.id).toBe('run');
    expect(nodeAt(document, { x: x - 20, y: y + 10 })).toBeNull();
    const over = { ...document, nodes: [...document.nodes, { ...node('hose'), id: 'above', at: [410, 10] as const }] };
    expect(nodeAt(over, middleOf('run'))?.id).toBe('above');
    expect(aim(['line', 'curves'], { x: 250, y: 120 })).toBeNull();
    // A wire is not led back to where it comes from.
    expect(aim(['line', 'curves'], middleOf('line'))).toBeNull();
  });

  test('an eyelet is meant from as far on screen at any zoom', () => {
    const { x, y } = inputPlace(document, node('run'), 'objects');
    const at = (away: number): Place => ({ x: x - away, y });
    expect(eyeletAt(document, node('run'), at(10), 1)).toBe('objects');
    expect(eyeletAt(document, node('run'), at(14), 1)).toBeNull();
    expect(eyeletAt(document, node('run'), at(20), 0.5)).toBe('objects');
  });

  test('the port under the hand wins over every guess, and says why it refuses', () => {
    const refused = aim(['line', 'curves'], inputPlace(document, node('run'), 'objects'))!;
    expect([refused.to, refused.port, refused.refused]).toEqual([null, 'objects', true]);
    expect(refused.says).toMatch(/mesh/);
    const taken = aim(['box', 'mesh'], inputPlace(document, node('run'), 'objects'))!;
    expect([taken.to, taken.refused, taken.says]).toEqual([['run', 'objects'], false, 'Run of pieces · objects: mesh, takes many']);
  });

  test('on the body the fitting input is guessed; one that is taken says what it would lose', () => {
    expect(aim(['line', 'curves'], middleOf('hose'))).toMatchObject({ to: ['hose', 'curves'], port: null, says: 'Tube · curves' });
    const wired = connect(document, ['line', 'curves'], ['hose', 'curves']);
    const second = { ...wired, nodes: [...wired.nodes, { id: 'ring', type: 'lay.circle', at: [0, 400] as const }] };
    expect(aim(['ring', 'curves'], middleOf('hose'), second)?.says).toBe('Tube · curves, instead of Line');
    expect(aim(['box', 'mesh'], middleOf('hose'))).toMatchObject({ to: null, refused: true });
  });

  test('a wire that was pulled off an input may go back there', () => {
    const wired = connect(document, ['line', 'curves'], ['hose', 'curves']);
    const back = aimOf(wired, ['line', 'curves'], middleOf('hose'), 1, wired.wires[0])!;
    expect([back.to, back.says]).toEqual([['hose', 'curves'], 'Tube · curves']);
  });

  test('ports say what they take', () => {
    expect(portText({ name: 'any', kinds: ['any'] })).toBe('input: anything');
    expect(portText({ name: 'points', kinds: ['points', 'curves'], optional: true })).toBe('points: points or curves, may be left open');
  });
});
