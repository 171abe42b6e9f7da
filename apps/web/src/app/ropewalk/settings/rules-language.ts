import { linter } from '@codemirror/lint';
import type { Extension } from '@codemirror/state';
import { hoverTooltip } from '@codemirror/view';
import { readRules, RulesError, turtleSymbols } from '@filaxis/core';
import { colouredBy, type Coloured } from './code-box';

/** Beside what rules stand: their axiom, and the names of the node's numbers. */
export interface RulesBeside {
  readonly axiom: string;
  readonly names: readonly string[];
}

/** What is wrong with rules; null: nothing. */
export function rulesFault({ axiom, names }: RulesBeside, text: string): RulesError | null {
  try {
    readRules(axiom, text, names);
    return null;
  } catch (error) {
    if (error instanceof RulesError) return error;
    throw error;
  }
}

/** What stands at a place of a line, and what class it is drawn with. */
const parts: readonly (readonly [pattern: RegExp, name: string])[] = [
  [/#.*/y, 'fx-f-quiet'],
  [/->|→|[<>:,()]/y, 'fx-f-sign'],
  [/\d+(?:\.\d*)?|\.\d+/y, 'fx-f-number'],
  [/[A-Za-z_][A-Za-z0-9_]+/y, 'fx-f-name'],
  [/[[\]]/y, 'fx-f-function'],
  [/\S/y, 'fx-f-symbol'],
];

function* coloured(text: string): Generator<Coloured> {
  for (let at = 0; at < text.length; at++) {
    for (const [pattern, name] of parts) {
      pattern.lastIndex = at;
      const found = pattern.exec(text);
      if (!found) continue;
      yield { from: at, to: at + found[0].length, name };
      at += found[0].length - 1;
      break;
    }
  }
}

/** What a symbol means: the turtle's word for it, or the line of its first rule. */
function meaning(symbol: string, text: string): string | null {
  const turtle = turtleSymbols.get(symbol);
  const line = text
    .split('\n')
    .findIndex((each) => new RegExp(`(^|<)\\s*${symbol.replace(/[\\^$|[\](){}+*?.-]/g, '\\$&')}\\s*(\\(|>|:|->|→|$)`).test(each.split(/->|→/)[0]));
  if (turtle) return `${symbol}: ${turtle}${line < 0 ? '' : `; replaced by line ${line + 1}`}`;
  return line < 0 ? null : `${symbol}: replaced by line ${line + 1}`;
}

/** Colours, the meaning of symbols under the pointer, and the first fault underlined. */
export const rulesLanguage = (beside: () => RulesBeside): Extension => [
  colouredBy(coloured),
  hoverTooltip((view, at) => {
    const text = view.state.doc.toString();
    const words = meaning(text[at] ?? '', text);
    return words === null
      ? null
      : {
          pos: at,
          end: at + 1,
          above: true,
          create: () => ({ dom: Object.assign(document.createElement('div'), { textContent: words, className: 'fx-tip' }) }),
        };
  }),
  linter(
    (view) => {
      const fault = rulesFault(beside(), view.state.doc.toString());
      if (!fault || fault.line < 1 || fault.line > view.state.doc.lines) return [];
      const line = view.state.doc.line(fault.line);
      const from = Math.min(line.to, line.from + fault.column - 1);
      return [{ from, to: Math.min(line.to, from + fault.length), severity: 'error', message: fault.message }];
    },
    // The message stands beneath the box, where it hides nothing.
    { delay: 60, tooltipFilter: () => [] },
  ),
];
