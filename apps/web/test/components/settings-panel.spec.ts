import { MatMenuHarness } from '@angular/material/menu/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { MatSnackBarHarness } from '@angular/material/snack-bar/testing';
import { describe, expect, test } from 'vitest';
import type { Dial, GraphNode } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { SettingsPanel } from '../../src/app/ropewalk/settings/settings-panel';
import { graph, heard, mounted, typeInto, type Mounted } from './mounted';

async function panel(node: Omit<GraphNode, 'id'>, dials: readonly Dial[] = []): Promise<Mounted<SettingsPanel>> {
  const made = await mounted(SettingsPanel, { document: graph([{ id: 'it', ...node }], [], { dials }) });
  made.documents.select('it');
  await made.settle();
  return made;
}
const names = ({ host }: Mounted<unknown>): string[] =>
  [...host.querySelectorAll('fx-setting[data-setting]')].map((each) => each.getAttribute('data-setting')!);
const settings = ({ documents }: Mounted<unknown>): Readonly<Record<string, unknown>> => documents.document().nodes[0].settings!;
const state = (more: Partial<NodeState>): NodeState => ({ in: {}, out: {}, kinds: {}, ms: 1, error: null, warnings: [], value: null, ...more }) as NodeState;

describe('the settings of a node', () => {
  test('are those that apply, and change with what they hang on', async () => {
    const made = await panel({ type: 'skin.tube' });
    expect(names(made)).not.toContain('bendRadius');
    const corners = await made.loader.getHarness(MatSelectHarness.with({ ancestor: '[data-setting=corners]' }));
    await corners.open();
    await corners.clickOptions({ text: 'round' });
    await made.settle();
    expect(names(made)).toContain('bendRadius');
    expect(made.documents.undoLabel()).toBe('Tube: corners');
  });

  test('that hang on what follows a dial are all there, since it may come out as anything', async () => {
    const made = await panel({ type: 'skin.tube', settings: { corners: { dial: 'how' } } }, [{ id: 'how', label: 'How', kind: 'choice', value: 'mitre', choices: ['mitre', 'round'] }]); // prettier-ignore
    expect(names(made)).toContain('bendRadius');
  });

  test('a number that stands for something else says so, and is given by its tick', async () => {
    const made = await panel({ type: 'flow.output', name: 'Near' });
    const budget = made.host.querySelector('[data-setting=budget]')!;
    expect([budget.textContent!.trim(), budget.querySelector('fx-number')]).toEqual(['Budget no budget', null]);
    budget.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await made.settle();
    expect([settings(made), made.documents.undoLabel()]).toEqual([{ budget: 100_000 }, 'Near: budget']);
    typeInto(budget.querySelector<HTMLInputElement>('fx-number input')!, '5000');
    budget.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await made.settle();
    expect(settings(made)).toEqual({});
  });

  test('what is wrong is said at its setting', async () => {
    const made = await panel({ type: 'skin.tube' });
    made.evaluation.nodes.set({ it: state({ error: { message: 'Sides: at least 3.', setting: 'sides', pointer: '', node: 'it' }, warnings: [{ code: 'pinch', message: 'It pinches.', remedy: 'Thin it.' }] } as Partial<NodeState>) }); // prettier-ignore
    await made.settle();
    expect(made.host.querySelector<HTMLElement>('[data-setting=sides] .label.wrong')!.title).toContain('at least 3');
    expect(made.host.querySelector('.notice')).toBeNull();
  });

  test('make a dial of one number, which is then shown', async () => {
    const made = await panel({ type: 'shape.transform', settings: { move: [0, 2, 0] } });
    const shown = heard(made.component.showDial);
    const [, y] = await made.loader.getAllHarnesses(MatMenuHarness.with({ ancestor: '[data-setting=move]' }));
    await y.open();
    await y.clickItem({ text: 'Make it a dial' });
    expect([settings(made), shown]).toEqual([{ move: [0, { dial: 'moveY' }, 0] }, ['moveY']]);
    expect(made.documents.document().dials).toMatchObject([{ label: 'Transform move y', kind: 'number', value: 2, unit: 'm' }]);
  });

  test('of a kind that this Filaxis does not know are kept as they are', async () => {
    const made = await panel({ type: 'far.away', settings: { depth: 3 } });
    expect(made.host.textContent).toContain('This Filaxis has no node “far.away”');
    expect(settings(made)).toEqual({ depth: 3 });
  });
});

describe('the kind of a drawn curve', () => {
  const handles = [[[0, 0, 0], [0.2, 0, 0]], [[0.8, 1, 0], [1, 1, 0]]]; // prettier-ignore
  const bezier = { type: 'lay.drawn', settings: { kind: 'bezier', curves: [{ points: [[0, 0, 0], [1, 1, 0]], handles }] } }; // prettier-ignore

  test('changes as one change with its curves, and says what became of them', async () => {
    const made = await panel(bezier);
    const kind = await made.loader.getHarness(MatSelectHarness);
    await kind.open();
    await kind.clickOptions({ text: 'straight' });
    expect(settings(made)).toEqual({ kind: 'straight', curves: [{ points: [[0, 0, 0], [1, 1, 0]] }] }); // prettier-ignore
    expect(await (await made.overlays.getHarness(MatSnackBarHarness)).getMessage()).toContain('Handles went');
    made.documents.undo();
    expect(settings(made)).toEqual(bezier.settings);
  });

  test('keeps every handle while it follows a dial', async () => {
    const made = await panel(bezier, [{ id: 'how', label: 'How', kind: 'choice', value: 'bezier', choices: ['bezier', 'straight'] }]);
    const menu = await made.loader.getHarness(MatMenuHarness.with({ ancestor: '[data-setting=kind]' }));
    await menu.open();
    await menu.clickItem({ text: 'Follow “How”' });
    expect(settings(made)).toEqual({ ...bezier.settings, kind: { dial: 'how' } });
  });
});
