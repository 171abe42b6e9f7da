import type { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import type { Arm } from './findForks.js';

/** A ring that an arm begins with: its middle, which way it goes on, and its radius. */
interface Ring {
  readonly centre: readonly number[];
  readonly out: readonly number[];
  readonly radius: number;
}

/** How much farther than needed rings stand apart, as a share of their radius. */
const room = 0.12;
/** Factor from one try to the next. */
const grow = 1.2;

/**
 * How far from a fork its arms begin, so that each ring lies free: all others lie behind its plane. What is between them is then closed by their convex hull.
 * @param limit metres that are free along the shortest arm.
 * @returns metres; null where the arms are too short, or run too nearly the same way.
 */
export function clearOf(arms: readonly Arm[], paths: readonly AlongCurve[], radiusAt: (curve: number, at: number) => number, limit: number): number | null {
  const widest = Math.max(...arms.map(({ curve, at }) => radiusAt(curve, at)));
  for (let back = widest * 0.8; back <= limit; back *= grow) {
    const rings = arms.map(({ curve, at, way }): Ring => {
      const s = at + way * back;
      const { tangent } = paths[curve].frame(s);
      return { centre: paths[curve].place(s), out: tangent.map((value) => value * way), radius: radiusAt(curve, s) };
    });
    if (rings.every((ring) => rings.every((other) => other === ring || behind(other, ring)))) return back;
  }
  return null;
}

/** Whether a ring lies behind the plane of another, with a little room. */
function behind({ centre, out, radius }: Ring, of: Ring): boolean {
  const away = centre.reduce((sum, value, k) => sum + (value - of.centre[k]) * of.out[k], 0);
  const lean = out.reduce((sum, value, k) => sum + value * of.out[k], 0);
  return away + radius * Math.sqrt(Math.max(0, 1 - lean * lean)) < -room * of.radius;
}
