import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { CdkDrag, CdkDragHandle, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { dialKinds, type Dial, type DialKind, definitionById, labelById } from '@filaxis/core';
import { NumberField } from '../../shared/number-field';
import { addDial, changeDial, dialUses, moveDial, removeDial } from '../document/dials';
import { DocumentService } from '../document/document.service';
import { TextField } from '../../shared/text-field';
import { DialControl, dialStep, isNumberDial } from './dial-control';

/** The document's dials: named values that settings follow. Dragging one runs the document at every step. */
@Component({
  selector: 'fx-dials',
  imports: [CdkDrag, CdkDragHandle, CdkDropList, DialControl, MatButtonModule, MatIconModule, MatMenuModule, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dials-panel.html',
  styleUrl: './dials-panel.scss',
})
export class DialsPanel {
  protected readonly documents = inject(DocumentService);
  /** The dial to point out. */
  readonly marked = input<string | null>(null);
  readonly showNode = output<string>();
  protected readonly editing = signal<string | null>(null);
  protected readonly dialKinds = dialKinds;
  protected readonly kindNames: Readonly<Record<DialKind, string>> = {
    number: 'Number',
    integer: 'Whole number',
    vector: 'Vector',
    boolean: 'On or off',
    choice: 'Choice',
    colour: 'Colour',
    text: 'Text',
    seed: 'Seed',
  };
  protected readonly isNumber = isNumberDial;
  protected readonly stepOf = dialStep;

  protected readonly dials = computed(() =>
    this.documents.dials().map((dial) => {
      const uses = this.usesOf(dial.id);
      return { ...dial, uses, usedBy: uses.length ? `Used by ${uses.map(({ text }) => text).join(', ')}` : 'Not used yet' };
    }),
  );

  private usesOf(id: string): { node: string; text: string }[] {
    const document = this.documents.document();
    return dialUses(document, id).map(({ node, setting }) => {
      return { node, text: `${labelById(document, node)} ${definitionById(document, node)?.settings[setting]?.label.toLowerCase() ?? setting}` };
    });
  }

  protected change(dial: Dial, change: Partial<Dial>): void {
    this.documents.apply(`Dial ${dial.label}`, changeDial(this.documents.document(), dial.id, change));
  }

  protected setChoices(dial: Dial, text: string): void {
    const choices = [...new Set(text.split(',').map((each) => each.trim()))].filter((each) => each);
    if (choices.length) this.change(dial, { choices, value: choices.includes(String(dial.value)) ? dial.value : choices[0] });
  }

  protected move(dial: Dial, by: -1 | 1): void {
    this.documents.apply('Order of dials', moveDial(this.documents.document(), dial.id, by));
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    const dial = this.dials()[previousIndex];
    if (previousIndex !== currentIndex) this.documents.apply('Order of dials', moveDial(this.documents.document(), dial.id, currentIndex - previousIndex));
  }

  protected add(kind: DialKind): void {
    const made = addDial(this.documents.document(), kind);
    this.documents.apply('Add a dial', made.document);
    this.editing.set(made.id);
  }

  protected remove(dial: Dial): void {
    this.documents.apply(`Remove dial ${dial.label}`, removeDial(this.documents.document(), dial.id));
  }
}
