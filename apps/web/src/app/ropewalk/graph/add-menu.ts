import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PortKind } from '@filaxis/core';
import { Finder } from '../../shared/finder';
import { groups, type Entry, type Find } from '../search/search';

/** The search at a place of the graph, for a node to add there. */
@Component({
  selector: 'fx-add-menu',
  imports: [Finder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fx-finder
      label="Search nodes"
      none="Nothing is called that. Try a word for what it should do, such as pipe or sag."
      [hint]="kind() ? 'What takes ' + kind() + '?' : 'Search nodes'"
      [headings]="groups"
      [begin]="begin()"
      [search]="search()"
      (picked)="picked.emit($event)"
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
  readonly find = input.required<Find>();
  /** The kind of wire that is to be taken; null: any node. */
  readonly kind = input<PortKind | null>(null);
  /** What has been typed already. */
  readonly begin = input('');
  readonly picked = output<Entry>();
  readonly closed = output();
  protected readonly groups = groups;
  protected readonly search = computed(() => {
    const kind = this.kind();
    const find = this.find();
    return (text: string): readonly Entry[] => find(text, kind);
  });
}
