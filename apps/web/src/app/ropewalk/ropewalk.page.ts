import { ApplicationRef, ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { AngularSplitModule, type SplitGutterInteractionEvent } from 'angular-split';
import { definitionById, emptyDocument, firstMoment, labelById, labelOf, nodeDefinitions } from '@filaxis/core';
import { ApiError, ApiService } from '../shared/api.service';
import { ThemeService } from '../shared/theme.service';
import { DocumentService } from './document/document.service';
import { addArea, addNote, align, type Alignment } from './document/layout';
import { EditingService } from './document/editing.service';
import { EvaluationService } from './evaluation.service';
import { ExportDialog, exportSources, type ExportData } from './export/export-dialog';
import { GraphView, type AddRequest } from './graph/graph-view';
import { Learning } from './lessons/learning';
import { LessonCard } from './lessons/lesson-card';
import { Moment } from './timeline/moment';
import { Player } from './timeline/player';
import { Tidying } from './graph/tidying';
import { actionFor, type Action, type MenuPlace } from './actions';
import { isField } from '../shared/typing';
import { emptyReason } from './empty-reason';
import { actionSearch, ropewalkActions, type RopewalkScreen } from './ropewalk-actions';
import { ContextMenu, ContextMenuPlace } from './context-menu';
import { Palette, type ActionSearch } from './palette';
import { Pointing } from './pointing';
import { PictureKeeper } from './picture-keeper';
import { ShareDialog } from './share/share-dialog';
import { SidePane, type SideTab } from './side-pane';
import { TopBar } from './top-bar';
import { plainStrip, ResultsPane, type ResultsTab, type StripView } from './results/results-pane';
import { ChecksService } from './checks/checks.service';
import { keepView, readView } from './view-state';
import type { CameraState } from './view3d/orbit';
import type { Picked } from './view3d/selecting';
import { View3d } from './view3d/view3d';
import { MatButtonModule } from '@angular/material/button';

type Pane = 'graph' | 'view' | 'panel' | 'strip';

/** The editing screen: left is what you say, right is what you get. */
@Component({
  selector: 'fx-ropewalk',
  imports: [AngularSplitModule, ContextMenuPlace, GraphView, LessonCard, MatButtonModule, ResultsPane, RouterLink, SidePane, TopBar, View3d],
  providers: [DocumentService, EvaluationService, EditingService, ChecksService, ContextMenu, Learning, Moment, PictureKeeper, Player, Pointing, Tidying],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ropewalk.page.html',
  styleUrl: './ropewalk.page.scss',
  host: {
    '(window:keydown)': 'key($event)',
    '(window:keyup)': 'letGo()',
    '(window:blur)': 'letGo()',
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
  readonly player = inject(Player);
  readonly learning = inject(Learning);
  private readonly moment = inject(Moment);
  protected readonly pointing = inject(Pointing);
  protected readonly themes = inject(ThemeService);
  protected readonly tidying = inject(Tidying);
  private readonly pictures = inject(PictureKeeper);
  private readonly menu = inject(ContextMenu);
  private readonly application = inject(ApplicationRef);
  private readonly dialogs = inject(MatDialog);
  private readonly notices = inject(MatSnackBar);
  private readonly api = inject(ApiService);
  private readonly router = inject(Router);
  private readonly titles = inject(Title);

  readonly graph = viewChild(GraphView);
  readonly view = viewChild(View3d);
  protected readonly results = viewChild(ResultsPane);

  protected readonly opened = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly panel = signal<SideTab>('settings');
  readonly peek = signal<string | null>(null);
  protected readonly add = signal<AddRequest | null>(null);
  protected readonly strip = signal<StripView>(plainStrip);
  protected readonly tab = signal<ResultsTab>('strip');
  protected readonly colour = signal<string | null>(null);
  readonly ghost = signal<string | null>(null);
  protected readonly full = signal<Pane | null>(null);
  protected readonly columns = signal<readonly number[]>([43.5, 56.5]);
  protected readonly rows = signal<readonly number[]>([65, 35]);
  /** The node whose name is being typed. */
  readonly renaming = signal<string | null>(null);

  protected readonly peekName = computed(() => {
    const peeked = this.peek();
    return peeked === null ? null : labelById(this.documents.document(), peeked);
  });
  protected readonly emptyReason = computed(() => emptyReason(this.documents.document(), this.evaluation));

  constructor() {
    effect(() => {
      this.documents.meaning();
      this.documents.liveDials();
      this.moment.time();
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
    this.pictures.snapshot = () => this.view()?.snapshot() ?? Promise.resolve(null);
    this.pictures.due.pipe(takeUntilDestroyed()).subscribe(() => void this.pictures.keep());
  }

  async ngOnInit(): Promise<void> {
    const view = readView(this.id());
    if (view.columns) this.columns.set(view.columns);
    if (view.rows) this.rows.set(view.rows);
    if (view.panel) this.panel.set(view.panel);
    else this.panel.set('dials');
    if (view.strip) this.strip.set({ ...plainStrip, ...view.strip });
    if (view.tab) this.tab.set(view.tab);
    this.learning.begin(view.lesson);
    try {
      this.pictures.begin((await this.documents.open(this.id())) ?? 0);
      this.moment.time.set(firstMoment(this.documents.document()));
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
    keepView(this.id(), { panel: this.panel(), strip: this.strip(), tab: this.tab(), stage, lesson: this.learning.lesson()?.id });
    await this.documents.save();
    await this.pictures.keep();
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

  protected keepCamera(camera: CameraState): void {
    keepView(this.id(), { camera });
  }

  protected pickCurve(curve: number): void {
    this.strip.update((view) => ({ ...view, curve }));
  }

  /** What was clicked in the 3D view: its node is chosen, or the element shown among the values. */
  protected pickIn3d({ maker, what, place }: Picked): void {
    if (this.documents.chosenId() !== maker.node) this.documents.select(maker.node);
    this.graph()?.reveal(maker.node);
    if (what === 'node') return;
    this.showTab('values');
    this.pointing.clicked.set(place);
  }

  stepCurve(by: number): void {
    this.results()?.step(by);
  }

  showPanel(panel: SideTab): void {
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

  // ---- graph

  /** Adds the node that was picked from the search. */
  protected addChosen({ type, request }: { type: string; request: AddRequest }, settings: Readonly<Record<string, unknown>> = {}): void {
    // What takes no wires stands before the chosen node, not after it: it is there to be wired into something.
    const chosen = request.from.length === 1 ? this.documents.chosen() : null;
    const leads = chosen && !nodeDefinitions.get(type)?.inputs.length;
    const at = (leads && this.graph()?.freePlace(chosen, 'before')) || request.at;
    // A wire that was chosen goes through the new node.
    const id = this.editing.add(type, at, request.from, this.documents.selectedWire(), settings);
    this.graph()?.reveal(id);
    this.focusTag(id);
    this.panel.set('settings');
  }

  /** A place for a node after the chosen ones, with what it takes from them; on a chosen wire, in its middle. */
  private nextPlace(): AddRequest {
    const document = this.documents.document();
    const last = [...this.documents.selection()].at(-1);
    const ends = this.documents.selectedWire();
    const beside = document.nodes.find(({ id }) => id === (ends?.from[0] ?? last)) ?? null;
    return { at: this.graph()?.freePlace(beside) ?? { x: 0, y: 0 }, from: this.editing.chosenOutputs() };
  }

  /** Opens the search for a node after the chosen ones. */
  openAdd(): void {
    if (!this.graph()) return;
    this.add.set(this.nextPlace());
    // It has the keyboard before the next key comes.
    this.application.tick();
  }

  addByName(type: string, settings: Readonly<Record<string, unknown>> = {}): void {
    this.addChosen({ type, request: this.nextPlace() }, settings);
  }

  /** Chooses a node and gives it the keyboard. */
  goTo(id: string): void {
    this.showNode(id);
    this.focusTag(id);
  }

  renameChosen(): void {
    this.renaming.set(this.documents.chosen()?.id ?? null);
  }

  /** Opens the menu of what was pressed in the graph. */
  protected openMenu({ event, of }: { event: MouseEvent; of: MenuPlace }): void {
    this.menu.open({ x: event.clientX, y: event.clientY }, ropewalkActions(this).filter(({ menus }) => menus?.includes(of))); // prettier-ignore
  }

  /** Lays the graph out, or stops that when it is at work. */
  tidy(): void {
    const graph = this.graph();
    this.tidying.toggle(graph?.shape ?? 1, () => graph?.fit(), (message) => this.say(message)); // prettier-ignore
  }

  togglePeek(): void {
    this.peek.set(this.peek() ? null : (this.documents.chosen()?.id ?? null));
  }

  toggleGhost(): void {
    this.ghost.set(this.ghost() ? null : (this.documents.chosen()?.id ?? null));
  }

  async freezeChosen(): Promise<void> {
    const node = this.documents.chosen();
    if (node) await this.editing.freeze(node.id).catch((error: Error) => this.say(error.message));
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
    if (this.putIn(event.clipboardData?.getData('text/plain') ?? '')) event.preventDefault();
  }

  /** Puts in what was copied: at the pointer where it is in the graph, else beside what it was copied from. */
  private putIn(text: string, open = false): boolean {
    const at = this.graph()?.pointer;
    return this.editing.putIn('Paste', text, { ...(at && { at }), open });
  }

  async pasteHere(open: boolean): Promise<void> {
    const text = await navigator.clipboard.readText().catch(() => '');
    if (!this.putIn(text, open)) this.say('There are no nodes in the clipboard.');
  }

  // ---- actions

  openPalette(): void {
    if (this.dialogs.openDialogs.length) return;
    this.dialogs
      .open<Palette, ActionSearch, Action>(Palette, {
        panelClass: 'fx-palette',
        data: actionSearch(this),
        // What grows would be measured small by the list that hangs on it.
        enterAnimationDuration: 0,
        position: { top: '70px' },
        maxWidth: '92vw',
      })
      .afterClosed()
      .subscribe((action) => (action?.held ? this.say(`Hold ${action.shortcut}: ${action.name.toLowerCase()}.`) : action?.run()));
    this.application.tick();
  }

  export(): void {
    const document = this.documents.document();
    const chosen = this.documents.chosen();
    const extra =
      chosen && this.documents.chosenDefinition()?.role !== 'output' ? [{ node: chosen.id, label: `The chosen node, ${labelOf(document, chosen)}` }] : [];
    this.dialogs.open<ExportDialog, ExportData>(ExportDialog, {
      data: { title: document.title, evaluation: this.evaluation, sources: [...exportSources(document), ...extra], frames: this.player.range() },
      width: '640px',
    });
  }

  /** The link of the Handout; what is not saved yet is saved first, so that it is shown. */
  async share(): Promise<void> {
    await this.documents.save();
    this.dialogs.open<ShareDialog, string>(ShareDialog, { data: this.id(), width: '560px' });
  }

  protected key(event: KeyboardEvent): void {
    if (!this.opened() || this.dialogs.openDialogs.length || event.defaultPrevented) return;
    const action = actionFor(event, ropewalkActions(this));
    if (!action) return;
    event.preventDefault();
    action.run();
    // What the key opened is there, and has the keyboard, before the next one comes.
    this.application.tick();
  }

  /** What lasts while a key is held is over. */
  protected letGo(): void {
    this.documents.lookAgain();
    this.view()?.lightHand.letGo();
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

  /** Takes up a lesson in a document that is still empty, or in a new one. */
  async learn(lesson: string): Promise<void> {
    if (!this.documents.document().nodes.length) return this.learning.begin(lesson);
    this.learning.leave();
    const { id } = await this.api.create(emptyDocument);
    keepView(id, { lesson });
    // By way of the Library: a page of a document that is open already would stay with it.
    await this.router.navigateByUrl('/', { skipLocationChange: true });
    await this.router.navigate(['/d', id]);
  }

  toLibrary(): void {
    void this.router.navigateByUrl('/');
  }

  protected say(text: string): void {
    this.notices.open(text, 'Close', { duration: 6000 });
  }
}
