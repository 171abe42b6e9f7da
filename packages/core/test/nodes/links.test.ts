import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveCount, curveLengths, newHit, surfaceOf, type Curves, type Mesh, type NodeResult, type Points } from '../../src/index.js';
import { runGraph } from '../graph.js';

const ok = (result: NodeResult): NodeResult => {
  if (result.error) throw new Error(result.error.message);
  return result;
};
const values = (of: Curves, name: string): number[] => Array.from(of.attributes.get(name)!.data);
const lengths = (curves: Curves): number[] => Array.from(curveLengths(curves));
const list = (points: readonly (readonly number[])[]): [string, Record<string, unknown>] => ['lay.drawn', { kind: 'straight', curves: points.map((p) => ({ points: [p] })) }]; // prettier-ignore

describe('Link points', () => {
  /** Two piles, points scattered over both. */
  const piles = async (
    settings: Record<string, unknown>,
    more: Record<string, [string, Record<string, unknown>]> = {},
    wires: string[] = [],
  ): Promise<{ curves: Curves; warnings: readonly { message: string }[]; results: Readonly<Record<string, NodeResult>> }> => {
    const { results } = await runGraph(
      { a: ['lay.cylinder', { radius: 0.2, height: 4 }], b: ['shape.row', { count: 3, step: [2, 0, 0] }], parts: ['mesh.parts', {}], points: ['place.scatter', { count: 30 }], links: ['place.links', settings], ...more }, // prettier-ignore
      ['a.mesh > b.any', 'b.any > parts.mesh', 'parts.mesh > points.mesh', 'points.points > links.points', ...wires],
    );
    const links = ok(results['links']);
    return { curves: links.outputs['curves'] as Curves, warnings: links.warnings, results };
  };

  test('links from one pipe to another, wall to wall, without Parts before: Scatter knows which piece a point is on', async () => {
    const pipes = { a: ['skin.tube', { radius: 0.2, caps: 'flat' }], b: ['skin.tube', { radius: 0.2, caps: 'flat' }], one: ['lay.line', {}], two: ['lay.line', { from: [0, 0, 2], to: [1, 0, 2] }], both: ['flow.join', {}], spots: ['place.scatter', { count: 30, seed: 2 }], it: ['place.links', { count: 40, seed: 1 }] } as const; // prettier-ignore
    const { results } = await runGraph(pipes, ['one.curves > a.curves', 'two.curves > b.curves', 'a.mesh > both.any', 'b.mesh > both.any', 'both.any > spots.mesh', 'spots.points > it.points']); // prettier-ignore
    const { positions, starts } = results['it'].outputs['curves'] as Curves;
    expect(starts.length - 1).toBe(40);
    const side = (i: number): number => Math.sign(positions[i * 3 + 2] - 1);
    for (let c = 0; c + 1 < starts.length; c++) expect(side(starts[c]) * side(starts[c + 1] - 1)).toBe(-1);
    const spots = results['spots'].outputs['points'] as Points;
    expect([new Set(spots.attributes.get('body')!.data), new Set(spots.attributes.get('part')!.data).has(0)]).toEqual([new Set([0, 1]), true]);
  });

  test('as many as asked, each pair once, never within a part, between the distances; more keep those there were', async () => {
    const { curves } = await piles({ count: 40, least: 1.8, greatest: 3 });
    const pairs = values(curves, 'from').map((from, c) => `${from} ${values(curves, 'to')[c]}`);
    expect([curveCount(curves), new Set(pairs).size]).toEqual([40, 40]);
    for (const length of lengths(curves)) {
      expect(length).toBeGreaterThanOrEqual(1.8);
      expect(length).toBeLessThanOrEqual(3);
    }
    const part = values(curves, 'body');
    for (let c = 0; c < 40; c++) expect(part[c * 2]).not.toBe(part[c * 2 + 1]);
    const fewer = await piles({ count: 10, least: 1.8, greatest: 3 });
    expect(values(fewer.curves, 'from')).toEqual(values(curves, 'from').slice(0, 10));
    const other = await piles({ count: 10, least: 1.8, greatest: 3, seed: 2 });
    expect(values(other.curves, 'from')).not.toEqual(values(fewer.curves, 'from'));
  });

  test('what cannot be had is said; what contradicts itself is refused', async () => {
    const { curves, warnings } = await piles({ count: 5000, greatest: 1.9 });
    expect(warnings[0].message).toBe(`There are ${curveCount(curves)} links of 5000: no more pairs fit.`);
    await expect(piles({ least: 3, greatest: 1 })).rejects.toThrow('at least 3 m and at most 1 m');
  });

  test('of very many points pairs are drawn, each once', async () => {
    const { results } = await runGraph({ grid: ['lay.grid', { size: [9, 9], divisions: 60 }], points: ['place.scatter', { count: 5000 }], links: ['place.links', { count: 3000 }] }, ['grid.mesh > points.mesh', 'points.points > links.points']); // prettier-ignore
    const curves = ok(results['links']).outputs['curves'] as Curves;
    const pairs = values(curves, 'from').map((from, c) => from * 5000 + values(curves, 'to')[c]);
    expect([pairs.length, new Set(pairs).size]).toEqual([3000, 3000]);
  });

  test('links through a body are left out, or led round it with the clearance, about as short as a taut line', async () => {
    const through = await runGraph(
      { ends: list([[-2, 0, 0], [2, 0, 0]]), ball: ['lay.sphere', { radius: 1, divisions: 24 }], drop: ['place.links', {}], round: ['place.links', { then: 'leadRound', clearance: 0.1 }] }, // prettier-ignore
      ['ends.curves > drop.points', 'ends.curves > round.points', 'ball.mesh > drop.clearOf', 'ball.mesh > round.clearOf'],
    );
    expect(curveCount(ok(through.results['drop']).outputs['curves'] as Curves)).toBe(0);
    expect(through.results['drop'].warnings[0].message).toContain('1 were left out since a body is in their way');
    const round = ok(through.results['round']).outputs['curves'] as Curves;
    const surface = surfaceOf(through.results['ball'].outputs['mesh'] as Mesh);
    for (let i = 0; i < round.positions.length; i += 3) expect(surface.signedDistance(round.positions[i], round.positions[i + 1], round.positions[i + 2], newHit())).toBeGreaterThan(0.097); // prettier-ignore
    // Two tangents to the circle of 1.1 m, and the arc between them.
    const taut = 2 * Math.sqrt(4 - 1.21) + 1.1 * (Math.PI - 2 * Math.acos(1.1 / 2));
    expect(lengths(round)[0]).toBeGreaterThan(taut * 0.995);
    expect(lengths(round)[0]).toBeLessThan(taut * 1.03);
  });

  test(
    'a link between two piles past a third keeps clear of all three, whatever the seed',
    () =>
      fc.assert(
        fc.asyncProperty(fc.integer({ min: 1, max: 50 }), async (seed) => {
          const { curves, results } = await piles({ count: 12, seed, then: 'leadRound', clearance: 0.05 }, {}, ['parts.mesh > links.clearOf']);
          const surface = surfaceOf(results['parts'].outputs['mesh'] as Mesh);
          for (let c = 0; c < curveCount(curves); c++) {
            const ends = [curves.starts[c], curves.starts[c + 1] - 1].map((i) => curves.positions.subarray(i * 3, i * 3 + 3));
            for (let i = curves.starts[c] + 1; i < curves.starts[c + 1] - 1; i++) {
              const p = curves.positions.subarray(i * 3, i * 3 + 3);
              const fromEnd = Math.min(...ends.map((end) => Math.hypot(...p.map((value, k) => value - end[k]))));
              if (fromEnd > 0.1) expect(surface.signedDistance(p[0], p[1], p[2], newHit())).toBeGreaterThan(0.048);
            }
          }
        }),
        { numRuns: 10 },
      ),
    240_000,
  );
});

