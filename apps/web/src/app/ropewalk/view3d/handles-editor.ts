import { knobsOf, settingsOf, type Knob, type NumberSetting, type Triple } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { Vector3 } from 'three';
import { figure } from '../../shared/figures';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import type { Cut } from './content';
import { snapAt, type Snapped } from './snapping';
import type { Stage } from './stage';

/** How long arms are, of the size of what is shown. */
const armShare = 0.14;

/** What knobs of the cut stand for: no setting. */
const cutSetting = '';

/** Knobs that move a cut along its normal and turn it. */
export function cutKnobs({ point, normal }: Cut, arm: number): Knob[] {
  const n = new Vector3(...normal).normalize();
  const from = new Vector3(...point);
  const away = from.dot(n);
  const end = from
    .clone()
    .addScaledVector(n, arm * 1.6)
    .toArray() as unknown as Triple;
  const at = (distance: number): Cut => ({ point: from.clone().addScaledVector(n, distance - away).toArray(), normal }); // prettier-ignore
  const axis = n.toArray() as unknown as Triple;
  const both = { setting: cutSetting, unit: 'm', root: point, axis };
  return [
    { ...both, id: 'cut', label: 'Cut', moves: 'along', at: point, value: away, to: (place) => at(new Vector3(...place).dot(n)), typed: at },
    { ...both, id: 'cut.way', label: 'Way of the cut', moves: 'aim', at: end, value: null, to: (place) => ({ point, normal: new Vector3(...place).sub(from).normalize().toArray() as unknown as Triple }), typed: () => ({ point, normal }) },
  ]; // prettier-ignore
}

/** A knob as it is seen, in hundredths of the view. */
interface Seen {
  readonly knob: Knob;
  readonly at: readonly [number, number];
  readonly root: readonly [number, number];
  /** The ring that it goes round, as points of a line. */
  readonly ring: string | null;
}

/**
 * Handles of the chosen node in the 3D view, as its definition declares them. A drag is one change; Ctrl puts what is dragged on what lies nearest; digits typed over a knob set its number.
 * Drawn here and not by the library's own, since they stand for settings, not for objects.
 */
@Component({
  selector: 'fx-handles',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './handles-editor.html',
  styleUrl: './handles-editor.scss',
})
export class HandlesEditor {
  private readonly documents = inject(DocumentService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stage = input.required<Pick<Stage, 'sight' | 'middle' | 'extent' | 'gridStep' | 'hitsAt' | 'curvePointAt'>>();
  /** Counts the frames drawn, so that knobs go along with the camera. */
  readonly drawnFrames = input.required<number>();
  /** Whether the chosen node's handles are shown. */
  readonly shown = input(true);
  /** The plane that the view is cut by, with handles of its own. */
  readonly cut = input<Cut | null>(null);
  readonly cutMoved = output<Cut>();

  /** The knob that is held or has the keyboard. */
  protected readonly held = signal<string | null>(null);
  protected readonly typing = signal('');
  protected readonly snapped = signal<Snapped['on'] | null>(null);
  private drag: { id: string; moved: boolean } | null = null;
  /** Arms keep their length while a hand is on them, though what is shown grows. */
  private readonly scene = computed(() => {
    this.documents.chosenId();
    const { middle, extent } = this.stage();
    return { middle: middle.toArray(), arm: Number((extent * armShare).toPrecision(2)) };
  });
  protected readonly knobs = computed<Knob[]>(() => {
    const node = this.documents.chosen();
    const definition = this.documents.chosenDefinition();
    const cut = this.cut();
    const cutting = cut ? cutKnobs(cut, this.scene().arm) : [];
    if (!node || !definition?.handles.length || !this.shown()) return cutting;
    return [...cutting, ...knobsOf(definition.handles, definition.settings, settingsOf(this.documents.document(), node), this.scene())];
  });
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
  protected text({ label, setting, unit, moves }: Knob): string {
    if (this.typing()) return `${label} ${this.typing()}▏${unit}`;
    const knob = this.knobs().find(({ id }) => id === this.held());
    const on = this.snapped();
    const values = knob?.value ?? (setting !== cutSetting && (moves === 'free' || moves === 'aim') ? this.valueOf(setting) : null);
    const shown = [values].flat().filter((value) => typeof value === 'number').map((value) => figure(value, 4)).join(', '); // prettier-ignore
    return `${label} ${shown} ${unit}${on ? ` · on a ${on}` : ''}`;
  }

  private valueOf(setting: string): unknown {
    const node = this.documents.chosen();
    return node && settingsOf(this.documents.document(), node)[setting];
  }

  // ---- dragging

  protected down(event: PointerEvent, { id }: Knob): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
    this.drag = { id, moved: false };
    this.held.set(id);
    this.typing.set('');
  }

