import { ApplicationRef, ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild, type OnInit } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogState } from '@angular/material/dialog';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { AngularSplitModule } from 'angular-split';
import { emptyDocument, firstMoment } from '@filaxis/core';
import { ApiError, ApiService } from '../shared/api.service';
import { Notices } from '../shared/notices';
import { ThemeService } from '../shared/theme.service';
import { DocumentService } from './document/document.service';
import { EditingService } from './document/editing.service';
import { EvaluationService } from './evaluation.service';
import { ExportDialog, type ExportData } from './export/export-dialog';
import { exportSources } from './export/export-sources';
import { GraphCommands } from './graph/graph-commands';
import { GraphView } from './graph/graph-view';
import { Learning } from './lessons/learning';
import { LessonCard } from './lessons/lesson-card';
import { Moment } from './timeline/moment';
import { Player } from './timeline/player';
import { Tidying } from './graph/tidying';
import { shortcutOf, type Action, type MenuPlace } from './actions';
import { KeyCommands } from './keys/key-commands';
import { Shortcuts, withOwn } from './keys/shortcuts';
import { ShortcutsDialog } from './keys/shortcuts-dialog';
import { emptyReason } from './empty-reason';
import { ropewalkActions, type RopewalkScreen } from './ropewalk-actions';
import { screenSearch } from './search/screen-search';
import type { Entry, Find } from './search/search';
import { ContextMenu, ContextMenuPlace } from './context-menu';
import { Palette, type PaletteData } from './search/palette';
import { Panes } from './panes';
import { Peeking } from './peeking';
import { Pointing } from './pointing';
import { PictureKeeper } from './picture-keeper';
import { ShareDialog } from './share/share-dialog';
import { SidePane } from './side-pane';
import { TopBar } from './top-bar';
import { Transfer } from './transfer';
import { ResultsPane } from './results/results-pane';
import { ChecksService } from './checks/checks.service';
import { keepView, readView } from './view-state';
import type { CameraState } from './view3d/orbit';
import type { Picked } from './view3d/selecting';
import { View3d } from './view3d/view3d';

/** The editing screen: left is what you say, right is what you get. */
@Component({
  selector: 'fx-ropewalk',
  imports: [AngularSplitModule, ContextMenuPlace, GraphView, LessonCard, MatButtonModule, ResultsPane, RouterLink, SidePane, TopBar, View3d],
  providers: [DocumentService, EvaluationService, EditingService, ChecksService, ContextMenu, GraphCommands, Learning, Moment, Panes, Peeking, PictureKeeper, Player, Pointing, Tidying, Transfer], // prettier-ignore
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ropewalk.page.html',
  styleUrl: './ropewalk.page.scss',
  host: {
    '(window:keydown)': 'key($event)',
    '(window:keyup)': 'letGo()',
    '(window:blur)': 'letGo()',
    '(window:pagehide)': 'keepMoment()',
    '(window:beforeunload)': 'beforeUnload($event)',
    '(window:copy)': 'transfer.copy($event)',
    '(window:cut)': 'transfer.copy($event, true)',
    '(window:paste)': 'transfer.paste($event)',
  },
})
export class RopewalkPage implements OnInit, RopewalkScreen {
  readonly id = input.required<string>();

  readonly documents = inject(DocumentService);
  protected readonly evaluation = inject(EvaluationService);
  readonly editing = inject(EditingService);
  readonly graph = inject(GraphCommands);
  readonly panes = inject(Panes);
  readonly peeking = inject(Peeking);
  readonly transfer = inject(Transfer);
  readonly player = inject(Player);
  readonly learning = inject(Learning);
  readonly themes = inject(ThemeService);
  private readonly moment = inject(Moment);
  protected readonly pointing = inject(Pointing);
  protected readonly tidying = inject(Tidying);
  private readonly pictures = inject(PictureKeeper);
  private readonly menu = inject(ContextMenu);
  private readonly application = inject(ApplicationRef);
  private readonly dialogs = inject(MatDialog);
  protected readonly notices = inject(Notices);
  private readonly api = inject(ApiService);
  private readonly router = inject(Router);
  private readonly titles = inject(Title);

