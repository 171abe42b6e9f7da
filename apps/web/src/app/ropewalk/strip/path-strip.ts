import type { ElementRef } from '@angular/core';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, output, signal, viewChild } from '@angular/core';
import type { PathStripData } from '@filaxis/protocol';
import { figure } from '../../shared/figures';
import { ThemeService } from '../../shared/theme.service';
import { leanPlaces } from './lean-line';
import { lastTyped, typingPause } from '../../shared/typing';
import { LOAD_PLOTLY } from '../../shared/plotly';
import { afterPress, metresOf, withKeyAt, type StripEdit } from './ramp-keys';
import { pointText, spokenStrip, stripAsText } from './strip-text';
import { afterWheel, type StripZoom } from './strip-zoom';
import { drawStrip, hoverPlace, type StripPlot, type StripRow } from './strip-plot';
import { MatButtonModule } from '@angular/material/button';

/** How long the drawing stays as it is while a key is held, ms. */
const restWhileHeld = 120;

/**
 * The chosen curve unrolled along its length: its rows over the same metres. The keys of a ramp that gives the radius are dragged right here; the
 * wheel zooms, a double click shows the whole, a click flies to the place.
 */
@Component({
  selector: 'fx-path-strip',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './path-strip.html',
  styleUrl: './path-strip.scss',
})
export class PathStrip {
  private readonly themes = inject(ThemeService);
  private readonly loadPlotly = inject(LOAD_PLOTLY);
  readonly data = input<PathStripData | null>(null);
  readonly rows = input.required<ReadonlySet<StripRow>>();
  /** Point of the curve that is marked, here or in the 3D view. */
  readonly marked = input<number | null>(null);
  readonly hovered = output<number | null>();
  /** A place that was clicked, as a point of the curve. */
  readonly flown = output<number>();
  readonly scrubbed = output<StripEdit>();
  readonly committed = output<StripEdit>();
  protected readonly failed = signal<string | null>(null);
  private readonly plot = viewChild.required<ElementRef<HTMLElement>>('plot');
  private readonly drawn = signal<StripPlot | null>(null);
  protected readonly zoom = signal<StripZoom>(null);
  private frame = 0;
  private turn = 0;
  /** When the strip may be drawn again. */
  private rested = 0;
  /** The key that a hand holds, and the range of the radius meanwhile: the scale stays as it is, or the key would run away from the hand. */
  private readonly held = signal<{ readonly key: number; readonly range: readonly [number, number] } | null>(null);
  private edit: StripEdit | null = null;

