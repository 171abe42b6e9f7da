import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { actionFor, shortcutOf, type Action } from '../../src/app/ropewalk/actions';
import { KeyCommands } from '../../src/app/ropewalk/keys/key-commands';
import { typingPace } from '../../src/app/ropewalk/keys/typed-words';

const actions: readonly Action[] = [
  { name: 'Add', shortcut: 'N', run: () => undefined },
  { name: 'Undo', shortcut: 'Ctrl Z', run: () => undefined },
  { name: 'Export', shortcut: 'Ctrl E', anywhere: true, run: () => undefined },
  { name: 'Delete', shortcut: 'Backspace', within: 'fx-graph', run: () => undefined },
  { name: 'Right', shortcut: '→', run: () => undefined },
  { name: 'Values', shortcut: 'F7', run: () => undefined },
  { name: 'Off', shortcut: 'T', off: true, run: () => undefined },
];

beforeEach(() => {
  document.body.innerHTML = `
    <fx-graph><div class="area"><fx-tag tabindex="0"></fx-tag></div></fx-graph>
    <fx-view3d><canvas tabindex="0"></canvas></fx-view3d>
    <fx-settings><input id="text" type="text" /><input id="slider" type="range" /><button id="button">Do</button><div id="choice" role="combobox" tabindex="0"></div></fx-settings>`;
});

/** What a key does while the keyboard is on an element. */
function asked(key: string, at: string | null, more: KeyboardEventInit = {}): string | null {
  const target = at === null ? document.body : document.querySelector(at)!;
  let found: string | null = null;
  const listen = (event: KeyboardEvent): void => void (found = actionFor(event, actions)?.name ?? null);
  target.addEventListener('keydown', listen as EventListener);
  target.dispatchEvent(new KeyboardEvent('keydown', { key, ...more }));
  target.removeEventListener('keydown', listen as EventListener);
  return found;
}

describe('keys', () => {
  test('are written as they are pressed: Shift with letters, named keys and Ctrl only', () => {
    const written = (key: string, more: KeyboardEventInit = {}): string => shortcutOf(new KeyboardEvent('keydown', { key, ...more }));
    expect(written('n')).toBe('N');
    expect(written('N', { shiftKey: true })).toBe('Shift N');
    expect(written('?', { shiftKey: true })).toBe('?');
    expect(written('Z', { metaKey: true, shiftKey: true })).toBe('Ctrl Shift Z');
    expect(written('Delete', { shiftKey: true })).toBe('Shift Delete');
    expect(written('ArrowLeft')).toBe('←');
    expect(written('-')).toBe('−');
  });

  test('letters are for the graph and the 3D view, and for nothing that has the keyboard elsewhere', () => {
    expect([null, 'fx-tag', '.area', 'canvas'].map((at) => asked('n', at))).toEqual(['Add', 'Add', 'Add', 'Add']);
    expect(['#text', '#slider', '#button', '#choice'].map((at) => asked('n', at))).toEqual([null, null, null, null]);
  });

  test('in a field only those that work anywhere do', () => {
    expect([asked('z', '#text', { ctrlKey: true }), asked('e', '#text', { ctrlKey: true }), asked('F7', '#text')]).toEqual([null, 'Export', null]);
    expect([asked('z', '#button', { ctrlKey: true }), asked('F7', '#button')]).toEqual(['Undo', 'Values']);
  });

  test('arrows belong to sliders and lists that have the keyboard', () => {
    expect([asked('ArrowRight', '#slider'), asked('ArrowRight', '#choice'), asked('ArrowRight', 'fx-tag')]).toEqual([null, null, 'Right']);
  });

  test('that remove work in the graph alone', () => {
    expect([asked('Backspace', null), asked('Backspace', '#button'), asked('Backspace', 'fx-tag')]).toEqual([null, null, 'Delete']);
  });

  test('of what is not possible now, and with Alt, do nothing', () => {
    expect([asked('t', null), asked('n', null, { altKey: true })]).toEqual([null, null]);
  });
});

describe('words typed where letters are commands', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  const commands: readonly Action[] = ['S', 'W', 'P', 'H', 'F4'].map((shortcut) => ({
    name: shortcut,
    shortcut,
    held: shortcut === 'H',
    run: () => undefined,
  }));

  /** Presses keys, each some ms after the one before, and tells what came of them: commands by name, searches as `“text”`. */
  function press(keys: readonly [string, number][], at = 'fx-tag'): string[] {
    const done: string[] = [];
    const desk = new KeyCommands(
      ({ name }) => void done.push(name),
      (text) => void done.push(`“${text}”`),
    );
    const listen = (event: KeyboardEvent): void => desk.press(event, commands);
    window.addEventListener('keydown', listen);
    let now = 5000;
    for (const [key, after] of keys) {
      vi.advanceTimersByTime(after);
      now += after;
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
      Object.defineProperty(event, 'timeStamp', { value: now });
      document.querySelector(at)!.dispatchEvent(event);
    }
    vi.advanceTimersByTime(typingPace);
    window.removeEventListener('keydown', listen);
    return done;
  }

  test('open the search with all their letters; only the first was a command', () => {
    expect(press([...'swe'].map((key) => [key, 50]))).toEqual(['S', '“swe”']);
    expect(press([...'mes'].map((key) => [key, 50]))).toEqual(['“mes”']);
  });

  test('two commands are two commands, the second a moment later; a named key does not wait', () => {
    expect(press([['s', 0], ['p', 100]])).toEqual(['S', 'P']); // prettier-ignore
    expect(press([['s', 0], ['p', 100], ['F4', 20]])).toEqual(['S', 'P', 'F4']); // prettier-ignore
    expect(press([['s', 0], ['p', 400], ['w', 700]])).toEqual(['S', 'P', 'W']); // prettier-ignore
  });

  test('in a field nothing is a command', () => {
    expect(
      press(
        [...'swe'].map((key) => [key, 50]),
        '#text',
      ),
    ).toEqual([]);
  });
});
