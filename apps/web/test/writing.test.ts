import { unzipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument, type Curves } from '@filaxis/core';
import { readImport } from '@filaxis/formats';
import type { FromWorker, ToWorker } from '@filaxis/protocol';
import { exportResult, freeze, obstacleOf, type Writing } from '../src/workers/writing';

const growing = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Growing',
  nodes: [
    { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0], points: 3 } },
    { id: 'grown', type: 'grow.reveal', settings: { seconds: 2, soft: 0 } },
    { id: 'wrong', type: 'lay.line', settings: { points: 1 } },
    { id: 'out', type: 'flow.output', settings: { name: 'vine' } },
  ],
  wires: [
    { from: ['line', 'curves'], to: ['grown', 'any'] },
    { from: ['grown', 'any'], to: ['out', 'any'] },
  ],
});

/** What the worker would tell, and how it writes. */
function desk(stopped: () => boolean = () => false): { writing: Writing; told: FromWorker[] } {
  const told: FromWorker[] = [];
  return {
    told,
    writing: { evaluator: new Evaluator(), plan: new Plan(growing), tell: (message) => void told.push(message), pause: async () => undefined, stopped },
  };
}
const asked = (more: object = {}): Extract<ToWorker, { kind: 'export' }> => ({ kind: 'export', request: 7, dials: {}, time: 1, nodes: ['out'], ending: '.json', name: 'vine', how: {}, frames: null, ...more }); // prettier-ignore
const file = async (told: readonly FromWorker[]): Promise<Uint8Array> => {
  const last = told.at(-1)!;
  if (last.kind !== 'exported') throw new Error(`It told ${last.kind}.`);
  return new Uint8Array(await last.file.arrayBuffer());
};

describe('writing a file', () => {
  test('writes the moment that is asked for, with its figures', async () => {
    const { writing, told } = desk();
    await exportResult(asked(), writing);
    const { curves } = JSON.parse(new TextDecoder().decode(await file(told)));
    expect(Math.max(...curves.positions)).toBeCloseTo(2, 6);
    expect(told).toMatchObject([{ kind: 'exported', request: 7, companion: null, measures: { curves: 1 } }]);
  });

  test('all frames of a range go into an archive, and it tells how far it is', async () => {
    const { writing, told } = desk();
    await exportResult(asked({ frames: { from: 23, to: 26 } }), writing);
    expect(told.flatMap((message) => (message.kind === 'writing' ? [message.fraction] : []))).toEqual([0, 0.25, 0.5, 0.75]);
    expect(Object.keys(unzipSync(await file(told)))).toEqual(['vine.0023.json', 'vine.0024.json', 'vine.0025.json', 'vine.0026.json', 'frames.json']);
  });

  test('stopped between frames it says so, and writes nothing', async () => {
    let frames = 0;
    const { writing, told } = desk(() => frames > 1);
    const counting: Writing = { ...writing, tell: (message) => (writing.tell(message), void (frames += Number(message.kind === 'writing'))) };
    await expect(exportResult(asked({ frames: { from: 20, to: 40 } }), counting)).rejects.toThrow('Writing was stopped.');
    expect(told.every(({ kind }) => kind === 'writing')).toBe(true);
  });

  test('a moment with nothing is an empty file, and is told; an archive is empty only where all its frames are', async () => {
    const { writing, told } = desk();
    await exportResult(asked({ time: 0 }), writing);
    expect(told).toMatchObject([{ kind: 'exported', empty: true, measures: { curves: 0 } }]);
    await exportResult(asked({ frames: { from: 0, to: 2 } }), writing);
    expect(told.at(-1)).toMatchObject({ kind: 'exported', empty: false });
  });

  test('says what is wrong: a format that cannot hold it, a node that fails, no document', async () => {
    const { writing } = desk();
    await expect(exportResult(asked({ ending: '.stl' }), writing)).rejects.toThrow('.stl cannot hold curves');
    await expect(exportResult(asked({ nodes: ['wrong'] }), writing)).rejects.toMatchObject({ node: 'wrong', message: expect.stringContaining('Points is 1') });
    const failed = await exportResult(asked({ nodes: ['wrong'] }), writing).catch((error: Error) => obstacleOf(error));
    expect(failed).toEqual({ node: 'wrong' });
    await expect(exportResult(asked(), { ...writing, plan: null })).rejects.toThrow('No document is open.');
  });

  test('freezes what an output gives at the moment, number for number', async () => {
    const { writing, told } = desk();
    await freeze({ kind: 'freeze', request: 3, dials: {}, time: 1.5, from: ['grown', 'any'] }, writing);
    const [message] = told;
    if (message.kind !== 'frozen') throw new Error(`It told ${message.kind}.`);
    const { curves } = await readImport(message.bytes);
    const now = await new Evaluator().run(new Plan(growing), { time: 1.5 });
    expect((curves as Curves).positions).toEqual((now.nodes.get('grown')!.outputs['any'] as Curves).positions);
    expect(message.counts).toEqual({ curves: 1, points: 3 });
    await expect(freeze({ kind: 'freeze', request: 4, dials: {}, time: 0, from: ['grown', 'any'] }, writing)).rejects.toThrow(
      'nothing yet that could be frozen',
    );
  });
});
