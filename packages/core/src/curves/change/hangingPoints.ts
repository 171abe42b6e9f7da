import { cumulativeLengths } from '../evaluate/arcLength.js';
import { catenaryAt, catenarySlope, type Catenary } from './catenary.js';

/** Points of a hanging rope in its plane: 2 numbers each, x level and y up, metres. */
export interface HangingPoints {
  readonly count: number;
  readonly places: Float64Array;
  /** Unit directions. */
  readonly directions: Float64Array;
  /** Bezier handles out of and into each point, as offsets from it. */
  readonly out: Float64Array;
  readonly into: Float64Array;
}

/** Share of the rope's length that the curve through its points may miss. */
const lengthHolds = 0.95e-4;

/** `count` points of a rope, or more where the curve through them would not have its length: even ones, else closer where it bends, else more. */
export function hangingPoints(rope: Catenary, count: number): HangingPoints {
  const even = pointsAt(
    rope,
    Float64Array.from({ length: count }, (_, i) => (rope.length * i) / (count - 1)),
  );
  if (holds(rope, even)) return even;
  for (let more = count; ; more = Math.ceil(more * 1.5)) {
    const closer = pointsAt(rope, byBend(rope, more));
    if (holds(rope, closer)) return closer;
  }
}

function holds({ length }: Catenary, { count, places, out, into }: HangingPoints): boolean {
  const control = new Float64Array((count - 1) * 12);
  for (let i = 0; i + 1 < count; i++)
    for (let k = 0; k < 2; k++) {
      const [a, b] = [places[i * 2 + k], places[i * 2 + 2 + k]];
      control[i * 12 + k] = a;
      control[i * 12 + 3 + k] = a + out[i * 2 + k];
      control[i * 12 + 6 + k] = b + into[i * 2 + 2 + k];
      control[i * 12 + 9 + k] = b;
    }
  const made = cumulativeLengths({ count: count - 1, control, straight: false });
  return Math.abs(made[count - 1] - length) <= lengthHolds * length;
}

/** Lengths that share the rope evenly by the sum of its length and its turn, each counting half. A fold straight down gets a point at its bottom. */
function byBend(rope: Catenary, count: number): Float64Array {
  const { length, rise, a } = rope;
  const stations = new Float64Array(count);
  if (a === 0) {
    const bottom = (length - rise) / 2;
    const before = Math.min(count - 2, Math.max(1, Math.round((bottom / length) * (count - 1))));
    for (let i = 0; i < count; i++)
      stations[i] = i <= before ? (bottom * i) / before : bottom + ((length - bottom) * (i - before)) / Math.max(1, count - 1 - before);
    return stations;
  }
  const angle = (s: number): number => Math.atan(catenarySlope(rope, s));
  const [from, to] = [angle(0), angle(length)];
  const share = (s: number): number => (s / length + (angle(s) - from) / (to - from)) / 2;
  for (let i = 1; i < count; i++) {
    let [low, high] = [0, length];
    for (let step = 0; step < 60 && high > low; step++) {
      const middle = (low + high) / 2;
      if (share(middle) < i / (count - 1)) low = middle;
      else high = middle;
    }
    stations[i] = high;
  }
  stations[count - 1] = length;
  return stations;
}

function pointsAt(rope: Catenary, stations: Float64Array): HangingPoints {
  const count = stations.length;
  const [places, directions, out, into] = Array.from({ length: 4 }, () => new Float64Array(count * 2));
  for (let i = 0; i < count; i++) {
    const [x, y, dx, dy] = catenaryAt(rope, stations[i]);
    places.set([x, y], i * 2);
    directions.set([dx, dy], i * 2);
    const before = (i > 0 ? stations[i] - stations[i - 1] : stations[1]) / 3;
    const after = (i + 1 < count ? stations[i + 1] - stations[i] : stations[i] - stations[i - 1]) / 3;
    // At the bottom of a fold the rope arrives going down and leaves going up.
    const turned = rope.a === 0 && i + 1 < count && dy < 0 && catenaryAt(rope, stations[i + 1])[3] > 0 ? -1 : 1;
    out.set([dx * after * turned, dy * after * turned], i * 2);
    into.set([-dx * before, -dy * before], i * 2);
  }
  return { count, places, directions, out, into };
}
