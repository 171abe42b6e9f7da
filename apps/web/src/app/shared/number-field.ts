import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, signal, viewChild } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { arithmetic } from './arithmetic';
import { figure } from './figures';

/**
 * A number with its unit. Drag sideways to scrub (Shift: ten times finer), type arithmetic and units, use the arrow keys to step (Shift: ten times, Alt: a tenth). Enter keeps
 * what was typed and leaves the field.
 * `scrubbed` tells values while dragging, `committed` the one to keep; a drag is one change.
 */
@Component({
  selector: 'fx-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormFieldModule, MatInputModule],
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      @if (axis()) {
        <span matTextPrefix class="axis" aria-hidden="true">{{ axis() }}</span>
      }
      <input
        #box
        matInput
        type="text"
        inputmode="decimal"
        spellcheck="false"
        autocomplete="off"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="wrong()"
        [attr.title]="wrong() ? 'Not a number: type a number, arithmetic or a unit, such as 2*15mm' : null"
        [value]="text()"
        [class.scrubbing]="scrubbing()"
        (pointerdown)="begin($event)"
        (pointermove)="drag($event)"
        (pointerup)="end($event)"
        (pointercancel)="end($event)"
        (keydown)="key($event)"
        (input)="wrong.set(false)"
        (change)="type()"
        (paste)="paste($event)"
      />
      @if (unit()) {
        <span matTextSuffix class="unit">{{ unit() }}</span>
      }
    </mat-form-field>
  `,
  styles: `
    :host,
    mat-form-field {
      display: block;
      min-width: 0;
    }
    input {
      cursor: ew-resize;
    }
    input:focus {
      cursor: text;
    }
    input[aria-invalid='true'] {
      color: var(--madder);
      text-decoration: underline wavy var(--madder);
    }
    .axis {
      padding-right: 4px;
      color: var(--slate);
      font: italic 12.5px var(--sans);
    }
    .unit {
      padding-left: 4px;
      color: var(--slate);
      font: 12px var(--mono);
    }
  `,
})
export class NumberField {
  readonly value = input.required<number>();
  readonly label = input.required<string>();
  /** What it is one of, written in front: x, y or z. */
  readonly axis = input('');
  readonly unit = input('');
  readonly step = input(0.01);
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly whole = input(false);
  readonly scrubbed = output<number>();
  readonly committed = output<number>();
  /** Several numbers were pasted or typed, as `1.2, 0.4, 3`: they are for this field and those after it. */
  readonly pasted = output<readonly number[]>();

  protected readonly scrubbing = signal(false);
  protected readonly wrong = signal(false);
  protected readonly text = computed(() => figure(this.value(), 7));
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  private from = { x: 0, value: 0, last: 0, moved: false };

  protected begin(event: PointerEvent): void {
    if (event.button !== 0 || document.activeElement === this.box().nativeElement) return;
    event.preventDefault();
    this.box().nativeElement.setPointerCapture(event.pointerId);
    this.from = { x: event.clientX, value: this.value(), last: this.value(), moved: false };
    this.scrubbing.set(true);
  }

  protected drag(event: PointerEvent): void {
    if (!this.scrubbing()) return;
    const pixels = event.clientX - this.from.x;
    if (!this.from.moved && Math.abs(pixels) < 3) return;
    this.from.moved = true;
    const value = this.allowed(this.from.value + pixels * this.step() * (event.shiftKey ? 0.1 : 1));
    if (value === this.from.last) return;
    this.from.last = value;
    this.scrubbed.emit(value);
  }

  protected end(event: PointerEvent): void {
    if (!this.scrubbing()) return;
    this.scrubbing.set(false);
    this.box().nativeElement.releasePointerCapture(event.pointerId);
    if (this.from.moved) this.committed.emit(this.from.last);
    else {
      this.box().nativeElement.focus();
      this.box().nativeElement.select();
    }
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'Escape') {
      this.box().nativeElement.value = this.text();
      this.wrong.set(false);
      this.box().nativeElement.blur();
    } else if (event.key === 'Enter') {
      // Leaving it tells of the change, and letters are commands again. Tab goes on from here all the same.
      const box = this.box().nativeElement;
      if (arithmetic(box.value) !== null || (this.axis() && numbersIn(box.value))) box.blur();
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const size = (this.whole() ? 1 : this.step()) * (event.shiftKey ? 10 : event.altKey && !this.whole() ? 0.1 : 1);
      this.committed.emit(this.allowed(this.value() + (event.key === 'ArrowUp' ? size : -size)));
    }
  }

  protected paste(event: ClipboardEvent): void {
    const numbers = numbersIn(event.clipboardData?.getData('text/plain') ?? '');
    if (!numbers) return;
    event.preventDefault();
    this.pasted.emit(numbers);
  }

  protected type(): void {
    const box = this.box().nativeElement;
    if (box.value === this.text()) return;
    const value = arithmetic(box.value);
    // One of several takes the numbers of those after it, too.
    const several = value === null && this.axis() ? numbersIn(box.value) : null;
    if (several) {
      box.value = this.text();
      return this.pasted.emit(several);
    }
    this.wrong.set(value === null);
    // Values out of range are passed on: the node says what it accepts, and nothing is changed in secret.
    if (value !== null && value !== this.value()) this.committed.emit(value);
    else if (value !== null) box.value = this.text();
  }

  /** Scrubbing and stepping stay in range, on whole numbers where asked, and on round values. */
  private allowed(value: number): number {
    const rounded = this.whole() ? Math.round(value) : Number(value.toPrecision(6));
    return Math.min(this.max(), Math.max(this.min(), rounded));
  }
}

/** Several numbers in a text, apart by commas, semicolons or blanks, each with its unit or as arithmetic without blanks; null: not that. */
function numbersIn(text: string): number[] | null {
  const parts = text.trim().replace(/^[[(]|[\])]$/g, '').split(/\s*[,;\t]\s*|\s+/); // prettier-ignore
  const numbers = parts.map((part) => arithmetic(part));
  return parts.length > 1 && numbers.every((each) => each !== null) ? numbers : null;
}
