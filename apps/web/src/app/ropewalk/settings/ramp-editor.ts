import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, signal, viewChild } from '@angular/core';
import { rampAt, type RampEase, type RampKeys } from '@filaxis/core';
import { NumberField } from '../../shared/number-field';

export interface RampValue {
  readonly ramp: RampKeys;
  readonly ease?: RampEase;
  readonly over?: string;
}

const width = 300;
const height = 92;
const margin = 9;

/** A drawn graph over t: drag keys, click the line for a new one, Delete takes one away; or type the numbers. */
@Component({
  selector: 'fx-ramp-editor',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #plot
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      role="group"
      [attr.aria-label]="label() + ' along the path'"
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
            label="Place of the key, 0 to 1"
            [value]="chosen[0]"
            [min]="0"
            [max]="1"
            [step]="0.005"
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
        <select class="field ease" aria-label="Between the keys" [value]="value().ease ?? 'linear'" (change)="ease($any($event.target).value)">
          <option value="linear">straight</option>
          <option value="smooth">smooth</option>
          <option value="steps">steps</option>
        </select>
      </div>
    }
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
  private dragging: { top: number; bottom: number; moved: boolean } | null = null;
  private last: RampValue | null = null;

  protected readonly keys = computed(() => this.value().ramp);
  /** Values at the bottom and the top of the plot. */
  private readonly range = computed(() => {
    const values = this.keys().map((key) => key[1]);
    const top = Math.max(...values, 0) || 1;
    const bottom = Math.min(...values, 0);
    return this.dragging ?? { bottom, top: top + (top - bottom) * 0.25 };
  });
  protected readonly line = computed(() => {
    const { ramp, ease = 'linear' } = this.value();
    return Array.from({ length: 101 }, (_, i) => `${this.x(i / 100)},${this.y(rampAt(ramp, ease, i / 100))}`).join(' ');
  });

  protected x(t: number): number {
    return margin + t * (width - 2 * margin);
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
    return [Math.min(1, Math.max(0, t)), bottom + f * (top - bottom)];
  }

  protected begin(event: PointerEvent, i: number): void {
    event.stopPropagation();
    this.plot().nativeElement.setPointerCapture(event.pointerId);
    this.current.set(i);
    this.dragging = { ...this.range(), moved: false };
  }

  protected drag(event: PointerEvent): void {
    if (!this.dragging) return;
    this.dragging.moved = true;
    const [t, value] = this.placeAt(event);
    this.place(t, value, false);
  }

  protected end(): void {
    const moved = this.dragging?.moved;
    this.dragging = null;
    if (moved && this.last) this.committed.emit(this.last);
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
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [t - 0.01 * size, value],
      ArrowRight: [t + 0.01 * size, value],
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
    const low = i > 0 ? keys[i - 1][0] : 0;
    const high = i + 1 < keys.length ? keys[i + 1][0] : 1;
    const next: [number, number] = [rounded(Math.min(high, Math.max(low, t))), rounded(Math.min(this.max(), Math.max(this.min(), value)))];
    this.last = { ...this.value(), ramp: keys.map((key, k) => (k === i ? next : key)) };
    if (keep) this.committed.emit(this.last);
    else this.scrubbed.emit(this.last);
  }

  protected ease(ease: RampEase): void {
    this.committed.emit({ ...this.value(), ease });
  }
}

const rounded = (value: number): number => Number(value.toPrecision(4));
