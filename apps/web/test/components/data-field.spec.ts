/** Data of a node that is edited by hand beside its settings: objects by rows, a plane by point and normal, what is drawn by its count. */
import { expect, test } from 'vitest';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { DataEditor } from '@filaxis/core';
import { DataField } from '../../src/app/ropewalk/settings/data-field';
import { graph, heard, mounted, typeInto, type Mounted } from './mounted';

const node = { id: 'fence', type: 'place.repeat' };
const nodes = [{ id: 'post', type: 'lay.circle' }, { id: 'rail', type: 'lay.line', name: 'Long rail' }, node, { id: 'other', type: 'lay.line' }]; // prettier-ignore
const wires = [
  { from: ['post', 'curves'], to: ['fence', 'objects'] },
  { from: ['other', 'curves'], to: ['fence', 'curves'] },
  { from: ['rail', 'curves'], to: ['fence', 'objects'] },
] as const;

async function field(
  edit: DataEditor,
  value: unknown,
  wired = true,
): Promise<Mounted<DataField> & { kept: unknown[]; number: (label: string) => HTMLInputElement }> {
  const made = await mounted(DataField, { document: graph(nodes, wired ? wires : []), inputs: { node, edit, label: 'Mirror', value } });
  return { ...made, kept: heard(made.component.committed), number: (label) => made.host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)! };
}

test('what is drawn is told by its count, rules by those that rewrite something', async () => {
  for (const [edit, value, text] of [
    ['curves', [{}], '1 curve, drawn in the 3D view'],
    ['curves', [{}, {}], '2 curves, drawn in the 3D view'],
    ['planes', [{ point: [0, 0, 0], normal: [0, 1, 0] }], '1 plane, drawn in the 3D view'],
    ['planes', [], '0 planes, drawn in the 3D view'],
    ['strokes', [{}], '1 stroke, drawn on the body in the 3D view'],
    ['strokes', [{}, {}, {}], '3 strokes, drawn on the body in the 3D view'],
    ['rules', 'A\n# A -> B\nA -> B', '1 rule'],
    ['rules', 'A -> B\nB → C # both', '2 rules'],
  ] as const) {
    const made = await field(edit, value);
    expect(made.host.querySelector('.slate')!.textContent!.trim()).toBe(text);
    made.fixture.destroy();
  }
});

test('a row for each object in the order of its wires, and none without', async () => {
  const { host } = await field('stands', []);
  const rows = [...host.querySelectorAll('tbody tr')].map((row) => row.querySelector('th')!.textContent!.trim());
  expect(rows).toEqual(['Circle (post)', 'Long rail (rail)']);
  expect([...host.querySelectorAll('thead th')].map(({ textContent }) => textContent!.trim())).toEqual(['object', 'stands', 'length, m', 'share']);
});

test('without objects it says what to do', async () => {
  expect((await field('shares', [], false)).host.textContent).toContain('A row for each object, once objects are wired.');
});

test('shares are numbers in the order of the objects, 1 where nothing is said', async () => {
  const { host, kept, number } = await field('shares', [3]);
  expect([host.querySelectorAll('mat-checkbox').length, number('Share of Circle (post)').value, number('Share of Long rail (rail)').value]).toEqual([
    0,
    '3',
    '1',
  ]);
  typeInto(number('Share of Long rail (rail)'), '0.25');
  expect(kept).toEqual([[3, 0.25]]);
});

test('where an object stands is chosen from a list, beside its own length, and the whole list is kept', async () => {
  const { loader, kept, number } = await field('stands', [{ along: false, bends: true, share: 2 }]);
  const [where] = await loader.getAllHarnesses(MatSelectHarness);
  expect([await where.getValueText(), number('Share of Circle (post)').value]).toEqual(['corners', '2']);
  await where.open();
  await where.clickOptions({ text: /where pieces meet/ });
  const post = { along: false, joints: true, bends: true, first: false, last: false, ends: false, share: 2, length: 0 };
  expect(kept[0]).toEqual([post, expect.objectContaining({ along: true, share: 1 })]);
  typeInto(number('Length of Long rail (rail)'), '2.4');
  typeInto(number('Share of Long rail (rail)'), '0.5');
  expect(kept.slice(1).map((rows) => (rows as { length: number; share: number }[])[1])).toEqual([
    expect.objectContaining({ length: 2.4, share: 1 }),
    expect.objectContaining({ length: 0, share: 0.5 }),
  ]);
});

test('drawn planes have their numbers, each by itself', async () => {
  const first = { point: [0, 0.1, 0], normal: [0, 1, 0] };
  const { kept, number } = await field('planes', [first, { point: [1, 2, 3], normal: [0, 0, 1] }]);
  expect([number('Plane 1 point y').value, number('Plane 2 normal z').value]).toEqual(['0.1', '1']);
  typeInto(number('Plane 2 point x'), '4.5');
  expect(kept).toEqual([[first, { point: [4.5, 2, 3], normal: [0, 0, 1] }]]);
});

test('a plane of its own is looked for along x at first, its numbers are typed one by one, and it can go', async () => {
  const none = await field('plane', null);
  const own = await none.loader.getHarness(MatCheckboxHarness);
  expect([await own.isChecked(), none.host.querySelectorAll('fx-number').length]).toEqual([false, 0]);
  await own.check();
  expect(none.kept).toEqual([{ point: [0, 0, 0], normal: [1, 0, 0] }]);
  none.fixture.destroy();
  const { kept, number, loader } = await field('plane', { point: [1, 2, 3], normal: [0, 1, 0] });
  typeInto(number('Mirror point y'), '7');
  typeInto(number('Mirror normal z'), '-1');
  expect(kept).toEqual([{ point: [1, 7, 3], normal: [0, 1, 0] }, { point: [1, 2, 3], normal: [0, 1, -1] }]); // prettier-ignore
  await (await loader.getHarness(MatCheckboxHarness)).uncheck();
  expect(kept.at(-1)).toBeNull();
});
