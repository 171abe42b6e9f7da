import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  InjectionToken,
  input,
  output,
  signal,
  untracked,
  viewChild,
  afterNextRender,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { catchError, combineLatest, debounceTime, map, of, startWith, switchMap } from 'rxjs';
import type { UvSheet } from '@filaxis/core';
import { download, fileName } from '../../shared/assets';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { figure, grouped } from '../../shared/figures';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { EvaluationService } from '../evaluation.service';
import { inSpace, onSheet, sheetSvg, underUv } from './sheet-places';
import { middleOf, SheetStage, type SheetColour } from './sheet-stage';

const sizes = [256, 512, 1024, 2048, 4096] as const;

/** A place on the surface in the 3D view: the corners of its triangle, and where it is. */
export interface SurfacePlace {
  readonly corners: readonly number[];
  readonly place: readonly number[];
}

/** Makes the drawing of a sheet on a canvas. @throws Error where the browser gives no WebGL 2. */
export const MAKE_SHEET_STAGE = new InjectionToken<(canvas: HTMLCanvasElement) => SheetStage>('Makes the drawing of a sheet', {
  providedIn: 'root',
  factory: () => (canvas) => new SheetStage(canvas),
});

/** The UVs of what is chosen, laid out flat. */
@Component({
  selector: 'fx-uv-sheet',
  imports: [ChoiceField, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './uv-sheet.html',
  styleUrl: './uv-sheet.scss',
})
export class UvSheetPanel {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly themes = inject(ThemeService);
  private readonly destroy = inject(DestroyRef);
  private readonly makeStage = inject(MAKE_SHEET_STAGE);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly pane = viewChild.required<ElementRef<HTMLElement>>('pane');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  /** What the pointer is over in the 3D view. */
  readonly over = input<SurfacePlace | null>(null);
  /** The place in space under the pointer; null: none. */
  readonly hovered = output<readonly number[] | null>();

  protected readonly colours: readonly Choice<SheetColour>[] = [
    { value: 'islands', label: 'Islands' },
    { value: 'checker', label: 'Checker' },
    { value: 'stretch', label: 'Stretch' },
    { value: 'texels', label: 'Texel size' },
  ];
  protected readonly sizeChoices = sizes.map((size): Choice => ({ value: String(size), label: `${grouped(size)} px` }));
  protected readonly colour = signal<SheetColour>('islands');
  protected readonly texels = signal(1024);
  protected readonly sheet = signal<UvSheet | null>(null);
  protected readonly asked = signal(false);
  protected readonly failed = signal<string | null>(null);
  /** The triangle under the pointer. */
  private readonly pointed = signal<number | null>(null);
  protected readonly mark = signal<readonly [number, number] | null>(null);
  private stage: SheetStage | null = null;
  private fitted: string | null = null;
  private drag: { x: number; y: number } | null = null;

  protected readonly facts = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return null;
    const overlapped = sheet.overlapping.reduce((sum, each) => sum + each, 0);
    const density = middleOf(sheet.density) * this.texels();
    return {
      islands: `${grouped(sheet.islands)} ${sheet.islands === 1 ? 'island' : 'islands'}`,
      density: `${figure(density, 3)} px/m in the middle`,
      overlapped: overlapped ? `${figure((overlapped / sheet.overlapping.length) * 100, 2)} % lies over something else` : 'nothing overlaps',
      over: overlapped > 0,
    };
  });
  protected readonly here = computed(() => {
    const [sheet, t] = [this.sheet(), this.pointed()];
    if (!sheet || t === null) return null;
    return `${figure(sheet.density[t] * this.texels(), 3)} px/m · stretched ${figure(sheet.stretch[t], 3)} : 1${sheet.overlapping[t] ? ' · overlaps' : ''}`;
  });

  constructor() {
    afterNextRender(() => this.start());
    combineLatest([toObservable(this.documents.chosenId), this.evaluation.pictures.pipe(map(() => null), startWith(null))]) // prettier-ignore
      .pipe(
        debounceTime(150),
        switchMap(([node]) => this.evaluation.ask('uvSheet', { node }).pipe(catchError(() => of(null)))),
        takeUntilDestroyed(),
      )
      .subscribe((sheet) => {
        this.asked.set(true);
        this.pointed.set(null);
        this.sheet.set(sheet);
      });
    effect(() => {
      this.themes.theme();
      const [sheet, colour, texels] = [this.sheet(), this.colour(), this.texels()];
      untracked(() => this.show(sheet, colour, texels));
    });
    effect(() => {
      const [over, sheet] = [this.over(), this.sheet()];
      const at = over && sheet && onSheet(sheet, over.corners, over.place);
      untracked(() => this.mark.set((at && this.stage?.pixelOf(...at)) ?? null));
    });
  }

  private start(): void {
    try {
      this.stage = this.makeStage(this.canvas().nativeElement);
    } catch (error) {
      this.failed.set(`The UV sheet needs WebGL 2, which this browser does not give (${(error as Error).message}).`);
      return;
    }
    const observer = new ResizeObserver(([{ contentRect }]) => {
      const { width, height } = contentRect;
      if (!width || !height) return;
      this.stage!.resize(width, height);
    });
    observer.observe(this.pane().nativeElement);
    this.destroy.onDestroy(() => {
      observer.disconnect();
      this.stage?.dispose();
      this.hovered.emit(null);
    });
    this.show(this.sheet(), this.colour(), this.texels());
  }

  private show(sheet: UvSheet | null, colour: SheetColour, texels: number): void {
    const style = getComputedStyle(this.host.nativeElement);
    const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
    this.stage?.show(sheet, colour, texels, { line: ink('indigo'), frame: ink('tag-edge'), overlap: [0.36, 0.03, 0.05], mark: ink('weld') });
    // Another node's sheet is looked at whole; what changes under the hand stays where it is.
    const node = this.documents.chosenId() ?? '';
    if (sheet && this.fitted !== node) {
      this.fitted = node;
      this.fit();
    }
  }

  protected fit(): void {
    const sheet = this.sheet();
    if (sheet) this.stage?.fit(sheet);
    this.mark.set(null);
  }

  private place(event: MouseEvent): readonly [number, number] {
    const { left, top } = this.pane().nativeElement.getBoundingClientRect();
    return [event.clientX - left, event.clientY - top];
  }

  protected down(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.drag = { x: event.clientX, y: event.clientY };
  }

  protected move(event: PointerEvent): void {
    if (this.drag) {
      this.stage?.slide(event.clientX - this.drag.x, event.clientY - this.drag.y);
      this.drag = { x: event.clientX, y: event.clientY };
      return;
    }
    const sheet = this.sheet();
    const [x, y] = this.place(event);
    const found = sheet && this.stage && underUv(sheet, ...this.stage.at(x, y));
    this.pointed.set(found?.triangle ?? null);
    this.hovered.emit(sheet && found ? inSpace(sheet, found) : null);
  }

  protected leave(): void {
    this.pointed.set(null);
    this.hovered.emit(null);
  }

  protected up(): void {
    this.drag = null;
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.mark.set(null);
    this.stage?.zoom(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0012)), ...this.place(event));
  }

  protected key(event: KeyboardEvent): void {
    const moves: Record<string, readonly [number, number]> = { ArrowLeft: [24, 0], ArrowRight: [-24, 0], ArrowUp: [0, 24], ArrowDown: [0, -24] };
    const { clientWidth, clientHeight } = this.pane().nativeElement;
    if (moves[event.key]) this.stage?.slide(...moves[event.key]);
    else if (event.key === '+' || event.key === '-') this.stage?.zoom(event.key === '+' ? 1.2 : 1 / 1.2, clientWidth / 2, clientHeight / 2);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected setTexels(size: string): void {
    this.texels.set(Number(size));
  }

  private get name(): string {
    return `${fileName(this.documents.document().title)}-uv`;
  }

  protected saveSvg(): void {
    const sheet = this.sheet();
    if (sheet) download(new Blob([sheetSvg(sheet, this.texels())]), `${this.name}.svg`, 'image/svg+xml');
  }

  protected async savePng(): Promise<void> {
    const image = await this.stage?.image(this.texels());
    if (image) download(image, `${this.name}.png`, 'image/png');
  }
}
