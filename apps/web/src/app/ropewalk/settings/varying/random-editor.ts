import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { randomPers, type RandomPer, type VaryingRandom } from '@filaxis/core';
import { ChoiceField, plainChoices } from '../../../shared/choice-field';
import { NumberField } from '../../../shared/number-field';
import { liveNames } from './live-names';
import { ValuePlot } from './value-plot';

/** A value drawn between two ends, by a seed, for each point, curve, face or copy. */
@Component({
  selector: 'fx-random',
  imports: [ChoiceField, NumberField, ValuePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <label
        >from
        <fx-number
          label="Lower end"
          [unit]="unit()"
          [value]="value().random[0]"
          [min]="min()"
          [max]="max()"
          [step]="step()"
          (scrubbed)="end(0, $event, false)"
          (committed)="end(0, $event, true)"
      /></label>
      <label
        >to
        <fx-number
          label="Upper end"
          [unit]="unit()"
          [value]="value().random[1]"
          [min]="min()"
          [max]="max()"
          [step]="step()"
          (scrubbed)="end(1, $event, false)"
          (committed)="end(1, $event, true)"
      /></label>
      <label
        >seed
        <fx-number
          label="Seed"
          [whole]="true"
          [step]="0.1"
          [value]="value().seed ?? 0"
          (scrubbed)="change({ seed: $event }, false)"
          (committed)="change({ seed: $event })"
      /></label>
      <label>per <fx-choice label="One draw per" [choices]="pers" [value]="value().per ?? 'point'" (chosen)="change({ per: $event })" /></label>
    </div>
    <fx-value-plot [sketch]="names()?.values ?? null" [unit]="unit()" />
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: repeat(2, 1fr);
      gap: 5px 8px;
      margin-bottom: 6px;
    }
    label {
      display: grid;
      grid-template-columns: 34px 1fr;
      gap: 5px;
      align-items: center;
      color: var(--slate);
      font-size: 12.5px;
    }
  `,
})
export class RandomEditor {
  readonly node = input.required<string>();
  readonly setting = input.required<string>();
  readonly unit = input('');
  readonly step = input(0.01);
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly value = input.required<VaryingRandom>();
  readonly scrubbed = output<VaryingRandom>();
  readonly committed = output<VaryingRandom>();

  protected readonly pers = plainChoices<RandomPer>(randomPers);
  protected readonly names = liveNames(this.node, this.setting);

  protected change(change: Partial<VaryingRandom>, keep = true): void {
    (keep ? this.committed : this.scrubbed).emit({ ...this.value(), ...change });
  }

  protected end(which: 0 | 1, value: number, keep: boolean): void {
    const [low, high] = this.value().random;
    this.change({ random: which ? [low, value] : [value, high] }, keep);
  }
}
