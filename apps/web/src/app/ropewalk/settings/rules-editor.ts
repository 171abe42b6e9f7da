import { keymap } from '@codemirror/view';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, viewChild, type ElementRef } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import {
  derive,
  readRules,
  rulesNamesOf,
  rulesNumbers,
  RulesError,
  rulesPresets,
  settingsOf,
  turtleSymbols,
  unbounded,
  type GraphNode,
  type RulesPreset,
} from '@filaxis/core';
import { grouped } from '../../shared/figures';
import { withDialValues } from '../document/dials';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import { CodeBox } from './code-box';
import { facesBehind, type FacesBehind } from './faces-behind';
import { rulesFault, rulesLanguage } from './rules-language';

/** Modules that are counted while one types. */
const mostCounted = 100_000;

/** What goes forward and draws. */
const drawing = 'F'.charCodeAt(0);

interface Counted {
  readonly text: string;
  readonly behind?: FacesBehind | null;
}

/** Rules being written: coloured, symbols explained under the pointer, the first fault at its line and column, how many modules there are after each round, and faces behind them. */
@Component({
  selector: 'fx-rules',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box code-field" #box></div>
    @if (fault(); as wrong) {
      <p class="wrong" role="alert">{{ wrong.message }}</p>
    } @else {
      <p class="slate counts" data-testid="modules">{{ counted().text }}</p>
      @if (counted().behind; as behind) {
        @let over = behind.budget > 0 && 2 * behind.faces > behind.budget;
        <p class="counts" [class.slate]="!over" [class.wrong]="over" data-testid="faces-behind">
          About {{ grouped(behind.faces) }} faces behind them{{ over ? ', more than the budget of ' + grouped(behind.budget) + ' triangles' : '' }}
        </p>
      }
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
        <button mat-menu-item (click)="code.insert(each[0])">
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

  protected readonly grouped = grouped;
  protected readonly presets = Object.values(rulesPresets);
  protected readonly turtle = [...turtleSymbols];
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  private readonly settings = computed(() => settingsOf(this.documents.document(), this.node()));
  private readonly beside = computed(() => {
    const { axiom } = this.settings();
    return { axiom: typeof axiom === 'string' ? axiom : '', names: rulesNamesOf(this.settings()) };
  });
  protected readonly fault = computed(() => rulesFault(this.beside(), this.code.text()));
  /** Modules after each round, as far as they are counted, and the faces behind them. */
  protected readonly counted = computed<Counted>(() => {
    if (this.fault()) return { text: '' };
    const document = this.documents.document();
    const wired = document.wires.filter(({ to }) => to[0] === this.node().id).map(({ to }) => to[1]);
    if (wired.some((name) => name !== 'roots')) return { text: 'How many modules there are depends on what is wired in.' };
    // Whatever else a number could follow is refused where it is set.
    const dials = this.documents.dials();
    const number = (name: string): number => Number(withDialValues(dials, this.settings()[name]));
    const { axiom, names } = this.beside();
    const used = rulesNumbers.slice(0, names.length);
    if (used.some((name) => Number.isNaN(number(name)))) return { text: 'How many modules there are differs from plant to plant.' };
    const each = wired.length ? ' of a plant' : '';
    try {
      const set = readRules(axiom, this.code.text(), names);
      const { counts, modules } = derive(set, { times: number('times'), seed: number('seed'), given: used.map(number), most: mostCounted }, unbounded);
      const last = counts.findIndex((_, i) => counts.slice(i).every((count) => count === counts[i]));
      const more = counts.length - 1 - last;
      const rounds = counts
        .slice(0, last + 1)
        .map(grouped)
        .join(' · ');
      const steps = modules.symbols.subarray(0, counts.at(-1)).reduce((sum, symbol) => sum + Number(symbol === drawing), 0);
      const behind = facesBehind(document, dials, [this.node().id, 'curves'], steps);
      return { text: `Modules${each} after each round: ${rounds}${more ? `, and no more from round ${last} on` : ''}`, behind: wired.length ? null : behind };
    } catch (error) {
      if (error instanceof RulesError) return { text: `More than ${grouped(mostCounted)} modules: ${error.reason.replace(/;.*/, '')}.` };
      throw error;
    }
  });
  protected readonly code = new CodeBox({
    parent: this.box,
    given: this.text,
    label: () => 'Rules',
    extensions: (keep) => [
      keymap.of([
        { key: 'Mod-Enter', run: keep },
        { key: 'Escape', run: (view) => (view.contentDOM.blur(), true) },
      ]),
      rulesLanguage(() => this.beside()),
    ],
    beside: () => this.beside(),
    isRight: (text) => !rulesFault(this.beside(), text),
    scrubbed: (text) => this.scrubbed.emit(text),
    committed: (text) => this.committed.emit(text),
  });

  protected begin({ label, settings }: RulesPreset): void {
    const { id } = this.node();
    const document = Object.entries(settings).reduce((now, [name, value]) => setSetting(now, id, name, value), this.documents.settledDocument());
    this.documents.apply(`Begin with ${label}`, document);
  }
}
