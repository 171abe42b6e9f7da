import { TestBed } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { describe, expect, test, vi } from 'vitest';
import { nodeDefinitions } from '@filaxis/core';
import { GraphCommands } from '../../src/app/ropewalk/graph/graph-commands';
import { GraphView } from '../../src/app/ropewalk/graph/graph-view';
import { Tidying } from '../../src/app/ropewalk/graph/tidying';
import { Panes } from '../../src/app/ropewalk/panes';
import { Peeking } from '../../src/app/ropewalk/peeking';
import { Transfer } from '../../src/app/ropewalk/transfer';
import { recipes } from '../../src/app/ropewalk/recipes/recipes';
import { Notices } from '../../src/app/shared/notices';
import { readView } from '../../src/app/ropewalk/view-state';
import { graph, mounted, withClipboard, type Mounted } from './mounted';

const nodes = [
  { id: 'line', type: 'lay.line', at: [0, 0] as const },
  { id: 'tube', type: 'skin.tube', at: [204, 0] as const },
  { id: 'far', type: 'lay.circle', at: [900, 500] as const },
];
const wires = [{ from: ['line', 'curves'], to: ['tube', 'curves'] }] as const;

/** The graph with what keys, menus and the search do with it. */
async function parts(): Promise<Mounted<GraphView> & { commands: GraphCommands; panes: Panes; peeking: Peeking; transfer: Transfer }> {
  const made = await mounted(GraphView, {
    inputs: { find: () => [] },
    document: graph(nodes, wires),
    more: [GraphCommands, Panes, Peeking, Tidying, Transfer],
  });
  const commands = TestBed.inject(GraphCommands);
  commands.view = () => made.component;
  return { ...made, commands, panes: TestBed.inject(Panes), peeking: TestBed.inject(Peeking), transfer: TestBed.inject(Transfer) };
}
const added = (made: Mounted<unknown>): (typeof nodes)[number] => made.documents.document().nodes.at(-1) as (typeof nodes)[number];
const wiresOf = (made: Mounted<unknown>): string[] => made.documents.document().wires.map(({ from, to }) => `${from.join('.')} > ${to.join('.')}`);

