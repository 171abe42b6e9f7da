import { MatMenuHarness } from '@angular/material/menu/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { MatSlideToggleHarness } from '@angular/material/slide-toggle/testing';
import { describe, expect, test } from 'vitest';
import type { Dial } from '@filaxis/core';
import { DialsPanel } from '../../src/app/ropewalk/settings/dials-panel';
import { graph, mounted, typeInto, type Mounted } from './mounted';

const dials: readonly Dial[] = [
  { id: 'sag', label: 'Sag', kind: 'number', value: 0.25, min: 0, max: 1, unit: 'm', group: 'Rope' },
  { id: 'strands', label: 'Strands', kind: 'integer', value: 3, min: 2, max: 8, group: 'Rope' },
  { id: 'closed', label: 'Closed', kind: 'boolean', value: false },
  { id: 'lay', label: 'Lay', kind: 'choice', value: 'left', choices: ['left', 'right'] },
  { id: 'dye', label: 'Dye', kind: 'colour', value: '#aa8855' },
  { id: 'label', label: 'Label', kind: 'text', value: 'hemp' },
  { id: 'place', label: 'Place', kind: 'vector', value: [1, 2, 3] },
  { id: 'seed', label: 'Seed', kind: 'seed', value: 7, min: 0, max: 99 },
];
const tube = { id: 'tube', type: 'skin.tube', settings: { radius: { dial: 'sag' } } };
const panel = (): Promise<Mounted<DialsPanel>> => mounted(DialsPanel, { document: graph([tube], [], { dials }) });
const row = ({ host }: Mounted<unknown>, id: string): HTMLElement => host.querySelector(`[data-dial=${id}]`)!;
const value = ({ documents }: Mounted<unknown>, id: string): unknown => documents.document().dials!.find((dial) => dial.id === id)!.value;
const menuOf = (made: Mounted<unknown>, label: string): Promise<MatMenuHarness> =>
  made.loader.getHarness(MatMenuHarness.with({ selector: `[aria-label="More for ${label}"]` }));

describe('dials', () => {
  test('stand in their groups, in their order', async () => {
    const made = await panel();
    expect([...made.host.querySelectorAll('h3')].map(({ textContent }) => textContent)).toEqual(['Rope', 'Others']);
    expect([...made.host.querySelectorAll('.name')].map(({ textContent }) => textContent)).toEqual(dials.map(({ label }) => label));
  });

  test('a slider that is dragged shows values and is one change when it is let go', async () => {
    const made = await panel();
    const slider = row(made, 'sag').querySelector<HTMLInputElement>('input[type=range]')!;
    for (const step of ['0.3', '0.4']) {
      slider.value = step;
      slider.dispatchEvent(new Event('input', { bubbles: true }));
      await made.settle();
    }
    expect(made.documents.liveDials()).toEqual({ sag: 0.4 });
    expect(value(made, 'sag')).toBe(0.25);
    slider.dispatchEvent(new Event('change', { bubbles: true }));
    expect([value(made, 'sag'), made.documents.liveDials(), made.documents.undoLabel()]).toEqual([0.4, {}, 'Dial Sag']);
    made.documents.undo();
    expect(value(made, 'sag')).toBe(0.25);
    await made.settle();
    expect(slider.valueAsNumber).toBe(0.25);
  });

  test('each kind has its control', async () => {
    const made = await panel();
    await (await made.loader.getHarness(MatSlideToggleHarness)).check();
    const select = await made.loader.getHarness(MatSelectHarness);
    await select.open();
    await select.clickOptions({ text: 'right' });
    typeInto(row(made, 'dye').querySelector('fx-text input')!, '#112233');
    typeInto(row(made, 'label').querySelector('fx-text input')!, 'jute');
    typeInto(row(made, 'place').querySelectorAll<HTMLInputElement>('fx-number input')[2], '9');
    typeInto(row(made, 'strands').querySelector('fx-number input')!, '5');
    row(made, 'seed').querySelector<HTMLButtonElement>('.draw')!.click();
    expect(made.documents.document().dials!.map((dial) => dial.value)).toEqual([0.25, 5, true, 'right', '#112233', 'jute', [1, 2, 9], expect.any(Number)]);
    expect(value(made, 'seed')).not.toBe(7);
    expect(value(made, 'seed')).toBeLessThanOrEqual(99);
  });

  test('name, range and group are edited, and what uses it can be gone to', async () => {
    const made = await panel();
    await (await menuOf(made, 'Sag')).clickItem({ text: 'Name, range, group' });
    await made.settle();
    const [name, group, unit] = row(made, 'sag').querySelectorAll<HTMLInputElement>('.edit fx-text input');
    typeInto(name, 'Droop');
    typeInto(group, '');
    typeInto(unit, 'cm');
    typeInto(row(made, 'sag').querySelectorAll<HTMLInputElement>('.edit fx-number input')[1], '2');
    expect(made.documents.document().dials![0]).toMatchObject({ label: 'Droop', unit: 'cm', max: 2 });
    expect(made.documents.document().dials![0].group).toBeUndefined();
    const gone: string[] = [];
    made.component.showNode.subscribe((node) => gone.push(node));
    row(made, 'sag').querySelector<HTMLButtonElement>('.uses')!.click();
    expect(gone).toEqual(['tube']);
  });

  test('an empty name is none', async () => {
    const made = await panel();
    await (await menuOf(made, 'Sag')).clickItem({ text: 'Name, range, group' });
    await made.settle();
    typeInto(row(made, 'sag').querySelector('.edit fx-text input')!, '   ');
    expect(made.documents.document().dials![0].label).toBe('Sag');
  });

  test('they change places, the first not up and the last not down', async () => {
    const made = await panel();
    const first = await menuOf(made, 'Sag');
    await first.open();
    expect(await (await first.getItems({ text: 'Move up' }))[0].isDisabled()).toBe(true);
    await first.clickItem({ text: 'Move down' });
    expect(
      made.documents
        .document()
        .dials!.slice(0, 2)
        .map(({ id }) => id),
    ).toEqual(['strands', 'sag']);
  });

  test('a dial that is removed leaves its value in what followed it', async () => {
    const made = await panel();
    await (await menuOf(made, 'Sag')).clickItem({ text: /Remove/ });
    expect(made.documents.document().nodes[0].settings).toEqual({ radius: 0.25 });
    expect(made.documents.document().dials!.map(({ id }) => id)).not.toContain('sag');
  });

  test('a new one of a kind is made, open to be named', async () => {
    const made = await panel();
    const kinds = await made.loader.getHarness(MatMenuHarness.with({ triggerText: '+ Dial' }));
    await kinds.clickItem({ text: 'Whole number' });
    await made.settle();
    expect(made.documents.document().dials!.at(-1)).toMatchObject({ kind: 'integer' });
    expect(made.host.querySelectorAll('.edit')).toHaveLength(1);
  });
});

test('without dials it is said what they are', async () => {
  const made = await mounted(DialsPanel, { document: graph([tube], [], { dials: [] }) });
  expect(made.host.textContent).toContain('No dials yet');
});
