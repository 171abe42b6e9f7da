import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { firstValueFrom } from 'rxjs';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import type { Measures } from '@filaxis/core';
import { framesEnding, writers, type WriteCure } from '@filaxis/formats';
import type { FrameRange, WritableAnswer } from '@filaxis/protocol';
import { download } from '../../shared/assets';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { formValues } from '../../shared/form-values';
import { NumberField } from '../../shared/number-field';
import { TextField } from '../../shared/text-field';
import { counted, figure, grouped, type Counted } from '../../shared/figures';
import type { EvaluationService } from '../evaluation.service';
import { liveAnswers } from '../live-answers';
import { exportForm, offers, writeOptions } from './export-form';
import type { ExportSource } from './export-sources';
import { fileFormats, mediaType } from './file-formats';

export interface ExportData {
  readonly title: string;
  readonly evaluation: EvaluationService;
  /** The frames that there are, when anything depends on the time. */
  readonly frames: FrameRange | null;
  readonly sources: readonly ExportSource[];
  /** A node can be shown: the dialog closes with its id. */
  readonly graph: boolean;
}

/** What is told of a result, in this order. */
const toldCounts = ['faces', 'copies', 'curves', 'points'] as const satisfies readonly Counted[];

/** What keeps a file from being written, and what to press for it to be. */
interface Told {
  readonly text: string;
  readonly remedy: { readonly label: string; readonly run: () => void } | null;
}

