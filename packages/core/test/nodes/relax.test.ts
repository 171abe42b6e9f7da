import { describe, expect, test } from 'vitest';
import { curveCount, curveLengths, newHit, surfaceOf, type Curves, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, runChain, runGraph } from '../graph.js';

const ok = (result: NodeResult): NodeResult => {
  if (result.error) throw new Error(result.error.message);
  return result;
};
type Node = [string, Record<string, unknown>];
const curvesOf = (result: NodeResult): Curves => ok(result).outputs['curves'] as Curves;
const heights = ({ positions }: Curves): number[] => Array.from({ length: positions.length / 3 }, (_, i) => positions[i * 3 + 1]);

describe('Relax', () => {
  test('a slack rope hangs in the catenary of its length, wherever its ends are', async () => {
    for (const [to, slack] of [
      [[2, 0, 0], 0.1],
      [[3, 1, 1], 0.3],
      [[40, -5, 0], 0.02],
    ] as const) {
      // prettier-ignore
      const line: Node = ['lay.line', { to, points: 64 }];
      const { last } = await runChain([line, ['shape.relax', { slack, stiffness: 0, radius: 0.001 }]]);
      expect(ok(last).warnings).toEqual([]);
      const relaxed = curvesOf(last);
      // The closed form: Hang, which is checked against published values.
      const hung = curvesOf(
        (
          await runChain([
            ['lay.line', { to }],
            ['shape.hang', { by: 'slack', value: slack, points: 2000 }],
          ])
        ).last,
      );
      // Of a shallow parabola; common practice.
      const sag = Math.hypot(...to) * Math.sqrt((3 * slack) / 8);
      expect(curveLengths(relaxed)[0] / (Math.hypot(...to) * (1 + slack))).toBeCloseTo(1, 3);
      expect(Math.abs(Math.min(...heights(relaxed)) - Math.min(...heights(hung)))).toBeLessThan(sag * 0.01);
      // What hangs has the least height of its middle that its length allows: not above the catenary's by 0.1 % of the length.
      const middle = (curves: Curves): number => {
        let [sum, length] = [0, 0];
        for (let i = 3; i < curves.positions.length; i += 3) {
          const piece = Math.hypot(...[0, 1, 2].map((k) => curves.positions[i + k] - curves.positions[i - 3 + k]));
          sum += (piece * (curves.positions[i + 1] + curves.positions[i - 2])) / 2;
          length += piece;
        }
        return sum / length;
      };
      expect(middle(relaxed)).toBeLessThan(middle(hung) + Math.hypot(...to) * 0.001);
    }
  });

  test('a tight one between two ends is straight and even', async () => {
    const { last } = await runChain([drawn([[0, 0, 0], [0.5, 1, 0], [1, -1, 1], [2, 0, 0]]), ['pace.resample', { count: 40 }], ['shape.relax', { slack: -0.8, gravity: 0, radius: 0.001 }]]); // prettier-ignore
    const { positions } = curvesOf(last);
    for (let i = 0; i < 40; i++) expect(Math.hypot(positions[i * 3 + 1], positions[i * 3 + 2])).toBeLessThan(0.002);
    // Pieces keep their shares: all but the two that were cut off at corners are alike.
    const pieces = Array.from({ length: 39 }, (_, i) => positions[i * 3 + 3] - positions[i * 3]).sort((a, b) => a - b);
    expect(pieces[38] - pieces[2]).toBeLessThan(1e-4);
    expect(positions[39 * 3]).toBe(2);
  });

  const onBody = async (
    settings: Record<string, unknown>,
    body: Node,
    around: Node[],
  ): Promise<{ curves: Curves; depth: number[]; warnings: readonly { message: string }[] }> => {
    const nodes: Record<string, Node> = { body, rope: ['shape.relax', settings] };
    around.forEach((node, i) => (nodes[`n${i}`] = node));
    const wires = [
      'body.mesh > rope.body',
      ...around.slice(1).map((node, i) => `n${i}.curves > n${i + 1}.${node[0] === 'shape.transform' ? 'any' : 'curves'}`),
    ];
    const last = around[around.length - 1][0] === 'shape.transform' ? 'any' : 'curves';
    const { results } = await runGraph(nodes, [...wires, `n${around.length - 1}.${last} > rope.curves`]);
    const curves = curvesOf(results['rope']);
    const surface = surfaceOf(results['body'].outputs['mesh'] as Mesh);
    const depth = Array.from({ length: curves.positions.length / 3 }, (_, i) =>
      surface.signedDistance(curves.positions[i * 3], curves.positions[i * 3 + 1], curves.positions[i * 3 + 2], newHit()),
    );
    return { curves, depth, warnings: results['rope'].warnings };
  };
  const cylinder: Node = ['lay.cylinder', { radius: 0.5, height: 4, sides: 128 }];

  test('a loose ring is drawn onto a cylinder: no point nearer than the radius, none further by a tenth of it', async () => {
    const { depth, warnings } = await onBody({ slack: -0.4, radius: 0.02, gravity: 0 }, cylinder, [['lay.circle', { radius: 0.7, points: 120 }]]);
    expect(Math.min(...depth)).toBeGreaterThan(0.02 - 1e-5);
    expect(Math.max(...depth)).toBeLessThan(0.022);
    expect(warnings).toEqual([]);
  });

  test('a rope over a beam hangs down on both sides and lies on it, not in it', async () => {
    const { curves, depth } = await onBody({ slack: 0.8, radius: 0.02, friction: 0 }, ['lay.box', { size: [0.4, 0.4, 4] }], [['lay.line', { from: [-1, 0.5, 0], to: [1, 0.5, 0], points: 100 }]]); // prettier-ignore
    expect(Math.min(...depth)).toBeGreaterThan(0.02 - 1e-5);
    expect(Math.min(...heights(curves))).toBeLessThan(0);
    expect(depth.filter((each) => each < 0.0205).length).toBeGreaterThan(8);
  });

  test('at 20 steps no point passes a wall of twice the radius, however hard it is pulled', async () => {
    const { curves } = await onBody({ slack: 3, radius: 0.01, settle: 'steps', steps: 20, gravity: 1000, friction: 0 }, ['lay.box', { size: [4, 0.02, 4] }], [['lay.line', { from: [-1, 0.1, 0], to: [1, 0.1, 0], points: 80 }]]); // prettier-ignore
    for (const y of heights(curves)) expect(y).toBeGreaterThan(0.0199);
  });

  test('stacked ropes: the later lies on the earlier at the crossing, which does not move for it', async () => {
    const { results } = await runGraph(
      { one: ['lay.circle', { radius: 0.54, points: 160, axis: [0.3, 1, 0] }], two: ['lay.circle', { radius: 0.54, points: 160, axis: [-0.3, 1, 0] }], join: ['flow.join', {}], body: ['lay.cylinder', { radius: 0.5, height: 4, sides: 128 }], rope: ['shape.relax', { slack: -0.02, radius: 0.02, gravity: 0, stack: true }], first: ['shape.relax', { slack: -0.02, radius: 0.02, gravity: 0, stack: true }] }, // prettier-ignore
      [
        'one.curves > join.any',
        'two.curves > join.any',
        'join.any > rope.curves',
        'body.mesh > rope.body',
        'one.curves > first.curves',
        'body.mesh > first.body',
      ],
    );
    const both = curvesOf(results['rope']);
    const alone = curvesOf(results['first']);
    for (let i = 0; i < alone.positions.length; i++) expect(both.positions[i]).toBe(alone.positions[i]);
    const from = both.starts[1];
    let [least, highest] = [Infinity, 0];
    for (let i = from; i < both.starts[2]; i++) {
      const p = both.positions.subarray(i * 3, i * 3 + 3);
      highest = Math.max(highest, Math.hypot(p[0], p[2]));
      for (let j = 0; j < from; j++) least = Math.min(least, Math.hypot(...p.map((value, k) => value - both.positions[j * 3 + k])));
    }
    expect(least).toBeGreaterThan(0.037);
    expect(highest).toBeGreaterThan(0.55);
    expect(highest).toBeLessThan(0.58);
  });

  test('ropes that fall on each other keep apart, and pass through where they may', async () => {
    const pair = async (ropes: string): Promise<number> => {
      const { last } = await runChain([
        ['lay.drawn', { kind: 'straight', curves: [{ points: [[-1, 0, 0], [1, 0, 0]] }, { points: [[0, -0.15, -1], [0, -0.15, 1]] }] }],
        ['pace.resample', { by: 'spacing', spacing: 0.02 }],
        ['shape.relax', { slack: 0.1, radius: 0.02, ropes }],
      ]); // prettier-ignore
      const curves = curvesOf(last);
      const at = (c: number): number =>
        Math.min(...heights({ ...curves, positions: curves.positions.subarray(curves.starts[c] * 3, curves.starts[c + 1] * 3) }));
      return at(0) - at(1);
    };
    expect(await pair('apart')).toBeGreaterThan(0.037);
    expect(await pair('through')).toBeGreaterThan(0.1);
  });

  test('held points stay, by a condition too; loose ends fall', async () => {
    const held = curvesOf(
      (
        await runChain([
          ['lay.line', { points: 21 }],
          ['shape.relax', { slack: 0.2, hold: { formula: 'i == 10' }, radius: 0.001 }],
        ])
      ).last,
    );
    expect([...held.positions.subarray(30, 33)]).toEqual([0.5, 0, 0]);
    const { last } = await runChain([['lay.line', { points: 21 }], ['shape.relax', { slack: 0, pinEnds: false, hold: { formula: 'i == 0' }, radius: 0.001, settle: 'steps', steps: 300 }]]); // prettier-ignore
    expect(curvesOf(last).positions[20 * 3 + 1]).toBeLessThan(-0.9);
  });

  test('the same bytes on every run; what has not come to rest says so with how far it still goes', async () => {
    const run = async (): Promise<NodeResult> =>
      (
        await runChain([
          ['lay.line', { points: 60 }],
          ['shape.relax', { slack: 0.3 }],
        ])
      ).last;
    expect(curvesOf(await run()).positions).toEqual(curvesOf(await run()).positions);
    const falling = await runChain([
      ['lay.line', { points: 20 }],
      ['shape.relax', { pinEnds: false }],
    ]);
    expect(falling.last.warnings[0].message).toMatch(/^1 of 1 ropes have not come to rest: the worst still goes \d/);
  });

  test('a rope that begins in a body is taken out, and that is said', async () => {
    const { depth, warnings } = await onBody({ slack: 0, radius: 0.02, gravity: 0 }, cylinder, [['lay.circle', { radius: 0.3, points: 60 }]]);
    expect(Math.min(...depth)).toBeGreaterThan(0.019);
    expect(warnings[0].message).toMatch(/^60 points lay in the body at first/);
  });

  test('single points, no curves and rings of two points come out as they are', async () => {
    const { last } = await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: [[1, 2, 3]] }, { points: [[0, 0, 0], [1, 0, 0]], closed: true }] }], ['shape.relax', { slack: 0.1 }]]); // prettier-ignore
    expect([curveCount(curvesOf(last)), [...curvesOf(last).positions.subarray(0, 3)]]).toEqual([2, [1, 2, 3]]);
  });
});
