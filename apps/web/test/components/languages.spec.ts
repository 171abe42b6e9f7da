/** Formulas and rules as they are written: what is offered, what is wrong and where, and what a symbol means. */
import { completionStatus, currentCompletions, startCompletion } from '@codemirror/autocomplete';
import { forceLinting, forEachDiagnostic } from '@codemirror/lint';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { formulaConstants, formulaFunctions } from '@filaxis/core';
import type { KnownName } from '@filaxis/protocol';
import { formulaFault, formulaLanguage } from '../../src/app/ropewalk/settings/varying/formula-language';
import { rulesFault, rulesLanguage } from '../../src/app/ropewalk/settings/rules-language';

const names: readonly KnownName[] = [
  { name: 't', kind: 'element', help: 'From 0 to 1 along the curve.', range: [0, 1] },
  { name: 'wear', kind: 'attribute', help: 'Worn.', range: [2, 2] },
  { name: 'width', kind: 'dial', help: 'A dial.', range: null },
];

let view: EditorView | null = null;
afterEach(() => {
  view?.destroy();
  view = null;
});
function written(text: string, language: Extension): EditorView {
  view = new EditorView({ parent: document.body, state: EditorState.create({ doc: text, selection: { anchor: text.length }, extensions: [language] }) });
  return view;
}
/** What is underlined, and why. */
async function underlined(text: string, language: Extension): Promise<[string, string][]> {
  const made = written(text, language);
  const found: [string, string][] = [];
  forceLinting(made);
  await new Promise((done) => setTimeout(done, 20));
  forEachDiagnostic(made.state, ({ message }, from, to) => void found.push([text.slice(from, to), message]));
  return found;
}
/** Pieces of text by the class that they are drawn with. */
const drawn = (text: string, language: Extension): string[] =>
  [...written(text, language).contentDOM.querySelectorAll('[class^=fx-f-]')].map(({ className, textContent }) => `${className.slice(5)} ${textContent}`);

describe('a formula', () => {
  test('is wrong by its form, or by a name that is not there; constants and the time always are', () => {
    expect(formulaFault('1 +', names)).not.toBeNull();
    expect(formulaFault('wear * t + pi + e + time + frameNumber + width', names)).toBeNull();
    const fault = formulaFault('2 * waer', names)!;
    expect([fault.column, fault.length, fault.message.includes('there is no "waer" here'), fault.message.includes('wear')]).toEqual([5, 4, true, true]);
    expect(formulaFault('1 + qqqqqq', names)!.message).toContain('choose one of the names below');
    // As long as the names are not known only its form is looked at.
    expect(formulaFault('2 * waer', null)).toBeNull();
  });

  test('has its fault underlined where it is', async () => {
    expect(
      await underlined(
        '2 * waer',
        formulaLanguage(() => names),
      ),
    ).toEqual([['waer', expect.stringContaining('there is no "waer"')]]);
    expect(
      await underlined(
        '2 * wear',
        formulaLanguage(() => names),
      ),
    ).toEqual([]);
  });

  test('is coloured by what its parts are; one with a sign that means nothing stays plain', () => {
    expect(
      drawn(
        '2*sin(wear) and not t',
        formulaLanguage(() => names),
      ),
    ).toEqual(['number 2', 'sign *', 'function sin', 'sign (', 'name wear', 'sign )', 'sign and', 'sign not', 'name t']);
    expect(
      drawn(
        '2 ~ 3',
        formulaLanguage(() => names),
      ),
    ).toEqual([]);
  });

  test('is completed by names with their ranges, functions and constants', async () => {
    const made = written(
      '',
      formulaLanguage(() => names),
    );
    startCompletion(made);
    await vi.waitFor(() => expect(completionStatus(made.state)).toBe('active'));
    const offered = new Map(currentCompletions(made.state).map((each) => [each.label, each]));
    expect(['t', 'wear', 'width'].map((name) => [offered.get(name)!.detail, offered.get(name)!.info])).toEqual([['0 … 1', 'From 0 to 1 along the curve.'], ['2', 'Worn.'], ['', 'A dial.']]); // prettier-ignore
    expect([offered.get('sin')!.apply, offered.get('sin')!.detail]).toEqual(['sin(', 'function']);
    expect([...Object.keys(formulaFunctions), ...Object.keys(formulaConstants), 'time', 'frameNumber'].filter((name) => !offered.has(name))).toEqual([]);
    // Own values come before what every point has.
    expect(
      currentCompletions(made.state)
        .slice(0, 3)
        .map(({ label }) => label),
    ).toEqual(['wear', 'width', 't']);
  });
});

describe('rules', () => {
  test('are wrong at a line and a column', async () => {
    expect(rulesFault({ axiom: 'A', names: [] }, 'A -> F[+A]')).toBeNull();
    expect(rulesFault({ axiom: 'A', names: [] }, 'A -> F[+A')!.line).toBe(1);
    const [[part]] = await underlined(
      '# a stem\nA -> F[+A',
      rulesLanguage(() => ({ axiom: 'A', names: [] })),
    );
    expect('A -> F[+A').toContain(part);
    expect(
      await underlined(
        'A -> F[+A]',
        rulesLanguage(() => ({ axiom: 'A', names: [] })),
      ),
    ).toEqual([]);
  });

  test('are coloured by what their parts are', () => {
    expect(
      drawn(
        'A(x) -> F(2.5)[+] # up',
        rulesLanguage(() => ({ axiom: 'A', names: [] })),
      ),
    ).toEqual([
      'symbol A',
      'sign (',
      'symbol x',
      'sign )',
      'sign ->',
      'symbol F',
      'sign (',
      'number 2.5',
      'sign )',
      'function [',
      'symbol +',
      'function ]',
      'quiet # up',
    ]);
  });
});
