import { describe, expect, test } from 'vitest';
import type { TableAnswer, TableQuestion } from '@filaxis/protocol';
import { ValuesTable } from '../../src/app/ropewalk/values/values-table';
import { answer, heard, mounted, press, refuse, typeInto, type Mounted } from './mounted';

const table = (more: Partial<TableAnswer> = {}): TableAnswer => ({
  kind: 'curves',
  kinds: ['curves', 'mesh'],
  per: 'point',
  pers: ['point', 'curve'],
  columns: ['t', 'radius'],
  total: 3,
  all: 3,
  from: 0,
  elements: Uint32Array.from([0, 1, 2]),
  values: Float64Array.from([0, 0.1, 0.5, NaN, 1, 0.3]),
  places: Float32Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0]),
  ...more,
});

async function values(given: TableAnswer = table()): Promise<Mounted<ValuesTable>> {
  const made = await mounted(ValuesTable, { inputs: { node: 'tube' } });
  answer(made.worker, 'table', given);
  await made.settle();
  return made;
}
const rows = ({ host }: Mounted<unknown>): HTMLElement[] => [...host.querySelectorAll<HTMLElement>('tr[data-row]')];
const newest = ({ worker }: Mounted<unknown>, topic: 'table' | 'column'): TableQuestion =>
  worker.heard('ask').findLast((each) => each.topic === topic)!.question as TableQuestion;

describe('values', () => {
  test('are listed by element, those that are not finite marked, with the count', async () => {
    const made = await values();
    expect(rows(made).map(({ textContent }) => textContent)).toEqual(['000.1', '10.5–', '210.3']);
    expect(made.host.querySelectorAll('td.bad')).toHaveLength(1);
    expect(made.host.querySelector('[data-testid=values-count]')!.textContent!.trim()).toBe('3 points');
  });

  test('are sorted by a column: up, down, not at all; its figures are asked for', async () => {
    const made = await values();
    const head = made.host.querySelectorAll<HTMLButtonElement>('thead button')[1];
    const sorts: unknown[] = [];
    for (let i = 0; i < 3; i++) {
      head.click();
      await made.settle();
      sorts.push(newest(made, 'table').sort);
    }
    expect(sorts).toEqual([{ column: 'radius', descending: false }, { column: 'radius', descending: true }, null]);
    answer(made.worker, 'column', { column: 'radius', sketch: null, notFinite: 1 });
    await made.settle();
    expect(made.host.querySelector('aside')!.textContent).toContain('1 value is not finite');
    const colour = heard(made.component.colour);
    made.host.querySelector<HTMLButtonElement>('aside button')!.click();
    expect(colour).toEqual(['radius']);
  });

  test('are filtered by a formula; what is wrong with it is said and the table stays', async () => {
    const made = await values();
    typeInto(made.host.querySelector<HTMLInputElement>('fx-text input')!, 't >');
    await made.settle();
    expect(newest(made, 'table').filter).toBe('t >');
    refuse(made.worker, 'table', 'A value is missing after “>”.');
    await made.settle();
    expect(made.host.querySelector('[role=alert]')!.textContent).toContain('missing after');
    expect(rows(made)).toHaveLength(3);
  });

  test('a row that is picked is marked and flown to, by pointer and by key', async () => {
    const made = await values();
    const [flown, picked] = [heard(made.component.flown), heard(made.component.picked)];
    rows(made)[1].click();
    await made.settle();
    expect(flown).toEqual([[1, 0, 0]]);
    expect(Array.from(picked.at(-1)!)).toEqual([1, 0, 0]);
    expect(rows(made)[1].classList.contains('picked')).toBe(true);
    press(rows(made)[2], 'Enter');
    expect(flown.at(-1)).toEqual([2, 0, 0]);
  });

  test('a place that was clicked in the 3D view is found', async () => {
    const made = await values();
    const picked = heard(made.component.picked);
    made.fixture.componentRef.setInput('clicked', [2, 0, 0]);
    await made.settle();
    answer(made.worker, 'locate', { element: 2, row: 2, place: [2, 0, 0] });
    await made.settle();
    await made.settle();
    expect(rows(made)[2].classList.contains('picked')).toBe(true);
    expect(Array.from(picked.at(-1)!)).toEqual([2, 0, 0]);
  });

  test('another node begins anew', async () => {
    const made = await values();
    typeInto(made.host.querySelector<HTMLInputElement>('fx-text input')!, 't > 0.2');
    await made.settle();
    made.fixture.componentRef.setInput('node', 'rope');
    await made.settle();
    expect(newest(made, 'table')).toMatchObject({ node: 'rope', filter: '', sort: null, from: 0 });
  });

  test('without a node it is said what to do', async () => {
    const made = await mounted(ValuesTable, { inputs: { node: null } });
    expect(made.host.textContent).toContain('Choose a node');
  });
});
