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
  readonly run: () => void;
}

const keyNames: Readonly<Record<string, string>> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', Escape: 'Esc', '-': '−' };

/** The shortcut that was pressed, as it is written. */
export function shortcutOf(event: KeyboardEvent): string {
  const command = event.ctrlKey || event.metaKey;
  const key = keyNames[event.key] ?? (event.key.length === 1 ? event.key.toUpperCase() : event.key);
  // Without Ctrl, Shift is told with letters only: with other keys it is part of the sign.
  const shifted = event.shiftKey && (command || /^[A-Z]$/.test(key));
  return [command && 'Ctrl', shifted && 'Shift', key].filter(Boolean).join(' ');
}

/** True where keys belong to what is being typed. */
export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && !!target.closest('input:not([type=range], [type=checkbox], [type=radio]), select, textarea, [contenteditable]');

const isWithin = (target: EventTarget | null, pane: string): boolean => target instanceof Element && !!target.closest(pane);

/** The action that a key press asks for, if it is possible now. */
export function actionFor(event: KeyboardEvent, actions: readonly Action[]): Action | null {
  if (event.altKey) return null;
  const shortcut = shortcutOf(event);
  const typing = isField(event.target) || (event.target instanceof HTMLInputElement && event.key.startsWith('Arrow'));
  const reaches = ({ anywhere, within }: Action): boolean => (anywhere || !typing) && (!within || isWithin(event.target, within));
  return actions.find((action) => action.shortcut === shortcut && !action.off && reaches(action)) ?? null;
}
