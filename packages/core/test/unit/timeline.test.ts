import { expect, test } from 'vitest';
import { Evaluator, firstMoment, Plan, requireDocument, timedNodes, timelineOf, usualTimeline, type Curves, type FilaxisDocument } from '../../src/index.js';

const document = (settings: object, view: object = {}, type = 'lay.helix'): FilaxisDocument =>
  requireDocument({ format: 'filaxis-graph', version: 1, title: 'x', nodes: [{ id: 'it', type, settings }], wires: [], view });

test('a document depends on the time by a node that does, or by a formula that names it, wherever that stands', () => {
  expect(timedNodes(document({}))).toEqual([]);
  expect(timedNodes(document({ radius: { formula: '1 + t' } }))).toEqual([]);
  expect(timedNodes(document({ radius: { formula: '1 + time' } }))).toEqual(['it']);
  expect(timedNodes(document({ move: [0, { formula: 'frameNumber / 3' }, 0] }, {}, 'shape.transform'))).toEqual(['it']);
  expect(timedNodes(document({ formula: 'time * 2' }, {}, 'gauge.formula'))).toEqual(['it']);
  expect(timedNodes(document({}, {}, 'gauge.time'))).toEqual(['it']);
  expect(timedNodes(document({}, {}, 'grow.reveal'))).toEqual(['it']);
  expect(timedNodes(document({ front: 'share' }, {}, 'grow.reveal'))).toEqual([]);
  expect(timedNodes(document({ on: false }, {}, 'grow.reveal'))).toEqual([]);
  expect(timedNodes(document({}, {}, 'no.such'))).toEqual([]);
});

test('a timeline of another form is as usual, and its ends are in order', () => {
  const of = (timeline: unknown) => timelineOf(document({}, { timeline }));
  expect(of(undefined)).toEqual(usualTimeline);
  expect(of('fast')).toEqual(usualTimeline);
  expect(of({ from: 10, to: 4, at: 99, rate: 25, loop: false })).toEqual({ from: 10, to: 10, at: 10, rate: 25, loop: false });
  expect(of({ from: 0, to: 1e9, rate: 7 })).toMatchObject({ to: 120, rate: 24 });
  expect(of({ from: 0, to: 50_000 })).toMatchObject({ to: 9999 });
  expect(firstMoment(document({}, { timeline: { to: 100, at: 50, rate: 25 } }))).toBe(2);
});

test('a document is seen at its own first moment unless another is asked for, and frames are counted at its rate', async () => {
  const widest = async (view: object, time?: number): Promise<number> => {
    const plan = new Plan(document({ radius: { formula: '1 + frameNumber' }, turns: 1, height: 0 }, view));
    const run = await new Evaluator().run(plan, { time });
    return Math.max(...(run.nodes.get('it')!.outputs['curves'] as Curves).positions);
  };
  expect(await widest({})).toBe(1);
  expect(await widest({ timeline: { at: 12, rate: 24 } })).toBe(13);
  expect(await widest({ timeline: { at: 12, rate: 24 } }, 0)).toBe(1);
  expect(await widest({}, 1)).toBe(25);
  expect(await widest({ timeline: { rate: 30 } }, 1)).toBe(31);
});

test('moments that were computed are there at once, until the document or its dials change', async () => {
  const growing = requireDocument({
    format: 'filaxis-graph', version: 1, title: 'x', dials: [{ id: 'sides', label: 'Sides', kind: 'integer', value: 60 }],
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0], points: 200 } },
      { id: 'grown', type: 'grow.reveal', settings: { seconds: 2 } },
      { id: 'tube', type: 'skin.tube', settings: { sides: { dial: 'sides' } } },
    ],
    wires: [{ from: ['line', 'curves'], to: ['grown', 'any'] }, { from: ['grown', 'any'], to: ['tube', 'curves'] }],
  }); // prettier-ignore
  const evaluator = new Evaluator({ frame: 0 });
  const plan = new Plan(growing);
  const frames = Array.from({ length: 30 }, (_, i) => (i + 1) / 24);
  for (const time of frames) expect((await evaluator.run(plan, { time })).reused).toBe(time === frames[0] ? 0 : 1);
  // Any of them, in any order.
  for (const time of [frames[3], frames[29], frames[0], frames[17]]) expect((await evaluator.run(plan, { time })).reused).toBe(3);
  // Large ones that are made within a frame are not kept, but for the last two; small ones are.
  const quick = new Evaluator({ frame: Infinity });
  for (const time of frames) await quick.run(plan, { time });
  const again = async (time: number): Promise<number> => (await quick.run(plan, { time })).reused;
  expect([await again(frames[29]), await again(frames[28]), await again(frames[3])]).toEqual([3, 3, 2]);
  const dials = { sides: 61 };
  expect((await evaluator.run(plan, { time: frames[3], dials })).reused).toBe(1);
  expect((await evaluator.run(plan, { time: frames[17] })).reused).toBeLessThan(3);
});
