import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { actionFor, shortcutOf, type Action } from '../src/app/ropewalk/actions';

/** An element inside others, as `closest` sees them. */
class Element {
  constructor(readonly around: readonly string[]) {}
  closest(selector: string): Element | null {
    return selector.split(', ').some((one) => this.around.includes(one)) ? this : null;
  }
}

const press = (key: string, target: Element = new Element([]), more: object = {}): KeyboardEvent => ({ key, target, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more }) as unknown as KeyboardEvent; // prettier-ignore
const actions: readonly Action[] = [
  { name: 'Add', shortcut: 'N', run: () => undefined },
  { name: 'Undo', shortcut: 'Ctrl Z', anywhere: true, run: () => undefined },
  { name: 'Delete', shortcut: 'Backspace', within: 'fx-graph', run: () => undefined },
  { name: 'Off', shortcut: 'T', off: true, run: () => undefined },
];
const asked = (event: KeyboardEvent): string | null => actionFor(event, actions)?.name ?? null;

beforeEach(() => {
  vi.stubGlobal('HTMLElement', Element);
  vi.stubGlobal('Element', Element);
  vi.stubGlobal('HTMLInputElement', class {});
});
afterEach(() => vi.unstubAllGlobals());

describe('keys', () => {
  test('are written as they are pressed: Shift with letters and with Ctrl only', () => {
    expect(shortcutOf(press('n'))).toBe('N');
    expect(shortcutOf(press('N', undefined, { shiftKey: true }))).toBe('Shift N');
    expect(shortcutOf(press('?', undefined, { shiftKey: true }))).toBe('?');
    expect(shortcutOf(press('Z', undefined, { metaKey: true, shiftKey: true }))).toBe('Ctrl Shift Z');
    expect(shortcutOf(press('ArrowLeft'))).toBe('←');
  });

  test('belong to a field while one types in it, but for those that work anywhere', () => {
    const field = new Element(['input:not([type=range]', 'input:not([type=range], [type=checkbox], [type=radio])']);
    expect([asked(press('n')), asked(press('n', field))]).toEqual(['Add', null]);
    expect(asked(press('z', field, { ctrlKey: true }))).toBe('Undo');
  });

  test('that remove work in the graph alone', () => {
    expect(asked(press('Backspace'))).toBeNull();
    expect(asked(press('Backspace', new Element(['fx-setting'])))).toBeNull();
    expect(asked(press('Backspace', new Element(['fx-graph'])))).toBe('Delete');
  });

  test('of what is not possible now, and with Alt, do nothing', () => {
    expect(asked(press('t'))).toBeNull();
    expect(asked(press('n', undefined, { altKey: true }))).toBeNull();
  });
});
