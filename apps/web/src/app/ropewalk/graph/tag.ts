import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  Injector,
  input,
  output,
  viewChild,
} from '@angular/core';
import { longestName, type Counts, type Dial, type GraphNode, type NodeDefinition } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { grouped, milliseconds } from '../../shared/figures';
import type { Sign } from './signs';
import { tagHeight, tagWidth } from './tag-geometry';
import { tellingOf } from './telling';
import { portName, portText } from './wire-aim';
import { MatIconModule } from '@angular/material/icon';

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
  imports: [MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg class="leaf" width="152" height="64" aria-hidden="true">
      <path class="shade" transform="translate(0 2)" [attr.d]="outline()" />
      <path class="paper" [attr.d]="outline()" />
    </svg>
    <div class="card" [class.plain]="!inputs().length">
      @if (renaming()) {
        <input
          #box
          class="rename"
          type="text"
          aria-label="Name of the node"
          [maxLength]="longestName"
          [value]="node().name ?? ''"
          [placeholder]="kind()"
          (pointerdown)="$event.stopPropagation()"
          (dblclick)="$event.stopPropagation()"
          (keydown)="typing($event, box)"
          (blur)="renamed.emit(box.value)"
        />
      } @else {
        <span class="name" (dblclick)="$event.stopPropagation(); rename.emit()">{{ label() }}</span>
      }
      @if (mark(); as m) {
        <mat-icon class="mark" [class.bad]="m.bad" [svgIcon]="m.bad ? 'error' : 'alert'" />
      }
      <span class="telling">
        @if (telling()?.colour; as colour) {
          <span class="swatch" [style.background]="colour"></span>
        }
        {{ node().name === undefined ? telling()?.text : kind() }}
      </span>
      <span class="figures">{{ line() }}</span>
    </div>
    @if (sign(); as s) {
      <span class="sign" [style.--width.px]="s.width" [class.free]="s.free" [class.bad]="mark()?.bad" [class.warned]="mark() && !mark()!.bad">{{
        label()
      }}</span>
    }
    @for (place of inputs(); track place.name) {
      <span
        class="eyelet"
        [class.open]="place.open"
        [class.aimed]="aimed() === place.name"
        [style.top.px]="place.y"
        [attr.data-input]="place.name"
        [title]="place.text + (place.open ? '' : '. Drag to take the wire off')"
      ></span>
    }
    @for (place of outputs(); track place.name) {
      <span class="out" [style.top.px]="place.y" [attr.data-port]="place.name" [title]="portName(place.name, 'output') + '. Drag to wire it on'"></span>
    }
    @if (definition()) {
      <button
        type="button"
        tabindex="-1"
        class="eye"
        [class.on]="peeked()"
        [class.ghost]="ghosted()"
        [attr.aria-label]="'Peek at ' + label()"
        [attr.aria-pressed]="peeked()"
        title="Peek: show this step's own result. With Shift: keep it faintly in view"
        (pointerdown)="$event.stopPropagation()"
        (click)="look($event)"
        (dblclick)="$event.stopPropagation()"
      >
        <mat-icon svgIcon="eye" />
      </button>
    }
  `,
  styles: `
    :host {
      position: absolute;
      display: block;
      width: 152px;
      height: 62px;
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
    :host(.refused) {
      --edge: var(--madder);
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
      padding: 2px 8px 0 27px;
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
    .rename {
      min-width: 0;
      padding: 0 3px;
      border: 1px solid var(--woad);
      border-radius: 4px;
      background: var(--paper);
      color: var(--indigo);
      font: 650 13px/1.3 var(--sans);
    }
    .telling,
    .figures {
      grid-column: 1 / 3;
      min-height: 15px;
      overflow: hidden;
      color: var(--slate);
      font: 12px/1.3 var(--sans);
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .figures {
      padding-right: 20px;
      font-family: var(--mono);
    }
    .swatch {
      display: inline-block;
      width: 14px;
      height: 9px;
      border: 1px solid var(--tag-edge);
      border-radius: 2px;
    }
    /* The name alone, as large on screen at every zoom. */
    .sign {
      position: absolute;
      top: 50%;
      left: 0;
      width: var(--width);
      padding: 0 4px;
      overflow: hidden;
      transform: scale(calc(1 / var(--zoom))) translateY(-50%);
      transform-origin: 0 0;
      color: var(--indigo);
      font: 600 11px/17px var(--sans);
      text-align: center;
      text-overflow: ellipsis;
      white-space: nowrap;
      pointer-events: none;
    }
    .sign.warned {
      text-decoration: underline wavy var(--weld);
    }
    .sign.bad {
      color: var(--madder);
      text-decoration: underline wavy var(--madder);
    }
    .sign.free {
      z-index: 1;
      border-radius: 3px;
      background: var(--paper);
      box-shadow: 0 0 0 1px var(--tag-edge);
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
    }
    .eyelet::before {
      content: '';
      position: absolute;
      inset: -6px;
    }
    .eyelet:not(.open) {
      cursor: crosshair;
    }
    .eyelet.aimed {
      border-color: var(--woad);
      box-shadow: 0 0 0 3px color-mix(in srgb, var(--woad) 40%, transparent);
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
    :host(.far) .card,
    :host(.far) .eye:not(.on) {
      visibility: hidden;
    }
    :host(.far) .rename {
      visibility: visible;
    }
  `,
  host: {
    tabindex: '0',
    role: 'group',
    'aria-roledescription': 'node',
    '[attr.aria-label]': 'spoken()',
    '[attr.aria-description]': 'ports()',
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
  /** All dials of the document, for values that follow one. */
  readonly dials = input<readonly Dial[]>([]);
  /** Its sign, where the graph is too small for tags; null: none is shown. */
  readonly sign = input<Sign | null>(null);
  /** The input that a wire under the hand is held over. */
  readonly aimed = input<string | null>(null);
  readonly renaming = input(false);
  readonly rename = output();
  /** The name that was typed; null: none after all. */
  readonly renamed = output<string | null>();
  readonly peek = output();
  readonly ghost = output();

  protected look(event: MouseEvent): void {
    if (event.shiftKey) this.ghost.emit();
    else this.peek.emit();
  }

  protected readonly width = tagWidth;
  protected readonly height = tagHeight;

  protected readonly longestName = longestName;
  protected readonly portName = portName;
  private readonly box = viewChild<ElementRef<HTMLInputElement>>('box');
  protected readonly kind = computed(() => this.definition()?.label ?? this.node().type);
  protected readonly label = computed(() => this.node().name ?? this.kind());
  protected readonly telling = computed(() => {
    const definition = this.definition();
    return definition ? tellingOf(definition, this.node(), this.dials()) : null;
  });
  protected readonly inputs = computed(() => {
    const inputs = this.definition()?.inputs ?? [];
    return this.places(inputs).map((place, i) => ({ ...place, text: portText(inputs[i]), open: !this.wired().has(place.name) }));
  });
  /** A slip with two corners cut where a wire threads in; a plain one where nothing does. */
  protected readonly outline = computed(() => (this.inputs().length ? 'M12 .5H151.5V61.5H12L.5 49V13Z' : 'M.5 .5H151.5V61.5H.5Z'));
  protected readonly outputs = computed(() => this.places(this.definition()?.outputs ?? []));
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
    if (!made) return 'empty';
    // What takes no time says nothing of it.
    return state.ms < 1 ? made : `${made} ${milliseconds(state.ms)}`;
  });
  protected readonly hint = computed(() => {
    const state = this.state();
    if (!state) return null;
    if (this.mark()) return this.mark()!.text;
    if (state.error) return state.error.message;
    const [given, made] = [figures(state.in), figures(state.out)];
    return given && made ? `${given} → ${made}` : made;
  });
  protected readonly spoken = computed(() =>
    [this.label(), this.node().name === undefined ? null : this.kind(), this.telling()?.text, this.line(), this.mark()?.text].filter(Boolean).join(', '),
  );

  /** Its ports in words, for those who hear the graph. */
  protected readonly ports = computed(() => {
    const [inputs, outputs] = [this.inputs(), this.outputs()];
    const into = inputs.map(({ text, open }) => `${text}${open ? '' : ', wired'}`);
    return [into.length && `Takes ${into.join('; ')}.`, outputs.length && `Gives ${outputs.map(({ name }) => portName(name, 'output')).join(', ')}.`]
      .filter(Boolean)
      .join(' ');
  });

  constructor() {
    const injector = inject(Injector);
    effect(() => {
      if (!this.renaming()) return;
      afterNextRender(
        () => {
          this.box()?.nativeElement.focus();
          this.box()?.nativeElement.select();
        },
        { injector },
      );
    });
  }

  protected typing(event: KeyboardEvent, box: HTMLInputElement): void {
    event.stopPropagation();
    if (event.key === 'Enter') this.renamed.emit(box.value);
    if (event.key !== 'Escape') return;
    // As the field goes it is left, which would keep what it holds.
    box.value = this.node().name ?? '';
    this.renamed.emit(null);
  }

  private places(list: readonly { name: string }[]): { name: string; y: number }[] {
    return list.map(({ name }, i) => ({ name, y: (tagHeight * (i + 1)) / (list.length + 1) }));
  }
}
