import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { AngularSplitModule, type SplitGutterInteractionEvent } from 'angular-split';
import { debounceTime } from 'rxjs';
import { nodeDefinitions, type GraphNode } from '@filaxis/core';
import { curveFileEndings, endingOf, largestImport, readCurvesFile } from '@filaxis/formats';
import { ApiError, ApiService } from '../shared/api.service';
import { sha256 } from '../shared/assets';
import { figure } from '../shared/figures';
import { Icon } from '../shared/icon';
import { ThemeService } from '../shared/theme.service';
import { DocumentService, type SaveState } from './document/document.service';
import { addNode, bestInput, connect, cut, moveNodes, paste, readCutting, removeNodes, setSetting } from './document/edits';
import { EvaluationService } from './evaluation.service';
import { ExportDialog, type ExportData } from './export/export-dialog';
import { GraphView, type AddRequest } from './graph/graph-view';
import { tidyPlaces } from './graph/tidy';
import { Palette, type Action } from './palette';
import { DialsPanel } from './settings/dials-panel';
import { NodeHelp } from './settings/node-help';
import { SettingsPanel } from './settings/settings-panel';
import { PathStrip } from './strip/path-strip';
import { keepView, readView } from './view-state';
import type { CameraState } from './view3d/orbit';
import { View3d, type CurvePlace } from './view3d/view3d';

type Pane = 'graph' | 'view' | 'panel' | 'strip';

const savedText: Readonly<Record<SaveState, string>> = {
  saved: 'saved',
  unsaved: 'editing …',
  saving: 'saving …',
  offline: 'not saved yet: the server cannot be reached, edits wait here',
  conflict: 'saved elsewhere meanwhile',
  refused: 'not saved',
};

