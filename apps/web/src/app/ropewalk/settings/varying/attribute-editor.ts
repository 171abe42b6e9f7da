import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { VaryingAttribute } from '@filaxis/core';
import { figure } from '../../../shared/figures';
import { ChoiceField, type Choice } from '../../../shared/choice-field';
import { NumberField } from '../../../shared/number-field';
import { liveNames } from './live-names';
import { ValuePlot } from './value-plot';

/** A value read from an attribute, times a scale, plus an offset. The list shows what there is, with its range. */
@Component({
  selector: 'fx-attribute',
  imports: [ChoiceField, NumberField, ValuePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <fx-choice [label]="label() + ', attribute'" [choices]="choices()" [value]="value().attribute" (chosen)="change({ attribute: $event })" />
      <label
        >×
        <fx-number
          label="Scale"
          [value]="value().scale ?? 1"
          [step]="0.01"
          (scrubbed)="change({ scale: $event }, false)"
          (committed)="change({ scale: $event })"
      /></label>
      <label
        >+
        <fx-number
          label="Offset"
          [unit]="unit()"
          [value]="value().offset ?? 0"
          [step]="step()"
          (scrubbed)="change({ offset: $event }, false)"
          (committed)="change({ offset: $event })"
      /></label>
    </div>
    <fx-value-plot [sketch]="names()?.values ?? null" [unit]="unit()" />
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: 1.4fr 1fr 1fr;
      gap: 8px;
      margin-bottom: 6px;
    }
    label {
      display: flex;
      gap: 5px;
      align-items: center;
      color: var(--slate);
    }
    fx-number {
      flex: 1;
    }
  `,
})
export class AttributeEditor {
  readonly node = input.required<string>();
  readonly setting = input.required<string>();
  readonly label = input.required<string>();
  readonly unit = input('');
  readonly step = input(0.01);
  /** The setting is a vector, so attributes of three numbers serve too. */
  readonly vector = input(false);
  readonly value = input.required<VaryingAttribute>();
  readonly scrubbed = output<VaryingAttribute>();
  readonly committed = output<VaryingAttribute>();

  protected readonly names = liveNames(this.node, this.setting);
  protected readonly choices = computed((): readonly Choice[] => {
    const known = (this.names()?.names ?? []).filter(({ kind }) => kind !== 'dial');
    const order = [...known.filter(({ kind }) => kind === 'attribute'), ...known.filter(({ kind }) => kind === 'element')];
    const own = this.value().attribute;
    const vectors = this.vector() ? (this.names()?.vectors ?? []).map((name) => ({ value: name, label: `${name}  x y z` })) : [];
    const numbers = order.map(({ name, range }) => ({ value: name, label: range ? `${name}  ${figure(range[0], 3)} … ${figure(range[1], 3)}` : name }));
    const list = [...vectors, ...numbers];
    return list.some(({ value }) => value === own) ? list : [{ value: own, label: `${own}  (not there)` }, ...list];
  });

  protected change(change: Partial<VaryingAttribute>, keep = true): void {
    (keep ? this.committed : this.scrubbed).emit({ ...this.value(), ...change });
  }
}
