import { describe, expect, test } from 'vitest';
import { curveLengths, type Curves } from '../../src/index.js';
import { runChain, runGraph } from '../graph.js';
import { expectReference, places, reference } from './reference.js';

describe('the thickest tube that a curve can carry', () => {
  const { name, inputs, expected } = reference<{ helixRadius: number }>('SW-O-18');
  const pitch = expected['criticalPitch'].value as number;
  const thickest = expected['tubeRadiusThere'].value as number;
  const codes = async (height: number, radius: number): Promise<string[]> => {
    const { last } = await runChain([['lay.helix', { radius: inputs.helixRadius, height: 4 * height, turns: 4, pointsPerTurn: 96 }], ['skin.tube', { radius, sides: 6 }]]); // prettier-ignore
    return [...new Set(last.warnings.map(({ code }) => code))].sort();
  };
  test(`${name}: just below nothing is told, just above the bend pinches and the turns run into each other`, async () => {
    expect(await codes(pitch, thickest * 0.99)).toEqual([]);
    expect(await codes(pitch, thickest * 1.02)).toEqual(['pinch', 'self-cross']);
  });
  test('steeper than that the bend is first to pinch, flatter the turns are first to touch', async () => {
    // Radius of curvature 1 + (pitch/2π)² at twice the pitch; half the distance of turns is about half the pitch at half of it.
    expect(await codes(2 * pitch, 1 + (pitch / Math.PI) ** 2 + 0.02)).toContain('pinch');
    expect(await codes(2 * pitch, 1 + (pitch / Math.PI) ** 2 - 0.02)).toEqual([]);
    expect(await codes(pitch / 2, (pitch / 4) * 1.05)).toEqual(['self-cross']);
    expect(await codes(pitch / 2, (pitch / 4) * 0.9)).toEqual([]);
  });
});

describe('a plait of three strands', () => {
  const { name, inputs, expected } = reference<{ A: number; B: number; P: number }>('RP-O-10');
  const strand = (k: number): { points: number[][] } => ({
    points: Array.from({ length: 1201 }, (_, i) => {
      const phase = (2 * Math.PI * i) / 400 + (2 * Math.PI * k) / 3;
      return [inputs.A * Math.sin(phase), inputs.B * Math.sin(2 * phase), (inputs.P * i) / 400];
    }),
  });
  test(name, async () => {
    const { results } = await runGraph(
      {
        one: ['lay.drawn', { curves: [strand(0)] }],
        other: ['lay.drawn', { curves: [strand(1)] }],
        near: ['gauge.distance'],
        bend: ['gauge.figures', { curvature: true }],
      },
      ['one.curves > near.any', 'other.curves > near.to', 'one.curves > bend.any'],
    );
    const one = results['one'].outputs['curves'] as Curves;
    expectReference(curveLengths(one)[0] / 3, expected['strandLengthPerPeriod']);
    // Inner periods only: at the ends of the strands the nearest place may lie beyond.
    const middle = (name: string, node: string): number[] => [...(results[node].outputs['any'] as Curves).attributes.get(name)!.data].slice(300, 901);
    expectReference(Math.min(...middle('distance', 'near')), expected['minStrandDistance']);
    expectReference(1 / Math.max(...middle('curvature', 'bend')), { ...expected['minRadiusOfCurvature'], rel: 2e-3 });
    // Crossings in the x–z view: changes of order in x over one period.
    const orders = Array.from({ length: 401 }, (_, i) => [0, 1, 2].sort((a, b) => strand(a).points[i + 37][0] - strand(b).points[i + 37][0]).join(''));
    expectReference(orders.filter((order, i) => i > 0 && order !== orders[i - 1]).length, expected['crossingsPerPeriod']);
    expect(places(one.positions).length).toBe(1201);
  });
});
