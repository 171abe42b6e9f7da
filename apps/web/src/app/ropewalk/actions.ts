import { isField } from '../shared/typing';

/** Where a menu can be opened in the graph. */
export type MenuPlace = 'tag' | 'wire' | 'ground';

/** Something that can be done, by name in the search and by key. */
export interface Action {
  readonly name: string;
  readonly detail?: string;
  /** As it is shown, and as it is pressed: `N`, `Ctrl Z`, `Ctrl Shift Z`, `Delete`. */
  readonly shortcut?: string;
  /** The shortcut works while typing in a field, too. */
  readonly anywhere?: boolean;
  /** The shortcut works only while the keyboard is in this pane: a key that removes must not reach the graph from elsewhere. */
  readonly within?: 'fx-graph' | 'fx-view3d';
  /** Not offered in the search: a second key, or one that moves. */
  readonly quiet?: boolean;
  /** Not possible now. */
  readonly off?: boolean;
  /** It lasts while its key is held: from the search it can only be told. */
  readonly held?: boolean;
  /** Menus that offer it, besides the search. */
  readonly menus?: readonly MenuPlace[];
  readonly run: () => void;
}

const keyNames: Readonly<Record<string, string>> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', Escape: 'Esc', '-': '−' };

/** The shortcut that was pressed, as it is written. */
export function shortcutOf(event: KeyboardEvent): string {
  const command = event.ctrlKey || event.metaKey;
  const key = keyNames[event.key] ?? (event.key.length === 1 ? event.key.toUpperCase() : event.key);
  // Without Ctrl, Shift is told with letters and named keys only: with others it is part of the sign.
  const shifted = event.shiftKey && (command || /^[A-Z]/.test(key));
  return [command && 'Ctrl', shifted && 'Shift', key].filter(Boolean).join(' ');
}

/** Keys of one letter belong to the graph and the 3D view: elsewhere they may be meant for what has the keyboard. */
const isLetter = (shortcut: string): boolean => /^(Shift )?.$/u.test(shortcut);

const isWithin = (target: EventTarget | null, pane: string): boolean => target instanceof Element && !!target.closest(pane);

/** Where single letters are commands. */
const letterPanes = 'fx-graph, fx-view3d';
/** What letters choose from, or step. */
const usesLetters = 'input, [role=combobox], [role=listbox], [role=option], [role=menu], [role=menuitem], [role=slider], [role=tree], [role=grid]';

/** The graph or the 3D view has the keyboard, or nothing that uses letters has it and the pointer is over one of them, or nothing in particular has it. */
export const lettersAreFor = (target: EventTarget | null): boolean =>
  !(target instanceof Element) ||
  target === document.body ||
  isWithin(target, letterPanes) ||
  (!target.closest(usesLetters) && document.querySelector(`:is(${letterPanes}):hover`) !== null);

/** The action that a key press asks for, if it is possible now. */
export function actionFor(event: KeyboardEvent, actions: readonly Action[]): Action | null {
  if (event.altKey) return null;
  const shortcut = shortcutOf(event);
  const typing = isField(event.target) || (event.target instanceof HTMLInputElement && event.key.startsWith('Arrow'));
  const elsewhere = isLetter(shortcut) && !lettersAreFor(event.target);
  const reaches = ({ anywhere, within }: Action): boolean => (anywhere || (!typing && !elsewhere)) && (!within || isWithin(event.target, within));
  return actions.find((action) => action.shortcut === shortcut && !action.off && reaches(action)) ?? null;
}
