import { knobsOf, settingsOf, type FilaxisDocument, type Knob } from '@filaxis/core';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DocumentService } from '../document/document.service';
import { setThroughDials, withAllDialValues } from '../document/dials';
import { Handles, type Pulled } from './handles';
import type { Stage } from './stage';

/** How long arms are that stand for no length of their own, of the size of what is shown. */
const armShare = 0.14;

/** The length of arms in a scene of a size, metres. */
export const armOf = (extent: number): number => Number((extent * armShare).toPrecision(2));

/** Handles of the chosen node, as its definition declares them. A drag is one change, of the dial where the setting follows one. */
@Component({
  selector: 'fx-node-handles',
  imports: [Handles],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fx-handles
      [stage]="stage()"
      [drawnFrames]="drawnFrames()"
      [knobs]="knobs()"
      (pulled)="documents.show(after($event))"
      (kept)="documents.apply($event.did + ' ' + $event.knob.label.toLowerCase(), after($event))"
      (dropped)="documents.dropPreview()"
    />
  `,
})
export class NodeHandles {
  protected readonly documents = inject(DocumentService);
  readonly stage = input.required<Pick<Stage, 'sight' | 'middle' | 'extent' | 'gridStep' | 'hitsAt' | 'curvePointAt'>>();
  readonly drawnFrames = input.required<number>();

  /** Arms keep their length while a hand is on them, though what is shown grows. */
  private readonly scene = computed(() => {
    this.documents.chosenId();
    const { middle, extent } = this.stage();
    return { middle: middle.toArray(), arm: armOf(extent) };
  });
  protected readonly knobs = computed<Knob[]>(() => {
    const node = this.documents.chosen();
    const definition = this.documents.chosenDefinition();
    if (!node || !definition) return [];
    const values = withAllDialValues(this.documents.dials(), settingsOf(this.documents.document(), node));
    return knobsOf(definition.handles, definition.settings, values, this.scene());
  });

  /** Settings that follow dials take these along. */
  protected after({ knob, value }: Pulled): FilaxisDocument {
    return setThroughDials(this.documents.settledDocument(), this.documents.chosen()!.id, knob.setting, value);
  }
}
