import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Dial, DialValue } from '@filaxis/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { MatSliderModule } from '@angular/material/slider';
import { ChoiceField, plainChoices } from '../../shared/choice-field';
import { ColourField } from '../../shared/colour-field';
import { NumberField } from '../../shared/number-field';
import { TextField } from '../../shared/text-field';

export const isNumberDial = ({ kind }: Dial): boolean => kind === 'number' || kind === 'integer' || kind === 'seed';

/** How far a dial goes in one step. */
export const dialStep = (dial: Dial): number => dial.step ?? (dial.kind === 'number' || dial.kind === 'vector' ? 0.01 : 1);

/** The control of one dial, as its kind needs: a slider with a number, a tick, a list, a swatch, a text. */
@Component({
  selector: 'fx-dial',
  imports: [ChoiceField, ColourField, MatButtonModule, MatSlideToggleModule, MatSliderModule, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dial-control.html',
  styleUrl: './dial-control.scss',
})
export class DialControl {
  readonly dial = input.required<Dial>();
  /** What its values are called where it is followed; null: as they are. */
  readonly called = input<Readonly<Record<string, string>> | null>(null);
  readonly dragged = output<DialValue>();
  readonly committed = output<DialValue>();

  protected readonly isNumber = computed(() => isNumberDial(this.dial()));
  protected readonly step = computed(() => dialStep(this.dial()));
  protected readonly vector = computed(() => (this.dial().kind === 'vector' ? (this.dial().value as readonly number[]) : null));
  protected readonly number = computed(() => Number(this.dial().value));
  protected readonly text = computed(() => String(this.dial().value));
  protected readonly choices = computed(() =>
    plainChoices(this.dial().choices ?? []).map(({ value, label }) => ({ value, label: this.called()?.[value] ?? label })),
  );

  protected withPart(vector: readonly number[], which: number, value: number): DialValue {
    return vector.map((old, k) => (k === which ? value : old));
  }

  /** Numbers that were pasted, from one of its parts on. */
  protected withParts(vector: readonly number[], from: number, values: readonly number[]): DialValue {
    return vector.map((old, k) => values[k - from] ?? old);
  }

  /** Another draw. */
  protected anotherSeed(): void {
    const { min = 0, max = 9999, value } = this.dial();
    const next = min + ((Number(value) - min + 7919) % (max - min + 1));
    this.committed.emit(next);
  }
}
