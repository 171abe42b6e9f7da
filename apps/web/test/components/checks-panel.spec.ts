import { describe, expect, test } from 'vitest';
import type { Finding } from '@filaxis/core';
import { ChecksPanel } from '../../src/app/ropewalk/checks/checks-panel';
import { ChecksService } from '../../src/app/ropewalk/checks/checks.service';
import { graph, heard, mounted, type Mounted } from './mounted';
import { TestBed } from '@angular/core/testing';

const tube = { id: 'tube', type: 'skin.tube', name: 'Hose', settings: { radius: 0.3 } };
const finding = (more: Partial<Finding>): Finding =>
  ({ kind: 'pinch', level: 'look', node: 'tube', message: 'It pinches.', place: null, remedies: [], ...more }) as Finding;

async function panel(findings: readonly Finding[] | null): Promise<Mounted<ChecksPanel>> {
  const made = await mounted(ChecksPanel, { document: graph([tube]) });
  TestBed.inject(ChecksService).findings.set(findings);
  await made.settle();
  return made;
}
const buttons = ({ host }: Mounted<unknown>, text: string): HTMLButtonElement[] =>
  [...host.querySelectorAll('button')].filter((each) => each.textContent!.includes(text));

describe('the checks', () => {
  test('say that they look, and that nothing is to be mended', async () => {
    expect((await panel(null)).host.textContent).toContain('Looking …');
    TestBed.resetTestingModule();
    expect((await panel([])).host.textContent).toContain('Nothing to mend');
  });

  test('name the node as the artist does, fly to the place, and mend', async () => {
    const made = await panel([finding({ level: 'wrong', place: [1, 2, 3], remedies: [{ do: 'set', label: 'Make it thinner', node: 'tube', setting: 'radius', value: 0.1 }] })]); // prettier-ignore
    const [gone, flown] = [heard(made.component.showNode), heard(made.component.flown)];
    buttons(made, 'Hose')[0].click();
    buttons(made, 'Show me')[0].click();
    buttons(made, 'Make it thinner')[0].click();
    expect([gone, flown]).toEqual([['tube'], [[1, 2, 3]]]);
    expect([made.documents.document().nodes[0].settings, made.documents.undoLabel()]).toEqual([{ radius: 0.1 }, 'Make it thinner']);
  });

  test('of one cause are one line with a count, whose places can be looked at one after another', async () => {
    const many = [1, 2, 3].map((x) => finding({ message: `At ${x} m it pinches.`, place: [x, 0, 0] }));
    const made = await panel([...many, finding({ node: 'tube', kind: 'hole' as Finding['kind'], message: 'A hole.' })]);
    const flown = heard(made.component.flown);
    expect(made.host.querySelectorAll('li')).toHaveLength(2);
    expect(made.host.querySelector('li')!.textContent).toContain('3 places');
    buttons(made, 'Show me')[0].click();
    buttons(made, 'Show me')[0].click();
    expect(flown).toEqual([[1, 0, 0], [2, 0, 0]]); // prettier-ignore
  });
});
