import { MatAutocompleteHarness } from '@angular/material/autocomplete/testing';
import { TestKey } from '@angular/cdk/testing';
import { nodeDefinitions } from '@filaxis/core';
import { describe, expect, test } from 'vitest';
import { AddMenu } from '../../src/app/ropewalk/graph/add-menu';
import { findActions } from '../../src/app/ropewalk/palette';
import { heard, mounted, press, type Mounted } from './mounted';

async function menu(
  kind: string | null = null,
): Promise<Mounted<AddMenu> & { box: HTMLInputElement; picked: string[]; closed: unknown[]; type: (text: string) => void; list: () => Promise<string[]> }> {
  const made = await mounted(AddMenu, { inputs: { kind } });
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
    expect(picked).toEqual(['flow.join']);
  });

  test('arrow keys go through what was found', async () => {
    const { loader, picked } = await menu();
    const found = await loader.getHarness(MatAutocompleteHarness);
    await found.enterText('rope');
    const second = await (await found.getOptions())[1].getText();
    await (await found.host()).sendKeys(TestKey.DOWN_ARROW);
    await (await found.host()).sendKeys(TestKey.ENTER);
    expect(picked.map((type) => second.startsWith(nodeDefinitions.get(type)!.label))).toEqual([true]);
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

  test('says what to do when nothing is called that', async () => {
    const made = await menu();
    made.type('zzzz');
    made.box.focus();
    await made.settle();
    expect(await made.list()).toEqual(['No node is called that. Try a word for what it should do, such as pipe or sag.']);
    press(made.box, 'Enter');
    expect(made.picked).toEqual([]);
  });

  test('what is typed reaches no shortcut, and Escape closes it', async () => {
    const { box, closed } = await menu();
    const outside: string[] = [];
    const listen = ({ key }: KeyboardEvent): void => void outside.push(key);
    window.addEventListener('keydown', listen);
    press(box, 'n');
    press(box, 'Escape');
    window.removeEventListener('keydown', listen);
    expect([outside, closed.length]).toEqual([[], 1]);
  });
});

test('actions are found by all their words, the exact name first, what is off not at all', () => {
  const action = (name: string, off = false): Parameters<typeof findActions>[0][number] => ({ name, off, run: () => undefined });
  const all = [action('Go to Join join'), action('Add Join mesh parts'), action('Add Join'), action('Tidy', true), action('Fit the graph')];
  expect(findActions(all, 'join').map(({ name }) => name)).toEqual(['Add Join', 'Go to Join join', 'Add Join mesh parts']);
  expect(findActions(all, 'graph fit').map(({ name }) => name)).toEqual(['Fit the graph']);
  expect(findActions(all, '').map(({ name }) => name)).not.toContain('Tidy');
});
