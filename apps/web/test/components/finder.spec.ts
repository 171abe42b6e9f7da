import { MatAutocompleteHarness } from '@angular/material/autocomplete/testing';
import { TestKey } from '@angular/cdk/testing';
import { nodeDefinitions } from '@filaxis/core';
import { By } from '@angular/platform-browser';
import { describe, expect, test, vi } from 'vitest';
import { AddMenu } from '../../src/app/ropewalk/graph/add-menu';
import { EditingService } from '../../src/app/ropewalk/document/editing.service';
import type { RopewalkScreen } from '../../src/app/ropewalk/ropewalk-actions';
import { screenSearch } from '../../src/app/ropewalk/search/screen-search';
import { knownNodes, search, type Entry, type Find } from '../../src/app/ropewalk/search/search';
import { Finder, type Found } from '../../src/app/shared/finder';
import { TestBed } from '@angular/core/testing';
import { graph, heard, mounted, press, type Mounted } from './mounted';

/** Every kind of node, and what is not here. */
const findNodes: Find = (text, kind) =>
  search(
    text,
    kind,
    knownNodes(() => undefined),
  );
/** What was picked, as kinds of nodes. */
const kinds = (picked: readonly Entry[]): (string | undefined)[] => picked.map(({ adds }) => adds?.type);

async function menu(
  kind: string | null = null,
): Promise<Mounted<AddMenu> & { box: HTMLInputElement; picked: Entry[]; closed: unknown[]; type: (text: string) => void; list: () => Promise<string[]> }> {
  const made = await mounted(AddMenu, { inputs: { kind, find: findNodes } });
  document.body.append(made.host);
  const box = made.host.querySelector('input')!;
  return {
    ...made,
    box,
    picked: heard(made.component.picked),
    closed: heard(made.component.closed),
    type: (text) => {
      box.value = text;
      box.dispatchEvent(new Event('input', { bubbles: true }));
    },
    list: async () => {
      const found = await made.loader.getHarness(MatAutocompleteHarness);
      return Promise.all((await found.getOptions()).map((option) => option.getText()));
    },
  };
}

describe('the search for nodes', () => {
  test('is by name, and Enter takes the first at once, however fast it comes after the letters', async () => {
    const { type, box, picked } = await menu();
    type('join');
    press(box, 'Enter');
    press(box, 'Enter');
    expect(kinds(picked)).toEqual(['flow.join']);
  });

  test('arrow keys go through what was found', async () => {
    const { loader, picked } = await menu();
    const found = await loader.getHarness(MatAutocompleteHarness);
    await found.enterText('rope');
    const second = await (await found.getOptions())[1].getText();
    await (await found.host()).sendKeys(TestKey.DOWN_ARROW);
    await (await found.host()).sendKeys(TestKey.ENTER);
    expect(kinds(picked).map((type) => second.startsWith(nodeDefinitions.get(type!)!.label))).toEqual([true]);
  });

  test('lists what takes a wire first, with family and summary', async () => {
    const made = await menu('mesh');
    made.box.focus();
    await made.settle();
    const names = await made.list();
    expect(names.length).toBeGreaterThan(4);
    expect(names.some((name) => name.startsWith('Line'))).toBe(false);
    expect(names.join()).toContain('Material');
  });

  test('more rows come as the list is scrolled, and the last is the one before the first', async () => {
    const { box, list, settle, picked, fixture } = await menu();
    box.focus();
    await settle();
    const few = await list();
    const panel = document.querySelector<HTMLElement>('.fx-found')!;
    panel.dispatchEvent(new Event('scroll'));
    await settle();
    const more = await list();
    expect([few.length < more.length, more.slice(0, few.length)]).toEqual([true, few]);
    const marked = (): string => document.querySelector('.fx-found .mat-mdc-option-active')!.textContent!;
    press(box, 'ArrowDown');
    await settle();
    panel.dispatchEvent(new Event('scroll'));
    await settle();
    await vi.waitFor(() => expect(marked().trim().startsWith(few[1].split(' ')[0])).toBe(true));
    press(box, 'ArrowUp');
    press(box, 'ArrowUp');
    await settle();
    const all = await list();
    await vi.waitFor(() => expect(marked().trim()).toBe(all.at(-1)));
    const finder = fixture.debugElement.query(By.directive(Finder)).componentInstance as Finder<Found>;
    expect([all.length, document.querySelector('.fx-found mat-option')!.getAttribute('aria-setsize')]).toEqual([
      finder.search()('').length,
      String(all.length),
    ]);
    press(box, 'Enter');
    expect(all.at(-1)).toContain(nodeDefinitions.get(picked[0].adds!.type)!.label);
  });

  test('says what to do when nothing is called that', async () => {
    const made = await menu();
    made.type('zzzz');
    made.box.focus();
    await made.settle();
    expect(await made.list()).toEqual(['Nothing is called that. Try a word for what it should do, such as pipe or sag.']);
    press(made.box, 'Enter');
    expect(made.picked).toEqual([]);
  });

  test('what is typed reaches no shortcut, and Escape closes it', async () => {
    const { box, closed, fixture } = await menu();
    const finder = fixture.debugElement.query(By.directive(Finder)).componentInstance as Finder<Found>;
    const escaped = heard(finder.escaped);
    const outside: string[] = [];
    const listen = ({ key }: KeyboardEvent): void => void outside.push(key);
    window.addEventListener('keydown', listen);
    press(box, 'n');
    press(box, 'Escape');
    window.removeEventListener('keydown', listen);
    expect([outside, closed.length, escaped.length]).toEqual([[], 1, 1]);
  });
});

/** A timeline that nothing depends on. */
const still = { timed: () => false, playing: () => false };
const nothingPeeked = { peek: () => null, ghost: () => null };

describe('asking the graph', () => {
  test('what is wanted is done on the chosen node, and can be taken back', async () => {
    const made = await mounted(AddMenu, { document: graph([{ id: 'rope', type: 'skin.rope' }]), inputs: { kind: null, find: findNodes } });
    made.documents.select('rope');
    const screen = {
      documents: made.documents,
      editing: TestBed.inject(EditingService),
      player: still,
      peeking: nothingPeeked,
    } as unknown as RopewalkScreen;
    const [first] = screenSearch(screen)('close the ends', null);
    expect([first.name, first.detail]).toEqual(['Rope: close the ends', 'Sets caps flat.']);
    first.run();
    expect([made.documents.document().nodes[0].settings, made.documents.undoLabel()]).toEqual([expect.objectContaining({ caps: 'flat' }), 'Close the ends']);
  });

  test('what it cannot do is done by a new node, with its settings; a name that is typed in full comes first', async () => {
    const made = await mounted(AddMenu, { document: graph([{ id: 'hose', type: 'skin.tube' }]), inputs: { kind: null, find: findNodes } });
    const added: unknown[] = [];
    const screen = { documents: made.documents, editing: TestBed.inject(EditingService), player: still, peeking: nothingPeeked, graph: { addByName: (...given: unknown[]) => added.push(given) } } as unknown as RopewalkScreen; // prettier-ignore
    const find = screenSearch(screen);
    const search = (text: string): readonly Entry[] => find(text, null);
    search('every second point')[0].run();
    expect(added).toEqual([['pace.points', { which: 'every', every: 2 }]]);
    expect(search('rope')[0].name).toBe('Rope');
    // Words of a name are no wish.
    expect(search('go to tube')[0].name).toBe('Go to Tube hose');
    expect(search('tidy the graph')[0].name).toBe('Tidy the graph');
  });
});
