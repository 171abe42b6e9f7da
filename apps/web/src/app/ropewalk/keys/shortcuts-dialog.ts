import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { TextField } from '../../shared/text-field';
import { shortcutOf, type Action } from '../actions';
import { modifiers } from './key-commands';
import { keyOf, Shortcuts } from './shortcuts';

interface Row {
  /** What the action is known by. */
  readonly key: string;
  readonly name: string;
  readonly detail: string;
  readonly shortcut: string;
  readonly changed: boolean;
}

/** A key that was pressed for an action although it belongs to another. */
interface Conflict {
  readonly row: Row;
  readonly shortcut: string;
  readonly other: Row;
}

/** Keys that cannot be given away: they take or leave whatever has the keyboard. */
const kept: ReadonlySet<string> = new Set(['Enter', 'Tab', 'Shift Tab']);

/** The list of shortcuts: searched by name or key, and changed by pressing another key. */
@Component({
  selector: 'fx-shortcuts',
  imports: [MatButtonModule, MatDialogModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Shortcuts</h2>
    <mat-dialog-content>
      <fx-text label="Search shortcuts" hint="Search by name or key" [value]="text()" (typed)="text.set($event)" cdkFocusInitial />
      <p class="told" aria-live="polite">
        @if (conflict(); as now) {
          {{ now.shortcut }} belongs to “{{ now.other.name }}”.
          <button type="button" matButton (click)="take(now)">Use it here instead</button>
        } @else if (asked()) {
          Press the new key. Esc leaves it as it is, Delete takes it away.
        } @else {
          Click a key to change it. This browser remembers the change.
        }
      </p>
      <ul>
        @for (row of found(); track row.key) {
          <li [attr.data-shortcut]="row.key">
            <span class="name">{{ row.name }}</span>
            <span class="slate">{{ row.detail }}</span>
            @if (row.changed) {
              <button type="button" matButton class="back" [attr.aria-label]="row.name + ': back to the first key'" (click)="shortcuts.set(row.key, null)">
                Back
              </button>
            }
            <button
              type="button"
              matButton="outlined"
              class="key"
              [attr.aria-label]="row.name + ', ' + (row.shortcut || 'no key') + ': change'"
              (click)="ask(row)"
              (blur)="asked.set(null)"
              (keydown)="press($event, row)"
            >
              {{ asked() === row.key ? '…' : row.shortcut || 'none' }}
            </button>
          </li>
        } @empty {
          <li class="slate">No shortcut fits that.</li>
        }
      </ul>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" [disabled]="!shortcuts.changed()" (click)="shortcuts.reset()">All back to the first keys</button>
      <button type="button" matButton="filled" (click)="dialog.close()">Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .told {
      min-height: 36px;
      margin: 8px 0;
      line-height: 36px;
    }
    ul {
      height: 46vh;
      margin: 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    li {
      display: flex;
      gap: 8px;
      align-items: baseline;
      padding: 2px 8px 2px 0;
    }
    .slate {
      flex: 1;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .key {
      min-width: 92px;
    }
  `,
})
export class ShortcutsDialog {
  protected readonly shortcuts = inject(Shortcuts);
  protected readonly dialog = inject(MatDialogRef);
  private readonly actions = inject<() => readonly Action[]>(MAT_DIALOG_DATA)();
  protected readonly text = signal('');
  /** The action whose new key is waited for. */
  protected readonly asked = signal<string | null>(null);
  protected readonly conflict = signal<Conflict | null>(null);
  private readonly rows = computed<readonly Row[]>(() => {
    const own = this.shortcuts.own();
    const given = this.actions.filter(({ shortcut }) => shortcut !== undefined);
    return given.map((action) => {
      const key = keyOf(action);
      return { key, name: action.name, detail: action.detail ?? '', shortcut: own[key] ?? action.shortcut!, changed: key in own };
    });
  });
  protected readonly found = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    return this.rows().filter(({ name, detail, shortcut }) =>
      words.every(
        (word) => shortcut.toLowerCase() === word || shortcut.toLowerCase().split(' ').includes(word) || `${name} ${detail}`.toLowerCase().includes(word),
      ),
    );
  });

  protected ask(row: Row): void {
    this.conflict.set(null);
    this.asked.set(row.key);
  }

  /** The next key after the button was pressed is the new one. */
  protected press(event: KeyboardEvent, row: Row): void {
    if (this.asked() !== row.key) return;
    const shortcut = shortcutOf(event);
    if (modifiers.has(event.key) || kept.has(shortcut)) return;
    event.preventDefault();
    event.stopPropagation();
    this.asked.set(null);
    if (shortcut === 'Esc') return;
    if (shortcut === 'Delete') return this.shortcuts.set(row.key, '');
    const other = this.rows().find((each) => each.shortcut === shortcut && each.key !== row.key && paneOf(each) === paneOf(row));
    if (other) this.conflict.set({ row, shortcut, other });
    else this.shortcuts.set(row.key, shortcut);
  }

  protected take({ row, shortcut, other }: Conflict): void {
    this.shortcuts.set(row.key, shortcut, other.key);
    this.conflict.set(null);
  }
}

/** The pane in which alone a shortcut works; one that works in a pane alone may have the key of one that works everywhere. */
const paneOf = ({ key }: Row): string => (key.startsWith('fx-') ? key.split(' ')[0] : '');
