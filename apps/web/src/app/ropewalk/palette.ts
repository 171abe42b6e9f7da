import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild, type AfterViewInit } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { Action } from './actions';

/** Every action and node by name, with its shortcut: type, arrow keys, Enter. */
@Component({
  selector: 'fx-palette',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      class="field"
      type="text"
      role="combobox"
      aria-expanded="true"
      aria-controls="fx-actions"
      aria-label="Search nodes and actions"
      placeholder="Search nodes and actions"
      autocomplete="off"
      spellcheck="false"
      [attr.aria-activedescendant]="found().length ? 'fx-action-' + current() : null"
      (input)="search(box.value)"
      (keydown)="key($event)"
    />
    <ul id="fx-actions" role="listbox" aria-label="Actions">
      @for (action of found(); track action.name; let i = $index) {
        <li
          role="option"
          [id]="'fx-action-' + i"
          [attr.aria-selected]="i === current()"
          [class.current]="i === current()"
          (pointermove)="point($event, i)"
          (click)="run(action)"
        >
          <span>{{ action.name }}</span> <span class="slate detail">{{ action.detail }}</span> <kbd>{{ action.shortcut }}</kbd>
        </li>
      } @empty {
        <li class="slate">Nothing is called that.</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      width: 560px;
      max-width: 90vw;
      padding: 12px;
    }
    .field {
      min-height: 34px;
      font-size: 15px;
    }
    ul {
      height: 340px;
      margin: 8px 0 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: auto 1fr auto;
      gap: 10px;
      align-items: baseline;
      padding: 4px 8px;
      border-radius: 5px;
      cursor: pointer;
    }
    li.current {
      background: var(--varies);
    }
    .detail {
      overflow: hidden;
      font-size: 12.5px;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class Palette implements AfterViewInit {
  private readonly actions = inject<readonly Action[]>(MAT_DIALOG_DATA);
  private readonly dialog = inject(MatDialogRef<Palette, Action>);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  private readonly text = signal('');
  protected readonly current = signal(0);
  protected readonly found = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    return this.actions.filter((action) => !action.off && words.every((word) => `${action.name} ${action.detail ?? ''}`.toLowerCase().includes(word)));
  });

  ngAfterViewInit(): void {
    this.box().nativeElement.focus();
  }

  /** Points out what the pointer goes over: only when it moves, not when the list changes beneath it while somebody types. */
  protected point(event: PointerEvent, index: number): void {
    if (event.movementX || event.movementY) this.current.set(index);
  }

  protected search(text: string): void {
    this.text.set(text);
    this.current.set(0);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      this.current.update((i) => Math.min(this.found().length - 1, Math.max(0, i + (event.key === 'ArrowDown' ? 1 : -1))));
      document.getElementById(`fx-action-${this.current()}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const action = this.found()[this.current()];
      if (action) this.run(action);
    }
  }

  protected run(action: Action): void {
    this.dialog.close(action);
  }
}
