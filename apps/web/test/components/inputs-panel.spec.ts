import { MatMenuHarness } from '@angular/material/menu/testing';
import { describe, expect, test } from 'vitest';
import { InputsPanel } from '../../src/app/ropewalk/settings/inputs-panel';
import { graph, heard, mounted, type Mounted } from './mounted';

const nodes = [
  { id: 'a', type: 'lay.line' },
  { id: 'b', type: 'lay.circle', name: 'Eye' },
  { id: 'join', type: 'flow.join' },
  { id: 'tube', type: 'skin.tube' },
];
const wires = [
  { from: ['a', 'curves'], to: ['join', 'any'] },
  { from: ['b', 'curves'], to: ['join', 'any'] },
] as const;

async function panel(chosen: string): Promise<Mounted<InputsPanel>> {
  const made = await mounted(InputsPanel, { document: graph(nodes, wires) });
  made.documents.select(chosen);
  await made.settle();
  return made;
}
const names = ({ host }: Mounted<unknown>): string[] => [...host.querySelectorAll('.name')].map((each) => each.textContent!.trim());
const now = ({ documents }: Mounted<unknown>): string[] => documents.document().wires.map(({ from, to }) => `${from[0]} > ${to[0]}`);
const button = ({ host }: Mounted<unknown>, label: string): HTMLButtonElement => host.querySelector(`[aria-label="${label}"]`)!;

describe('what comes into a node', () => {
  test('is listed by the names of its sources, in the order of the wires', async () => {
    const made = await panel('join');
    expect(names(made)).toEqual(['Line (a)', 'Eye (b)']);
    expect(made.host.querySelector('h3')!.textContent).toContain('takes many');
    made.worker.say({ kind: 'result', run: 0, ms: 1, nodes: {}, picture: null, shown: null, problems: [] });
  });

  test('changes places by its arrows, the first not up', async () => {
    const made = await panel('join');
    expect(button(made, 'Move Line (a) up').disabled).toBe(true);
    button(made, 'Move Line (a) down').click();
    await made.settle();
    expect(names(made)).toEqual(['Eye (b)', 'Line (a)']);
    made.documents.undo();
    expect(now(made)).toEqual(['a > join', 'b > join']);
  });

  test('is taken away, and can be gone to', async () => {
    const made = await panel('join');
    const gone = heard(made.component.showNode);
    made.host.querySelectorAll<HTMLButtonElement>('.name')[1].click();
    button(made, 'Remove the wire from Line (a)').click();
    expect([gone, now(made)]).toEqual([['b'], ['b > join']]);
  });

  test('is laid without the graph: only what fits is offered, and a single input changes its wire', async () => {
    const made = await panel('tube');
    const menu = await made.loader.getHarness(MatMenuHarness.with({ selector: '[aria-label="Wire something into curves"]' }));
    await menu.open();
    expect(await Promise.all((await menu.getItems()).map((item) => item.getText()))).toEqual(['Line (a)', 'Eye (b)', 'Join (join)']);
    await menu.clickItem({ text: 'Join (join)' });
    expect(now(made)).toEqual(['a > join', 'b > join', 'join > tube']);
    await made.settle();
    expect(await menu.getTriggerText()).toContain('Replace');
    await menu.clickItem({ text: 'Line (a)' });
    expect(now(made)).toEqual(['a > join', 'b > join', 'a > tube']);
  });

  test('of a node without inputs is nothing', async () => {
    const made = await panel('a');
    expect(made.host.querySelectorAll('section')).toHaveLength(0);
  });
});
