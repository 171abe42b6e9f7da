import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, EMPTY, firstValueFrom, of, Subject, switchMap, map, merge, type Observable } from 'rxjs';
import type { Maker, OutlinePicture, Seen } from '@filaxis/protocol';
import { DocumentService } from '../document/document.service';
import { EvaluationService } from '../evaluation.service';
import type { Stage } from './stage';

/** How long the pointer rests before what it is over is outlined, and a picture before what is chosen is, ms. */
const hoverRest = 60;
const pictureRest = 160;
/** Clicks within these many pixels are clicks on the same place. */
const samePlace = 4;
/** How near to a curve a click has to be, in half heights of the view. */
const curveReach = 0.03;

/** Calls when the page has nothing else to do; not every browser says when that is. */
const whenIdle = (call: () => void): void => {
  if ('requestIdleCallback' in globalThis) requestIdleCallback(call, { timeout: 3000 });
  else setTimeout(call, 300);
};

/** What a click came to. */
export interface Picked {
  readonly maker: Maker;
  /** The node is meant, or its element. */
  readonly what: 'node' | 'element';
  readonly place: readonly number[];
}

/** Finds out which node made what is clicked or under the pointer in the 3D view, and has that outlined. */
@Injectable()
export class Selecting {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  /** What was clicked last. */
  readonly picked = signal<Picked | null>(null);
  private stage: Stage | null = null;
  /** Clicks on one place: how many, and what was found at it so far. */
  private clicks: { x: number; y: number; meaning: unknown; hit: number; what: Picked['what']; nodes: string[] } | null = null;
  private readonly over = new Subject<{ x: number; y: number } | null>();
  private readonly redrawn = new Subject<void>();
  /** Outlines of the picture that is shown, by node. */
  private known = new Map<string, Promise<OutlinePicture | null>>();
  /** Whether curves can be seen, and so be clicked. */
  curvesSeen: () => boolean = () => false;
  /** Whether nodes are chosen by clicks. */
  active: () => boolean = () => true;

  constructor() {
    this.over
      .pipe(
        debounceTime(hoverRest),
        switchMap((at) => (at ? this.makerAt(at.x, at.y, 0) : of(null))),
        switchMap((found) => this.outlineOf(found?.maker.node ?? null)),
        takeUntilDestroyed(),
      )
      .subscribe((picture) => this.stage?.outline('hovered', picture));
    this.evaluation.pictures.pipe(takeUntilDestroyed()).subscribe(() => {
      this.known.clear();
      this.stage?.outline('chosen', null);
      this.stage?.outline('hovered', null);
    });
    merge(this.redrawn, this.evaluation.pictures.pipe(debounceTime(pictureRest)))
      .pipe(
        map(() => this.documents.chosenId()),
        switchMap((id) => this.outlineOf(id)),
        takeUntilDestroyed(),
      )
      .subscribe((picture) => this.stage?.outline('chosen', picture));
    // Trees take a third of a second for 200,000 faces: they are made when nobody waits, and a look before that goes without.
    this.evaluation.pictures.pipe(debounceTime(pictureRest), takeUntilDestroyed()).subscribe(() => whenIdle(() => this.stage?.prepare()));
    effect(() => {
      this.documents.chosenId();
      untracked(() => this.redrawn.next());
    });
  }

  attach(stage: Stage): void {
    this.stage = stage;
  }

  /** The pointer is over a place of the view (−1…1); null: it has left. */
  hover(at: { x: number; y: number } | null): void {
    if (this.active()) this.over.next(at);
  }

  /** A click at a place of the view, and in pixels: on the same place again it means the element, then what lies behind. */
  async click(at: { x: number; y: number }, pixels: { x: number; y: number }): Promise<Picked | null> {
    if (!this.active()) return null;
    const before = this.clicks;
    // Choosing a node changes the picture, but not what lies where.
    const meaning = this.documents.meaning();
    const again = before?.meaning === meaning && Math.hypot(pixels.x - before.x, pixels.y - before.y) <= samePlace;
    const clicks = again ? before : { ...pixels, meaning, hit: 0, what: 'node' as const, nodes: [] };
    if (again && clicks.what === 'node') clicks.what = 'element';
    else if (again) Object.assign(clicks, { what: 'node', hit: clicks.hit + 1 });
    this.clicks = clicks;
    const found = await firstValueFrom(this.makerAt(at.x, at.y, clicks.hit, clicks.what === 'node' ? clicks.nodes : []), { defaultValue: null });
    if (this.clicks !== clicks) return null;
    if (!found) {
      // Behind the last comes the first.
      if (clicks.hit) this.clicks = null;
      return null;
    }
    clicks.hit = found.hit;
    if (clicks.what === 'node') clicks.nodes.push(found.maker.node);
    const picked = { maker: found.maker, what: clicks.what, place: found.place };
    this.picked.set(picked);
    return picked;
  }

  /** What was made where a line of sight meets the picture for the n-th time, or deeper: what `nodes` made is passed over. */
  private makerAt(
    x: number,
    y: number,
    from: number,
    nodes: readonly string[] = [],
  ): Observable<{ maker: Maker; place: readonly number[]; hit: number } | null> {
    const seen = this.seenAt(x, y);
    const look = (hit: number): Observable<{ maker: Maker; place: readonly number[]; hit: number } | null> => {
      const each = seen[hit];
      if (!each) return of(null);
      return this.evaluation.ask('maker', each.seen).pipe(
        switchMap((maker) => (maker && !nodes.includes(maker.node) ? of({ maker, place: each.place, hit }) : look(hit + 1))),
        catchError(() => EMPTY),
      );
    };
    return look(from);
  }

  /** What lies under a place of the view: a curve where those are seen or asked for, then surfaces from front to back. */
  seenAt(x: number, y: number, curvesFirst = this.curvesSeen()): { seen: Seen; place: readonly number[] }[] {
    const { stage } = this;
    if (!stage) return [];
    const curve = curvesFirst ? stage.curvePointAt(x, y, curveReach) : null;
    const surfaces = stage.hitsAt(x, y).map(({ corners, copy, place }) => ({ seen: { corners, copy, point: null }, place: place.toArray() }));
    return [...(curve ? [{ seen: { corners: null, copy: null, point: curve.place }, place: curve.place }] : []), ...surfaces];
  }

  private outlineOf(node: string | null): Promise<OutlinePicture | null> {
    if (node === null || !this.active()) return Promise.resolve(null);
    let known = this.known.get(node);
    if (!known) this.known.set(node, (known = firstValueFrom(this.evaluation.ask('outline', { node }).pipe(catchError(() => of(null))), { defaultValue: null }))); // prettier-ignore
    return known;
  }

  /** The box around what a node made. */
  async boxOf(node: string): Promise<OutlinePicture['bounds']> {
    return (await this.outlineOf(node))?.bounds ?? null;
  }
}
