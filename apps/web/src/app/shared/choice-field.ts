import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

/** One of several values, and what it is called. */
export interface Choice<T extends string = string> {
  readonly value: T;
  readonly label: string;
}

/** Choices that are called as they are. */
export const plainChoices = <T extends string>(values: readonly T[]): Choice<T>[] => values.map((value) => ({ value, label: value }));

/** A list to choose one value from. The list is as wide as its longest choice; it is made when the hand comes near, since many lists are never opened. */
@Component({
  selector: 'fx-choice',
  imports: [MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(pointerenter)': 'wanted.set(true)', '(focusin)': 'wanted.set(true)' },
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic" [attr.title]="title()">
      <mat-select
        [id]="id()"
        [aria-label]="label()"
        [value]="value()"
        [panelWidth]="null"
        (openedChange)="wanted.set(true)"
        (selectionChange)="chosen.emit($event.value)"
      >
        @for (each of made(); track each.value) {
          <mat-option [value]="each.value">{{ each.label }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host,
    mat-form-field {
      display: block;
      min-width: 0;
    }
  `,
})
export class ChoiceField<T extends string> {
  readonly choices = input.required<readonly Choice<T>[]>();
  readonly value = input.required<T | null>();
  readonly label = input.required<string>();
  readonly id = input<string>(`fx-choice-${++count}`);
  readonly title = input<string | null>(null);
  readonly chosen = output<T>();
  protected readonly wanted = signal(false);
  protected readonly made = computed(() => (this.wanted() ? this.choices() : this.choices().filter(({ value }) => value === this.value())));
}

let count = 0;
