import type { AfterViewInit, ElementRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  DestroyRef,
  inject,
  Injector,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatAutocomplete, MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { delay } from 'rxjs';

/** Something that can be found by typing. */
export interface Found {
  /** Those of one group stand together, under a heading. */
  readonly group: string;
  readonly name: string;
  /** At the right end: a family, a shortcut. */
  readonly mark: string;
  /** In small letters beneath. */
  readonly detail: string;
}

/** How many rows are made at a time: more than are seen at once. Each row costs a part of a millisecond at every letter, so the rest come as the list is scrolled. */
const rowsAtOnce = 24;

/** A search with its list: type, choose with the arrow keys, Enter. It has the keyboard from the moment when it is there. */
@Component({
  selector: 'fx-finder',
  imports: [MatAutocompleteModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <!-- The list's own keys come first; which one is meant is counted here, where no letter is too fast. -->
    <mat-form-field appearance="outline" subscriptSizing="dynamic" (keydown)="key($event)">
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
        (blur)="closed.emit()"
      />
    </mat-form-field>
    <mat-autocomplete #list autoActiveFirstOption hideSingleSelectionIndicator class="fx-found" [displayWith]="nothing" (opened)="watchScrolling()">
      <!-- A press on the list does not take the keyboard from the search. -->
      @for (section of sections(); track section.group) {
        <mat-optgroup [label]="headings()[section.group]">
          @for (each of section.rows; track each.name) {
            <mat-option
              [value]="each"
              [attr.aria-posinset]="section.from + $index + 1"
              [attr.aria-setsize]="found().length"
              (mousedown)="$event.preventDefault()"
              (click)="pick(each)"
            >
              <span class="fx-found-name">{{ each.name }}</span> <span class="fx-found-mark">{{ each.mark }}</span>
              <span class="fx-found-detail">{{ each.detail }}</span>
            </mat-option>
          }
        </mat-optgroup>
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
  /** What has been typed already. */
  readonly begin = input('');
  /** What is said when nothing fits. */
  readonly none = input('Nothing is called that.');
  /** The heading of each group. */
  readonly headings = input<Readonly<Record<string, string>>>({});
  /** What fits a text, best first. */
  readonly search = input.required<(text: string) => readonly T[]>();
  readonly picked = output<T>();
  /** Escape was pressed. */
  readonly escaped = output();
  /** The search was left. */
  readonly closed = output();
  protected readonly found = signal<readonly T[]>([]);
  private readonly rows = signal(rowsAtOnce);
  protected readonly listed = computed(() => this.found().slice(0, this.rows()));
  protected readonly sections = computed(() => {
    const sections: { group: string; from: number; rows: T[] }[] = [];
    this.listed().forEach((each, from) => {
      const last = sections.at(-1);
      if (last?.group === each.group) last.rows.push(each);
      else sections.push({ group: each.group, from, rows: [each] });
    });
    return sections;
  });
  /** The one of those found that Enter takes. */
  private index = 0;
  private done = false;
  private text: string | null = null;
  private readonly changes = inject(ChangeDetectorRef);
  private readonly injector = inject(Injector);
  private readonly destroy = inject(DestroyRef);
  private readonly list = viewChild.required(MatAutocomplete);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  ngAfterViewInit(): void {
    const box = this.box().nativeElement;
    box.value = this.begin();
    box.focus({ preventScroll: true });
    queueMicrotask(() => this.look(box.value));
    // A list whose rows have changed marks its first, a moment later.
    this.list()
      .options.changes.pipe(delay(0), delay(0), takeUntilDestroyed(this.destroy))
      .subscribe(() => this.mark());
  }

  protected readonly nothing = (): string => '';

  protected look(text: string): void {
    if (text === this.text) return;
    this.text = text;
    this.index = 0;
    this.rows.set(rowsAtOnce);
    this.found.set(this.search()(text));
  }

  /** More rows come before the end of those made is seen. */
  protected watchScrolling(): void {
    const watch = (): void => {
      const panel = (this.list().panel as ElementRef<HTMLElement> | undefined)?.nativeElement;
      if (!panel) return;
      panel.onscroll = () => {
        if (panel.scrollTop + 2 * panel.clientHeight > panel.scrollHeight) this.makeRows(this.listed().length + rowsAtOnce);
      };
    };
    afterNextRender(watch, { injector: this.injector });
  }

  private makeRows(count: number): void {
    if (count > this.rows()) this.rows.set(count);
  }

  /** Shows which one Enter takes, wherever in the list it is. */
  private activate(): void {
    this.makeRows(this.index + 1);
    this.changes.detectChanges();
    this.mark();
    this.list()._keyManager.activeItem?._getHostElement().scrollIntoView({ block: 'nearest' });
  }

  private mark(): void {
    this.list()._keyManager.setActiveItem(this.index);
  }

  protected key(event: KeyboardEvent): void {
    // What is typed here is no shortcut.
    event.stopPropagation();
    if (event.key === 'Escape') {
      this.escaped.emit();
      this.closed.emit();
      // What closes it may take a moment, and the next key is not meant for it.
      this.box().nativeElement.blur();
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const count = this.found().length;
      if (count) this.index = (this.index + (event.key === 'ArrowDown' ? 1 : count - 1)) % count;
      this.activate();
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const chosen = this.found().at(this.index);
      if (chosen) this.pick(chosen);
    }
  }

  /** Once, however often it is clicked. */
  protected pick(found: T): void {
    if (this.done) return;
    this.done = true;
    this.picked.emit(found);
  }
}
