import { expect, test } from 'vitest';
import { requireDocument, type Problem } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { emptyReason } from '../src/app/ropewalk/empty-reason';
import type { EvaluationService } from '../src/app/ropewalk/evaluation.service';

const nodes = [
  { id: 'line', type: 'lay.line' },
  { id: 'tube', type: 'skin.tube', name: 'Hose' },
];
const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Test', nodes, wires: [] });
const nothing = { faces: 0, curves: 0, points: 0 };
interface Seen {
  readonly counts?: object | null;
  readonly crashed?: string | null;
  readonly problems?: readonly Partial<Problem>[];
  readonly nodes?: Readonly<Record<string, Partial<NodeState>>>;
}
const reason = (seen: Seen, of = document): ReturnType<typeof emptyReason> =>
  emptyReason(of, {
    counts: () => seen.counts ?? null,
    crashed: () => seen.crashed ?? null,
    problems: () => seen.problems ?? [],
    nodes: () => seen.nodes ?? {},
  } as unknown as EvaluationService);
const warned = (code: 'empty' | 'pinch'): Partial<NodeState> => ({ warnings: [{ code, message: 'Nothing comes in.', remedy: 'Wire a curve to it.' }] });

test('before the first node it is said what comes here', () =>
  expect(reason({ counts: nothing }, { ...document, nodes: [] })).toEqual({ text: 'What the graph makes is shown here.', node: null }));

test('nothing is said while nothing is known, and where something is seen', () => {
  expect(reason({})).toBeNull();
  for (const kind of ['faces', 'curves', 'points']) expect(reason({ counts: { ...nothing, [kind]: 1 }, problems: [{ message: 'x' }] })).toBeNull();
});

test('a worker that broke goes before all, then what is wrong, with its node', () => {
  const problems = [{ node: 'tube', message: 'Sides: at least 3.' }, { message: 'later' }]; // prettier-ignore
  expect(reason({ counts: nothing, crashed: 'It was stopped.', problems })).toEqual({ text: 'It was stopped.', node: null });
  expect(reason({ counts: nothing, problems })).toEqual({ text: 'Sides: at least 3.', node: 'tube' });
  expect(reason({ counts: nothing, problems: [{ message: 'The document is too large.' }] })).toEqual({ text: 'The document is too large.', node: null });
});

test('then the node that has nothing, by its name and with what helps; other warnings are none', () => {
  expect(reason({ counts: nothing, nodes: { line: warned('pinch'), tube: warned('empty') } })).toEqual({
    text: 'Hose: Nothing comes in. Wire a curve to it.',
    node: 'tube',
  });
  expect(reason({ counts: nothing, nodes: { line: warned('pinch') } })).toEqual({ text: 'Nothing comes out yet.', node: null });
});