describe('Loops around', () => {
  const wound = async (
    settings: Record<string, unknown>,
    body: [string, Record<string, unknown>],
    at: readonly (readonly number[])[],
    turn = [0, 0, 0],
  ): Promise<{ curves: Curves; warnings: readonly { code: string; message: string }[] }> => {
    const { results } = await runGraph(
      { body, points: list(at), turned: ['shape.transform', { turn }], moved: ['shape.transform', { turn }], loops: ['place.loops', settings] },
      ['body.mesh > turned.any', 'points.curves > moved.any', 'turned.any > loops.mesh', 'moved.any > loops.points'],
    );
    const loops = ok(results['loops']);
    return { curves: loops.outputs['curves'] as Curves, warnings: loops.warnings };
  };
  const pile: [string, Record<string, unknown>] = ['lay.cylinder', { radius: 0.3, height: 4, sides: 96 }];
  const heights = (curves: Curves): number[] => Array.from({ length: curveCount(curves) }, (_, c) => curves.positions[curves.starts[c] * 3 + 1]);

  test('on a cylinder loops are circles at the offset, from just before the place on, so far apart as told, at any angle', async () => {
    for (const turn of [
      [0, 0, 0],
      [90, 0, 0],
      [33, 20, 45],
    ]) {
      // prettier-ignore
      const { curves } = await wound({ count: 4, spacing: 0.1, before: 0.05, offset: 0.02 }, pile, [[0.3, 0.5, 0]], turn);
      expect([curveCount(curves), [...curves.closed]]).toEqual([4, [1, 1, 1, 1]]); // prettier-ignore
      // The sides of the cylinder lie up to 0.5 thousandths inside the circle, the round corners of the offset on it.
      for (const length of lengths(curves)) expect(length / (2 * Math.PI * 0.32)).toBeCloseTo(1, 2);
    }
    const { curves } = await wound({ count: 4, spacing: 0.1, before: 0.05, offset: 0.02 }, pile, [[0.3, 0.5, 0]]);
    heights(curves).forEach((y, i) => expect(y).toBeCloseTo(0.45 + i * 0.1, 5));
    expect(values(curves, 'loop')).toEqual([0, 1, 2, 3]);
    // Each begins at the point of the outline nearest to the place.
    expect(curves.positions[0]).toBeCloseTo(0.32, 3);
  });

  test('on a box of 1 by 2 a loop is the perimeter and four round corners; pulled tight over a hollow it is the hull', async () => {
    const box = await wound({ count: 1, before: 0, offset: 0.1, method: 'section' }, ['lay.box', { size: [1, 6, 2] }], [[0.5, 0.2, 0]]);
    expect(lengths(box.curves)[0]).toBeCloseTo(6 + 2 * Math.PI * 0.1, 1);
    const star: [string, Record<string, unknown>] = ['lay.polygon', { sides: 5, inner: 0.4, radius: 0.5 }];
    const { results } = await runGraph(
      { star, faces: ['skin.fill', {}], beam: ['skin.extrude', { distance: 4 }], at: list([[0, 0.5, 2]]), tight: ['place.loops', { count: 1, before: 0, offset: 0 }], exact: ['place.loops', { count: 1, before: 0, offset: 0, method: 'section' }] }, // prettier-ignore
      [
        'star.curves > faces.curves',
        'faces.mesh > beam.mesh',
        'beam.mesh > tight.mesh',
        'beam.mesh > exact.mesh',
        'at.curves > tight.points',
        'at.curves > exact.points',
      ],
    );
    const [tight, exact] = ['tight', 'exact'].map((id) => lengths(ok(results[id]).outputs['curves'] as Curves)[0]);
    // Five sides of a pentagon of 0.5 m, against ten sides of the star.
    expect(tight).toBeCloseTo(10 * 0.5 * Math.sin(Math.PI / 5), 3);
    const side = Math.hypot(0.5 - 0.2 * Math.cos(Math.PI / 5), 0.2 * Math.sin(Math.PI / 5));
    expect(exact).toBeCloseTo(10 * side, 3);
  });

  test('an ellipse: the outline is as long as its closed form says', async () => {
    const { results } = await runGraph(
      { ring: ['lay.circle', { points: 256, radius: 1 }], flat: ['shape.transform', { size: [3, 1, 1] }], faces: ['skin.fill', {}], beam: ['skin.extrude', { distance: 20 }], at: list([[0, 1, 9]]), loops: ['place.loops', { count: 1, before: 0, offset: 0, method: 'section' }] }, // prettier-ignore
      ['ring.curves > flat.any', 'flat.any > faces.curves', 'faces.mesh > beam.mesh', 'beam.mesh > loops.mesh', 'at.curves > loops.points'],
    );
    // The circle lies level, so it is stretched to 3 by 1: 4 · 3 · E(8/9) (AL-O-03 of the reference cases).
    expect(lengths(ok(results['loops']).outputs['curves'] as Curves)[0]).toBeCloseTo(13.3648932206, 2);
  });

  test('loops of one part never lie nearer to each other than twice the offset, whatever points ask for', () =>
    fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: -150, max: 150 }), { minLength: 1, maxLength: 8 }), fc.integer({ min: 1, max: 5 }), async (at, count) => {
        const { curves, warnings } = await wound({ count, spacing: 0.03, offset: 0.02 }, pile, at.map((y) => [0.3, y / 100, 0])); // prettier-ignore
        const sorted = heights(curves).sort((a, b) => a - b);
        expect(warnings.filter(({ code }) => code === 'self-cross')).toEqual([]);
        for (let i = 1; i < sorted.length; i++) expect(sorted[i] - sorted[i - 1]).toBeGreaterThan(0.04 - 1e-5);
      }),
      { numRuns: 25 },
    ));

  test('where there is no room, and beyond the end of a part, that is said', async () => {
    const crowded = await wound({ count: 60, spacing: 0.01, offset: 0.05 }, pile, [[0.3, 0, 0], [0.3, 0.2, 0], [0.3, -0.2, 0]]); // prettier-ignore
    expect(crowded.warnings.map(({ message }) => message).join()).toContain('no room for all loops beside each other on part 1');
    const beyond = await wound({ count: 3, spacing: 0.4, before: 0 }, pile, [[0.3, 1.9, 0]]);
    expect([curveCount(beyond.curves), beyond.warnings[0].message.slice(0, 40)]).toEqual([1, '2 of 3 loops lie beyond the end of their']);
  });

  test('how many may differ from point to point', async () => {
    const { curves } = await wound({ count: { formula: 'i + 1' } }, pile, [[0.3, -1, 0], [0.3, 0, 0], [0.3, 1, 0]]); // prettier-ignore
    expect(values(curves, 'point')).toEqual([0, 1, 1, 2, 2, 2]);
  });
});
