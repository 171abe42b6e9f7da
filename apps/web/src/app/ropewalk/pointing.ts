import { computed, inject, Injectable, signal } from '@angular/core';
import { EvaluationService } from './evaluation.service';
import type { CurvePlace } from './view3d/sight';
import type { SurfacePlace } from './uv/uv-sheet';

/** What 3D view, Path strip, UV sheet and Values point out to each other. */
@Injectable()
export class Pointing {
  private readonly evaluation = inject(EvaluationService);
  /** Which place of the Path strip is marked. */
  readonly marked = signal<number | null>(null);
  /** The place of the UV sheet under the pointer, in space. */
  readonly onSheet = signal<readonly number[] | null>(null);
  /** What the pointer is over in the 3D view. */
  readonly over = signal<SurfacePlace | null>(null);
  /** Places that are picked in Values, and the place that was clicked in the 3D view. */
  readonly picks = signal<Float32Array | null>(null);
  readonly clicked = signal<readonly number[] | null>(null);

  /** The place that the 3D view marks. */
  readonly place = computed(() => {
    if (this.onSheet()) return this.onSheet();
    const data = this.evaluation.strip();
    const i = this.marked();
    return data && i !== null && i < data.s.length ? Array.from(data.positions.subarray(i * 3, i * 3 + 3)) : null;
  });

  /** The pointer is over a curve in the 3D view: the Path strip marks the place if it is the one that it shows. */
  overCurve(place: CurvePlace | null): void {
    const data = this.evaluation.strip();
    this.marked.set(place && data && place.curve === data.curve ? Math.min(data.s.length - 1, Math.round(place.index / data.step)) : null);
  }
}
