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
import { isNumbered, longestName, type Counts, type Dial, type GraphNode, type NodeDefinition } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { grouped, milliseconds } from '../../shared/figures';
import type { Sign } from './signs';
import { familyMarks } from './family-marks';
import { tagHeight, widthOf } from './tag-geometry';
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
const figures = (counts: Counts): string[] =>
  units
    .filter(([name]) => counts[name] !== undefined && !(name === 'vertices' && counts.faces !== undefined))
    .slice(0, 2)
    .map(([name, unit]) => `${grouped(counts[name]!)} ${unit}`);

/** Width of one character of the figures, and of everything beside them on a tag, px. */
const [figureWidth, besideFigures] = [7.25, 27 + 8 + 20];

/** A node as a cable tag: a slip of card with a punched eyelet, its name, a line of figures and at most one mark. */
@Component({
  selector: 'fx-tag',
  imports: [MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tag.html',
  styleUrl: './tag.scss',
  host: {
    tabindex: '0',
    role: 'group',
    'aria-roledescription': 'node',
    '[attr.aria-label]': 'spoken()',
    '[attr.aria-description]': 'ports()',
    '[attr.title]': 'hint()',
    '[class.off]': 'node().settings?.["on"] === false',
    '[style.width.px]': 'width()',
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

  protected readonly width = computed(() => widthOf(this.node()));
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
  protected readonly outline = computed(() => {
    const right = this.width() - 0.5;
    return this.inputs().length ? `M12 .5H${right}V61.5H12L.5 49V13Z` : `M.5 .5H${right}V61.5H.5Z`;
  });
  protected readonly family = computed(() => familyMarks[this.definition()?.family.id ?? ''] ?? '');
  /** Its name, where it does not go by its kind. */
  protected readonly given = computed(() => {
    const { name } = this.node();
    return name === undefined || isNumbered(name, this.kind()) ? undefined : name;
  });
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
    const counts = figures(state.out);
    if (!counts.length) return 'empty';
    // What takes no time says nothing of it.
    const time = state.ms < 1 ? [] : [milliseconds(state.ms)];
    // As much as there is room for, and nothing cut.
    const room = Math.floor((this.width() - besideFigures) / figureWidth);
    const lines = [[...counts, ...time], counts, [counts[0], ...time], counts.slice(0, 1)].map((parts) => parts.join(' '));
    return lines.find((line) => line.length <= room) ?? lines.at(-1)!;
  });
  protected readonly hint = computed(() => {
    const state = this.state();
    if (!state) return null;
    if (this.mark()) return this.mark()!.text;
    if (state.error) return state.error.message;
    const [given, made] = [figures(state.in).join(' '), figures(state.out).join(' ')];
    const time = state.ms < 1 ? '' : ` in ${milliseconds(state.ms)}`;
    return (given && made ? `${given} → ${made}` : made) + time;
  });
  protected readonly spoken = computed(() =>
    [this.label(), this.given() === undefined ? null : this.kind(), this.telling()?.text, this.line(), this.mark()?.text].filter(Boolean).join(', '),
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