  protected readonly shortcuts = inject(Shortcuts);
  private readonly keys = new KeyCommands((action) => this.run(action), (text) => this.openPalette(text)); // prettier-ignore
  /** What was typed before the document was there, from N on. */
  private early = '';

  private readonly graphView = viewChild(GraphView);
  readonly view = viewChild(View3d);
  private readonly results = viewChild(ResultsPane);

  protected readonly opened = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly colour = signal<string | null>(null);
  protected readonly emptyReason = computed(() => emptyReason(this.documents.document(), this.evaluation));

  constructor() {
    effect(() => {
      this.documents.meaning();
      this.documents.liveDials();
      this.moment.time();
      const strip = this.panes.strip();
      const show = {
        shows: this.peeking.shows(),
        looked: this.peeking.looked(),
        peek: this.peeking.peek(),
        curve: strip.curve,
        stripName: strip.name,
        stripOthers: strip.others,
        chosen: this.documents.chosenId(),
        colour: this.colour(),
        ghost: this.peeking.ghost(),
      };
      if (this.opened()) untracked(() => this.evaluation.evaluate(show));
    });
    effect(() => this.titles.setTitle(`${this.documents.document().title} · Filaxis`));
    this.graph.view = this.graphView;
    this.pictures.snapshot = () => this.view()?.snapshot() ?? Promise.resolve(null);
    this.pictures.due.pipe(takeUntilDestroyed()).subscribe(() => void this.pictures.keep());
  }

