import { describe, expect, test } from 'vitest';
import { noise3, nodeDefinitions, randomAt, requireDocument, shuffled, type Copies, type Points, currentEdition } from '../../src/index.js';
import { drawn, runChain, runGraph } from '../graph.js';
import { places } from '../reference/reference.js';

const document = (nodes: object[], wires: object[] = []): ReturnType<typeof requireDocument> =>
  requireDocument({ format: 'filaxis-graph', version: 1, edition: currentEdition, title: 'T', nodes, wires });

describe('names that documents may use', () => {
  test('ports by the kind they carry, and choices by other spellings, are rewritten when a document is read', () => {
    const read = document(
      [
        { id: 'a', type: 'lay.polygon', settings: { plane: 'xy' } },
        { id: 'b', type: 'pace.reorder' },
        { id: 'c', type: 'skin.rope', settings: { braid: 8 } },
      ],
      [
        { from: ['a', 'curves'], to: ['b', 'curves'] },
        { from: ['b', 'curves'], to: ['c', 'curves'] },
      ],
    );
    expect(read.wires.map(({ from, to }) => [from[1], to[1]])).toEqual([['curves', 'any'], ['any', 'curves']]); // prettier-ignore
    expect(read.nodes.map(({ settings }) => settings)).toEqual([{ plane: 'XY' }, undefined, { braid: '8' }]);
  });

  test('what has its own name already is the same document', () => {
    const nodes = [{ id: 'a', type: 'lay.polygon', settings: { plane: 'XZ' } }];
    expect(document(nodes).nodes).toEqual(nodes);
  });

  test('a choice that is none is left for the evaluator, which names it', async () => {
    const { last } = await runChain([['lay.polygon', { plane: 'QQ' }]]);
    expect(last.error).toMatchObject({ setting: 'plane', message: 'Plane is "QQ"; it accepts XY, XZ, YZ.' });
  });
});

describe('conversions at ports', () => {
  test('curves give their points with frames, t, s and id', async () => {
    const { results } = await runGraph({ c: ['lay.circle', { points: 6, radius: 2 }], t: ['lay.throughPoints', { order: 'byAttribute', attribute: 's', kind: 'straight' }] }, ['c.curves > t.points']); // prettier-ignore
    expect(results['t'].out).toEqual({ curves: 1, points: 6 });
    const { results: points } = await runGraph({ c: ['lay.circle', { points: 6, radius: 2 }], p: ['pace.points'] }, ['c.curves > p.curves']);
    const { attributes } = points['p'].outputs['points'] as Points;
    expect([...attributes.get('t')!.data].map((t) => Math.round(t * 6))).toEqual([0, 1, 2, 3, 4, 5]);
    expect(attributes.get('tangent')!.size).toBe(3);
  });

  test('what cannot be converted is refused when wiring', async () => {
    const { report } = await runGraph({ l: ['lay.line'], u: ['mesh.uv'] }, ['l.curves > u.mesh']);
    expect(report.problems[0]).toMatchObject({ pointer: '/wires/0' });
    expect(report.problems[0].message).toMatch(/gives curves, which does not fit "mesh"/);
  });

  test('two numbers for a pair setting, each in its range', async () => {
    const run = (size: unknown): ReturnType<typeof runGraph> =>
      runGraph({ l: ['lay.line'], r: ['lay.rectangle'], s: ['skin.sweep', { size, caps: 'flat' }] }, ['l.curves > s.curves', 'r.curves > s.profile']);
    expect((await run([2, 0.5])).results['s'].error).toBeUndefined();
    expect((await run([2, -1])).results['s'].error?.message).toMatch(/Size \[1\] is -1/);
    expect((await run([1, 2, 3])).results['s'].error?.message).toMatch(/or two of them/);
  });
});

