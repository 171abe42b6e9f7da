import { MatDialog } from '@angular/material/dialog';
import { TestBed } from '@angular/core/testing';
import { afterEach, describe, expect, test, vi } from 'vitest';
import type { Dial, FilaxisDocument } from '@filaxis/core';
import { HandoutPage } from '../../src/app/handout/handout.page';
import { ApiError } from '../../src/app/shared/api.service';
import { DocumentService } from '../../src/app/ropewalk/document/document.service';
import { FakeServer } from '../services';
import { graph, mounted, typeInto, type Mounted } from './mounted';

const dials: readonly Dial[] = [
  { id: 'sag', label: 'Sag', kind: 'number', value: 0.25, min: 0, max: 1 },
  { id: 'lay', label: 'Lay', kind: 'choice', value: 'left', choices: ['left', 'right'], group: 'Rope' },
];
const given = graph([{ id: 'out', type: 'flow.output' }], [], { title: 'Quay rail', dials });

/** A server that hands a document out. */
class Desk extends FakeServer {
  assetFolder = '/api/assets';
  closed = false;
  async handout(token: string): Promise<{ document: FilaxisDocument }> {
    if (this.closed) throw new ApiError(404, `There is no ${token}.`, null);
    return { document: given };
  }
}

async function page(query = '', desk = new Desk()): Promise<Mounted<HandoutPage> & { desk: Desk; shown: () => FilaxisDocument }> {
  history.replaceState(null, '', `/h/abc${query}`);
  const made = await mounted(HandoutPage, { server: desk, inputs: { token: 'abc' } });
  await made.settle();
  await made.settle();
  return { ...made, desk, shown: () => made.fixture.debugElement.injector.get(DocumentService).document() };
}
const values = ({ dials: all = [] }: FilaxisDocument): unknown[] => all.map(({ value }) => value);
const button = ({ host }: Mounted<unknown>, text: string): HTMLButtonElement =>
  [...host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(text))!;

afterEach(() => history.replaceState(null, '', '/'));

describe('a Handout', () => {
  test('shows the dials by their groups, and fetches files by its own address', async () => {
    const made = await page();
    expect(made.host.querySelector('h1')!.textContent).toBe('Quay rail');
    expect([...made.host.querySelectorAll('.dial label')].map(({ textContent }) => textContent)).toEqual(['Sag', 'Lay']);
    expect(made.host.querySelector('h2')!.textContent).toBe('Rope');
    expect(made.desk.assetFolder).toBe('/api/handouts/abc/assets');
    made.fixture.destroy();
    expect(made.desk.assetFolder).toBe('/api/assets');
  });

  test('a dial that is turned can go back to what was given; nothing is stored', async () => {
    const made = await page();
    expect(button(made, 'As given').disabled).toBe(true);
    typeInto(made.host.querySelector<HTMLInputElement>('[data-dial=sag] fx-number input')!, '0.5');
    await made.settle();
    expect(values(made.shown())).toEqual([0.5, 'left']);
    button(made, 'As given').click();
    await made.settle();
    expect([values(made.shown()), button(made, 'As given').disabled, made.desk.saves]).toEqual([[0.25, 'left'], true, []]);
  });

  test('the link holds what was turned, and opens so again; what no dial takes is left out', async () => {
    const written: string[] = [];
    Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { writeText: (text: string) => Promise.resolve(written.push(text)) } });
    const made = await page();
    typeInto(made.host.querySelector<HTMLInputElement>('[data-dial=sag] fx-number input')!, '0.5');
    await made.settle();
    button(made, 'Copy link').click();
    await made.settle();
    expect(written.map((text) => text.replace(/^https?:\/\/[^/]+/, ''))).toEqual(['/h/abc?sag=0.5']);
    TestBed.resetTestingModule();
    expect(values((await page('?sag=0.5&lay=right')).shown())).toEqual([0.5, 'right']);
    TestBed.resetTestingModule();
    expect(values((await page('?sag=7&lay=up&gone=1')).shown())).toEqual([0.25, 'left']);
  });

  test('exports its outputs', async () => {
    const made = await page();
    const open = vi.spyOn(TestBed.inject(MatDialog), 'open').mockReturnValue(null as never);
    button(made, 'Export').click();
    expect(open.mock.calls[0][1]!.data).toMatchObject({ title: 'Quay rail', sources: [{ nodes: ['out'], label: 'Output “main”' }] });
  });

  test('that was closed says so', async () => {
    const desk = new Desk();
    desk.closed = true;
    expect((await page('', desk)).host.textContent).toContain('This handout does not exist, or is no longer open.');
  });
});
