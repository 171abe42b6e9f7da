import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, untracked, viewChild, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { DatePipe } from '@angular/common';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { AngularSplitModule, type SplitGutterInteractionEvent } from 'angular-split';
import { combineLatest, debounceTime, finalize, takeWhile, timer, type Subscription } from 'rxjs';
import { nodeDefinitions, definitionById, labelById, labelOf } from '@filaxis/core';
import { ApiError, ApiService } from '../shared/api.service';
import { figure } from '../shared/figures';
import { Icon } from '../shared/icon';
import { ThemeService } from '../shared/theme.service';
import { DocumentService, type SaveState } from './document/document.service';
import { dialFromSetting } from './document/dials';
import { moveNodes } from './document/edits';
import { addArea, addNote, align, insertOnWire, type Alignment } from './document/layout';
import { settingType } from './settings/setting-field';
import { EditingService } from './document/editing.service';
import { EvaluationService } from './evaluation.service';
import { ExportDialog, exportSources, type ExportData } from './export/export-dialog';
import { GraphView, type AddRequest } from './graph/graph-view';
import { tidyPlaces } from './graph/tidy';
import { actionFor, isField, type Action } from './actions';
import { emptyReason } from './empty-reason';
import { ropewalkActions, type RopewalkScreen } from './ropewalk-actions';
import { Palette } from './palette';
import { DialsPanel } from './settings/dials-panel';
import { NodeHelp } from './settings/node-help';
import { ShareDialog } from './share/share-dialog';
import { SettingsPanel } from './settings/settings-panel';
import { plainStrip, ResultsPane, type ResultsTab, type StripView } from './results/results-pane';
import { GuardedPanel, PanelGuard } from '../shared/panel-guard';
import { ChecksService } from './checks/checks.service';
import { keepView, readView } from './view-state';
import type { CameraState } from './view3d/orbit';
import type { CurvePlace } from './view3d/sight';
import { View3d } from './view3d/view3d';

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
  imports: [
    AngularSplitModule,
    DatePipe,
    DialsPanel,
    GraphView,
    GuardedPanel,
    Icon,
    MatMenuModule,
    NodeHelp,
    PanelGuard,
    ResultsPane,
    RouterLink,
    SettingsPanel,
    View3d,
  ],
  providers: [DocumentService, EvaluationService, EditingService, ChecksService],
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
export class RopewalkPage implements OnInit, RopewalkScreen {
  readonly id = input.required<string>();

  readonly documents = inject(DocumentService);
  protected readonly evaluation = inject(EvaluationService);
  readonly editing = inject(EditingService);
  protected readonly themes = inject(ThemeService);
  private readonly api = inject(ApiService);
  private readonly dialogs = inject(MatDialog);
  private readonly notices = inject(MatSnackBar);
  private readonly router = inject(Router);
  private readonly titles = inject(Title);
  private readonly destroyed = inject(DestroyRef);

  readonly graph = viewChild(GraphView);
  readonly view = viewChild(View3d);
  protected readonly results = viewChild(ResultsPane);

  protected readonly opened = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly panel = signal<'settings' | 'dials' | 'help'>('settings');
  protected readonly markedDial = signal<string | null>(null);
  readonly peek = signal<string | null>(null);
  protected readonly add = signal<AddRequest | null>(null);
  protected readonly strip = signal<StripView>(plainStrip);
  protected readonly tab = signal<ResultsTab>('strip');
  /** Places that are picked in Values, and the place that was clicked in the 3D view. */
  protected readonly picks = signal<Float32Array | null>(null);
  protected readonly clicked = signal<readonly number[] | null>(null);
  protected readonly marked = signal<number | null>(null);
  protected readonly colour = signal<string | null>(null);
  readonly ghost = signal<string | null>(null);
  protected readonly full = signal<Pane | null>(null);
  protected readonly columns = signal<readonly number[]>([43.5, 56.5]);
  protected readonly rows = signal<readonly number[]>([65, 35]);
  protected readonly figure = figure;
  /** The graph is being laid out. */
  /** The seconds that it takes so far, and its share; null: nothing is laid out. */
  protected readonly tidying = signal<string | null>(null);
  private layingOut: Subscription | null = null;
  private pictureOf = 0;

  protected readonly saved = computed(() => {
    const state = this.documents.saveState();
    if (state === 'saved') return `saved · version ${this.documents.version()}`;
    return state === 'refused' ? `not saved: ${this.documents.saveMessage()}` : savedText[state];
  });
  protected readonly heading = computed(() => {
    const node = this.documents.chosen();
    if (!node) return this.documents.selection().size ? { name: `${this.documents.selection().size} nodes`, text: '' } : { name: 'Nothing chosen', text: '' };
    const definition = this.documents.chosenDefinition();
    return { name: definition?.label ?? node.type, text: definition?.summary ?? '' };
  });
  /** The place that strip and 3D view mark together. */
  protected readonly markedPlace = computed(() => {
    const data = this.evaluation.strip();
    const i = this.marked();
    return data && i !== null && i < data.s.length ? Array.from(data.positions.subarray(i * 3, i * 3 + 3)) : null;
  });
  protected readonly peekName = computed(() => {
    const peeked = this.peek();
    return peeked === null ? null : labelById(this.documents.document(), peeked);
  });
  protected readonly emptyReason = computed(() => emptyReason(this.documents.document(), this.evaluation));

