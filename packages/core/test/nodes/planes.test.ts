import { expect, test } from 'vitest';
import { curveCount, type Curves, type Points } from '../../src/index.js';
import { runGraph } from '../graph.js';

const run = (planes: unknown) =>
  runGraph(
    { post: ['lay.cylinder', { radius: 0.3, height: 2, sides: 64 }], knives: ['lay.planes', { planes }], cut: ['mesh.section', {}] },
    ['post.mesh > knives.mesh', 'post.mesh > cut.mesh', 'knives.points > cut.planes'],
  ); // prettier-ignore

test('drawn planes are points with unit normals and tangents across them, in their order, and cut as such', async () => {
  const { results } = await run([{ point: [0, 0.4, 0], normal: [0, 2, 0] }, { point: [0, -0.4, 0], normal: [0, 1, 1] }]); // prettier-ignore
  const { positions, attributes } = results['knives'].outputs['points'] as Points;
  expect(Array.from(positions, (value) => Number(value.toFixed(6)))).toEqual([0, 0.4, 0, 0, -0.4, 0]);
  const [normal, tangent] = [attributes.get('normal')!.data, attributes.get('tangent')!.data];
  for (let i = 0; i < 6; i += 3) {
    const [n, t] = [normal.subarray(i, i + 3), tangent.subarray(i, i + 3)];
    expect([Math.hypot(...n), Math.hypot(...t)]).toEqual([expect.closeTo(1, 6), expect.closeTo(1, 6)]);
    expect(n[0] * t[0] + n[1] * t[1] + n[2] * t[2]).toBeCloseTo(0, 6);
  }
  const cut = results['cut'].outputs['curves'] as Curves;
  expect([curveCount(cut), ...cut.attributes.get('plane')!.data]).toEqual([2, 0, 1]);
  // The first is a circle at its height; the second, at 45°, is √2 times as long one way.
  const ys = (c: number): number[] => Array.from({ length: cut.starts[c + 1] - cut.starts[c] }, (_, i) => cut.positions[(cut.starts[c] + i) * 3 + 1]);
  expect(ys(0).every((y) => Math.abs(y - 0.4) < 1e-6)).toBe(true);
  expect(Math.max(...ys(1)) - Math.min(...ys(1))).toBeCloseTo(0.6, 2);
});

test('planes that are none are told by their number', async () => {
  const wrong = async (planes: unknown): Promise<string> => (await run(planes)).results['knives'].error!.message;
  expect(await wrong([{ point: [0, 0, 0], normal: [0, 0, 0] }])).toBe(
    'Planes: the normal of plane 0 is [0,0,0]; it is three finite numbers that are not all 0.',
  );
  expect(await wrong([{ point: [0, 0], normal: [0, 1, 0] }])).toContain('the point of plane 0 is [0,0]');
  expect(await wrong([null])).toContain('the point of plane 0');
  expect(await wrong([{ point: [0, 0, 0], normal: [0, 1, 0], colour: 'red' }])).toContain('and nothing else');
  expect(await wrong('none')).toContain('a list of planes');
});
