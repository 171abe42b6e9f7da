import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { TextField } from './text-field';

/** A colour, by the browser's own picker (Material has none) or typed as #rrggbb. */
@Component({
  selector: 'fx-colour',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #picker
      type="color"
      [id]="id()"
      [attr.aria-label]="label()"
      [value]="value()"
      (input)="scrubbed.emit(picker.value)"
      (change)="committed.emit(picker.value)"
    />
    <fx-text [label]="label() + ' as text'" [value]="value()" (committed)="committed.emit($event)" />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 34px minmax(0, 1fr);
      gap: 6px;
    }
    input {
      width: 34px;
      height: 28px;
      padding: 1px;
      border: 1px solid var(--seam);
      border-radius: 6px;
      background: var(--paper);
    }
  `,
})
export class ColourField {
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  readonly id = input<string>(`fx-colour-${++made}`);
  readonly scrubbed = output<string>();
  readonly committed = output<string>();
}

let made = 0;
