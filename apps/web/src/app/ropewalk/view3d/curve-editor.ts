import { settingsOf } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { lengthText } from '../../shared/figures';
import { NumberField } from '../../shared/number-field';
import { DocumentService } from '../document/document.service';
import {
  addCurve,
  insertPoint,
  moveTo,
  removePoint,
  removePoints,
  setClosed,
  setSharp,
  snapped,
  withHandles,
  type DrawnCurves,
  type DrawnPoint,
  type Place,
} from '../document/drawn';
import { isField } from '../../shared/typing';
import { ContextMenu } from '../context-menu';
import { setSetting } from '../document/edits';
import type { Stage } from './stage';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';

/** Planes in which points are laid and moved. */
const planes = { level: [0, 1, 0], front: [0, 0, 1], side: [1, 0, 0], facing: null } as const;
type PlaneName = keyof typeof planes;

interface Spot extends DrawnPoint {
  readonly x: number;
  readonly y: number;
}

/** Most points that are shown to be taken hold of. */
const mostShown = 600;

/** Edits the points of the chosen Drawn curve in the 3D view: lies over it, and takes the pointer only on points and while drawing. */
@Component({
  selector: 'fx-curve-editor',
  imports: [ChoiceField, MatButtonModule, MatButtonToggleModule, MatMenuModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './curve-editor.html',
  styleUrl: './curve-editor.scss',
  // Before the window, where Escape and Delete mean the graph.
  host: { '(document:keydown)': 'drawKey($event)' },
})
export class CurveEditor {
  private readonly documents = inject(DocumentService);
  private readonly menu = inject(ContextMenu, { optional: true });
  readonly stage = input.required<Stage>();
  /** Counts the frames drawn, so that points go along with the camera. */
  readonly drawnFrames = input.required<number>();

  protected readonly drawing = signal(false);
  protected readonly plane = signal<PlaneName>('level');
  protected readonly axis = signal<'all' | 'x' | 'y' | 'z'>('all');
  protected readonly snap = signal(false);
  /** The view looks along the plane, so a click has no place on it. */
  protected readonly edgeOn = signal(false);
  protected readonly chosen = signal<DrawnPoint | null>(null);
  protected readonly axes: readonly Choice<'all' | 'x' | 'y' | 'z'>[] = [{ value: 'all', label: 'the plane' }, ...(['x', 'y', 'z'] as const).map((value) => ({ value, label: `${value} only` }))]; // prettier-ignore
  protected readonly planeNames: Readonly<Record<PlaneName, string>> = { level: 'level', front: 'front', side: 'side', facing: 'facing you' };
  protected readonly planes = (Object.keys(planes) as PlaneName[]).map((value): Choice<PlaneName> => ({ value, label: this.planeNames[value] }));
  /** Points that a box was drawn round. */
  protected readonly boxed = signal<readonly DrawnPoint[]>([]);
  /** The pointer draws a box. */
  protected readonly boxing = signal(false);
  protected readonly box = signal<{ readonly x: number; readonly y: number; readonly toX: number; readonly toY: number } | null>(null);
  /** The height at which points are laid on the level plane; null: that of the point before. */
  private readonly asked = signal<number | null>(null);
  protected readonly height = computed(() => this.asked() ?? this.curves()[this.active()]?.points.at(-1)?.[1] ?? 0);
  private drag: { pointer: number; what: DrawnPoint; moved: boolean } | null = null;

  protected readonly node = computed(() => this.documents.chosen());
  private readonly settings = computed<Readonly<Record<string, unknown>>>(() => {
    const node = this.node();
    return node ? settingsOf(this.documents.document(), node) : {};
  });
  protected readonly kind = computed(() => String(this.settings()['kind']));
  protected readonly curves = computed<DrawnCurves>(() => {
    const given = (this.settings()['curves'] ?? []) as DrawnCurves;
    return this.kind() === 'bezier' ? withHandles(given) : given;
  });
  protected readonly active = computed(() => Math.min(this.chosen()?.curve ?? this.curves().length - 1, this.curves().length - 1));
  protected readonly stepText = computed(() => lengthText(this.step()));
  protected readonly step = computed(() => (this.drawnFrames(), this.stage().gridStep / 10));
  protected readonly place = computed<Place | null>(() => {
    const at = this.chosen();
    const curve = at && this.curves()[at.curve];
    return (at && (at.handle === undefined ? curve?.points[at.point] : curve?.handles?.[at.point]?.[at.handle])) ?? null;
  });
  protected readonly tooMany = computed(() => this.curves().reduce((sum, { points }) => sum + points.length, 0) > mostShown);

  protected readonly spots = computed<Spot[]>(() => {
    this.drawnFrames();
    if (this.tooMany()) return [];
    return this.curves().flatMap(({ points }, curve) => points.flatMap((place, point) => this.spot(place, { curve, point })));
  });
  /** Handles of the chosen point. */
  protected readonly handles = computed<(Spot & { readonly fromX: number; readonly fromY: number })[]>(() => {
    this.drawnFrames();
    const at = this.chosen();
    const curve = at && this.curves()[at.curve];
    const pair = curve?.handles?.[at!.point];
    if (!at || !curve || !pair) return [];
    const [from] = this.spot(curve.points[at.point], at);
    return pair.flatMap((place, n) => {
      const same = place.every((value, k) => value === curve.points[at.point][k]);
      return same || !from
        ? []
        : this.spot(place, { curve: at.curve, point: at.point, handle: n as 0 | 1 }).map((spot) => ({ ...spot, fromX: from.x, fromY: from.y }));
    });
  });
  /** From each point down to the floor, and how high the chosen one is. */
  protected readonly drops = computed(() => {
    this.drawnFrames();
    const at = this.chosen();
    return this.spots().flatMap((spot) => {
      const [x, y, z] = this.curves()[spot.curve].points[spot.point];
      const [foot] = Math.abs(y) > 1e-6 ? this.spot([x, 0, z], spot) : [];
      const own = at?.curve === spot.curve && at.point === spot.point;
      return foot ? [{ key: `${spot.curve}:${spot.point}`, x: spot.x, y: spot.y, footX: foot.x, footY: foot.y, text: own ? lengthText(y) : '' }] : [];
    });
  });
  /** Middles of the pieces of the active curve, where a point can be put in. */
  protected readonly middles = computed<Spot[]>(() => {
    this.drawnFrames();
    const curve = this.curves()[this.active()];
    if (!curve || this.tooMany()) return [];
    const count = curve.points.length;
    return curve.points.slice(0, curve.closed ? count : count - 1).flatMap((a, point) => {
      const b = curve.points[(point + 1) % count];
      return this.spot([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2], { curve: this.active(), point });
    });
  });

  constructor() {
    // A curve without a point waits for its first.
    let before: string | null = null;
    effect(() => {
      const id = this.node()?.id ?? null;
      const empty = !this.curves().length;
      untracked(() => {
        if (id !== before) this.drawing.set(empty);
        before = id;
        this.boxed.update((points) => points.filter(({ curve, point }) => this.curves()[curve]?.points[point]));
      });
    });
    // Another node, or an undo that took the point away: nothing is chosen any more.
    effect(() => {
      const at = this.chosen();
      if (at && !this.curves()[at.curve]?.points[at.point]) this.chosen.set(null);
    });
  }

  /** A place in hundredths of the view. */
  private spot(place: Place, what: DrawnPoint): Spot[] {
    const at = this.stage().sight.projected(place);
    return at && Math.abs(at.x) < 1.05 && Math.abs(at.y) < 1.05 ? [{ ...what, x: (at.x + 1) * 50, y: (1 - at.y) * 50 }] : [];
  }

  protected isChosen(spot: DrawnPoint): boolean {
    const at = this.chosen();
    return at?.curve === spot.curve && at.point === spot.point && at.handle === spot.handle;
  }

  private after(curves: DrawnCurves): ReturnType<typeof setSetting> {
    return setSetting(this.documents.settledDocument(), this.node()!.id, 'curves', curves);
  }

  private apply(label: string, curves: DrawnCurves): void {
    this.documents.apply(label, this.after(curves));
  }

  /** The place under the pointer in the plane through `through`, held to one axis where asked, on the grid where asked. */
  private under(event: PointerEvent, through: Place): Place | null {
    const box = (event.currentTarget as Element).closest('fx-curve-editor')!.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * 2 - 1;
    const y = 1 - ((event.clientY - box.top) / box.height) * 2;
    const axis = this.axis();
    const held = axis === 'all' ? -1 : 'xyz'.indexOf(axis);
    // Held to an axis, the plane is the one through that axis that faces the eye most.
    const eye = this.stage().sight.towardsEye;
    const normal = held >= 0 ? eye.map((value, k) => (k === held ? 0 : value)) : (planes[this.plane()] ?? eye);
    const place = this.stage().sight.onPlane(x, y, through, normal);
    if (!place) return null;
    const kept = held >= 0 ? through.map((value, k) => (k === held ? place[k] : value)) : place;
    return snapped(kept.map((value) => Number(value.toFixed(4))), this.snap() ? this.step() : 0); // prettier-ignore
  }

  protected down(event: PointerEvent, spot: DrawnPoint): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const { curve, point, handle } = spot;
    const what: DrawnPoint = handle === undefined ? { curve, point } : { curve, point, handle };
    this.chosen.set(what);
    this.drag = { pointer: event.pointerId, what, moved: false };
  }

  protected move(event: PointerEvent): void {
    if (!this.drag) return;
    const from = this.place();
    const place = from && this.under(event, from);
    if (!place) return;
    this.drag.moved = true;
    this.documents.show(this.after(moveTo(this.curves(), this.drag.what, place, event.altKey)));
  }

  protected up(): void {
    const drag = this.drag;
    this.drag = null;
    if (drag?.moved) this.apply(drag.what.handle === undefined ? 'Move point' : 'Move handle', this.curves());
  }

  /** Puts a point into the middle of a piece. */
  protected insert(spot: DrawnPoint): void {
    const { points } = this.curves()[spot.curve];
    const [a, b] = [points[spot.point], points[(spot.point + 1) % points.length]];
    this.apply('Insert point', insertPoint(this.curves(), spot.curve, spot.point, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2]));
    this.chosen.set({ curve: spot.curve, point: spot.point + 1 });
  }

  /** While drawing: a point at the end of the active curve, where the ground was clicked. */
  protected lay(event: PointerEvent): void {
    if (event.button !== 0) return;
    const curve = this.curves()[this.active()];
    const [x, , z] = curve?.points.at(-1) ?? ([0, 0, 0] as Place);
    const last: Place = this.plane() === 'level' ? [x, this.height(), z] : (curve?.points.at(-1) ?? [0, 0, 0]);
    const place = this.under(event, last);
    this.edgeOn.set(!place);
    if (!place) return;
    if (this.fresh || !curve) {
      this.apply('Start a curve', addCurve(this.curves(), place, this.kind() === 'bezier'));
      this.chosen.set({ curve: this.curves().length - 1, point: 0 });
      this.fresh = false;
      return;
    }
    const at = curve.points.length - 1;
    this.apply('Add point', insertPoint(this.curves(), this.active(), at, place));
    this.chosen.set({ curve: this.active(), point: at + 1 });
  }

  private fresh = false;

  protected layAt(height: number): void {
    this.asked.set(height);
  }

  /** Keys while points are laid: Enter ends the curve, Backspace takes the last point back, Escape ends drawing. */
  protected drawKey(event: KeyboardEvent): void {
    if (!(this.drawing() || this.boxing()) || isField(event.target)) return;
    const curve = this.curves()[this.active()];
    if (event.key === 'Escape') {
      this.drawing.set(false);
      this.boxing.set(false);
    } else if (event.key === 'Enter' && this.drawing()) this.fresh = true;
    else if (event.key === 'Backspace' && this.drawing() && curve)
      this.apply('Delete point', removePoint(this.curves(), { curve: this.active(), point: curve.points.length - 1 }));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected clear(): void {
    this.apply('Clear the drawing', []);
    this.chosen.set(null);
    this.drawing.set(true);
  }

  /** The pointer in hundredths of the view. */
  private at(event: PointerEvent): { x: number; y: number } {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    return { x: ((event.clientX - box.left) / box.width) * 100, y: ((event.clientY - box.top) / box.height) * 100 };
  }

  protected beginBox(event: PointerEvent): void {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const { x, y } = this.at(event);
    this.box.set({ x, y, toX: x, toY: y });
  }

  protected drawBox(event: PointerEvent): void {
    const box = this.box();
    if (!box) return;
    const { x: toX, y: toY } = this.at(event);
    const now = { ...box, toX, toY };
    this.box.set(now);
    const [left, right, top, bottom] = [Math.min(now.x, toX), Math.max(now.x, toX), Math.min(now.y, toY), Math.max(now.y, toY)];
    this.boxed.set(this.spots().filter(({ x, y }) => x >= left && x <= right && y >= top && y <= bottom).map(({ curve, point }) => ({ curve, point }))); // prettier-ignore
  }

  protected endBox(): void {
    this.box.set(null);
  }

  protected removeBoxed(): void {
    this.apply(`Delete ${this.boxed().length} points`, removePoints(this.curves(), this.boxed()));
    this.boxed.set([]);
    this.chosen.set(null);
  }

  /** The menu of a point. */
  protected askMenu(event: MouseEvent, spot: DrawnPoint): void {
    event.preventDefault();
    event.stopPropagation();
    this.chosen.set({ curve: spot.curve, point: spot.point });
    const round = this.kind() === 'bezier' ? [{ name: 'Make it sharp', run: () => this.sharp(true) }, { name: 'Make it round', run: () => this.sharp(false) }] : []; // prettier-ignore
    this.menu?.open({ x: event.clientX, y: event.clientY }, [{ name: 'Delete point', shortcut: 'Delete', run: () => this.remove() }, ...round]);
  }

  protected isBoxed(spot: DrawnPoint): boolean {
    return this.boxed().some(({ curve, point }) => curve === spot.curve && point === spot.point);
  }

  protected newCurve(): void {
    this.fresh = true;
    this.drawing.set(true);
  }

  protected remove(): void {
    const at = this.chosen();
    if (!at) return;
    this.apply('Delete point', removePoint(this.curves(), at));
    this.chosen.set(null);
  }

  protected sharp(sharp: boolean): void {
    const at = this.chosen();
    if (at) this.apply(sharp ? 'Make point sharp' : 'Make point round', setSharp(this.curves(), at, sharp));
  }

  protected close(closed: boolean): void {
    this.apply(closed ? 'Close curve' : 'Open curve', setClosed(this.curves(), this.active(), closed));
  }

  protected coordinates(from: number, values: readonly number[], keep: boolean): void {
    const at = this.chosen();
    const place = this.place();
    if (!at || !place) return;
    const moved = moveTo(this.curves(), at, place.map((old, i) => values[i - from] ?? old) as unknown as Place); // prettier-ignore
    if (keep) this.apply('Move point', moved);
    else this.documents.show(this.after(moved));
  }

  protected key(event: KeyboardEvent, spot: DrawnPoint): void {
    const moves: Record<string, readonly [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [1, 1], ArrowDown: [1, -1] };
    const move = moves[event.key];
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      event.stopPropagation();
      this.chosen.set(spot);
      this.remove();
    } else if (move) {
      event.preventDefault();
      event.stopPropagation();
      this.chosen.set({ curve: spot.curve, point: spot.point });
      const place = this.place()!;
      // Left and right, up and down in the plane; with Shift along its normal.
      const inPlane: Record<PlaneName, readonly [number, number]> = { level: [0, 2], front: [0, 1], side: [2, 1], facing: [0, 1] };
      const across: Record<PlaneName, number> = { level: 1, front: 2, side: 0, facing: 2 };
      const k = event.shiftKey ? across[this.plane()] : inPlane[this.plane()][move[0]];
      const sign = this.plane() === 'level' && !event.shiftKey && move[0] === 1 ? -move[1] : move[1];
      this.coordinates(k, [Number((place[k] + sign * this.step()).toFixed(6))], true);
    }
  }
}
