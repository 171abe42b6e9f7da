import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { EvaluationService } from '../evaluation.service';
import { colourMaps, gradientOf, type ColourMap } from './colour-map';
import type { StageOptions } from './stage-options';

/** What the colours mean, and which they are. */
@Component({
  selector: 'fx-legend',
  imports: [ChoiceField, MatButtonModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let key = legend();
    <div class="legend" role="group" aria-label="What the colours mean">
      <fx-choice label="Shown as colour" [choices]="choices()" [value]="key.name" (chosen)="named.emit($event)" />
      @if (key.found) {
        <div class="bar" [style.background]="key.gradient"></div>
        <div class="ends">
          <fx-number label="Value of the first colour" [value]="key.low" (scrubbed)="end(0, $event)" (committed)="end(0, $event)" />
          <fx-number label="Value of the last colour" [value]="key.high" (scrubbed)="end(1, $event)" (committed)="end(1, $event)" />
        </div>
      } @else {
        <p class="slate">Nothing shown has “{{ key.name }}”.</p>
      }
      <div class="ends">
        <fx-choice label="Colours" [choices]="maps" [value]="options().map" (chosen)="changed.emit({ map: $event })" />
        <button type="button" matButton="outlined" [disabled]="!key.own" (click)="changed.emit({ range: null })">Whole range</button>
      </div>
    </div>
  `,
  styles: `
    .legend {
      position: absolute;
      left: 12px;
      bottom: 52px;
      display: grid;
      gap: 5px;
      width: 252px;
      padding: 8px;
      border: 1px solid var(--seam);
      border-radius: 8px;
      background: color-mix(in srgb, var(--card) 92%, transparent);
    }
    .bar {
      height: 12px;
      border-radius: 3px;
    }
    .ends {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px;
    }
    p {
      margin: 0;
      font-size: 12.5px;
    }
  `,
})
export class Legend {
  private readonly evaluation = inject(EvaluationService);
  readonly options = input.required<StageOptions>();
  readonly changed = output<Partial<StageOptions>>();
  /** Another name is to be shown. */
  readonly named = output<string>();

  protected readonly maps = Object.entries(colourMaps).map(([value, { label }]): Choice<ColourMap> => ({ value: value as ColourMap, label }));
  protected readonly choices = computed(() => plainChoices([...new Set([...this.evaluation.colourNames(), this.options().colour])].filter((name) => name)));
  protected readonly legend = computed(() => {
    const { colour, map, range } = this.options();
    const shown = this.evaluation.colour();
    const found = shown?.name === colour ? shown : null;
    const [low, high] = range ?? [found?.low ?? 0, found?.high ?? 0];
    const digits = (value: number): number => Number(value.toPrecision(4));
    return { name: colour, low: digits(low), high: digits(high), found, gradient: gradientOf(map), own: range !== null };
  });

  protected end(which: 0 | 1, value: number): void {
    const { low, high } = this.legend();
    this.changed.emit({ range: which ? [low, value] : [value, high] });
  }
}
