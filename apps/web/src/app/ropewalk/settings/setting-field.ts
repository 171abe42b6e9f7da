import { NgTemplateOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatMenu, MatMenuModule, type MatMenuTrigger } from '@angular/material/menu';
import {
  inputPort,
  modeOf,
  colourOf,
  colourParts,
  partNames,
  partSettings,
  partsOf,
  definitionOf,
  labelById,
  whyNoHandle,
  type GraphNode,
  type Setting,
  type VaryingAttribute,
  type VaryingFormula,
  type VaryingMode,
  type VaryingRandom,
} from '@filaxis/core';
import { ChoiceField } from '../../shared/choice-field';
import { ColourField } from '../../shared/colour-field';
import { NumberField } from '../../shared/number-field';
import { TextField } from '../../shared/text-field';
import { DocumentService } from '../document/document.service';
import { withDialValues } from '../document/dials';
import { connect, disconnect, wireRefusal, writerOf } from '../document/edits';
import { modesKey, Shortcuts } from '../keys/shortcuts';
import { RampEditor, type RampValue } from './ramp-editor';
import { DataField } from './data-field';
import { FrozenField } from './frozen-field';
import { RulesEditor } from './rules-editor';
import { AttributeEditor } from './varying/attribute-editor';
import { FormulaEditor } from './varying/formula-editor';
import { RandomEditor } from './varying/random-editor';
import { valueText } from './value-text';
import { MatButtonModule } from '@angular/material/button';

/** Kind of what is dragged when a setting's label is: JSON of its node and name. */
export const settingType = 'application/x-filaxis-setting';

/** Most letters of a choice or a text that half the width has room for. */
const longChoice = 16;

/** Signs of the modes on the small button. */
const signs = { fixed: '', dial: '◔', ramp: '∿', formula: 'ƒ', attribute: '≡', random: '⁙' } as const;

