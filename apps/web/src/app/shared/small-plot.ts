import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import { LOAD_PLOTLY } from './plotly';
import { ThemeService } from './theme.service';
import { afterTyping } from './typing';

/** What is plotted, in inks of the theme by their names: `indigo`, `madder`, `hemp` … */
export interface SmallPlotData {
  readonly traces: readonly object[];
  /** Further axes, or what theirs have besides. */
  readonly layout?: Readonly<Record<string, object>>;
}

/** A plot of a few lines without figures on its axes: it shows a shape, and the text below it says the numbers. */
@Component({
  selector: 'fx-small-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: ':host { display: block; }',
  host: { role: 'img', '[attr.aria-label]': 'label()', '[style.height.px]': 'height()' },
})
export class SmallPlot {
  readonly data = input.required<(ink: (name: string) => string) => SmallPlotData>();
  readonly label = input.required<string>();
  readonly height = input(48);

  private readonly themes = inject(ThemeService);
  private readonly loadPlotly = inject(LOAD_PLOTLY);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  constructor() {
    effect(() => {
      this.themes.theme();
      void this.draw(this.data(), this.height());
    });
  }

  private async draw(data: (ink: (name: string) => string) => SmallPlotData, height: number): Promise<void> {
    const plotly = await this.loadPlotly();
    await afterTyping();
    // Of two that were asked for one after another the newer is drawn.
    if (this.data() !== data || !this.element.isConnected) return;
    const style = getComputedStyle(this.element);
    const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
    const { traces, layout } = data(ink);
    const shape = {
      width: this.element.clientWidth,
      height,
      margin: { l: 0, r: 0, t: 2, b: 2 },
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
    };
    await plotly.react(this.element, traces, { ...shape, showlegend: false, ...bareAxes(layout, ink('seam')) }, { displayModeBar: false, staticPlot: true });
  }
}

/** Axes without figures: those across have a line, those up have none. */
function bareAxes(given: Readonly<Record<string, object>> = {}, seam: string): Record<string, object> {
  const bare = { showgrid: false, zeroline: false, showticklabels: false, linecolor: seam };
  const names = [...new Set(['xaxis', 'yaxis', ...Object.keys(given)])];
  return Object.fromEntries(names.map((name) => [name, name.startsWith('xaxis') || name.startsWith('yaxis') ? { ...bare, showline: name.startsWith('x'), ...given[name] } : given[name]])); // prettier-ignore
}
