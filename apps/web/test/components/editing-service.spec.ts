/** What is done to the chosen nodes: deleted, copied, switched, stepped through, frozen; and files that become nodes. */
import { TestBed } from '@angular/core/testing';
import { Component } from '@angular/core';
import { of, throwError } from 'rxjs';
import { describe, expect, test, vi } from 'vitest';
import type { FilaxisDocument } from '@filaxis/core';
import { EditingService } from '../../src/app/ropewalk/document/editing.service';
import { FakeServer } from '../services';
import { graph, mounted, type Mounted } from './mounted';

@Component({ selector: 'fx-nothing', template: '' })
class Nothing {}

const nodes = [
  { id: 'line', type: 'lay.line', at: [0, 0] as const },
  { id: 'smooth', type: 'shape.smooth', at: [204, 0] as const },
  { id: 'tube', type: 'skin.tube', at: [408, 0] as const },
  { id: 'low', type: 'lay.circle', at: [210, 300] as const },
];
const wires = [
  { from: ['line', 'curves'], to: ['smooth', 'any'] },
  { from: ['smooth', 'any'], to: ['tube', 'curves'] },
] as const;

/** What the worker says, as one answer or a refusal. */
const answered = (value: object): never => of(value) as never;
const refused = (message: string): never => throwError(() => new Error(message)) as never;

interface Edited extends Mounted<unknown> {
  readonly editing: EditingService;
  readonly put: [string, string, number][];
  readonly now: () => FilaxisDocument;
  readonly wired: () => string[];
}
async function edited(document = graph(nodes, wires)): Promise<Edited> {
  const put: [string, string, number][] = [];
  const server = Object.assign(new FakeServer(), {
    putAsset: async (hash: string, name: string, bytes: Uint8Array) => void put.push([hash, name, bytes.length]),
  });
  const made = await mounted(Nothing, { document, server });
  const now = (): FilaxisDocument => made.documents.document();
  return { ...made, put, now, editing: TestBed.inject(EditingService), wired: () => now().wires.map(({ from, to }) => `${from.join('.')} > ${to.join('.')}`) };
}

describe('the chosen nodes', () => {
  test('are deleted so that what came in goes on, or with a gap; a chosen wire goes alone', async () => {
    const { editing, documents, wired, now } = await edited();
    documents.select('smooth');
    editing.removeChosen();
    expect([wired(), documents.undoLabel(), documents.selection().size]).toEqual([['line.curves > tube.curves'], 'Delete node', 0]);
    documents.undo();
    documents.select('smooth', 'low');
    editing.removeChosen(true);
    expect([wired(), documents.undoLabel(), now().nodes.length]).toEqual([[], 'Delete 2 nodes', 2]);
    documents.undo();
    documents.selectedWire.set(now().wires[1]);
    editing.removeChosen();
    expect([wired(), documents.undoLabel()]).toEqual([['line.curves > smooth.any'], 'Remove wire']);
    documents.select();
    editing.removeChosen();
    expect(documents.undoLabel()).toBe('Remove wire');
  });

  test('are copied beside them, fed as they are or not, and the copies are chosen', async () => {
    const { editing, documents, now, wired } = await edited();
    editing.duplicate();
    expect(documents.undoLabel()).toBeNull();
    documents.select('tube');
    editing.duplicate();
    const copy = now().nodes.at(-1)!;
    expect([copy.at, [...documents.selection()], wired().at(-1), documents.undoLabel()]).toEqual([[432, 80], [copy.id], `smooth.any > ${copy.id}.curves`, 'Duplicate']); // prettier-ignore
    documents.select('tube');
    editing.duplicate(true);
    expect([wired().length, documents.undoLabel()]).toEqual([3, 'Duplicate without wires']);
  });

  test('are put in from text at a place, or moved by some way; other text is none', async () => {
    const { editing, documents, now } = await edited();
    documents.select('smooth', 'low');
    const text = editing.chosenAsText();
    expect(editing.putIn('Paste', text, { at: { x: 1000.4, y: 50.2 } })).toBe(true);
    // The upper left corner of both is at 204, 0.
    expect(now().nodes.slice(-2).map(({ at }) => at)).toEqual([[1000, 50], [1006, 350]]); // prettier-ignore
    editing.putIn('Paste', text, {});
    expect(now().nodes.at(-2)!.at).toEqual([236, 48]);
    expect([editing.putIn('Paste', 'hello', {}), documents.undoLabel()]).toEqual([false, 'Paste']);
  });

  test('are switched off and on where what comes in can pass', async () => {
    const { editing, documents, now } = await edited();
    documents.select('line');
    editing.switchChosen();
    expect([editing.canSwitch(), documents.undoLabel()]).toEqual([false, null]);
    documents.select('smooth');
    expect(editing.canSwitch()).toBe(true);
    editing.switchChosen();
    expect([now().nodes[1].settings!['on'], documents.undoLabel()]).toEqual([false, 'Switch off']);
    editing.switchChosen();
    expect([now().nodes[1].settings?.['on'], documents.undoLabel()]).toEqual([undefined, 'Switch on']);
  });

  test('are stepped through to what lies nearest ahead, rather straight on than aslant', async () => {
    const { editing, documents } = await edited();
    expect(editing.step(1, 0)).toBe('line');
    expect([editing.step(1, 0), editing.step(1, 0), editing.step(1, 0)]).toEqual(['smooth', 'tube', null]);
    expect(documents.chosenId()).toBe('tube');
    expect([editing.step(-1, 0), editing.step(0, 1), editing.step(0, -1)]).toEqual(['smooth', 'low', 'smooth']);
  });
});

