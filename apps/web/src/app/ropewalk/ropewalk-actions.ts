import type { Action } from './actions';
import type { DocumentService } from './document/document.service';
import type { EditingService } from './document/editing.service';
import type { GraphCommands } from './graph/graph-commands';
import { modesKey } from './keys/shortcuts';
import { lessons } from './lessons/lessons';
import type { Player } from './timeline/player';
import type { Panes } from './panes';
import type { Peeking } from './peeking';
import type { ThemeService } from '../shared/theme.service';
import type { Transfer } from './transfer';
import { looks, type Look } from './view3d/looks';
import type { View3d } from './view3d/view3d';

/** What the editing screen can be asked to do: its parts, and what concerns all of them. */
export interface RopewalkScreen {
  readonly documents: DocumentService;
  readonly editing: EditingService;
  readonly graph: GraphCommands;
  readonly panes: Panes;
  readonly peeking: Peeking;
  readonly transfer: Transfer;
  readonly player: Player;
  readonly themes: ThemeService;
  readonly view: () => View3d | undefined;
  openPalette(): void;
  askShortcuts(): void;
  openModes(): void;
  escape(): void;
  stepCurve(by: number): void;
  export(): void;
  share(): Promise<void>;
  learn(lesson: string): Promise<void>;
  newDocument(): Promise<void>;
  tellHeld(action: Action): void;
  toLibrary(): void;
}

/** Everything that can be done on the editing screen: offered in the search, reached by key. */
export function ropewalkActions(screen: RopewalkScreen): Action[] {
  const { documents, editing, graph, panes, peeking } = screen;
  const chosen = documents.selection().size;
  const some = chosen > 0 || documents.selectedWire() !== null;
  return [
    { name: 'Add a node', shortcut: 'N', menus: ['tag', 'wire', 'ground'], run: () => graph.openAdd() },
    {
      name: 'Name the chosen node',
      shortcut: 'F2',
      off: !documents.chosen(),
      menus: ['tag'],
      run: () => graph.renameChosen(),
    },
    { name: 'Search nodes and actions', shortcut: 'Ctrl K', anywhere: true, quiet: true, run: () => screen.openPalette() },
    {
      name: 'Shortcuts: see and change them',
      shortcut: '?',
      run: () => screen.askShortcuts(),
    },
    {
      name: 'Undo',
      shortcut: 'Ctrl Z',
      detail: documents.undoLabel() ?? '',
      off: !documents.undoLabel(),
      run: () => documents.undo(),
    },
    {
      name: 'See it as before the last change',
      shortcut: 'H',
      held: true,
      detail: 'while the key is held',
      off: !documents.undoLabel(),
      run: () => documents.lookBack(),
    },
    { name: 'Redo', shortcut: 'Ctrl Shift Z', detail: documents.redoLabel() ?? '', off: !documents.redoLabel(), run: () => documents.redo() },
    { name: 'Redo (second key)', shortcut: 'Ctrl Y', quiet: true, run: () => documents.redo() },
    {
      name: 'Peek at the chosen node',
      shortcut: 'P',
      menus: ['tag'],
      off: !documents.chosen() && !peeking.peek(),
      run: () => peeking.togglePeek(),
    },
    {
      name: 'Switch the chosen node on or off',
      shortcut: 'O',
      menus: ['tag'],
      off: !editing.canSwitch(),
      run: () => editing.switchChosen(),
    },
    {
      name: 'Keep the chosen node’s result faintly in view',
      shortcut: 'Shift P',
      menus: ['tag'],
      off: !documents.chosen() && !peeking.ghost(),
      run: () => peeking.toggleGhost(),
    },
    {
      name: 'Freeze what the chosen node gives',
      menus: ['tag'],
      off: !documents.chosen(),
      run: () => void graph.freezeChosen(),
    },
    {
      name: 'Group the chosen nodes into an area',
      shortcut: 'A',
      menus: ['tag'],
      off: !chosen,
      run: () => graph.group(),
    },
    { name: 'Add a note', shortcut: 'M', menus: ['ground'], run: () => graph.note() },
    { name: 'Align the chosen nodes in a column', off: chosen < 2, run: () => graph.align('column') },
    { name: 'Align the chosen nodes in a row', off: chosen < 2, run: () => graph.align('row') },
    { name: 'Even gaps across between the chosen nodes', off: chosen < 3, run: () => graph.align('evenAcross') },
    { name: 'Even gaps down between the chosen nodes', off: chosen < 3, run: () => graph.align('evenDown') },
    { name: 'Delete', shortcut: 'Delete', within: 'fx-graph', menus: ['tag', 'wire'], off: !some, run: () => editing.removeChosen() },
    { name: 'Delete and leave the gap', shortcut: 'Shift Delete', within: 'fx-graph', menus: ['tag'], off: !chosen, run: () => editing.removeChosen(true) },
    { name: 'Delete (second key)', shortcut: 'Backspace', quiet: true, within: 'fx-graph', off: !some, run: () => editing.removeChosen() },
    { name: 'Duplicate', shortcut: 'Ctrl D', menus: ['tag'], off: !chosen, run: () => editing.duplicate() },
    { name: 'Duplicate without wires', shortcut: 'Ctrl Shift D', menus: ['tag'], off: !chosen, run: () => editing.duplicate(true) },
    { name: 'Paste here', menus: ['ground'], run: () => void screen.transfer.pasteHere(false) },
    { name: 'Paste without wires', shortcut: 'Ctrl Shift V', menus: ['ground'], run: () => void screen.transfer.pasteHere(true) },
    { name: 'Choose all nodes', shortcut: 'Ctrl A', menus: ['ground'], run: () => documents.select(...documents.document().nodes.map(({ id }) => id)) },
    { name: 'Choose nothing, or go back', shortcut: 'Esc', quiet: true, run: () => screen.escape() },
    {
      name: 'Fit the 3D view',
      shortcut: 'F',
      detail: 'in the 3D view',
      within: 'fx-view3d',
      run: () => screen.view()?.frameAll(),
    },
    {
      name: 'Fit the graph',
      shortcut: 'F',
      detail: 'elsewhere',
      menus: ['ground'],
      run: () => graph.view()?.fit(),
    },
    {
      name: 'Tidy the graph',
      shortcut: 'T',
      menus: ['ground'],
      run: () => graph.tidy(),
    },
    { name: 'Zoom the graph in', shortcut: '+', run: () => graph.view()?.zoomBy(1.2) },
    { name: 'Zoom the graph out', shortcut: '−', run: () => graph.view()?.zoomBy(1 / 1.2) },
    { name: 'Choose the node to the left', shortcut: '←', quiet: true, run: () => graph.step(-1, 0) },
    { name: 'Choose the node to the right', shortcut: '→', quiet: true, run: () => graph.step(1, 0) },
    { name: 'Choose the node above', shortcut: '↑', quiet: true, run: () => graph.step(0, -1) },
    { name: 'Choose the node below', shortcut: '↓', quiet: true, run: () => graph.step(0, 1) },
    {
      name: 'How the value of a field is given',
      shortcut: modesKey,
      detail: 'in the field that has the keyboard',
      anywhere: true,
      quiet: true,
      run: () => screen.openModes(),
    },
    { name: 'Show the settings', shortcut: 'F4', menus: ['tag'], run: () => panes.panel.set('settings') },
    { name: 'Show the dials', shortcut: 'F3', run: () => panes.panel.set('dials') },
    {
      name: 'Show help for the chosen node',
      shortcut: 'F1',
      menus: ['tag'],
      run: () => panes.panel.set('help'),
    },
    { name: 'Show the Path strip', shortcut: 'F6', run: () => panes.showTab('strip') },
    { name: 'Show the UV sheet', run: () => panes.showTab('uv') },
    { name: 'Show the values', shortcut: 'F7', run: () => panes.showTab('values') },
    { name: 'Show the checks', shortcut: 'F8', run: () => panes.showTab('checks') },
    { name: 'Show the history', shortcut: 'F9', run: () => panes.showTab('history') },
    { name: screen.player.playing() ? 'Stop playing' : 'Play the timeline', shortcut: 'R', off: !screen.player.timed(), run: () => screen.player.toggle() },
    { name: 'One frame on', shortcut: ']', off: !screen.player.timed(), run: () => screen.player.step(1) },
    { name: 'One frame back', shortcut: '[', off: !screen.player.timed(), run: () => screen.player.step(-1) },
    { name: 'Show the timeline', off: !screen.player.timed(), run: () => panes.showTab('timeline') },
    { name: 'Next curve in the Path strip', shortcut: '.', run: () => screen.stepCurve(1) },
    { name: 'Previous curve in the Path strip', shortcut: ',', run: () => screen.stepCurve(-1) },
    ...viewActions(screen),
    {
      name: 'Export',
      shortcut: 'Ctrl E',
      anywhere: true,
      run: () => screen.export(),
    },
    { name: 'Hand out: dials and result by a link', run: () => void screen.share() },
    { name: 'Save now', shortcut: 'Ctrl S', anywhere: true, run: () => void documents.save() },
    { name: 'What the mouse does in the 3D view', run: () => screen.view()?.askHabits() },
    ...lessons.map(({ id, title }): Action => ({ name: `Learn by doing: ${title.toLowerCase()}`, run: () => void screen.learn(id) })),
    { name: 'Light or dark', run: () => screen.themes.toggle() },
    { name: 'New document', run: () => void screen.newDocument() },
    { name: 'Back to the Library', run: () => screen.toLibrary() },
  ];
}

