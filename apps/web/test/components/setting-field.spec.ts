import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { TestBed } from '@angular/core/testing';
import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type Dial, type FilaxisDocument, type Wire } from '@filaxis/core';
import { SettingField } from '../../src/app/ropewalk/settings/setting-field';
import { graph, heard, mounted, typeInto, type Mounted } from './mounted';

const sag: Dial = { id: 'sag', label: 'Sag', kind: 'number', value: 0.25, min: 0, max: 1 };

interface Field extends Mounted<SettingField> {
  readonly kept: unknown[];
  readonly shown: unknown[];
  readonly menu: () => Promise<string[]>;
  readonly choose: (text: string | RegExp) => Promise<void>;
}

/** The field of a setting of a node that stands alone in a document. */
async function field(
  type: string,
  name: string,
  settings: Record<string, unknown> = {},
  { dials = [], more = [], wires = [] }: { dials?: Dial[]; more?: FilaxisDocument['nodes']; wires?: Wire[] } = {},
): Promise<Field> {
  const node = { id: 'node', type, settings };
  const made = await mounted(SettingField, {
    document: graph([node, ...more], wires, { dials }),
    inputs: { node, name, setting: nodeDefinitions.get(type)!.settings[name] },
  });
  const menu = await made.loader.getHarness(MatMenuHarness.with({ selector: `[aria-label^="${nodeDefinitions.get(type)!.settings[name].label} is"]` }));
  return {
    ...made,
    kept: heard(made.component.committed),
    shown: heard(made.component.scrubbed),
    menu: async () => {
      await menu.open();
      return Promise.all((await menu.getItems()).map((item) => item.getText()));
    },
    choose: async (text) => {
      await menu.open();
      await menu.clickItem({ text });
    },
  };
}
/** A second field in one test. */
const again = (type: string, name: string, settings: Record<string, unknown>, dials: Dial[]): Promise<Field> => {
  TestBed.resetTestingModule();
  return field(type, name, settings, { dials });
};
const boxes = ({ host }: Mounted<unknown>): HTMLInputElement[] => [...host.querySelectorAll<HTMLInputElement>('fx-number input')];

describe('the field of a setting', () => {
  test('of a number has its unit, and keeps what is typed', async () => {
    const made = await field('skin.tube', 'radius', { radius: 0.02 });
    expect([boxes(made)[0].value, made.host.querySelector('.unit')!.textContent]).toEqual(['0.02', 'm']);
    typeInto(boxes(made)[0], '30mm');
    expect(made.kept).toEqual([0.03]);
  });

  test('of a length that cannot be taken hold of in the scene says why, after what it is for', async () => {
    const { host } = await field('pace.simplify', 'tolerance');
    expect(host.querySelector('.label')!.getAttribute('title')).toMatch(/No handle in the 3D view: it is a tolerance/);
    TestBed.resetTestingModule();
    expect((await field('lay.circle', 'span')).host.querySelector('.label')!.getAttribute('title')).not.toContain('No handle');
  });

  test('says that it has a menu, which is made when it is asked for', async () => {
    const { host, menu } = await field('skin.tube', 'radius');
    const trigger = host.querySelector('.mode')!;
    expect([trigger.getAttribute('aria-haspopup'), host.querySelector('mat-menu')]).toEqual(['menu', null]);
    await menu();
    expect([trigger.getAttribute('aria-haspopup'), trigger.getAttribute('aria-expanded')]).toEqual(['menu', 'true']);
  });

  test('of a long text has the whole width, of a short one half of it', async () => {
    const wide = async (axiom: string): Promise<boolean> => {
      TestBed.resetTestingModule();
      return (await field('grow.rules', 'axiom', { axiom })).host.classList.contains('open');
    };
    expect([await wide('A(0.14)'), await wide('/(360 * random(9)) S(c)')]).toEqual([false, true]);
  });

  test('of a colour can be given part by part, and as one again', async () => {
    const made = await field('mesh.material', 'colour', { colour: '#ff8000' });
    await made.choose('Red, green and blue by themselves');
    expect(made.kept).toEqual([[1, 0.502, 0]]);
    const parted = await again('mesh.material', 'colour', { colour: [1, 0.502, { dial: 'sag' }] }, [sag]);
    expect(boxes(parted).map(({ value }) => value)).toEqual(['1', '0.502']);
    typeInto(boxes(parted)[1], '0.25');
    expect(parted.kept).toEqual([[1, 0.25, { dial: 'sag' }]]);
    await parted.choose('As one colour');
    expect(parted.kept.at(-1)).toBe('#ff8040');
  });

  test('of a choice lists its choices by name', async () => {
    const made = await field('skin.tube', 'caps');
    const select = await made.loader.getHarness(MatSelectHarness);
    await select.open();
    const names = await Promise.all((await select.getOptions()).map((option) => option.getText()));
    expect(names).toEqual(Object.values((nodeDefinitions.get('skin.tube')!.settings['caps'] as { choices: Record<string, string> }).choices));
    await select.clickOptions({ text: 'domed' });
    expect(made.kept).toEqual(['domed']);
  });

  test('of a switch is a tick', async () => {
    const made = await field('skin.rope', 'core');
    await (await made.loader.getHarness(MatCheckboxHarness)).check();
    expect(made.kept).toEqual([true]);
  });

  test('of a vector has a field for each part; pasted numbers fill those after it', async () => {
    const made = await field('shape.transform', 'move', { move: [1, 2, 3] });
    expect(boxes(made).map(({ value }) => value)).toEqual(['1', '2', '3']);
    typeInto(boxes(made)[1], '5');
    expect(made.kept).toEqual([[1, 5, 3]]);
    boxes(made)[1].dispatchEvent(Object.assign(new Event('paste', { bubbles: true, cancelable: true }), { clipboardData: { getData: () => '7, 8, 9' } }));
    expect(made.kept[1]).toEqual([1, 7, 8]);
  });

  test('of a colour can be typed', async () => {
    const made = await field('mesh.material', 'colour', { colour: '#aa8855' });
    expect(made.host.querySelector<HTMLInputElement>('input[type=color]')!.value).toBe('#aa8855');
    typeInto(made.host.querySelector<HTMLInputElement>('fx-text input')!, '#112233');
    expect(made.kept).toEqual(['#112233']);
  });

  test('points out what differs from the default, and takes it back', async () => {
    const changed = await field('skin.tube', 'sides', { sides: 24 });
    expect(changed.host.querySelector('.label.changed')).not.toBeNull();
    await changed.choose('Back to the default');
    expect(changed.kept).toEqual([undefined]);
  });

  test('at its default points nothing out and has nothing to take back', async () => {
    const plain = await field('skin.tube', 'sides');
    expect(plain.host.querySelector('.label.changed')).toBeNull();
    expect(await plain.menu()).not.toContain('Back to the default');
  });

  test('tells what is wrong with its value', async () => {
    const made = await field('skin.tube', 'sides', { sides: 2 });
    made.fixture.componentRef.setInput('fault', 'Sides: at least 3.');
    await made.settle();
    const label = made.host.querySelector<HTMLElement>('.label')!;
    expect([label.classList.contains('wrong'), label.title]).toEqual([true, 'Sides: at least 3.']);
    // Nothing comes in between it and the next field.
    expect(made.host.querySelector('.fault')).toBeNull();
  });
});