/** The editing screen: left is what you say, right is what you get. */
@Component({
  selector: 'fx-ropewalk',
  imports: [AngularSplitModule, DialsPanel, GraphView, Icon, MatMenuModule, NodeHelp, PathStrip, RouterLink, SettingsPanel, View3d],
  providers: [DocumentService, EvaluationService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ropewalk.page.html',
  styleUrl: './ropewalk.page.scss',
  host: {
    '(window:keydown)': 'key($event)',
    '(window:beforeunload)': 'beforeUnload($event)',
    '(window:copy)': 'copy($event)',
    '(window:cut)': 'copy($event, true)',
    '(window:paste)': 'paste($event)',
  },
})
export class RopewalkPage implements OnInit {
  readonly id = input.required<string>();

  protected readonly documents = inject(DocumentService);
  protected readonly evaluation = inject(EvaluationService);
  protected readonly themes = inject(ThemeService);
  private readonly api = inject(ApiService);
  private readonly dialogs = inject(MatDialog);
  private readonly notices = inject(MatSnackBar);
  private readonly router = inject(Router);
  private readonly titles = inject(Title);

  protected readonly graph = viewChild(GraphView);
  protected readonly view = viewChild(View3d);

  protected readonly opened = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly panel = signal<'settings' | 'dials' | 'help'>('settings');
  protected readonly markedDial = signal<string | null>(null);
  protected readonly peek = signal<string | null>(null);
  protected readonly add = signal<AddRequest | null>(null);
  protected readonly curve = signal(0);
  protected readonly marked = signal<number | null>(null);
  protected readonly full = signal<Pane | null>(null);
  protected readonly columns = signal<readonly number[]>([43.5, 56.5]);
  protected readonly rows = signal<readonly number[]>([65, 35]);
  protected readonly figure = figure;
  private pictureOf = 0;

  protected readonly saved = computed(() => {
    const state = this.documents.saveState();
    if (state === 'saved') return `saved · version ${this.documents.version()}`;
    return state === 'refused' ? `not saved: ${this.documents.saveMessage()}` : savedText[state];
  });
  protected readonly heading = computed(() => {
    const node = this.documents.chosen();
    if (!node) return this.documents.selection().size ? { name: `${this.documents.selection().size} nodes`, text: '' } : { name: 'Nothing chosen', text: '' };
    const definition = nodeDefinitions.get(node.type);
    return { name: definition?.label ?? node.type, text: definition?.summary ?? '' };
  });
  /** The place that strip and 3D view mark together. */
  protected readonly markedPlace = computed(() => {
    const data = this.evaluation.strip();
    const i = this.marked();
    return data && i !== null && i < data.s.length ? Array.from(data.positions.subarray(i * 3, i * 3 + 3)) : null;
  });
  protected readonly stripText = computed(() => {
    const data = this.evaluation.strip();
    return data ? `curve ${data.curve + 1} of ${data.curves} · ${figure(data.length, 3)} m` : '';
  });
  protected readonly peekName = computed(() => {
    const node = this.documents.document().nodes.find(({ id }) => id === this.peek());
    return node ? (nodeDefinitions.get(node.type)?.label ?? node.type) : null;
  });
  /** Why the 3D view is empty, and which node to look at. */
  protected readonly emptyReason = computed(() => {
    const counts = this.evaluation.counts();
    const { nodes } = this.documents.document();
    if (this.evaluation.crashed()) return { text: `The computation stopped: ${this.evaluation.crashed()}. Reload the page; nothing is lost.`, node: null };
    if (!nodes.length) return { text: 'What the graph makes is shown here.', node: null };
    const [problem] = this.evaluation.problems();
    if (counts && (counts.faces || counts.curves || counts.points)) return null;
    if (problem) return { text: problem.message, node: problem.node ?? null };
    for (const [id, state] of Object.entries(this.evaluation.nodes())) {
      const empty = state?.warnings.find(({ code }) => code === 'empty');
      if (empty)
        return {
          text: `${nodeDefinitions.get(nodes.find((node) => node.id === id)?.type ?? '')?.label ?? id}: ${empty.message} ${empty.remedy ?? ''}`,
          node: id,
        };
    }
    return counts ? { text: 'Nothing comes out yet.', node: null } : null;
  });

  constructor() {
    effect(() => {
      this.documents.document();
      this.documents.liveDials();
      const show = { peek: this.peek(), curve: this.curve(), chosen: this.documents.chosen()?.id ?? null };
      if (this.opened()) untracked(() => this.evaluation.evaluate(show));
    });
    effect(() => this.titles.setTitle(`${this.documents.document().title} · Filaxis`));
    effect(() => {
      if (this.peek() && !this.documents.document().nodes.some(({ id }) => id === this.peek())) this.peek.set(null);
    });
    this.evaluation.pictures.pipe(debounceTime(1500), takeUntilDestroyed()).subscribe(() => void this.keepPicture());
  }

  async ngOnInit(): Promise<void> {
    const view = readView(this.id());
    if (view.columns) this.columns.set(view.columns);
    if (view.rows) this.rows.set(view.rows);
    if (view.panel) this.panel.set(view.panel);
    else this.panel.set('dials');
    if (view.curve) this.curve.set(view.curve);
    try {
      this.pictureOf = (await this.documents.open(this.id())) ?? 0;
      if (!this.documents.document().dials?.length && !view.panel) this.panel.set('settings');
      this.opened.set(true);
      setTimeout(() => {
        const now = this.view();
        if (view.stage) now?.set(view.stage);
        if (view.camera) now?.restoreCamera(view.camera);
      });
    } catch (error) {
      this.failed.set(error instanceof ApiError && error.status === 404 ? 'There is no such document. It may have been deleted.' : (error as Error).message);
    }
  }

  /** Called on the way out. */
  async leave(): Promise<void> {
    if (this.failed()) return;
    const stage = this.view()?.currentOptions();
    keepView(this.id(), { panel: this.panel(), curve: this.curve(), stage });
    await this.documents.save();
    await this.keepPicture();
  }

  protected beforeUnload(event: BeforeUnloadEvent): void {
    if (this.opened() && !this.documents.isSaved && this.documents.saveMessage()) event.preventDefault();
  }

  // ---- layout

  protected resized(event: SplitGutterInteractionEvent, which: 'columns' | 'rows'): void {
    const sizes = event.sizes.map(Number);
    this[which].set(sizes);
    keepView(this.id(), { [which]: sizes });
  }

  protected toggleFull(pane: Pane): void {
    this.full.update((now) => (now === pane ? null : pane));
  }

  protected shows(pane: Pane): boolean {
    return this.full() === null || this.full() === pane;
  }

  // ---- 3D view and strip

  protected hoverIn3d(place: CurvePlace | null): void {
    const data = this.evaluation.strip();
    this.marked.set(place && data && place.curve === data.curve ? place.index : null);
  }

  protected keepCamera(camera: CameraState): void {
    keepView(this.id(), { camera });
  }

  protected pickCurve(curve: number): void {
    this.curve.set(curve);
  }

  protected stepCurve(by: number): void {
    const data = this.evaluation.strip();
    if (data) this.curve.set((data.curve + by + data.curves) % data.curves);
  }

  protected showNode(id: string): void {
    this.documents.select(id);
    this.panel.set('settings');
    this.graph()?.reveal(id);
  }

  protected showDial(id: string): void {
    this.markedDial.set(id);
    this.panel.set('dials');
  }

  // ---- graph

  /** Adds a node; a wire that was dragged, or the chosen node's output, is laid to it when it fits. */
  protected addChosen({ type, request }: { type: string; request: AddRequest }): void {
    const made = addNode(this.documents.document(), type, [Math.round(request.at.x), Math.round(request.at.y)]);
    const input = request.from && bestInput(made.document, request.from, made.id);
    this.documents.apply(`Add ${nodeDefinitions.get(type)?.label ?? type}`, input ? connect(made.document, request.from!, input) : made.document);
    this.documents.select(made.id);
    this.panel.set('settings');
    // The tag gets the keyboard, so that N goes on from it.
    setTimeout(() => document.querySelector<HTMLElement>(`fx-tag[data-node="${made.id}"]`)?.focus());
  }

  protected openAdd(): void {
    const chosen = this.documents.chosen();
    const output = chosen && nodeDefinitions.get(chosen.type)?.outputs[0];
    const place = this.graph()?.freePlace(chosen);
    if (place) this.add.set({ at: place, from: chosen && output ? [chosen.id, output.name] : null });
  }

  protected removeChosen(): void {
    if (this.graph()?.removeChosenWire()) return;
    const ids = this.documents.selection();
    if (!ids.size) return;
    this.documents.apply(ids.size === 1 ? 'Delete node' : `Delete ${ids.size} nodes`, removeNodes(this.documents.document(), ids));
    this.documents.select();
  }

  protected duplicate(): void {
    const ids = this.documents.selection();
    if (!ids.size) return;
    const pasted = paste(this.documents.document(), cut(this.documents.document(), ids), [24, 80]);
    this.documents.apply('Duplicate', pasted.document);
    this.documents.select(...pasted.ids);
  }

  protected switchChosen(): void {
    const node = this.documents.chosen();
    if (!node || !nodeDefinitions.get(node.type)?.passes) return;
    const on = node.settings?.['on'] === false;
    this.documents.apply(on ? 'Switch on' : 'Switch off', setSetting(this.documents.document(), node.id, 'on', on ? undefined : false));
  }

  protected async tidy(): Promise<void> {
    const places = await tidyPlaces(this.documents.document());
    this.documents.apply('Tidy', moveNodes(this.documents.document(), places));
    this.graph()?.fit();
  }

  protected togglePeek(): void {
    const chosen = this.documents.chosen();
    this.peek.set(this.peek() ? null : (chosen?.id ?? null));
  }

  /** Moves the choice to the nearest node in a direction. */
  private stepChoice(dx: number, dy: number): void {
    const from = this.documents.chosen();
    const { nodes } = this.documents.document();
    if (!from) return this.documents.select(...nodes.slice(0, 1).map(({ id }) => id));
    const place = ({ at = [0, 0] }: GraphNode): readonly [number, number] => at;
    const [x, y] = place(from);
    const cost = (node: GraphNode): number => {
      const [ax, ay] = [place(node)[0] - x, place(node)[1] - y];
      const ahead = ax * dx + ay * dy;
      return ahead > 4 ? ahead + 2.5 * Math.abs(ax * dy + ay * dx) : Infinity;
    };
    const next = nodes.filter((node) => node !== from && cost(node) < Infinity).sort((a, b) => cost(a) - cost(b))[0];
    if (!next) return;
    this.documents.select(next.id);
    this.graph()?.reveal(next.id);
    setTimeout(() => document.querySelector<HTMLElement>(`fx-tag[data-node="${next.id}"]`)?.focus());
  }

  // ---- files

  protected browse(node: string): void {
    const picker = Object.assign(document.createElement('input'), { type: 'file', accept: curveFileEndings.join(',') });
    picker.onchange = () => {
      const file = picker.files?.[0];
      if (file) void this.importFile(file, { x: 0, y: 0 }, node);
    };
    picker.click();
  }

  protected async dropFiles({ files, at }: { files: File[]; at: { x: number; y: number } }): Promise<void> {
    for (const [i, file] of files.entries()) await this.importFile(file, { x: at.x, y: at.y + i * 80 }, null);
  }

  /** Stores a file and makes a node of it, or gives it to a node. */
  private async importFile(file: File, at: { x: number; y: number }, node: string | null): Promise<void> {
    const ending = endingOf(file.name);
    if (!(curveFileEndings as readonly string[]).includes(ending))
      return this.say(`${file.name}: files that can be dropped here are ${curveFileEndings.join(' and ')}.`);
    if (file.size > largestImport) return this.say(`${file.name} has ${file.size} bytes; the limit is ${largestImport}.`);
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      readCurvesFile(bytes);
      const hash = await sha256(bytes);
      await this.api.putAsset(hash, file.name, bytes);
      this.evaluation.addAsset(hash, bytes);
      const before = this.documents.document();
      const named = { ...before, assets: { ...before.assets, [hash]: { name: file.name.slice(0, 200), bytes: bytes.length } } };
      if (node) return this.documents.apply('Choose file', setSetting(named, node, 'asset', hash));
      const made = addNode(named, 'lay.importCurves', [Math.round(at.x), Math.round(at.y)], { asset: hash });
      this.documents.apply(`Import ${file.name}`, made.document);
      this.documents.select(made.id);
    } catch (error) {
      this.say(`${file.name}: ${(error as Error).message}`);
    }
  }

  // ---- clipboard

  private inField(target: EventTarget | null): boolean {
    return target instanceof HTMLElement && !!target.closest('input, select, textarea, [contenteditable]');
  }

  protected copy(event: ClipboardEvent, remove = false): void {
    const ids = this.documents.selection();
    if (!ids.size || this.inField(event.target) || getSelection()?.toString()) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', JSON.stringify(cut(this.documents.document(), ids), null, 1));
    if (remove) this.removeChosen();
  }

  protected paste(event: ClipboardEvent): void {
    if (this.inField(event.target)) return;
    const cutting = readCutting(event.clipboardData?.getData('text/plain') ?? '');
    if (!cutting) return;
    event.preventDefault();
    const pasted = paste(this.documents.document(), cutting, [32, 48]);
    this.documents.apply('Paste', pasted.document);
    this.documents.select(...pasted.ids);
  }

  // ---- actions

  protected actions(): Action[] {
    const chosen = this.documents.chosen();
    const some = this.documents.selection().size > 0;
    const own: Action[] = [
      { name: 'Add a node', shortcut: 'N', run: () => this.openAdd() },
      { name: 'Undo', shortcut: 'Ctrl Z', detail: this.documents.undoLabel() ?? '', off: !this.documents.undoLabel(), run: () => this.documents.undo() },
      { name: 'Redo', shortcut: 'Ctrl Shift Z', detail: this.documents.redoLabel() ?? '', off: !this.documents.redoLabel(), run: () => this.documents.redo() },
      { name: 'Peek at the chosen node', shortcut: 'P', off: !chosen && !this.peek(), run: () => this.togglePeek() },
      { name: 'Switch the chosen node on or off', shortcut: 'O', off: !chosen || !nodeDefinitions.get(chosen.type)?.passes, run: () => this.switchChosen() },
      { name: 'Delete', shortcut: 'Delete', off: !some && !this.documents.selectedWire(), run: () => this.removeChosen() },
      { name: 'Duplicate', shortcut: 'Ctrl D', off: !some, run: () => this.duplicate() },
      { name: 'Choose all nodes', shortcut: 'Ctrl A', run: () => this.documents.select(...this.documents.document().nodes.map(({ id }) => id)) },
      { name: 'Fit the graph', shortcut: 'G', run: () => this.graph()?.fit() },
      { name: 'Fit the 3D view', shortcut: 'Home', run: () => this.view()?.frameAll() },
      { name: 'Tidy the graph', shortcut: 'T', run: () => void this.tidy() },
      { name: 'Zoom the graph in', shortcut: '+', run: () => this.graph()?.zoomBy(1.2) },
      { name: 'Zoom the graph out', shortcut: '−', run: () => this.graph()?.zoomBy(1 / 1.2) },
      { name: 'Show the settings', run: () => this.panel.set('settings') },
      { name: 'Show the dials', run: () => this.panel.set('dials') },
      { name: 'Show help for the chosen node', shortcut: 'F1', run: () => this.panel.set('help') },
      { name: 'Next curve in the Path strip', shortcut: '.', run: () => this.stepCurve(1) },
      { name: 'Previous curve in the Path strip', shortcut: ',', run: () => this.stepCurve(-1) },
      { name: 'Look along x', run: () => this.view()?.look('x') },
      { name: 'Look along y', run: () => this.view()?.look('y') },
      { name: 'Look along z', run: () => this.view()?.look('z') },
      { name: 'Export', shortcut: 'Ctrl E', run: () => this.export() },
      { name: 'Save now', shortcut: 'Ctrl S', run: () => void this.documents.save() },
      { name: 'Light or dark', run: () => this.themes.toggle() },
      { name: 'Back to the Library', run: () => void this.router.navigateByUrl('/') },
    ];
    const nodes = [...nodeDefinitions.values()].map((definition): Action => ({
      name: `Add ${definition.label}`,
      detail: definition.summary,
      run: () => this.addChosen({ type: definition.type, request: this.requestFor(definition.type) }),
    }));
    return [...own, ...nodes];
  }

  /** Where a node from the search goes: after the chosen node, wired to it when that fits. */
  private requestFor(type: string): AddRequest {
    const chosen = this.documents.chosen();
    const at = this.graph()?.freePlace(chosen) ?? { x: 0, y: 0 };
    const output = chosen && nodeDefinitions.get(chosen.type)?.outputs[0];
    const takes = (nodeDefinitions.get(type)?.inputs.length ?? 0) > 0;
    return { at, from: chosen && output && takes ? [chosen.id, output.name] : null };
  }

  protected openPalette(): void {
    if (this.dialogs.openDialogs.length) return;
    this.dialogs
      .open<Palette, readonly Action[], Action>(Palette, { data: this.actions(), position: { top: '70px' }, maxWidth: '92vw' })
      .afterClosed()
      .subscribe((action) => action?.run());
  }

  protected export(): void {
    const { nodes, title } = this.documents.document();
    const outputs = nodes
      .filter(({ type }) => type === 'flow.output')
      .map((node) => ({ node: node.id, label: `Output “${String(node.settings?.['name'] ?? 'main')}”` }));
    const chosen = this.documents.chosen();
    const extra =
      chosen && chosen.type !== 'flow.output' ? [{ node: chosen.id, label: `The chosen node, ${nodeDefinitions.get(chosen.type)?.label ?? chosen.type}` }] : [];
    this.dialogs.open<ExportDialog, ExportData>(ExportDialog, {
      data: { title, evaluation: this.evaluation, sources: [...outputs, ...extra] },
      width: '520px',
    });
  }

  protected key(event: KeyboardEvent): void {
    if (!this.opened() || this.dialogs.openDialogs.length || event.defaultPrevented) return;
    const command = event.ctrlKey || event.metaKey;
    const letter = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const anywhere: Record<string, () => void> = {
      k: () => this.openPalette(),
      s: () => void this.documents.save(),
      e: () => this.export(),
    };
    const commands: Record<string, () => void> = {
      z: () => (event.shiftKey ? this.documents.redo() : this.documents.undo()),
      y: () => this.documents.redo(),
      d: () => this.duplicate(),
      a: () => this.documents.select(...this.documents.document().nodes.map(({ id }) => id)),
    };
    const plain: Record<string, () => void> = {
      n: () => this.openAdd(),
      p: () => this.togglePeek(),
      o: () => this.switchChosen(),
      g: () => this.graph()?.fit(),
      t: () => void this.tidy(),
      '+': () => this.graph()?.zoomBy(1.2),
      '-': () => this.graph()?.zoomBy(1 / 1.2),
      '.': () => this.stepCurve(1),
      ',': () => this.stepCurve(-1),
      Home: () => this.view()?.frameAll(),
      F1: () => this.panel.set('help'),
      Delete: () => this.removeChosen(),
      Backspace: () => this.removeChosen(),
      Escape: () => this.escape(),
      ArrowLeft: () => this.stepChoice(-1, 0),
      ArrowRight: () => this.stepChoice(1, 0),
      ArrowUp: () => this.stepChoice(0, -1),
      ArrowDown: () => this.stepChoice(0, 1),
    };
    const action = command
      ? (anywhere[letter] ?? (this.inField(event.target) ? undefined : commands[letter]))
      : this.inField(event.target) || event.altKey
        ? undefined
        : plain[letter];
    if (!action) return;
    event.preventDefault();
    action();
  }

  private escape(): void {
    if (this.full()) this.full.set(null);
    else if (this.peek()) this.peek.set(null);
    else this.documents.select();
  }

  protected rename(title: string): void {
    const text = title.trim().slice(0, 200);
    if (text && text !== this.documents.document().title) this.documents.apply('Rename', { ...this.documents.document(), title: text });
  }

  protected say(text: string): void {
    this.notices.open(text, 'Close', { duration: 9000 });
  }

  /** Keeps a picture of the newest version for the Library. */
  private async keepPicture(): Promise<void> {
    const version = this.documents.version();
    if (version === this.pictureOf || !this.documents.isSaved || !this.evaluation.counts()) return;
    this.pictureOf = version;
    const png = await this.view()?.snapshot();
    if (png) await this.api.setPicture(this.id(), version, png).catch(() => (this.pictureOf = 0));
  }
}
