import {
  afterNextRender,
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  InjectionToken,
  input,
  model,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { DecimalPipe } from '@angular/common';
import { catchError, combineLatest, debounceTime, EMPTY, of, switchMap } from 'rxjs';
import { Vector3 } from 'three';
import { elementNames } from '@filaxis/core';
import type { Shows } from '@filaxis/protocol';
import { lengthText } from '../../shared/figures';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { measuresOf } from '../document/measures';
import { EvaluationService } from '../evaluation.service';
import { checkerTexels } from './checker';
import { CurveEditor } from './curve-editor';
import { cutAcross, cutKnobs, type Cut } from './cut';
import { Handles, type Pulled } from './handles';
import { Legend } from './legend';
import { LightHand } from './light-hand';
import type { Look } from './looks';
import type { CameraState } from './orbit';
import { Measures } from './measuring';
import { PictureDialog, type PictureData } from './picture-dialog';
import { thumbnail } from './pictures';
import { PlaneEditor } from './plane-editor';
import { Selecting, type Picked } from './selecting';
import { armOf, NodeHandles } from './node-handles';
import type { SurfaceHit } from './picking';
import type { CurvePlace } from './sight';
import { Stage } from './stage';
import { MouseDialog } from './mouse-dialog';
import { MouseHabits } from './mouse-habits';
import { plainOptions, type StageOptions } from './stage-options';
import { inksOf } from './stage-objects';
import { StrokeEditor } from './stroke-editor';
import type { SurfacePlace } from '../uv/uv-sheet';
import { armsOf, Tripod, type Arm, type AxisName } from './tripod';
import { ViewHand, type ViewPoint } from './view-hand';
import { ViewBar } from './view-bar';
import { ViewFacts } from './view-facts';
import { ViewPanel } from './view-panel';
import { ViewShows } from './view-shows';
import { ViewWay } from './view-way';
import { MatDialog } from '@angular/material/dialog';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';

/** Makes the scene on a canvas. @throws Error where the browser gives no WebGL 2. */
export const MAKE_STAGE = new InjectionToken<(...given: ConstructorParameters<typeof Stage>) => Stage>('Makes the scene', {
  providedIn: 'root',
  factory:
    () =>
    (...given) =>
      new Stage(...given),
});

/** The 3D view: what comes out, drawn to be looked at. */
@Component({
  selector: 'fx-view3d',
  imports: [
    CurveEditor,
    DecimalPipe,
    Handles,
    Legend,
    MatButtonModule,
    MatButtonToggleModule,
    Measures,
    NodeHandles,
    PlaneEditor,
    StrokeEditor,
    Tripod,
    ViewBar,
    ViewFacts,
    ViewPanel,
    ViewShows,
    ViewWay,
  ],
  providers: [Selecting],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view3d.html',
  styleUrl: './view3d.scss',
  host: {
    role: 'group',
    'aria-label': '3D view',
    '[attr.data-picks]': 'picks() ? picks()!.length / 3 : null',
    '[class.measuring]': 'measuring()',
  },
})
export class View3d {
  protected readonly evaluation = inject(EvaluationService);
  private readonly documents = inject(DocumentService);
  private readonly themes = inject(ThemeService);
  private readonly dialogs = inject(MatDialog);
  private readonly application = inject(ApplicationRef);
  private readonly selecting = inject(Selecting);
  private readonly destroy = inject(DestroyRef);
  private readonly makeStage = inject(MAKE_STAGE);

  /** Place to mark, in metres; null: none. */
  readonly marked = input<readonly number[] | null>(null);
  /** Places to point out, 3 numbers each. */
  readonly picks = input<Float32Array | null>(null);
  /** Why nothing is shown. */
  readonly reason = input<{ text: string; node: string | null } | null>(null);
  readonly peeked = input<string | null>(null);
  /** Which results are shown, and these in words. */
  readonly shows = model<Shows>('chosen');
  readonly shown = input('');
  /** The change before which everything is shown; null: as it is. */
  readonly before = input<string | null>(null);
  /** Whether a click chooses the node that made what is there, and views can be kept. */
  readonly selects = input(true);
  readonly hovered = output<CurvePlace | null>();
  readonly pickedCurve = output<number>();
  /** The place on the surface under the pointer; null: none. */
  readonly over = output<SurfacePlace | null>();
  /** Whether anybody wants to know that. */
  readonly tellsOver = input(false);
  /** A place on the surface, or a point of a curve, that was clicked. */
  readonly pickedPlace = output<readonly number[]>();
  readonly showNode = output<string>();
  /** A node, or an element of what it gives, was chosen by a click. */
  readonly picked = output<Picked>();
  readonly endPeek = output();
  readonly cameraChanged = output<CameraState>();
  /** The name that is to be shown as colour; null: none. */
  readonly colourAsked = output<string | null>();

  protected readonly options = signal<StageOptions>(plainOptions);
  protected readonly camera = signal<CameraState>({ position: [0, 0, 1], target: [0, 0, 0] });
  protected readonly bytes = signal(0);
  protected readonly note = signal<string | null>(null);
  protected readonly axes = signal<readonly Arm[]>([]);
  protected readonly gridStep = signal(1);
  private readonly measures = viewChild(Measures);
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
  /** How it is drawn: what is being drawn by hand has to be seen. */
  private readonly drawnOptions = computed(() => ({ ...this.options(), curves: this.options().curves || this.drawnBy() !== null }));
  /** Settings of the chosen node can be taken hold of. */
  protected readonly handled = computed(() => this.selects() && this.options().handles && !!this.documents.chosenDefinition()?.handles.length);
  protected readonly cutKnobs = computed(() => {
    const { cut } = this.options();
    const stage = this.ready();
    return cut && stage ? cutKnobs(cut, armOf(stage.extent)) : null;
  });
  private readonly measured = computed(() => measuresOf(this.documents.document()).length > 0);
  protected readonly lengthText = lengthText;
  protected readonly texels = checkerTexels;
  private framed = false;
  private pendingCamera: CameraState | null = null;
  /** Measures are being taken. */
  protected readonly measuring = signal(false);
  /** While V is held the light goes with the pointer; V alone, without a drag, takes the next lighting. */
  readonly lightHand = new LightHand(this.options, (change) => this.set(change));
  protected readonly mouse = inject(MouseHabits);
  protected readonly hand = new ViewHand({
    stage: () => this.stage,
    pane: () => this.host.nativeElement,
    light: this.lightHand,
    habits: this.mouse.habits,
    hover: (at) => this.hover(at),
    click: (at, event) => this.click(at, event),
    moved: () => this.keepCamera(),
  });
  /** No WebGL: the view says so. */
  protected readonly failed = signal<string | null>(null);
  /** The graphics were taken away for the moment. */
  protected readonly lost = signal(false);

  constructor() {
    afterNextRender(() => this.start());
    this.evaluation.pictures.pipe(takeUntilDestroyed()).subscribe((picture) => {
      this.stage?.show(picture);
      // While somebody draws, the view stays as it is under the hand.
      if (!this.framed && picture.bounds && this.drawnBy() === 'curves') this.framed = true;
      else if (!this.framed && picture.bounds) {
        this.framed = true;
        if (this.pendingCamera) this.stage?.suitFloor();
        else this.stage?.frameAll(new Vector3(0.42, 0.36, 1));
      }
    });
    effect(() => {
      const options = this.drawnOptions();
      this.stage?.setOptions(options);
    });
    this.selecting.curvesSeen = () => this.options().curves || this.drawnBy() !== null || !this.evaluation.counts()?.faces;
    this.selecting.active = () => this.selects();
    effect(() => {
      const { surface, colour } = this.options();
      this.colourAsked.emit(surface === 'colour' ? colour : surface === 'parts' ? 'body' : null);
    });
    // Edges are found by the worker, once for a picture, when they are to be seen.
    const inked = toObservable(computed(() => (this.options().surface === 'ink' ? 'sharp' : this.options().edges)));
    combineLatest([inked, this.evaluation.pictures])
      .pipe(
        debounceTime(80),
        switchMap(([edges]) => (edges === 'none' ? of(null) : this.evaluation.ask('edges', { sharp: edges === 'sharp' }).pipe(catchError(() => EMPTY)))),
        takeUntilDestroyed(),
      )
      .subscribe((edges) => this.stage?.ink(edges));
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
      requestAnimationFrame(() => this.stage?.setInks(inksOf(this.host.nativeElement)));
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
        : (names.find((each) => !Object.hasOwn(elementNames, each) && !['part', 'body', 'material'].includes(each)) ?? (names.includes('t') ? 't' : 'y')));
    this.set({ surface: 'colour', colour: wanted, range: null });
  }

  /** Looks at surfaces in another way. */
  look(surface: Look): void {
    if (surface === 'colour') this.showColour();
    else this.set({ surface });
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

  /** Shows what the chosen node made, or everything. */
  async frameChosen(): Promise<void> {
    const id = this.documents.chosenId();
    const box = id === null ? null : await this.selecting.boxOf(id);
    if (box) this.stage?.frameBox(box.min, box.max);
    else this.frameAll();
  }

  /** Looks along an axis; from its other side when it does already. */
  lookAlong(axis: AxisName): void {
    const { stage } = this;
    if (!stage) return;
    const along = { x: new Vector3(1, 0, 0), y: new Vector3(0, 1, 0.0001), z: new Vector3(0, 0, 1) }[axis];
    const eye = stage.camera.position.clone().sub(stage.orbit.target).normalize();
    stage.frameBox(stage.bounds.min, stage.bounds.max, eye.dot(along) > 0.999 ? along.negate() : along);
  }

  /** Begins to take measures, or ends it. */
  toggleMeasuring(): void {
    this.measuring.update((measuring) => !measuring);
  }

  /** Puts the camera where it was. */
  restoreCamera(state: CameraState): void {
    this.pendingCamera = state;
    if (this.stage) this.stage.orbit.state = state;
  }

  protected showCamera(state: CameraState): void {
    this.restoreCamera(state);
    this.cameraChanged.emit(state);
  }

  protected lens(focal: number): void {
    this.stage?.orbit.zoomLens(focal);
    this.keepCamera();
  }

  protected setParallel(parallel: boolean): void {
    this.stage?.orbit.setParallel(parallel);
    this.keepCamera();
  }

  toggleParallel(): void {
    if (this.stage) this.setParallel(!this.stage.camera.parallel);
  }

  /** Cuts the view through the middle of what is shown, or closes it. */
  toggleCut(): void {
    this.set({ cut: this.options().cut || !this.stage ? null : cutAcross(this.stage.middle.toArray(), 'x') });
  }

  private keepCamera(): void {
    if (this.stage) this.cameraChanged.emit(this.stage.orbit.state);
  }

  /** Takes pictures as the view is now. */
  takePictures(): void {
    if (!this.stage) return;
    const data = { stage: this.stage, title: this.documents.document().title };
    this.dialogs.open<PictureDialog, PictureData>(PictureDialog, { data, width: '460px' });
    // Its fields have their values before the first key comes.
    this.application.tick();
  }

  /** Asks what the mouse does here. */
  askHabits(): void {
    this.dialogs.open(MouseDialog, { width: '520px' });
  }

  snapshot(): Promise<Blob | null> {
    return this.stage ? thumbnail(this.stage) : Promise.resolve(null);
  }

  private start(): void {
    try {
      this.stage = this.makeStage(this.canvas().nativeElement, this.drawnOptions(), inksOf(this.host.nativeElement));
    } catch (error) {
      this.failed.set(`The 3D view needs WebGL 2, which this browser does not give (${(error as Error).message}). Files can still be exported.`);
      return;
    }
    const stage = this.stage;
    this.selecting.attach(stage);
    stage.onFrame = () => this.afterFrame(stage);
    // For who waits for the picture: a page that looks at it, a test.
    stage.onRest = (rests) => this.host.nativeElement.toggleAttribute('data-rests', rests);
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

  protected moveCut({ value }: Pulled): void {
    this.set({ cut: value as Cut });
  }

  protected hover(at: ViewPoint | null): void {
    this.selecting.hover(at);
    if (!at) {
      this.hovered.emit(null);
      this.over.emit(null);
      return;
    }
    this.hovered.emit(this.stage?.curvePointAt(at.x, at.y, 0.05) ?? null);
    if (this.tellsOver() && this.stage?.ready) this.over.emit(placeOf(this.stage.hitsAt(at.x, at.y, true)[0]));
  }

  private click(at: ViewPoint, event: PointerEvent): void {
    const { stage } = this;
    if (!stage) return;
    if (this.measuring() && event.button === 0) return void this.measures()?.click(at.x, at.y);
    const place = stage.curvePointAt(at.x, at.y, 0.06);
    if (place) this.pickedCurve.emit(place.curve);
    const hit = stage.placeAt(at.x, at.y)?.toArray() ?? place?.place;
    if (hit) this.pickedPlace.emit(hit);
    if (event.button === 0) void this.selecting.click(at, { x: event.clientX, y: event.clientY }).then((picked) => picked && this.picked.emit(picked));
  }

  private afterFrame(stage: Stage): void {
    const axes = armsOf(stage.camera);
    if (JSON.stringify(axes) !== JSON.stringify(this.axes())) this.axes.set(axes);
    const camera = stage.orbit.state;
    if (JSON.stringify(camera) !== JSON.stringify(this.camera())) this.camera.set(camera);
    this.gridStep.set(stage.gridStep);
    this.bytes.set(stage.bytes);
    this.note.set(stage.note);
    if (this.drawnBy() || this.handled() || this.options().cut || this.measuring() || this.measured()) this.frames.update((n) => n + 1);
  }
}

/** Where a hit is, for who knows the mesh: copies are in places of their own. */
const placeOf = (hit: SurfaceHit | undefined): SurfacePlace | null => (hit && !hit.copy ? { corners: hit.corners, place: hit.place.toArray() } : null);
