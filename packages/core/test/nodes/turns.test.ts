/** Loops round a beam as one rope, with what leads to them. */
import { describe, expect, test } from 'vitest';
import type { Curves } from '../../src/index.js';
import { drawn, runGraph, type Chain } from '../graph.js';

type Step = Chain[number];
const beam: Step = ['lay.cylinder', { radius: 0.2, height: 3, sides: 48 }];
const offset = 0.02;

async function wound(settings: object, more: Record<string, Step>, wires: readonly string[], body: Step = beam): Promise<Curves> {
  const { results } = await runGraph({ beam: body, ...more, it: ['place.loops', { offset, form: 'rope', ...settings } as Record<string, unknown>] }, [
    'beam.mesh > it.mesh',
    ...wires,
  ]);
  expect([results['it'].error, results['it'].warnings]).toEqual([undefined, []]);
  return results['it'].outputs['curves'] as Curves;
}
const places = ({ positions, starts }: Curves, c: number): number[][] =>
  Array.from({ length: starts[c + 1] - starts[c] }, (_, i) => Array.from(positions.subarray((starts[c] + i) * 3, (starts[c] + i) * 3 + 3)));
/** How often a line goes round the y axis, signed. */
const rounds = (line: readonly number[][]): number =>
  line.slice(1).reduce((sum, [x, , z], i) => {
    const [a, , b] = line[i];
    return sum + Math.atan2(a * z - b * x, a * x + b * z) / (2 * Math.PI);
  }, 0);

describe('turns as one rope', () => {
  // A beam about y, with places on its side.
  const side: Step = drawn([[0.2, 0.5, 0], [0.2, 1.2, 0]]); // prettier-ignore
  test('go round as often as there are loops, on the surface of the rope’s own radius, and end at the last loop', async () => {
    for (const count of [1, 2, 5]) {
      const curves = await wound({ count, spacing: 0.05, before: 0 }, { side, ends: ['pace.points', {}] }, [
        'side.curves > ends.curves',
        'ends.points > it.points',
      ]);
      expect([curves.starts.length - 1, Array.from(curves.closed)]).toEqual([2, [0, 0]]);
      for (const c of [0, 1]) {
        const line = places(curves, c);
        expect(Math.abs(rounds(line))).toBeCloseTo(count, 3);
        const heights = line.map(([, y]) => y);
        expect(Math.max(...heights) - Math.min(...heights)).toBeCloseTo((count - 1) * 0.05, 4);
        // A regular section of 48 sides is nowhere nearer than its inner circle, nor farther than its outer one.
        for (const [x, , z] of line) {
          expect(Math.hypot(x, z)).toBeGreaterThan(0.2 * Math.cos(Math.PI / 48) + offset - 2e-3);
          expect(Math.hypot(x, z)).toBeLessThan(0.2 + offset + 1e-4);
        }
        // No step back along the beam: a helix.
        const up = Math.sign(heights.at(-1)! - heights[0]);
        heights.slice(1).forEach((y, i) => expect((y - heights[i]) * up).toBeGreaterThan(-1e-6));
      }
    }
  });

  test('a lead goes on into its turns at both ends, and is one curve with them; its ends are the points', async () => {
    const lead: Step = drawn([[0.2, 0.5, 0], [1, 0.4, 0], [1.8, 0.6, 0], [2.4, 1, 0], [0.2, 1.2, 0]]); // prettier-ignore
    const curves = await wound({ count: 3, spacing: 0.05 }, { lead }, ['lead.curves > it.leads']);
    expect(curves.starts.length - 1).toBe(1);
    const line = places(curves, 0);
    const at = [1, 1.8, 2.4].map((x) => line.findIndex((place) => Math.abs(place[0] - x) < 1e-6));
    expect([at[0] > 0, at[1], at[2]]).toEqual([true, at[0] + 1, at[0] + 2]);
    // Three turns before it and three behind it.
    for (const part of [line.slice(0, at[0]), line.slice(at[2] + 1)]) expect(Math.abs(rounds(part))).toBeCloseTo(3, 3);
    const alone = await wound({ count: 3, spacing: 0.05 }, { lead: drawn([[0.2, 0.5, 0], [1, 0.4, 0]]) }, ['lead.curves > it.leads']); // prettier-ignore
    // An end in the air gets none.
    expect([alone.starts.length - 1, Math.abs(Math.round(rounds(places(alone, 0)))), places(alone, 0).at(-1)![0]]).toEqual([1, 3, 1]);
  });

  /** The nearest that a line comes to the sides of a square beam about y. */
  const offBeam = (line: readonly number[][], half: number): number =>
    Math.min(
      ...line.slice(1).flatMap((place, i) =>
        [0.25, 0.5, 0.75].map((share) => {
          const [px, , pz] = place.map((value, k) => value * share + line[i][k] * (1 - share));
          const [ox, oz] = [Math.abs(px) - half, Math.abs(pz) - half];
          return Math.hypot(Math.max(0, ox), Math.max(0, oz)) + Math.min(0, Math.max(ox, oz));
        }),
      ),
    );
  test('round a square beam they stay off it by the radius, corners too, wherever the places lie', async () => {
    for (const x of [-0.09, -0.02, 0.05, 0.1]) {
      const side: Step = drawn([[x, 0.5, 0.1], [-x / 2, 0.9, 0.1]]); // prettier-ignore
      const curves = await wound({ count: 4, spacing: 0.06 }, { side, ends: ['pace.points', {}] }, ['side.curves > ends.curves', 'ends.points > it.points'], ['lay.box', { size: [0.2, 3, 0.2] }]); // prettier-ignore
      for (const c of [0, 1]) expect([Math.abs(rounds(places(curves, c))), offBeam(places(curves, c), 0.1)]).toEqual([expect.closeTo(4, 3), expect.closeTo(offset, 3)]); // prettier-ignore
    }
    // In the middle of the beam all corners are as near: which one a loop begins at is chance.
    const middle = await wound({ count: 4, offset: 0.012 }, { parts: ['mesh.parts', {}] }, ['beam.mesh > parts.mesh', 'parts.points > it.points'], ['lay.box', { size: [0.1, 2, 0.1] }]); // prettier-ignore
    expect(offBeam(places(middle, 0), 0.05)).toBeCloseTo(0.012, 3);
  });

  test('rings stay what they are, and waits without points or leads', async () => {
    const rings = await wound({ count: 3, form: 'rings' }, { side, ends: ['pace.points', {}] }, ['side.curves > ends.curves', 'ends.points > it.points']);
    expect([rings.starts.length - 1, [...new Set(rings.closed)]]).toEqual([6, [1]]);
    const { results } = await runGraph({ beam, it: ['place.loops', {}] }, ['beam.mesh > it.mesh']);
    expect(results['it'].warnings.map(({ code }) => code)).toEqual(['empty']);
  });
});
