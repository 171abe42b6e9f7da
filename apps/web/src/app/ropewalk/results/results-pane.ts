import { outputsOf } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, model, output, viewChild } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { MatTabsModule } from '@angular/material/tabs';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { figure } from '../../shared/figures';
import { ChecksPanel } from '../checks/checks-panel';
import { ChecksService } from '../checks/checks.service';
import { DocumentService } from '../document/document.service';
import { setSetting } from '../document/edits';
import { EvaluationService } from '../evaluation.service';
import { HistoryPanel } from '../history/history-panel';
import { GuardedPanel, PanelGuard } from '../../shared/panel-guard';
import { PathStrip } from '../strip/path-strip';
import type { StripEdit } from '../strip/ramp-keys';
import { stripRows, type StripRow } from '../strip/strip-plot';
import { Player } from '../timeline/player';
import { TimelinePanel } from '../timeline/timeline';
import { UvSheetPanel, type SurfacePlace } from '../uv/uv-sheet';
import { ValuesTable } from '../values/values-table';

export type ResultsTab = 'strip' | 'uv' | 'values' | 'checks' | 'timeline' | 'history';

/** How the Path strip is looked at. */
export interface StripView {
  readonly curve: number;
  readonly rows: readonly StripRow[];
  /** The name in the strip's own row; null: none. */
  readonly name: string | null;
  readonly others: boolean;
}

export const plainStrip: StripView = { curve: 0, rows: ['radius', 'roll', 'curvature', 'attribute'], name: null, others: false };

/** What came out, in figures: the Path strip, UV sheet, Values, Checks and History, one at a time. */
@Component({
  selector: 'fx-results',
  imports: [
    ChecksPanel,
    ChoiceField,
    GuardedPanel,
    HistoryPanel,
    MatButtonModule,
    MatMenuModule,
    MatTabsModule,
    PanelGuard,
    PathStrip,
    TimelinePanel,
    UvSheetPanel,
    ValuesTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './results-pane.html',
  styleUrl: './results-pane.scss',
  host: { role: 'region', 'aria-label': 'Results' },
})
export class ResultsPane {
  protected readonly evaluation = inject(EvaluationService);
  protected readonly documents = inject(DocumentService);
  private readonly checks = inject(ChecksService);

  readonly tab = model.required<ResultsTab>();
  readonly strip = model.required<StripView>();
  readonly marked = model<number | null>(null);
  readonly clicked = input<readonly number[] | null>(null);
  /** What the pointer is over in the 3D view. */
  readonly over = input<SurfacePlace | null>(null);
  /** The place of the UV sheet under the pointer, in space. */
  readonly pointed = output<readonly number[] | null>();
  readonly flown = output<readonly number[]>();
  readonly picked = output<Float32Array | null>();
  readonly showNode = output<string>();
  readonly colour = output<string>();
  /** It fills the window. */
  readonly full = input(false);
  readonly filled = output();
  private readonly plot = viewChild(PathStrip);

  private readonly player = inject(Player);
  protected readonly tabs = computed((): readonly { readonly id: ResultsTab; readonly label: string }[] => [
    { id: 'strip', label: 'Path strip' },
    { id: 'uv', label: 'UV sheet' },
    { id: 'values', label: 'Values' },
    { id: 'checks', label: 'Checks' },
    ...(this.player.timed() ? [{ id: 'timeline', label: 'Timeline' } as const] : []),
    { id: 'history', label: 'History' },
  ]);
  /** The tab that is shown: what is not there any more is the strip. */
  protected readonly shown = computed(() => (this.tabs().some(({ id }) => id === this.tab()) ? this.tab() : 'strip'));
  protected readonly rowChoices = (Object.keys(stripRows) as StripRow[])
    .filter((row) => row !== 'attribute')
    .map((row) => ({ row, label: stripRows[row].label }));
  protected readonly rows = computed(() => new Set(this.strip().rows));
  protected readonly wrong = computed(() => (this.checks.findings() ?? []).filter(({ level }) => level === 'wrong').length);
  protected readonly looks = computed(() => (this.checks.findings() ?? []).length);
  protected readonly stripText = computed(() => {
    const data = this.evaluation.strip();
    return data ? `${data.curve + 1} of ${data.curves} · ${figure(data.length, 3)} m` : '';
  });
  protected readonly names = computed((): readonly Choice[] => [{ value: '', label: 'no value' }, ...plainChoices(this.evaluation.strip()?.names ?? [])]);
  /** The node that Values lists: the chosen one, else the first Output, else the last node. */
  protected readonly listed = computed(() => {
    const chosen = this.documents.chosen();
    if (chosen) return chosen.id;
    const document = this.documents.document();
    return (outputsOf(document)[0] ?? document.nodes.at(-1))?.id ?? null;
  });

  protected toggleRow(row: StripRow): void {
    this.strip.update((view) => ({ ...view, rows: view.rows.includes(row) ? view.rows.filter((other) => other !== row) : [...view.rows, row] }));
  }

  protected change(change: Partial<StripView>): void {
    this.strip.update((view) => ({ ...view, ...change }));
  }

  step(by: number): void {
    const data = this.evaluation.strip();
    if (data) this.change({ curve: (data.curve + by + data.curves) % data.curves });
  }

  protected flyAlong(index: number): void {
    const data = this.evaluation.strip();
    if (data) this.flown.emit(Array.from(data.positions.subarray(index * 3, index * 3 + 3)));
  }

  protected show({ node, setting, value }: StripEdit): void {
    this.documents.show(setSetting(this.documents.document(), node, setting, value));
  }

  protected keep({ node, setting, value }: StripEdit): void {
    this.documents.apply('Radius along the path', setSetting(this.documents.settledDocument(), node, setting, value));
  }

  protected copyStrip(): void {
    const text = this.plot()?.asText();
    if (text) void navigator.clipboard.writeText(text);
  }
}
