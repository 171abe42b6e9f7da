import { MatSelectHarness } from '@angular/material/select/testing';
import { describe, expect, test } from 'vitest';
import { RampEditor, type RampValue } from '../../src/app/ropewalk/settings/ramp-editor';
import { answer, graph, heard, mounted, point, press, typeInto, type Mounted } from './mounted';

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

  test('keys stand where they are in the plot, and the line goes through them', async () => {
    const { keys, host } = await editor();
    const at = (value: number): number => 92 - 9 - (value / 0.05) * (92 - 18);
    expect(keys().map((key) => [Number(key.getAttribute('cx')), Number(Number(key.getAttribute('cy')).toFixed(3))])).toEqual([[9, at(0.04)], [150, at(0.02)], [291, at(0.01)]].map((place) => place.map((value) => Number(value.toFixed(3))))); // prettier-ignore
    const line = host.querySelector('polyline')!.getAttribute('points')!.split(' ').map((pair) => pair.split(',').map(Number)); // prettier-ignore
    expect([line.length, line[0], line[50], line[100][1]]).toEqual([
      101,
      [9, expect.closeTo(at(0.04), 6)],
      [150, expect.closeTo(at(0.02), 6)],
      expect.closeTo(at(0.01), 6),
    ]);
    // Half way between two keys the linear line is half way too.
    expect(line[25][1]).toBeCloseTo(at(0.03), 6);
  });

  test('a drag keeps the scale, and stays between the neighbours and in the range', async () => {
    const { plot, keys, shown, fixture, settle } = await editor();
    point(keys()[1], 'pointerdown', 150, 50);
    point(plot, 'pointermove', 9999, 9999);
    expect(shown.at(-1)!.ramp[1]).toEqual([1, 0]);
    point(plot, 'pointermove', -9999, 9 - 74);
    expect(shown.at(-1)!.ramp[1]).toEqual([0, 0.1]);
    fixture.componentRef.setInput('value', shown.at(-1));
    await settle();
    // Were the scale new, the first key would be lower now.
    expect(Number(keys()[0].getAttribute('cy'))).toBeCloseTo(92 - 9 - (0.04 / 0.05) * 74, 6);
    point(plot, 'pointerup', 0, 0);
    await settle();
    expect(Number(keys()[0].getAttribute('cy'))).toBeGreaterThan(40);
  });

  test('over another name the keys keep their share of what that has', async () => {
    const made = await editor();
    answer(made.worker, 'names', { complete: true, names: [{ name: 's', kind: 'element', help: '', range: [2, 6] }, { name: 'wide', kind: 'dial', help: '', range: null }], vectors: [], values: null }); // prettier-ignore
    await made.settle();
    (made.component as unknown as { runOver: (name: string) => void }).runOver('s');
    expect(made.kept.at(-1)).toEqual({ ...ramp, ramp: [[2, 0.04], [4, 0.02], [6, 0.01]], over: 's' }); // prettier-ignore
    made.fixture.componentRef.setInput('value', made.kept.at(-1));
    await made.settle();
    expect((made.component as unknown as { span: () => unknown; names: () => unknown }).span()).toEqual([2, 6]);
    expect(made.keys().map((key) => Number(key.getAttribute('cx')))).toEqual([9, 150, 291]);
    (made.component as unknown as { runOver: (name: string) => void }).runOver('t');
    expect(made.kept.at(-1)!.ramp).toEqual(ramp.ramp);
    // An arrow is a hundredth of what there is.
    press(made.keys()[1], 'ArrowRight');
    expect(made.kept.at(-1)!.ramp[1]).toEqual([4.04, 0.02]);
  });

  test('its ease is chosen, and every one of 256 keys is the last', async () => {
    const { component, kept, plot } = await editor({ ramp: Array.from({ length: 256 }, (_, i): [number, number] => [i / 255, 1]), ease: 'linear' });
    point(plot, 'pointerdown', 100, 40);
    expect(kept).toEqual([]);
    (component as unknown as { ease: (name: string) => void }).ease('steps');
    expect(kept[0].ease).toBe('steps');
  });
});
