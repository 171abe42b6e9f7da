/** What can be done on the editing screen: each action does its one thing, says when it cannot, and is found by its words and key. */
import { describe, expect, test } from 'vitest';
import { nodeDefinitions, requireDocument, type FilaxisDocument } from '@filaxis/core';
import { ropewalkActions, type RopewalkScreen } from '../src/app/ropewalk/ropewalk-actions';
import { screenSearch } from '../src/app/ropewalk/search/screen-search';
import { lessons } from '../src/app/ropewalk/lessons/lessons';
import { looks } from '../src/app/ropewalk/view3d/looks';

const document = requireDocument({
  format: 'filaxis-graph', version: 1, title: 'Test', wires: [],
  nodes: [{ id: 'line', type: 'lay.line', name: 'Guide' }, { id: 'rope', type: 'skin.rope' }, { id: 'hemp', type: 'mesh.material', settings: { name: 'Tarred hemp' } }],
}); // prettier-ignore

interface Faked {
  readonly screen: RopewalkScreen;
  /** What was called, as `graph.tidy` or `view.look(ink)`. */
  readonly calls: string[];
  readonly applied: [string, FilaxisDocument][];
}
/** A screen on which everything that is asked is only noted; `has`: what it says of itself. */
function fake(
  has: {
    chosen?: string[];
    undo?: string | null;
    wire?: boolean;
    peek?: boolean;
    ghost?: boolean;
    switches?: boolean;
    timed?: boolean;
    playing?: boolean;
    view?: boolean;
  } = {},
): Faked {
  const { chosen = [], undo = null, wire = false, peek = false, ghost = false, switches = false, timed = false, playing = false, view = true } = has;
  const calls: string[] = [];
  const applied: [string, FilaxisDocument][] = [];
  const noted = (name: string, known: object = {}): never =>
    new Proxy(known, {
      get: (own, key: string) =>
        key in own
          ? own[key as never]
          : (...given: unknown[]) =>
              void calls.push(
                `${name}.${key}${given.length ? `(${given.map((each) => (typeof each === 'object' ? JSON.stringify(each) : String(each))).join(', ')})` : ''}`,
              ),
    }) as never;
  const node = document.nodes.find(({ id }) => id === chosen[0]) ?? null;
  const documents = noted('documents', {
    selection: () => new Set(chosen), selectedWire: () => (wire ? {} : null), chosen: () => node, undoLabel: () => undo, redoLabel: () => undo, document: () => document,
    chosenDefinition: () => (node ? nodeDefinitions.get(node.type) : null), apply: (label: string, made: FilaxisDocument) => void applied.push([label, made]),
  }); // prettier-ignore
  const pane = noted('view', { lightHand: noted('light') });
  const parts = {
    documents,
    editing: noted('editing', { canSwitch: () => switches }),
    graph: noted('graph', { view: () => noted('graphView') }),
    panes: noted('panes', { panel: noted('panel') }),
    peeking: noted('peeking', { peek: () => peek, ghost: () => ghost }),
    transfer: noted('transfer'),
    player: noted('player', { timed: () => timed, playing: () => playing }),
    themes: noted('themes'),
    view: () => (view ? pane : undefined),
  };
  return { screen: noted('screen', parts), calls, applied };
}
const done = (name: string, has: Parameters<typeof fake>[0] = {}): string[] => {
  const { screen, calls } = fake(has);
  ropewalkActions(screen)
    .find((action) => action.name === name)!
    .run();
  return calls;
};

