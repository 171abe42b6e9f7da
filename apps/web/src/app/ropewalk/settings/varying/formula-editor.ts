import { closeCompletion, completionStatus } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { forceLinting } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { formulaFault, formulaLanguage } from './formula-language';
import { liveNames } from './live-names';
import { ValuePlot } from './value-plot';
import { figure } from '../../../shared/figures';

/** A formula being written: coloured, completed with live ranges, its mistakes at their column, its values drawn beneath. */
@Component({
  selector: 'fx-formula',
  imports: [ValuePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box field" #box></div>
    @if (fault(); as wrong) {
      <p class="wrong" role="alert">{{ wrong.message }}</p>
    } @else if (sketched()) {
      <fx-value-plot [sketch]="names()?.values ?? null" [unit]="unit()" />
    }
    <a class="more slate" href="/formulas" target="_blank">How formulas work</a>
    @if (shownNames().length) {
      <p class="names" aria-label="Names the formula knows">
        @for (known of shownNames(); track known.name) {
          <button type="button" class="mono" [title]="known.help" (click)="insert(known.name)">
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
      height: auto;
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
  /** The text as it stands in the box. */
  protected readonly text = signal('');
  protected readonly fault = computed(() => formulaFault(this.text(), this.known()));
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
  private view: EditorView | null = null;
  /** The text that was kept last: what is the same is no change. */
  private kept = '';

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      this.text.set(this.formula());
      this.kept = this.formula();
      this.view = new EditorView({ parent: this.box().nativeElement, state: this.start() });
      destroy.onDestroy(() => this.view?.destroy());
    });
    // Undo and other tabs change the formula from outside.
    effect(() => {
      const formula = this.formula();
      untracked(() => {
        const view = this.view;
        if (view && formula !== view.state.doc.toString() && !view.hasFocus) {
          this.kept = formula;

          view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: formula } });
        }
      });
    });
    effect(() => {
      this.known();
      if (this.view) forceLinting(this.view);
    });
  }

  private start(): EditorState {
    return EditorState.create({
      doc: this.formula(),
      extensions: [
        keymap.of([
          { key: 'Enter', run: (view) => completionStatus(view.state) !== 'active' && this.keep(view) },
          { key: 'Escape', run: (view) => closeCompletion(view) || (view.contentDOM.blur(), true) },
        ]),
        history(),
        keymap.of([...historyKeymap, ...defaultKeymap]),
        formulaLanguage(() => this.known()),
        EditorView.lineWrapping,
        EditorState.transactionFilter.of((transaction) => (transaction.newDoc.lines > 1 ? [] : transaction)),
        EditorView.contentAttributes.of({ 'aria-label': `${this.label()}, formula`, spellcheck: 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) this.typed(update.state.doc.toString(), update.view.hasFocus);
          if (update.focusChanged && !update.view.hasFocus) this.keep(update.view);
        }),
      ],
    });
  }

  /** What is right so far is shown at once; what is wrong waits until it is kept. */
  private typed(text: string, byHand: boolean): void {
    this.text.set(text);
    if (byHand && !formulaFault(text, this.known())) this.scrubbed.emit(text);
  }

  private keep(view: EditorView): boolean {
    const text = view.state.doc.toString();
    if (text !== this.kept) this.committed.emit(text);
    this.kept = text;
    return true;
  }

  protected insert(name: string): void {
    const view = this.view;
    if (!view) return;
    view.focus();
    view.dispatch(view.state.replaceSelection(name));
  }
}
