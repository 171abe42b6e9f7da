import { settingsOf, type DrawnPlane } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Vector3 } from 'three';
import { catchError, firstValueFrom, of } from 'rxjs';
import { isField } from '../../shared/typing';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import { EvaluationService } from '../evaluation.service';
import type { Stage } from './stage';

/** What is taken hold of: the middle of a plane, or the end of its arrow. */
interface Grip {
  readonly plane: number;
  readonly part: 'middle' | 'arrow';
}

/** A plane as it is seen: its sheet, and its knobs, in hundredths of the view. */
interface Seen {
  readonly plane: number;
  readonly sheet: string;
  readonly middle: readonly [number, number];
  readonly arrow: readonly [number, number];
}

const tidy = (vector: Vector3): [number, number, number] => vector.toArray().map((value) => Number(value.toPrecision(6))) as [number, number, number];

/** Draws planes over the body of the chosen node, one after another until Escape: a line is dragged, and the plane goes through it and the eye. Knobs move and turn it; one undo a drag. */
@Component({
  selector: 'fx-plane-editor',
  imports: [MatButtonModule, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plane-editor.html',
  styleUrl: './curve-editor.scss',
  // Before the window, where Escape and Delete mean the graph.
  host: { '(document:keydown)': 'drawKey($event)' },
})
export class PlaneEditor {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  readonly stage = input.required<Stage>();
  /** Counts the frames drawn, so that sheets go along with the camera. */
  readonly drawnFrames = input.required<number>();

  protected readonly parts = ['middle', 'arrow'] as const;
  protected readonly drawing = signal(false);
  protected readonly chosen = signal<number | null>(null);
  /** The line that is being dragged, in hundredths of the view. */
  protected readonly line = signal<readonly [number, number, number, number] | null>(null);
  private readonly node = computed(() => this.documents.chosen());
  protected readonly planes = computed(() => {
    const node = this.node();
    return ((node && settingsOf(this.documents.document(), node)['planes']) as readonly DrawnPlane[] | undefined) ?? [];
  });
  protected readonly seen = computed<Seen[]>(() => {
    this.drawnFrames();
    return this.planes().flatMap((plane, i) => this.lookAt(plane, i));
  });
  private grip: Grip | null = null;

  constructor() {
    let before: string | null = null;
    effect(() => {
      const id = this.node()?.id ?? null;
      const empty = !this.planes().length;
      untracked(() => {
        if (id !== before) this.drawing.set(empty);
        before = id;
        if ((this.chosen() ?? 0) >= this.planes().length) this.chosen.set(null);
      });
    });
  }

  /** Half the side of the sheets that are shown, metres. */
  private get half(): number {
    return this.stage().extent * 0.3;
  }

  private lookAt({ point, normal }: DrawnPlane, plane: number): Seen[] {
    const middle = new Vector3(...point);
    const n = new Vector3(...normal).normalize();
    const u = (Math.abs(n.y) < 0.9 ? new Vector3(0, 1, 0) : new Vector3(1, 0, 0)).cross(n).normalize();
    const v = n.clone().cross(u);
    const at = (a: number, b: number, c = 0): readonly [number, number] | null => {
      const place = middle.clone().addScaledVector(u, a * this.half).addScaledVector(v, b * this.half).addScaledVector(n, c * this.half); // prettier-ignore
      const seen = this.stage().sight.projected(place.toArray());
      return seen && [(seen.x + 1) * 50, (1 - seen.y) * 50];
    };
    const corners = [at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)];
    const [knob, arrow] = [at(0, 0), at(0, 0, 0.5)];
    if (!knob || !arrow || corners.some((corner) => !corner)) return [];
    return [{ plane, sheet: corners.map((corner) => corner!.join()).join(' '), middle: knob, arrow }];
  }

  private after(planes: readonly DrawnPlane[]): ReturnType<typeof setSetting> {
    return setSetting(this.documents.settledDocument(), this.node()!.id, 'planes', planes);
  }

  private placeOf(event: PointerEvent): readonly [number, number] {
    const box = (event.currentTarget as Element).closest('fx-plane-editor')!.getBoundingClientRect();
    return [((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2];
  }

  // ---- a new plane, by a line over the body

  protected begin(event: PointerEvent): void {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const [x, y] = this.placeOf(event);
    this.line.set([(x + 1) * 50, (1 - y) * 50, (x + 1) * 50, (1 - y) * 50]);
  }

  protected draw(event: PointerEvent): void {
    const [x, y] = this.placeOf(event);
    this.line.update((line) => line && [line[0], line[1], (x + 1) * 50, (1 - y) * 50]);
  }

  protected async end(): Promise<void> {
    const line = this.line();
    this.line.set(null);
    if (!line || Math.hypot(line[2] - line[0], line[3] - line[1]) < 2) return;
    const ray = (x: number, y: number) => this.stage().sight.ray(x / 50 - 1, 1 - y / 50).ray;
    const [a, b] = [ray(line[0], line[1]), ray(line[2], line[3])];
    const normal = a.direction.clone().cross(b.direction).normalize();
    // Upwards rather than down, so that lines drawn to the left and to the right give the same plane.
    if (normal.y < 0) normal.negate();
    const through = ray((line[0] + line[2]) / 2, (line[1] + line[3]) / 2);
    const node = this.node()!.id;
    const asks = { node, rays: [{ from: through.origin.toArray(), along: through.direction.toArray() }] };
    const found = await firstValueFrom(this.evaluation.ask('onBody', asks).pipe(catchError(() => of(null))));
    const hit = found?.hits[0]?.place;
    // Past the body, or without one: as deep as the middle of what is seen.
    const middle = hit ? new Vector3(...hit) : through.closestPointToPoint(this.stage().middle, new Vector3());
    if (this.node()?.id !== node) return;
    this.documents.apply('Draw a plane', this.after([...this.planes(), { point: tidy(middle), normal: tidy(normal) }]));
    this.chosen.set(this.planes().length - 1);
  }

  // ---- moving and turning

  protected down(event: PointerEvent, grip: Grip): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.grip = grip;
    this.chosen.set(grip.plane);
  }

  protected move(event: PointerEvent): void {
    const { grip } = this;
    const plane = grip && this.planes()[grip.plane];
    if (!plane) return;
    const [x, y] = this.placeOf(event);
    const [middle, n] = [new Vector3(...plane.point), new Vector3(...plane.normal).normalize()];
    const changed = grip.part === 'middle' ? this.moved(middle, n, x, y) : this.turned(middle, n, x, y);
    if (changed) this.documents.show(this.after(this.planes().map((each, i) => (i === grip.plane ? changed : each))));
  }

  /** Along its normal, to where that passes nearest to the line of sight. */
  private moved(middle: Vector3, n: Vector3, x: number, y: number): DrawnPlane | null {
    const place = this.stage().sight.onLine(x, y, middle.toArray(), n.toArray());
    return place && { point: tidy(new Vector3(...place)), normal: tidy(n) };
  }

  /** The arrow points to what is under the pointer, as deep as its end. */
  private turned(middle: Vector3, n: Vector3, x: number, y: number): DrawnPlane | null {
    const end = middle.clone().addScaledVector(n, this.half * 0.5);
    const normal = this.stage().sight.atDepthOf(end, x, y).sub(middle);
    return normal.length() < this.half * 0.05 ? null : { point: tidy(middle), normal: tidy(normal.normalize()) };
  }

  protected up(): void {
    const { grip } = this;
    this.grip = null;
    if (grip) this.documents.apply(grip.part === 'middle' ? 'Move a plane' : 'Turn a plane', this.after(this.planes()));
  }

  // ---- keys and buttons

  protected drawKey(event: KeyboardEvent): void {
    if (!this.drawing() || isField(event.target) || event.key !== 'Escape') return;
    this.drawing.set(false);
    event.preventDefault();
    event.stopPropagation();
  }

  protected key(event: KeyboardEvent, plane: number): void {
    const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (step !== undefined) {
      const { point, normal } = this.planes()[plane];
      const by = (step * this.half) / 50;
      const moved = { point: tidy(new Vector3(...point).addScaledVector(new Vector3(...normal).normalize(), by)), normal };
      this.documents.apply('Move a plane', this.after(this.planes().map((each, i) => (i === plane ? moved : each))));
    } else if (event.key === 'Delete' || event.key === 'Backspace') this.remove(plane);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected remove(plane: number): void {
    this.documents.apply('Delete a plane', this.after(this.planes().filter((_, i) => i !== plane)));
  }

  /** One place up in the order: ropes of later planes lie over those of earlier ones. */
  protected later(plane: number): void {
    const list = [...this.planes()];
    [list[plane], list[plane + 1]] = [list[plane + 1], list[plane]];
    this.documents.apply('Reorder the planes', this.after(list));
    this.chosen.set(plane + 1);
  }

  protected clear(): void {
    this.documents.apply('Clear the planes', this.after([]));
    this.drawing.set(true);
  }
}
