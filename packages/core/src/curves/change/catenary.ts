/**
 * The curve of a hanging rope (catenary, y = a·cosh((x − x0)/a) + c; Jakob Bernoulli 1691, common practice): found from its length or
 * its sag, for ends at any heights.
 */
export interface Catenary {
  /** Horizontal tension over weight per length, metres; Infinity: a straight line (no slack). 0: a fold straight down (no span). */
  readonly a: number;
  /** Arc length, metres. */
  readonly length: number;
  /** Horizontal distance of the lowest point of the (endless) catenary from the first end, metres. */
  readonly x0: number;
  readonly span: number;
  readonly rise: number;
}

/** sinh(x)/x − 1 without loss of digits near 0. */
function excess(x: number): number {
  if (x > 0.5) return Math.sinh(x) / x - 1;
  const q = x * x;
  return (q / 6) * (1 + (q / 20) * (1 + (q / 42) * (1 + q / 72)));
}

/** Solves f(x) = wanted for growing f on x > 0, by bisection after doubling an upper end. */
function solveGrowing(f: (x: number) => number, wanted: number): number {
  let low = 0;
  let high = 1;
  while (f(high) < wanted && high < 1e6) high *= 2;
  for (let step = 0; step < 200; step++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (f(middle) < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * The catenary of a given length between (0, 0) and (`span`, `rise`), metres.
 * @throws RangeError when the length is shorter than the straight line (by more than round-off).
 */
export function catenaryByLength(span: number, rise: number, length: number): Catenary {
  const straight = Math.hypot(span, rise);
  if (length < straight * (1 - 1e-9)) throw new RangeError(`A rope of ${length} m cannot reach over ${straight} m.`);
  if (length <= straight * (1 + 1e-12)) return { a: Infinity, length: straight, x0: 0, span, rise };
  if (!(span > 1e-9 * length)) return { a: 0, length, x0: 0, span: 0, rise };
  // √(L² − rise²) = 2a·sinh(span/2a) (Irvine 1981, Cable Structures; from memory): with x = span/2a, sinh(x)/x = √(L² − rise²)/span.
  const x = solveGrowing(excess, Math.sqrt(length * length - rise * rise) / span - 1);
  const a = span / (2 * x);
  return { a, length, x0: span / 2 - a * Math.atanh(rise / length), span, rise };
}

/**
 * The catenary whose largest vertical distance below the chord is `sag` metres.
 * @throws RangeError when the ends lie above one another (there is no chord to sag below).
 */
export function catenaryBySag(span: number, rise: number, sag: number): Catenary {
  const straight = Math.hypot(span, rise);
  if (!(sag > 1e-12 * straight)) return { a: Infinity, length: straight, x0: 0, span, rise };
  if (!(span > 1e-9 * straight)) throw new RangeError('The ends lie one above the other, so there is no chord to sag below; use slack.');
  // Sag grows with x = span/2a at a fixed rise.
  const shape = (x: number): Catenary => {
    const a = span / (2 * x);
    const level = 2 * a * Math.sinh(x);
    const length = Math.hypot(level, rise);
    return { a, length, x0: span / 2 - a * Math.atanh(rise / length), span, rise };
  };
  const x = solveGrowing((candidate) => sagOf(shape(candidate)), sag);
  return shape(x);
}

/** Largest vertical distance below the chord, metres: where the slope equals the chord's. */
export function sagOf(curve: Catenary): number {
  const { a, x0, span, rise } = curve;
  if (a === Infinity) return 0;
  if (a === 0) return (curve.length - Math.abs(rise)) / 2;
  const x = x0 + a * Math.asinh(rise / span);
  return (rise / span) * x - heightAt(curve, x);
}

/** Height at horizontal distance `x` above the first end: a·(cosh((x − x0)/a) − cosh(x0/a)) as a product of sinh, which keeps its digits. */
function heightAt({ a, x0 }: Catenary, x: number): number {
  return 2 * a * Math.sinh(x / (2 * a)) * Math.sinh((x - 2 * x0) / (2 * a));
}

/** Slope (rise over run) at `s` metres along a rope that has a span and some slack: linear in `s`. */
export const catenarySlope = ({ a, x0 }: Catenary, s: number): number => s / a + Math.sinh(-x0 / a);

/**
 * Place and unit direction at `s` metres along the curve, in the plane (x horizontal, y up): [x, y, dx, dy]. Places even in `s` are
 * even in length, and the slope is linear in `s`.
 */
export function catenaryAt(curve: Catenary, s: number): [number, number, number, number] {
  const { a, x0, span, rise, length } = curve;
  if (a === Infinity) {
    const straight = Math.hypot(span, rise) || 1;
    return [(span * s) / straight, (rise * s) / straight, span / straight, rise / straight];
  }
  if (a === 0) {
    const down = (length - rise) / 2;
    return s <= down ? [0, -s, 0, -1] : [0, s - 2 * down, 0, 1];
  }
  const slope = catenarySlope(curve, s);
  const x = x0 + a * Math.asinh(slope);
  const run = Math.hypot(1, slope);
  return [x, heightAt(curve, x), 1 / run, slope / run];
}
