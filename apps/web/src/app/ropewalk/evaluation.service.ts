import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  BehaviorSubject,
  catchError,
  concatMap,
  defer,
  delay,
  EMPTY,
  filter,
  finalize,
  from,
  map,
  mergeMap,
  startWith,
  Subject,
  switchMap,
  takeUntil,
  takeWhile,
  tap,
  throttle,
  timer,
  type Observable,
} from 'rxjs';
import type { FilaxisDocument, Problem } from '@filaxis/core';
import type { WriteOptions } from '@filaxis/formats';
import {
  SharedWord,
  type FrameRange,
  type Answers,
  type FileContent,
  type FromWorker,
  type NodeState,
  type PathStripData,
  type Picture,
  type Questions,
  type Shown,
  type Topic,
} from '@filaxis/protocol';
import { buffersOf, unpack } from '../../workers/parcel';
import { ApiService } from '../shared/api.service';
import { onceTyped } from '../shared/once-typed';
import { Moment } from './timeline/moment';
import { DocumentService } from './document/document.service';
import { WorkerLink } from './worker-link';

/** A file, or what is in its way. */
export type Written = Extract<FromWorker, { kind: 'exported' | 'export-failed' }>;

/** How long a run may go on after a newer edit came, ms. Short runs are let finish, so that a picture comes while the hand still moves. */
const patience = 40;

/** How long a worker may take to stop when it is asked to, ms; then it is replaced. */
const deafAfter = 150;

/** What takes longer is told, ms. */
const tellAfter = 300;

/** What the worker says of a run, the last of which ends it. */
type RunMessage = Extract<FromWorker, { run: number; kind: 'result' | 'progress' | 'cancelled' | 'run-failed' }>;
const runKinds: readonly string[] = ['result', 'progress', 'cancelled', 'run-failed'] satisfies RunMessage['kind'][];
export type Frozen = Extract<FromWorker, { kind: 'frozen' }>;
type ReadMessage = Extract<FromWorker, { kind: 'reading' | 'asset-read' | 'asset-refused' }>;
const readKinds: readonly string[] = ['reading', 'asset-read', 'asset-refused'] satisfies ReadMessage['kind'][];

/** Runs the document in a worker: one run at a time, the newest state next. */
@Injectable()
export class EvaluationService implements OnDestroy {
  private readonly api = inject(ApiService);
  private readonly documents = inject(DocumentService);
  private readonly moment = inject(Moment);
  private readonly link = new WorkerLink(() => new Worker(new URL('../../workers/core.worker', import.meta.url), { type: 'module' }));

  readonly nodes = signal<Readonly<Record<string, NodeState | undefined>>>({});
  readonly problems = signal<readonly Problem[]>([]);
  readonly strip = signal<PathStripData | null>(null);
  readonly ms = signal<number | null>(null);
  /** The nodes whose results are shown. */
  readonly shown = signal<readonly string[]>([]);
  /** A run that takes longer than 300 ms: the node at work, and how far it is. */
  readonly busy = signal<{ node: string; fraction: number } | null>(null);
  /** A file whose reading takes longer than 300 ms, and how far it is. */
  readonly reading = signal<{ name: string; fraction: number } | null>(null);
  /** How far an archive of frames is written. */
  readonly writing = signal(0);
  readonly crashed = signal<string | null>(null);
  readonly pictures = new Subject<Picture>();
  /** A run has ended, whatever came of it: the moment that it was for, seconds. */
  readonly finished = new Subject<number>();
  /** Counts of the newest picture. */
  readonly counts = signal<(Picture['counts'] & { budget: number }) | null>(null);
  /** What the newest picture shows as colour, and what it could. */
  readonly colour = signal<Picture['colour']>(null);
  readonly colourNames = signal<readonly string[]>([]);

  /** What is to be shown, newest last; the run at work, if there is one. */
  private readonly asked = new Subject<Shown>();
  private readonly atWork = new BehaviorSubject<number | null>(null);
  private readonly idle = this.atWork.pipe(filter((run) => run === null));
  private lastShown: Shown = {
    shows: 'outputs',
    looked: null,
    peek: null,
    curve: 0,
    chosen: null,
    colour: null,
    stripName: null,
    stripOthers: false,
    ghost: null,
  };
  private run = 0;
  /** The document as the worker has it. */
  private sent: FilaxisDocument | null = null;
  private picture: Picture | null = null;
  /** Memory of older pictures, which goes back to the worker. */
  private spare: ArrayBuffer[] = [];
  /** Files that the worker has, or will have. */
  private readonly given = new Set<string>();

