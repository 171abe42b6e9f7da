import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { looks, type Look } from './looks';
import type { StageOptions } from './stage-options';

const extraNames = [
  { value: 'wire', label: 'Wire' },
  { value: 'curves', label: 'Curves' },
  { value: 'frames', label: 'Frames' },
  { value: 'handles', label: 'Handles' },
] as const satisfies readonly Choice<'wire' | 'curves' | 'frames' | 'handles'>[];

/** What the 3D view shows, in one row. */
@Component({
  selector: 'fx-view-bar',
  imports: [ChoiceField, MatButtonToggleModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view-bar.html',
  styleUrl: './view-bar.scss',
})
export class ViewBar {
  readonly options = input.required<StageOptions>();
  /** Surfaces are to be looked at in another way. */
  readonly looked = output<Look>();
  readonly changed = output<Partial<StageOptions>>();

  protected readonly looks = looks;
  protected readonly lookChoices = (Object.keys(looks) as Look[]).map((value): Choice<Look> => ({ value, label: looks[value].label }));
  protected readonly extraNames = extraNames;
  /** What is shown besides surfaces. */
  protected readonly extras = computed(() => extraNames.map(({ value }) => value).filter((name) => this.options()[name]));

  protected showExtras(names: readonly string[]): void {
    this.changed.emit(Object.fromEntries(extraNames.map(({ value }) => [value, names.includes(value)])));
  }
}
