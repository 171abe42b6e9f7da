import { outputsOf, settingsOf } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatRadioModule } from '@angular/material/radio';
import type { FilaxisDocument, Measures } from '@filaxis/core';
import { framesEnding, writers, type WriteOptions } from '@filaxis/formats';
import type { FrameRange, WritableAnswer } from '@filaxis/protocol';
import { download, fileName } from '../../shared/assets';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { TextField } from '../../shared/text-field';
import { counted, figure, grouped, type Counted } from '../../shared/figures';
import type { EvaluationService } from '../evaluation.service';

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

/** Formats in which each choice makes a difference. */
const offered = {
  expanded: ['.glb', '.gltf', '.usda', '.json'],
  instances: ['.glb', '.gltf', '.usda'],
  parts: ['.glb', '.gltf', '.usda', '.obj'],
  tangents: ['.glb', '.gltf'],
  welded: ['.ply'],
  uv: ['.glb', '.gltf', '.obj', '.ply', '.usda'],
  colour: ['.glb', '.gltf', '.obj', '.ply', '.usda'],
} as const satisfies { readonly [Choice in keyof WriteOptions]?: readonly string[] };

/** Chooses a result and a format, writes the file and says what is in it. */
/** What is no text, as browsers are told. */
const mediaTypes: Readonly<Record<string, string>> = { '.glb': 'model/gltf-binary', '.stl': 'model/stl', '.zip': 'application/zip' };