describe('commands of the graph', () => {
  test('a node is added after the chosen one, wired to it, chosen, and has its settings shown', async () => {
    const made = await parts();
    made.panes.panel.set('dials');
    made.documents.select('tube');
    made.commands.addByName('mesh.material', { name: 'hemp' });
    expect(added(made)).toMatchObject({ type: 'mesh.material', settings: { name: 'hemp' } });
    expect(added(made).at[0]).toBeGreaterThan(204);
    expect([wiresOf(made).at(-1), made.documents.chosenId(), made.panes.panel()]).toEqual([`tube.mesh > ${added(made).id}.any`, added(made).id, 'settings']);
  });

  test('what takes no wires is put before the chosen node; on a chosen wire a node goes between', async () => {
    const made = await parts();
    made.documents.select('tube');
    made.commands.addByName('lay.circle');
    expect(added(made).at[0]).toBeLessThan(204);
    made.documents.select();
    made.documents.selectedWire.set(wires[0]);
    made.commands.addByName('pace.reverse');
    expect(wiresOf(made)).toEqual(expect.arrayContaining([`line.curves > ${added(made).id}.curves`, `${added(made).id}.curves > tube.curves`]));
  });

  test('the search for a node is opened with what it will take; without a graph it is not', async () => {
    const made = await parts();
    made.documents.select('line');
    made.commands.openAdd();
    expect(made.commands.adding()!.from).toEqual([['line', 'curves']]);
    made.commands.adding.set(null);
    made.commands.view = () => undefined;
    made.commands.openAdd();
    expect(made.commands.adding()).toBeNull();
  });

  test('arrows choose the neighbour and give it the keyboard, unless a search is open', async () => {
    const made = await parts();
    document.body.append(made.host);
    made.documents.select('line');
    made.commands.step(1, 0);
    await made.settle();
    expect([made.documents.chosenId(), (document.activeElement as HTMLElement).dataset['node']]).toEqual(['tube', 'tube']);
    made.commands.openAdd();
    made.commands.goTo('line');
    await made.settle();
    expect([made.documents.chosenId(), (document.activeElement as HTMLElement).dataset['node']]).not.toEqual(['line', 'line']);
  });

  test('an example of a node is put in beneath the graph, wired, chosen and peeked at, as one change', async () => {
    const made = await parts();
    made.documents.select('tube');
    made.commands.putExample(made.documents.chosenDefinition()!);
    const { nodes: all } = made.documents.document();
    const put = all.slice(3);
    expect(put.map(({ type }) => type)).toEqual(['lay.line', 'shape.hang', 'skin.tube']);
    expect(Math.min(...put.map(({ at }) => at![1]))).toBeGreaterThan(500);
    expect([made.documents.chosenId(), made.peeking.peek()]).toEqual([put[2].id, put[2].id]);
    expect(wiresOf(made).slice(1)).toEqual([`${put[0].id}.curves > ${put[1].id}.curves`, `${put[1].id}.curves > ${put[2].id}.curves`]);
    made.documents.undo();
    expect(made.documents.document().nodes).toHaveLength(3);
    // What shows a number is not the number.
    made.commands.putExample(nodeDefinitions.get('gauge.number')!);
    expect([made.documents.chosenDefinition()!.type, made.peeking.peek()]).toEqual(['gauge.number', added(made).id]);
    expect(added(made).type).toBe('skin.tube');
    made.peeking.peek.set(null);
    made.commands.putExample(nodeDefinitions.get('lay.importMesh')!);
    expect(made.peeking.peek()).toBeNull();
  });

  test('areas, notes, rows and names are made of what is chosen, each as one change', async () => {
    const made = await parts();
    made.documents.select('line', 'tube', 'far');
    made.commands.align('row');
    expect(new Set(made.documents.document().nodes.map((node) => node.at![1])).size).toBe(1);
    made.commands.group();
    made.commands.note();
    expect(made.documents.undoLabel()).toBe('Add a note');
    made.documents.undo();
    made.documents.undo();
    expect(made.documents.undoLabel()).toBe('Align');
    made.documents.select('tube');
    made.commands.renameChosen();
    expect(made.commands.renaming()).toBe('tube');
  });

  test('what cannot be frozen is said', async () => {
    const made = await parts();
    const said = vi.spyOn(TestBed.inject(MatSnackBar), 'open');
    made.documents.select('tube');
    const done = made.commands.freezeChosen();
    made.worker.say({ kind: 'no-answer', request: made.worker.heard('freeze')[0].request, message: 'Tube gives nothing.' });
    await done;
    expect(said).toHaveBeenCalledWith('Tube gives nothing.', 'Close', { duration: 6000 });
  });
});

describe('panes', () => {
  test('are as they were left, and sizes are kept as they are set', async () => {
    const { panes } = await parts();
    panes.begin({});
    expect([panes.panel(), panes.tab(), panes.columns()]).toEqual(['dials', 'strip', [43.5, 56.5]]);
    panes.begin({ columns: [30, 70], rows: [50, 50], panel: 'help', tab: 'values' });
    expect([panes.panel(), panes.tab(), panes.columns(), panes.rows()]).toEqual(['help', 'values', [30, 70], [50, 50]]);
    panes.pickCurve(4);
    expect(panes.state()).toMatchObject({ panel: 'help', tab: 'values', strip: { curve: 4 } });
  });

  test('sizes go with the document', async () => {
    const made = await parts();
    await made.documents.open('quay');
    made.panes.resized({ gutterNum: 1, sizes: [20, 80] } as Parameters<Panes['resized']>[0], 'rows');
    expect([made.panes.rows(), readView('quay').rows]).toEqual([[20, 80], [20, 80]]); // prettier-ignore
  });

  test('one fills the window until it is let go, or a tab elsewhere has to be seen', async () => {
    const { panes } = await parts();
    panes.toggleFull('graph');
    expect((['graph', 'view', 'strip'] as const).map((pane) => panes.shows(pane))).toEqual([true, false, false]);
    panes.showTab('checks');
    expect([panes.full(), panes.shows('view')]).toEqual([null, true]);
    panes.toggleFull('strip');
    panes.showTab('uv');
    expect(panes.full()).toBe('strip');
    panes.toggleFull('strip');
    expect(panes.full()).toBeNull();
  });
});

