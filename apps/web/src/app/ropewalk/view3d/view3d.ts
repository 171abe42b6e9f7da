import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { DecimalPipe } from '@angular/common';
import { Vector3 } from 'three';
import { elementNames } from '@filaxis/core';
import { figure, grouped, lengthText, milliseconds } from '../../shared/figures';
import { NumberField } from '../../shared/number-field';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { EvaluationService } from '../evaluation.service';
import type { CameraState } from './orbit';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { checkerTexels } from './checker';
import { colourMaps, gradientOf, type ColourMap } from './colour-map';
import { CurveEditor } from './curve-editor';
import { PlaneEditor } from './plane-editor';
import { StrokeEditor } from './stroke-editor';
import { Stage, type StageOptions } from './stage';
import type { CurvePlace } from './sight';
import type { StageInks } from './stage-objects';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';

const extraNames = [
  { value: 'wire', label: 'Wire' },
  { value: 'curves', label: 'Curves' },
  { value: 'frames', label: 'Frames' },
] as const satisfies readonly Choice<'wire' | 'curves' | 'frames'>[];

/** The 3D view: what comes out, drawn to be looked at. */
@Component({
  selector: 'fx-view3d',
  imports: [ChoiceField, CurveEditor, DecimalPipe, MatButtonModule, MatButtonToggleModule, NumberField, PlaneEditor, StrokeEditor],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view3d.html',
  styleUrl: './view3d.scss',
  host: { role: 'group', 'aria-label': '3D view', '[attr.data-picks]': 'picks() ? picks()!.length / 3 : null' },
})
export class View3d {
  protected readonly evaluation = inject(EvaluationService);
  private readonly documents = inject(DocumentService);
  private readonly themes = inject(ThemeService);
  private readonly destroy = inject(DestroyRef);

  /** Place to mark, in metres; null: none. */
  readonly marked = input<readonly number[] | null>(null);
  /** Places to point out, 3 numbers each. */
  readonly picks = input<Float32Array | null>(null);
  /** Why nothing is shown. */
  readonly reason = input<{ text: string; node: string | null } | null>(null);
  readonly peeked = input<string | null>(null);
  /** The change before which everything is shown; null: as it is. */
  readonly before = input<string | null>(null);
  readonly hovered = output<CurvePlace | null>();
  readonly pickedCurve = output<number>();
  /** A place on the surface, or a point of a curve, that was clicked. */
  readonly pickedPlace = output<readonly number[]>();
  readonly showNode = output<string>();
  readonly endPeek = output();
  readonly cameraChanged = output<CameraState>();
  /** The name that is to be shown as colour; null: none. */
  readonly colourAsked = output<string | null>();

  protected readonly options = signal<StageOptions>({
    surface: 'shaded',
    colour: '',
    map: 'dye',
    range: null,
    wire: false,
    frames: false,
    curves: false,
    arrowLength: 0,
    every: 0,
  });
  protected readonly axes = signal<{ name: 'x' | 'y' | 'z'; x: number; y: number; near: boolean }[]>([]);
  protected readonly gridStep = signal(1);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private stage: Stage | null = null;
  /** The stage once it stands, for the curve editor. */
  protected readonly ready = signal<Stage | null>(null);
  protected readonly frames = signal(0);
  /** What the chosen node has drawn in the view. */
  protected readonly drawnBy = computed(() => {
    const definition = this.documents.chosenDefinition();
    if (definition?.role !== 'drawing') return null;
    return (['strokes', 'planes'] as const).find((drawn) => Object.hasOwn(definition.settings, drawn)) ?? 'curves';
  });
  protected readonly lengthText = lengthText;
  protected readonly texels = checkerTexels;
  private framed = false;
  private pendingCamera: CameraState | null = null;
  private drag: { x: number; y: number; slide: boolean; moved: boolean } | null = null;
  protected readonly maps = Object.entries(colourMaps).map(([value, { label }]): Choice<ColourMap> => ({ value: value as ColourMap, label }));
  protected readonly colourChoices = computed(() =>
    plainChoices([...new Set([...this.evaluation.colourNames(), this.options().colour])].filter((name) => name)),
  );
  protected readonly extraNames = extraNames;
  /** What is shown besides surfaces. */
  protected readonly extras = computed(() => extraNames.map(({ value }) => value).filter((name) => this.options()[name]));
  /** What the colours mean. */
  protected readonly legend = computed(() => {
    const { surface, colour, map, range } = this.options();
    if (surface !== 'colour') return null;
    const shown = this.evaluation.colour();
    const found = shown?.name === colour ? shown : null;
    const [low, high] = range ?? [found?.low ?? 0, found?.high ?? 0];
    const digits = (value: number): number => Number(value.toPrecision(4));
    return { name: colour, low: digits(low), high: digits(high), found, gradient: gradientOf(map), own: range !== null };
  });
  /** No WebGL: the view says so. */
  protected readonly failed = signal<string | null>(null);
  /** The graphics were taken away for the moment. */
  protected readonly lost = signal(false);