describe('actions', () => {
  test.each([
    ['Add a node', 'graph.openAdd'],
    ['Name the chosen node', 'graph.renameChosen'],
    ['Search nodes and actions', 'screen.openPalette'],
    ['Shortcuts: see and change them', 'screen.askShortcuts'],
    ['How the value of a field is given', 'screen.openModes'],
    ['Undo', 'documents.undo'],
    ['See it as before the last change', 'documents.lookBack'],
    ['Redo', 'documents.redo'],
    ['Redo (second key)', 'documents.redo'],
    ['Peek at the chosen node', 'peeking.togglePeek'],
    ['Switch the chosen node on or off', 'editing.switchChosen'],
    ['Keep the chosen node’s result faintly in view', 'peeking.toggleGhost'],
    ['Freeze what the chosen node gives', 'graph.freezeChosen'],
    ['Group the chosen nodes into an area', 'graph.group'],
    ['Add a note', 'graph.note'],
    ['Align the chosen nodes in a column', 'graph.align(column)'],
    ['Align the chosen nodes in a row', 'graph.align(row)'],
    ['Even gaps across between the chosen nodes', 'graph.align(evenAcross)'],
    ['Even gaps down between the chosen nodes', 'graph.align(evenDown)'],
    ['Delete', 'editing.removeChosen'],
    ['Delete and leave the gap', 'editing.removeChosen(true)'],
    ['Delete (second key)', 'editing.removeChosen'],
    ['Duplicate', 'editing.duplicate'],
    ['Duplicate without wires', 'editing.duplicate(true)'],
    ['Paste here', 'transfer.pasteHere(false)'],
    ['Paste without wires', 'transfer.pasteHere(true)'],
    ['Choose all nodes', 'documents.select(line, rope, hemp)'],
    ['Choose nothing, or go back', 'screen.escape'],
    ['Fit the 3D view', 'view.frameAll'],
    ['Fit the graph', 'graphView.fit'],
    ['Tidy the graph', 'graph.tidy'],
    ['Zoom the graph in', 'graphView.zoomBy(1.2)'],
    ['Zoom the graph out', `graphView.zoomBy(${1 / 1.2})`],
    ['Choose the node to the left', 'graph.step(-1, 0)'],
    ['Choose the node to the right', 'graph.step(1, 0)'],
    ['Choose the node above', 'graph.step(0, -1)'],
    ['Choose the node below', 'graph.step(0, 1)'],
    ['Show the settings', 'panel.set(settings)'],
    ['Show the dials', 'panel.set(dials)'],
    ['Show help for the chosen node', 'panel.set(help)'],
    ['Show the Path strip', 'panes.showTab(strip)'],
    ['Show the UV sheet', 'panes.showTab(uv)'],
    ['Show the values', 'panes.showTab(values)'],
    ['Show the checks', 'panes.showTab(checks)'],
    ['Show the history', 'panes.showTab(history)'],
    ['Show the timeline', 'panes.showTab(timeline)'],
    ['Play the timeline', 'player.toggle'],
    ['One frame on', 'player.step(1)'],
    ['One frame back', 'player.step(-1)'],
    ['Next curve in the Path strip', 'screen.stepCurve(1)'],
    ['Previous curve in the Path strip', 'screen.stepCurve(-1)'],
    ['Show what the chosen node made', 'view.frameChosen'],
    ['Perspective or parallel', 'view.toggleParallel'],
    ['Cut the view open', 'view.toggleCut'],
    ['Measure in the 3D view', 'view.toggleMeasuring'],
    ['Take pictures of the 3D view', 'view.takePictures'],
    ['Turn the light, or take the next lighting', 'light.hold'],
    ['Look along x', 'view.lookAlong(x)'],
    ['Look along y', 'view.lookAlong(y)'],
    ['Look along z', 'view.lookAlong(z)'],
    ['Export', 'screen.export'],
    ['Hand out: dials and result by a link', 'screen.share'],
    ['Save now', 'documents.save'],
    ['What the mouse does in the 3D view', 'view.askHabits'],
    ['Light or dark', 'themes.toggle'],
    ['New document', 'screen.newDocument'],
    ['Back to the Library', 'screen.toLibrary'],
    ...Object.entries(looks).map(([look, { label }]) => [`Look at surfaces: ${label.toLowerCase()}`, `view.look(${look})`]),
    ...lessons.map(({ id, title }) => [`Learn by doing: ${title.toLowerCase()}`, `screen.learn(${id})`]),
  ])('%s', (name, call) => {
    expect(done(name)).toEqual([call]);
  });

  test('all of them are in that list, each under a name and a key of its own', () => {
    const actions = ropewalkActions(fake().screen);
    expect(new Set(actions.map(({ name }) => name)).size).toBe(actions.length);
    // 67 are named above, besides looks and lessons.
    expect(actions).toHaveLength(67 + Object.keys(looks).length + lessons.length);
    const keys = actions.flatMap(({ shortcut, within = '' }) => (shortcut ? [`${shortcut} ${within}`] : []));
    expect(new Set(keys).size).toBe(keys.length);
  });

  test('what cannot be done now is off, and on as soon as it can', () => {
    const off = (has: Parameters<typeof fake>[0]): Set<string> => new Set(ropewalkActions(fake(has).screen).filter((action) => action.off).map(({ name }) => name)); // prettier-ignore
    const nothing = off({});
    const on = (has: Parameters<typeof fake>[0]): string[] => [...nothing].filter((name) => !off(has).has(name));
    expect(nothing.size).toBe(23);
    expect(on({ undo: 'Diameter' })).toEqual(['Undo', 'See it as before the last change', 'Redo']);
    expect(on({ peek: true })).toEqual(['Peek at the chosen node']);
    expect(on({ ghost: true })).toEqual(['Keep the chosen node’s result faintly in view']);
    expect(on({ switches: true })).toEqual(['Switch the chosen node on or off']);
    expect(on({ wire: true })).toEqual(['Delete', 'Delete (second key)']);
    expect(on({ timed: true })).toEqual(['Play the timeline', 'One frame on', 'One frame back', 'Show the timeline']);
    const one = on({ chosen: ['rope'] });
    expect(one).toEqual(
      expect.arrayContaining(['Name the chosen node', 'Peek at the chosen node', 'Duplicate', 'Delete and leave the gap', 'Show what the chosen node made']),
    );
    expect(one.filter((name) => /Align|Even/.test(name))).toEqual([]);
    expect(on({ chosen: ['rope', 'line'] }).filter((name) => /Align|Even/.test(name))).toEqual([
      'Align the chosen nodes in a column',
      'Align the chosen nodes in a row',
    ]);
    expect(on({ chosen: ['rope', 'line', 'hemp'] }).filter((name) => /Even/.test(name))).toHaveLength(2);
  });

  test('the timeline that plays can be stopped; without a 3D view its actions do nothing', () => {
    expect(ropewalkActions(fake({ playing: true }).screen).some(({ name }) => name === 'Stop playing')).toBe(true);
    for (const name of ['Fit the 3D view', 'Look along x', 'Cut the view open', 'Take pictures of the 3D view'])
      expect(done(name, { view: false })).toEqual([]);
  });
});

