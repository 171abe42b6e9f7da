import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Evaluator, nodeDefinitions, Plan, requireDocument, resultOf, type FilaxisDocument } from '../../src/index.js';
import { fingerprint } from '../fingerprint.js';
import { chainDocument, runChain } from '../graph.js';

const quay = (sag: number, radius: number, strands: number): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Quay',
    dials: [
      { id: 'sag', label: 'Sag', kind: 'number', value: sag },
      { id: 'radius', label: 'Radius', kind: 'number', value: radius },
    ],
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [3, 1, 0] } },
      { id: 'hang', type: 'shape.hang', settings: { value: { dial: 'sag' } } },
      { id: 'rope', type: 'skin.rope', settings: { strands, ringsPerTurn: 6, sides: 5 } },
      { id: 'tube', type: 'skin.tube', settings: { radius: { dial: 'radius' } } },
      { id: 'out', type: 'flow.output' },
    ],
    wires: [
      { from: ['line', 'curves'], to: ['hang', 'curves'] },
      { from: ['hang', 'curves'], to: ['rope', 'curves'] },
      { from: ['line', 'curves'], to: ['tube', 'curves'] },
      { from: ['rope', 'mesh'], to: ['out', 'any'] },
      { from: ['tube', 'mesh'], to: ['out', 'any'] },
    ],
  });

const change = fc.record({
  sag: fc.integer({ min: 1, max: 6 }).map((n) => n / 10),
  radius: fc.integer({ min: 1, max: 4 }).map((n) => n / 100),
  strands: fc.integer({ min: 1, max: 4 }),
});

describe('the evaluator', () => {
  test('gives the same bytes with a cold and a warm cache, and after a cancelled run', () =>
    fc.assert(
      fc.asyncProperty(fc.array(change, { minLength: 1, maxLength: 6 }), async (changes) => {
        const warm = new Evaluator();
        for (const { sag, radius, strands } of changes) {
          const plan = new Plan(quay(sag, radius, strands));
          let looks = 0;
          const stopped = await warm.run(plan, { cancelled: () => ++looks > 2 });
          expect(stopped.cancelled).toBe(true);
          const again = await warm.run(plan);
          expect(fingerprint(again)).toBe(fingerprint(await new Evaluator().run(plan)));
        }
      }),
      { numRuns: 20 },
    ));

  test('runs only what changed', async () => {
    const evaluator = new Evaluator();
    const plan = new Plan(quay(0.3, 0.02, 3));
    expect((await evaluator.run(plan)).reused).toBe(0);
    expect((await evaluator.run(plan)).reused).toBe(5);
    // A dial of the tube alone: line, hang and rope are kept.
    expect((await evaluator.run(plan, { dials: { radius: 0.05 } })).reused).toBe(3);
    expect((await evaluator.run(new Plan(quay(0.3, 0.02, 3)))).reused).toBe(5);
  });

  test('runs only what the target needs', async () => {
    const run = await new Evaluator().run(new Plan(quay(0.3, 0.02, 3)), { targets: ['tube'] });
    expect([...run.nodes.keys()]).toEqual(['line', 'tube']);
  });

  test('keeps an error at its node; others go on, and those behind it wait', async () => {
    const document = quay(0.3, 0.02, 3);
    const broken = { ...document, nodes: document.nodes.map((node) => (node.id === 'hang' ? { ...node, settings: { value: -1 } } : node)) };
    const run = await new Evaluator().run(new Plan(broken));
    expect(run.nodes.get('hang')!.error!.message).toBe('Amount is -1; it accepts numbers from 0 to 1000000 m.');
    expect(run.nodes.get('rope')!.error!.message).toBe('Waiting for "hang", which has no result.');
    expect(run.nodes.get('tube')!.error).toBeUndefined();
  });

  test('an empty input is no error: the node says what it waits for', async () => {
    const plan = new Plan(requireDocument({ format: 'filaxis-graph', version: 1, title: 'x', nodes: [{ id: 'tube', type: 'skin.tube' }], wires: [] }));
    const result = (await new Evaluator().run(plan)).nodes.get('tube')!;
    expect(result.error).toBeUndefined();
    expect(result.warnings[0]).toMatchObject({ code: 'empty', message: 'Waiting for curves at "curves".', remedy: 'Wire curves to it.' });
  });

  test('forgets the least recently used beyond its memory, and stays right', async () => {
    const small = new Evaluator({ memory: 50_000 });
    const plan = new Plan(quay(0.3, 0.02, 3));
    const first = fingerprint(await small.run(plan));
    for (let i = 1; i < 6; i++) await small.run(plan, { dials: { sag: i / 10 } });
    expect(fingerprint(await small.run(plan))).toBe(first);
    expect((await small.run(plan)).reused).toBeLessThan(5);
  });

  test('a step at work stops when a newer edit comes, and leaves nothing behind', async () => {
    const evaluator = new Evaluator();
    const plan = new Plan(chainDocument([['lay.drawn'], ['pace.resample', { count: 3_000_000 }], ['skin.tube']]));
    let looks = 0;
    const told: number[] = [];
    const run = await evaluator.run(plan, { cancelled: () => ++looks > 12, onProgress: (_, fraction) => told.push(fraction) });
    expect(run.cancelled).toBe(true);
    // Some places were found, by far not all.
    expect([...run.nodes.keys()]).toEqual(['n0']);
    expect(told.every((fraction) => fraction >= 0 && fraction < 0.1)).toBe(true);
  });

  test('stops a long run at its limit of time', async () => {
    const evaluator = new Evaluator({ limits: { seconds: 0 } });
    const run = await evaluator.run(new Plan(chainDocument([['lay.line', { points: 100 }]])));
    expect(run.nodes.get('n0')!.error!.message).toBe('The run took longer than the limit of 0 s.');
  });

  test('a node that is off passes its input through unchanged', async () => {
    const { curves, last } = await runChain([['lay.circle', { points: 7 }], ['shape.transform', { move: [1, 0, 0], on: false }]]); // prettier-ignore
    expect(last.warnings).toEqual([]);
    const nowhere = await runChain([
      ['lay.circle', { points: 7 }],
      ['shape.transform', { move: [1, 0, 0], where: false }],
    ]);
    expect(nowhere.curves.positions).toEqual(curves.positions);
    expect(curves.positions[0]).toBe(1);
  });
});