  protected readonly facts = computed(() => {
    const counts = this.evaluation.counts();
    const ms = this.evaluation.ms();
    const problems = this.evaluation.problems().length;
    if (!counts) return null;
    return {
      faces: grouped(counts.faces),
      budget: counts.budget ? `faces of ${grouped(counts.budget)}` : 'faces',
      over: counts.budget > 0 && counts.triangles > counts.budget,
      curves: `${grouped(counts.curves)} ${counts.curves === 1 ? 'curve' : 'curves'} · ${figure(counts.length, 3)} m`,
      points: `${grouped(counts.points)} points${counts.copies ? ` · ${grouped(counts.copies)} copies` : ''}`,
      ms: ms === null ? '' : `last run ${milliseconds(ms)}`,
      problems: problems ? `${problems === 1 ? '1 problem' : `${problems} problems`}: last good picture` : '',
    };
  });

  constructor() {
    afterNextRender(() => this.start());
    this.evaluation.pictures.pipe(takeUntilDestroyed()).subscribe((picture) => {
      this.stage?.show(picture);
      if (this.stage) this.gridStep.set(this.stage.gridStep);
      // While somebody draws, the view stays as it is under the hand.
      if (!this.framed && picture.bounds && this.drawnBy() === 'curves') this.framed = true;
      else if (!this.framed && picture.bounds) {
        this.framed = true;
        if (!this.pendingCamera) this.stage?.frameAll(new Vector3(0.42, 0.36, 1));
      }
    });
    effect(() => {
      const options = this.options();
      // What is being drawn has to be seen.
      this.stage?.setOptions({ ...options, curves: options.curves || this.drawnBy() !== null });
    });
    effect(() => {
      const { surface, colour } = this.options();
      this.colourAsked.emit(surface === 'colour' ? colour : null);
    });
    effect(() => {
      const place = this.marked();
      this.stage?.mark(place);
    });
    effect(() => {
      const picks = this.picks();
      this.stage?.pick(picks);
    });
    effect(() => {
      this.themes.theme();
      requestAnimationFrame(() => this.stage?.setInks(this.inks()));
    });
  }

  /** Shows a name as colour: the one asked for, the one shown last, or the first there is. */
  showColour(name?: string): void {
    const names = this.evaluation.colourNames();
    const kept = this.options().colour;
    const wanted =
      name ??
      (names.includes(kept)
        ? kept
        : (names.find((each) => !Object.hasOwn(elementNames, each) && each !== 'part' && each !== 'material') ?? (names.includes('t') ? 't' : 'y')));
    this.set({ surface: 'colour', colour: wanted, range: null });
  }

  protected end(which: 0 | 1, value: number): void {
    const legend = this.legend();
    if (legend) this.set({ range: which ? [legend.low, value] : [value, legend.high] });
  }

  protected showSurface(surface: StageOptions['surface']): void {
    if (surface === 'colour') this.showColour();
    else this.set({ surface });
  }

  protected showExtras(names: readonly string[]): void {
    this.set(Object.fromEntries(extraNames.map(({ value }) => [value, names.includes(value)])));
  }

  set(change: Partial<StageOptions>): void {
    this.options.update((options) => ({ ...options, ...change }));
  }

  currentOptions(): StageOptions {
    return this.options();
  }

  frameAll(): void {
    this.stage?.frameAll();
  }

  /** Brings a place to the middle, near enough to see what is there. */
  flyTo(place: readonly number[]): void {
    this.stage?.flyTo(place);
  }

  /** Looks along an axis. */
  look(axis: 'x' | 'y' | 'z'): void {
    this.stage?.frameAll({ x: new Vector3(1, 0, 0), y: new Vector3(0, 1, 0.0001), z: new Vector3(0, 0, 1) }[axis]);
  }

  /** Puts the camera where it was. */
  restoreCamera(state: CameraState): void {
    this.pendingCamera = state;
    if (this.stage) this.stage.orbit.state = state;
  }

  snapshot(): Promise<Blob | null> {
    return this.stage?.snapshot(480, 300) ?? Promise.resolve(null);
  }