/** What can be done in the 3D view. */
function viewActions(screen: RopewalkScreen): Action[] {
  const { view, documents } = screen;
  return [
    ...(Object.keys(looks) as Look[]).map((look): Action => {
      const { label, key, help } = looks[look];
      return { name: `Look at surfaces: ${label.toLowerCase()}`, detail: help, shortcut: key, run: () => view()?.look(look) };
    }),
    {
      name: 'Show what the chosen node made',
      shortcut: 'G',
      off: !documents.chosen(),
      run: () => void view()?.frameChosen(),
    },
    { name: 'Perspective or parallel', shortcut: 'Q', run: () => view()?.toggleParallel() },
    {
      name: 'Cut the view open',
      shortcut: 'W',
      run: () => view()?.toggleCut(),
    },
    { name: 'Measure in the 3D view', shortcut: 'J', run: () => view()?.toggleMeasuring() },
    { name: 'Take pictures of the 3D view', run: () => view()?.takePictures() },
    {
      name: 'Turn the light, or take the next lighting',
      shortcut: 'V',
      held: true,
      detail: 'hold it and drag in the 3D view; pressed alone it takes the next lighting',
      run: () => view()?.lightHand.hold(),
    },
    { name: 'Look along x', shortcut: 'X', run: () => view()?.lookAlong('x') },
    { name: 'Look along y', shortcut: 'Y', run: () => view()?.lookAlong('y') },
    { name: 'Look along z', shortcut: 'Z', run: () => view()?.lookAlong('z') },
  ];
}
