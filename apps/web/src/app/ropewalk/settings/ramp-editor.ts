import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, signal, viewChild } from '@angular/core';
import { rampAt, type RampEase, type RampKeys } from '@filaxis/core';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceField, plainChoices, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { liveNames } from './varying/live-names';

export interface RampValue {
  readonly ramp: RampKeys;
  readonly ease?: RampEase;
  readonly over?: string;
}

/** Shapes to begin with: places and values from 0 to 1. */
const presets: Readonly<Record<string, { keys: RampKeys; ease: RampEase }>> = {
  'thinner toward the end': { keys: [[0, 1], [1, 0]], ease: 'linear' },
  'soft tip': { keys: [[0, 1], [0.7, 0.85], [1, 0]], ease: 'smooth' },
  'belly in the middle': { keys: [[0, 0], [0.5, 1], [1, 0]], ease: 'smooth' },
  'waist in the middle': { keys: [[0, 1], [0.5, 0], [1, 1]], ease: 'smooth' },
  'thick ends': { keys: [[0, 1], [0.12, 0], [0.88, 0], [1, 1]], ease: 'smooth' },
  'three steps': { keys: [[0, 1], [0.333, 0.5], [0.667, 0]], ease: 'steps' },
}; // prettier-ignore

const eases: readonly Choice<RampEase>[] = [
  { value: 'linear', label: 'straight' },
  { value: 'smooth', label: 'smooth' },
  { value: 'steps', label: 'steps' },
];
const overNames: Readonly<Record<string, string>> = { t: 't, share of the length', s: 's, metres' };

const width = 300;
const height = 92;
const margin = 9;

