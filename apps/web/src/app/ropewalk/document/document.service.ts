import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  catchError,
  concatMap,
  debounceTime,
  defer,
  EMPTY,
  finalize,
  from,
  fromEvent,
  merge,
  race,
  Subject,
  switchMap,
  take,
  tap,
  timer,
  type Observable,
} from 'rxjs';
import {
  differences,
  emptyDocument,
  definitionById,
  upgradeDocument,
  type Dial,
  type DialValue,
  type FilaxisDocument,
  type GraphNode,
  type NodeDefinition,
  type Wire,
} from '@filaxis/core';
import { ApiError, ApiService } from '../../shared/api.service';
import { newKey } from '../../shared/keys';
import { choiceNames, setDialValue } from './dials';
import { changeBetween } from './change';
import { sameMeaning } from './edits';
import { History } from './history';
import { UnsavedStore, type UnsavedEdits } from './unsaved-edits';

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';

/** How long the hand rests before what it did is saved, ms. */
const quiet = 700;
/** How long after a save that did not reach the server it is tried again, ms: the first time, and at most; twice as long each time. */
const retry = { first: 4000, most: 30_000 };
/** How long other tabs are waited for to say that they are there, ms. */
const answerTime = 300;

/** A save whose answer is not known yet: asked again with the same key, it is done once. */
interface Asked {
  readonly key: string;
  readonly baseVersion: number;
  readonly document: FilaxisDocument;
}

/** What tabs with the same document tell each other. */
interface TabWord {
  readonly tab: string;
  readonly hello?: true;
  readonly here?: true;
  readonly saved?: number;
}

/** The document that is open: its state, its changes, its history, and its way to the server. One per Ropewalk. */
@Injectable()
export class DocumentService implements OnDestroy {
  private readonly api = inject(ApiService);

  readonly id = signal<string | null>(null);
  readonly document = signal<FilaxisDocument>(emptyDocument);
  /** Number of the version that the server has. */
  readonly version = signal(0);
  readonly saveState = signal<SaveState>('saved');
  readonly saveMessage = signal('');
  /** Values of dials that are being dragged; they are put into the document when let go. */
  readonly liveDials = signal<Readonly<Record<string, DialValue>>>({});
  /** The dials as they stand now, the first of each group with its heading. */
  readonly dials = computed(() => {
    const live = this.liveDials();
    return (this.document().dials ?? []).map((dial, i, all) => {
      const heading = dial.group === all[i - 1]?.group ? null : (dial.group ?? 'Others');
      return { ...dial, value: live[dial.id] ?? dial.value, heading, called: dial.kind === 'choice' ? choiceNames(this.document(), dial.id) : null };
    });
  });
  readonly selection = signal<ReadonlySet<string>>(new Set());
  readonly selectedWire = signal<Wire | null>(null);
  /** Another tab has this document open too. */
  readonly openElsewhere = signal(false);
  /** Edits of a tab that is gone, which were never saved. */
  readonly leftOver = signal<UnsavedEdits | null>(null);
  /** What taking them up would change, in words. */
  readonly leftOverChanges = computed(() => {
    const left = this.leftOver();
    return left ? differences(this.document(), left.document) : [];
  });
  private readonly history = signal(History.empty);
  private preview: FilaxisDocument | null = null;
  private channel: BroadcastChannel | null = null;
  private readonly unsaved = new UnsavedStore();
  private readonly tabsHere = new Set<string>();
  private asked: Asked | null = null;

  readonly chosen = computed<GraphNode | null>(() => {
    const ids = this.selection();
    return ids.size === 1 ? (this.document().nodes.find((node) => ids.has(node.id)) ?? null) : null;
  });
  /** The document, told anew only when something changed that its result depends on: not when a tag was moved or a note written. */
  readonly meaning = computed(() => this.document(), { equal: sameMeaning });
  readonly chosenId = computed(() => this.chosen()?.id ?? null);
  readonly chosenDefinition = computed<NodeDefinition | null>(() => definitionById(this.document(), this.chosen()?.id ?? '') ?? null);
  /** The change that is left out for the moment, by its name; null: nothing is. */
  readonly lookingBack = signal<string | null>(null);
  readonly undoLabel = computed(() => this.history().undoLabel);
  readonly redoLabel = computed(() => this.history().redoLabel);