@Component({
  selector: 'fx-export',
  imports: [ChoiceField, MatButtonModule, MatButtonToggleModule, MatCheckboxModule, MatDialogModule, MatProgressBar, MatRadioModule, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Export</h2>
    <mat-dialog-content>
      @if (data.sources.length) {
        <label class="row">
          <span>Result</span>
          <fx-choice label="Result" [choices]="sources" [value]="source()" (chosen)="source.set($event)" />
        </label>
        <fieldset>
          <legend>Format</legend>
          <mat-radio-group aria-label="Format" [value]="ending()" (change)="ending.set($event.value)">
            @for (each of endings; track each) {
              <mat-radio-button [value]="each">{{ formats[each] }}</mat-radio-button>
            }
          </mat-radio-group>
        </fieldset>
        @if (offers('expanded') && writable()?.copies) {
          <mat-checkbox [checked]="expanded()" (change)="expanded.set($event.checked)">Copies as one mesh</mat-checkbox>
        }
        @if (offers('instances') && writable()?.copies && !expanded()) {
          <mat-checkbox [checked]="instances()" (change)="instances.set($event.checked)"
            >Copies as instances: smaller, but some readers show only one of them</mat-checkbox
          >
        }
        @if (offers('parts') && (writable()?.parts ?? 0) > 1) {
          <mat-checkbox [checked]="parts()" (change)="parts.set($event.checked)">Each of its {{ writable()!.parts }} parts as an object</mat-checkbox>
        }
        @if (offers('tangents')) {
          <mat-checkbox [checked]="tangents()" (change)="tangents.set($event.checked)">Tangents for normal maps (MikkTSpace)</mat-checkbox>
        }
        @if (offers('welded')) {
          <mat-checkbox [checked]="welded()" (change)="welded.set($event.checked)"
            >One vertex a point: UVs at the corners of faces, which some readers do not know. Otherwise a point at a seam is several vertices.</mat-checkbox
          >
        }
        @if (offers('uv') && (writable()?.uvSets ?? []).length > 1) {
          <label class="row">
            <span>First UV set</span>
            <fx-choice label="First UV set" [choices]="uvChoices()" [value]="uv()" (chosen)="uv.set($event)" />
          </label>
        }
        @if (offers('colour') && writable()?.colours?.length) {
          <label class="row">
            <span>Vertex colour</span>
            <fx-choice label="Vertex colour" [choices]="colourChoices()" [value]="colour()" (chosen)="colour.set($event)" />
          </label>
        }
        @if (says(); as text) {
          <p class="says">{{ text }}</p>
        }
        <div class="row">
          <span id="export-up">Up axis</span>
          <mat-button-toggle-group aria-labelledby="export-up" hideSingleSelectionIndicator [value]="up()" (change)="up.set($event.value)">
            <mat-button-toggle value="y">Y</mat-button-toggle>
            <mat-button-toggle value="z">Z</mat-button-toggle>
          </mat-button-toggle-group>
        </div>
        <div class="row">
          <span id="export-unit">Unit</span>
          <mat-button-toggle-group aria-labelledby="export-unit" hideSingleSelectionIndicator [value]="unit()" (change)="unit.set($event.value)">
            <mat-button-toggle value="m">metres</mat-button-toggle>
            <mat-button-toggle value="cm">centimetres</mat-button-toggle>
            <mat-button-toggle value="mm">millimetres</mat-button-toggle>
          </mat-button-toggle-group>
        </div>
        @if (data.frames; as range) {
          <mat-checkbox [checked]="framed()" (change)="framed.set($event.checked)">Every frame: {{ framesSaid[frames()] }}</mat-checkbox>
          @if (framed()) {
            @if (ending() === '.glb') {
              <mat-checkbox [checked]="together()" (change)="together.set($event.checked)"
                >One file that engines play: frames as morph targets. Faces have to be the same in every frame.</mat-checkbox
              >
            }
            <div class="row frames">
              <span>Frames</span>
              <fx-number
                label="First frame to write"
                [value]="from()"
                [whole]="true"
                [step]="1"
                [min]="range.from"
                [max]="to()"
                (committed)="from.set($event)"
              />
              <span>to</span>
              <fx-number label="Last frame to write" [value]="to()" [whole]="true" [step]="1" [min]="from()" [max]="range.to" (committed)="to.set($event)" />
            </div>
          }
        }
        <label class="row">
          <span>File name</span>
          <fx-text label="File name" [value]="name()" (typed)="name.set($event)" />
        </label>
      } @else {
        <p>There is nothing to export yet. Wire a result to an Output node.</p>
      }
      @if (busy() && framed()) {
        <mat-progress-bar mode="determinate" [value]="100 * data.evaluation.writing()" aria-label="Frames written" />
      }
      @if (problem(); as text) {
        <p class="problem" role="alert">{{ text }}</p>
      }
      @if (measures(); as m) {
        <p class="done" role="status">
          Written: {{ size() }}. {{ grouped(m.faces) }} faces, {{ grouped(m.triangles) }} triangles, {{ grouped(m.vertices) }} points; area
          {{ figure(m.area, 3) }} m², volume {{ figure(m.volume, 3) }} m³{{
            m.boundaryEdges ? ', ' + grouped(m.boundaryEdges) + ' open edges' : m.faces ? ', closed' : ''
          }}.
        </p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (busy() && framed()) {
        <button type="button" matButton="outlined" (click)="data.evaluation.stopWriting()">Stop</button>
      }
      <button type="button" matButton="outlined" mat-dialog-close>Close</button>
      <button type="button" matButton="filled" [disabled]="busy() || !data.sources.length || !name().trim()" (click)="save()">
        {{ busy() ? 'Writing …' : 'Download ' + name().trim() + (framed() ? frames() : ending()) }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: 90px 1fr;
      align-items: center;
      margin: 8px 0;
    }
    .frames {
      grid-template-columns: 90px 90px 24px 90px;
      gap: 6px;
    }
    mat-button-toggle-group {
      justify-self: start;
      --mat-button-toggle-height: 30px;
      --mat-button-toggle-shape: 8px;
    }
    fieldset {
      margin: 10px 0;
      padding: 6px 12px 8px;
      border: 1px solid var(--seam);
      border-radius: 8px;
    }
    mat-radio-button,
    mat-checkbox {
      display: block;
    }
    .says {
      margin: 8px 0;
    }
    .problem {
      color: var(--madder);
    }
    .done {
      color: var(--verdigris);
    }
    mat-dialog-actions {
      gap: 8px;
      padding: 0 24px 16px;
    }
  `,
})
export class ExportDialog {
  protected readonly data = inject<ExportData>(MAT_DIALOG_DATA);
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
  protected readonly source = signal(this.data.sources[0]?.node ?? '');
  protected readonly ending = signal('.glb');
  protected readonly name = signal(fileName(this.data.title));
  protected readonly expanded = signal(false);
  protected readonly instances = signal(false);
  protected readonly up = signal<'y' | 'z'>('y');
  protected readonly unit = signal<'m' | 'cm' | 'mm'>('m');
  protected readonly parts = signal(false);
  protected readonly tangents = signal(false);
  protected readonly welded = signal(false);
  /** Whether all frames are written, and which. */
  protected readonly framed = signal(false);
  protected readonly together = signal(false);
  protected readonly frames = computed(() => framesEnding(this.ending(), this.together()));
  protected readonly framesSaid: Readonly<Record<string, string>> = {
    '.usda': 'one file with time samples',
    '.glb': 'one file with morph targets',
    '.zip': 'an archive with a file each',
  };
  protected readonly from = signal(this.data.frames?.from ?? 0);
  protected readonly to = signal(this.data.frames?.to ?? 0);
  protected readonly uv = signal('uv');
  /** The value that goes out as the vertex colour; empty: the one of that name. */
  protected readonly colour = signal('');
  /** What the chosen result has; null while that is not known. */
  protected readonly writable = signal<WritableAnswer | null>(null);
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly measures = signal<Measures | null>(null);
  private readonly bytes = signal(0);
  protected readonly size = computed(() => (this.bytes() > 1e6 ? `${(this.bytes() / 1e6).toFixed(1)} MB` : `${Math.ceil(this.bytes() / 1e3)} kB`));

  /** What would be written, in words. */
  protected readonly says = computed(() => {
    const found = this.writable();
    if (!found) return '';
    const words = toldCounts.flatMap((what) => (found.counts[what] ? [counted(found.counts[what], what)] : []));
    return words.length ? `Writes ${words.join(', ')}, called “${found.called}”.` : 'There is nothing in this result.';
  });

  constructor() {
    effect(() => void this.lookAt(this.source()));
  }

  protected offers(choice: keyof typeof offered): boolean {
    return (offered[choice] as readonly string[]).includes(this.ending());
  }

  /** Learns what the chosen result has; a choice that it has not is none. */
  private async lookAt(node: string): Promise<void> {
    const found = node ? await firstValueFrom(this.data.evaluation.ask('writable', { node })).catch(() => null) : null;
    if (node !== this.source()) return;
    this.writable.set(found);
    if (!found?.uvSets.includes(this.uv())) this.uv.set('uv');
    if (!found?.colours.includes(this.colour())) this.colour.set('');
  }

  protected async save(): Promise<void> {
    this.busy.set(true);
    this.problem.set(null);
    this.measures.set(null);
    try {
      const name = this.name().trim();
      const how = {
        expanded: this.expanded(),
        instances: this.instances(),
        up: this.up(),
        unit: this.unit(),
        together: this.together(),
        ...(this.offers('parts') && { parts: this.parts() }),
        ...(this.offers('tangents') && { tangents: this.tangents() }),
        ...(this.offers('welded') && { welded: this.welded() }),
        ...(this.offers('uv') && this.uv() !== 'uv' && { uv: this.uv() }),
        ...(this.offers('colour') && this.colour() && { colour: this.colour() }),
      };
      const { file, companion, measures } = await firstValueFrom(
        this.data.evaluation.export(this.source(), this.ending(), name, how, this.framed() ? { from: this.from(), to: this.to() } : null),
      );
      const ending = this.framed() ? this.frames() : this.ending();
      download(file, name + ending, mediaTypes[ending] ?? 'text/plain');
      if (companion) {
        // A second download in the same breath would take the place of the first.
        await new Promise((done) => setTimeout(done, 400));
        download(new TextEncoder().encode(companion.text), name + companion.ending, 'text/plain');
      }
      this.bytes.set(file.size);
      this.measures.set(measures);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
    this.busy.set(false);
  }
}