  constructor() {
    this.link.replaced.subscribe((error) => this.afterReplacement(error));
    // A run that goes on while a newer one waits is stopped. Looked at before the newer one is begun.
    this.asked
      .pipe(
        map(() => this.atWork.value),
        filter((run) => run !== null),
        delay(patience),
        filter((run) => run === this.atWork.value),
      )
      .subscribe((run) => this.stop(run));
    // One at a time, and of those asked for meanwhile the newest; what waits for a worker that broke is dropped, since the same would happen again.
    this.link.replaced
      .pipe(
        startWith(null),
        switchMap(() =>
          this.asked.pipe(
            switchMap(onceTyped),
            throttle(() => this.idle, { leading: true, trailing: true }),
          ),
        ),
        concatMap((show) => this.runOf(show).pipe(catchError(() => EMPTY))),
      )
      .subscribe((message) => this.receive(message));
    this.link.of('writing').subscribe(({ fraction }) => this.writing.set(fraction));
    this.link.of('strip').subscribe(({ strip }) => this.strip.set(strip));
    // What comes after the result may fail too, when the next run is on its way already.
    this.link.of('run-failed').subscribe(({ message }) => this.crashed.set(message));
    this.link
      .of('missing-asset')
      .pipe(
        filter(({ hash }) => !this.given.has(hash)),
        mergeMap(({ hash }) => this.fetchAsset(hash)),
      )
      .subscribe();
  }

  /** Evaluates the document as it is now. While a run is under way the newest request waits; older ones are dropped. */
  evaluate(show: Shown): void {
    this.lastShown = show;
    this.asked.next(show);
  }

  /** Stops the run that is under way. */
  cancel(): void {
    const run = this.atWork.value;
    if (run === null) return;
    this.stop(run);
    // A step that does not look at the word ends with its worker.
    timer(deafAfter)
      .pipe(takeUntil(this.idle))
      .subscribe(() => this.link.replace('It was stopped'));
  }

  /** Has the worker read a file when subscribed to, and tells what is in it. Fails with what is wrong with the file, or that reading was stopped. */
  readAsset(hash: string, name: string, bytes: Uint8Array): Observable<FileContent> {
    return defer(() => {
      this.given.add(hash);
      this.link.post({ kind: 'asset', hash, name, bytes });
      const since = performance.now();
      return this.link.whileItLives.pipe(
        filter((message): message is ReadMessage => readKinds.includes(message.kind) && (message as ReadMessage).hash === hash),
        takeWhile(({ kind }) => kind === 'reading', true),
        tap((message) => {
          if (message.kind === 'asset-refused') throw new Error(message.message);
          if (message.kind === 'reading' && performance.now() - since > tellAfter) this.reading.set({ name, fraction: message.fraction });
        }),
        filter((message) => message.kind === 'asset-read'),
        map(({ found }) => found),
      );
    }).pipe(finalize(() => this.reading.set(null)));
  }

  /** Stops the frames that are being written. */
  stopWriting(): void {
    if (this.link.newest) Atomics.add(this.link.newest, SharedWord.writing, 1);
  }

  /** Stops the file that is being read. */
  stopReading(): void {
    if (this.link.newest) Atomics.add(this.link.newest, SharedWord.reading, 1);
  }

  /** Writes the results of nodes in a file format, or an archive of frames, when subscribed to; or says what is in the way. */
  export(nodes: readonly string[], ending: string, name: string, how: WriteOptions, frames: FrameRange | null = null): Observable<Written> {
    return defer(() => {
      this.sendDocument();
      return this.link.request<Written>(
        (request) => ({ kind: 'export', request, dials: this.documents.liveDials(), time: this.moment.time(), nodes, ending, name, how, frames }),
        (message, request) => {
          const written = message.kind === 'exported' || message.kind === 'export-failed';
          return written && message.request === request ? { answer: message } : null;
        },
      );
    });
  }

