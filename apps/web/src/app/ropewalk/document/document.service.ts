import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { debounceTime, exhaustMap, fromEvent, merge, Subject, type Subscription, timer } from 'rxjs';
import {
  emptyDocument,
  nodeDefinitions,
  upgradeDocument,
  type Dial,
  type DialValue,
  type FilaxisDocument,
  type GraphNode,
  type NodeDefinition,
  type Wire,
} from '@filaxis/core';
import { ApiError, ApiService } from '../../shared/api.service';
import { setDialValue } from './dials';
import { sameMeaning } from './edits';
import { History } from './history';

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'conflict' | 'refused';

interface Unsaved {
  readonly baseVersion: number;
  readonly document: FilaxisDocument;
}

const unsavedKey = (id: string): string => `filaxis.unsaved.${id}`;
const quiet = 700;
const retry = 4000;

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
      return { ...dial, value: live[dial.id] ?? dial.value, heading };
    });
  });
  readonly selection = signal<ReadonlySet<string>>(new Set());
  readonly selectedWire = signal<Wire | null>(null);
  /** Another tab has this document open too. */
  readonly openElsewhere = signal(false);
  private readonly history = signal(History.empty);
  private preview: FilaxisDocument | null = null;
  private channel: BroadcastChannel | null = null;

  readonly chosen = computed<GraphNode | null>(() => {
    const ids = this.selection();
    return ids.size === 1 ? (this.document().nodes.find((node) => ids.has(node.id)) ?? null) : null;
  });
  /** The document, told anew only when something changed that its result depends on: not when a tag was moved or a note written. */
  readonly meaning = computed(() => this.document(), { equal: sameMeaning });
  readonly chosenId = computed(() => this.chosen()?.id ?? null);
  readonly chosenDefinition = computed<NodeDefinition | null>(() => nodeDefinitions.get(this.chosen()?.type ?? '') ?? null);
  readonly undoLabel = computed(() => this.history().undoLabel);
  readonly redoLabel = computed(() => this.history().redoLabel);

  private readonly changed = new Subject<void>();
  private readonly saving: Subscription;

  constructor() {
    const retries = timer(retry, retry);
    this.saving = merge(this.changed.pipe(debounceTime(quiet)), merge(retries, fromEvent(window, 'online')))
      .pipe(exhaustMap(() => this.save()))
      .subscribe();
  }

  /** Opens a document and tells which version its picture shows; edits that an earlier visit could not save are taken up again. @throws ApiError */
  async open(id: string): Promise<number | null> {
    const stored = await this.api.open(id);
    this.id.set(id);
    this.document.set(stored.document);
    this.version.set(stored.version);
    this.history.set(History.empty);
    this.saveState.set('saved');
    this.watchOtherTabs(id);
    const left = this.leftOver(id);
    if (!left) return stored.pictureOf;
    this.version.set(left.baseVersion);
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
    const before = this.preview ?? this.document();
    this.preview = null;
    if (after === before) return;
    this.history.update((history) => history.done(label, before, after));
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

  undo(): void {
    const step = this.history().undo();
    if (step) this.step(step);
  }

  redo(): void {
    const step = this.history().redo();
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

  /** Saves now, without waiting for a pause. */
  async save(): Promise<void> {
    const id = this.id();
    if (!id || !['unsaved', 'offline'].includes(this.saveState())) return;
    const document = this.document();
    this.saveState.set('saving');
    try {
      const { version } = await this.api.save(id, this.version(), document);
      this.version.set(version);
      if (this.document() === document) {
        localStorage.removeItem(unsavedKey(id));
        this.saveState.set('saved');
      } else {
        this.keepAside();
        this.saveState.set('unsaved');
        this.changed.next();
      }
      this.channel?.postMessage({ saved: version });
    } catch (error) {
      this.failed(error);
    }
  }

  /** After a conflict: saves over what the server has. */
  async keepMine(): Promise<void> {
    const id = this.id();
    if (!id) return;
    this.version.set((await this.api.open(id)).version);
    this.saveState.set('unsaved');
    await this.save();
  }

  /** After a conflict: takes what the server has; undo brings one's own back. */
  async takeTheirs(): Promise<void> {
    const id = this.id();
    if (!id) return;
    const stored = await this.api.open(id);
    this.version.set(stored.version);
    this.history.update((history) => history.done('Take the stored version', this.document(), stored.document));
    this.document.set(stored.document);
    localStorage.removeItem(unsavedKey(id));
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
    this.saveMessage.set(error instanceof Error ? error.message : String(error));
    this.saveState.set(status === 409 ? 'conflict' : status >= 400 && status < 500 && status !== 429 ? 'refused' : 'offline');
  }

  /** Keeps the edits in the browser until the server has them. */
  private keepAside(): void {
    const id = this.id();
    if (!id) return;
    try {
      localStorage.setItem(unsavedKey(id), JSON.stringify({ baseVersion: this.version(), document: this.document() } satisfies Unsaved));
    } catch {
      this.saveMessage.set('The browser has no room to keep unsaved edits; stay on this page until they are saved.');
    }
  }

  private leftOver(id: string): Unsaved | null {
    const text = localStorage.getItem(unsavedKey(id));
    if (!text) return null;
    try {
      return JSON.parse(text) as Unsaved;
    } catch {
      return null;
    }
  }

  private watchOtherTabs(id: string): void {
    this.channel?.close();
    this.channel = new BroadcastChannel(`filaxis.document.${id}`);
    this.channel.onmessage = ({ data }: MessageEvent<{ hello?: boolean; here?: boolean; saved?: number }>) => {
      this.openElsewhere.set(true);
      if (data.hello) this.channel?.postMessage({ here: true });
      if (data.saved && data.saved > this.version() && this.isSaved) void this.takeTheirs();
    };
    this.channel.postMessage({ hello: true });
  }
}
