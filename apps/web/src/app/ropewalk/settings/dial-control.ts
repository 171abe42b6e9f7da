import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Dial, DialValue } from '@filaxis/core';
import { NumberField } from '../../shared/number-field';

export const isNumberDial = ({ kind }: Dial): boolean => kind === 'number' || kind === 'integer' || kind === 'seed';

/** How far a dial goes in one step. */
export const dialStep = (dial: Dial): number => dial.step ?? (dial.kind === 'number' || dial.kind === 'vector' ? 0.01 : 1);

/** The control of one dial, as its kind needs: a slider with a number, a tick, a list, a swatch, a text. */
@Component({
  selector: 'fx-dial',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dial-control.html',
  styleUrl: './dial-control.scss',
})
export class DialControl {
  readonly dial = input.required<Dial>();
  readonly dragged = output<DialValue>();
  readonly committed = output<DialValue>();

  protected readonly isNumber = computed(() => isNumberDial(this.dial()));
  protected readonly step = computed(() => dialStep(this.dial()));
  protected readonly vector = computed(() => (this.dial().kind === 'vector' ? (this.dial().value as readonly number[]) : null));
  /** How far the slider's filled part goes, in per cent. */
  protected readonly filled = computed(() => {
    const { min = 0, max = 1, value } = this.dial();
    return max > min ? Math.min(100, Math.max(0, ((Number(value) - min) / (max - min)) * 100)) : 0;
  });

  protected withPart(vector: readonly number[], which: number, value: number): DialValue {
    return vector.map((old, k) => (k === which ? value : old));
  }

  /** Another draw. */
  protected anotherSeed(): void {
    const { min = 0, max = 9999, value } = this.dial();
    const next = min + ((Number(value) - min + 7919) % (max - min + 1));
    this.committed.emit(next);
  }
}