test('a recipe is put in beneath what is there, wired, named apart, with its result chosen; one change takes it back', async () => {
  const made = await parts();
  const [rope] = recipes;
  made.commands.putRecipe(rope);
  const { nodes: now, wires: laid } = made.documents.document();
  expect([now.length, laid.length, made.documents.chosenDefinition()!.type]).toEqual([nodes.length + 5, wires.length + 4, 'flow.output']);
  // A line is there already.
  expect(now[3]).toMatchObject({ type: 'lay.line', name: 'Line 2' });
  expect(Math.min(...now.slice(3).map(({ at }) => at![1]))).toBeGreaterThan(500);
  made.documents.undo();
  expect(made.documents.document().nodes).toHaveLength(nodes.length);
});

test('what waits has nothing to keep in view, and it is said why', async () => {
  const { peeking, documents, evaluation } = await parts();
  const said = vi.spyOn(TestBed.inject(Notices), 'say');
  const state = (more: object): never => ({ in: {}, out: {}, kinds: {}, ms: 1, error: null, warnings: [], value: null, ...more }) as never;
  documents.select('tube');
  evaluation.nodes.set({ tube: state({ error: { message: 'Tube waits for curves.', follows: false } }) });
  peeking.toggleGhost();
  expect([peeking.ghost(), said.mock.calls[0][0]]).toEqual([null, 'Tube cannot be kept in view. Tube waits for curves.']);
  evaluation.nodes.set({ tube: state({ out: { faces: 4 } }) });
  peeking.toggleGhost();
  expect(peeking.ghost()).toBe('tube');
});

test('a peek is ended before a ghost, and by deleting its node', async () => {
  const { documents, peeking, settle } = await parts();
  documents.select('tube');
  peeking.togglePeek();
  peeking.toggleGhost();
  expect([peeking.peek(), peeking.name(), peeking.ghost()]).toEqual(['tube', 'Tube', 'tube']);
  expect([peeking.end(), peeking.peek(), peeking.ghost()]).toEqual([true, null, 'tube']);
  expect([peeking.end(), peeking.ghost(), peeking.end()]).toEqual([true, null, false]);
  peeking.togglePeek();
  documents.apply('Delete', graph([nodes[0]]));
  await settle();
  expect([peeking.peek(), peeking.name()]).toEqual([null, null]);
});

describe('the clipboard', () => {
  /** An event as the browser makes it. */
  const event = (text = ''): ClipboardEvent & { held: Map<string, string> } => {
    const held = new Map([['text/plain', text]]);
    const made = Object.assign(new Event('copy', { cancelable: true }), {
      held,
      clipboardData: { getData: (type: string) => held.get(type) ?? '', setData: (type: string, given: string) => void held.set(type, given) },
    });
    return made as unknown as ClipboardEvent & { held: Map<string, string> };
  };

  test('takes the chosen nodes and gives them back wired as they were; cutting removes them', async () => {
    const made = await parts();
    made.documents.select('line', 'tube');
    const out = event();
    made.transfer.copy(out, true);
    expect([out.defaultPrevented, made.documents.document().nodes.map(({ id }) => id)]).toEqual([true, ['far']]);
    const back = event(out.held.get('text/plain'));
    made.transfer.paste(back);
    expect([back.defaultPrevented, made.documents.document().nodes.length, made.documents.document().wires.length]).toEqual([true, 3, 1]);
  });

  test('what is no nodes is left to the browser, and so is copying with nothing chosen', async () => {
    const made = await parts();
    const other = event('a shopping list');
    made.transfer.paste(other);
    made.documents.select();
    const none = event('kept');
    made.transfer.copy(none);
    expect([other.defaultPrevented, none.defaultPrevented, none.held.get('text/plain'), made.documents.undoLabel()]).toEqual([false, false, 'kept', null]);
  });

  test('is said to be empty where a menu asks for it, and a file that cannot be imported is told by its name', async () => {
    const made = await parts();
    const said = vi.spyOn(TestBed.inject(MatSnackBar), 'open');
    await withClipboard({ readText: () => Promise.reject(new Error('denied')) }, () => made.transfer.pasteHere(true));
    await made.transfer.importFiles([new File(['x'], 'sail.exe')], { x: 0, y: 0 }, null);
    expect(said.mock.calls.map(([text]) => text)).toEqual([
      'There are no nodes in the clipboard.',
      expect.stringMatching(/^sail\.exe: files that can be dropped/),
    ]);
  });
});
