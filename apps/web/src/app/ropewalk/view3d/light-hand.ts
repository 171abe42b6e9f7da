import { signal, type Signal } from '@angular/core';
import { lightings, type LightingName } from './lighting';
import type { StageOptions } from './stage-options';

/** Degrees that the light turns with a pixel of the pointer. */
const perPixel = 0.5;

/** The key that holds the light: while it is down the light goes with the pointer, alone it takes the next lighting. */
export class LightHand {
  readonly held = signal(false);
  private turned = false;

  constructor(
    private readonly options: Signal<StageOptions>,
    private readonly change: (change: Partial<StageOptions>) => void,
  ) {}

  /** The key is down; it may say so again and again. */
  hold(): void {
    if (!this.held()) this.turned = false;
    this.held.set(true);
  }

  letGo(): void {
    if (!this.held()) return;
    this.held.set(false);
    if (!this.turned) this.next();
  }

  /** The pointer went sideways by pixels. */
  turn(pixels: number): void {
    this.turned = true;
    // From −180° up to 180°.
    this.change({ turned: ((((this.options().turned + pixels * perPixel + 180) % 360) + 360) % 360) - 180 });
  }

  private next(): void {
    const names = Object.keys(lightings) as LightingName[];
    this.change({ lighting: names[(names.indexOf(this.options().lighting) + 1) % names.length] });
  }
}
