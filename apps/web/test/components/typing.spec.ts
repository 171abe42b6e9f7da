import { describe, expect, test } from 'vitest';
import { afterTyping, lastTyped, typedFor } from '../../src/app/shared/typing';

function pressIn(element: HTMLElement, key: string, more: KeyboardEventInit = {}): void {
  document.body.append(element);
  element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));
  element.remove();
}

describe('typing', () => {
  test('is what changes text: letters and what takes them away, in a field', async () => {
    const field = document.createElement('input');
    const typed = lastTyped();
    for (const key of ['ArrowUp', 'Enter', 'Tab', 'Escape']) pressIn(field, key);
    pressIn(field, 'z', { ctrlKey: true });
    pressIn(document.createElement('button'), 'z');
    expect(lastTyped()).toBe(typed);
    for (const key of ['z', 'Backspace', 'Delete', ' ']) {
      const before = lastTyped();
      await new Promise((done) => setTimeout(done, 2));
      pressIn(field, key);
      expect(lastTyped()).toBeGreaterThan(before);
    }
  });

  test('is over after a pause', async () => {
    pressIn(document.createElement('textarea'), 'a');
    const typed = lastTyped();
    expect(typedFor(60)).toBeGreaterThan(0);
    await afterTyping(60);
    expect([typedFor(60), performance.now() - typed >= 60]).toEqual([0, true]);
  });
});