  private start(): void {
    try {
      this.stage = new Stage(this.canvas().nativeElement, this.options(), this.inks());
    } catch (error) {
      this.failed.set(`The 3D view needs WebGL 2, which this browser does not give (${(error as Error).message}). Files can still be exported.`);
      return;
    }
    const stage = this.stage;
    stage.onFrame = () => {
      this.drawAxes();
      if (this.drawnBy()) this.frames.update((n) => n + 1);
    };
    stage.onLost = (lost) => this.lost.set(lost);
    this.ready.set(stage);
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      if (width && height) stage.resize(width, height);
    });
    observer.observe(this.host.nativeElement);
    stage.frameAll(new Vector3(0.42, 0.36, 1));
    if (this.pendingCamera) stage.orbit.state = this.pendingCamera;
    this.destroy.onDestroy(() => {
      observer.disconnect();
      stage.dispose();
    });
  }

  private inks(): StageInks {
    const style = getComputedStyle(this.host.nativeElement);
    const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
    return {
      grid: ink('seam'),
      gridMain: ink('tag-edge'),
      wire: ink('indigo'),
      curve: ink('woad'),
      side: ink('madder'),
      normal: ink('verdigris'),
      tangent: ink('woad'),
      back: ink('madder'),
    };
  }

  /** Place of the pointer in the view, −1…1 both ways. */
  private at(event: MouseEvent): { x: number; y: number } {
    const { left, top, width, height } = this.host.nativeElement.getBoundingClientRect();
    return { x: ((event.clientX - left) / width) * 2 - 1, y: 1 - ((event.clientY - top) / height) * 2 };
  }

  protected down(event: PointerEvent): void {
    const stage = this.stage;
    if (!stage) return;
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    const slide = event.button !== 0 || event.shiftKey;
    this.drag = { x: event.clientX, y: event.clientY, slide, moved: false };
    const { x, y } = this.at(event);
    if (!slide) stage.orbit.turnAbout(stage.placeAt(x, y));
  }

  protected move(event: PointerEvent): void {
    const stage = this.stage;
    if (!stage) return;
    if (!this.drag) {
      const { x, y } = this.at(event);
      this.hovered.emit(stage.curvePointAt(x, y, 0.05));
      return;
    }
    const [dx, dy] = [event.clientX - this.drag.x, event.clientY - this.drag.y];
    if (!this.drag.moved && Math.hypot(dx, dy) < 3) return;
    const height = this.host.nativeElement.clientHeight;
    if (this.drag.slide) stage.orbit.slide(dx, dy, height);
    else stage.orbit.turn(dx, dy, height);
    this.drag = { ...this.drag, x: event.clientX, y: event.clientY, moved: true };
  }

  protected up(event: PointerEvent): void {
    const drag = this.drag;
    this.drag = null;
    if (!drag || !this.stage) return;
    if (drag.moved) {
      this.cameraChanged.emit(this.stage.orbit.state);
      return;
    }
    const { x, y } = this.at(event);
    const place = this.stage.curvePointAt(x, y, 0.06);
    if (place) this.pickedCurve.emit(place.curve);
    const hit = this.stage.placeAt(x, y)?.toArray() ?? place?.place;
    if (hit) this.pickedPlace.emit(hit);
  }

  protected leave(): void {
    this.hovered.emit(null);
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const stage = this.stage;
    if (!stage) return;
    const { x, y } = this.at(event);
    stage.orbit.zoom(Math.exp(event.deltaY * (event.deltaMode ? 0.05 : 0.0012)), stage.placeAt(x, y) ?? stage.sight.atDepthOf(stage.orbit.target, x, y));
    this.cameraChanged.emit(stage.orbit.state);
  }

  protected key(event: KeyboardEvent): void {
    const stage = this.stage;
    if (!stage) return;
    const step = 24;
    const height = this.host.nativeElement.clientHeight;
    const moves: Record<string, [number, number]> = { ArrowLeft: [step, 0], ArrowRight: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] };
    const move = moves[event.key];
    if (move) {
      event.preventDefault();
      event.stopPropagation();
      stage.orbit.turnAbout(null);
      if (event.shiftKey) stage.orbit.slide(...move, height);
      else stage.orbit.turn(...move, height);
    } else if (event.key === '+' || event.key === '-') {
      event.stopPropagation();
      stage.orbit.zoom(event.key === '+' ? 0.85 : 1.18, stage.orbit.target.clone());
    }
  }

  private drawAxes(): void {
    const camera = this.stage!.camera;
    const inverse = camera.quaternion.clone().invert();
    const axes = (['x', 'y', 'z'] as const).map((name) => {
      const v = new Vector3(name === 'x' ? 1 : 0, name === 'y' ? 1 : 0, name === 'z' ? 1 : 0).applyQuaternion(inverse);
      return { name, x: Math.round(v.x * 240) / 10, y: Math.round(-v.y * 240) / 10, near: v.z > 0 };
    });
    if (JSON.stringify(axes) !== JSON.stringify(this.axes())) this.axes.set(axes);
  }
}
