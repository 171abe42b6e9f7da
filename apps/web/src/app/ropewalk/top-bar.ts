import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { ThemeService } from '../shared/theme.service';
import { DocumentService, type SaveState } from './document/document.service';

const savedText: Readonly<Record<SaveState, string>> = {
  saved: 'saved',
  unsaved: 'editing …',
  saving: 'saving …',
  offline: 'not saved yet: the server cannot be reached, edits wait here',
  conflict: 'saved elsewhere meanwhile',
  refused: 'not saved',
};

/** The bar over the Ropewalk: whose document it is and whether it is saved, undo and redo, and what is done with the whole of it. */
@Component({
  selector: 'fx-top-bar',
  imports: [DatePipe, MatButtonModule, MatIconModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './top-bar.html',
  styleUrl: './top-bar.scss',
})
export class TopBar {
  protected readonly documents = inject(DocumentService);
  protected readonly themes = inject(ThemeService);
  readonly palette = output();
  readonly share = output();
  readonly export = output();

  protected readonly saved = computed(() => {
    const state = this.documents.saveState();
    if (state === 'saved') return `saved · version ${this.documents.version()}`;
    return state === 'refused' ? `not saved: ${this.documents.saveMessage()}` : savedText[state];
  });

  protected rename(title: string): void {
    const text = title.trim().slice(0, 200);
    if (text && text !== this.documents.document().title) this.documents.apply('Rename', { ...this.documents.document(), title: text });
  }
}
