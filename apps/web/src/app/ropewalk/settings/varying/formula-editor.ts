import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { closeCompletion, completionStatus } from '@codemirror/autocomplete';
import { EditorState } from '@codemirror/state';
import { keymap } from '@codemirror/view';
import { ChangeDetectionStrategy, Component, computed, input, output, viewChild, type ElementRef } from '@angular/core';
import { switchMap } from 'rxjs';
import { CodeBox } from '../code-box';
import { formulaFault, formulaLanguage } from './formula-language';
import { liveNames } from './live-names';
import { ValuePlot } from './value-plot';
import { figure } from '../../../shared/figures';
import { onceTyped } from '../../../shared/once-typed';

/** A formula being written: coloured, completed with live ranges, its mistakes at their column, its values drawn beneath. */
@Component({
  selector: 'fx-formula',
  imports: [ValuePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box code-field" #box></div>
    @if (toldFault(); as wrong) {
      <p class="wrong" role="alert">{{ wrong.message }}</p>
    } @else if (sketched()) {
      <fx-value-plot [sketch]="names()?.values ?? null" [unit]="unit()" />
    }
    <a class="more slate" href="/formulas" target="_blank">How formulas work</a>
    @if (shownNames().length) {
      <p class="names" aria-label="Names the formula knows">
        @for (known of shownNames(); track known.name) {
          <button type="button" class="mono" [title]="known.help" (click)="code.insert(known.name)">
            {{ known.name }}<span class="slate">{{ known.text }}</span>
          </button>
        }
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .box {
      min-height: 28px;
      padding: 2px 4px;
      cursor: text;
    }
    .wrong {
      margin: 3px 0 0;
      color: var(--madder);
      font-size: 12.5px;
    }
    .more {
      font-size: 12px;
    }
    .names {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 3px;
      margin: 5px 0 0;
      max-height: 66px;
      overflow: auto;
    }
    .names button {
      display: inline-flex;
      gap: 5px;
      padding: 1px 6px;
      border: 1px solid var(--seam);
      border-radius: 9px;
      background: var(--linen);
      color: var(--indigo);
      font-size: 11.5px;
      cursor: pointer;
    }
  `,
})
export class FormulaEditor {
  readonly node = input.required<string>();
  readonly setting = input.required<string>();
  readonly label = input.required<string>();
  readonly unit = input('');
  readonly formula = input.required<string>();
  /** Whether its values are drawn beneath. */
  readonly sketched = input(true);
  readonly scrubbed = output<string>();
  readonly committed = output<string>();

  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  protected readonly names = liveNames(this.node, this.setting);
  private readonly fault = computed(() => formulaFault(this.code.text(), this.known()));
  /** Told once the hand rests: between two letters most formulas are wrong. */
  protected readonly toldFault = toSignal(toObservable(this.fault).pipe(switchMap(onceTyped)));
  private readonly known = computed(() => {
    const answer = this.names();
    return answer?.complete ? answer.names : null;
  });
  protected readonly shownNames = computed(() =>
    (this.names()?.names ?? []).slice(0, 40).map((each) => ({
      ...each,
      text:
        each.range && each.range[0] !== each.range[1] ? `${figure(each.range[0], 2)}…${figure(each.range[1], 2)}` : each.range ? figure(each.range[0], 3) : '',
    })),
  );
  protected readonly code = new CodeBox({
    parent: this.box,
    given: this.formula,
    label: () => `${this.label()}, formula`,
    extensions: (keep) => [
      keymap.of([
        { key: 'Enter', run: (view) => completionStatus(view.state) !== 'active' && keep(view) },
        { key: 'Escape', run: (view) => closeCompletion(view) || (view.contentDOM.blur(), true) },
      ]),
      formulaLanguage(() => this.known()),
      EditorState.transactionFilter.of((transaction) => (transaction.newDoc.lines > 1 ? [] : transaction)),
    ],
    beside: () => this.known(),
    isRight: (text) => !formulaFault(text, this.known()),
    scrubbed: (text) => this.scrubbed.emit(text),
    committed: (text) => this.committed.emit(text),
  });
}
