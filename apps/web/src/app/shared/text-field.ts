import type { ElementRef } from '@angular/core';
import { booleanAttribute, ChangeDetectionStrategy, Component, input, output, viewChild } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** A line of text: told while it is typed, kept when it is left or Enter is pressed, taken back by Escape. */
@Component({
  selector: 'fx-text',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <input
        #box
        matInput
        type="text"
        autocomplete="off"
        spellcheck="false"
        [id]="id()"
        [attr.aria-label]="label()"
        [attr.maxlength]="most()"
        [placeholder]="hint()"
        [readonly]="fixed()"
        [value]="value()"
        (focus)="fixed() && box.select()"
        (input)="typed.emit(box.value)"
        (change)="committed.emit(box.value)"
        (keydown.enter)="box.blur()"
        (keydown.escape)="back($event)"
      />
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
export class TextField {
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  /** What is there while nothing is typed. */
  readonly hint = input('');
  /** Most letters. */
  readonly most = input<number | null>(null);
  /** The text can be copied, not changed. */
  readonly fixed = input(false, { transform: booleanAttribute });
  readonly id = input<string>(`fx-text-${++made}`);
  readonly typed = output<string>();
  readonly committed = output<string>();
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  protected back(event: Event): void {
    const box = this.box().nativeElement;
    if (box.value === this.value()) return;
    event.stopPropagation();
    box.value = this.value();
    this.typed.emit(box.value);
    box.blur();
  }
}

let made = 0;
