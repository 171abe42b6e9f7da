import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { Subject } from 'rxjs';
import type { FilaxisDocument, Measures, Problem } from '@filaxis/core';
import type { WriteOptions } from '@filaxis/formats';
import {
  SharedWord,
  type Answers,
  type Companion,
  type FileContent,
  type FromWorker,
  type NodeState,
  type PathStripData,
  type Picture,
  type Questions,
  type Shown,
  type Topic,
  type ToWorker,
} from '@filaxis/protocol';
import { buffersOf, unpack } from '../../workers/parcel';
import { ApiService } from '../shared/api.service';
import { DocumentService } from './document/document.service';

export interface Exported {
  readonly file: Blob;
  readonly companion: Companion | null;
  readonly measures: Measures;
}

/** How long a run may go on after a newer edit came, ms. Short runs are let finish, so that a picture comes while the hand still moves. */
const patience = 40;

/** How long a worker may take to stop when it is asked to, ms; then it is replaced. */
const deafAfter = 150;

/** Runs the document in a worker: one run at a time, the newest state next. */
@Injectable()
export class EvaluationService implements OnDestroy {
  private readonly api = inject(ApiService);
  private readonly documents = inject(DocumentService);
  private worker!: Worker;
  /** Shared with the worker where the page may share memory; else a run ends at the next pause between nodes. */
  private readonly newest =
    typeof SharedArrayBuffer === 'function' && crossOriginIsolated ? new Int32Array(new SharedArrayBuffer(4 * Object.keys(SharedWord).length)) : null;

  readonly nodes = signal<Readonly<Record<string, NodeState | undefined>>>({});
  readonly problems = signal<readonly Problem[]>([]);
  readonly strip = signal<PathStripData | null>(null);
  readonly ms = signal<number | null>(null);
  /** A run that takes longer than 300 ms: the node at work, and how far it is. */
  readonly busy = signal<{ node: string; fraction: number } | null>(null);
  /** A file whose reading takes longer than 300 ms, and how far it is. */
  readonly reading = signal<{ name: string; fraction: number } | null>(null);
  readonly crashed = signal<string | null>(null);
  readonly pictures = new Subject<Picture>();
  /** Counts of the newest picture. */
  readonly counts = signal<(Picture['counts'] & { budget: number }) | null>(null);
  /** What the newest picture shows as colour, and what it could. */
  readonly colour = signal<Picture['colour']>(null);
  readonly colourNames = signal<readonly string[]>([]);

  private sent: FilaxisDocument | null = null;
  private picture: Picture | null = null;
  /** Memory of older pictures, which goes back to the worker. */
  private spare: ArrayBuffer[] = [];
  private run = 0;
  private flying: { run: number; since: number } | null = null;
  private waiting: Shown | null = null;
  private readonly exports = new Map<number, { done: (value: Exported) => void; failed: (error: Error) => void }>();
  private readonly questions = new Map<number, { done: (value: never) => void; failed: (error: Error) => void }>();
  private readonly readings = new Map<string, { name: string; since: number }>();
  private readonly awaited = new Map<string, { done: (found: FileContent) => void; failed: (error: Error) => void }>();
  private readonly fetched = new Map<string, Promise<void>>();
  private lastShown: Shown = { peek: null, curve: 0, chosen: null, colour: null, stripName: null, stripOthers: false, ghost: null };
  private request = 0;

  constructor() {
    this.launchWorker();
  }

