import { EditorView } from '@codemirror/view';
import { describe, expect, test, vi } from 'vitest';
import { FormulaEditor } from '../../src/app/ropewalk/settings/varying/formula-editor';
import { lastTyped, typingPause } from '../../src/app/shared/typing';
import { graph, heard, mounted, type Mounted } from './mounted';

interface Editor extends Mounted<FormulaEditor> {
  readonly view: EditorView;
  readonly shown: string[];
  readonly kept: string[];
  /** Writes a text as by hand: with the keyboard there, and a key that changes text. */
  type(text: string): void;
}

async function editor(): Promise<Editor> {
  lastTyped();
  const made = await mounted(FormulaEditor, {
    document: graph([{ id: 'tube', type: 'skin.tube', settings: { radius: { formula: '0.1' } } }]),
    inputs: { node: 'tube', setting: 'radius', label: 'Radius', formula: '0.1', sketched: false },
  });
  document.body.append(made.host);
  await made.settle();
  const view = EditorView.findFromDOM(made.host.querySelector('.cm-editor')!)!;
  view.focus();
  return {
    ...made,
    view,
    shown: heard(made.component.scrubbed),
    kept: heard(made.component.committed),
    type: (text) => {
      view.contentDOM.dispatchEvent(new KeyboardEvent('keydown', { key: 'x', bubbles: true }));
      view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
    },
  };
}

const rested = (): Promise<void> => new Promise((done) => setTimeout(done, typingPause + 60));

describe('a formula while it is written', () => {
  test('is shown once the hand rests, the newest alone, and only when it is right', async () => {
    const { type, shown, host, settle } = await editor();
    type('0.2');
    type('0.2 +');
    await settle();
    expect([shown, host.querySelector('[role=alert]')]).toEqual([[], null]);
    await rested();
    await settle();
    expect(shown).toEqual([]);
    expect(host.querySelector('[role=alert]')!.textContent).not.toBe('');
    type('0.2 + t');
    expect(shown).toEqual([]);
    await rested();
    await settle();
    expect([shown, host.querySelector('[role=alert]')]).toEqual([['0.2 + t'], null]);
  });

  test('what is kept is not shown once more after it', async () => {
    const { type, view, shown, kept } = await editor();
    type('0.3');
    view.contentDOM.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await rested();
    expect([kept, shown]).toEqual([['0.3'], []]);
  });

  test('the box ends with its panel', async () => {
    const { fixture, view } = await editor();
    const ended = vi.spyOn(view, 'destroy');
    fixture.destroy();
    expect(ended).toHaveBeenCalledTimes(1);
  });
});
