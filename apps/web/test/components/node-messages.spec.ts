import { beforeEach, expect, test } from 'vitest';
import type { NodeState } from '@filaxis/protocol';
import { NodeMessages } from '../../src/app/ropewalk/settings/node-messages';
import { graph, mounted } from './mounted';

beforeEach(() => document.querySelectorAll('.cdk-overlay-container').forEach((each) => each.replaceChildren()));

const warning = (n: number): NodeState['warnings'][number] => ({ code: 'pinch', message: `It pinches at ${n}.`, remedy: 'Thin it.' });
async function messages(state: Partial<NodeState>): Promise<{ line: HTMLButtonElement | null; settle: () => Promise<void>; listed: () => string[] }> {
  const made = await mounted(NodeMessages, { document: graph([{ id: 'it', type: 'skin.tube' }]), inputs: {} });
  made.documents.select('it');
  made.evaluation.nodes.set({ it: { ms: 1, in: null, out: null, warnings: [], error: null, value: null, kinds: {}, ...state } as unknown as NodeState });
  await made.settle();
  return {
    line: made.host.querySelector<HTMLButtonElement>('.line'),
    settle: made.settle,
    listed: () => [...document.querySelectorAll('.all li')].map(({ textContent }) => textContent!.replace(/\s+/g, ' ').trim()),
  };
}

test('what is wrong stands first, in one line with the count; all of it, with what helps, on demand', async () => {
  const { line, settle, listed } = await messages({ error: { message: 'Sides: at least 3.' } as NodeState['error'], warnings: [warning(1), warning(2)] });
  expect([line!.textContent!.replace(/\s+/g, ' ').trim(), line!.classList.contains('bad'), listed()]).toEqual(['3 Sides: at least 3.', true, []]);
  line!.click();
  await settle();
  expect(listed()).toEqual(['Sides: at least 3.', 'It pinches at 1. Thin it.', 'It pinches at 2. Thin it.']);
});

test('of thirty the first twenty are listed, and how many more there are', async () => {
  const { line, settle, listed } = await messages({ warnings: Array.from({ length: 30 }, (_, i) => warning(i)) });
  line!.click();
  await settle();
  expect([listed().length, listed().at(-1)]).toEqual([21, 'and 10 more, in Checks']);
});

test('nothing to say takes no room', async () => {
  expect((await messages({})).line).toBeNull();
});
