import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { NodeDefinition, PortKind } from '@filaxis/core';
import { Finder, type Found } from '../../shared/finder';
import { searchNodes } from './node-search';

interface FoundNode extends Found {
  readonly type: string;
}

const asFound = ({ type, label, family, summary }: NodeDefinition): FoundNode => ({ type, name: label, mark: family.label, detail: summary });

/** A search for nodes at a place of the graph. */
@Component({
  selector: 'fx-add-menu',
  imports: [Finder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fx-finder
      label="Search nodes"
      none="No node is called that. Try a word for what it should do, such as pipe or sag."
      [hint]="kind() ? 'What takes ' + kind() + '?' : 'Search nodes'"
      [begin]="begin()"
      [search]="search()"
      (picked)="picked.emit($event.type)"
      (closed)="closed.emit()"
    />
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 5;
      width: 300px;
      padding: 6px;
      border: 1px solid var(--tag-edge);
      border-radius: 8px;
      background: var(--card);
      box-shadow: 0 8px 24px var(--shade);
    }
  `,
})
export class AddMenu {
  /** The kind of wire that is to be taken; null: any node. */
  readonly kind = input<PortKind | null>(null);
  /** What has been typed already. */
  readonly begin = input('');
  readonly picked = output<string>();
  readonly closed = output();
  protected readonly search = computed(() => {
    const kind = this.kind();
    return (text: string): FoundNode[] => searchNodes(text, kind).map(asFound);
  });
}
