import type { ElementRef } from '@angular/core';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, output, signal, viewChild } from '@angular/core';
import type { PathStripData } from '@filaxis/protocol';
import { figure } from '../../shared/figures';
import { ThemeService } from '../../shared/theme.service';
import { drawStrip, hoverPlace, loadPlotly, type StripPlot } from './strip-plot';

/** The chosen curve unrolled along its length: radius, roll and curvature over the same metres. */
@Component({
  selector: 'fx-path-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="plot" #plot [class.hidden]="!data()" role="img" [attr.aria-label]="spoken()"></div>
    @if (data()) {
      @if (line(); as l) {
        <div class="line" [style.left.px]="l.x" aria-hidden="true"></div>
        <div class="reading mono" [class.left]="l.left" [style.left.px]="l.x" aria-hidden="true">{{ l.text }}</div>
      }
    } @else {
      <p class="empty slate">There is no path to unroll yet. Choose a node that gives curves, or a surface made from some.</p>
    }
    @if (failed(); as text) {
      <p class="empty">{{ text }}</p>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 100%;
      min-height: 120px;
      overflow: hidden;
    }
    .plot {
      position: absolute;
      inset: 0;
    }
    .hidden {
      visibility: hidden;
    }
    .line {
      position: absolute;
      top: 4px;
      bottom: 22px;
      width: 0;
      border-left: 1.5px solid var(--weld);
      pointer-events: none;
    }
    .reading {
      position: absolute;
      top: 2px;
      margin-left: 6px;
      padding: 1px 6px;
      border-radius: 4px;
      background: var(--card);
      color: var(--indigo);
      font-size: 11.5px;
      white-space: nowrap;
      pointer-events: none;
    }
    .reading.left {
      margin-left: -6px;
      transform: translateX(-100%);
    }
    .empty {
      position: absolute;
      inset: 0;
      padding: 16px;
    }
  `,
})
export class PathStrip {
  private readonly themes = inject(ThemeService);
  readonly data = input<PathStripData | null>(null);
  /** Point of the curve that is marked, here or in the 3D view. */
  readonly marked = input<number | null>(null);
  readonly hovered = output<number | null>();
  protected readonly failed = signal<string | null>(null);
  private readonly plot = viewChild.required<ElementRef<HTMLElement>>('plot');
  private readonly drawn = signal<StripPlot | null>(null);
  private frame = 0;

  protected readonly line = computed(() => {
    const data = this.data();
    const i = this.marked();
    const drawn = this.drawn();
    if (!data || !drawn || i === null || i >= data.s.length) return null;
    const text = [
      `${figure(data.s[i], 4)} m`,
      data.radius && `radius ${figure(data.radius[i] * 1000, 4)} mm`,
      `roll ${figure(data.roll[i], 3)}°`,
      `bend ${figure(data.curvature[i], 3)} /m`,
    ];
    const x = drawn.toPixel(data.s[i]);
    return { x, left: x > this.plot().nativeElement.clientWidth / 2, text: text.filter(Boolean).join(' · ') };
  });
  protected readonly spoken = computed(() => {
    const data = this.data();
    if (!data) return 'Path strip, empty';
    const [most, least] = [Math.max(...data.curvature), data.radius ? Math.max(...data.radius) : 0];
    return `Path strip of curve ${data.curve + 1} of ${data.curves}, ${figure(data.length)} metres long, greatest curvature ${figure(most, 3)} per metre${data.radius ? `, greatest radius ${figure(least * 1000, 3)} millimetres` : ''}, ${data.warnings.length} places to look at`;
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const observer = new ResizeObserver(() => this.redraw());
      observer.observe(this.plot().nativeElement);
      destroy.onDestroy(() => observer.disconnect());
      this.plot().nativeElement.addEventListener('pointermove', (event) => this.hover(event));
      this.plot().nativeElement.addEventListener('pointerleave', () => this.hovered.emit(null));
    });
    effect(() => {
      this.data();
      this.themes.theme();
      this.redraw();
    });
  }

  private redraw(): void {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => void this.draw());
  }

  private async draw(): Promise<void> {
    const data = this.data();
    const element = this.plot().nativeElement;
    if (!data || !element.clientWidth || element.clientHeight < 60) return;
    try {
      const plotly = await loadPlotly();
      if (this.data() === data) this.drawn.set(await drawStrip(plotly, element, data));
    } catch (error) {
      this.failed.set(`The strip cannot be drawn: ${(error as Error).message}`);
    }
  }

  private hover(event: PointerEvent): void {
    const data = this.data();
    const drawn = this.drawn();
    if (!data || !drawn) return;
    const x = event.clientX - this.plot().nativeElement.getBoundingClientRect().left;
    this.hovered.emit(hoverPlace(data.s, drawn.toMetres(x)));
  }
}
