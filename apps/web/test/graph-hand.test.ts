import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import { DocumentService } from '../src/app/ropewalk/document/document.service';
import type { End } from '../src/app/ropewalk/document/edits';
import { GraphHand } from '../src/app/ropewalk/graph/graph-hand';
import { inputPlace, outputPlace, type Place } from '../src/app/ropewalk/graph/tag-geometry';
import { Viewport } from '../src/app/ropewalk/graph/viewport';
import { FakeServer, make, stubBrowser } from './services';

/** Two lines beside a tube and a sweep of two inputs, and a number beside a rope. */
const drawn = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Hand',
  nodes: [
    { id: 'line', type: 'lay.line', at: [0, 0] },
    { id: 'circle', type: 'lay.circle', at: [0, 200] },
    { id: 'sweep', type: 'skin.sweep', at: [400, 0] },
    { id: 'tube', type: 'skin.tube', at: [400, 200] },
    { id: 'number', type: 'gauge.number', at: [0, 400] },
    { id: 'rope', type: 'skin.rope', at: [400, 400] },
    { id: 'output', type: 'flow.output', at: [700, 0] },
  ],
  wires: [{ from: ['line', 'curves'], to: ['tube', 'curves'] }],
});

let documents: DocumentService;
let hand: GraphHand;
const asked: unknown[] = [];
const now = (): FilaxisDocument => documents.document();
const wires = (): string[] => now().wires.map(({ from, to }) => `${from.join('.')} > ${to.join('.')}`);
const eyelet = (node: string, port: string): Place =>
  inputPlace(
    now(),
    now().nodes.find(({ id }) => id === node)!,
    port,
  );
const output = (node: string, port: string): Place =>
  outputPlace(
    now(),
    now().nodes.find(({ id }) => id === node)!,
    port,
  );

beforeEach(() => {
  stubBrowser();
  documents = make(DocumentService, new FakeServer());
  documents.openLoose(drawn);
  asked.length = 0;
  const viewport = new Viewport();
  viewport.pan.set({ x: 0, y: 0 });
  hand = new GraphHand(documents, viewport, {
    add: (at, from) => asked.push(['add', from, Math.round(at.x)]),
    choose: (node, end, _at, pulled) => asked.push(['choose', node, end, ...(pulled ? [pulled.to.join('.')] : [])]),
    refuse: (text) => asked.push(text),
  });
});
afterEach(() => {
  documents.ngOnDestroy();
  vi.unstubAllGlobals();
});

/** Draws a wire from an output to a place. */
function wire(from: End, to: Place): void {
  hand.pressOutput(from, output(...from));
  hand.move(to);
  hand.release(to);
}

describe('a wire that is let go', () => {
  test('goes to the port under the hand, whatever the best guess is', () => {
    wire(['circle', 'curves'], eyelet('sweep', 'profile'));
    expect(wires()).toContain('circle.curves > sweep.profile');
    documents.undo();
    wire(['circle', 'curves'], { x: eyelet('sweep', 'curves').x + 3, y: eyelet('sweep', 'curves').y - 3 });
    expect(wires()).toContain('circle.curves > sweep.curves');
  });

  test('on the body of a tag goes to the best guess', () => {
    wire(['circle', 'curves'], { x: 480, y: 40 });
    expect(wires()).toContain('circle.curves > sweep.curves');
  });

  test('says where it would go, by the node’s and the port’s name, and what it takes the place of', () => {
    hand.pressOutput(['circle', 'curves'], output('circle', 'curves'));
    hand.move(eyelet('tube', 'curves'));
    expect(hand.wiring()!.aim).toMatchObject({ node: 'tube', port: 'curves', to: ['tube', 'curves'], refused: false });
    expect(hand.wiring()!.aim!.says).toBe('Tube · curves, instead of Line');
    hand.release(eyelet('tube', 'curves'));
    expect(wires()).toEqual(['circle.curves > tube.curves']);
    documents.undo();
    expect(wires()).toEqual(['line.curves > tube.curves']);
  });

  test('on a port that does not take it is refused with the reason, and lays nothing', () => {
    hand.pressOutput(['tube', 'mesh'], output('tube', 'mesh'));
    hand.move(eyelet('sweep', 'curves'));
    expect(hand.wiring()!.aim).toMatchObject({ to: null, refused: true, says: 'Sweep takes curves there, not mesh.' });
    hand.release(eyelet('sweep', 'curves'));
    expect(asked).toEqual(['Sweep takes curves there, not mesh.']);
    expect(now()).toBe(drawn);
  });

  test('where several settings take it asks which', () => {
    wire(['number', 'number'], { x: 480, y: 430 });
    expect(asked).toEqual([['choose', 'rope', ['number', 'number']]]);
    expect(now()).toBe(drawn);
  });

  test('on the ground asks for a node; on its own tag, or without having moved, does nothing', () => {
    wire(['circle', 'curves'], { x: 300, y: 300 });
    expect(asked).toEqual([['add', ['circle', 'curves'], 300]]);
    wire(['circle', 'curves'], { x: 60, y: 230 });
    wire(['circle', 'curves'], output('circle', 'curves'));
    expect(asked).toHaveLength(1);
    expect(now()).toBe(drawn);
  });
});

