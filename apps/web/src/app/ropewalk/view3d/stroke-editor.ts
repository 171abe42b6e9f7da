import { asStroke, settingsOf, type GivenStroke } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { catchError, concatMap, EMPTY, finalize, Subject, tap } from 'rxjs';
import type { Answers, BodyHit, Questions } from '@filaxis/protocol';
import { isField } from '../../shared/typing';
import { ContextMenu } from '../context-menu';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import { closedStroke, extended, movedTo, withoutPoint, withoutStroke, type StrokePoint, type Strokes } from '../document/strokes';
import { EvaluationService } from '../evaluation.service';
import { liveAnswers } from '../live-answers';
import type { Stage } from './stage';

interface Spot extends StrokePoint {
  readonly x: number;
  readonly y: number;
}

/** Pixels between two points of a line that is drawn in one go. */
const gap = 9;

/** Most points that are shown to be taken hold of. */
const mostShown = 600;

/** What the hand does with the pointer down: it draws, or moves a point. */
interface Hand {
  readonly moves: StrokePoint | null;
  x: number;
  y: number;
  /** It went further than a click does. */
  far: boolean;
  lifted: boolean;
  asked: number;
}

/** Draws strokes on the body of the chosen node, in the 3D view: lies over it, and takes the pointer only on points and while drawing. */
@Component({
  selector: 'fx-stroke-editor',
  imports: [MatButtonModule, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stroke-editor.html',
  styleUrl: './curve-editor.scss',
  // Before the window, where Escape and Delete mean the graph.
  host: { '(document:keydown)': 'drawKey($event)' },
})
export class StrokeEditor {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly menu = inject(ContextMenu, { optional: true });
  readonly stage = input.required<Stage>();
  /** Counts the frames drawn, so that points go along with the camera. */
  readonly drawnFrames = input.required<number>();

  protected readonly drawing = signal(false);
  protected readonly chosen = signal<StrokePoint | null>(null);
  /** The last click met no body. */
  protected readonly missed = signal(false);
  private readonly fresh = signal(false);
  private readonly node = computed(() => this.documents.chosen());
  protected readonly strokes = computed<Strokes>(() => {
    const node = this.node();
    const given = (node && settingsOf(this.documents.document(), node)['strokes']) as readonly GivenStroke[] | undefined;
    return given?.map(asStroke) ?? [];
  });
  protected readonly hasBody = computed(() => this.documents.document().wires.some(({ to }) => to[0] === this.node()?.id && to[1] === 'mesh'));
  /** The stroke that is gone on with: that of the chosen point, else the last. */
  protected readonly active = computed(() => Math.min(this.chosen()?.stroke ?? Infinity, this.strokes().length - 1));
  /** Where the points lie on the body as it is now; those of the document until that is known. */
  private readonly onBody = toSignal(
    liveAnswers(
      this.evaluation,
      'strokePoints',
      computed(() => (this.node() && this.strokes().length ? { node: this.node()!.id } : null)),
    ),
    { initialValue: null },
  );
  protected readonly tooMany = computed(() => this.strokes().reduce((sum, { points }) => sum + points.length, 0) > mostShown);
  protected readonly spots = computed<Spot[]>(() => {
    this.drawnFrames();
    if (this.tooMany()) return [];
    const now = this.onBody() ?? [];
    return this.strokes().flatMap(({ points }, stroke) => {
      const places = !this.hand && now[stroke]?.length === points.length ? now[stroke] : points;
      return places.flatMap((place, point) => {
        const at = this.stage().sight.projected(place);
        return at && Math.abs(at.x) < 1.05 && Math.abs(at.y) < 1.05 ? [{ stroke, point, x: (at.x + 1) * 50, y: (1 - at.y) * 50 }] : [];
      });
    });
  });
  private hand: Hand | null = null;
  /** Places of the view that the hand went over, answered in their order. */
  private readonly passed = new Subject<{ readonly hand: Hand; readonly asks: Questions['onBody'] }>();

  constructor() {
    // Without a stroke it waits for the first.
    let before: string | null = null;
    effect(() => {
      const id = this.node()?.id ?? null;
      const empty = !this.strokes().length;
      untracked(() => {
        if (id !== before) this.drawing.set(empty);
        before = id;
        const at = this.chosen();
        if (at && !this.strokes()[at.stroke]?.points[at.point]) this.chosen.set(null);
      });
    });
    this.passed
      .pipe(
        concatMap(({ hand, asks }) =>
          this.evaluation.ask('onBody', asks).pipe(
            catchError(() => EMPTY),
            tap((answer) => this.take(hand, answer)),
            // Also where there is no answer, so that what was drawn so far is kept.
            finalize(() => this.answered(hand)),
          ),
        ),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe();
  }

  private after(strokes: Strokes): ReturnType<typeof setSetting> {
    return setSetting(this.documents.settledDocument(), this.node()!.id, 'strokes', strokes);
  }

  private apply(label: string, strokes: Strokes): void {
    this.documents.apply(label, this.after(strokes));
  }

  protected down(event: PointerEvent, moves: StrokePoint | null): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    if (moves) this.chosen.set(moves);
    this.hand = { moves, x: event.clientX, y: event.clientY, far: false, lifted: false, asked: 0 };
    if (!moves) this.pass(event, this.hand);
  }

  protected move(event: PointerEvent): void {
    const { hand } = this;
    if (!hand || Math.hypot(event.clientX - hand.x, event.clientY - hand.y) < (hand.moves ? 2 : gap)) return;
    hand.far = true;
    [hand.x, hand.y] = [event.clientX, event.clientY];
    this.pass(event, hand);
  }

  protected up(): void {
    const { hand } = this;
    if (!hand) return;
    this.hand = null;
    hand.lifted = true;
    this.settle(hand);
  }

  /** Asks where the line of sight under the pointer meets the body. */
  private pass(event: PointerEvent, hand: Hand): void {
    const box = (event.currentTarget as Element).closest('fx-stroke-editor')!.getBoundingClientRect();
    const { ray } = this.stage().sight.ray(((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2);
    hand.asked++;
    this.passed.next({ hand, asks: { node: this.node()!.id, rays: [{ from: ray.origin.toArray(), along: ray.direction.toArray() }] } });
  }

  private take(hand: Hand, { hits, triangles }: Answers['onBody']): void {
    const met = hits.filter((hit): hit is BodyHit => hit !== null);
    this.missed.set(!met.length && !hand.far);
    if (!met.length) return;
    if (hand.moves) return this.documents.show(this.after(movedTo(this.strokes(), hand.moves, met[0], triangles)));
    const which = this.fresh() || this.active() < 0 ? this.strokes().length : this.active();
    this.fresh.set(false);
    const strokes = extended(this.strokes(), which, met, triangles);
    this.chosen.set({ stroke: which, point: strokes[which].points.length - 1 });
    this.documents.show(this.after(strokes));
  }

  private answered(hand: Hand): void {
    hand.asked--;
    this.settle(hand);
  }

  /** When the hand is lifted and all is answered, what it did is one edit. The next may be down by then. */
  private settle(hand: Hand): void {
    if (!hand.lifted || hand.asked > 0 || (hand.moves && !hand.far)) return;
    this.apply(hand.moves ? 'Move point of a stroke' : hand.far ? 'Draw a stroke' : 'Add point to a stroke', this.strokes());
    // A line drawn in one go is whole.
    if (!hand.moves && hand.far) this.fresh.set(true);
  }

  /** Keys while strokes are drawn: Enter ends one, Backspace takes the last point back, Escape ends drawing. */
  protected drawKey(event: KeyboardEvent): void {
    if (!this.drawing() || isField(event.target)) return;
    const stroke = this.strokes()[this.active()];
    if (event.key === 'Escape') this.drawing.set(false);
    else if (event.key === 'Enter') this.fresh.set(true);
    else if (event.key === 'Backspace' && stroke) this.remove({ stroke: this.active(), point: stroke.points.length - 1 });
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected key(event: KeyboardEvent, spot: StrokePoint): void {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return;
    event.preventDefault();
    event.stopPropagation();
    this.remove(spot);
  }

  protected remove(at: StrokePoint): void {
    this.apply('Delete point of a stroke', withoutPoint(this.strokes(), at));
  }

  protected newStroke(): void {
    this.fresh.set(true);
    this.drawing.set(true);
  }

  protected removeStroke(): void {
    this.apply('Delete stroke', withoutStroke(this.strokes(), this.active()));
    this.chosen.set(null);
  }

  protected close(closed: boolean): void {
    this.apply(closed ? 'Close stroke' : 'Open stroke', closedStroke(this.strokes(), this.active(), closed));
  }

  protected clear(): void {
    this.apply('Clear the strokes', []);
    this.chosen.set(null);
    this.drawing.set(true);
  }

  protected askMenu(event: MouseEvent, spot: StrokePoint): void {
    event.preventDefault();
    event.stopPropagation();
    this.chosen.set(spot);
    this.menu?.open({ x: event.clientX, y: event.clientY }, [
      { name: 'Delete point', shortcut: 'Delete', run: () => this.remove(spot) },
      { name: 'Delete stroke', run: () => this.removeStroke() },
    ]);
  }

  protected isChosen({ stroke, point }: StrokePoint): boolean {
    return this.chosen()?.stroke === stroke && this.chosen()?.point === point;
  }
}
