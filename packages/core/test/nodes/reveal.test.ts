import { describe, expect, test } from 'vitest';
import { curveCount, curvesFromLists, Evaluator, Plan, requireDocument, unbounded, type Copies, type Curves } from '../../src/index.js';
import { birthsByLength, revealCurves } from '../../src/grow/reveal.js';
import { curveLengths } from '../../src/curves/evaluate/arcLength.js';
import { runGraph } from '../graph.js';

const two = curvesFromLists([[[0, 0, 0], [1, 0, 0], [4, 0, 0]], [[0, 1, 0], [0, 3, 0]]]); // prettier-ignore
const grown = (curves: Curves, front: number, soft = 0): Curves => revealCurves(curves, birthsByLength(two, 4), { front, soft }, unbounded);

describe('Reveal', () => {
  test('by length: all at one pace, the longer starts earlier, all end together', () => {
    // 4 m and 2 m in 4 s: 1 m/s, the shorter from 2 s on.
    for (const [front, lengths] of [
      [0, []],
      [1.5, [1.5]],
      [2.5, [2.5, 0.5]],
      [4, [4, 2]],
    ] as const)
      expect([...curveLengths(grown(two, front))]).toEqual(lengths.map((length) => expect.closeTo(length, 6) as number));
  });

  test('a curve keeps its course as it grows: each moment is the beginning of the next', () => {
    const smooth = curvesFromLists([[[0, 0, 0], [1, 1, 0], [2, 0, 1], [3, 1, 1]]], { kind: 'through' }); // prettier-ignore
    const births = Float32Array.of(0, 1, 2, 3);
    const at = (front: number): Curves => revealCurves(smooth, births, { front, soft: 0 }, unbounded);
    let before = 0;
    for (let i = 1; i <= 30; i++) {
      const [length] = curveLengths(at(i / 10));
      expect(length).toBeGreaterThan(before);
      before = length;
    }
    expect(before).toBeCloseTo(curveLengths(smooth)[0], 5);
    const [half] = curveLengths(at(1.5));
    const [whole] = curveLengths(revealCurves(at(2.5), at(2.5).attributes.get('birth')!.data, { front: 1.5, soft: 0 }, unbounded));
    expect(half).toBeCloseTo(whole, 4);
  });

  test('what grows is nothing at the front and whole behind it, without a jump; a width goes with it', () => {
    const wide = { ...two, attributes: new Map([['width', { carrier: 'point', size: 1, data: new Float32Array(5).fill(2) }]] as const) };
    let last = new Map<string, number>();
    for (let front = 0; front <= 6; front += 0.05) {
      const made = grown(wide, front, 1);
      const [share, width, birth] = ['grown', 'width', 'birth'].map((name) => made.attributes.get(name)!.data);
      const now = new Map<string, number>();
      share.forEach((value, i) => {
        expect(width[i]).toBeCloseTo(2 * value, 6);
        const [x, y] = made.positions.subarray(i * 3, i * 3 + 2);
        now.set(`${x} ${y}`, value);
        if (birth[i] > front - 1e-6) expect(value).toBeLessThan(1e-6);
        if (front - birth[i] >= 1) expect(value).toBe(1);
      });
      for (const [key, value] of now) if (last.has(key)) expect(value - last.get(key)!).toBeLessThan(0.08);
      last = now;
    }
  });

  test('a curve that is born in its middle shows as two runs; a closed one opens until it is whole', () => {
    const line = curvesFromLists([[[0, 0, 0], [1, 0, 0], [2, 0, 0], [3, 0, 0]]]); // prettier-ignore
    const made = revealCurves(line, Float32Array.from([0, 2, 2, 0]), { front: 1, soft: 0 }, unbounded);
    expect([...made.positions].filter((_, i) => i % 3 === 0)).toEqual([0, 0.5, 2.5, 3]);
    const loop = curvesFromLists([[[0, 0, 0], [1, 0, 0], [1, 1, 0]]], { closed: [true] }); // prettier-ignore
    expect([...revealCurves(loop, Float32Array.from([0, 1, 2]), { front: 1.5, soft: 0 }, unbounded).closed].includes(1)).toBe(false);
    expect([...revealCurves(loop, Float32Array.from([0, 1, 2]), { front: 2, soft: 0 }, unbounded).closed]).toEqual([1]);
  });

  test('copies on vines grow from nothing where the vine has got to, and keep their place', async () => {
    const { results } = await runGraph(
      {
        line: ['lay.line', { to: [4, 0, 0], points: 5 }], when: ['gauge.set', { name: 'birth', value: { formula: 's' } }], leaf: ['lay.box', { size: [0.1, 0.1, 0.1] }],
        copies: ['place.copies', {}], it: ['grow.reveal', { front: 'share', share: 0.5, soft: 1 }],
      },
      ['line.curves > when.any', 'leaf.mesh > copies.objects', 'when.any > copies.curves', 'copies.copies > it.any'],
    ); // prettier-ignore
    // Born at 0, 1, 2, 3 and 4 s; the front is half way to 5 s.
    const { matrices, attributes } = results['it'].outputs['any'] as Copies;
    expect([...attributes.get('birth')!.data]).toEqual([0, 1, 2]);
    expect([0, 1, 2].map((i) => matrices[i * 16 + 12])).toEqual([0, 1, 2]);
    const size = (i: number): number => Math.hypot(...matrices.subarray(i * 16, i * 16 + 3));
    expect([size(0), size(1), size(2)]).toEqual([expect.closeTo(1, 6), expect.closeTo(1, 6), expect.closeTo(0.5, 6)]);
  });

  test('by time it runs anew for another moment, by hand it does not; what has no birth is told', async () => {
    const document = (front: string) =>
      requireDocument({
        format: 'filaxis-graph', version: 1, title: 'x',
        nodes: [{ id: 'line', type: 'lay.line', settings: { to: [4, 0, 0] } }, { id: 'it', type: 'grow.reveal', settings: { front, seconds: 2 } }],
        wires: [{ from: ['line', 'curves'], to: ['it', 'any'] }],
      }); // prettier-ignore
    const length = async (front: string, time: number) => {
      const evaluator = new Evaluator();
      const plan = new Plan(document(front));
      await evaluator.run(plan, { time: 0.5 });
      const run = await evaluator.run(plan, { time });
      const curves = run.nodes.get('it')!.outputs['any'] as Curves;
      return [curveCount(curves) ? curveLengths(curves)[0] : 0, run.reused];
    };
    expect(await length('time', 1)).toEqual([expect.closeTo(2, 6), 1]);
    expect(await length('time', 9)).toEqual([expect.closeTo(4, 6), 1]);
    expect((await length('share', 9))[1]).toBe(2);
    const { results } = await runGraph({ at: ['lay.line', {}], points: ['pace.points', {}], it: ['grow.reveal', {}] }, [
      'at.curves > points.curves',
      'points.points > it.any',
    ]);
    expect(results['it'].error!.message).toContain('These points have no "birth"');
  });
});
