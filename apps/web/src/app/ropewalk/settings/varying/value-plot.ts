import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { ValuesSketch } from '@filaxis/protocol';
import { figure, grouped } from '../../../shared/figures';
import { SmallPlot, type SmallPlotData } from '../../../shared/small-plot';

/** The values that a setting has: in order as a line, and how they are spread as bars. */
@Component({
  selector: 'fx-value-plot',
  imports: [SmallPlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sketch()) {
      <fx-small-plot [data]="plot()" [label]="'Values now: ' + text()" />
      <p class="slate mono">{{ text() }}</p>
    }
  `,
  styles: `
    p {
      margin: 3px 0 0;
      font-size: 11.5px;
    }
  `,
})
export class ValuePlot {
  readonly sketch = input<ValuesSketch | null>(null);
  readonly unit = input('');

  protected readonly text = computed(() => {
    const s = this.sketch();
    return s
      ? `${figure(s.low, 4)} … ${figure(s.high, 4)} ${this.unit()} · mean ${figure(s.mean, 4)} · ${grouped(s.count)} ${s.count === 1 ? 'value' : 'values'}`
      : '';
  });
  protected readonly plot = computed(() => {
    const sketch = this.sketch()!;
    return (ink: (name: string) => string): SmallPlotData => sketchPlot(sketch, ink);
  });
}

/** A sketch as it is plotted: the values in order, and beside them how many there are of each size. */
export function sketchPlot({ line, bins, low, high }: ValuesSketch, ink: (name: string) => string): SmallPlotData {
  const width = (high - low) / Math.max(1, bins.length);
  const values = line.length > 1 ? line : [line[0], line[0]];
  const sizes = Array.from(bins, (_, i) => low + (i + 0.5) * width);
  return {
    traces: [
      { type: 'scatter', mode: 'lines', y: Array.from(values), line: { color: ink('indigo'), width: 1.6 } },
      { type: 'bar', x: sizes, y: Array.from(bins), marker: { color: ink('hemp') }, xaxis: 'x2', yaxis: 'y2' },
    ],
    layout: { xaxis: { domain: [0, 0.485] }, xaxis2: { domain: [0.515, 1], anchor: 'y2' }, yaxis2: { anchor: 'x2', rangemode: 'tozero' } },
  };
}
