/** Ropes at rest against independent answers: the discrete chain by its own balance, and the shortest way over a bar. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveLengths, curvesFromLists, surfaceOf, unbounded, type Curves, type Mesh } from '../../src/index.js';
import { relax, type RelaxOptions } from '../../src/shape/relax/relax.js';
import { runChain } from '../graph.js';

const constant = (value: number): { constant: number; values: null } => ({ constant: value, values: null });
const usual: RelaxOptions = { slack: constant(0), gravity: 9.81, down: [0, -1, 0], stiffness: 0, friction: 0.2, radius: 0.012, settle: 'untilSettled', steps: 20, pinEnds: true, pinned: constant(0), ropes: 'apart' }; // prettier-ignore
const height = (curves: Curves, i: number): number => curves.positions[i * 3 + 1];

/**
 * Depth of the lowest joint of a chain of n rigid links between two level ends: each joint weighs the same, so the slope of link k is (its number from the middle) ÷ H, and H is
 * what makes the links span the distance (bisection). From memory.
 */
function chainSag(links: number, length: number, span: number): number {
  const slopes = (pull: number): number[] => Array.from({ length: links }, (_, k) => ((links - 1) / 2 - k) / pull);
  const reach = (pull: number): number => slopes(pull).reduce((sum, slope) => sum + length / Math.hypot(1, slope), 0);
  let [low, high] = [1e-9, 1e9];
  for (let i = 0; i < 200; i++) {
    const middle = Math.sqrt(low * high);
    if (reach(middle) < span) low = middle;
    else high = middle;
  }
  let [depth, deepest] = [0, 0];
  for (const slope of slopes(low)) deepest = Math.max(deepest, (depth += (length * slope) / Math.hypot(1, slope)));
  return deepest;
}

describe('chains of a few links, from whatever zigzag', () => {
  test('hang as deep as their balance says, each link as long as it was', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 40, max: 95 }), fc.constantFrom('up', 'level', 'down'), (links, percent, way) => {
        const [along, off] = [percent / 100, Math.sqrt(1 - (percent / 100) ** 2)];
        const side = (i: number): number[] => (way === 'level' ? [0, i % 2 ? off : 0] : [i % 2 ? (way === 'up' ? off : -off) : 0, 0]);
        // An odd number of links ends on the other side: level for both ends only where it is even.
        const count = links * 2;
        const { curves, unsettled } = relax(curvesFromLists([Array.from({ length: count + 1 }, (_, i) => [i * along, ...side(i)])]), null, usual, unbounded);
        expect(unsettled).toEqual([]);
        const lowest = Math.min(...Array.from({ length: count + 1 }, (_, i) => height(curves, i)));
        expect(Math.abs(-lowest - chainSag(count, 1, count * along))).toBeLessThan(2e-3 * count);
        for (let i = 0; i < count; i++) {
          const size = Math.hypot(...[0, 1, 2].map((k) => curves.positions[i * 3 + 3 + k] - curves.positions[i * 3 + k]));
          expect(Math.abs(size - 1)).toBeLessThan(3e-3);
        }
      }),
      { numRuns: 60, seed: 5 },
    );
  });

  test('six links of a metre whose joints are 0.8 m apart: 1.617 m, and 2,000 steps meet it too', () => {
    const zigzag = curvesFromLists([Array.from({ length: 7 }, (_, i) => [i * 0.8, i % 2 ? 0.6 : 0, 0])]);
    expect(chainSag(6, 1, 4.8)).toBeCloseTo(1.617, 3);
    for (const how of [{}, { settle: 'steps', steps: 2000 }] as const) expect(Math.abs(height(relax(zigzag, null, { ...usual, ...how }, unbounded).curves, 3) + 1.617)).toBeLessThan(2e-3); // prettier-ignore
  });
});

describe('ropes over a bar', () => {
  /** A bar along z. */
  const bar = async (radius: number): Promise<Mesh> =>
    (await runChain([['lay.cylinder', { radius, height: 2, sides: 96 }], ['shape.transform', { turn: [90, 0, 0] }]])).last.outputs['any'] as Mesh; // prettier-ignore
  /** The shortest way over a circle between two places below its top: tangent, arc, tangent. */
  const taut = (r: number, x: number, y: number): number => {
    const away = Math.hypot(x, y);
    const arc = 2 * (Math.PI / 2 - Math.atan2(y, x) - Math.acos(r / away));
    return 2 * Math.sqrt(away * away - r * r) + r * arc;
  };
  const over = (x: number, y: number, top: number, count: number): number[][] =>
    Array.from({ length: count }, (_, i) => [x * Math.cos(Math.PI - (i * Math.PI) / (count - 1)), y + (top - y) * Math.sin((i * Math.PI) / (count - 1)), 0]);

  for (const [radius, x, y, top, count] of [[0.3, 1, -0.3, 0.78, 81], [0.2, 0.9, -0.1, 0.5, 61], [0.5, 1.4, -0.6, 0.9, 121], [0.35, 0.8, -0.5, 0.6, 81]] as const)
    for (const friction of [0, 0.2])
      test(`of ${radius} m, friction ${friction}: lengths are kept, taut ones run straight, and nothing passes through`, async () => {
        const body = await bar(radius);
        const surface = surfaceOf(body);
        for (const slack of [-0.35, -0.2, -0.05, 0.05]) {
          const given = curvesFromLists([over(x, y, top, count)]);
          const { curves, unsettled, tooNear } = relax(given, surface, { ...usual, stiffness: 0.1, friction, slack: constant(slack) }, unbounded);
          const own = curveLengths(given)[0] * (1 + slack);
          const least = taut(radius + usual.radius, x, y);
          const told = { slack, own, least, length: curveLengths(curves)[0] };
          // A slack rope that nothing holds may go on sliding; then it says so.
          if (friction || slack < 0) expect({ ...told, unsettled }).toEqual({ ...told, unsettled: [] });
          expect({ ...told, tooNear: tooNear < 1e-3 }).toEqual({ ...told, tooNear: true });
          expect({ ...told, kept: Math.abs(told.length - Math.max(own, least)) < 0.012 * Math.max(own, least) }).toEqual({ ...told, kept: true });
          // Along every piece, by the formula of the bar; the mesh of it is a little thinner.
          for (let i = 0; i + 1 < count; i++)
            for (const share of [0, 0.25, 0.5, 0.75]) {
              const [px, py] = [0, 1].map((k) => curves.positions[i * 3 + k] * (1 - share) + curves.positions[i * 3 + 3 + k] * share);
              expect({ ...told, i, outside: Math.hypot(px, py) > radius * 0.995 }).toEqual({ ...told, i, outside: true });
              if (Math.abs(px) < radius * 0.3 && i > count / 4 && i < (3 * count) / 4) expect({ ...told, i, above: py > 0 }).toEqual({ ...told, i, above: true });
            }
        }
      });
}); // prettier-ignore
