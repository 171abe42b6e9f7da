import { describe, expect, test } from 'vitest';
import type { Curves, Mesh, NodeResult } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Node = [string, Record<string, unknown>];
const measured = async (
  lines: readonly (readonly (readonly number[])[])[],
  settings: Record<string, unknown>,
  body: Node | null = ['lay.sphere', { radius: 1, divisions: 32 }],
): Promise<NodeResult & { curves: Curves }> => {
  const { results } = await runGraph(
    { lines: ['lay.drawn', { kind: 'straight', curves: lines.map((points) => ({ points })) }], clear: ['gauge.clearance', settings], ...(body && { body }) },
    ['lines.curves > clear.any', ...(body ? ['body.mesh > clear.body'] : [])],
  );
  return { ...results['clear'], curves: results['clear'].outputs['any'] as Curves };
};
const values = (of: Curves | Mesh, name: string): number[] => Array.from(of.attributes.get(name)!.data);

describe('Clearance', () => {
  test('from skin to skin, the radius counted, at every point and between them', async () => {
    const { curves, warnings } = await measured([[[-3, 1.5, 0], [0, 1.5, 0], [3, 1.5, 0]], [[-3, 1.2, 0], [3, 1.2, 0]]], { radius: 0.1, ends: 0 }); // prettier-ignore
    const clear = values(curves, 'clearance');
    expect(clear[1]).toBeCloseTo(0.4, 2);
    // The second has no point over the ball; its pieces are looked at, for the nearer of their points.
    expect(Math.min(clear[3], clear[4])).toBeCloseTo(0.1, 1);
    expect([values(curves, 'mark'), warnings]).toEqual([[0, 0, 0, 0, 0], []]);
  });

  test('each place where a curve passes through is told with where and how deep, and marked', async () => {
    const line = (y: number): number[][] => Array.from({ length: 61 }, (_, i) => [-3 + i / 10, y, 0]);
    const { warnings, curves } = await measured([line(5), line(0), line(1.05)], { radius: 0.1 });
    expect(warnings.map(({ curve, code }) => [curve, code])).toEqual([[1, 'through-body'], [2, 'through-body']]); // prettier-ignore
    expect(warnings[1].message).toMatch(/^Curve 3 is (4\d|5\d)(\.\d+)? mm into the body at 3.00 m\.$/);
    expect(values(curves, 'mark').slice(0, 61).some(Boolean)).toBe(false);
    expect(values(curves, 'mark').slice(61, 122).filter(Boolean).length).toBeGreaterThan(19);
    // Dropped, only the one that is clear of it goes on.
    const dropped = await measured([line(5), line(0), line(1.05)], { radius: 0.1, drop: true });
    expect([dropped.warnings, dropped.curves.starts.length, dropped.curves.positions[1]]).toEqual([[], 2, 5]);
    // What is asked for is told where it is less.
    const asked = await measured([line(1.3)], { radius: 0.1, least: 0.25 });
    expect(asked.warnings[0].message).toMatch(/^Curve 1 comes within 200 mm of the body|^Curve 1 comes within 2\d\d(\.\d)? mm of the body/);
  });

  test('a thin sheet in the middle of a long piece is not overlooked, wherever it stands', async () => {
    for (const x of [0, 0.013, 0.027, 0.041]) {
      const { warnings } = await measured([[[-9 + x, 0, 0], [9 + x, 0, 0]]], { radius: 0.012 }, ['lay.box', { size: [0.004, 1, 1] }]); // prettier-ignore
      expect(warnings.length).toBe(1);
    }
  });

  test('at ends, which lie on bodies by right, nothing is looked at', async () => {
    const line = [Array.from({ length: 31 }, (_, i) => [1 + i / 30, 0, 0])];
    expect((await measured(line, { radius: 0.02, ends: 0.05 })).warnings).toEqual([]);
    expect((await measured(line, { radius: 0.02, ends: 0 })).warnings.length).toBe(1);
  });

  test('curves to each other, the nearer skin of both; alone without a body', async () => {
    const { warnings, curves } = await measured([[[-1, 0, 0], [1, 0, 0]], [[0, 0.03, -1], [0, 0.03, 1]], [[0, 2, -1], [0, 2, 1]]], { radius: 0.02, eachOther: true }, null); // prettier-ignore
    expect(warnings.map(({ message }) => message)).toEqual(
      ['Curve 1 is 10 mm into curve 2 at 0.00 m.', 'Curve 2 is 10 mm into curve 1 at 0.00 m.'].map((text) => expect.stringContaining(text.slice(0, 24))),
    );
    // The third is 1.97 m above the second, and the ends of all are not looked at.
    expect(values(curves, 'clearance').slice(4)).toEqual([1e6, 1e6]);
    const none = await measured([[[0, 0, 0], [1, 0, 0]]], {}, null); // prettier-ignore
    expect(none.error?.message).toContain('nothing to be clear of');
  });

  test('of a mesh every vertex is measured', async () => {
    const { results } = await runGraph({ box: ['lay.box', {}], ball: ['lay.sphere', { radius: 0.6, divisions: 20 }], clear: ['gauge.clearance', {}] }, [
      'box.mesh > clear.any',
      'ball.mesh > clear.body',
    ]);
    const mesh = results['clear'].outputs['any'] as Mesh;
    for (const value of values(mesh, 'clearance')) expect(value).toBeCloseTo(Math.sqrt(0.75) - 0.6, 2);
    expect(results['clear'].warnings).toEqual([]);
  });
});