  private readonly changed = new Subject<void>();
  /** Saves that are asked for without waiting for a pause, each with what is to be told when it is through. */
  private readonly wanted = new Subject<() => void>();
  /** The server was not reached: how many times one after another. */
  private readonly missed = new Subject<number>();
  private misses = 0;
  /** One save after another, whoever asks for it. */
  private readonly saving = merge(
    this.changed.pipe(debounceTime(quiet)),
    this.missed.pipe(switchMap((times) => race(timer(Math.min(retry.most, retry.first * 2 ** (times - 1))), fromEvent(window, 'online')).pipe(take(1)))),
    this.wanted,
  )
    .pipe(concatMap((through) => this.send().pipe(finalize(() => typeof through === 'function' && through()))))
    .subscribe();

  /** Opens a document and tells which version its picture shows; edits that an earlier visit could not save are taken up again. @throws ApiError */
  async open(id: string): Promise<number | null> {
    const stored = await this.api.open(id);
    this.id.set(id);
    this.document.set(stored.document);
    this.version.set(stored.version);
    this.history.set(History.empty);
    this.saveState.set('saved');
    this.asked = null;
    this.watchOtherTabs(id);
    const left = this.unsaved.own(id);
    setTimeout(() => this.lookForLeftOver(id), answerTime);
    if (!left) return stored.pictureOf;
    // A save whose answer was lost did happen when its key is the newest version's.
    this.version.set(left.asked !== null && left.asked === stored.key ? stored.version : left.baseVersion);
    this.document.set(upgradeDocument(left.document));
    this.saveState.set('unsaved');
    await this.save();
    return stored.pictureOf;
  }

  /** Shows a document that is kept nowhere from here: changes stay on this page. */
  openLoose(document: FilaxisDocument): void {
    this.id.set(null);
    this.document.set(document);
    this.history.set(History.empty);
  }

  /** One named change, which can be undone. */
  apply(label: string, after: FilaxisDocument): void {
    // What was looked back at is no basis for a change.
    if (this.lookingBack() !== null) return;
    const before = this.preview ?? this.document();
    this.preview = null;
    if (after === before) return;
    this.history.update((history) => history.done(changeBetween(label, before, after)));
    this.put(after);
  }

  /** Shows a change that is still under the hand; `apply` keeps it, `dropPreview` takes it back. */
  show(after: FilaxisDocument): void {
    this.preview ??= this.document();
    this.document.set(after);
  }

  /** A dial that is being dragged. */
  dragDial({ id }: Dial, value: DialValue): void {
    this.liveDials.update((live) => ({ ...live, [id]: value }));
  }

  /** A dial that was let go. */
  keepDial({ id, label }: Dial, value: DialValue): void {
    const rest = { ...this.liveDials() };
    delete rest[id];
    // The document has the value before the live one goes, so that no run sees the old one in between.
    this.apply(`Dial ${label}`, setDialValue(this.document(), id, value));
    this.liveDials.set(rest);
  }

  /** The document without the change under the hand. */
  settledDocument(): FilaxisDocument {
    return this.preview ?? this.document();
  }

  dropPreview(): void {
    if (this.preview) this.document.set(this.preview);
    this.preview = null;
  }

  /** While a key is held: the document as it was before the last change, without taking that back. */
  lookBack(): void {
    if (this.lookingBack() || this.preview) return;
    const before = this.history().undo(this.document());
    if (before) this.lookAt(before.document, `Before “${this.undoLabel()!}”`);
  }

  /** While something is held: another document in place of this one, told of by `what`; nothing of it is kept. */
  lookAt(document: FilaxisDocument, what: string): void {
    if (this.lookingBack() || this.preview) return;
    this.lookingBack.set(what);
    this.show(document);
  }

  lookAgain(): void {
    if (this.lookingBack() === null) return;
    this.lookingBack.set(null);
    this.dropPreview();
  }

  undo(): void {
    const step = this.history().undo(this.settledDocument());
    if (step) this.step(step);
  }

  redo(): void {
    const step = this.history().redo(this.settledDocument());
    if (step) this.step(step);
  }

  select(...ids: string[]): void {
    this.selectedWire.set(null);
    this.selection.set(new Set(ids));
  }

  /** True when everything is on the server. */
  get isSaved(): boolean {
    return this.saveState() === 'saved';
  }

  /** Saves now, without waiting for a pause; after a save that is on its way, if there is one. */
  save(): Promise<void> {
    return new Promise((through) => this.wanted.next(through));
  }

  /** Sends what is not saved, when subscribed to. It never fails: how it went is the state. */
  private send(): Observable<never> {
    return defer(() => {
      const id = this.id();
      if (!id || !['unsaved', 'offline'].includes(this.saveState())) return EMPTY;
      const asked = (this.asked ??= { key: newKey(), baseVersion: this.version(), document: this.settledDocument() });
      this.keepAside();
      this.saveState.set('saving');
      return from(this.api.save(id, asked.baseVersion, asked.document, asked.key)).pipe(
        tap(({ version }) => this.saved(id, asked.document, version)),
        catchError((error: unknown) => {
          this.failed(error);
          return EMPTY;
        }),
        switchMap(() => EMPTY),
      );
    });
  }