  async ngOnInit(): Promise<void> {
    const view = readView(this.id());
    this.panes.begin(view);
    this.learning.begin(view.lesson);
    try {
      this.pictures.begin((await this.documents.open(this.id())) ?? 0);
      this.moment.time.set(view.time ?? firstMoment(this.documents.document()));
      if (view.shows) this.peeking.shows.set(view.shows);
      if (!this.documents.document().dials?.length && !view.panel) this.panes.panel.set('settings');
      this.opened.set(true);
      this.takeEarly();
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
    keepView(this.id(), { ...this.panes.state(), stage, lesson: this.learning.lesson()?.id });
    this.keepMoment();
    await this.documents.save();
    await this.pictures.keep();
  }

  /** What is shown, and when, for the next time. */
  protected keepMoment(): void {
    if (this.opened()) keepView(this.id(), { shows: this.peeking.shows(), ...(this.player.timed() ? { time: this.moment.time() } : {}) });
  }

  protected beforeUnload(event: BeforeUnloadEvent): void {
    if (this.opened() && !this.documents.isSaved && this.documents.saveMessage()) event.preventDefault();
  }

  protected keepCamera(camera: CameraState): void {
    keepView(this.id(), { camera });
  }

  /** What was clicked in the 3D view: its node is chosen, or the element shown among the values. */
  protected pickIn3d({ maker, what, place }: Picked): void {
    this.peeking.chooseInView(maker.node);
    if (this.documents.chosenId() !== maker.node) this.documents.select(maker.node);
    this.graphView()?.reveal(maker.node);
    if (what === 'node') return;
    this.panes.showTab('values');
    this.pointing.clicked.set(place);
  }

  stepCurve(by: number): void {
    this.results()?.step(by);
  }

  /** Opens the menu of what was pressed in the graph. */
  protected openMenu({ event, of }: { event: MouseEvent; of: MenuPlace }): void {
    this.menu.open({ x: event.clientX, y: event.clientY }, this.actions().filter(({ menus }) => menus?.includes(of))); // prettier-ignore
  }

  /** The search for a node to add finds all that the search over everything does. */
  protected readonly find: Find = (text, kind) => this.search()(text, kind);
  /** Made when it is asked first, and again once something has changed that it finds. */
  private readonly search = computed(() => screenSearch(this, this.shortcuts.own()));

  /** What lasts while its key is held can only be told. */
  tellHeld({ shortcut, name }: Action): void {
    this.notices.say(`Hold ${shortcut ?? 'its key'}: ${name.toLowerCase()}.`);
  }

  openPalette(text = ''): void {
    if (this.asking()) return;
    this.dialogs
      .open<Palette, PaletteData, Entry>(Palette, {
        panelClass: 'fx-palette',
        data: { find: this.find, text },
        // What grows would be measured small by the list that hangs on it.
        enterAnimationDuration: 0,
        // A key that follows is a command at once.
        exitAnimationDuration: 0,
        position: { top: '70px' },
        maxWidth: '92vw',
      })
      .afterClosed()
      .subscribe((entry) => entry?.run());
    this.application.tick();
  }

  export(): void {
    const document = this.documents.document();
    const sources = exportSources(document, this.evaluation.shown(), this.documents.chosenId());
    this.dialogs
      .open<ExportDialog, ExportData, string>(ExportDialog, {
        data: { title: document.title, evaluation: this.evaluation, sources, frames: this.player.range(), graph: true },
        width: '680px',
        maxWidth: '94vw',
      })
      .afterClosed()
      .subscribe((node) => node && this.graph.goTo(node));
  }

  /** The link of the Handout; what is not saved yet is saved first, so that it is shown. */
  async share(): Promise<void> {
    await this.documents.save();
    this.dialogs.open<ShareDialog, string>(ShareDialog, { data: this.id(), width: '560px' });
  }

  protected key(event: KeyboardEvent): void {
    if (this.asking() || event.defaultPrevented) return;
    if (this.opened()) this.keys.press(event, this.actions());
    else if (!this.failed() && (this.early || shortcutOf(event) === this.shortcuts.keyFor('N')) && event.key.length === 1) this.early += event.key;
  }

  /** A dialog is open; one that is closing has no more to do with keys. */
  private asking(): boolean {
    return this.dialogs.openDialogs.some((dialog) => dialog.getState() === MatDialogState.OPEN);
  }

  /** Everything that can be done, with the shortcuts that this browser gives it. */
  private actions(): Action[] {
    return withOwn(ropewalkActions(this), this.shortcuts.own());
  }

  private run(action: Action): void {
    action.run();
    // What the key opened is there, and has the keyboard, before the next one comes.
    this.application.tick();
  }

  /** Goes on with what was typed while the document was on its way. */
  private takeEarly(): void {
    if (!this.early) return;
    this.application.tick();
    this.graph.openAdd(this.early.slice(1));
    this.early = '';
  }

  /** Opens the menu of the setting that has the keyboard. */
  openModes(): void {
    document.activeElement?.closest('fx-setting')?.querySelector<HTMLElement>('.mode')?.click();
  }

  askShortcuts(): void {
    this.dialogs.open<ShortcutsDialog, () => readonly Action[]>(ShortcutsDialog, { data: () => ropewalkActions(this), width: '640px' });
  }

  /** What lasts while a key is held is over. */
  protected letGo(): void {
    this.keys.letGo();
    this.documents.lookAgain();
    this.view()?.lightHand.letGo();
  }

  escape(): void {
    if (this.panes.full()) this.panes.full.set(null);
    else if (!this.peeking.end()) this.documents.select();
  }

  /** Takes up a lesson in a document that is still empty, or in a new one. */
  async learn(lesson: string): Promise<void> {
    if (!this.documents.document().nodes.length) return this.learning.begin(lesson);
    this.learning.leave();
    const { id } = await this.api.create(emptyDocument);
    keepView(id, { lesson });
    await this.goToDocument(id);
  }

  private async goToDocument(id: string): Promise<void> {
    // By way of the Library: a page of a document that is open already would stay with it.
    await this.router.navigateByUrl('/', { skipLocationChange: true });
    await this.router.navigate(['/d', id]);
  }

  async newDocument(): Promise<void> {
    const { id } = await this.api.create(emptyDocument);
    await this.goToDocument(id);
  }

  toLibrary(): void {
    void this.router.navigateByUrl('/');
  }
}
