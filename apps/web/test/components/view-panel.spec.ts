import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { describe, expect, test } from 'vitest';
import { plainOptions } from '../../src/app/ropewalk/view3d/stage-options';
import { ViewPanel } from '../../src/app/ropewalk/view3d/view-panel';
import { graph, heard, mounted, press, typeInto, type Mounted } from './mounted';

const camera = { position: [1, 2, 3], target: [0, 0, 0], focal: 60, parallel: false };
const kept = [{ name: 'Bow', camera: { position: [5, 0, 0], target: [0, 1, 0] } }];

async function panel(
  inputs: object = {},
  view: object = { kept },
): Promise<Mounted<ViewPanel> & { button: (text: string) => HTMLButtonElement | undefined; field: (label: string) => HTMLInputElement }> {
  const made = await mounted(ViewPanel, { document: graph([], [], { view: view as never }), inputs: { options: plainOptions, camera, ...inputs } });
  const opener = made.host.querySelector('button')!;
  opener.click();
  await made.settle();
  const find = (selector: string): HTMLElement[] => [...document.querySelectorAll<HTMLElement>(`.panel ${selector}`)];
  return {
    ...made,
    button: (text) => find('button').find((each) => (each.getAttribute('aria-label') ?? each.textContent!).trim() === text) as HTMLButtonElement | undefined,
    field: (label) => find(`input[aria-label="${label}"]`)[0] as HTMLInputElement,
  };
}

describe('how the 3D view looks', () => {
  test('each choice tells what is changed, and nothing else', async () => {
    const made = await panel();
    const changes = heard(made.component.changed);
    for (const [label, text] of [['Lighting', 'Low sun'], ['Backs of faces', 'hidden'], ['Normals as pins', 'at faces'], ['Inked edges', 'borders and sharp']] as const) {
      const list = await made.overlays.getHarness(MatSelectHarness.with({ selector: `[aria-label="${label}"]` }));
      await list.open();
      await list.clickOptions({ text });
    } // prettier-ignore
    expect(changes).toEqual([{ lighting: 'lowSun' }, { backs: 'hidden' }, { pins: 'faces' }, { edges: 'sharp' }]);
  });

  test('ticks tell shadows, floor, parallel sight and the cut', async () => {
    const made = await panel();
    const [changes, parallel, cuts] = [heard(made.component.changed), heard(made.component.parallel), heard(made.component.cutAsked)];
    for (const label of ['Shadows', 'Contact shade', 'Floor', /Parallel/, /Cut open/])
      await (await made.overlays.getHarness(MatCheckboxHarness.with({ label }))).toggle();
    expect(changes).toEqual([{ shadows: false }, { contact: false }, { floor: false }]);
    expect([parallel, cuts.length]).toEqual([[true], 1]);
  });

  test('a cut that is open can be put across another axis, where it is', async () => {
    const made = await panel({ options: { ...plainOptions, cut: { point: [1, 2, 3], normal: [1, 0, 0] } } });
    const changes = heard(made.component.changed);
    const list = await made.overlays.getHarness(MatSelectHarness.with({ selector: '[aria-label="Cut"]' }));
    expect(await list.getValueText()).toBe('across x');
    await list.open();
    await list.clickOptions({ text: 'across z' });
    expect(changes).toEqual([{ cut: { point: [1, 2, 3], normal: [0, 0, 1] } }]);
  });

  test('a focal length is typed in millimetres', async () => {
    const made = await panel();
    const lenses = heard(made.component.lens);
    expect(made.field('Focal length').value).toBe('60');
    typeInto(made.field('Focal length'), '24');
    expect(lenses).toEqual([24]);
  });

  test('views are kept in the document under names of their own, shown, renamed and forgotten, with undo', async () => {
    const made = await panel();
    const shown = heard(made.component.shown);
    const names = (): unknown => (made.documents.document().view?.['kept'] as { name: string }[]).map(({ name }) => name);
    made.button('Show Bow')!.click();
    expect(shown).toEqual([kept[0].camera]);
    made.button('Keep this view')!.click();
    await made.settle();
    expect(names()).toEqual(['Bow', 'View 1']);
    typeInto(made.field('Name of View 1'), 'From the quay');
    await made.settle();
    expect(names()).toEqual(['Bow', 'From the quay']);
    made.button('Forget Bow')!.click();
    await made.settle();
    expect(names()).toEqual(['From the quay']);
    expect(made.documents.undoLabel()).toBe('Forget a view');
    made.documents.undo();
    expect(names()).toEqual(['Bow', 'From the quay']);
  });

  test('an empty name changes nothing; in a Handout there are no kept views', async () => {
    const made = await panel();
    typeInto(made.field('Name of Bow'), '  ');
    await made.settle();
    expect(made.documents.undoLabel()).toBeNull();
    made.fixture.componentRef.setInput('keeps', false);
    await made.settle();
    expect(made.button('Keep this view')).toBeUndefined();
  });

  test('Escape closes it and means nothing else', async () => {
    const made = await panel();
    const event = press(document.body, 'Escape');
    await made.settle();
    expect(event.defaultPrevented).toBe(true);
    expect(document.querySelector('.panel')).toBeNull();
  });
});