  constructor() {
    effect(() => {
      this.documents.meaning();
      this.documents.liveDials();
      const strip = this.strip();
      const show = {
        peek: this.peek(),
        curve: strip.curve,
        stripName: strip.name,
        stripOthers: strip.others,
        chosen: this.documents.chosenId(),
        colour: this.colour(),
        ghost: this.ghost(),
      };
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
    if (view.strip) this.strip.set({ ...plainStrip, ...view.strip });
    if (view.tab) this.tab.set(view.tab);
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
    keepView(this.id(), { panel: this.panel(), strip: this.strip(), tab: this.tab(), stage });
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
    this.marked.set(place && data && place.curve === data.curve ? Math.min(data.s.length - 1, Math.round(place.index / data.step)) : null);
  }

  protected keepCamera(camera: CameraState): void {
    keepView(this.id(), { camera });
  }

  protected pickCurve(curve: number): void {
    this.strip.update((view) => ({ ...view, curve }));
  }

  stepCurve(by: number): void {
    this.results()?.step(by);
  }

  showPanel(panel: 'settings' | 'dials' | 'help'): void {
    this.panel.set(panel);
  }

  /** Opens the tab with what has to be looked at. */
  showTab(tab: ResultsTab): void {
    this.tab.set(tab);
    if (this.full() && this.full() !== 'strip') this.full.set(null);
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

  /** Adds the node that was picked from the search. */
  protected addChosen({ type, request }: { type: string; request: AddRequest }): void {
    // What takes no wires stands before the chosen node, not after it: it is there to be wired into something.
    const chosen = request.from ? this.documents.chosen() : null;
    const leads = chosen && !nodeDefinitions.get(type)?.inputs.length;
    const at = (leads && this.graph()?.freePlace(chosen, 'before')) || request.at;
    const wire = this.documents.selectedWire();
    const id = this.editing.add(type, at, wire ? null : request.from);
    // A wire that was chosen goes through the new node.
    const inserted = wire && insertOnWire(this.documents.document(), id, wire);
    if (inserted) this.documents.apply('Insert on wire', inserted);
    this.graph()?.reveal(id);
    this.focusTag(id);
    this.panel.set('settings');
  }

  /** Opens the search for a node after the chosen one. */
  openAdd(): void {
    const at = this.graph()?.freePlace(this.documents.chosen());
    if (at) this.add.set({ at, from: this.editing.chosenOutput() });
  }

  private addByName(type: string): void {
    const at = this.graph()?.freePlace(this.documents.chosen()) ?? { x: 0, y: 0 };
    this.addChosen({ type, request: { at, from: this.editing.chosenOutput() } });
  }

  /** Lays the graph out, or stops that when it is at work. */
  tidy(): void {
    if (this.layingOut) {
      this.layingOut.unsubscribe();
      return;
    }
    this.tidying.set('');
    this.layingOut = combineLatest([tidyPlaces(this.documents.document()), timer(0, 1000)])
      .pipe(
        takeWhile(([{ places }]) => !places, true),
        takeUntilDestroyed(this.destroyed),
        finalize(() => {
          this.layingOut = null;
          this.tidying.set(null);
        }),
      )
      .subscribe({
        next: ([{ share, places }, seconds]) => {
          this.tidying.set(`${share ? ` · ${Math.round(share * 100)} %` : ''}${seconds ? ` · ${seconds} s` : ''}`);
          if (!places) return;
          this.documents.apply('Tidy', moveNodes(this.documents.document(), places));
          this.graph()?.fit();
        },
        error: (error: Error) => this.say(error.message),
      });
  }

  togglePeek(): void {
    this.peek.set(this.peek() ? null : (this.documents.chosen()?.id ?? null));
  }

  toggleGhost(): void {
    this.ghost.set(this.ghost() ? null : (this.documents.chosen()?.id ?? null));
  }

  group(): void {
    this.documents.apply('Group into an area', addArea(this.documents.document(), this.documents.selection()));
  }

  note(): void {
    const { x, y } = this.graph()?.freePlace(this.documents.chosen()) ?? { x: 0, y: 0 };
    this.documents.apply('Add a note', addNote(this.documents.document(), [x, y]).document);
  }

  align(how: Alignment): void {
    this.documents.apply('Align', align(this.documents.document(), this.documents.selection(), how));
  }

  step(dx: number, dy: number): void {
    const id = this.editing.step(dx, dy);
    if (!id) return;
    this.graph()?.reveal(id);
    this.focusTag(id);
  }

  /** Gives the keyboard to a tag once it is there. */
  private focusTag(id: string): void {
    setTimeout(() => {
      // Who asked for the next node meanwhile keeps the keyboard there.
      if (!this.add()) document.querySelector<HTMLElement>(`fx-tag[data-node="${id}"]`)?.focus({ preventScroll: true });
    });
  }

  // ---- files and clipboard

  protected browse(node: string): void {
    const asset = definitionById(this.documents.document(), node)?.settings['asset'];
    const endings = [...(asset?.kind === 'asset' ? asset.endings : []), '.bin'];
    const picker = Object.assign(document.createElement('input'), { type: 'file', accept: endings.join(','), multiple: true });
    picker.onchange = () => void this.importFiles([...(picker.files ?? [])], { x: 0, y: 0 }, node);
    picker.click();
  }

  protected async importFiles(files: readonly File[], at: { x: number; y: number }, node: string | null): Promise<void> {
    await this.editing.importFiles(files, at, node).catch((error: Error) => this.say(error.message));
  }

  protected copy(event: ClipboardEvent, remove = false): void {
    if (!this.documents.selection().size || isField(event.target) || getSelection()?.toString()) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', this.editing.chosenAsText());
    if (remove) this.editing.removeChosen();
  }

  protected paste(event: ClipboardEvent): void {
    if (isField(event.target)) return;
    if (this.editing.putIn('Paste', event.clipboardData?.getData('text/plain') ?? '', [32, 48])) event.preventDefault();
  }

  // ---- actions

  openPalette(): void {
    if (this.dialogs.openDialogs.length) return;
    this.dialogs
      .open<Palette, readonly Action[], Action>(Palette, {
        data: [...ropewalkActions(this).filter(({ quiet }) => !quiet), ...this.goActions(), ...this.addActions()],
        position: { top: '70px' },
        maxWidth: '92vw',
      })
      .afterClosed()
      .subscribe((action) => action?.run());
  }

  export(): void {
    const document = this.documents.document();
    const chosen = this.documents.chosen();
    const extra =
      chosen && this.documents.chosenDefinition()?.role !== 'output' ? [{ node: chosen.id, label: `The chosen node, ${labelOf(document, chosen)}` }] : [];
    this.dialogs.open<ExportDialog, ExportData>(ExportDialog, {
      data: { title: document.title, evaluation: this.evaluation, sources: [...exportSources(document), ...extra] },
      width: '640px',
    });
  }

  /** The link of the Handout; what is not saved yet is saved first, so that it is shown. */
  async share(): Promise<void> {
    await this.documents.save();
    this.dialogs.open<ShareDialog, string>(ShareDialog, { data: this.id(), width: '560px' });
  }

  /** A setting's label was dropped on the dials. */
  protected dropSetting(event: DragEvent): void {
    const text = event.dataTransfer?.getData(settingType);
    if (!text) return;
    event.preventDefault();
    const { node, setting } = JSON.parse(text) as { node: string; setting: string };
    const made = dialFromSetting(this.documents.document(), node, setting);
    if (!made) return this.say('This setting cannot be a dial.');
    this.documents.apply('Make a dial', made.document);
    this.showDial(made.id);
  }

  protected overDials(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes(settingType)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'link';
  }

  private goTo(id: string): void {
    this.showNode(id);
    this.focusTag(id);
  }

  /** Every node of the graph, to be gone to. */
  private goActions(): Action[] {
    const document = this.documents.document();
    return document.nodes.map((node) => {
      const { id, settings } = node;
      const name = settings?.['name'];
      return { name: `Go to ${labelOf(document, node)} ${id}`, detail: typeof name === 'string' ? name : '', run: () => this.goTo(id) };
    });
  }

  private addActions(): Action[] {
    return [...nodeDefinitions.values()].map(({ type, label, summary }) => ({ name: `Add ${label}`, detail: summary, run: () => this.addByName(type) }));
  }

  protected key(event: KeyboardEvent): void {
    if (!this.opened() || this.dialogs.openDialogs.length || event.defaultPrevented) return;
    const action = actionFor(event, ropewalkActions(this));
    if (!action) return;
    event.preventDefault();
    action.run();
  }

  escape(): void {
    if (this.full()) this.full.set(null);
    else if (this.peek()) this.peek.set(null);
    else if (this.ghost()) this.ghost.set(null);
    else this.documents.select();
  }

  toggleTheme(): void {
    this.themes.toggle();
  }

  toLibrary(): void {
    void this.router.navigateByUrl('/');
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
    const counts = this.evaluation.counts();
    if (version === this.pictureOf || !this.documents.isSaved || !counts) return;
    this.pictureOf = version;
    const png = await this.view()?.snapshot();
    // Without one, the next chance is taken.
    if (!png) this.pictureOf = 0;
    else await this.api.setPicture(this.id(), version, png, { faces: counts.faces, points: counts.points }).catch(() => (this.pictureOf = 0));
  }
}
