import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { timedNodes, timelineOf, type Timeline } from '@filaxis/core';
import type { FrameRange } from '@filaxis/protocol';
import { defer, EMPTY, map, merge, of, switchMap, timer, type Observable } from 'rxjs';
import { DocumentService } from '../document/document.service';
import { EvaluationService } from '../evaluation.service';
import { Moment } from './moment';

/** Goes through the frames of the timeline: one that is asked for, or all one after another. Frames are never skipped; where they take longer, playing is slower, and says so. */
@Injectable()
export class Player {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly moment = inject(Moment);

  /** Whether anything in the document depends on the time. */
  readonly timed = computed(() => timedNodes(this.documents.meaning()).length > 0);
  readonly line = computed(() => timelineOf(this.documents.document()), { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  readonly frame = computed(() => Math.round(this.moment.time() * this.line().rate));
  readonly playing = signal(false);
  /** Frames a second that are shown while it plays; null: not known yet. */
  readonly pace = signal<number | null>(null);
  /** Frames that were computed since the document last changed: they are there at once. */
  readonly ready = signal<ReadonlySet<number>>(new Set());
  private shown: number[] = [];

  constructor() {
    effect(() => {
      this.documents.meaning();
      this.documents.liveDials();
      this.line();
      untracked(() => this.ready.set(new Set()));
    });
    this.evaluation.finished.pipe(takeUntilDestroyed()).subscribe((time) => this.note(time));
    toObservable(this.playing)
      .pipe(
        switchMap((on) => (on ? this.played() : EMPTY)),
        takeUntilDestroyed(),
      )
      .subscribe((frame) => (frame === null ? this.playing.set(false) : this.toFrame(frame)));
  }

  /** The frames that there are; null: nothing depends on the time. */
  range(): FrameRange | null {
    const { from, to } = this.line();
    return this.timed() ? { from, to } : null;
  }

  toFrame(frame: number): void {
    const { from, to, rate } = this.line();
    this.moment.time.set(Math.min(to, Math.max(from, Math.round(frame))) / rate);
  }

  step(by: number): void {
    this.playing.set(false);
    this.toFrame(this.frame() + by);
  }

  toggle(): void {
    const { to, from, loop } = this.line();
    if (!this.playing() && !loop && this.frame() >= to) this.toFrame(from);
    this.shown = [];
    this.pace.set(null);
    this.playing.update((on) => !on);
  }

  change(change: Partial<Timeline>): void {
    const document = this.documents.settledDocument();
    this.documents.apply('Timeline', { ...document, view: { ...document.view, timeline: { ...timelineOf(document), ...change } } });
    this.toFrame(this.frame());
  }

  /** The frames to go to, each when the one before is there and its time has come; null: the last was shown. */
  private played(): Observable<number | null> {
    return defer(() => {
      let due = performance.now();
      return merge(of(null), this.evaluation.finished).pipe(
        switchMap(() => {
          due = Math.max(performance.now(), due + 1000 / this.line().rate);
          return timer(due - performance.now());
        }),
        map(() => this.next()),
      );
    });
  }

  private next(): number | null {
    const { from, to, loop } = this.line();
    if (this.frame() < to) return this.frame() + 1;
    return loop && to > from ? from : null;
  }

  private note(time: number): void {
    const frame = Math.round(time * this.line().rate);
    if (!this.ready().has(frame)) this.ready.update((frames) => new Set([...frames, frame]));
    if (!this.playing()) return;
    const now = performance.now();
    this.shown = [...this.shown.filter((at) => now - at < 1000), now];
    if (this.shown.length > 3) this.pace.set(((this.shown.length - 1) * 1000) / (now - this.shown[0]));
  }
}
