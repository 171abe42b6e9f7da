import { describe, expect, test } from 'vitest';
import { settingType } from '../../src/app/ropewalk/settings/setting-field';
import { SidePane } from '../../src/app/ropewalk/side-pane';
import { TopBar } from '../../src/app/ropewalk/top-bar';
import { graph, heard, mounted, type Mounted } from './mounted';

const tube = { id: 'tube', type: 'skin.tube', name: 'Hose', settings: { radius: 0.02 } };

describe('the bar on top', () => {
  const bar = (): Promise<Mounted<TopBar>> => mounted(TopBar, { document: graph([tube]) });
  const button = ({ host }: Mounted<unknown>, name: string): HTMLButtonElement => host.querySelector(`[aria-label="${name}"]`)!;

  test('renames the document; an empty title is none', async () => {
    const made = await bar();
    const title = made.host.querySelector<HTMLInputElement>('.title')!;
    const type = async (text: string): Promise<string> => {
      title.value = text;
      title.dispatchEvent(new Event('change'));
      await made.settle();
      return made.documents.document().title;
    };
    expect([await type(' Quay '), await type('   ')]).toEqual(['Quay', 'Quay']);
  });

  test('undoes and redoes by name', async () => {
    const made = await bar();
    expect([button(made, 'Undo').disabled, button(made, 'Redo').disabled]).toEqual([true, true]);
    made.documents.apply('Rename', { ...made.documents.document(), title: 'Other' });
    await made.settle();
    expect(button(made, 'Undo').title).toBe('Undo: Rename (Ctrl Z)');
    button(made, 'Undo').click();
    await made.settle();
    expect([made.documents.document().title, button(made, 'Undo').disabled, button(made, 'Redo').title]).toEqual(['Test', true, 'Redo: Rename (Ctrl Shift Z)']);
  });

  test('says how saving goes, and offers a way out of a conflict', async () => {
    const made = await bar();
    const state = (): string => made.host.querySelector('[data-testid=save-state]')!.textContent!.trim();
    for (const [given, said] of [['saved', 'saved · version 0'], ['unsaved', 'editing …'], ['offline', 'not saved yet: the server cannot be reached, edits wait here']] as const) {
      made.documents.saveState.set(given);
      await made.settle();
      expect(state()).toBe(said);
    } // prettier-ignore
    made.documents.saveMessage.set('It is too large.');
    made.documents.saveState.set('refused');
    await made.settle();
    expect(state()).toBe('not saved: It is too large.');
    made.documents.saveState.set('conflict');
    await made.settle();
    expect([...made.host.querySelectorAll('button')].map(({ textContent }) => textContent!.trim())).toEqual(
      expect.arrayContaining(['Take theirs', 'Keep mine']),
    );
  });

  test('asks for the search, the Handout and the export', async () => {
    const made = await bar();
    const asked = [made.component.palette, made.component.share, made.component.export].map((each) => heard(each));
    for (const text of ['Search', 'Hand out', 'Export'])
      [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(text))!.click();
    expect(asked.map(({ length }) => length)).toEqual([1, 1, 1]);
  });
});

describe('the pane at the side', () => {
  const pane = (panel = 'settings'): Promise<Mounted<SidePane>> => mounted(SidePane, { document: graph([tube], [], { dials: [{ id: 'sag', label: 'Sag', kind: 'number', value: 1 }] }), inputs: { panel } }); // prettier-ignore
  const heading = ({ host }: Mounted<unknown>): string => host.querySelector('h2')!.textContent!;

  test('is headed by the chosen node’s name, and says what it is', async () => {
    const made = await pane();
    expect(heading(made)).toBe('Nothing chosen');
    made.documents.select('tube');
    await made.settle();
    expect([heading(made), made.host.querySelector('.summary')!.textContent]).toEqual(['Hose', expect.stringMatching(/^Tube: /)]);
  });

  test('shows settings, dials and help, one at a time', async () => {
    const made = await pane();
    made.documents.select('tube');
    const tabs = [...made.host.querySelectorAll<HTMLButtonElement>('.mat-mdc-tab-link')];
    const shown = async (which: number): Promise<string> => {
      tabs[which].click();
      await made.settle();
      return ['fx-settings', 'fx-dials', 'fx-node-help'].filter((each) => made.host.querySelector(each)).join();
    };
    expect([await shown(0), await shown(1), await shown(2)]).toEqual(['fx-settings', 'fx-dials', 'fx-node-help']);
    expect(tabs[1].textContent!.trim()).toBe('Dials 1');
  });

  test('a setting’s label that is dropped on Dials becomes one, and is shown there', async () => {
    const made = await pane();
    const drop = Object.assign(new Event('drop', { bubbles: true, cancelable: true }), { dataTransfer: { getData: (type: string) => (type === settingType ? JSON.stringify({ node: 'tube', setting: 'radius' }) : '') } }); // prettier-ignore
    made.host.querySelectorAll('.mat-mdc-tab-link')[1].dispatchEvent(drop);
    await made.settle();
    expect(made.documents.document().nodes[0].settings).toEqual({ radius: { dial: 'radius' } });
    expect(made.host.querySelector('.dial.marked .name')!.textContent).toBe('Hose radius');
  });
});