describe('how a value is given', () => {
  test('a number becomes a ramp, a formula, chance or an attribute, each from what it was', async () => {
    const begun = await field('skin.tube', 'radius', { radius: 0.02 });
    for (const each of [/Ramp/, /Formula/, /attribute/, /By chance/]) await begun.choose(each);
    expect(begun.kept).toEqual([
      { ramp: [[0, 0.02], [1, 0.02]], ease: 'linear' },
      { formula: '0.02' },
      { attribute: 't', scale: 0.02 },
      { random: [0.015, 0.025], seed: 1, per: 'point' },
    ]); // prettier-ignore
  });

  test('a ramp becomes a formula that runs as it did, and a fixed value with its first', async () => {
    const made = await field('skin.tube', 'radius', { radius: { ramp: [[0, 0.05], [1, 0.01]] } }); // prettier-ignore
    await made.choose(/Formula/);
    await made.choose('Fixed value');
    expect(made.kept).toEqual([{ formula: 'mix(0.05, 0.01, t)' }, 0.05]);
    expect(made.host.querySelector('.linked')!.getAttribute('title')).toBe('0.05 → 0.01 m');
  });

  test('a setting that is the same for all has no modes that vary, but a formula of dials and time', async () => {
    const made = await field('skin.tube', 'sides', { sides: 12 });
    const offered = (await made.menu()).filter((each) => /Ramp|Formula|chance|attribute/.test(each));
    expect(offered).toEqual([expect.stringContaining('Formula of dials and time')]);
    await made.choose(/Formula/);
    expect(made.kept).toEqual([{ formula: '12' }]);
  });

  test('a dial can be made or followed, and what follows one names it', async () => {
    const free = await field('skin.tube', 'radius', {}, { dials: [sag] });
    const made = heard(free.component.makeDialOf);
    await free.choose('Make it a dial');
    await free.choose('Follow “Sag”');
    expect([made.length, free.kept]).toEqual([1, [{ dial: 'sag' }]]);
  });

  test('a dial that is followed is shown by its name, and can be let go of with its value', async () => {
    const made = await field('skin.tube', 'radius', { radius: { dial: 'sag' } }, { dials: [sag] });
    const shown = heard(made.component.showDial);
    const button = made.host.querySelector<HTMLButtonElement>('.linked')!;
    expect(button.textContent?.trim()).toBe('Sag');
    button.click();
    await made.choose('Fixed value');
    expect([shown, made.kept]).toEqual([['sag'], [0.25]]);
  });

  test('a dial that is not there is said to be missing', async () => {
    const made = await field('skin.tube', 'radius', { radius: { dial: 'gone' } });
    expect(made.host.querySelector('.linked')!.textContent).toContain('gone (missing)');
  });

  test('a wire can be laid from a number, leads back to it, and can be taken away', async () => {
    const number = { id: 'count', type: 'gauge.number' };
    const free = await field('skin.tube', 'radius', {}, { more: [number] });
    await free.choose(/Wire from Number count/);
    expect(free.documents.document().wires).toEqual([{ from: ['count', 'number'], to: ['node', 'radius'] }]);
    await free.settle();
    const shown = heard(free.component.showNode);
    expect(free.host.querySelector('.linked')!.textContent).toContain('Number by wire');
    free.host.querySelector<HTMLButtonElement>('.linked')!.click();
    expect(shown).toEqual(['count']);
    await free.choose('Take the wire away');
    expect(free.documents.document().wires).toEqual([]);
  });
});
