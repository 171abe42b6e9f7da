import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chains, curveLengths, trails, type Curves, type PointPath } from '../../src/index.js';
import { runChain, runGraph, type Chain } from '../graph.js';
import { expectReference, places, reference } from '../reference/reference.js';

/** Edges that paths go along, as low and high point. */
const edgesOf = (paths: readonly PointPath[]): string[] =>
  paths.flatMap(({ points, closed }) =>
    (closed ? [...points, points[0]] : points).slice(1).map((point, i) => [point, points[i]].sort((a, b) => a - b).join('-')),
  );
const pairs = (edges: readonly number[]): string[] =>
  Array.from({ length: edges.length / 2 }, (_, e) => [edges[e * 2], edges[e * 2 + 1]].sort((a, b) => a - b).join('-'));

const grid = (w: number, h: number): number[] => {
  const edges: number[] = [];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      if (x + 1 < w) edges.push(y * w + x, y * w + x + 1);
      if (y + 1 < h) edges.push(y * w + x, (y + 1) * w + x);
    }
  return edges;
};
const among = (count: number, joined: (a: number, b: number) => boolean): number[] => {
  const edges: number[] = [];
  for (let a = 0; a < count; a++) for (let b = a + 1; b < count; b++) if (joined(a, b)) edges.push(a, b);
  return edges;
};
const graphs: Readonly<Record<string, number[] | null>> = {
  'GR-O-04': among(8, (a, b) => [1, 2, 4].includes(a ^ b)),
  'GR-O-05': grid(4, 3),
  'GR-O-06': among(6, (a, b) => a + b !== 5),
  'GR-O-07': null,
};

describe('edges to paths', () => {
  for (const [id, graph] of Object.entries(graphs)) {
    const { name, inputs, expected } = reference<{ graph: number[][] }>(id);
    test(name, () => {
      const edges = graph ?? inputs.graph.flat();
      expectReference(edges.length / 2, expected['E']);
      expectReference(new Set(edges).size, expected['V']);
      expectReference(trails(edges).length, expected['minTrails']);
      const split = chains(edges);
      expectReference(split.filter(({ closed }) => !closed).length, expected['splitOpenPaths']);
      expectReference(split.filter(({ closed }) => closed).length, expected['splitClosedLoops']);
    });
  }

  test('any graph: trails and chains go along every edge once, and there are as few trails as can be (Euler 1736)', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.tuple(fc.nat(11), fc.nat(11)).filter(([a, b]) => a < b),
          { maxLength: 30, selector: ([a, b]) => a * 12 + b },
        ),
        (list) => {
          const edges = list.flat();
          for (const paths of [trails(edges), chains(edges)]) {
            expect(edgesOf(paths).sort()).toEqual(pairs(edges).sort());
            for (const { points, closed } of paths) expect(points.length).toBeGreaterThan(closed ? 2 : 1);
          }
          // Connected parts by union, and the odd points of each.
          const root = Array.from({ length: 12 }, (_, i) => i);
          const find = (i: number): number => (root[i] === i ? i : (root[i] = find(root[i])));
          for (const [a, b] of list) root[find(a)] = find(b);
          const parts = new Map<number, number>();
          for (const point of new Set(edges)) parts.set(find(point), (parts.get(find(point)) ?? 0) + (edges.filter((each) => each === point).length % 2));
          expect(trails(edges).length).toBe([...parts.values()].reduce((sum, odd) => sum + Math.max(1, odd / 2), 0));
        },
      ),
      { numRuns: 300 },
    ));
});

describe('Edges as curves', () => {
  const edges = async (body: Chain[number], settings: object): Promise<Curves> =>
    (await runChain([body, ['mesh.edges', settings as Record<string, unknown>]])).curves;
  const figures = (curves: Curves): [count: number, closed: number, length: number] => [
    curves.closed.length,
    curves.closed.reduce((sum, each) => sum + each, 0),
    Math.round(curveLengths(curves).reduce((sum, length) => sum + length, 0) * 1e4) / 1e4,
  ];
  const cube: Chain[number] = ['lay.box', { size: [1, 2, 3], divisions: 2 }];

  test('of a box: each once though two faces share it; those that are sharp; as few trails as can be', async () => {
    expect(figures(await edges(cube, {}))).toEqual([48, 0, 48]);
    expect(figures(await edges(cube, { which: 'sharp' }))).toEqual([24, 0, 24]);
    expect(figures(await edges(cube, { which: 'sharp', chain: 'loops' }))).toEqual([12, 0, 24]);
    expect(figures(await edges(cube, { which: 'sharp', chain: 'trails' }))).toEqual([4, 0, 24]);
    expect((await edges(cube, { which: 'sharp', angle: 91 })).closed).toHaveLength(0);
  });

  test('borders are closed loops, those of a closed body none, which is told', async () => {
    expect(figures(await edges(['lay.grid', { size: [2, 3], divisions: 4 }], { which: 'boundary', chain: 'loops' }))).toEqual([1, 1, 10]);
    const sides = 16;
    const round = 2 * sides * Math.sin(Math.PI / sides) * 0.5;
    const pipe: Chain[number] = ['lay.cylinder', { radius: 0.5, sides, caps: 'open' }];
    expect(figures(await edges(pipe, { which: 'boundary', chain: 'loops' }))).toEqual([2, 2, expect.closeTo(2 * round, 3)]);
    expect(figures(await edges(['lay.cylinder', { radius: 0.5, sides }], { which: 'betweenParts', chain: 'trails' }))).toEqual([2, 2, expect.closeTo(2 * round, 3)]); // prettier-ignore
    const none = await runChain([cube, ['mesh.edges', { which: 'boundary' }]]);
    expect(none.last.warnings[0].message).toBe('No edge of the mesh is asked for.');
  });

  test('of marked faces; without a mark it says how to make one; single values of corners come along', async () => {
    const marked = async (value: unknown, carrier: string) =>
      (
        await runGraph(
          { g: ['lay.grid', { size: [4, 4], divisions: 4 }], wear: ['gauge.set', { name: 'wear', carrier: 'corners', value: { formula: 'x' } }], m: ['gauge.set', { name: 'mark', carrier, value: value as number }], it: ['mesh.edges', { which: 'marked' }] },
          ['g.mesh > wear.any', 'wear.any > m.any', 'm.any > it.mesh'],
        )
      ).results['it']; // prettier-ignore
    // One square in the corner, by its middle or by its points.
    expect(figures((await marked({ formula: 'x < -1 and z < -1' }, 'faces')).outputs['curves'] as Curves)).toEqual([4, 0, 4]);
    const byPoints = (await marked({ formula: 'x < -0.5 and z < -0.5' }, 'corners')).outputs['curves'] as Curves;
    expect(figures(byPoints)).toEqual([4, 0, 4]);
    expect(Array.from(byPoints.attributes.get('wear')!.data)).toEqual(places(byPoints.positions).map(([x]) => x));
    expect((await runChain([cube, ['mesh.edges', { which: 'marked' }]])).last.error?.message).toContain('write 1 to "mark" by Set attribute');
  });
});
