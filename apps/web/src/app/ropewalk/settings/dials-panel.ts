import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { nodeDefinitions, type Dial, type DialValue } from '@filaxis/core';
import { Icon } from '../../shared/icon';
import { NumberField } from '../../shared/number-field';
import { DocumentService } from '../document/document.service';
import { changeDial, dialUses, removeDial, setDialValue } from '../document/edits';

/** The document's dials: named values that settings follow. Dragging one runs the document at every step. */
@Component({
  selector: 'fx-dials',
  imports: [Icon, MatMenuModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dials-panel.html',
  styleUrl: './dials-panel.scss',
})
export class DialsPanel {
  protected readonly documents = inject(DocumentService);
  /** The dial to point out. */
  readonly marked = input<string | null>(null);
  protected readonly editing = signal<string | null>(null);

  protected readonly dials = computed(() => {
    const live = this.documents.liveDials();
    return (this.documents.document().dials ?? []).map((dial) => ({ ...dial, value: live[dial.id] ?? dial.value, uses: this.usesOf(dial.id) }));
  });

  private usesOf(id: string): string {
    const { nodes } = this.documents.document();
    const uses = dialUses(this.documents.document(), id).map(({ node, setting }) => {
      const definition = nodeDefinitions.get(nodes.find((candidate) => candidate.id === node)?.type ?? '');
      return `${definition?.label ?? node} ${definition?.settings[setting]?.label.toLowerCase() ?? setting}`;
    });
    return uses.length ? `Used by ${uses.join(', ')}` : 'Not used yet: choose “Follow” at a setting';
  }

  protected isNumber(dial: Dial): boolean {
    return dial.kind === 'number' || dial.kind === 'integer' || dial.kind === 'seed';
  }

  protected vectorOf(dial: Dial): readonly number[] | null {
    return dial.kind === 'vector' ? (dial.value as readonly number[]) : null;
  }

  protected withPart(vector: readonly number[], which: number, value: number): DialValue {
    return vector.map((old, k) => (k === which ? value : old)) as unknown as DialValue;
  }

  protected stepOf(dial: Dial): number {
    return dial.step ?? (dial.kind === 'number' || dial.kind === 'vector' ? 0.01 : 1);
  }

  /** How far the slider's filled part goes, in per cent. */
  protected filled(dial: Dial): number {
    const { min = 0, max = 1 } = dial;
    return max > min ? Math.min(100, Math.max(0, ((Number(dial.value) - min) / (max - min)) * 100)) : 0;
  }

  protected drag(dial: Dial, value: DialValue): void {
    this.documents.liveDials.update((live) => ({ ...live, [dial.id]: value }));
  }

  protected commit(dial: Dial, value: DialValue): void {
    const rest = { ...this.documents.liveDials() };
    delete rest[dial.id];
    // The document has the value before the live one goes, so that no run sees the old one in between.
    this.documents.apply(`Dial ${dial.label}`, setDialValue(this.documents.document(), dial.id, value));
    this.documents.liveDials.set(rest);
  }

  protected change(dial: Dial, change: Partial<Dial>): void {
    this.documents.apply(`Dial ${dial.label}`, changeDial(this.documents.document(), dial.id, change));
  }

  protected remove(dial: Dial): void {
    this.documents.apply(`Remove dial ${dial.label}`, removeDial(this.documents.document(), dial.id));
  }
}