/** One setting of a node: its label, its value and, at its side, how the value is given. */
@Component({
  selector: 'fx-setting',
  imports: [
    AttributeEditor,
    ChoiceField,
    ColourField,
    FrozenField,
    RulesEditor,
    DataField,
    FormulaEditor,
    MatButtonModule,
    MatCheckboxModule,
    MatMenuModule,
    NgTemplateOutlet,
    NumberField,
    RampEditor,
    RandomEditor,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './setting-field.html',
  styleUrl: './setting-field.scss',
  host: { '[class.open]': '(open() && opens()) || broad()', '[class.one]': 'part() !== null' },
})
export class SettingField {
  private readonly documents = inject(DocumentService);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly shortcuts = inject(Shortcuts);
  /** The key that opens the menu of the field that has the keyboard. */
  protected readonly modeKey = computed(() => this.shortcuts.keyFor(modesKey));

  readonly node = input.required<GraphNode>();
  readonly name = input.required<string>();
  readonly setting = input.required<Setting>();
  /** The field is for one number of a vector: which. */
  readonly part = input<number | null>(null);
  /** What is wrong with the value. */
  readonly fault = input<string | null>(null);
  readonly scrubbed = output<unknown>();
  readonly committed = output<unknown>();
  /** A dial is wanted, of the whole or of one part. */
  readonly makeDialOf = output<number | null>();
  /** Numbers that were pasted into one part, for it and those after it. */
  readonly pasted = output<readonly number[]>();
  readonly chooseFile = output();
  readonly showDial = output<string>();
  /** A node that the value comes from. */
  readonly showNode = output<string>();

  protected readonly open = signal(false);
  /** The menu is made when it is asked for first. */
  protected readonly menuWanted = signal(false);
  protected readonly menu = viewChild(MatMenu);
  private readonly trigger = viewChild.required('trigger', { read: ElementRef<HTMLElement> });
  /** The settings as the document has them now: of two numbers that are given in quick succession neither is lost to a field that was not drawn anew yet. */
  private readonly settings = computed(() => (this.documents.document().nodes.find(({ id }) => id === this.node().id) ?? this.node()).settings);
  protected readonly value = computed<unknown>(() => {
    const [whole, part] = [this.settings()?.[this.name()], this.part()];
    return (part === null ? whole : partsOf(whole)[part]) ?? this.setting().default;
  });
  /** What the setting is for, and, of a place, length or angle that cannot be taken hold of in the 3D view, why not. */
  protected readonly help = computed(() => {
    const definition = definitionOf(this.documents.document(), this.node());
    const why = definition && Object.hasOwn(definition.settings, this.name()) ? whyNoHandle(definition, this.name()) : null;
    return why ? `${this.setting().help} No handle in the 3D view: ${why[0].toLowerCase()}${why.slice(1)}` : this.setting().help;
  });
  /** The letter of a part. */
  protected readonly axis = computed(() => (this.part() === null ? '' : (this.setting().label.split(' ').at(-1) ?? '')));
  /** The parts of a vector or a colour as settings of their own. */
  protected readonly partSettings = computed(() => partSettings(this.setting()));
  protected readonly changed = computed(
    () => this.part() === null && this.settings()?.[this.name()] !== undefined && JSON.stringify(this.value()) !== JSON.stringify(this.setting().default),
  );
  protected readonly mode = computed(() => modeOf(this.value()) ?? 'fixed');
  protected readonly sign = computed(() => signs[this.mode()]);
  /** The node that feeds this setting by wire. */
  protected readonly wire = computed(() =>
    this.part() === null ? (this.documents.document().wires.find(({ to }) => to[0] === this.node().id && to[1] === this.name()) ?? null) : null,
  );
  /** Outputs of numbers (or vectors) that could feed this setting. */
  protected readonly feeds = computed(() => {
    if (this.part() !== null) return [];
    const document = this.documents.document();
    const own = definitionOf(document, this.node());
    const port = own && inputPort(own, this.name());
    if (!port?.kinds.some((kind) => kind === 'number' || kind === 'vector')) return [];
    return document.nodes.flatMap((node) => {
      const { id } = node;
      const definition = definitionOf(document, node);
      return (definition?.outputs ?? []).filter(({ kind, name }) => port.kinds.includes(kind) && !wireRefusal(document, [id, name], [this.node().id, this.name()])).map(({ name }) => ({ id, output: name, label: definition!.label })); // prettier-ignore
    });
  });
  /** The node that an attribute or a wire brings this value from. */
  protected readonly source = computed(() => {
    const wire = this.wire();
    if (wire) return wire.from[0];
    const name = this.attribute()?.attribute ?? (this.ramp()?.over && !['t', 's'].includes(this.ramp()!.over!) ? this.ramp()!.over! : null);
    return name ? writerOf(this.documents.document(), this.node().id, name) : null;
  });
  protected readonly sourceName = computed(() => {
    const source = this.source();
    return source === null ? null : labelById(this.documents.document(), source);
  });
  protected readonly dial = computed(() => {
    const value = this.value() as { dial?: string } | null;
    return this.mode() === 'dial' ? (this.documents.document().dials?.find(({ id }) => id === value?.dial) ?? null) : null;
  });
  protected readonly dialId = computed(() => (this.value() as { dial?: string }).dial ?? '');
  protected readonly dials = computed(() => (this.documents.document().dials ?? []).filter((dial) => this.fitsDial(dial.kind)));
  protected readonly numbers = computed(() =>
    this.setting().kind === 'number' || this.setting().kind === 'integer' ? (this.setting() as Extract<Setting, { kind: 'number' | 'integer' }>) : null,
  );
  /** What is given part by part. */
  protected readonly vector = computed(() => (this.partSettings().length && Array.isArray(this.value()) ? (this.value() as readonly unknown[]) : null));
  protected readonly vectorNames = computed(() => {
    const setting = this.setting();
    if (setting.kind === 'vector' || setting.kind === 'colour') return partNames(setting);
    return (setting.kind === 'number' || setting.kind === 'integer' ? setting.axes : undefined) ?? ['u', 'v'];
  });
  /** Two numbers of a setting that may have one for both directions; null: it is shown as one. */
  protected readonly pair = computed((): readonly number[] | null => {
    const value = this.value();
    if (!this.numbers()?.pair || (typeof value !== 'number' && !Array.isArray(value))) return null;
    if (Array.isArray(value)) return value as number[];
    return this.numbers()?.axes ? [value, value] : null;
  });
  protected readonly choices = computed(() => {
    const setting = this.setting();
    return setting.kind === 'choice' ? Object.entries(setting.choices).map(([value, label]) => ({ value, label })) : [];
  });
  /** Three numbers with their units, rows of data, choices of many letters and long texts need the whole width. */
  protected readonly broad = computed(() => {
    const long = this.choices().some(({ label }) => label.length > longChoice) || (this.setting().kind === 'text' && this.text().length > longChoice);
    return this.mode() === 'fixed' && !this.wire() && (!!this.vector() || !!this.edit() || long);
  });
  protected readonly text = computed(() => String(this.value()));
  protected readonly plainNumber = computed(() => Number(this.value()));
  /** Data edited by hand: how. */
  protected readonly edit = computed(() => {
    const setting = this.setting();
    return setting.kind === 'data' ? setting.edit : null;
  });
  /** The default stands for something else than a number. */
  protected readonly special = computed(() => {
    const special = this.numbers()?.special;
    return special ? { ...special, stands: this.value() === this.setting().default } : null;
  });
  protected readonly step = computed(() => this.numbers()?.step ?? (this.numbers()?.kind === 'integer' ? 0.2 : 0.01));
  protected readonly unit = computed(() => ('unit' in this.setting() ? ((this.setting() as { unit?: string }).unit ?? '') : ''));
  /** The setting may differ from element to element. */
  protected readonly varies = computed(() => {
    const setting = this.setting();
    return (setting.kind === 'boolean' && !!setting.condition) || ('varies' in setting && !!setting.varies);
  });
  /** One number for all elements: a formula knows dials and time. */
  protected readonly calculates = computed(() => !!this.numbers() && !this.varies() && !Array.isArray(this.value()));
  protected readonly conditional = computed(() => this.setting().kind === 'boolean');
  protected readonly writes = computed(() => {
    const setting = this.setting();
    return setting.kind === 'text' && !!setting.formula;
  });
  /** The value, when it is edited in a place of its own beneath. */
  protected readonly opens = computed(() => ['ramp', 'formula', 'attribute', 'random'].includes(this.mode()));
  protected readonly formula = computed(() => (this.mode() === 'formula' ? (this.value() as VaryingFormula) : null));
  protected readonly attribute = computed(() => (this.mode() === 'attribute' ? (this.value() as VaryingAttribute) : null));
  protected readonly random = computed(() => (this.mode() === 'random' ? (this.value() as VaryingRandom) : null));
  /** The value in one line. */
  protected readonly summary = computed(() => valueText(this.setting(), this.value()));
  protected readonly ramp = computed(() => (this.mode() === 'ramp' ? (this.value() as RampValue) : null));
  protected readonly rampLine = computed(() => {
    const keys = this.ramp()?.ramp ?? [];
    const values = keys.map((key) => key[1]);
    const [low, high] = [Math.min(...values), Math.max(...values)];
    return keys.map(([t, value]) => `${2 + t * 60},${14 - (high > low ? (value - low) / (high - low) : 0.5) * 10}`).join(' ');
  });
  protected readonly keepsMoment = computed(() => {
    const setting = this.setting();
    return setting.kind === 'asset' && setting.holds === 'frozen';
  });
  protected readonly assetName = computed(() => {
    const hash = String(this.value());
    return hash ? (this.documents.document().assets?.[hash]?.name ?? `${hash.slice(0, 10)}…`) : 'none yet';
  });

  constructor() {
    // A trigger whose menu is not made yet does not tell of it.
    afterNextRender(() => this.trigger().nativeElement.setAttribute('aria-haspopup', 'menu'));
  }

  private fitsDial(kind: string): boolean {
    const own = this.setting().kind;
    return kind === own || (own === 'number' && kind === 'integer') || (own === 'integer' && kind === 'seed');
  }

  protected openMenu(trigger: MatMenuTrigger): void {
    // A trigger with a menu has opened it itself when it was clicked.
    this.menuWanted.set(true);
    this.changes.detectChanges();
    trigger.openMenu();
  }

  protected toFixed(): void {
    if (this.setting().kind === 'vector') this.committed.emit(this.dial()?.value ?? this.setting().default);
    else this.committed.emit(this.dial()?.value ?? this.ramp()?.ramp[0][1] ?? this.random()?.random[0] ?? this.setting().default);
  }

  /** One number that stands for the value as it is now. */
  private number(): number {
    const value = this.dial()?.value ?? this.value();
    const fallback = this.setting().default;
    return typeof value === 'number' ? value : (this.ramp()?.ramp[0][1] ?? this.random()?.random[0] ?? (typeof fallback === 'number' ? fallback : 0));
  }

  /** Gives the value in another mode, from what it is now. */
  protected toMode(mode: VaryingMode): void {
    const number = this.number();
    const last = this.ramp()?.ramp.at(-1)?.[1] ?? number;
    this.open.set(true);
    if (mode === 'ramp')
      this.committed.emit({ ramp: [[0, number], [1, number]], ease: 'linear' }); // prettier-ignore
    else if (mode === 'random') this.committed.emit({ random: this.firstRange(number), seed: 1, per: 'point' });
    else if (mode === 'attribute') this.committed.emit(this.firstAttribute(number));
    else if (this.conditional()) this.committed.emit({ formula: 'i % 2 == 0' });
    else this.committed.emit({ formula: last === number || this.calculates() ? String(number) : `mix(${number}, ${last}, t)` });
  }

  /** Where chance begins: about the number there is, or over what the setting takes. */
  private firstRange(number: number): [number, number] {
    if (this.setting().kind === 'vector') return [-1, 1];
    const { min = 0, max = 1 } = this.numbers() ?? {};
    return number ? [rounded(number * 0.75), rounded(number * 1.25)] : [Math.max(min, 0), Math.min(max, this.unit() === '°' ? 360 : 1)];
  }

  private firstAttribute(number: number): VaryingAttribute {
    if (this.conditional()) return { attribute: 'mark' };
    return this.setting().kind === 'vector' ? { attribute: 'normal' } : { attribute: 't', scale: number || 1 };
  }

  protected feed({ id, output }: { id: string; output: string }): void {
    this.documents.apply('Wire', connect(this.documents.document(), [id, output], [this.node().id, this.name()]));
  }

  protected unwire(): void {
    const wire = this.wire();
    if (wire) this.documents.apply('Remove wire', disconnect(this.documents.document(), wire));
  }

  protected follow(dial: string): void {
    this.committed.emit({ dial });
  }

  protected reset(): void {
    this.committed.emit(undefined);
  }

  protected component(index: number, value: unknown): unknown[] {
    return (this.vector() ?? this.pair() ?? [0, 0, 0]).map((old, k) =>
      k === index ? (value ?? this.partSettings()[k]?.default ?? this.setting().default) : old,
    );
  }

  /** Numbers that were pasted, from one of its parts on. */
  protected components(from: number, values: readonly number[]): unknown[] {
    return (this.vector() ?? this.pair() ?? [0, 0, 0]).map((old, k) => values[k - from] ?? old);
  }

  /** Red, green and blue each by itself. */
  protected splitColour(): void {
    this.committed.emit(colourParts(this.text()));
  }

  /** The colour as one again, as it is now. */
  protected joinColour(): void {
    this.committed.emit(colourOf(withDialValues(this.documents.dials(), this.value()) as number[]));
  }

  protected takeAlong(event: DragEvent): void {
    event.dataTransfer?.setData(settingType, JSON.stringify({ node: this.node().id, setting: this.name() }));
  }

  protected copy(): void {
    void navigator.clipboard.writeText(JSON.stringify(this.value()));
  }
}

const rounded = (value: number): number => Number(value.toPrecision(4));