  protected readonly line = computed(() => {
    const data = this.data();
    const i = this.marked();
    const drawn = this.drawn();
    if (!data || !drawn || i === null || i >= data.s.length) return null;
    const x = drawn.toPixel(data.s[i]);
    return { x, left: x > this.plot().nativeElement.clientWidth / 2, text: pointText(data, i) };
  });
  /** Keys of the radius ramp, where they stand in the plot. */
  protected readonly keys = computed(() => {
    const data = this.data();
    const row = this.drawn()?.row('radius');
    const ramp = data?.ramp;
    if (!data || !ramp || !row) return [];
    const metres = metresOf(ramp, data.length);
    const [low, high] = row.range;
    return ramp.value.ramp.map(([place, value], i) => ({
      i,
      x: this.drawn()!.toPixel(place * metres),
      y: row.top + row.height * (1 - (value * ramp.factor * 1000 - low) / (high - low)),
      text: `Key ${i + 1} at ${figure(place * metres, 3)} m, radius ${figure(value * ramp.factor * 1000, 3)} mm. Arrow keys move it.`,
      value: value * ramp.factor * 1000,
    }));
  });
  /** The radius while a key is held, ahead of the drawing. */
  protected readonly outline = computed(() => {
    const data = this.data();
    const drawn = this.drawn();
    const row = drawn?.row('radius');
    if (!this.held() || !data?.radius || !drawn || !row) return null;
    const { radius, s } = data;
    const [low, high] = row.range;
    const y = (mm: number): number => row.top + row.height * (1 - (mm - low) / (high - low));
    const [first, last] = this.zoom() ?? [0, data.length];
    const places = leanPlaces(s, radius, first, last, 150);
    const side = (sign: number): string => places.map((i) => `${drawn.toPixel(s[i]).toFixed(1)} ${y(sign * radius[i] * 1000).toFixed(1)}`).join('L');
    return `M${side(1)}M${side(-1)}`;
  });
  protected readonly spoken = computed(() => spokenStrip(this.data()));

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const observer = new ResizeObserver(() => this.redraw());
      observer.observe(this.plot().nativeElement);
      destroy.onDestroy(() => observer.disconnect());
    });
    destroy.onDestroy(() => this.forgetDrawing());
    let before = '';
    effect(() => {
      const data = this.data();
      const which = `${data?.node} ${data?.curve}`;
      // Another curve is shown whole.
      if (which !== before) this.zoom.set(null);
      before = which;
    });
    effect(() => {
      this.data();
      this.rows();
      this.zoom();
      this.themes.theme();
      this.redraw();
    });
  }

  private redraw(): void {
    this.forgetDrawing();
    // After the frame, not in it, and now and then only: while a hand drags, the 3D view comes first, and while letters are typed they do.
    this.frame = requestAnimationFrame(() => {
      const now = performance.now();
      this.turn = window.setTimeout(
        () => (lastTyped() > now ? this.redraw() : void this.draw()),
        Math.max(0, this.rested - now, lastTyped() + typingPause - now),
      );
    });
  }

  private forgetDrawing(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.turn);
  }

  private async draw(): Promise<void> {
    const data = this.data();
    const element = this.plot().nativeElement;
    if (!data || !element.clientWidth || element.clientHeight < 60) return;
    try {
      const plotly = await this.loadPlotly();
      if (this.data() !== data) return;
      const begun = performance.now();
      this.drawn.set(await drawStrip(plotly, element, data, this.rows(), this.zoom(), this.held()?.range ?? null));
      this.rested = performance.now() + (this.held() ? restWhileHeld : 2 * (performance.now() - begun));
    } catch (error) {
      this.failed.set(`The strip cannot be drawn: ${(error as Error).message}`);
    }
  }

  /** Metres under the pointer; null before the strip is drawn. */
  private metresAt(event: MouseEvent): number | null {
    const x = event.clientX - this.plot().nativeElement.getBoundingClientRect().left;
    return this.drawn()?.toMetres(x) ?? null;
  }

  protected hover(event: PointerEvent): void {
    const data = this.data();
    const metres = this.metresAt(event);
    if (data && metres !== null) this.hovered.emit(hoverPlace(data.s, metres));
  }

  /** Flies to the clicked place; beside a place with a warning, to that. */
  protected click(event: MouseEvent): void {
    const data = this.data();
    const metres = this.metresAt(event);
    if (!data || metres === null) return;
    const [first, last] = this.zoom() ?? [0, data.length];
    const near = data.warnings.find(({ at }) => at !== undefined && Math.abs(at - metres) < (last - first) * 0.02);
    this.flown.emit(hoverPlace(data.s, near?.at ?? metres));
  }

  protected wheel(event: WheelEvent): void {
    const data = this.data();
    const metres = this.metresAt(event);
    if (!data || metres === null || !(data.length > 0)) return;
    event.preventDefault();
    this.zoom.set(afterWheel(this.zoom(), data.length, metres, event));
  }

  // ---- keys of the radius ramp

  protected begin(event: PointerEvent, i: number): void {
    event.preventDefault();
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    (event.target as SVGElement).focus();
    const range = this.drawn()?.row('radius')?.range;
    this.held.set(range ? { key: i, range } : null);
  }

  protected drag(event: PointerEvent): void {
    const row = this.drawn()?.row('radius');
    const ramp = this.data()?.ramp;
    const metres = this.metresAt(event);
    const held = this.held();
    if (!held || !row || !ramp || metres === null) return;
    const y = event.clientY - this.plot().nativeElement.getBoundingClientRect().top;
    const [low, high] = row.range;
    const radius = (low + (1 - (y - row.top) / row.height) * (high - low)) / 1000;
    this.scrubbed.emit((this.edit = withKeyAt(ramp, this.data()!.length, held.key, metres, radius)));
  }

  protected end(): void {
    this.held.set(null);
    this.rested = 0;
    this.redraw();
    if (this.edit) this.committed.emit(this.edit);
    this.edit = null;
  }

  protected key(event: KeyboardEvent, i: number): void {
    const data = this.data();
    const edit = data?.ramp && afterPress(data.ramp, data.length, i, event);
    if (!edit) return;
    event.preventDefault();
    event.stopPropagation();
    this.committed.emit(edit);
  }

  /** All rows as text. */
  asText(): string {
    return stripAsText(this.data());
  }
}
