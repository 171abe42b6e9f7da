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
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { derive, readRules, rulesNames, RulesError, rulesPresets, settingsOf, turtleSymbols, unbounded, type GraphNode, type RulesPreset } from '@filaxis/core';
import { grouped } from '../../shared/figures';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import { rulesFault, rulesLanguage } from './rules-language';

/** Modules that are counted while one types. */
const mostCounted = 100_000;

/** Rules being written: coloured, symbols explained under the pointer, the first fault at its line and column, and how many modules there are after each round. */
@Component({
  selector: 'fx-rules',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box field" #box></div>
    @if (fault(); as wrong) {
      <p class="wrong" role="alert">{{ wrong.message }}</p>
    } @else {
      <p class="slate counts" data-testid="modules">{{ counts() }}</p>
    }
    <div class="row">
      <button type="button" matButton="outlined" [matMenuTriggerFor]="plants">Begin with …</button>
      <button type="button" matButton [matMenuTriggerFor]="symbols">Symbols</button>
    </div>
    <mat-menu #plants="matMenu">
      @for (preset of presets; track preset.label) {
        <button mat-menu-item (click)="begin(preset)">{{ preset.label }}</button>
      }
    </mat-menu>
    <mat-menu #symbols="matMenu">
      @for (each of turtle; track each[0]) {
        <button mat-menu-item (click)="insert(each[0])">
          <code>{{ each[0] }}</code> {{ each[1] }}
        </button>
      }
    </mat-menu>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .box {
      height: auto;
      min-height: 96px;
      max-height: 320px;
      padding: 2px 4px;
      overflow: auto;
      cursor: text;
    }
    .wrong {
      margin: 3px 0 0;
      color: var(--madder);
      font-size: 12.5px;
    }
    .counts {
      margin: 3px 0 0;
      font-size: 12.5px;
    }
    .row {
      display: flex;
      gap: 8px;
      margin-top: 4px;
    }
  `,
})
export class RulesEditor {
  readonly node = input.required<GraphNode>();
  readonly text = input.required<string>();
  readonly scrubbed = output<string>();
  readonly committed = output<string>();
  private readonly documents = inject(DocumentService);

  protected readonly presets = Object.values(rulesPresets);
  protected readonly turtle = [...turtleSymbols];
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  /** The text as it stands in the box. */
  private readonly typed = signal('');
  private readonly settings = computed(() => settingsOf(this.documents.document(), this.node()));
  private readonly axiom = computed(() => {
    const { axiom } = this.settings();
    return typeof axiom === 'string' ? axiom : '';
  });
  protected readonly fault = computed(() => rulesFault(this.axiom(), this.typed()));
  /** Modules after each round, as far as they are counted. */
  protected readonly counts = computed(() => {
    if (this.fault()) return '';
    const number = (name: string): number => {
      const value = this.settings()[name];
      const own = typeof value === 'object' && value !== null && 'dial' in value ? this.documents.dials().find(({ id }) => id === value.dial)?.value : value;
      return typeof own === 'number' ? own : 1;
    };
    try {
      const set = readRules(this.axiom(), this.typed(), rulesNames);
      const { counts } = derive(set, { times: number('times'), seed: number('seed'), given: rulesNames.map(number), most: mostCounted }, unbounded);
      const last = counts.findIndex((_, i) => counts.slice(i).every((count) => count === counts[i]));
      const more = counts.length - 1 - last;
      return `Modules after each round: ${counts
        .slice(0, last + 1)
        .map(grouped)
        .join(' · ')}${more ? `, and no more from round ${last} on` : ''}`;
    } catch (error) {
      if (error instanceof RulesError) return `More than ${grouped(mostCounted)} modules: ${error.reason.replace(/;.*/, '')}.`;
      throw error;
    }
  });
  private view: EditorView | null = null;
  private kept = '';

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      this.typed.set(this.text());
      this.kept = this.text();
      this.view = new EditorView({ parent: this.box().nativeElement, state: this.start() });
      destroy.onDestroy(() => this.view?.destroy());
    });
    // Undo, other tabs and plants to begin with change the rules from outside.
    effect(() => {
      const text = this.text();
      untracked(() => {
        const { view } = this;
        // What comes while one types is what one typed a moment ago.
        if (!view || view.hasFocus || text === view.state.doc.toString()) return;
        this.kept = text;
        view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
      });
    });
    effect(() => {
      this.axiom();
      if (this.view) forceLinting(this.view);
    });
  }

  private start(): EditorState {
    return EditorState.create({
      doc: this.text(),
      extensions: [
        keymap.of([
          { key: 'Mod-Enter', run: (view) => this.keep(view) },
          { key: 'Escape', run: (view) => (view.contentDOM.blur(), true) },
        ]),
        history(),
        keymap.of([...historyKeymap, ...defaultKeymap]),
        rulesLanguage(() => this.axiom()),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': 'Rules', spellcheck: 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) this.changed(update.state.doc.toString(), update.view.hasFocus);
          if (update.focusChanged && !update.view.hasFocus) this.keep(update.view);
        }),
      ],
    });
  }

  /** What is right so far is shown at once; what is wrong waits until it is kept. */
  private changed(text: string, byHand: boolean): void {
    this.typed.set(text);
    if (byHand && !this.fault()) this.scrubbed.emit(text);
  }

  private keep(view: EditorView): boolean {
    const text = view.state.doc.toString();
    if (text !== this.kept) this.committed.emit(text);
    this.kept = text;
    return true;
  }

  protected begin({ label, settings }: RulesPreset): void {
    const { id } = this.node();
    const document = Object.entries(settings).reduce((now, [name, value]) => setSetting(now, id, name, value), this.documents.settledDocument());
    this.documents.apply(`Begin with ${label}`, document);
  }

  protected insert(symbol: string): void {
    this.view?.focus();
    this.view?.dispatch(this.view.state.replaceSelection(symbol));
  }
}
