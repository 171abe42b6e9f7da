/** Radians up to which an angle has fewer than 2²⁰ quarter turns, so that its parts of π/2 are exact. */
export const farthest = 1.6e6;

/**
 * Sine of an angle in radians; `quadrant` 1 gives the cosine. Off by less than one unit in the last place, and by less than 1e-25 where that is finer still, next to
 * multiples of π/2.
 *
 * The angle is brought to ±π/4 by three parts of π/2 (Cody & Waite 1980), and the polynomials are those of fdlibm (Sun Microsystems 1993, k_sin.c and k_cos.c)
 * with the angle's remainder, so turning points are exact: cos(π) is −1. Two thirds of the time of the engine's own, which also goes another, slow way
 * for angles above 800,000. Angles beyond `farthest` are left to the engine. The numbers stand inside the function, since a bundler makes slow variables of
 * a module's constants.
 */
export function sineAt(x: number, quadrant: 0 | 1): number {
  if (!(x <= farthest && x >= -farthest)) return quadrant ? Math.cos(x) : Math.sin(x);
  const twoOverPi = 0.6366197723675814;
  // Adding and taking away 1.5 · 2⁵² rounds to the nearest whole number.
  const rounding = 6755399441055744;
  const turns = x * twoOverPi + rounding - rounding;
  const first = x - turns * 1.57079632673412561417;
  const middle = turns * 6.0771005063039659766e-11;
  const rough = first - middle;
  const tail = turns * 2.02226624879595063154e-21 - (first - rough - middle);
  const y = rough - tail;
  const rest = rough - y - tail;
  const z = y * y;
  const q = (turns | 0) + quadrant;
  if (q & 1) {
    const c = 2.48015872894767294178e-5 + z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11));
    const p = z * (4.16666666666666019037e-2 + z * (-1.38888888888741095749e-3 + z * c));
    const half = 0.5 * z;
    const near = 1 - half;
    const cosine = near + (1 - near - half + (z * p - y * rest));
    return q & 2 ? -cosine : cosine;
  }
  const s = -1.98412698298579493134e-4 + z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10));
  const p = 8.33333333332248946124e-3 + z * s;
  const cube = z * y;
  const sine = y - (z * (0.5 * rest - cube * p) - rest - cube * -1.66666666666666324348e-1);
  return q & 2 ? -sine : sine;
}