/** Chooses a result and a format, writes the file and says what is in it. */
@Component({
  selector: 'fx-export',
  imports: [
    ChoiceField,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatDialogModule,
    MatProgressBar,
    MatRadioModule,
    NumberField,
    ReactiveFormsModule,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './export-dialog.html',
  styleUrl: './export-dialog.scss',
})
export class ExportDialog {
  protected readonly data = inject<ExportData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<ExportDialog, string>>(MatDialogRef);
  protected readonly form = exportForm(this.data);
  protected readonly chosen = formValues(this.form);
  protected readonly sources: readonly Choice[] = this.data.sources.map(({ id, label }) => ({ value: id, label }));
  private readonly nodes = computed(() => this.data.sources.find(({ id }) => id === this.chosen().source)?.nodes ?? []);
  protected readonly uvChoices = computed(() => plainChoices(this.writable()?.uvSets ?? []));
  protected readonly colourChoices = computed((): readonly Choice[] => {
    const colours = this.writable()?.colours ?? [];
    return [{ value: '', label: colours.includes('colour') ? 'colour' : 'none' }, ...plainChoices(colours.filter((each) => each !== 'colour'))];
  });
  protected readonly endings = Object.keys(writers);
  protected readonly formats = fileFormats;
  protected readonly grouped = grouped;
  protected readonly figure = figure;
  protected readonly frames = computed(() => framesEnding(this.chosen().ending, this.chosen().together));
  protected readonly framesSaid: Readonly<Record<string, string>> = {
    '.usda': 'one file with time samples',
    '.glb': 'one file with morph targets',
    '.zip': 'an archive with a file each',
  };
  /** What the chosen result has; null while that is not known. */
  protected readonly writable = signal<WritableAnswer | null>(null);
  protected readonly busy = signal(false);
  /** Why the last file was not written. */
  private readonly failed = signal<Told | null>(null);
  protected readonly measures = signal<Measures | null>(null);
  /** There was nothing to write, so the file holds nothing. */
  protected readonly empty = signal(false);
  private readonly bytes = signal(0);
  protected readonly size = computed(() => (this.bytes() > 1e6 ? `${(this.bytes() / 1e6).toFixed(1)} MB` : `${Math.ceil(this.bytes() / 1e3)} kB`));

  /** The objects of the file, by name, with their counts. */
  protected readonly pieces = computed(
    () =>
      this.writable()?.pieces.map(({ name, counts }) => ({
        name,
        counts: toldCounts.flatMap((what) => (counts[what] ? [counted(counts[what], what)] : [])).join(', '),
      })) ?? null,
  );

  /** What is in the way, before anything is written and after. */
  protected readonly problem = computed((): Told | null => {
    const found = this.writable();
    if (found?.fault) return { text: found.fault.message, remedy: this.showing(found.fault.node) };
    const { ending } = this.chosen();
    if (found && !found.endings.includes(ending)) return { text: `${fileFormats[ending].name} files hold no ${this.kinds()}.`, remedy: this.remedies.format };
    return this.failed();
  });
  /** What will certainly fail is not tried. */
  protected readonly possible = computed(
    () => this.data.sources.length > 0 && !!this.chosen().name.trim() && (!this.problem() || this.problem() === this.failed()),
  );

  constructor() {
    const question = computed(() => (this.nodes().length ? { nodes: this.nodes() } : null));
    liveAnswers(this.data.evaluation, 'writable', question)
      .pipe(takeUntilDestroyed())
      .subscribe((found) => this.learn(found));
    // What was wrong with other choices is of no interest.
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => this.failed.set(null));
  }

  private readonly remedies: Readonly<Record<WriteCure, Told['remedy']>> = {
    format: { label: 'Choose one that does', run: () => this.form.patchValue({ ending: this.writable()?.endings[0] ?? '.glb' }) },
    'no-tangents': { label: 'Without tangents', run: () => this.form.patchValue({ tangents: false }) },
    'no-colour': { label: 'Without vertex colour', run: () => this.form.patchValue({ colour: '' }) },
    'file-a-frame': { label: 'A file for each frame', run: () => this.form.patchValue({ together: false }) },
  };

  private showing(node: string): Told['remedy'] {
    return this.data.graph && node ? { label: 'Go to the node', run: () => this.dialog.close(node) } : null;
  }

  private readonly kinds = (): string => {
    const counts = this.writable()?.pieces.flatMap((piece) => toldCounts.filter((what) => piece.counts[what])) ?? [];
    return [...new Set(counts)].join(' or ');
  };

  protected offers(choice: Parameters<typeof offers>[1]): boolean {
    return offers(this.chosen().ending, choice);
  }

  /** Learns what the chosen result has; a choice that it has not is none. While that is not known, choices stay. */
  private learn(found: WritableAnswer | null): void {
    const { uv, colour } = this.form.controls;
    this.writable.set(found);
    if (!found) return;
    if (!found.uvSets.includes(uv.value)) uv.setValue('uv');
    if (!found.colours.includes(colour.value)) colour.setValue('');
  }

  protected async save(): Promise<void> {
    this.busy.set(true);
    this.failed.set(null);
    this.measures.set(null);
    this.empty.set(false);
    try {
      await this.write();
    } catch (error) {
      this.failed.set({ text: (error as Error).message, remedy: null });
    }
    this.busy.set(false);
  }

  private async write(): Promise<void> {
    const chosen = this.chosen();
    const name = chosen.name.trim();
    const range = chosen.framed ? { from: chosen.from, to: chosen.to } : null;
    const written = await firstValueFrom(this.data.evaluation.export(this.nodes(), chosen.ending, name, writeOptions(chosen), range));
    if (written.kind === 'export-failed') {
      const { message: text, obstacle } = written;
      const remedy = obstacle && ('node' in obstacle ? this.showing(obstacle.node) : this.remedies[obstacle.cure]);
      this.failed.set({ text, remedy });
      return;
    }
    const { file, companion, measures, empty } = written;
    const ending = chosen.framed ? this.frames() : chosen.ending;
    download(file, name + ending, mediaType(ending));
    if (companion) {
      // A second download in the same breath would take the place of the first.
      await new Promise((done) => setTimeout(done, 400));
      download(new TextEncoder().encode(companion.text), name + companion.ending, 'text/plain');
    }
    this.bytes.set(file.size);
    this.measures.set(measures);
    this.empty.set(empty);
  }
}
