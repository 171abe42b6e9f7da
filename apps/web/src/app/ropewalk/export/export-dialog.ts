import { outputsOf, settingsOf } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { firstValueFrom } from 'rxjs';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import type { FilaxisDocument, Measures } from '@filaxis/core';
import { framesEnding, writers } from '@filaxis/formats';
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

export interface ExportData {
  readonly title: string;
  readonly evaluation: EvaluationService;
  /** The frames that there are, when anything depends on the time. */
  readonly frames: FrameRange | null;
  /** What can be exported: outputs by name, and the chosen node. */
  readonly sources: readonly { readonly node: string; readonly label: string }[];
}

/** The outputs of a document, by name. */
export const exportSources = (document: FilaxisDocument): ExportData['sources'][number][] =>
  outputsOf(document).map((node) => ({ node: node.id, label: `Output “${String(settingsOf(document, node)['name'])}”` }));

const formats: Readonly<Record<string, string>> = {
  '.glb': 'GLB (binary glTF 2.0): meshes, materials, UVs and values; copies share their mesh, curves are lines. For game engines and renderers.',
  '.gltf': 'glTF 2.0 as text, with its data in it.',
  '.obj': 'OBJ and MTL: polygons as they are, with UVs, normals and materials; curves as lines.',
  '.stl': 'STL: triangles alone, for printing and measuring.',
  '.ply': 'PLY: polygons or points, with normals, UVs, colours and values.',
  '.usda': 'USD as text: meshes, materials, values, curves, copies.',
  '.svg': 'SVG: curves in plan.',
  '.csv': 'CSV: the points of curves with every value, a row each.',
  '.json': 'JSON: all geometry with every attribute, for scripts.',
};

/** What is told of a result, in this order. */
const toldCounts = ['faces', 'copies', 'curves', 'points'] as const satisfies readonly Counted[];

/** What is no text, as browsers are told. */
const mediaTypes: Readonly<Record<string, string>> = { '.glb': 'model/gltf-binary', '.stl': 'model/stl', '.zip': 'application/zip' };

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
  protected readonly form = exportForm(this.data);
  protected readonly chosen = formValues(this.form);
  protected readonly sources: readonly Choice[] = this.data.sources.map(({ node, label }) => ({ value: node, label }));
  protected readonly uvChoices = computed(() => plainChoices(this.writable()?.uvSets ?? []));
  protected readonly colourChoices = computed((): readonly Choice[] => {
    const colours = this.writable()?.colours ?? [];
    return [{ value: '', label: colours.includes('colour') ? 'colour' : 'none' }, ...plainChoices(colours.filter((each) => each !== 'colour'))];
  });
  protected readonly endings = Object.keys(writers);
  protected readonly formats = formats;
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
  protected readonly problem = signal<string | null>(null);
  protected readonly measures = signal<Measures | null>(null);
  /** There was nothing to write, so the file holds nothing. */
  protected readonly empty = signal(false);
  private readonly bytes = signal(0);
  protected readonly size = computed(() => (this.bytes() > 1e6 ? `${(this.bytes() / 1e6).toFixed(1)} MB` : `${Math.ceil(this.bytes() / 1e3)} kB`));

  /** What would be written, in words. */
  protected readonly says = computed(() => {
    const found = this.writable();
    if (!found) return 'This result has not been computed yet.';
    const words = toldCounts.flatMap((what) => (found.counts[what] ? [counted(found.counts[what], what)] : []));
    return words.length ? `Writes ${words.join(', ')}, called “${found.called}”.` : 'There is nothing in this result.';
  });

  constructor() {
    const source = computed(() => this.chosen().source);
    const question = computed(() => (source() ? { node: source() } : null));
    liveAnswers(this.data.evaluation, 'writable', question)
      .pipe(takeUntilDestroyed())
      .subscribe((found) => this.learn(found));
  }

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
    this.problem.set(null);
    this.measures.set(null);
    this.empty.set(false);
    try {
      const chosen = this.chosen();
      const name = chosen.name.trim();
      const range = chosen.framed ? { from: chosen.from, to: chosen.to } : null;
      const { file, companion, measures, empty } = await firstValueFrom(
        this.data.evaluation.export(chosen.source, chosen.ending, name, writeOptions(chosen), range),
      );
      const ending = chosen.framed ? this.frames() : chosen.ending;
      download(file, name + ending, mediaTypes[ending] ?? 'text/plain');
      if (companion) {
        // A second download in the same breath would take the place of the first.
        await new Promise((done) => setTimeout(done, 400));
        download(new TextEncoder().encode(companion.text), name + companion.ending, 'text/plain');
      }
      this.bytes.set(file.size);
      this.measures.set(measures);
      this.empty.set(empty);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
    this.busy.set(false);
  }
}