  private launchWorker(): void {
    const worker = new Worker(new URL('../../workers/core.worker', import.meta.url), { type: 'module' });
    this.worker = worker;
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      // What one says that was replaced is of no interest.
      if (worker === this.worker) this.receive(data);
    };
    worker.onerror = (event) => this.replaceWorker(`The computation broke off${event.message ? ` (${event.message})` : ''}`);
    this.post({ kind: 'start', newest: this.newest });
  }

  /**
   * Puts a new worker in the place of one that ended or does not listen. The document is the page's, so nothing of it is lost; results are made anew. It does not run by itself, since
   * the same would happen again.
   */
  private replaceWorker(why: string): void {
    const node = this.newest && this.documents.document().nodes[Atomics.load(this.newest, SharedWord.atWork) - 1];
    this.worker.terminate();
    const stopped = new Error(`${why}.`);
    for (const { failed } of [...this.exports.values(), ...this.questions.values(), ...this.awaited.values()]) failed(stopped);
    for (const waiting of [this.exports, this.questions, this.awaited, this.readings, this.fetched]) waiting.clear();
    this.sent = null;
    this.spare = [];
    this.flying = null;
    this.waiting = null;
    this.busy.set(null);
    this.reading.set(null);
    this.crashed.set(`${why}${node ? ` while ${node.id} was at work` : ''}. What is seen is the last result; the next change runs again.`);
    this.launchWorker();
  }

  /** Evaluates the document as it is now. While a run is under way the newest request waits; older ones are dropped. */
  evaluate(show: Shown): void {
    this.waiting = show;
    this.lastShown = show;
    if (!this.flying) return this.launch();
    const { run } = this.flying;
    setTimeout(() => {
      if (this.flying?.run === run && this.newest) Atomics.store(this.newest, SharedWord.run, run + 1);
    }, patience);
  }

  /** Stops the run that is under way. */
  cancel(): void {
    if (!this.flying) return;
    const { run } = this.flying;
    if (this.newest) Atomics.store(this.newest, SharedWord.run, run + 1);
    // A step that does not look at the word ends with its worker.
    setTimeout(() => {
      if (this.flying?.run === run) this.replaceWorker('It was stopped');
    }, deafAfter);
  }

  /** Has the worker read a file, and tells what is in it. @throws Error with what is wrong with the file, or that reading was stopped. */
  readAsset(hash: string, name: string, bytes: Uint8Array): Promise<FileContent> {
    this.sendAsset(hash, name, bytes);
    this.fetched.set(hash, Promise.resolve());
    return new Promise((done, failed) => this.awaited.set(hash, { done, failed }));
  }

  /** Stops the file that is being read. */
  stopReading(): void {
    if (this.newest) Atomics.add(this.newest, SharedWord.reading, 1);
  }

  /** Writes a node's result in a file format. @throws Error with what is wrong. */
  export(node: string, ending: string, name: string, how: WriteOptions): Promise<Exported> {
    const request = ++this.request;
    this.sendDocument();
    this.post({ kind: 'export', request, dials: this.documents.liveDials(), node, ending, name, how });
    return new Promise((done, failed) => this.exports.set(request, { done, failed }));
  }

  /** Asks about the newest results. @throws Error with what is wrong. */
  ask<T extends Topic>(topic: T, question: Questions[T]): Promise<Answers[T]> {
    const request = ++this.request;
    this.post({ kind: 'ask', request, topic, question });
    return new Promise((done, failed) => this.questions.set(request, { done, failed }));
  }

  ngOnDestroy(): void {
    this.worker.terminate();
  }

  private post(message: ToWorker): void {
    this.worker.postMessage(message);
  }

  private sendAsset(hash: string, name: string, bytes: Uint8Array): void {
    this.readings.set(hash, { name, since: performance.now() });
    this.post({ kind: 'asset', hash, name, bytes });
  }

  private read(hash: string, end: (asked: { done: (found: FileContent) => void; failed: (error: Error) => void }) => void): void {
    this.readings.delete(hash);
    this.reading.set(null);
    const asked = this.awaited.get(hash);
    this.awaited.delete(hash);
    if (asked) end(asked);
  }

  private sendDocument(): void {
    const document = this.documents.document();
    if (document === this.sent) return;
    this.sent = document;
    this.post({ kind: 'document', document });
  }

  private launch(): void {
    const show = this.waiting;
    if (!show) return;
    this.waiting = null;
    this.sendDocument();
    const run = ++this.run;
    if (this.newest) Atomics.store(this.newest, SharedWord.run, run);
    this.flying = { run, since: performance.now() };
    const spare = this.spare.splice(0);
    this.worker.postMessage({ kind: 'run', run, dials: this.documents.liveDials(), show, spare } satisfies ToWorker, spare);
  }

  private landed(): void {
    this.flying = null;
    this.busy.set(null);
    this.launch();
  }

  private receive(message: FromWorker): void {
    switch (message.kind) {
      case 'result':
        this.crashed.set(null);
        this.nodes.set(message.nodes);
        this.problems.set(message.problems);
        this.ms.set(message.ms);
        if (message.picture) this.show(unpack(message.picture, this.picture));
        this.landed();
        break;
      case 'strip':
        this.strip.set(message.strip);
        break;
      case 'run-failed':
        this.crashed.set(message.message);
        // What comes after the result may fail too, when the next run is on its way already.
        if (this.flying?.run === message.run) this.landed();
        break;
      case 'cancelled':
        // A run that was only stopped, not overtaken, leaves the last good picture.
        this.run = Math.max(this.run, message.run + 1);
        this.landed();
        break;
      case 'progress':
        if (this.flying && performance.now() - this.flying.since > 300) this.busy.set({ node: message.node, fraction: message.fraction });
        break;
      case 'missing-asset':
        void this.fetchAsset(message.hash);
        break;
      case 'reading': {
        const reading = this.readings.get(message.hash);
        if (reading && performance.now() - reading.since > 300) this.reading.set({ name: reading.name, fraction: message.fraction });
        break;
      }
      case 'asset-read':
        this.read(message.hash, ({ done }) => done(message.found));
        break;
      case 'asset-refused':
        this.read(message.hash, ({ failed }) => failed(new Error(message.message)));
        break;
      case 'answer':
        this.questions.get(message.request)?.done(message.answer as never);
        this.questions.delete(message.request);
        break;
      case 'no-answer':
        this.questions.get(message.request)?.failed(new Error(message.message));
        this.questions.delete(message.request);
        break;
      case 'exported':
        this.exports.get(message.request)?.done(message);
        this.exports.delete(message.request);
        break;
      case 'export-failed':
        this.exports.get(message.request)?.failed(new Error(message.message));
        this.exports.delete(message.request);
        break;
    }
  }

  private show(picture: Picture): void {
    this.counts.set({ ...picture.counts, budget: picture.budget });
    this.colour.set(picture.colour);
    this.colourNames.set(picture.names);
    const old = this.picture;
    this.picture = picture;
    this.pictures.next(picture);
    // Whoever shows pictures has the new one now.
    const inUse = new Set(buffersOf(picture));
    if (old) this.spare.push(...buffersOf(old).filter((buffer) => !inUse.has(buffer)));
  }

  private async fetchAsset(hash: string): Promise<void> {
    if (this.fetched.has(hash)) return;
    const fetching = this.api.asset(hash).then((bytes) => {
      this.sendAsset(hash, this.documents.document().assets?.[hash]?.name ?? '', bytes);
      this.evaluate(this.lastShown);
    });
    this.fetched.set(hash, fetching);
    await fetching.catch((error: Error) => {
      this.fetched.delete(hash);
      this.post({ kind: 'asset-failed', hash, message: error.message });
      this.evaluate(this.lastShown);
    });
  }
}
