import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { ValuesSketch } from '@filaxis/protocol';
import { figure, grouped } from '../../../shared/figures';

const width = 150;
const height = 40;

/** The values that a setting has: in order as a line, and how they are spread as bars. */
@Component({
  selector: 'fx-value-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sketch(); as s) {
      <div class="plots">
        <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="spoken()">
          <polyline [attr.points]="line()" />
        </svg>
        <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" aria-hidden="true">
          @for (bar of bars(); track $index) {
            <rect [attr.x]="bar.x" [attr.y]="bar.y" [attr.width]="bar.width" [attr.height]="bar.height" />
          }
        </svg>
      </div>
      <p class="slate mono">{{ text() }}</p>
    }
  `,
  styles: `
    .plots {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    svg {
      display: block;
      width: 100%;
      border-bottom: 1px solid var(--seam);
    }
    polyline {
      fill: none;
      stroke: var(--indigo);
      stroke-width: 1.6;
    }
    rect {
      fill: var(--hemp);
    }
    p {
      margin: 3px 0 0;
      font-size: 11.5px;
    }
  `,
})
export class ValuePlot {
  readonly sketch = input<ValuesSketch | null>(null);
  readonly unit = input('');

  protected readonly width = width;
  protected readonly height = height;
  protected readonly text = computed(() => {
    const s = this.sketch();
    return s
      ? `${figure(s.low, 4)} … ${figure(s.high, 4)} ${this.unit()} · mean ${figure(s.mean, 4)} · ${grouped(s.count)} ${s.count === 1 ? 'value' : 'values'}`
      : '';
  });
  protected readonly spoken = computed(() => `Values now: ${this.text()}`);
  protected readonly line = computed(() => {
    const s = this.sketch();
    if (!s) return '';
    const last = Math.max(1, s.line.length - 1);
    const y = (value: number): number => (s.high > s.low ? height - 4 - ((value - s.low) / (s.high - s.low)) * (height - 8) : height / 2);
    return (s.line.length > 1 ? s.line : [s.line[0], s.line[0]]).map((value, i) => `${(i / last) * width},${y(value)}`).join(' ');
  });
  protected readonly bars = computed(() => {
    const bins = this.sketch()?.bins ?? [];
    const most = Math.max(1, ...bins);
    const step = width / Math.max(1, bins.length);
    return bins.map((count, i) => ({ x: i * step + 0.5, y: height - (count / most) * (height - 3), width: step - 1, height: (count / most) * (height - 3) }));
  });
}
