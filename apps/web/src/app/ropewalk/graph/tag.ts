import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Counts, type GraphNode, type NodeDefinition } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { Icon } from '../../shared/icon';
import { grouped, milliseconds } from '../../shared/figures';
import { tagHeight, tagWidth } from './tag-geometry';

const units: readonly (readonly [keyof Counts, string])[] = [
  ['faces', 'f'],
  ['copies', 'copies'],
  ['curves', 'c'],
  ['points', 'pts'],
  ['vertices', 'v'],
];

/** The two counts that say most about what came out. */
const figures = (counts: Counts): string =>
  units
    .filter(([name]) => counts[name] !== undefined && !(name === 'vertices' && counts.faces !== undefined))
    .slice(0, 2)
    .map(([name, unit]) => `${grouped(counts[name]!)} ${unit}`)
    .join(' ');

/** A node as a cable tag: a slip of card with a punched eyelet, its name, a line of figures and at most one mark. */
@Component({
  selector: 'fx-tag',
  imports: [Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg class="leaf" width="152" height="58" aria-hidden="true">
      <path class="shade" transform="translate(0 2)" [attr.d]="outline()" />
      <path class="paper" [attr.d]="outline()" />
    </svg>
    <div class="card" [class.plain]="!inputs().length">
      <span class="name">{{ definition()?.label ?? node().type }}</span>
      @if (mark(); as m) {
        <fx-icon class="mark" [class.bad]="m.bad" [name]="m.bad ? 'error' : 'alert'" [size]="16" />
      }
      <span class="figures">{{ line() }}</span>
    </div>
    @for (place of inputs(); track place.name) {
      <span class="eyelet" [class.open]="place.open" [style.top.px]="place.y"></span>
    }
    @for (place of outputs(); track place.name) {
      <span class="out" [style.top.px]="place.y" [attr.data-port]="place.name" [title]="'Drag to wire ' + place.name + ' on'"></span>
    }
    @if (definition()) {
      <button
        type="button"
        tabindex="-1"
        class="eye"
        [class.on]="peeked()"
        [class.ghost]="ghosted()"
        [attr.aria-label]="'Peek at ' + definition()!.label"
        [attr.aria-pressed]="peeked()"
        title="Peek: show this step's own result. With Shift: keep it faintly in view"
        (pointerdown)="$event.stopPropagation()"
        (click)="look($event)"
        (dblclick)="$event.stopPropagation()"
      >
        <fx-icon name="eye" [size]="15" />
      </button>
    }
  `,
  styles: `
    :host {
      position: absolute;
      display: block;
      width: 152px;
      height: 56px;
      cursor: grab;
      --edge: var(--tag-edge);
      --weight: 1px;
    }
    :host(.chosen) {
      --edge: var(--indigo);
      --weight: 2px;
      z-index: 2;
    }
    :host(.target) {
      --edge: var(--woad);
      --weight: 2px;
    }
    :host(.dim) {
      opacity: 0.45;
    }
    :host(.off) {
      opacity: 0.6;
    }
    :host(.off) .paper {
      stroke-dasharray: 5 4;
    }
    :host:focus {
      outline: none;
    }
    :host(:focus-visible) .paper {
      stroke: var(--woad);
      stroke-width: 3px;
    }
    /* The slip is one drawn path, with its shadow beneath: no clipped boxes and no filter to be drawn in layers of their own. */
    .leaf {
      position: absolute;
      inset: 0;
      overflow: visible;
      pointer-events: none;
    }
    .paper {
      fill: var(--paper);
      stroke: var(--edge);
      stroke-width: var(--weight);
    }
    .shade {
      fill: var(--shade);
    }
    .card {
      position: relative;
      display: grid;
      grid-template-columns: 1fr auto;
      align-content: center;
      height: 100%;
      padding: 0 8px 0 27px;
    }
    .card.plain {
      padding-left: 14px;
    }
    .name {
      overflow: hidden;
      font-weight: 650;
      font-size: 13.5px;
      line-height: 1.3;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .figures {
      grid-column: 1 / 3;
      min-height: 17px;
      overflow: hidden;
      color: var(--slate);
      font: 12px/1.4 var(--mono);
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .mark {
      color: var(--weld-text);
    }
    .mark.bad {
      color: var(--madder);
    }
    .eye.ghost {
      outline: 2px dashed var(--woad);
      outline-offset: -2px;
    }
    .eyelet {
      position: absolute;
      left: 7px;
      width: 12px;
      height: 12px;
      margin-top: -6px;
      border: 2px solid var(--tag-edge);
      border-radius: 50%;
      background: var(--walnut);
      pointer-events: none;
    }
    .eyelet.open {
      background: var(--linen);
    }
    .out {
      position: absolute;
      right: -11px;
      width: 22px;
      height: 26px;
      margin-top: -13px;
      cursor: crosshair;
    }
    .out::after {
      content: '';
      position: absolute;
      top: 8px;
      left: 6px;
      width: 10px;
      height: 10px;
      border: 2px solid var(--tag-edge);
      border-radius: 3px;
      background: var(--paper);
      opacity: 0;
    }
    :host(:hover) .out::after,
    :host(.chosen) .out::after,
    .out:hover::after {
      opacity: 1;
    }
    .out:hover::after {
      border-color: var(--woad);
      transform: scale(1.25);
    }
    .eye {
      position: absolute;
      right: 7px;
      bottom: 5px;
      display: inline-flex;
      padding: 2px;
      border: 0;
      border-radius: 4px;
      background: var(--paper);
      color: var(--slate);
      cursor: pointer;
      opacity: 0;
    }
    :host(:hover) .eye,
    :host(:focus-visible) .eye,
    .eye.on {
      opacity: 1;
    }
    .eye.on {
      background: var(--indigo);
      color: var(--on-indigo);
    }
    :host(.far) .figures,
    :host(.far) .eye:not(.on),
    :host(.far) .mark {
      display: none;
    }
    :host(.far) .name {
      font-size: 19px;
    }
  `,
  host: {
    tabindex: '0',
    role: 'group',
    'aria-roledescription': 'node',
    '[attr.aria-label]': 'spoken()',
    '[attr.title]': 'hint()',
    '[class.off]': 'node().settings?.["on"] === false',
    '[style.width.px]': 'width',
    '[style.height.px]': 'height',
  },
})
export class Tag {
  readonly node = input.required<GraphNode>();
  readonly state = input<NodeState | null>(null);
  /** Undefined: there is no such kind of node. */
  readonly definition = input.required<NodeDefinition | undefined>();
  readonly peeked = input(false);
  /** Inputs with a wire. */
  readonly wired = input<ReadonlySet<string>>(new Set());
  readonly ghosted = input(false);
  readonly peek = output();
  readonly ghost = output();

  protected look(event: MouseEvent): void {
    if (event.shiftKey) this.ghost.emit();
    else this.peek.emit();
  }

  protected readonly width = tagWidth;
  protected readonly height = tagHeight;

  protected readonly inputs = computed(() => this.ports(this.definition()?.inputs ?? []).map((port) => ({ ...port, open: !this.wired().has(port.name) })));
  /** A slip with two corners cut where a wire threads in; a plain one where nothing does. */
  protected readonly outline = computed(() => (this.inputs().length ? 'M12 .5H151.5V55.5H12L.5 43V13Z' : 'M.5 .5H151.5V55.5H.5Z'));
  protected readonly outputs = computed(() => this.ports(this.definition()?.outputs ?? []));
  protected readonly mark = computed(() => {
    const state = this.state();
    // A node that only waits for another has no fault of its own to mark.
    if (state?.error?.follows) return null;
    if (state?.error) return { bad: true, text: state.error.message };
    const warning = state?.warnings[0];
    return warning ? { bad: false, text: `${warning.message} ${warning.remedy ?? ''}` } : null;
  });
  protected readonly line = computed(() => {
    const state = this.state();
    if (!state) return '';
    if (state.error) return state.error.follows ? 'waits' : 'no result';
    if (state.value !== null) return state.value;
    const made = figures(state.out);
    return made ? `${made} ${milliseconds(state.ms)}` : 'empty';
  });
  protected readonly hint = computed(() => {
    const state = this.state();
    if (!state) return null;
    if (this.mark()) return this.mark()!.text;
    if (state.error) return state.error.message;
    const [given, made] = [figures(state.in), figures(state.out)];
    return given && made ? `${given} → ${made}` : made;
  });
  protected readonly spoken = computed(() => [this.definition()?.label ?? this.node().type, this.line(), this.mark()?.text].filter(Boolean).join(', '));

  private ports(list: readonly { name: string }[]): { name: string; y: number }[] {
    return list.map(({ name }, i) => ({ name, y: (tagHeight * (i + 1)) / (list.length + 1) }));
  }
}
