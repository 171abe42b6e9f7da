import { MatSelectHarness } from '@angular/material/select/testing';
import { describe, expect, test } from 'vitest';
import { RampEditor, type RampValue } from '../../src/app/ropewalk/settings/ramp-editor';
import { graph, heard, mounted, point, press, typeInto, type Mounted } from './mounted';

const ramp: RampValue = { ramp: [[0, 0.04], [0.5, 0.02], [1, 0.01]], ease: 'linear' }; // prettier-ignore

async function editor(
  value: RampValue = ramp,
): Promise<Mounted<RampEditor> & { kept: RampValue[]; shown: RampValue[]; keys: () => SVGCircleElement[]; plot: SVGSVGElement }> {
  const made = await mounted(RampEditor, {
    document: graph([{ id: 'hose', type: 'skin.tube', settings: { radius: value } }]),
    inputs: { node: 'hose', setting: 'radius', value, label: 'Radius', unit: 'm', min: 0 },
  });
  const plot = made.host.querySelector('svg')!;
  plot.setPointerCapture = () => undefined;
  // The plot as it is drawn: 300 by 92 with a margin of 9.
  plot.getBoundingClientRect = () => ({ left: 0, top: 0, width: 300, height: 92 }) as DOMRect;
  return { ...made, plot, kept: heard(made.component.committed), shown: heard(made.component.scrubbed), keys: () => [...made.host.querySelectorAll('circle')] };
}

describe('the ramp editor', () => {
  test('arrows move a key, Shift ten times as far, between its neighbours and within the range of the setting', async () => {
    const { keys, kept } = await editor();
    press(keys()[1], 'ArrowRight');
    press(keys()[1], 'ArrowUp', { shiftKey: true });
    expect(kept.map((value) => value.ramp[1])).toEqual([[0.51, 0.02], [0.5, 0.03]]); // prettier-ignore
    press(keys()[0], 'ArrowLeft');
    expect(kept.at(-1)!.ramp[0]).toEqual([0, 0.04]);
    for (let i = 0; i < 3; i++) press(keys()[2], 'ArrowDown', { shiftKey: true });
    expect(kept.at(-1)!.ramp[2]).toEqual([1, 0]);
  });

  test('a click on the ground makes a key on the line there; Delete takes one away', async () => {
    const { plot, keys, kept } = await editor();
    point(plot, 'pointerdown', 9 + 282 * 0.25, 40);
    expect(kept[0].ramp).toEqual([[0, 0.04], [0.25, 0.03], [0.5, 0.02], [1, 0.01]]); // prettier-ignore
    press(keys()[1], 'Delete');
    expect(kept[1].ramp).toEqual([[0, 0.04], [1, 0.01]]); // prettier-ignore
  });

  test('the last key is not taken away', async () => {
    const { keys, kept } = await editor({ ramp: [[0.3, 1]] });
    press(keys()[0], 'Delete');
    expect(kept).toEqual([]);
  });

  test('a drag is shown as it goes and kept once, where it ends', async () => {
    const { plot, keys, kept, shown } = await editor();
    point(keys()[1], 'pointerdown', 150, 50);
    for (const x of [160, 170, 180]) point(plot, 'pointermove', x, 50);
    expect([shown.length, kept.length]).toEqual([3, 0]);
    point(plot, 'pointerup', 180, 50);
    expect(kept).toEqual([shown[2]]);
    expect(kept[0].ramp[1][0]).toBeCloseTo((180 - 9) / 282, 3);
    // A press without a drag keeps nothing.
    point(keys()[1], 'pointerdown', 150, 50);
    point(plot, 'pointerup', 150, 50);
    expect(kept).toHaveLength(1);
  });

  test('numbers may be typed, the shape turned round, or a ready-made one taken between the values there are', async () => {
    const { host, kept, loader, keys, settle } = await editor();
    keys()[1].dispatchEvent(new Event('focus'));
    await settle();
    typeInto(host.querySelector<HTMLInputElement>('[aria-label="Value of the key"]')!, '0.035');
    expect(kept.at(-1)!.ramp[1]).toEqual([0.5, 0.035]);
    [...host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('Turn round'))!.click();
    expect(kept.at(-1)!.ramp).toEqual([[0, 0.01], [0.5, 0.02], [1, 0.04]]); // prettier-ignore
    const shapes = await loader.getHarness(MatSelectHarness.with({ selector: '[aria-label="Ready-made shapes"]' }));
    await shapes.open();
    await shapes.clickOptions({ text: 'belly in the middle' });
    expect(kept.at(-1)).toEqual({ ramp: [[0, 0.01], [0.5, 0.04], [1, 0.01]], ease: 'smooth' }); // prettier-ignore
  });
});
