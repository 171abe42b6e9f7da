import { autocompletion, type Completion, type CompletionContext } from '@codemirror/autocomplete';
import { linter } from '@codemirror/lint';
import type { Extension } from '@codemirror/state';
import { formulaConstants, formulaFunctions, FormulaError, namesIn, nearest, parseFormula, tokensOf, type Token } from '@filaxis/core';
import type { KnownName } from '@filaxis/protocol';
import { figure } from '../../../shared/figures';
import { colouredBy, type Coloured } from '../code-box';

/** Names that stand for something in every formula. */
const alwaysKnown = [...Object.keys(formulaConstants), 'time', 'frameNumber'];

/** What is wrong with a formula that could use these names; null: nothing. `names` null: not known yet, so only its form is looked at. */
export function formulaFault(text: string, names: readonly KnownName[] | null): FormulaError | null {
  try {
    const used = namesIn(parseFormula(text));
    if (!names) return null;
    const known = [...names.map(({ name }) => name), ...alwaysKnown];
    for (const [name, column] of used)
      if (!known.includes(name))
        return new FormulaError(`there is no "${name}" here${nearest(name, known) || '; choose one of the names below'}`, column, name.length);
    return null;
  } catch (error) {
    if (error instanceof FormulaError) return error;
    throw error;
  }
}

const classOf = ({ kind, text }: Token): string => {
  if (kind === 'number') return 'fx-f-number';
  if (kind === 'sign' || ['and', 'or', 'not'].includes(text)) return 'fx-f-sign';
  return Object.hasOwn(formulaFunctions, text) ? 'fx-f-function' : 'fx-f-name';
};

function* coloured(text: string): Generator<Coloured> {
  try {
    for (const token of tokensOf(text))
      if (token.kind !== 'end') yield { from: token.column - 1, to: token.column - 1 + token.text.length, name: classOf(token) };
  } catch {
    // A character that means nothing: the message says so, and the text stays plain.
  }
}

const rangeText = ({ range }: KnownName): string =>
  range ? (range[0] === range[1] ? figure(range[0], 3) : `${figure(range[0], 3)} … ${figure(range[1], 3)}`) : '';

function complete(context: CompletionContext, names: readonly KnownName[] | null): { from: number; options: Completion[] } | null {
  const word = context.matchBefore(/[A-Za-z_][A-Za-z0-9_]*/);
  if (!word && !context.explicit) return null;
  const own: Completion[] = (names ?? []).map((known) => ({
    label: known.name,
    detail: rangeText(known),
    info: known.help,
    type: 'variable',
    boost: known.kind === 'element' ? 1 : 2,
  }));
  const functions: Completion[] = Object.entries(formulaFunctions).map(([label, { help }]) => ({
    label,
    detail: 'function',
    info: help,
    type: 'function',
    apply: `${label}(`,
  }));
  const constants: Completion[] = alwaysKnown.map((label) => ({ label, type: 'constant' }));
  return { from: word?.from ?? context.pos, options: [...own, ...functions, ...constants] };
}

/** Colours, completion with live ranges, and errors under the column they stand at. */
export const formulaLanguage = (names: () => readonly KnownName[] | null): Extension => [
  colouredBy(coloured),
  autocompletion({ override: [(context) => complete(context, names())], icons: false }),
  linter(
    (view) => {
      const length = view.state.doc.length;
      const fault = formulaFault(view.state.doc.toString(), names());
      if (!fault) return [];
      const from = Math.min(length, fault.column - 1);
      return [{ from, to: Math.min(length, from + fault.length), severity: 'error', message: fault.message }];
    },
    // The message stands beneath the box, where it hides nothing.
    { delay: 60, tooltipFilter: () => [] },
  ),
];