describe('freezing', () => {
  test('puts a node behind, with what was given as a file; thawing lets it pass again', async () => {
    const { editing, documents, evaluation, now, put, wired } = await edited();
    const frozen = vi.spyOn(evaluation, 'freeze').mockReturnValue(answered({ bytes: Uint8Array.of(1, 2, 3), counts: { curves: 1, points: 12 } }));
    vi.spyOn(evaluation, 'readAsset').mockReturnValue(answered({}));
    await editing.freeze('smooth');
    const id = documents.chosenId()!;
    const node = now().nodes.find((each) => each.id === id)!;
    const hash = node.settings!['asset'] as string;
    expect([frozen.mock.calls[0][0], put, documents.undoLabel()]).toEqual([['smooth', 'any'], [[hash, 'Smooth: 1 curve, 12 points', 3]], 'Freeze Smooth']); // prettier-ignore
    expect(now().assets![hash]).toMatchObject({ name: 'Smooth: 1 curve, 12 points', bytes: 3 });
    expect(wired()).toEqual(expect.arrayContaining([`smooth.any > ${id}.any`, `${id}.any > tube.curves`]));
    // Another time it is the node itself that is frozen anew.
    const before = now().nodes.length;
    await editing.freeze(id);
    expect([now().nodes.length, frozen.mock.calls[1][0]]).toEqual([before, ['smooth', 'any']]);
    editing.thaw(id);
    expect([now().nodes.find((each) => each.id === id)!.settings?.['asset'], documents.undoLabel()]).toEqual([undefined, 'Thaw']);
  });

  test('says why there is nothing to keep, and changes nothing', async () => {
    const { editing, documents, evaluation } = await edited(graph([{ id: 'ice', type: 'flow.frozen' }]));
    await expect(editing.freeze('ice')).rejects.toThrow('Nothing comes in that could be frozen.');
    vi.spyOn(evaluation, 'freeze').mockReturnValue(refused('There is nothing yet.'));
    expect(documents.undoLabel()).toBeNull();
  });
});

describe('files', () => {
  const read = (given: Edited, found: object): void => void vi.spyOn(given.evaluation, 'readAsset').mockReturnValue(answered(found));

  test('become nodes beneath each other, of the kind that holds what is in them', async () => {
    const given = await edited();
    read(given, { faces: 0, curves: 3, points: 0 });
    await given.editing.importFiles([new File(['a'], 'plan.svg'), new File(['bb'], 'rail.csv')], { x: 10.4, y: 20.6 }, null);
    const [first, second] = given.now().nodes.slice(-2);
    expect([first.type, first.at, second.at, given.documents.undoLabel(), given.documents.chosenId()]).toEqual(['lay.importCurves', [10, 21], [10, 101], 'Import rail.csv', second.id]); // prettier-ignore
    expect(given.put.map(([, name, size]) => [name, size])).toEqual([['plan.svg', 1], ['rail.csv', 2]]); // prettier-ignore
    read(given, { faces: 12, curves: 3, points: 0 });
    await given.editing.importFiles([new File(['c'], 'body.obj')], { x: 0, y: 0 }, null);
    expect(given.now().nodes.at(-1)!.type).toBe('lay.importMesh');
    read(given, { faces: 0, curves: 0, points: 9 });
    await given.editing.importFiles([new File(['d'], 'cloud.ply')], { x: 0, y: 0 }, null);
    expect(given.now().nodes.at(-1)!.type).toBe('lay.importPoints');
  });

  test('are given to a node that takes what is in them; others are refused by name, and nothing changes', async () => {
    const given = await edited(graph([{ id: 'mesh', type: 'lay.importMesh' }]));
    read(given, { faces: 12, curves: 0, points: 0 });
    await given.editing.importFiles([new File(['a'], 'body.obj')], { x: 0, y: 0 }, 'mesh');
    expect([given.now().nodes.length, typeof given.now().nodes[0].settings!['asset'], given.documents.undoLabel()]).toEqual([1, 'string', 'Choose file']);
    read(given, { faces: 0, curves: 4, points: 0 });
    const before = given.now();
    await expect(given.editing.importFiles([new File(['b'], 'plan.svg')], { x: 0, y: 0 }, 'mesh')).rejects.toThrow(/^plan\.svg: it has no /);
    await expect(given.editing.importFiles([new File(['b'], 'film.mov')], { x: 0, y: 0 }, null)).rejects.toThrow(
      /^film\.mov: files that can be dropped here are /,
    );
    vi.spyOn(given.evaluation, 'readAsset').mockReturnValue(refused('Line 3: a face needs three corners or more.'));
    await expect(given.editing.importFiles([new File(['b'], 'body.obj')], { x: 0, y: 0 }, null)).rejects.toThrow(
      'body.obj: Line 3: a face needs three corners or more.',
    );
    expect(given.now()).toBe(before);
  });

  test('that another names go into that one', async () => {
    const given = await edited();
    read(given, { faces: 1, curves: 0, points: 0 });
    const gltf = JSON.stringify({ asset: { version: '2.0' }, buffers: [{ uri: 'a.bin', byteLength: 3 }] });
    await given.editing.importFiles([new File([gltf], 'a.gltf'), new File([Uint8Array.of(1, 2, 3)], 'a.bin')], { x: 0, y: 0 }, null);
    expect([given.put.length, given.put[0][1], given.now().nodes.length]).toEqual([1, 'a.gltf', 5]);
    expect(given.put[0][2]).toBeGreaterThan(gltf.length);
  });
});
