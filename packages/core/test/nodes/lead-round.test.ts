import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveLengths, surfaceOf, type Curves, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, runGraph, type Chain } from '../graph.js';

type Step = Chain[number];

async function led(rope: Step, body: Step, settings: Record<string, unknown>): Promise<{ curves: Curves; given: Curves; body: Mesh; result: NodeResult }> {
  const { results } = await runGraph({ rope, body, round: ['shape.leadRound', settings] }, ['rope.curves > round.curves', 'body.mesh > round.body']);
  const result = results['round'];
  if (result.error) throw new Error(result.error.message);
  return {
    curves: result.outputs['curves'] as Curves,
    given: results['rope'].outputs['curves'] as Curves,
    body: results['body'].outputs['mesh'] as Mesh,
    result,
  };
}

/** The least distance from a body to a curve, looked at ten times a piece. */
function nearest({ positions: p, closed }: Curves, body: Mesh): number {
  const surface = surfaceOf(body);
  const n = p.length / 3;
  let least = Infinity;
  for (let i = 0; i < (closed[0] ? n : n - 1); i++)
    for (let t = 0; t <= 1; t += 0.1) {
      const [x, y, z] = [0, 1, 2].map((k) => p[i * 3 + k] + t * (p[((i + 1) % n) * 3 + k] - p[i * 3 + k]));
      least = Math.min(least, surface.signedDistance(x, y, z));
    }
  return least;
}