  private saved(id: string, document: FilaxisDocument, version: number): void {
    this.asked = null;
    this.misses = 0;
    this.version.set(version);
    if (this.settledDocument() === document) {
      this.unsaved.forget(id);
      this.saveState.set('saved');
    } else {
      this.keepAside();
      this.saveState.set('unsaved');
      this.changed.next();
    }
    this.tell({ saved: version });
  }

  /** After a conflict: saves over what the server has. */
  async keepMine(): Promise<void> {
    const id = this.id();
    if (!id) return;
    this.version.set((await this.api.open(id)).version);
    this.asked = null;
    this.saveState.set('unsaved');
    await this.save();
  }

  /** After a conflict: takes what the server has; undo brings one's own back. */
  async takeTheirs(): Promise<void> {
    const id = this.id();
    if (!id) return;
    const stored = await this.api.open(id);
    this.version.set(stored.version);
    this.history.update((history) => history.done(changeBetween('Take the stored version', this.settledDocument(), stored.document)));
    this.preview = null;
    this.document.set(stored.document);
    this.asked = null;
    this.unsaved.forget(id);
    this.saveState.set('saved');
  }

  ngOnDestroy(): void {
    this.saving.unsubscribe();
    this.channel?.close();
  }

  private step({ history, document }: { history: History; document: FilaxisDocument }): void {
    this.preview = null;
    this.history.set(history);
    const there = new Set(document.nodes.map((node) => node.id));
    this.selection.update((ids) => new Set([...ids].filter((id) => there.has(id))));
    this.put(document);
  }

  private put(document: FilaxisDocument): void {
    this.document.set(document);
    if (this.saveState() !== 'conflict') this.saveState.set('unsaved');
    this.keepAside();
    this.changed.next();
  }

  private failed(error: unknown): void {
    const status = error instanceof ApiError ? error.status : 0;
    const refused = status >= 400 && status < 500 && status !== 429 && status !== 408;
    // Whether it was saved is known; else the same is asked again.
    if (refused) this.asked = null;
    this.saveMessage.set(error instanceof Error ? error.message : String(error));
    this.saveState.set(status === 409 ? 'conflict' : refused ? 'refused' : 'offline');
    if (!refused) this.missed.next(++this.misses);
  }

  /** Keeps the edits in the browser until the server has them. */
  private keepAside(): void {
    const id = this.id();
    if (!id) return;
    const edits = { baseVersion: this.version(), document: this.settledDocument(), asked: this.asked?.key ?? null };
    if (!this.unsaved.keep(id, edits)) this.saveMessage.set('The browser has no room to keep unsaved edits; stay on this page until they are saved.');
  }

  /** Makes the edits of a tab that is gone to edits of this one, which can be undone. */
  takeLeftOver(): void {
    const left = this.leftOver();
    if (!left) return;
    this.apply('Take up unsaved edits', upgradeDocument(left.document));
    this.dropLeftOver();
  }

  dropLeftOver(): void {
    const [id, left] = [this.id(), this.leftOver()];
    this.leftOver.set(null);
    if (id && left) this.unsaved.forget(id, left.tab);
  }

  private lookForLeftOver(id: string): void {
    if (id !== this.id()) return;
    for (const left of this.unsaved.others(id)) {
      if (this.tabsHere.has(left.tab)) continue;
      if (differences(this.document(), left.document).length) return this.leftOver.set(left);
      this.unsaved.forget(id, left.tab);
    }
  }

  private tell(word: Omit<TabWord, 'tab'>): void {
    this.channel?.postMessage({ ...word, tab: this.unsaved.name } satisfies TabWord);
  }

  private watchOtherTabs(id: string): void {
    this.channel?.close();
    this.tabsHere.clear();
    this.channel = new BroadcastChannel(`filaxis.document.${id}`);
    this.channel.onmessage = ({ data }: MessageEvent<TabWord>) => {
      this.openElsewhere.set(true);
      // A tab that was copied has the name of the one that it was copied from, which answers.
      if (data.here && data.tab === this.unsaved.name) this.unsaved.rename();
      this.tabsHere.add(data.tab);
      if (data.hello) this.tell({ here: true });
      if (data.saved && data.saved > this.version() && this.isSaved) void this.takeTheirs();
    };
    this.tell({ hello: true });
  }
}