describe('every node definition', () => {
  for (const definition of nodeDefinitions.values())
    test(`${definition.type} is complete, and its defaults are accepted`, async () => {
      expect(definition.label).toMatch(/^[A-Z]/);
      expect(definition.summary.length).toBeGreaterThan(20);
      expect(definition.help.length).toBeGreaterThan(definition.summary.length);
      for (const [key, setting] of Object.entries(definition.settings)) {
        expect(key).toMatch(/^[a-z][A-Za-z]*$/);
        expect(setting.label, key).toMatch(/^[A-Z]/);
        expect(setting.help, key).toMatch(/[.:]/);
      }
      const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'x', nodes: [{ id: 'a', type: definition.type }], wires: [] });
      const result = (await new Evaluator().run(new Plan(document))).nodes.get('a')!;
      expect(result.error).toBeUndefined();
    });
});

describe('joining', () => {
  test('meshes keep their materials, curves their order; mixed kinds are refused', async () => {
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'x',
      nodes: [
        { id: 'a', type: 'lay.line' },
        { id: 't', type: 'skin.tube' },
        { id: 'm', type: 'mesh.material', settings: { name: 'tar' } },
        { id: 'n', type: 'mesh.material', settings: { name: 'lime' } },
        { id: 'j', type: 'flow.join' },
        { id: 'k', type: 'flow.join' },
      ],
      wires: [
        { from: ['a', 'curves'], to: ['t', 'curves'] },
        { from: ['t', 'mesh'], to: ['m', 'mesh'] },
        { from: ['t', 'mesh'], to: ['n', 'mesh'] },
        { from: ['n', 'mesh'], to: ['j', 'any'] },
        { from: ['m', 'mesh'], to: ['j', 'any'] },
        { from: ['t', 'mesh'], to: ['j', 'any'] },
        { from: ['a', 'curves'], to: ['k', 'any'] },
        { from: ['t', 'mesh'], to: ['k', 'any'] },
      ],
    });
    const run = await new Evaluator().run(new Plan(document));
    const mesh = resultOf(run.nodes.get('j')).mesh!;
    expect(mesh.materials.map(({ name }) => name)).toEqual(['lime', 'tar']);
    expect([...mesh.attributes.get('material')!.data]).toEqual([...Array(12).fill(0), ...Array(12).fill(1), ...Array(12).fill(-1)]);
    expect(run.nodes.get('k')!.error!.message).toContain('Join got curves and mesh');
  });
});
