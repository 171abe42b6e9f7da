import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { catchError, combineLatest, debounceTime, firstValueFrom, map, of, startWith, switchMap } from 'rxjs';
import { measurePlaces, type Anchor, type Measured, type MeasureKind } from '@filaxis/protocol';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { figure, lengthText } from '../../shared/figures';
import { isField } from '../../shared/typing';
import { DocumentService } from '../document/document.service';
import { measuresOf, withMeasures } from '../document/measures';
import { EvaluationService } from '../evaluation.service';
import { Selecting } from './selecting';
import type { Stage } from './stage';

/** What is clicked for each kind, in order. */
const asks: Readonly<Record<MeasureKind, readonly string[]>> = {
  distance: ['the first place', 'the second place'],
  along: ['a place on a curve', 'another place on it'],
  angle: ['the first side', 'the corner', 'the second side'],
  bend: ['a place on a curve'],
};

/** A measure as it is seen, in hundredths of the view. */
interface Seen {
  readonly line: string;
  readonly at: readonly [number, number];
  readonly text: string;
  readonly lost: boolean;
}

/** Measures over the 3D view. They stay in the document, and go along with what they were put on. */
@Component({
  selector: 'fx-measures',
  imports: [ChoiceField, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './measuring.html',
  styleUrl: './measuring.scss',
  // Before the window, where Escape means the graph.
  host: { '(document:keydown)': 'key($event)' },
})
export class Measures {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly selecting = inject(Selecting);
  readonly stage = input.required<Pick<Stage, 'sight'>>();
  /** Counts the frames drawn, so that measures go along with the camera. */
  readonly drawnFrames = input.required<number>();
  /** New ones are being taken. */
  readonly taking = input(false);
  readonly done = output();

  protected readonly kinds: readonly Choice<MeasureKind>[] = [
    { value: 'distance', label: 'Distance' },
    { value: 'along', label: 'Along a curve' },
    { value: 'angle', label: 'Angle' },
    { value: 'bend', label: 'Radius of a bend' },
  ];
  protected readonly kind = signal<MeasureKind>('distance');
  /** Places of the measure that is being taken. */
  protected readonly begun = signal<readonly Anchor[]>([]);
  private readonly kept = computed(() => measuresOf(this.documents.document()));
  private readonly now = signal<readonly Measured[]>([]);
  protected readonly next = computed(() => asks[this.kind()][this.begun().length]);
  protected readonly seen = computed<readonly (Seen | null)[]>(() => {
    this.drawnFrames();
    const kept = this.kept();
    return this.now().slice(0, kept.length).map((each, i) => this.lookAt(each, kept[i].kind)); // prettier-ignore
  });
  protected readonly dots = computed(() => {
    this.drawnFrames();
    return this.begun().flatMap(({ place }) => this.spot(place) ?? []);
  });

  constructor() {
    combineLatest([toObservable(this.kept), this.evaluation.pictures.pipe(map(() => null), startWith(null))]) // prettier-ignore
      .pipe(
        debounceTime(30),
        switchMap(([measures]) => (measures.length ? this.evaluation.ask('measured', { measures }).pipe(catchError(() => of([]))) : of([]))),
        takeUntilDestroyed(),
      )
      .subscribe((now) => this.now.set(now));
  }

  private spot(place: readonly number[]): { x: number; y: number } | null {
    const seen = this.stage().sight.projected(place);
    return seen && { x: (seen.x + 1) * 50, y: (1 - seen.y) * 50 };
  }

  private lookAt({ line, value, why, lost }: Measured, kind: MeasureKind): Seen | null {
    const spots = line.map((place) => this.spot(place));
    if (!spots.length || spots.some((spot) => !spot)) return null;
    const middle = kind === 'angle' ? spots[1]! : kind === 'distance' ? { x: (spots[0]!.x + spots[1]!.x) / 2, y: (spots[0]!.y + spots[1]!.y) / 2 } : spots[Math.floor(spots.length / 2)]!; // prettier-ignore
    const said = value === null ? (why ?? '') : kind === 'angle' ? `${figure(value, 4)}°` : `${kind === 'bend' ? 'r ' : ''}${lengthText(value)}`;
    return { line: spots.map((spot) => `${spot!.x},${spot!.y}`).join(' '), at: [middle.x, middle.y], text: lost ? `${said} · what it was put on is gone` : said, lost }; // prettier-ignore
  }

  protected choose(kind: MeasureKind): void {
    this.kind.set(kind);
    this.begun.set([]);
  }

  /** A click at a point of the view (−1…1): the place there is the next of the measure. */
  async click(x: number, y: number): Promise<void> {
    const found = this.selecting.seenAt(x, y, this.kind() === 'along' || this.kind() === 'bend')[0];
    const ground = found ? null : this.stage().sight.onPlane(x, y, [0, 0, 0], [0, 1, 0]);
    const anchor = found
      ? await firstValueFrom(this.evaluation.ask('anchor', { seen: found.seen, place: found.place }).pipe(catchError(() => of(null))), { defaultValue: null })
      : ground && { node: null, place: ground };
    if (anchor) this.put(anchor);
  }

  private put(anchor: Anchor): void {
    const anchors = [...this.begun(), anchor];
    if (anchors.length < measurePlaces[this.kind()]) return this.begun.set(anchors);
    this.begun.set([]);
    const document = this.documents.document();
    this.documents.apply('Measure', withMeasures(document, [...measuresOf(document), { kind: this.kind(), anchors }]));
  }

  protected remove(i: number): void {
    this.documents.apply('Delete a measure', withMeasures(this.documents.document(), this.kept().filter((_, k) => k !== i))); // prettier-ignore
  }

  protected clear(): void {
    this.documents.apply('Clear the measures', withMeasures(this.documents.document(), []));
  }

  protected key(event: KeyboardEvent): void {
    if (!this.taking() || event.key !== 'Escape' || isField(event.target)) return;
    if (this.begun().length) this.begun.set([]);
    else this.done.emit();
    event.preventDefault();
    event.stopPropagation();
  }
}
