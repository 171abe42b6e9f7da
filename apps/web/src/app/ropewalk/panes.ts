import { inject, Injectable, signal } from '@angular/core';
import type { SplitGutterInteractionEvent } from 'angular-split';
import { DocumentService } from './document/document.service';
import { plainStrip, type ResultsTab, type StripView } from './results/results-pane';
import type { SideTab } from './side-pane';
import { keepView, type ViewState } from './view-state';

export type Pane = 'graph' | 'view' | 'panel' | 'strip';

/** How the window is shared out, and which tab each pane shows. */
@Injectable()
export class Panes {
  private readonly documents = inject(DocumentService);
  readonly panel = signal<SideTab>('settings');
  readonly tab = signal<ResultsTab>('strip');
  readonly strip = signal<StripView>(plainStrip);
  /** The pane that fills the window. */
  readonly full = signal<Pane | null>(null);
  /** Widths and heights, per cent. */
  readonly columns = signal<readonly number[]>([43.5, 56.5]);
  readonly rows = signal<readonly number[]>([65, 35]);

  /** As they were left; dials first where they were not. */
  begin({ columns, rows, panel = 'dials', strip, tab }: ViewState): void {
    if (columns) this.columns.set(columns);
    if (rows) this.rows.set(rows);
    this.panel.set(panel);
    if (strip) this.strip.set({ ...plainStrip, ...strip });
    if (tab) this.tab.set(tab);
  }

  /** What is to be kept of them, besides the sizes, which are kept as they are set. */
  state(): ViewState {
    return { panel: this.panel(), strip: this.strip(), tab: this.tab() };
  }

  resized(event: SplitGutterInteractionEvent, which: 'columns' | 'rows'): void {
    const sizes = event.sizes.map(Number);
    this[which].set(sizes);
    const id = this.documents.id();
    if (id) keepView(id, { [which]: sizes });
  }

  toggleFull(pane: Pane): void {
    this.full.update((now) => (now === pane ? null : pane));
  }

  shows(pane: Pane): boolean {
    return this.full() === null || this.full() === pane;
  }

  /** Opens the tab with what has to be looked at. */
  showTab(tab: ResultsTab): void {
    this.tab.set(tab);
    if (this.full() && this.full() !== 'strip') this.full.set(null);
  }

  pickCurve(curve: number): void {
    this.strip.update((view) => ({ ...view, curve }));
  }
}
