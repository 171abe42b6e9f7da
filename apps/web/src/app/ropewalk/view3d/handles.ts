import type { Knob, Triple } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { Vector3 } from 'three';
import { figure } from '../../shared/figures';
import { snapAt, type Snapped } from './snapping';
import type { Stage } from './stage';

/** A knob as it is seen, in hundredths of the view. */
interface Seen {
  readonly knob: Knob;
  readonly at: readonly [number, number];
  readonly root: readonly [number, number];
  /** The ring that it goes round, as points of a line. */
  readonly ring: string | null;
}

/** What a knob was taken to. */
export interface Pulled {
  readonly knob: Knob;
  readonly value: unknown;
}

/**
 * Knobs over the 3D view. Ctrl puts what is dragged on what lies nearest; digits typed over a knob set its number, arrows take it a step.
 * Drawn here and not by the library's own, since they stand for settings, not for objects.
 */
@Component({
  selector: 'fx-handles',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './handles.html',
  styleUrl: './handles.scss',
})
export class Handles {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stage = input.required<Pick<Stage, 'sight' | 'gridStep' | 'hitsAt' | 'curvePointAt'>>();
  /** Counts the frames drawn, so that knobs go along with the camera. */
  readonly drawnFrames = input.required<number>();
  readonly knobs = input.required<readonly Knob[]>();
  /** While a knob is dragged. */
  readonly pulled = output<Pulled>();
  /** When it is let go, stepped or typed for; `did` says which. */
  readonly kept = output<Pulled & { readonly did: 'Drag' | 'Move' | 'Set' }>();
  /** What was pulled goes back. */
  readonly dropped = output();

  /** The knob that is held or has the keyboard. */
  protected readonly held = signal<string | null>(null);
  protected readonly typing = signal('');
  protected readonly snapped = signal<Snapped['on'] | null>(null);
  private drag: { readonly id: string; last: Pulled | null } | null = null;
  protected readonly seen = computed<Seen[]>(() => {
    this.drawnFrames();
    return this.knobs().flatMap((knob) => this.lookAt(knob));
  });

  private at(place: readonly number[]): readonly [number, number] | null {
    const seen = this.stage().sight.projected(place);
    return seen && [(seen.x + 1) * 50, (1 - seen.y) * 50];
  }

  private lookAt(knob: Knob): Seen[] {
    const [at, root] = [this.at(knob.at), this.at(knob.root)];
    if (!at || !root || Math.abs(at[0] - 50) > 60 || Math.abs(at[1] - 50) > 60) return [];
    return [{ knob, at, root, ring: knob.moves === 'ring' ? this.ringOf(knob) : null }];
  }

  private ringOf({ root, at, axis }: Knob): string {
    const [middle, n] = [new Vector3(...root), new Vector3(...axis)];
    const out = new Vector3(...at).sub(middle);
    const points = Array.from({ length: 49 }, (_, i) =>
      this.at(
        middle
          .clone()
          .add(out.clone().applyAxisAngle(n, (i / 48) * 2 * Math.PI))
          .toArray(),
      ),
    );
    return points.filter((point) => point !== null).map((point) => point.join()).join(' '); // prettier-ignore
  }

  /** What a knob says of itself. */
  protected text({ label, values, unit }: Knob): string {
    if (this.typing()) return `${label} ${this.typing()}▏${unit}`;
    const on = this.snapped();
    return `${label} ${values.map((value) => figure(value, 4)).join(', ')} ${unit}${on ? ` · on a ${on}` : ''}`;
  }

  // ---- dragging

  protected down(event: PointerEvent, { id }: Knob): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
    this.drag = { id, last: null };
    this.held.set(id);
    this.typing.set('');
  }

  protected move(event: PointerEvent): void {
    const { drag } = this;
    const knob = drag && this.knobs().find(({ id }) => id === drag.id);
    if (!knob || this.typing()) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const [x, y] = [((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2];
    const near = event.ctrlKey || event.metaKey ? snapAt(this.stage(), x, y, box.width / box.height) : null;
    this.snapped.set(near?.on ?? null);
    const place = near?.place ?? this.under(knob, x, y, event.shiftKey);
    if (!place) return;
    drag.last = { knob, value: knob.to(place as unknown as Triple) };
    this.pulled.emit(drag.last);
  }

  protected up(): void {
    const last = this.drag?.last;
    this.drag = null;
    this.snapped.set(null);
    if (last) this.kept.emit({ ...last, did: 'Drag' });
  }

  /** Where a knob goes when the pointer is at a point of the view. */
  private under(knob: Knob, x: number, y: number, upright: boolean): readonly number[] | null {
    const { sight } = this.stage();
    if (knob.moves === 'along') return sight.onLine(x, y, knob.at, knob.axis);
    if (knob.moves === 'ring') return sight.onPlane(x, y, knob.root, knob.axis);
    if (knob.moves === 'aim') return sight.atDepthOf(new Vector3(...knob.at), x, y).toArray();
    if (upright) return sight.onLine(x, y, knob.at, [0, 1, 0]);
    // Level where one looks down on it, else across the view.
    const eye = sight.towardsEye;
    return sight.onPlane(x, y, knob.at, Math.abs(eye[1]) > 0.25 ? [0, 1, 0] : [eye[0], 0, eye[2]]);
  }

  // ---- keys

  protected key(event: KeyboardEvent, knob: Knob): void {
    if (!this.handled(event, knob)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  private handled(event: KeyboardEvent, knob: Knob): boolean {
    if (event.ctrlKey || event.metaKey) return false;
    const typed = this.typing();
    if (knob.typed && /^[-0-9.]$/.test(event.key)) this.typing.set(typed + event.key);
    else if (event.key === 'Backspace' && typed) this.typing.set(typed.slice(0, -1));
    else if (event.key === 'Escape' && (typed || this.drag)) this.giveUp();
    else if (event.key === 'Enter' && typed) this.keepTyped(knob, Number(typed));
    else return this.stepped(event, knob);
    return true;
  }

  private keepTyped(knob: Knob, number: number): void {
    this.typing.set('');
    this.drag = null;
    if (knob.typed && Number.isFinite(number)) this.kept.emit({ knob, value: knob.typed(number), did: 'Set' });
  }

  /** What was only shown goes back to what it was. */
  private giveUp(): void {
    this.typing.set('');
    if (this.drag?.last) this.dropped.emit();
    this.drag = null;
  }

  private stepped(event: KeyboardEvent, knob: Knob): boolean {
    const sign = ({ ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 } as Record<string, number>)[event.key];
    if (!sign) return false;
    const by = sign * knob.step * (event.shiftKey ? 10 : 1);
    const level = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    const moved: Triple = [knob.at[0] + (level ? by : 0), knob.at[1], knob.at[2] - (level ? 0 : by)];
    this.kept.emit({ knob, value: knob.typed ? knob.typed(knob.values[0] + by) : knob.to(moved), did: 'Move' });
    return true;
  }

  protected leave(): void {
    this.typing.set('');
    if (!this.drag) this.held.set(null);
  }
}