/** A drawn graph over t: drag keys, click the line for a new one, Delete takes one away; or type the numbers. */
@Component({
  selector: 'fx-ramp-editor',
  imports: [ChoiceField, MatButtonModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #plot
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      role="group"
      [attr.aria-label]="label() + ' over ' + over()"
      (pointerdown)="addAt($event)"
      (pointermove)="drag($event)"
      (pointerup)="end()"
      (pointercancel)="end()"
    >
      <polyline class="line" [attr.points]="line()" />
      @for (each of keys(); track $index; let i = $index) {
        <circle
          tabindex="0"
          role="slider"
          r="6"
          [attr.cx]="x(each[0])"
          [attr.cy]="y(each[1])"
          [class.current]="current() === i"
          [attr.aria-label]="'Key ' + (i + 1) + ' at ' + each[0] + ', use the arrow keys'"
          [attr.aria-valuenow]="each[1]"
          (pointerdown)="begin($event, i)"
          (keydown)="key($event, i)"
          (focus)="current.set(i)"
        />
      }
    </svg>
    @if (keys()[current()]; as chosen) {
      <div class="row">
        <label
          >at
          <fx-number
            [label]="'Place of the key, ' + over()"
            [value]="chosen[0]"
            [min]="span()[0]"
            [max]="span()[1]"
            [step]="(span()[1] - span()[0]) / 200"
            (scrubbed)="place($event, chosen[1], false)"
            (committed)="place($event, chosen[1], true)"
        /></label>
        <label
          >value
          <fx-number
            label="Value of the key"
            [unit]="unit()"
            [value]="chosen[1]"
            [min]="min()"
            [max]="max()"
            [step]="step()"
            (scrubbed)="place(chosen[0], $event, false)"
            (committed)="place(chosen[0], $event, true)"
        /></label>
        <fx-choice class="ease" label="Between the keys" [choices]="eases" [value]="value().ease ?? 'linear'" (chosen)="ease($event)" />
      </div>
    }
    <div class="row">
      <label>over <fx-choice label="The ramp runs over" [choices]="overChoices()" [value]="over()" (chosen)="runOver($event)" /></label>
      <label>shape <fx-choice label="Ready-made shapes" [choices]="shapes" value="" (chosen)="preset($event)" /></label>
      <button type="button" matButton="outlined" [disabled]="keys().length < 2" (click)="turnRound()">Turn round</button>
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      border: 1px solid var(--seam);
      border-radius: 6px;
      background: var(--paper);
      cursor: copy;
      touch-action: none;
    }
    .line {
      fill: none;
      stroke: var(--indigo);
      stroke-width: 2;
    }
    circle {
      fill: var(--paper);
      stroke: var(--walnut);
      stroke-width: 2;
      cursor: grab;
    }
    circle.current {
      fill: var(--hemp);
    }
    .row {
      display: grid;
      grid-template-columns: 1fr 1.25fr 0.9fr;
      min-width: 0;
      gap: 8px;
      margin-top: 6px;
    }
    label {
      display: flex;
      gap: 5px;
      align-items: center;
      color: var(--slate);
      font-size: 12.5px;
    }
    fx-number {
      flex: 1;
    }
  `,
})
export class RampEditor {
  readonly node = input.required<string>();
  readonly setting = input.required<string>();
  readonly value = input.required<RampValue>();
  readonly label = input.required<string>();
  readonly unit = input('');
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly step = input(0.001);
  readonly scrubbed = output<RampValue>();
  readonly committed = output<RampValue>();

  protected readonly width = width;
  protected readonly height = height;
  protected readonly current = signal(0);
  private readonly plot = viewChild.required<ElementRef<SVGSVGElement>>('plot');
  /** While a key is dragged: the scale, which stays as it was. */
  private readonly held = signal<{ readonly top: number; readonly bottom: number } | null>(null);
  private moved = false;
  private last: RampValue | null = null;

  protected readonly keys = computed(() => this.value().ramp);
  protected readonly over = computed(() => this.value().over ?? 't');
  protected readonly shapes: readonly Choice[] = [{ value: '', label: 'as drawn' }, ...plainChoices(Object.keys(presets))];
  protected readonly eases = eases;
  protected readonly overChoices = computed(() => this.names().map((name): Choice => ({ value: name, label: overNames[name] ?? name })));
  private readonly live = liveNames(this.node, this.setting);
  protected readonly names = computed(() => {
    const known = (this.live()?.names ?? []).filter(({ kind }) => kind !== 'dial').map(({ name }) => name);
    return [...new Set(['t', ...known, this.over()])];
  });
  /** Places at the left and the right of the plot: 0 to 1 over t, else what there is and what the keys say. */
  protected readonly span = computed<readonly [number, number]>(() => {
    if (this.over() === 't') return [0, 1];
    const range = this.live()?.names.find(({ name }) => name === this.over())?.range ?? [0, 1];
    const places = this.keys().map((key) => key[0]);
    const [low, high] = [Math.min(range[0], ...places), Math.max(range[1], ...places)];
    return high > low ? [low, high] : [low, low + 1];
  });
  /** Values at the bottom and the top of the plot. */
  private readonly range = computed(() => {
    const values = this.keys().map((key) => key[1]);
    const top = Math.max(...values, 0) || 1;
    const bottom = Math.min(...values, 0);
    return this.held() ?? { bottom, top: top + (top - bottom) * 0.25 };
  });
  protected readonly line = computed(() => {
    const { ramp, ease = 'linear' } = this.value();
    const [low, high] = this.span();
    return Array.from({ length: 101 }, (_, i) => low + ((high - low) * i) / 100)
      .map((place) => `${this.x(place)},${this.y(rampAt(ramp, ease, place))}`)
      .join(' ');
  });

  protected x(t: number): number {
    const [low, high] = this.span();
    return margin + ((t - low) / (high - low)) * (width - 2 * margin);
  }

  protected y(value: number): number {
    const { top, bottom } = this.range();
    return height - margin - ((value - bottom) / (top - bottom || 1)) * (height - 2 * margin);
  }

  private placeAt(event: PointerEvent): [number, number] {
    const box = this.plot().nativeElement.getBoundingClientRect();
    const { top, bottom } = this.range();
    const t = ((event.clientX - box.left) * (width / box.width) - margin) / (width - 2 * margin);
    const f = 1 - ((event.clientY - box.top) * (height / box.height) - margin) / (height - 2 * margin);
    const [low, high] = this.span();
    return [low + Math.min(1, Math.max(0, t)) * (high - low), bottom + f * (top - bottom)];
  }

  protected begin(event: PointerEvent, i: number): void {
    event.stopPropagation();
    this.plot().nativeElement.setPointerCapture(event.pointerId);
    this.current.set(i);
    this.held.set(this.range());
    this.moved = false;
  }

  protected drag(event: PointerEvent): void {
    if (!this.held()) return;
    this.moved = true;
    const [t, value] = this.placeAt(event);
    this.place(t, value, false);
  }

  protected end(): void {
    this.held.set(null);
    if (this.moved && this.last) this.committed.emit(this.last);
  }

  protected addAt(event: PointerEvent): void {
    if (this.keys().length >= 256) return;
    const [t] = this.placeAt(event);
    const { ramp, ease = 'linear' } = this.value();
    const key: [number, number] = [rounded(t), rounded(rampAt(ramp, ease, t))];
    const keys = [...ramp, key].sort((a, b) => a[0] - b[0]);
    this.current.set(keys.indexOf(key));
    this.committed.emit({ ...this.value(), ramp: keys });
  }

  protected key(event: KeyboardEvent, i: number): void {
    const keys = this.keys();
    const [t, value] = keys[i];
    const size = event.shiftKey ? 10 : 1;
    const wide = (this.span()[1] - this.span()[0]) / 100;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [t - wide * size, value],
      ArrowRight: [t + wide * size, value],
      ArrowUp: [t, value + this.step() * size],
      ArrowDown: [t, value - this.step() * size],
    };
    const move = moves[event.key];
    if (!move && event.key !== 'Delete' && event.key !== 'Backspace') return;
    event.preventDefault();
    event.stopPropagation();
    this.current.set(i);
    if (move) this.place(...move, true);
    else if (keys.length > 1) {
      this.current.set(Math.max(0, i - 1));
      this.committed.emit({ ...this.value(), ramp: keys.filter((_, k) => k !== i) });
    }
  }

  /** Puts the current key; it stays between its neighbours and in the setting's range. */
  protected place(t: number, value: number, keep: boolean): void {
    const keys = this.keys();
    const i = this.current();
    const low = i > 0 ? keys[i - 1][0] : this.span()[0];
    const high = i + 1 < keys.length ? keys[i + 1][0] : this.span()[1];
    const next: [number, number] = [rounded(Math.min(high, Math.max(low, t))), rounded(Math.min(this.max(), Math.max(this.min(), value)))];
    this.last = { ...this.value(), ramp: keys.map((key, k) => (k === i ? next : key)) };
    if (keep) this.committed.emit(this.last);
    else this.scrubbed.emit(this.last);
  }

  /** Runs over another name: keys keep their share of the whole. */
  protected runOver(name: string): void {
    const [low, high] = this.span();
    const range = name === 't' ? [0, 1] : (this.live()?.names.find((known) => known.name === name)?.range ?? [0, 1]);
    const width = range[1] > range[0] ? range[1] - range[0] : 1;
    const ramp = this.keys().map(([place, value]): [number, number] => [rounded(range[0] + ((place - low) / (high - low)) * width), value]);
    this.committed.emit({ ...this.value(), ramp, over: name });
  }

  /** A ready-made shape between the least and the greatest value there are. */
  protected preset(name: string): void {
    const shape = presets[name];
    if (!shape) return;
    const values = this.keys().map((key) => key[1]);
    const top = Math.max(...values);
    const bottom = Math.min(...values) < top ? Math.min(...values) : Math.max(this.min(), top / 2);
    const [low, high] = this.span();
    this.current.set(0);
    const ramp = shape.keys.map(([place, value]): [number, number] => [rounded(low + place * (high - low)), rounded(bottom + value * (top - bottom))]);
    this.committed.emit({ ...this.value(), ramp, ease: shape.ease });
  }

  protected turnRound(): void {
    const [low, high] = this.span();
    this.committed.emit({ ...this.value(), ramp: [...this.keys()].reverse().map(([place, value]): [number, number] => [rounded(low + high - place), value]) });
  }

  protected ease(ease: RampEase): void {
    this.committed.emit({ ...this.value(), ease });
  }
}

const rounded = (value: number): number => Number(value.toPrecision(4));
