import { filter, merge, mergeMap, map, Observable, Subject, take, throwError } from 'rxjs';
import { SharedWord, type FromWorker, type ToWorker } from '@filaxis/protocol';

/** What the worker says in answer to a request: it, or why there is none; null: something else. */
export type Answered<T> = { readonly answer: T } | { readonly refused: string } | null;

/**
 * The worker that computes, as one stream of what it says. One that ends or does not listen is replaced; whoever waits for an answer of it is told.
 */
export class WorkerLink {
  /** Shared with the worker where the page may share memory; else a run ends at the next pause between nodes. */
  readonly newest =
    typeof SharedArrayBuffer === 'function' && crossOriginIsolated ? new Int32Array(new SharedArrayBuffer(4 * Object.keys(SharedWord).length)) : null;
  private readonly said = new Subject<FromWorker>();
  private readonly ends = new Subject<Error>();
  private worker: Worker;
  private lastRequest = 0;

  readonly messages = this.said.asObservable();
  /** Each time that the worker was replaced, why. */
  readonly replaced = this.ends.asObservable();

  constructor(private readonly create: () => Worker) {
    this.worker = this.launch();
  }

  private launch(): Worker {
    const worker = this.create();
    // What one says that was replaced is of no interest.
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => worker === this.worker && this.said.next(data);
    worker.onerror = (event) => this.replace(`The computation broke off${event.message ? ` (${event.message})` : ''}`);
    worker.postMessage({ kind: 'start', newest: this.newest } satisfies ToWorker);
    return worker;
  }

  /** Puts a new worker in the place of this one. */
  replace(why: string): void {
    this.worker.terminate();
    this.ends.next(new Error(`${why}.`));
    this.worker = this.launch();
  }

  post(message: ToWorker, transferred: Transferable[] = []): void {
    this.worker.postMessage(message, transferred);
  }

  /** Messages of one kind. */
  of<K extends FromWorker['kind']>(kind: K): Observable<Extract<FromWorker, { kind: K }>> {
    return this.messages.pipe(filter((message): message is Extract<FromWorker, { kind: K }> => message.kind === kind));
  }

  /** Messages while this worker lives. Fails when it is replaced. */
  get whileItLives(): Observable<FromWorker> {
    return merge(this.messages, this.replaced.pipe(mergeMap((error) => throwError(() => error))));
  }

  /** Asks when subscribed to, with a number of its own, and gives the one answer. Fails with what the worker says is wrong, or when it is replaced. */
  request<T>(asked: (request: number) => ToWorker, answered: (message: FromWorker, request: number) => Answered<T>): Observable<T> {
    return new Observable<T>((told) => {
      const request = ++this.lastRequest;
      const waiting = this.whileItLives
        .pipe(
          map((message) => answered(message, request)),
          filter((answer) => answer !== null),
          take(1),
          map((answer) => {
            if ('refused' in answer) throw new Error(answer.refused);
            return answer.answer;
          }),
        )
        .subscribe(told);
      this.post(asked(request));
      return waiting;
    });
  }

  dispose(): void {
    this.worker.terminate();
    this.said.complete();
    this.ends.complete();
  }
}
