import { describe, expect, test } from 'vitest';
import type { Action } from '../src/app/ropewalk/actions';
import { TypedWords, type Taken } from '../src/app/ropewalk/keys/typed-words';
import { keyOf, readShortcuts, withOwn } from '../src/app/ropewalk/keys/shortcuts';

/** How the letters of a text are taken when they come so many ms apart. */
function typed(text: string, apart: number): Taken[] {
  const words = new TypedWords();
  return [...text].map((letter, i) => words.press(letter, 1000 + i * apart));
}

describe('letters where no text is', () => {
  test('a word is one command at most, at whatever pace it is typed', () => {
    for (const word of ['sweep', 'material', 'parts', 'union', 'npn'])
      for (const apart of [20, 50, 120, 240]) {
        const taken = typed(word, apart);
        expect(taken.slice(0, 3), `${word} every ${apart} ms`).toEqual(['now', 'later', 'word']);
      }
  });

  test('three letters within a second are never three commands', () => {
    for (const apart of [260, 400, 490]) expect(typed('xyz', apart)).toEqual(['now', 'now', 'word']);
    expect(typed('xyz', 510)).toEqual(['now', 'now', 'now']);
  });

  test('one letter again and again repeats its command', () => {
    expect(typed('vvvvv', 60)).toEqual(Array(5).fill('now'));
  });

  test('a word that is taken, and anything else pressed, begin anew', () => {
    const words = new TypedWords();
    for (const [i, letter] of [...'tub'].entries()) words.press(letter, i * 50);
    expect(words.take()).toBe('tub');
    expect(words.press('x', 160)).toBe('now');
    words.forget();
    expect(words.press('y', 200)).toBe('now');
  });
});

describe('shortcuts of one’s own', () => {
  const run = (): void => undefined;
  const actions: Action[] = [
    { name: 'Fit the view', shortcut: 'F', within: 'fx-view3d', run },
    { name: 'Fit the graph', shortcut: 'F', run },
    { name: 'Add', shortcut: 'N', run },
    { name: 'No key', run },
  ];

  test('stand in for the first ones; an empty one takes the key away; the same key in a pane is another', () => {
    const own = { 'fx-view3d F': 'L', N: '' };
    expect(withOwn(actions, own).map(({ shortcut }) => shortcut)).toEqual(['L', 'F', undefined, undefined]);
    expect(actions.slice(0, 3).map((action) => keyOf(action))).toEqual(['fx-view3d F', 'F', 'N']);
  });

  test.each([
    ['{"N":"M","x":3}', { N: 'M' }],
    ['not ours', {}],
    ['7', {}],
    [null, {}],
  ])('as they were kept: %s', (text, own) => expect(readShortcuts(text)).toEqual(own));
});
