import { computed, Injectable, signal } from '@angular/core';
import type { Action } from '../actions';

/** What opens the menu of the setting that has the keyboard: how its value is given. */
export const modesKey = 'Ctrl M';

/** Key under which this browser remembers them. */
const remembered = 'filaxis-shortcuts';

/** What an action is known by, whatever it is called at the moment: the shortcut that it is given at first, and where that works. */
export const keyOf = ({ shortcut = '', within }: Pick<Action, 'shortcut' | 'within'>): string => (within ? `${within} ${shortcut}` : shortcut);

/** Shortcuts of one's own: by what an action is known by, its own shortcut; '': none. */
export type OwnShortcuts = Readonly<Record<string, string>>;

/** As they were kept; what is not understood is as at first. */
export function readShortcuts(text: string | null): OwnShortcuts {
  try {
    const kept: unknown = JSON.parse(text ?? '{}');
    if (typeof kept !== 'object' || kept === null) return {};
    return Object.fromEntries(Object.entries(kept).filter((entry): entry is [string, string] => typeof entry[1] === 'string'));
  } catch {
    return {};
  }
}

/** Actions with the shortcuts that this browser gives them. */
export const withOwn = (actions: readonly Action[], own: OwnShortcuts): Action[] =>
  actions.map((action) => {
    const given = action.shortcut === undefined ? undefined : own[keyOf(action)];
    return given === undefined ? action : { ...action, shortcut: given || undefined };
  });

/** The shortcuts that this browser gives actions in place of those that they have at first. */
@Injectable({ providedIn: 'root' })
export class Shortcuts {
  private readonly state = signal(readShortcuts(localStorage.getItem(remembered)));
  readonly own = this.state.asReadonly();
  readonly changed = computed(() => Object.keys(this.state()).length > 0);

  /** The shortcut of an action, by what that is known by. */
  keyFor(key: string): string {
    return this.state()[key] ?? key;
  }

  /** What a button does, with the key that does it too: `Fit (F)`. */
  titled(what: string, key: string): string {
    const shortcut = this.keyFor(key);
    return shortcut ? `${what} (${shortcut})` : what;
  }

  /** Gives a shortcut to an action, and takes it from the one that had it; null: as at first. */
  set(action: string, shortcut: string | null, from?: string): void {
    const own: Record<string, string> = { ...this.state() };
    if (shortcut === null) delete own[action];
    else own[action] = shortcut;
    if (from !== undefined) own[from] = '';
    this.keep(own);
  }

  reset(): void {
    this.keep({});
  }

  private keep(own: OwnShortcuts): void {
    this.state.set(own);
    localStorage.setItem(remembered, JSON.stringify(own));
  }
}
