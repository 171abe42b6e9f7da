import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { NodeDefinition } from '@filaxis/core';
import { recipes, type Recipe } from '../recipes/recipes';
import { KeyValuePipe } from '@angular/common';

/** What a node does, its ports and its settings, from its definition. */
@Component({
  selector: 'fx-node-help',
  imports: [KeyValuePipe, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (definition(); as d) {
      <p>{{ d.help }}</p>
      <p class="slate">
        <span class="mono">{{ d.type }}</span> · takes
        @for (port of d.inputs; track port.name; let last = $last) {
          <strong>{{ port.name }}</strong>{{ port.many ? ' (many)' : '' }}{{ last ? '' : ', ' }}
        } @empty {
          nothing
        }
        · gives
        @for (port of d.outputs; track port.name; let last = $last) {
          <strong>{{ port.name }}</strong>{{ last ? '' : ', ' }}
        } @empty {
          a named result
        }
      </p>
      <p class="slate">{{ values() }}</p>
      @if (d.sample) {
        <p>
          <button
            type="button"
            matButton="outlined"
            class="round"
            (click)="example.emit(d)"
            [title]="'Puts in ' + d.label + ' at work, with what it needs, and peeks at it'"
          >
            Put an example into the graph
          </button>
        </p>
      }
      <dl>
        @for (entry of d.settings | keyvalue: inOrder; track entry.key) {
          <dt>{{ entry.value.label }}</dt>
          <dd>{{ entry.value.help }}</dd>
        }
      </dl>
    } @else {
      <p class="slate">
        Choose a node to read what it does, or begin with one of these. Each puts in a small graph that is wired already; change it as you like.
      </p>
      <ul>
        @for (each of recipes; track each.title) {
          <li>
            <button type="button" matButton="outlined" class="round" [title]="each.text" (click)="recipe.emit(each)">{{ each.title }}</button>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 640px;
      padding: 10px 14px 16px;
    }
    p {
      margin-bottom: 8px;
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin: 8px 0 0;
      padding: 0;
      list-style: none;
    }
    dl {
      display: grid;
      grid-template-columns: 110px 1fr;
      gap: 3px 12px;
      margin: 0;
    }
    dt {
      font-weight: 600;
    }
    dd {
      margin: 0;
    }
  `,
})
export class NodeHelp {
  readonly definition = input<NodeDefinition | null>(null);
  /** The node is to be shown at work. */
  readonly example = output<NodeDefinition>();
  /** A recipe is to be put in. */
  readonly recipe = output<Recipe>();
  protected readonly recipes = recipes;
  /** What becomes of attributes, in a sentence. */
  protected readonly values = computed(() => {
    const use = this.definition()?.attributes;
    if (!use) return '';
    const kept = use.keeps.length === 6 ? 'all values' : use.keeps.length ? `values of each ${use.keeps.join(', ')}` : 'no values';
    return [
      use.reads.length && `Reads ${use.reads.join(', ')}`,
      use.writes.length && `writes ${use.writes.join(', ')}`,
      `keeps ${kept}`,
      use.drops.length && `drops ${use.drops.join(', ')}`,
    ]
      .filter(Boolean)
      .join('; ')
      .replace(/^./, (letter) => letter.toUpperCase())
      .concat('.');
  });
  protected readonly inOrder = (): number => 0;
}