describe('copies', () => {
  const objects = { a: ['lay.line', { to: [0, 0, 0.1] }], b: ['lay.line', { to: [0, 0, 0.2] }], ta: ['skin.tube', { radius: 0.01, sides: 3 }], tb: ['skin.tube', { radius: 0.01, sides: 3 }] } as const; // prettier-ignore
  const wires = ['a.curves > ta.curves', 'b.curves > tb.curves', 'ta.mesh > p.objects', 'tb.mesh > p.objects', 'c.curves > p.curves'];
  const picked = async (settings: Record<string, unknown>): Promise<{ object: number[]; error?: string }> => {
    const { results } = await runGraph({ ...objects, c: ['lay.line', { to: [10, 0, 0], points: 200 }], p: ['place.copies', settings] }, wires);
    const copies = results['p'].outputs['copies'] as Copies | undefined;
    return { object: [...(copies?.object ?? [])], error: results['p'].error?.message };
  };
  test('take objects in turn, by chance with weights, or by a value', async () => {
    expect((await picked({})).object.slice(0, 4)).toEqual([0, 1, 0, 1]);
    const ones = (await picked({ pick: 'random', weights: [1, 3] })).object.filter((which) => which === 1).length;
    expect(ones).toBeGreaterThan(120);
    expect(ones).toBeLessThan(180);
    expect((await picked({ pick: 'random', weights: [1, 0] })).object).not.toContain(1);
    expect((await picked({ pick: 'random', weights: [0, 0] })).error).toMatch(/All weights are 0/);
    expect((await picked({ pick: 'byAttribute', attribute: 'id' })).object).not.toContain(1);
    expect((await picked({ pick: 'byAttribute', attribute: 's' })).error).toMatch(/must name one of the 2 objects/);
    expect((await picked({ pick: 'byAttribute', attribute: 'colour' })).error).toMatch(/no number "colour"/);
  });
  test('stay upright, or as they are', async () => {
    for (const [align, forward] of [
      ['upright', [0, 0, 1]],
      ['none', [0, 0, 1]],
    ] as const) {
      // prettier-ignore
      const { results } = await runGraph({ ...objects, c: ['lay.line', { to: [0, 5, 0.0001], points: 2 }], p: ['place.copies', { align }] }, wires);
      const { matrices } = results['p'].outputs['copies'] as Copies;
      expect(Array.from(matrices.subarray(8, 11), (value) => Math.round(value) + 0)).toEqual(forward);
      expect(Array.from(matrices.subarray(4, 7), (value) => Math.round(value) + 0)).toEqual([0, 1, 0]);
    }
  });
});

describe('numbers drawn by chance', () => {
  test('are the same for the same seed and element, and spread evenly', () => {
    const list = Array.from({ length: 10_000 }, (_, i) => randomAt(7, i));
    expect(list[123]).toBe(randomAt(7, 123));
    expect(list.reduce((sum, value) => sum + value, 0) / 10_000).toBeCloseTo(0.5, 2);
    for (let bin = 0; bin < 10; bin++) expect(list.filter((value) => Math.floor(value * 10) === bin).length).toBeGreaterThan(900);
    expect(randomAt(8, 123)).not.toBe(randomAt(7, 123));
  });
  test('a shuffle keeps every element', () => {
    const list = Array.from({ length: 50 }, (_, i) => i);
    expect([...shuffled(list, 3)].sort((a, b) => a - b)).toEqual(list);
    expect(shuffled(list, 3)).not.toEqual(list);
  });
  test('noise stays within −1…1, is smooth, and differs by seed', () => {
    const [a, b] = [noise3(1), noise3(2)];
    let most = 0;
    for (let i = 0; i < 2000; i++) {
      const value = a(i * 0.37, i * 0.11, 0.5);
      most = Math.max(most, Math.abs(value));
      expect(Math.abs(a(i * 0.37 + 1e-4, i * 0.11, 0.5) - value)).toBeLessThan(0.01);
    }
    expect(most).toBeLessThanOrEqual(1);
    expect(most).toBeGreaterThan(0.5);
    // One place may agree by chance (there are twelve gradients), not many.
    const differing = Array.from({ length: 50 }, (_, i) => a(i * 3.7, i * 1.7, 0.1) !== b(i * 3.7, i * 1.7, 0.1)).filter(Boolean).length;
    expect(differing).toBeGreaterThan(40);
  });
});

test('drawn curves keep what they are through a switched-off node of every family that passes', async () => {
  for (const definition of nodeDefinitions.values()) {
    if (!definition.passes || !definition.inputs[0].kinds.some((kind) => kind === 'curves' || kind === 'any')) continue;
    const { curves } = await runChain([drawn([[0, 0, 0], [1, 0, 0], [1, 1, 0]]), [definition.type, { on: false }]]); // prettier-ignore
    expect(places(curves.positions), definition.type).toEqual([[0, 0, 0], [1, 0, 0], [1, 1, 0]]); // prettier-ignore
  }
});
