import { describe, expect, test } from 'vitest';
import { measure, neighbourDistance, ropeSection } from '../../src/index.js';
import { runChain } from '../graph.js';
import { expectReference, places, reference } from './reference.js';

describe('strands of a rope', () => {
  for (const id of ['RP-O-01', 'RP-O-02', 'RP-O-03']) {
    const { name, inputs, expected } = reference<{ n: number; R: number }>(id);
    test(`${name}, as the limit of a very long lay`, () => {
      const section = ropeSection(inputs.R, inputs.n, inputs.R * 1e6);
      expectReference(section.strandRadius, { ...expected['strandRadius'], abs: 1e-8 * inputs.R });
      expectReference(section.centreRadius, { ...expected['centreRadius'], abs: 1e-8 * inputs.R });
    });
  }

  for (const id of ['RP-O-04', 'RP-O-05']) {
    const { name, inputs, expected } = reference<{ rc: number; lay: number; n: number }>(id);
    test(name, () => {
      const distance = neighbourDistance(inputs.rc, inputs.lay, inputs.n);
      expectReference(distance, expected['neighbourDistance3D']);
      expectReference(distance / 2, expected['largestTouchingStrandRadius']);
      expect(distance).toBeLessThan(expected['planarNeighbourDistance'].value as number);
    });
  }

  test('strands fill the diameter and touch their neighbours, at a short lay too', () => {
    for (const lay of [0.06, 0.12, 0.5]) {
      const { centreRadius, strandRadius } = ropeSection(0.02, 3, lay);
      expect(centreRadius + strandRadius).toBeCloseTo(0.02, 12);
      expect(neighbourDistance(centreRadius, lay, 3) / 2).toBeCloseTo(strandRadius, 9);
    }
  });
});

test('a straight rope: right lay, its strands’ length by the lay angle (RP-O-04), watertight', async () => {
  const lay = 0.3;
  const { mesh } = await runChain([
    ['lay.line', { to: [0, 3, 0], points: 2 }],
    ['skin.rope', { diameter: 0.1, strands: 3, layLength: lay, sides: 12, ringsPerTurn: 48, caps: 'flat' }],
  ]);
  const figures = measure({ mesh });
  expect(figures.parts).toBe(3);
  expect(figures.euler).toBe(6);
  expect(figures.boundaryEdges).toBe(0);
  const { centreRadius, strandRadius } = ropeSection(0.05, 3, lay);
  const length = 3 * Math.hypot(1, (2 * Math.PI * centreRadius) / lay);
  const section = (12 / 2) * strandRadius ** 2 * Math.sin((2 * Math.PI) / 12);
  expect(figures.volume / (3 * length * section)).toBeCloseTo(1, 2);
  expect(Math.max(...places(mesh.positions).map(([x, , z]) => Math.hypot(x, z)))).toBeLessThan(0.05 * 1.001);
  // Right lay: a strand goes counter-clockwise about the way it goes, as a right-hand thread. The rope goes up y.
  const first = places(mesh.positions).slice(0, 13);
  const second = places(mesh.positions).slice(13, 26);
  const middle = (ring: number[][]): number[] => [0, 1, 2].map((k) => ring.slice(0, 12).reduce((sum, p) => sum + p[k], 0) / 12);
  const [a, b] = [middle(first), middle(second)];
  expect(a[2] * b[0] - a[0] * b[2]).toBeGreaterThan(0);
});

test('a rope on a closed curve has a whole number of turns, so that it is closed', async () => {
  const { mesh } = await runChain([
    ['lay.circle', { radius: 0.5, points: 48 }],
    ['skin.rope', { diameter: 0.06, layLength: 0.17, ringsPerTurn: 24, core: true }],
  ]);
  const figures = measure({ mesh });
  expect(figures.boundaryEdges).toBe(0);
  expect(figures.parts).toBe(4);
  expect(figures.euler).toBe(0);
});