  protected move(event: PointerEvent): void {
    const knob = this.drag && this.knobs().find(({ id }) => id === this.drag!.id);
    if (!knob || this.typing()) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const [x, y] = [((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2];
    const near = event.ctrlKey || event.metaKey ? snapAt(this.stage(), x, y, box.width / box.height) : null;
    this.snapped.set(near?.on ?? null);
    const place = near?.place ?? this.under(knob, x, y, event.shiftKey);
    if (!place) return;
    if (knob.setting === cutSetting) return this.cutMoved.emit(knob.to(place as unknown as Triple) as Cut);
    this.drag!.moved = true;
    this.documents.show(this.after(knob, knob.to(place as unknown as Triple)));
  }

  protected up(): void {
    const { drag } = this;
    this.drag = null;
    this.snapped.set(null);
    const knob = drag?.moved && this.knobs().find(({ id }) => id === drag.id);
    if (knob) this.documents.apply(`Drag ${knob.label.toLowerCase()}`, this.after(knob, this.valueOf(knob.setting)));
  }

  /** Where a knob goes when the pointer is at a point of the view. */
  private under(knob: Knob, x: number, y: number, upright: boolean): readonly number[] | null {
    const { sight } = this.stage();
    if (knob.moves === 'along') return this.onLine(knob.at, knob.axis, x, y);
    if (knob.moves === 'ring') return sight.onPlane(x, y, knob.root, knob.axis);
    if (knob.moves === 'aim') return sight.atDepthOf(new Vector3(...knob.at), x, y).toArray();
    if (upright) return this.onLine(knob.at, [0, 1, 0], x, y);
    // Level where one looks down on it, else across the view.
    const eye = sight.towardsEye;
    return sight.onPlane(x, y, knob.at, Math.abs(eye[1]) > 0.25 ? [0, 1, 0] : [eye[0], 0, eye[2]]);
  }

  /** The place of a line that passes nearest to a line of sight; null when that runs along it. */
  private onLine(at: Triple, axis: Triple, x: number, y: number): readonly number[] | null {
    const { ray } = this.stage().sight.ray(x, y);
    const [place, n] = [new Vector3(...at), new Vector3(...axis)];
    const along = n.dot(ray.direction);
    const off = place.clone().sub(ray.origin);
    const steep = 1 - along * along;
    if (steep < 1e-3) return null;
    return place.addScaledVector(n, (along * ray.direction.dot(off) - n.dot(off)) / steep).toArray();
  }

  private after({ setting }: Knob, value: unknown): ReturnType<typeof setSetting> {
    return setSetting(this.documents.settledDocument(), this.documents.chosen()!.id, setting, value);
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
    if (knob.value !== null && /^[-0-9.]$/.test(event.key)) this.typing.set(typed + event.key);
    else if (event.key === 'Backspace' && typed) this.typing.set(typed.slice(0, -1));
    else if (event.key === 'Escape' && (typed || this.drag)) this.giveUp();
    else if (event.key === 'Enter' && typed) this.keepTyped(knob, Number(typed));
    else return this.stepped(event, knob);
    return true;
  }

  private keepTyped(knob: Knob, value: number): void {
    this.typing.set('');
    this.drag = null;
    if (!Number.isFinite(value)) return;
    if (knob.setting === cutSetting) this.cutMoved.emit(knob.typed(value) as Cut);
    else this.documents.apply(`Set ${knob.label.toLowerCase()}`, this.after(knob, knob.typed(value)));
  }

  /** What was only shown goes back to what it was. */
  private giveUp(): void {
    this.typing.set('');
    if (this.drag?.moved) this.documents.dropPreview();
    this.drag = null;
  }

  private stepped(event: KeyboardEvent, knob: Knob): boolean {
    const sign = ({ ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 } as Record<string, number>)[event.key];
    if (!sign || knob.setting === cutSetting) return false;
    const setting = this.documents.chosenDefinition()!.settings[knob.setting] as NumberSetting;
    const by = sign * (setting.step ?? 0.01) * (event.shiftKey ? 10 : 1);
    const level = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    const moved: Triple = [knob.at[0] + (level ? by : 0), knob.at[1], knob.at[2] - (level ? 0 : by)];
    this.documents.apply(`Move ${knob.label.toLowerCase()}`, this.after(knob, knob.value === null ? knob.to(moved) : knob.typed(knob.value + by)));
    return true;
  }

  protected leave(): void {
    this.typing.set('');
    if (!this.drag) this.held.set(null);
  }
}
