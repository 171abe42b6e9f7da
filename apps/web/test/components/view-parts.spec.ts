import { MatButtonToggleGroupHarness } from '@angular/material/button-toggle/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { describe, expect, test } from 'vitest';
import { Legend } from '../../src/app/ropewalk/view3d/legend';
import { Selecting } from '../../src/app/ropewalk/view3d/selecting';
import { plainOptions } from '../../src/app/ropewalk/view3d/stage-options';
import { Tripod } from '../../src/app/ropewalk/view3d/tripod';
import { ViewBar } from '../../src/app/ropewalk/view3d/view-bar';
import { ViewFacts } from '../../src/app/ropewalk/view3d/view-facts';
import { ViewWay } from '../../src/app/ropewalk/view3d/view-way';
import { signal } from '@angular/core';
import { graph, heard, mounted, press, typeInto } from './mounted';

describe('parts of the 3D view', () => {
  test('the bar tells another look, and what is shown besides as a whole', async () => {
    const made = await mounted(ViewBar, { inputs: { options: plainOptions } });
    const [looks, changes] = [heard(made.component.looked), heard(made.component.changed)];
    const list = await made.loader.getHarness(MatSelectHarness);
    await list.open();
    expect(await Promise.all((await list.getOptions()).map((each) => each.getText()))).toEqual([
      'Shaded',
      'Clay',
      'Checker',
      'Colour',
      'Parts',
      'Normals',
      'Depth',
      'Ink',
    ]);
    await list.clickOptions({ text: 'Normals' });
    const [toggle] = await (await made.loader.getHarness(MatButtonToggleGroupHarness)).getToggles({ text: 'Wire' });
    await toggle.check();
    expect(looks).toEqual(['normals']);
    expect(changes).toEqual([{ wire: true, curves: false, frames: false, handles: true }]);
    made.fixture.componentRef.setInput('options', { ...plainOptions, frames: true });
    await made.settle();
    typeInto(made.host.querySelector<HTMLInputElement>('[aria-label^="Every how many"]')!, '4');
    expect(changes.at(-1)).toEqual({ every: 4 });
  });

  test('the legend has both ends of what is shown, and takes others', async () => {
    const made = await mounted(Legend, { inputs: { options: { ...plainOptions, surface: 'colour', colour: 'radius' } } });
    const changes = heard(made.component.changed);
    expect(made.host.textContent).toContain('Nothing shown has “radius”.');
    made.evaluation.colour.set({ name: 'radius', low: 0.1, high: 0.9 });
    await made.settle();
    typeInto(made.host.querySelector<HTMLInputElement>('[aria-label="Value of the last colour"]')!, '0.5');
    expect(changes).toEqual([{ range: [0.1, 0.5] }]);
    const [, button] = [...made.host.querySelectorAll('button, mat-select')];
    expect((button as HTMLButtonElement).disabled || button.matches('mat-select')).toBe(true);
  });

  test('the tripod is looked along by click and by Enter', async () => {
    const made = await mounted(Tripod, { inputs: { axes: (['x', 'y', 'z'] as const).map((name) => ({ name, x: 1, y: 1, near: true })) } });
    const along = heard(made.component.along);
    const arms = [...made.host.querySelectorAll('g')];
    arms[1].dispatchEvent(new MouseEvent('click'));
    press(arms[2], 'Enter');
    expect(along).toEqual(['y', 'z']);
  });

  test('the facts have counts against the budget, and what the view leaves out', async () => {
    const made = await mounted(ViewFacts, { inputs: { note: 'Plain light while it moves' } });
    expect(made.host.textContent!.trim()).toBe('');
    made.evaluation.counts.set({ faces: 1200, triangles: 2400, points: 1300, curves: 1, length: 2.5, copies: 3, budget: 2000 });
    await made.settle();
    const text = made.host.textContent!.replace(/\s+/g, ' ');
    expect(text).toMatch(/1.200 faces of 2.000 ?1.300 points · 3 copies1 curve · 2.5 m/);
    expect(text).toContain('Plain light while it moves');
    expect(made.host.querySelector('.over')).not.toBeNull();
  });

  test('the way from what was clicked to the output has names to go to, while its node is chosen', async () => {
    const picked = signal({ maker: { node: 'hose', through: ['paint'], kind: 'mesh', per: 'face', element: 7, part: 1 }, what: 'element', place: [0, 0, 0] });
    const made = await mounted(ViewWay, {
      document: graph([{ id: 'hose', type: 'skin.tube', name: 'Hose' }, { id: 'paint', type: 'mesh.material' }]),
      more: [{ provide: Selecting, useValue: { picked } }],
    }); // prettier-ignore
    expect(made.host.textContent!.trim()).toBe('');
    made.documents.select('hose');
    await made.settle();
    const shown = heard(made.component.showNode);
    expect(made.host.textContent!.replace(/\s+/g, ' ').trim()).toBe('Hose›Materialface 7, part 1');
    made.host.querySelectorAll('button')[1].click();
    expect(shown).toEqual(['paint']);
  });
});
