import { CdkConnectedOverlay, CdkOverlayOrigin } from '@angular/cdk/overlay';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { TextField } from '../../shared/text-field';
import { DocumentService } from '../document/document.service';
import { forgetView, freeViewName, keepViewAs, keptViews } from '../document/kept-views';
import { axisOf, cutAcross, type CutAxis } from './cut';
import { lightings, type LightingName } from './lighting';
import type { CameraState } from './orbit';
import type { StageOptions } from './stage-options';

const labelled = <T extends string>(choices: Readonly<Record<T, string>>): Choice<T>[] =>
  (Object.entries(choices) as [T, string][]).map(([value, label]) => ({ value, label }));

/** How the 3D view looks: light, faces, lines, camera, a cut, and views that the document keeps. */
@Component({
  selector: 'fx-view-panel',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin, ChoiceField, MatButtonModule, MatCheckboxModule, MatIconModule, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view-panel.html',
  styleUrl: './view-panel.scss',
})
export class ViewPanel {
  private readonly documents = inject(DocumentService);
  readonly options = input.required<StageOptions>();
  readonly camera = input.required<CameraState>();
  /** Bytes that the graphics hold. */
  readonly bytes = input(0);
  /** Whether the document may be changed from here. */
  readonly keeps = input(true);
  readonly changed = output<Partial<StageOptions>>();
  readonly pictures = output();
  readonly mouse = output();
  readonly lens = output<number>();
  readonly parallel = output<boolean>();
  readonly shown = output<CameraState>();
  /** The view is to be cut open, or closed. */
  readonly cutAsked = output();

  protected readonly open = signal(false);
  protected readonly lights = labelled(Object.fromEntries(Object.entries(lightings).map(([name, { label }]) => [name, label])) as Record<LightingName, string>);
  protected readonly backs = labelled({ marked: 'marked', hidden: 'hidden', fronts: 'as fronts' });
  protected readonly pins = labelled({ none: 'none', vertices: 'at vertices', faces: 'at faces' });
  protected readonly edges = labelled({ none: 'none', borders: 'borders', sharp: 'borders and sharp' });
  protected readonly axisChoices = labelled({ x: 'across x', y: 'across y', z: 'across z', own: 'its own way' });
  protected readonly kept = computed(() => keptViews(this.documents.document()));
  protected readonly megabytes = computed(() => (this.bytes() / 1e6).toFixed(1));
  protected readonly cutAxis = computed(() => axisOf(this.options().cut));

  protected toggle(): void {
    this.open.update((open) => !open);
  }

  /** Escape closes the panel, and means nothing else then. */
  protected close(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return;
    event.preventDefault();
    this.open.set(false);
  }

  protected cutAcross(axis: string): void {
    const { cut } = this.options();
    if (cut && axis !== 'own') this.changed.emit({ cut: cutAcross(cut.point, axis as CutAxis) });
  }

  protected keep(): void {
    const document = this.documents.document();
    this.documents.apply('Keep a view', keepViewAs(document, freeViewName(document), this.camera()));
  }

  protected rename(from: string, to: string): void {
    const document = this.documents.document();
    const name = to.trim();
    const view = keptViews(document).find((each) => each.name === from);
    if (!view || !name || name === from) return;
    this.documents.apply('Rename a view', keepViewAs(forgetView(document, from), name, view.camera));
  }

  protected forget(name: string): void {
    this.documents.apply('Forget a view', forgetView(this.documents.document(), name));
  }
}
