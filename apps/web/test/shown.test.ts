/** The one rule of what the 3D view shows. */
import { expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument, type FilaxisDocument } from '@filaxis/core';
import type { Shown } from '@filaxis/protocol';
import { shownSets } from '../src/workers/shown';

const show: Shown = { shows: 'chosen', looked: null, peek: null, curve: 0, stripName: null, stripOthers: false, chosen: null, colour: null, ghost: null };
const nodes = [
  { id: 'line', type: 'lay.line' },
  { id: 'tube', type: 'skin.tube' },
  { id: 'box', type: 'lay.box' },
  { id: 'cut', type: 'mesh.edges' },
  { id: 'planes', type: 'lay.planes' },
  { id: 'copies', type: 'place.copies' },
  { id: 'out', type: 'flow.output' },
];
const wires = [
  ['line.curves', 'tube.curves'], ['tube.mesh', 'out.any'], ['box.mesh', 'cut.mesh'], ['box.mesh', 'planes.mesh'], ['line.curves', 'copies.curves'],
].map(([from, to]) => ({ from: from.split('.'), to: to.split('.') })); // prettier-ignore

async function shown(more: Partial<Shown>, changed: Partial<FilaxisDocument> = {}): Promise<{ ids: readonly string[]; context: readonly string[] }> {
  const plan = new Plan(requireDocument({ format: 'filaxis-graph', version: 1, title: 'T', nodes, wires, ...changed }));
  const { ids, context } = shownSets(plan, await new Evaluator().run(plan), { ...show, ...more });
  return { ids, context };
}

test('the chosen node; with nothing chosen, or an output, the outputs; without outputs, what no one takes further', async () => {
  expect((await shown({ looked: 'line' })).ids).toEqual(['line']);
  expect((await shown({ looked: 'box' })).ids).toEqual(['box']);
  expect((await shown({})).ids).toEqual(['out']);
  expect((await shown({ looked: 'out' })).ids).toEqual(['out']);
  expect((await shown({ looked: 'gone' })).ids).toEqual(['out']);
  const loose = { nodes: nodes.slice(0, 4), wires: wires.filter(({ to }) => ['tube', 'cut'].includes(to[0])) } as never;
  expect((await shown({}, loose)).ids).toEqual(['tube', 'cut']);
});

test('outputs alone, or all that goes no further, whatever is chosen', async () => {
  expect((await shown({ looked: 'line', shows: 'outputs' })).ids).toEqual(['out']);
  expect((await shown({ looked: 'line', shows: 'all' })).ids).toEqual(['out', 'cut', 'planes', 'copies']);
});

test('one that waits shows what it is wired to; one that is wired to nothing, the outputs', async () => {
  expect((await shown({ looked: 'copies' })).ids).toEqual(['line']);
  const idle = { nodes: [...nodes, { id: 'rope', type: 'skin.rope' }] } as never;
  expect((await shown({ looked: 'rope' }, idle)).ids).toEqual(['out']);
});

test('bodies that a node works on stay about it; what it passes on or places does not; drawn on, it is seen whole', async () => {
  expect(await shown({ looked: 'cut', chosen: 'cut' })).toEqual({ ids: ['cut'], context: ['box'] });
  expect(await shown({ looked: 'planes', chosen: 'planes' })).toEqual({ ids: ['box'], context: [] });
  expect((await shown({ looked: 'tube', chosen: 'tube' })).context).toEqual([]);
  expect((await shown({ looked: 'cut', chosen: 'cut', peek: 'cut' })).context).toEqual([]);
});
