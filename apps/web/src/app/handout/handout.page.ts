import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild, type OnDestroy, type OnInit } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Title } from '@angular/platform-browser';
import { dialFault, firstMoment, parseDialText, type Dial, type DialValue } from '@filaxis/core';
import { ApiError, ApiService } from '../shared/api.service';
import { ThemeService } from '../shared/theme.service';
import { setDialValue } from '../ropewalk/document/dials';
import { DocumentService } from '../ropewalk/document/document.service';
import { EvaluationService } from '../ropewalk/evaluation.service';
import { ExportDialog, type ExportData } from '../ropewalk/export/export-dialog';
import { outputSources } from '../ropewalk/export/export-sources';
import { DialControl } from '../ropewalk/settings/dial-control';
import { Moment } from '../ropewalk/timeline/moment';
import { Player } from '../ropewalk/timeline/player';
import { TimelinePanel } from '../ropewalk/timeline/timeline';
import { View3d } from '../ropewalk/view3d/view3d';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';

/** A document's dials, what they make, and the file of it: nothing else, and nothing that is stored changes. */
@Component({
  selector: 'fx-handout',
  imports: [DialControl, MatButtonModule, MatIconModule, TimelinePanel, View3d],
  providers: [DocumentService, EvaluationService, Moment, Player],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './handout.page.html',
  styleUrl: './handout.page.scss',
})
export class HandoutPage implements OnInit, OnDestroy {
  readonly token = input.required<string>();

  protected readonly documents = inject(DocumentService);
  protected readonly evaluation = inject(EvaluationService);
  protected readonly player = inject(Player);
  private readonly moment = inject(Moment);
  protected readonly themes = inject(ThemeService);
  private readonly api = inject(ApiService);
  private readonly dialogs = inject(MatDialog);
  private readonly titles = inject(Title);
  protected readonly view = viewChild(View3d);

  protected readonly opened = signal(false);
  protected readonly failed = signal<string | null>(null);
  protected readonly copied = signal(false);
  private colour = signal<string | null>(null);
  /** The values that the dials came with. */
  private given: readonly Dial[] = [];

  protected readonly changed = computed(() => this.changedDials().length > 0);
  protected readonly reason = computed(() => {
    const [problem] = this.evaluation.problems();
    const crashed = this.evaluation.crashed();
    if (crashed) return { text: crashed, node: null };
    return problem && !this.evaluation.counts() ? { text: problem.message, node: null } : null;
  });
  protected readonly trouble = computed(() => this.evaluation.problems()[0]?.message ?? null);

  constructor() {
    effect(() => {
      this.documents.document();
      this.documents.liveDials();
      this.moment.time();
      const show = {
        shows: 'outputs' as const,
        looked: null,
        peek: null,
        curve: 0,
        stripName: null,
        stripOthers: false,
        chosen: null,
        colour: this.colour(),
        ghost: null,
      };
      if (this.opened()) untracked(() => this.evaluation.evaluate(show));
    });
  }

  async ngOnInit(): Promise<void> {
    try {
      this.api.assetFolder = `/api/handouts/${encodeURIComponent(this.token())}/assets`;
      const { document } = await this.api.handout(this.token());
      this.given = document.dials ?? [];
      let shown = document;
      const asked = new URLSearchParams(location.search);
      for (const dial of this.given) {
        const text = asked.get(dial.id);
        const value = text === null ? undefined : parseDialText(dial, text);
        if (value !== undefined && dialFault(dial, value) === null) shown = setDialValue(shown, dial.id, value as DialValue);
      }
      this.documents.openLoose(shown);
      this.moment.time.set(firstMoment(shown));
      this.titles.setTitle(`${document.title} · Filaxis`);
      this.opened.set(true);
    } catch (error) {
      this.failed.set(error instanceof ApiError && error.status === 404 ? 'This handout does not exist, or is no longer open.' : (error as Error).message);
    }
  }

  ngOnDestroy(): void {
    this.api.assetFolder = '/api/assets';
  }

  private changedDials(): readonly Dial[] {
    return (this.documents.document().dials ?? []).filter(
      (dial) => JSON.stringify(dial.value) !== JSON.stringify(this.given.find(({ id }) => id === dial.id)?.value),
    );
  }

  protected showColour(name: string | null): void {
    this.colour.set(name);
  }

  protected reset(): void {
    let document = this.documents.document();
    for (const dial of this.given) document = setDialValue(document, dial.id, dial.value);
    this.documents.apply('Reset', document);
  }

  /** The link with the dials as they stand. */
  protected async copyLink(): Promise<void> {
    const query = new URLSearchParams(
      this.changedDials().map(({ id, value }): [string, string] => [id, typeof value === 'string' ? value : JSON.stringify(value)]),
    );
    await navigator.clipboard.writeText(`${location.origin}${location.pathname}${query.size ? `?${query.toString()}` : ''}`);
    this.copied.set(true);
    setTimeout(() => this.copied.set(false), 2500);
  }

  protected export(): void {
    const document = this.documents.document();
    const [sources, title] = [outputSources(document), document.title];
    this.dialogs.open<ExportDialog, ExportData>(ExportDialog, {
      data: { title, evaluation: this.evaluation, sources, frames: this.player.range(), graph: false },
      width: '680px',
      maxWidth: '94vw',
    });
  }
}
