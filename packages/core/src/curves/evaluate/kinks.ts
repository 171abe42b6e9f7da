import { spanTangent, type Spans } from './spans.js';

/** Places on one curve: span and parameter in it (0…1). */
interface PlacesOnSpans {
  readonly count: number;
  readonly span: ArrayLike<number>;
  readonly u: ArrayLike<number>;
}

/** A place where a smooth curve has a corner: it arrives in one direction and leaves in another. */
export interface Kink {
  readonly at: number;
  readonly before: Float64Array;
  readonly after: Float64Array;
}

/** Turns of more than this between two spans are kinks, not what rounding leaves of a smooth joint. */
const kinkCosine = Math.cos((1 * Math.PI) / 180);

export function kinksOf(spans: Spans, { count, span, u }: PlacesOnSpans, closed: boolean): Kink[] {
  const kinks: Kink[] = [];
  for (let at = 0; at < count; at++) {
    if (u[at] !== 0 || (span[at] === 0 && !closed)) continue;
    spanTangent(spans, span[at] > 0 ? span[at] - 1 : spans.count - 1, 1, arriving, 0);
    spanTangent(spans, span[at], 0, leaving, 0);
    const cosine = arriving[0] * leaving[0] + arriving[1] * leaving[1] + arriving[2] * leaving[2];
    // A span of no length has no direction.
    if (cosine < kinkCosine && Math.hypot(...arriving) > 0.5 && Math.hypot(...leaving) > 0.5)
      kinks.push({ at, before: arriving.slice(), after: leaving.slice() });
  }
  return kinks;
}

const arriving = new Float64Array(3);
const leaving = new Float64Array(3);

/** The direction of a corner is that of its bisector; one that turns straight back keeps the direction it leaves in. */
export function bisector(before: Float64Array, after: Float64Array, out: Float32Array, o: number): void {
  const sum = [0, 1, 2].map((k) => before[k] + after[k]);
  const size = Math.hypot(...sum);
  for (let k = 0; k < 3; k++) out[o + k] = size > 1e-6 ? sum[k] / size : after[k];
}