describe('the search', () => {
  const found = (text: string, has: Parameters<typeof fake>[0] = {}): { names: string[]; run: (name: string) => Faked } => {
    const faked = fake(has);
    const all = screenSearch(faked.screen)(text, null);
    return { names: all.map(({ name }) => name), run: (name) => (all.find((each) => each.name === name)!.run(), faked) };
  };

  test('finds nodes of the graph to go to, by their names and what they are', () => {
    const { names, run } = found('guide');
    expect(names[0]).toBe('Go to Guide line');
    expect(run('Go to Guide line').calls).toEqual(['graph.goTo(line)']);
    expect(found('tarred').names).toEqual(['Go to Material hemp']);
    expect(found('guide line').names[0]).toBe('Go to Guide line');
  });

  test('finds every kind of node to add, and nothing that only a key can do', () => {
    const { names, run } = found('add rope');
    expect(names[0]).toBe('Rope');
    expect(run('Rope').calls).toEqual(['graph.addByName(skin.rope, {})']);
    expect(names.filter((name) => name.startsWith('Choose the node to'))).toEqual([]);
    const kinds = [...nodeDefinitions.values()].map(({ label }) => label);
    expect(found('').names).toEqual(expect.arrayContaining(kinds));
  });

  test('what is called by the words comes first, then what was wished for, then what only speaks of it', () => {
    const { names } = found('close the curve');
    const wish = names.findIndex((name) => name.includes(': '));
    expect(wish).toBeGreaterThanOrEqual(0);
    const words = ['close', 'the', 'curve'];
    names.slice(0, wish).forEach((name) => expect(words.every((word) => name.toLowerCase().includes(word))).toBe(true));
    expect(
      names.filter((name) => name.includes(': ') && !name.startsWith('Look') && !name.startsWith('Learn') && !name.startsWith('Hand')).length,
    ).toBeLessThanOrEqual(4);
  });

  test('a wish is done by a new node, or on the chosen one where that can do it; what it sets is said', () => {
    const phrase = 'four strands';
    const settings = nodeDefinitions.get('skin.rope')!.asks[phrase];
    const wish = `Rope: ${phrase}`;
    const faked = fake();
    const added = screenSearch(faked.screen)(phrase, null).find((each) => each.name === wish)!;
    expect(added.detail.startsWith('Adds Rope, ')).toBe(true);
    added.run();
    expect(faked.calls).toEqual([`graph.addByName(skin.rope, ${JSON.stringify(settings)})`]);
    const chosen = fake({ chosen: ['rope'] });
    const own = screenSearch(chosen.screen)(phrase, null).find((each) => each.name === wish)!;
    expect(own.detail.startsWith('Sets ')).toBe(true);
    own.run();
    const [[label, made]] = chosen.applied;
    expect([label, made.nodes[1].settings, chosen.calls]).toEqual(['Four strands', expect.objectContaining(settings), []]);
  });
});
