import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { Finder } from '../../shared/finder';
import { groups, type Entry, type Find } from './search';

/** What the search looks through, and what it begins with. */
export interface PaletteData {
  readonly find: Find;
  readonly text: string;
}

/** Every action and node by name, with its shortcut. */
@Component({
  selector: 'fx-palette',
  imports: [Finder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template:
    '<fx-finder label="Search nodes and actions" hint="Search nodes and actions, or say what you want" [search]="search" [headings]="groups" [begin]="data.text" (picked)="dialog.close($event)" (escaped)="dialog.close()" />',
  styles: `
    :host {
      display: block;
      width: 560px;
      max-width: 90vw;
      padding: 10px;
    }
  `,
})
export class Palette {
  protected readonly data = inject<PaletteData>(MAT_DIALOG_DATA);
  protected readonly dialog = inject(MatDialogRef<Palette, Entry>);
  protected readonly groups = groups;
  protected readonly search = (text: string): readonly Entry[] => this.data.find(text, null);
}
