import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import { curvesFromLists, FormulaError, resolveVarying } from '@filaxis/core';
import { TextField } from '../shared/text-field';
import { figure } from '../shared/figures';

const [width, height] = [260, 56];
const perCurve = 80;

/** Two curves that every example runs over: a wave of 2 m and a rising line. */
const curves = curvesFromLists([
  Array.from({ length: perCurve }, (_, i) => [(2 * i) / (perCurve - 1), 0.3 * Math.sin((i / (perCurve - 1)) * 6), 0]),
  Array.from({ length: perCurve }, (_, i) => [(2 * i) / (perCurve - 1), i / (perCurve - 1), 1]),
]);

/** A formula that can be changed, with its values along two curves. */
@Component({
  selector: 'fx-live-example',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fx-text [label]="label() + ', formula'" [value]="text()" (typed)="text.set($event)" />
    @if (result().fault; as fault) {
      <p class="fault" role="alert">{{ fault }}</p>
    } @else {
      <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="'Values from ' + result().range">
        @for (line of result().lines; track $index) {
          <polyline [class.second]="$index === 1" [attr.points]="line" />
        }
      </svg>
      <p class="slate mono">{{ result().range }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 260px;
      margin-top: 4px;
      border-bottom: 1px solid var(--seam);
    }
    polyline {
      fill: none;
      stroke: var(--indigo);
      stroke-width: 1.7;
    }
    polyline.second {
      stroke: var(--madder);
      stroke-dasharray: 5 3;
    }
    p {
      margin: 3px 0 0;
      font-size: 12px;
    }
    .fault {
      color: var(--madder);
      font-size: 13px;
    }
  `,
})
export class LiveExample {
  readonly label = input.required<string>();
  readonly formula = input.required<string>();
  protected readonly text = linkedSignal(() => this.formula());
  protected readonly width = width;
  protected readonly height = height;

  protected readonly result = computed(() => {
    try {
      const { values, constant } = resolveVarying({ formula: this.text() }, curves, 'point');
      const all = values ?? new Float64Array(perCurve * 2).fill(constant);
      const [low, high] = [Math.min(...all), Math.max(...all)];
      const y = (value: number): number => (high > low ? height - 5 - ((value - low) / (high - low)) * (height - 10) : height / 2);
      const line = (from: number): string =>
        Array.from(all.subarray(from, from + perCurve), (value, i) => `${(i / (perCurve - 1)) * width},${y(value)}`).join(' ');
      return { fault: null, range: `${figure(low, 4)} … ${figure(high, 4)}`, lines: [line(0), line(perCurve)] };
    } catch (error) {
      if (error instanceof FormulaError || error instanceof RangeError) return { fault: error.message, range: '', lines: [] };
      throw error;
    }
  });
}