  /** Has what an output gives now made into bytes that keep every number, when subscribed to. Fails with what is wrong. */
  freeze(from: readonly [string, string]): Observable<Frozen> {
    return defer(() => {
      this.sendDocument();
      return this.link.request<Frozen>(
        (request) => ({ kind: 'freeze', request, dials: this.documents.liveDials(), time: this.moment.time(), from }),
        (message, request) => {
          if (message.kind === 'frozen' && message.request === request) return { answer: message };
          return message.kind === 'no-answer' && message.request === request ? { refused: message.message } : null;
        },
      );
    });
  }

  /** Asks about the newest results when subscribed to. Fails with what is wrong. */
  ask<T extends Topic>(topic: T, question: Questions[T]): Observable<Answers[T]> {
    return this.link.request<Answers[T]>(
      (request) => ({ kind: 'ask', request, topic, question }),
      (message, request) => {
        if (message.kind === 'answer' && message.request === request) return { answer: message.answer as Answers[T] };
        return message.kind === 'no-answer' && message.request === request ? { refused: message.message } : null;
      },
    );
  }

  ngOnDestroy(): void {
    this.asked.complete();
    this.link.dispose();
  }

  /** Tells the worker that a run is not wanted any more. */
  private stop(run: number): void {
    if (this.link.newest) Atomics.store(this.link.newest, SharedWord.run, run + 1);
  }

  /** What is said where a worker was replaced: the document is the page's, so nothing of it is lost; results are made anew, not by themselves. */
  private afterReplacement({ message }: Error): void {
    const { newest } = this.link;
    const node = newest && this.documents.document().nodes[Atomics.load(newest, SharedWord.atWork) - 1];
    this.sent = null;
    this.spare = [];
    this.given.clear();
    this.crashed.set(`${message.slice(0, -1)}${node ? ` while ${node.id} was at work` : ''}. What is seen is the last result; the next change runs again.`);
  }

  private sendDocument(): void {
    const document = this.documents.document();
    if (document === this.sent) return;
    this.sent = document;
    this.link.post({ kind: 'document', document });
  }

  /** A run, when subscribed to: what the worker says of it, to its end. */
  private runOf(show: Shown): Observable<RunMessage> {
    return defer(() => {
      this.sendDocument();
      const run = ++this.run;
      const since = performance.now();
      if (this.link.newest) Atomics.store(this.link.newest, SharedWord.run, run);
      this.atWork.next(run);
      const spare = this.spare.splice(0);
      const time = this.moment.time();
      this.link.post({ kind: 'run', run, dials: this.documents.liveDials(), time, show, spare }, spare);
      return this.link.whileItLives.pipe(
        filter((message): message is RunMessage => runKinds.includes(message.kind) && (message as RunMessage).run === run),
        filter(({ kind }) => kind !== 'progress' || performance.now() - since > tellAfter),
        takeWhile(({ kind }) => kind === 'progress', true),
        tap(({ kind }) => kind !== 'progress' && this.finished.next(time)),
      );
    }).pipe(
      finalize(() => {
        this.busy.set(null);
        this.atWork.next(null);
      }),
    );
  }

  private receive(message: RunMessage): void {
    switch (message.kind) {
      case 'result':
        this.crashed.set(null);
        this.nodes.set(message.nodes);
        this.problems.set(message.problems);
        this.ms.set(message.ms);
        if (message.shown) this.shown.set(message.shown);
        if (message.picture) this.show(unpack(message.picture, this.picture));
        break;
      case 'cancelled':
        // A run that was only stopped, not overtaken, leaves the last good picture.
        this.run = Math.max(this.run, message.run + 1);
        break;
      case 'progress':
        this.busy.set({ node: message.node, fraction: message.fraction });
        break;
      case 'run-failed':
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

  /** Fetches a file that the worker misses, and runs again; one that cannot be had is asked for again next time. */
  private fetchAsset(hash: string): Observable<never> {
    this.given.add(hash);
    return from(this.api.asset(hash)).pipe(
      tap((bytes) => {
        // What is wrong with it is told at the node that wants it.
        this.readAsset(hash, this.documents.document().assets?.[hash]?.name ?? '', bytes).subscribe({ error: () => undefined });
        this.evaluate(this.lastShown);
      }),
      catchError((error: Error) => {
        this.given.delete(hash);
        this.link.post({ kind: 'asset-failed', hash, message: error.message });
        this.evaluate(this.lastShown);
        return EMPTY;
      }),
      mergeMap(() => EMPTY),
    );
  }
}