describe('a wire that is taken off an input', () => {
  const takeOff = (to: Place): void => {
    expect(hand.pressInput(['tube', 'curves'], eyelet('tube', 'curves'))).toBe(true);
    hand.move(to);
    hand.release(to);
  };

  test('goes away on the ground', () => {
    takeOff({ x: 300, y: 500 });
    expect(wires()).toEqual([]);
    documents.undo();
    expect(now()).toEqual(drawn);
  });

  test('goes to another input', () => {
    takeOff(eyelet('sweep', 'profile'));
    expect(wires()).toEqual(['line.curves > sweep.profile']);
    expect(documents.undoLabel()).toBe('Move wire');
  });

  test('stays when it is put back, let go at once, or let go where it does not fit', () => {
    takeOff(eyelet('tube', 'curves'));
    takeOff({ x: eyelet('tube', 'curves').x + 2, y: eyelet('tube', 'curves').y });
    expect(asked).toEqual([]);
    takeOff({ x: 60, y: 430 });
    expect(asked).toHaveLength(1);
    expect(now()).toBe(drawn);
  });

  test('over a node with several settings it asks which, and stays until that is said', () => {
    const formula = { id: 'formula', type: 'gauge.formula', at: [0, 600] as const };
    documents.openLoose({ ...drawn, nodes: [...drawn.nodes, formula], wires: [{ from: ['number', 'number'], to: ['formula', 'a'] }] });
    const before = now();
    expect(hand.pressInput(['formula', 'a'], eyelet('formula', 'a'))).toBe(true);
    hand.move({ x: 480, y: 430 });
    hand.release({ x: 480, y: 430 });
    expect(asked).toEqual([['choose', 'rope', ['number', 'number'], 'formula.a']]);
    expect(now()).toBe(before);
  });

  test('an input without a wire gives none', () => {
    expect(hand.pressInput(['sweep', 'curves'], eyelet('sweep', 'curves'))).toBe(false);
  });
});

describe('tags under the hand', () => {
  const press = (id: string, adding = false): void =>
    hand.pressTag(
      now().nodes.find((node) => node.id === id)!,
      { x: 10, y: 10 },
      adding,
    );

  test('a click on one of several chooses it alone; a drag moves all', () => {
    documents.select('line', 'circle');
    press('circle');
    hand.release({ x: 10, y: 10 });
    expect([...documents.selection()]).toEqual(['circle']);
    documents.select('line', 'circle');
    press('circle');
    hand.move({ x: 110, y: 60 });
    hand.release({ x: 110, y: 60 });
    expect(now().nodes.slice(0, 2).map(({ at }) => at)).toEqual([[100, 50], [100, 250]]); // prettier-ignore
    expect([...documents.selection()]).toEqual(['line', 'circle']);
    documents.undo();
    expect(now()).toEqual(drawn);
  });

  test('with a key held one is chosen besides the others, or no more', () => {
    press('line');
    hand.release({ x: 10, y: 10 });
    press('tube', true);
    hand.release({ x: 10, y: 10 });
    expect([...documents.selection()]).toEqual(['line', 'tube']);
    press('line', true);
    hand.release({ x: 10, y: 10 });
    expect([...documents.selection()]).toEqual(['tube']);
  });

  test('less than three pixels is no move', () => {
    press('line');
    hand.move({ x: 12, y: 11 });
    hand.release({ x: 12, y: 11 });
    expect(now()).toBe(drawn);
  });

  test('a node without wires that is dropped on a wire goes into it, and what stands behind makes room', () => {
    const smooth = { id: 'smooth', type: 'shape.smooth', at: [900, 900] as const };
    documents.openLoose({ ...drawn, nodes: [...drawn.nodes.filter(({ id }) => id !== 'sweep' && id !== 'circle'), smooth] });
    hand.pressTag(smooth, { x: 900, y: 900 }, false);
    // The wire from the line to the tube passes about x 280, y 130.
    hand.move({ x: 204, y: 100 });
    hand.release({ x: 204, y: 100 });
    expect(wires()).toEqual(['line.curves > smooth.any', 'smooth.any > tube.curves']);
    const at = (id: string): readonly [number, number] => now().nodes.find((node) => node.id === id)!.at!;
    expect(at('smooth')[0] + 152).toBeLessThan(at('tube')[0]);
  });

  test('a frame chooses what it touches, from the top down', () => {
    hand.pressGround({ x: -20, y: 250 }, true);
    hand.move({ x: 60, y: -20 });
    hand.release({ x: 60, y: -20 });
    expect([...documents.selection()]).toEqual(['line', 'circle']);
  });

  test('a drag that is taken back leaves everything where it was', () => {
    press('line');
    hand.move({ x: 300, y: 300 });
    hand.cancel();
    expect(now()).toBe(drawn);
  });
});

test('the ground is dragged along; a mere click on it tells its place', () => {
  hand.pressGround({ x: 5, y: 5 }, false);
  expect(hand.release({ x: 6, y: 6 })).toEqual({ x: 6, y: 6 });
  hand.pressGround({ x: 5, y: 5 }, false);
  hand.move({ x: 55, y: 25 });
  expect(hand.release({ x: 55, y: 25 })).toBeNull();
});
