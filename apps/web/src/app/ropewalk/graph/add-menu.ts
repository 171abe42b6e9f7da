import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, signal, viewChild, type AfterViewInit } from '@angular/core';
import type { PortKind } from '@filaxis/core';
import { searchNodes } from './node-search';

/** A search for nodes at a place of the graph: type, choose with the arrow keys, Enter. */
@Component({
  selector: 'fx-add-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      class="field"
      type="text"
      role="combobox"
      aria-expanded="true"
      aria-controls="fx-add-list"
      [attr.aria-activedescendant]="found().length ? 'fx-add-' + current() : null"
      aria-label="Search nodes"
      [placeholder]="kind() ? 'What takes ' + kind() + '?' : 'Search nodes'"
      autocomplete="off"
      spellcheck="false"
      (input)="search(box.value)"
      (keydown)="key($event)"
      (blur)="closed.emit()"
    />
    <ul id="fx-add-list" role="listbox" aria-label="Nodes">
      @for (definition of found(); track definition.type; let i = $index) {
        <li
          role="option"
          [id]="'fx-add-' + i"
          [attr.aria-selected]="i === current()"
          [class.current]="i === current()"
          (pointermove)="point($event, i)"
          (pointerdown)="$event.preventDefault(); picked.emit(definition.type)"
        >
          <span class="name">{{ definition.label }}</span>
          <span class="family">{{ definition.family.label }}</span>
          <span class="summary">{{ definition.summary }}</span>
        </li>
      } @empty {
        <li class="none">No node is called that. Try a word for what it should do, such as pipe or sag.</li>
      }
    </ul>
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 5;
      width: 300px;
      padding: 8px;
      border: 1px solid var(--tag-edge);
      border-radius: 8px;
      background: var(--card);
      box-shadow: 0 8px 24px var(--shade);
    }
    ul {
      max-height: 290px;
      margin: 6px 0 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 1fr auto;
      padding: 4px 8px;
      border-radius: 5px;
      cursor: pointer;
    }
    li.current {
      background: var(--varies);
    }
    .name {
      font-weight: 600;
    }
    .family,
    .summary,
    .none {
      color: var(--slate);
      font-size: 12.5px;
    }
    .summary {
      grid-column: 1 / 3;
      line-height: 1.25;
    }
    .none {
      display: block;
      cursor: default;
    }
  `,
})
export class AddMenu implements AfterViewInit {
  /** The kind of wire that is to be taken; null: any node. */
  readonly kind = input<PortKind | null>(null);
  readonly picked = output<string>();
  readonly closed = output();
  protected readonly text = signal('');
  protected readonly current = signal(0);
  protected readonly found = computed(() => searchNodes(this.text(), this.kind()));
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  ngAfterViewInit(): void {
    this.box().nativeElement.focus({ preventScroll: true });
  }

  /** Points out what the pointer goes over: only when it moves, not when the list changes beneath it while somebody types. */
  protected point(event: PointerEvent, index: number): void {
    if (event.movementX || event.movementY) this.current.set(index);
  }

  protected search(text: string): void {
    this.text.set(text);
    this.current.set(0);
  }

  protected key(event: KeyboardEvent): void {
    event.stopPropagation();
    const last = this.found().length - 1;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      this.current.update((i) => Math.min(last, Math.max(0, i + (event.key === 'ArrowDown' ? 1 : -1))));
      this.box().nativeElement.parentElement?.querySelector(`#fx-add-${this.current()}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const definition = this.found()[this.current()];
      if (definition) this.picked.emit(definition.type);
    } else if (event.key === 'Escape') this.closed.emit();
  }
}
