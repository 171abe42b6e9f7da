import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked, viewChild } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import type { PerElement } from '@filaxis/core';
import type { ColumnAnswer, TableAnswer, TableQuestion } from '@filaxis/protocol';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { figure, grouped } from '../../shared/figures';
import { download } from '../../shared/assets';
import { EvaluationService } from '../evaluation.service';
import { ValuePlot } from '../settings/varying/value-plot';
import { MatButtonModule } from '@angular/material/button';
import { TextField } from '../../shared/text-field';

const rowHeight = 22;
/** Rows asked for at once: three windows of a usual height. */
const windowRows = 60;
/** Most chosen elements that are marked in the 3D view. */
const mostMarked = 4000;
/** Beyond this browsers refuse taller boxes, so the scroll is scaled. */
const tallest = 15_000_000;

const perNames: Readonly<Record<PerElement, string>> = { point: 'points', curve: 'curves', face: 'faces', copy: 'copies', whole: 'the whole' };

/** Every element's values of one result: scrolled, sorted, filtered by a formula, picked here or in the 3D view. */
@Component({
  selector: 'fx-values',
  imports: [ChoiceField, MatButtonModule, TextField, ValuePlot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './values-table.html',
  styleUrl: './values-table.scss',
})
export class ValuesTable {
  private readonly evaluation = inject(EvaluationService);
  /** The node whose result is listed. */
  readonly node = input<string | null>(null);
  /** A place that was clicked in the 3D view, metres. */
  readonly clicked = input<readonly number[] | null>(null);
  /** Places of the elements that are picked or left by the filter. */
  readonly picked = output<Float32Array | null>();
  readonly flown = output<readonly number[]>();
  readonly colour = output<string>();

  protected readonly rowHeight = rowHeight;
  protected readonly grouped = grouped;
  protected readonly perNames = perNames;
  protected readonly kindChoices = computed(() => plainChoices(this.table()?.kinds ?? []));
  protected readonly perChoices = computed(() => (this.table()?.pers ?? []).map((value): Choice<PerElement> => ({ value, label: perNames[value] })));
  protected readonly kind = signal<string | null>(null);
  protected readonly per = signal<PerElement | null>(null);
  protected readonly sort = signal<TableQuestion['sort']>(null);
  protected readonly filter = signal('');
  protected readonly first = signal(0);
  protected readonly table = signal<TableAnswer | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly column = signal<string | null>(null);
  protected readonly figures = signal<ColumnAnswer | null>(null);
  /** The picked element, by its number. */
  protected readonly element = signal<number | null>(null);
  private readonly scroller = viewChild<ElementRef<HTMLElement>>('scroller');
  private asked = 0;

  protected readonly height = computed(() => Math.min(tallest, (this.table()?.total ?? 0) * rowHeight));
  /** Rows a pixel of scroll. */
  private readonly scale = computed(() => ((this.table()?.total ?? 0) * rowHeight) / Math.max(1, this.height()));
  protected readonly rows = computed(() => {
    const table = this.table();
    if (!table) return [];
    const width = table.columns.length;
    return Array.from(table.elements, (element, r) => ({
      element,
      at: table.from + r,
      cells: Array.from(table.values.subarray(r * width, (r + 1) * width), (value) => ({ text: figure(value, 6), bad: !Number.isFinite(value) })),
    }));
  });
  protected readonly offset = computed(() => ((this.table()?.from ?? 0) * rowHeight) / this.scale());
  private readonly question = computed<TableQuestion | null>(() => {
    const node = this.node();
    if (!node) return null;
    return { node, kind: this.kind(), per: this.per(), sort: this.sort(), filter: this.filter(), from: Math.max(0, this.first() - 15), count: windowRows };
  });

  constructor() {
    effect(() => {
      this.evaluation.nodes();
      const question = this.question();
      if (question) untracked(() => void this.ask(question));
    });
    effect(() => {
      const place = this.clicked();
      if (place) untracked(() => void this.locate(place));
    });
    // Another node begins anew.
    effect(() => {
      this.node();
      untracked(() => {
        this.sort.set(null);
        this.filter.set('');
        this.first.set(0);
        this.element.set(null);
        this.column.set(null);
        this.figures.set(null);
      });
    });
  }

  private async ask(question: TableQuestion): Promise<void> {
    const mine = ++this.asked;
    try {
      const table = await firstValueFrom(this.evaluation.ask('table', question));
      if (mine !== this.asked) return;
      this.table.set(table);
      this.failed.set(null);
      await this.markPicks(question);
      const column = this.column();
      if (column && table.columns.includes(column)) this.figures.set(await firstValueFrom(this.evaluation.ask('column', { ...question, column })));
    } catch (error) {
      if (mine !== this.asked) return;
      this.failed.set((error as Error).message);
      if (!question.filter) this.table.set(null);
    }
  }

  /** What a filter leaves is marked in the 3D view, and so is the picked row. */
  private async markPicks(question: TableQuestion): Promise<void> {
    const table = this.table();
    if (!table) return this.picked.emit(null);
    const row = this.element() === null ? -1 : table.elements.indexOf(this.element()!);
    if (!question.filter.trim()) return this.picked.emit(row < 0 ? null : table.places.slice(row * 3, row * 3 + 3));
    const all = await firstValueFrom(this.evaluation.ask('table', { ...question, from: 0, count: mostMarked }));
    this.picked.emit(all.places);
  }

  /** Finds the element at a place and scrolls to it. */
  private async locate(place: readonly number[]): Promise<void> {
    const question = this.question();
    if (!question) return;
    const found = await firstValueFrom(this.evaluation.ask('locate', { ...question, place: [place[0], place[1], place[2]] })).catch(() => null);
    if (!found) return;
    this.element.set(found.element);
    const scroller = this.scroller()?.nativeElement;
    if (found.row !== null && scroller) scroller.scrollTop = Math.max(0, (found.row * rowHeight - scroller.clientHeight / 2) / this.scale());
    this.picked.emit(Float32Array.from(found.place));
  }

  protected scrolled(event: Event): void {
    const { scrollTop } = event.target as HTMLElement;
    this.first.set(Math.floor((scrollTop * this.scale()) / rowHeight));
  }

  /** Sorts by a column; again the other way, then not at all. */
  protected sortBy(column: string): void {
    const now = this.sort();
    this.sort.set(now?.column !== column ? { column, descending: false } : now.descending ? null : { column, descending: true });
    this.showFigures(column);
  }

  protected sortState(column: string): 'ascending' | 'descending' | 'none' {
    const now = this.sort();
    return now?.column !== column ? 'none' : now.descending ? 'descending' : 'ascending';
  }

  protected showFigures(column: string): void {
    this.column.set(column);
    const question = this.question();
    if (question)
      this.evaluation.ask('column', { ...question, column }).subscribe({ next: (figures) => this.figures.set(figures), error: () => this.figures.set(null) });
  }

  protected setFilter(text: string): void {
    this.first.set(0);
    this.filter.set(text);
    const scroller = this.scroller()?.nativeElement;
    if (scroller) scroller.scrollTop = 0;
  }

  protected pick(row: number): void {
    const table = this.table();
    const r = table ? row - table.from : -1;
    if (!table || r < 0 || r >= table.elements.length) return;
    this.element.set(table.elements[r]);
    const place = table.places.slice(r * 3, r * 3 + 3);
    if (!this.filter().trim()) this.picked.emit(place);
    this.flown.emit(Array.from(place));
  }

  protected rowKey(event: KeyboardEvent, row: number): void {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key];
    if (event.key === 'Enter' || event.key === ' ') this.pick(row);
    else if (by) {
      const next = Math.min((this.table()?.total ?? 1) - 1, Math.max(0, row + by));
      const scroller = this.scroller()!.nativeElement;
      const top = (next * rowHeight) / this.scale();
      if (top < scroller.scrollTop + rowHeight || top > scroller.scrollTop + scroller.clientHeight - 3 * rowHeight) scroller.scrollTop += by * rowHeight;
      setTimeout(() => scroller.querySelector<HTMLElement>(`[data-row="${next}"]`)?.focus(), 60);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected async csv(): Promise<string | null> {
    const question = this.question();
    try {
      return question && (await firstValueFrom(this.evaluation.ask('csv', question)));
    } catch (error) {
      this.failed.set((error as Error).message);
      return null;
    }
  }

  protected async copy(): Promise<void> {
    const text = await this.csv();
    if (text !== null) await navigator.clipboard.writeText(text);
  }

  protected async save(): Promise<void> {
    const text = await this.csv();
    if (text !== null) download(new TextEncoder().encode(text), `${this.node()}-${this.table()?.per ?? 'values'}.csv`, 'text/csv');
  }
}
