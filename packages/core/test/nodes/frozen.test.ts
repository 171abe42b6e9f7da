import { expect, test } from 'vitest';
import { curvesFromLists, Evaluator, makeReport, Plan, requireDocument } from '../../src/index.js';

const kept = curvesFromLists([[[0, 0, 0], [1, 0, 0], [2, 0, 0]]]); // prettier-ignore
const hash = 'a'.repeat(64);
const evaluator = (): Evaluator =>
  new Evaluator({
    imported: (asked) => {
      if (asked !== hash) throw new Error('The imported file is missing.');
      return { curves: kept };
    },
  });
const document = (asset: string, { points, wired = true }: { points: number; wired?: boolean }) =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Frozen',
    nodes: [
      { id: 'line', type: 'lay.line', settings: { points } },
      { id: 'frozen', type: 'flow.frozen', settings: asset ? { asset } : {} },
      { id: 'tube', type: 'skin.tube' },
    ],
    wires: [...(wired ? [{ from: ['line', 'curves'], to: ['frozen', 'any'] }] : []), { from: ['frozen', 'any'], to: ['tube', 'curves'] }],
  });

test('gives what was kept, whatever becomes of the nodes before it; thawed, what comes in', async () => {
  const [frozen, thawed] = await Promise.all([hash, ''].map((asset) => evaluator().run(new Plan(document(asset, { points: 7 })))));
  expect(frozen.nodes.get('frozen')!.outputs['any']).toBe(kept);
  expect(frozen.nodes.get('tube')!.error).toBeUndefined();
  expect(thawed.nodes.get('frozen')!.out).toEqual({ curves: 1, points: 7 });
});

test('needs nothing before it: a node that fails there, or none', async () => {
  // A line has two points at least.
  const failing = await evaluator().run(new Plan(document(hash, { points: 1 })));
  expect(failing.nodes.get('line')!.error).toBeDefined();
  expect(failing.nodes.get('tube')!.out.faces).toBeGreaterThan(0);
  const alone = await evaluator().run(new Plan(document(hash, { points: 2, wired: false })));
  expect(alone.nodes.get('tube')!.out.faces).toBeGreaterThan(0);
  // Only what is needed runs.
  const asked = await evaluator().run(new Plan(document(hash, { points: 2 })), { targets: ['tube'] });
  expect([...asked.nodes.keys()]).toEqual(['frozen', 'tube']);
  const live = await evaluator().run(new Plan(document('', { points: 2 })), { targets: ['tube'] });
  expect([...live.nodes.keys()]).toEqual(['line', 'frozen', 'tube']);
});

test('says when its file is missing, or when there is nothing at all', async () => {
  const plan = new Plan(document('b'.repeat(64), { points: 2 }));
  expect(makeReport(plan, await evaluator().run(plan)).problems[0].message).toContain('missing');
  const empty = await evaluator().run(new Plan(document('', { points: 2, wired: false })));
  expect(empty.nodes.get('frozen')!.warnings[0].message).toBe('Nothing comes in, and nothing is frozen.');
});
