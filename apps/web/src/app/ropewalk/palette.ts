import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { Finder, type Found } from '../shared/finder';
import type { Action } from './actions';

interface FoundAction extends Found {
  readonly action: Action;
}

/** What a search for actions gives for a text: the actions that hold all its words. */
export type ActionSearch = (text: string) => readonly Action[];

/** What the search looks through, and what it begins with. */
export interface PaletteData {
  readonly find: ActionSearch;
  readonly text: string;
}

/** Every action and node by name, with its shortcut. */
@Component({
  selector: 'fx-palette',
  imports: [Finder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template:
    '<fx-finder label="Search nodes and actions" hint="Search nodes and actions, or say what you want" [search]="search" [begin]="data.text" (picked)="dialog.close($event.action)" (escaped)="dialog.close()" />',
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
  protected readonly dialog = inject(MatDialogRef<Palette, Action>);
  protected readonly search = (text: string): FoundAction[] =>
    this.data.find(text).map((action) => ({ name: action.name, mark: action.shortcut ?? '', detail: action.detail ?? '', action }));
}

/** Actions whose names and details hold every word of a text, those first whose name is the text or begins with it. */
export function findActions(actions: readonly Action[], text: string): Action[] {
  const wanted = text.toLowerCase().trim();
  const words = wanted.split(/\s+/).filter(Boolean);
  const fits = ({ name, detail = '', off }: Action): boolean => !off && words.every((word) => `${name} ${detail}`.toLowerCase().includes(word));
  const rank = ({ name }: Action): number => {
    const plain = name.toLowerCase();
    if (plain === wanted || plain === `add ${wanted}`) return 0;
    if (words.every((word) => plain.includes(word))) return 1;
    return 2;
  };
  return wanted ? actions.filter(fits).sort((a, b) => rank(a) - rank(b)) : actions.filter(fits);
}
