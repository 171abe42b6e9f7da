import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { newHit, newRayHit, firstHit, surfaceOf, type Curves, type Mesh, type NodeResult } from '../../src/index.js';
import { runGraph } from '../graph.js';

const stroke = async (
  settings: Record<string, unknown>,
  ball: Record<string, unknown> = {},
  moved: Record<string, unknown> = {},
): Promise<{ last: NodeResult; curves: Curves; body: Mesh }> => {
  const { results } = await runGraph(
    { ball: ['lay.sphere', { divisions: 8, ...ball }], moved: ['shape.transform', moved], stroke: ['lay.surfaceStroke', settings] },
    ['ball.mesh > moved.any', 'moved.any > stroke.mesh'],
  );
  const last = results['stroke'];
  return { last, curves: last.outputs['curves'] as Curves, body: results['moved'].outputs['any'] as Mesh };
};

/** Where lines of sight meet the ball as it is at first, as the view keeps it. */
async function drawnOn(directions: readonly (readonly number[])[]): Promise<Record<string, unknown>> {
  const { body } = await stroke({ strokes: [] });
  const { nearest } = surfaceOf(body);
  const hits = directions.map((d) => {
    const size = Math.hypot(...d);
    const along = d.map((value) => value / size);
    const hit = firstHit(
      nearest.tree,
      along.map((value) => value * -5),
      along,
      newRayHit(),
    );
    return { place: along.map((value) => value * (hit.t - 5)), on: [hit.piece, hit.weights[1], hit.weights[2]] };
  });
  return { points: hits.map(({ place }) => place), on: hits.map(({ on }) => on), triangles: nearest.pieces.element.length };
}

describe('Stroke on surface', () => {
  test('follows the surface between its points within the tolerance, and lies as far off it as asked', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 99 }), async (mm, seed) => {
        const [a, b, offset] = [Math.abs(Math.sin(seed)), Math.abs(Math.cos(seed * 3)), mm / 1000];
        const { last, curves, body } = await stroke({ strokes: [[[1, a, 0], [0, 1, b], [b, a, 1]]], offset, tolerance: 0.002 }); // prettier-ignore
        expect(last.error).toBeUndefined();
        const surface = surfaceOf(body);
        expect(curves.starts[1]).toBeGreaterThan(6);
        for (let i = 3; i < curves.positions.length; i += 3)
          for (const share of [0, 0.3, 0.5]) {
            const [x, y, z] = [0, 1, 2].map((k) => curves.positions[i + k] * (1 - share) + curves.positions[i - 3 + k] * share);
            expect(Math.abs(surface.signedDistance(x, y, z, newHit()) - offset)).toBeLessThan(0.0035 + offset * 0.02);
          }
      }),
      { numRuns: 12 },
    ));

  test('goes along with the body that it was drawn on, point by point', async () => {
    const one = await drawnOn([[1, 0.2, 0.1], [0.8, 0.6, 0.2], [0.1, 1, 0.3]]); // prettier-ignore
    const settings = { strokes: [one], between: 'straight' };
    const still = await stroke(settings);
    const moved = await stroke(settings, {}, { move: [3, -1, 2], size: [2, 0.5, 1], turn: [0, 90, 0] });
    for (let i = 0; i < 3; i++) {
      const [x, y, z] = still.curves.positions.subarray(i * 3, i * 3 + 3);
      const there = [...moved.curves.positions.subarray(i * 3, i * 3 + 3)];
      // Sized, then turned about y by 90° (x to −z, z to x), then moved.
      [z + 3, y * 0.5 - 1, -x * 2 + 2].forEach((value, k) => expect(there[k]).toBeCloseTo(value, 5));
    }
    expect([still.last.warnings.length, moved.last.warnings.length]).toEqual([0, 0]);
  });

  test('goes to the nearest places of a body with other triangles, and says how far that was', async () => {
    const one = await drawnOn([[1, 0, 0], [0, 1, 0]]); // prettier-ignore
    const { last, curves } = await stroke({ strokes: [one], between: 'straight' }, { divisions: 3, radius: 1.5 });
    expect(last.warnings[0].message).toMatch(/^1 of 1 strokes were drawn on a body with other triangles.*0\.(4|5)/);
    expect(Math.hypot(...curves.positions.subarray(0, 3))).toBeGreaterThan(1.3);
  });

  test('takes bare lists of points, closes where asked, and is empty where nothing is drawn', async () => {
    const points = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
    const { curves } = await stroke({ strokes: [points, { points, closed: true }], between: 'straight' });
    expect([[...curves.closed], [...curves.starts]]).toEqual([[0, 1], [0, 3, 6]]); // prettier-ignore
    const none = await stroke({ strokes: [] });
    expect([none.last.error, none.curves.starts.length]).toEqual([undefined, 1]);
  });

  test.each([
    [[{ points: [[0, 0]] }], /point 0 of stroke 0 is \[0,0\]/],
    [[{ points: [[0, 0, 0]], on: [[9, 0, 0]], triangles: 5 }], /place 0 of stroke 0 is \[9,0,0\]; it is a triangle \(0 to 4\)/],
    [[{ points: [[0, 0, 0]], on: [[1, 0.7, 0.7]], triangles: 5 }], /two shares that sum to 1/],
    [[{ points: [[0, 0, 0]], on: [], triangles: 5 }], /stroke 0 needs a place on the body for each of its 1 points/],
    [[{ points: [[0, 0, 0]], on: [[1, 0, 0]] }], /triangles of stroke 0/],
    [[{ points: [], colour: 1 }], /stroke 0 has no "colour"; it has points, on, triangles and closed/],
  ])('%j is refused with what is wrong', async (strokes, message) => {
    expect((await stroke({ strokes })).last.error?.message).toMatch(message);
  });
});
