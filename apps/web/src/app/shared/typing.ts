/** Whether keys go into text. */
export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && !!target.closest('input:not([type=range], [type=checkbox], [type=radio]), select, textarea, [contenteditable]');

let last = -Infinity;
let watched = false;

/** Whether a key changes text: no shortcut, no arrow that steps a number. */
const writes = ({ key, ctrlKey, metaKey }: KeyboardEvent): boolean => !ctrlKey && !metaKey && (key.length === 1 || key === 'Backspace' || key === 'Delete');

/** When text in a field was last changed by a key, as `performance.now()` counts: what comes of a letter can wait until the next ones are there. */
export function lastTyped(): number {
  if (!watched && typeof window !== 'undefined') {
    watched = true;
    window.addEventListener('keydown', (event) => isField(event.target) && writes(event) && (last = Math.min(event.timeStamp, performance.now())), true);
  }
  return last;
}

/** A pause between letters, ms: after a longer one, runs and drawing go on. */
export const typingPause = 150;

/** How long it is until no letter has been typed for a while, ms; 0: it is so now. */
export const typedFor = (pause = typingPause): number => Math.max(0, lastTyped() + pause - performance.now());

/** Resolves once no letter has been typed for a while, ms. */
export async function afterTyping(pause = typingPause): Promise<void> {
  for (let wait = typedFor(pause); wait > 0; wait = typedFor(pause)) await new Promise((done) => setTimeout(done, wait));
}
