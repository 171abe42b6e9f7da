/** Whether keys go into text. */
export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && !!target.closest('input:not([type=range], [type=checkbox], [type=radio]), select, textarea, [contenteditable]');

let last = -Infinity;
let watched = false;

/** When a key was last pressed in a field, as `performance.now()` counts: what is drawn anew for a letter can wait until the next ones are there. */
export function lastTyped(): number {
  if (!watched && typeof window !== 'undefined') {
    watched = true;
    window.addEventListener('keydown', ({ target, timeStamp }) => isField(target) && (last = timeStamp), true);
  }
  return last;
}

/** A pause between letters, ms: after a longer one, drawing goes on. */
export const typingPause = 150;