describe('Lead round', () => {
  test('round a pile it is the tangent, the arc and the tangent', async () => {
    const pile: Step = ['lay.cylinder', { radius: 0.2, height: 4, sides: 96 }];
    const { curves, result } = await led(drawn([[-1, 0.1, 0.001], [1, 0.1, 0.001]]), pile, { clearance: 0.05 }); // prettier-ignore
    expect(result.warnings).toEqual([]);
    // From a place at distance d of the axis a taut line touches a circle of radius r after √(d² − r²), at the angle acos(r / d) from it (common practice).
    const [d, r] = [1, 0.25];
    const taut = 2 * Math.sqrt(d * d - r * r) + r * (Math.PI - 2 * Math.acos(r / d));
    expect(curveLengths(curves)[0] / taut).toBeCloseTo(1, 2);
    expect([...curves.positions.slice(0, 3), ...curves.positions.slice(-3)]).toEqual([-1, 0.1, 0.001, 1, 0.1, 0.001].map(Math.fround));
  });

  test('a long line through the very middle of a box comes as tight, and can be pushed aside', async () => {
    const aside = await led(drawn([[-2, 0, 0], [2, 0, 0]]), ['lay.box', { size: [1, 1, 1] }], { clearance: 0.0132, way: 'aside' }); // prettier-ignore
    expect(aside.result.warnings).toEqual([]);
    expect(nearest(aside.curves, aside.body)).toBeGreaterThan(0.0132 * 0.97);
    const { curves, body, result } = await led(drawn([[-2, 0, 0], [2, 0, 0]]), ['lay.box', { size: [1, 1, 1] }], { clearance: 0.013 }); // prettier-ignore
    expect(result.warnings).toEqual([]);
    expect(nearest(curves, body)).toBeGreaterThan(0.013 * 0.97);
    // To the upright edges, round them, and along the side between: clearance counts as if it were a rod's.
    const [h, r] = [0.5, 0.013];
    const slope = 2 * Math.hypot(1.5, h) + 1;
    // Straight to where it touches: a third of the way there all points are on one line.
    const places = Array.from({ length: curves.positions.length / 3 }, (_, i) => [...curves.positions.subarray(i * 3, i * 3 + 3)]);
    const early = places.filter(([x]) => x > -2 && x < -1.5);
    expect(early.length).toBeGreaterThan(10);
    const [, dy, dz] = early.at(-1)!.map((value, k) => (value - places[0][k]) / (early.at(-1)![0] + 2));
    for (const [x, y, z] of early) expect([y, z]).toEqual([expect.closeTo((x + 2) * dy, 5), expect.closeTo((x + 2) * dz, 5)]);
    expect(curveLengths(curves)[0]).toBeGreaterThan(slope);
    expect(curveLengths(curves)[0]).toBeLessThan((slope + 2 * r) * 1.002);
  });

  test('pushed aside it keeps its course seen from the side to which it goes', async () => {
    const points = [[-2, 0.1, 0.02], [0, 0.1, 0.05], [2, 0.1, 0.02]]; // prettier-ignore
    const { curves, body } = await led(drawn(points), ['lay.box', { size: [1, 1, 0.6] }], { clearance: 0.03, way: 'aside' });
    expect(nearest(curves, body)).toBeGreaterThan(0.03 * 0.97);
    // Out to the front, which is nearest: height and order along x are as they were.
    const places = Array.from({ length: curves.positions.length / 3 }, (_, i) => [...curves.positions.subarray(i * 3, i * 3 + 3)]);
    for (const [, y] of places) expect(y).toBeCloseTo(0.1, 5);
    places.slice(1).forEach(([x], i) => expect(x).toBeGreaterThan(places[i][0] - 1e-6));
    expect(Math.max(...places.map(([, , z]) => z))).toBeCloseTo(0.33, 3);
  });

  const bodies: Record<string, Step> = {
    box: ['lay.box', { size: [1, 0.8, 1.2] }],
    ball: ['lay.sphere', { radius: 0.6, divisions: 12 }],
    cone: ['lay.cylinder', { radius: 0.7, radiusTop: 0.1, height: 1, sides: 24 }],
  };
  const far = fc
    .tuple(fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }), fc.double({ min: -0.9, max: 0.9, noNaN: true }))
    .map(([a, y]) => [1.5 * Math.cos(a), y, 1.5 * Math.sin(a)]);
  for (const [name, body] of Object.entries(bodies))
    test(`any line through a ${name}: clear of it, from end to end; what is clear stays as it is`, () =>
      fc.assert(
        fc.asyncProperty(far, far, fc.constantFrom(0.02, 0.08), fc.constantFrom('taut', 'aside'), async (from, to, clearance, way) => {
          if (Math.hypot(...from.map((value, k) => value - to[k])) < 0.2) return;
          const { curves, given, body: mesh, result } = await led(drawn([from, to]), body, { clearance, way });
          expect(result.warnings).toEqual([]);
          expect(nearest(curves, mesh)).toBeGreaterThan(clearance * 0.97);
          expect([...curves.positions.slice(0, 3), ...curves.positions.slice(-3)]).toEqual([...from, ...to].map(Math.fround));
          if (nearest(given, mesh) > clearance) expect(curves.positions).toEqual(given.positions);
        }),
        { numRuns: 40 },
      ));

  test('only the stretch that passes through is changed, with the values of the point before it; a closed curve stays closed', async () => {
    const points = [[-1, 0, 0], [1, 0, 0], [1, 0, 2], [0, 0, 3], [-1, 0, 2]]; // prettier-ignore
    const ring: Step = ['lay.drawn', { kind: 'straight', curves: [{ points, closed: true }] }];
    const { curves, body } = await led(ring, ['lay.sphere', { radius: 0.4, divisions: 12 }], { clearance: 0.05 });
    expect([...curves.closed]).toEqual([1]);
    expect(nearest(curves, body)).toBeGreaterThan(0.048);
    const places = Array.from({ length: curves.positions.length / 3 }, (_, i) => [...curves.positions.subarray(i * 3, i * 3 + 3)].join());
    for (const point of points) expect(places.filter((each) => each === point.join())).toHaveLength(1);
    expect(places.length).toBeGreaterThan(points.length + 10);
  });

  test('what has no way round stays as it was, and is told', async () => {
    const inside = [[-0.1, 0, 0], [0.1, 0, 0], [0.1, 0.1, 0]]; // prettier-ignore
    const { curves, given, result } = await led(
      ['lay.drawn', { kind: 'straight', curves: [{ points: inside, closed: true }] }],
      ['lay.box', { size: [1, 1, 1] }],
      {},
    );
    expect(curves.positions).toEqual(given.positions);
    expect(result.warnings.map(({ message }) => message)).toEqual(['1 stretch finds no way round the body, the first on curve 1.']);
  });
});
