import type { AfterViewInit, ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, input, output, signal, viewChild } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** Something that can be found by typing. */
export interface Found {
  readonly name: string;
  /** At the right end: a family, a shortcut. */
  readonly mark: string;
  /** In small letters beneath. */
  readonly detail: string;
}

/** Most that are listed: who looks for more types another letter. */
const mostListed = 100;

/** A search with its list: type, choose with the arrow keys, Enter. It has the keyboard from the moment when it is there. */
@Component({
  selector: 'fx-finder',
  imports: [MatAutocompleteModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <input
        #box
        matInput
        type="text"
        autocomplete="off"
        spellcheck="false"
        [attr.aria-label]="label()"
        [placeholder]="hint()"
        [matAutocomplete]="list"
        (input)="look(box.value)"
        (keydown)="key($event)"
        (blur)="closed.emit()"
      />
    </mat-form-field>
    <mat-autocomplete
      #list
      autoActiveFirstOption
      hideSingleSelectionIndicator
      class="fx-found"
      [displayWith]="nothing"
      (optionSelected)="pick($event.option.value)"
    >
      <!-- A press on the list does not take the keyboard from the search. -->
      @for (each of found(); track each.name) {
        <mat-option [value]="each" (mousedown)="$event.preventDefault()">
          <span class="fx-found-name">{{ each.name }}</span> <span class="fx-found-mark">{{ each.mark }}</span>
          <span class="fx-found-detail">{{ each.detail }}</span>
        </mat-option>
      } @empty {
        <mat-option disabled>{{ none() }}</mat-option>
      }
    </mat-autocomplete>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
  `,
})
export class Finder<T extends Found> implements AfterViewInit {
  readonly label = input.required<string>();
  readonly hint = input('');
  /** What is said when nothing fits. */
  readonly none = input('Nothing is called that.');
  /** What fits a text, best first. */
  readonly search = input.required<(text: string) => readonly T[]>();
  readonly picked = output<T>();
  readonly closed = output();
  protected readonly found = signal<readonly T[]>([]);
  /** Arrow keys went through the list since the last letter. */
  private moved = false;
  private done = false;
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  ngAfterViewInit(): void {
    this.box().nativeElement.focus({ preventScroll: true });
    queueMicrotask(() => this.look(''));
  }

  protected readonly nothing = (): string => '';

  protected look(text: string): void {
    this.moved = false;
    this.found.set(this.search()(text).slice(0, mostListed));
  }

  protected key(event: KeyboardEvent): void {
    // What is typed here is no shortcut.
    event.stopPropagation();
    if (event.key === 'Escape') this.closed.emit();
    else if (event.key.startsWith('Arrow')) this.moved = true;
    else if (event.key === 'Enter' && !this.moved) {
      // The first one found, also before the list beneath has caught up with the letters.
      event.preventDefault();
      const [first] = this.found();
      if (first) this.pick(first);
    }
  }

  /** Once: the list and the key may both ask for it. */
  protected pick(found: T): void {
    if (this.done) return;
    this.done = true;
    this.picked.emit(found);
  }
}
