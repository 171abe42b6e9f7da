import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import { curvesFromLists, FormulaError, resolveVarying } from '@filaxis/core';
import { TextField } from '../shared/text-field';
import { figure } from '../shared/figures';
import { SmallPlot, type SmallPlotData } from '../shared/small-plot';

const perCurve = 80;

/** Two curves that every example runs over: a wave of 2 m and a rising line. */
const curves = curvesFromLists([
  Array.from({ length: perCurve }, (_, i) => [(2 * i) / (perCurve - 1), 0.3 * Math.sin((i / (perCurve - 1)) * 6), 0]),
  Array.from({ length: perCurve }, (_, i) => [(2 * i) / (perCurve - 1), i / (perCurve - 1), 1]),
]);

/** A formula that can be changed, with its values along two curves. */
@Component({
  selector: 'fx-live-example',
  imports: [SmallPlot, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fx-text [label]="label() + ', formula'" [value]="text()" (typed)="text.set($event)" />
    @if (result().fault; as fault) {
      <p class="fault" role="alert">{{ fault }}</p>
    } @else {
      <fx-small-plot [data]="plot()" [label]="'Values from ' + result().range" [height]="56" />
      <p class="slate mono">{{ result().range }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    fx-small-plot {
      width: 260px;
      margin-top: 4px;
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

  protected readonly result = computed(() => {
    try {
      const { values, constant } = resolveVarying({ formula: this.text() }, curves, 'point');
      const all = Array.from(values ?? new Float64Array(perCurve * 2).fill(constant));
      return { fault: null, range: `${figure(Math.min(...all), 4)} … ${figure(Math.max(...all), 4)}`, lines: [all.slice(0, perCurve), all.slice(perCurve)] };
    } catch (error) {
      if (error instanceof FormulaError || error instanceof RangeError) return { fault: error.message, range: '', lines: [] };
      throw error;
    }
  });
  /** The first curve drawn through, the second dashed. */
  protected readonly plot = computed(() => {
    const { lines } = this.result();
    const styles = [{ name: 'indigo', dash: 'solid' }, { name: 'madder', dash: 'dash' }]; // prettier-ignore
    return (ink: (name: string) => string): SmallPlotData => ({
      traces: lines.map((y, i) => ({ type: 'scatter', mode: 'lines', y, line: { color: ink(styles[i].name), dash: styles[i].dash, width: 1.7 } })),
    });
  });
}
