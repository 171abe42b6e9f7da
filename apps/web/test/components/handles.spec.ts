/** Knobs over the 3D view: dragged along a line, round a ring, on a plane or freely; stepped and typed for by keys. */
import { describe, expect, test } from 'vitest';
import { Vector3 } from 'three';
import type { Knob } from '@filaxis/core';
import { Handles } from '../../src/app/ropewalk/view3d/handles';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { heard, mounted, point, press, type Mounted } from './mounted';

/** An eye 5 m before the origin, in a pane of 800 × 600; `up`: it looks down from above. */
function stage(up = false): object {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600 });
  camera.position.set(0, up ? 5 : 0, up ? 0.001 : 5);
  camera.lookAt(0, 0, 0);
  camera.reach(5);
  camera.updateMatrixWorld();
  return {
    sight: new Sight(camera),
    gridStep: 1,
    hitsAt: () => [{ place: new Vector3(0.4, 0, 0), distance: 5, corners: [0.5, 0, 0, 9, 9, 9, 9, 9, 9], copy: null }],
    curvePointAt: () => null,
  };
}
const knob = (more: Partial<Knob> = {}): Knob =>
  ({
    id: 'k',
    label: 'Height',
    moves: 'along',
    at: [0, 0.5, 0],
    root: [0, 0, 0],
    axis: [0, 1, 0],
    values: [0.5],
    unit: 'm',
    step: 0.1,
    to: (place: readonly number[]) => place,
    typed: (value: number) => ({ set: value }),
    ...more,
  }) as unknown as Knob;

interface Shown extends Mounted<Handles> {
  readonly pulled: unknown[];
  readonly kept: unknown[];
  readonly dropped: unknown[];
  readonly ball: () => SVGElement;
  /** Pixels of a place. */
  readonly pixels: (place: readonly number[]) => [number, number];
}
async function shown(given: Knob, up = false): Promise<Shown> {
  const view = stage(up) as { sight: Sight };
  const made = await mounted(Handles, { inputs: { stage: view, drawnFrames: 0, knobs: [given] } });
  made.host.getBoundingClientRect = () => ({ left: 0, top: 0, width: 800, height: 600 }) as DOMRect;
  return {
    ...made,
    pulled: heard(made.component.pulled),
    kept: heard(made.component.kept),
    dropped: heard(made.component.dropped),
    ball: () => made.host.querySelector<SVGElement>('[tabindex="0"]')!,
    pixels: (place) => {
      const at = view.sight.projected(place as never)!;
      return [((at.x + 1) / 2) * 800, ((1 - at.y) / 2) * 600];
    },
  };
}
const taken = (list: unknown[]): unknown => (list.at(-1) as { value: unknown } | undefined)?.value;
const near = (place: readonly number[]): unknown[] => place.map((value) => expect.closeTo(value, 4));

describe('a knob that is dragged', () => {
  test('along a line stays on it, is told all the way and kept once', async () => {
    const { ball, pixels, pulled, kept } = await shown(knob());
    point(ball(), 'pointerdown', ...pixels([0, 0.5, 0]));
    // Beside it, it is where the line of sight comes nearest.
    point(ball(), 'pointermove', pixels([0, 0.8, 0])[0] + 60, pixels([0, 0.8, 0])[1]);
    expect(taken(pulled)).toEqual([0, expect.closeTo(0.8, 2), 0]);
    point(ball(), 'pointermove', ...pixels([0, 1, 0]));
    expect([pulled.length, kept.length]).toEqual([2, 0]);
    point(ball(), 'pointerup', 0, 0);
    expect([taken(kept), (kept[0] as { did: string }).did]).toEqual([near([0, 1, 0]), 'Drag']);
    point(ball(), 'pointermove', 0, 0);
    expect(pulled).toHaveLength(2);
  });

  test('round a ring stays in its plane, which is drawn', async () => {
    const { ball, pixels, pulled, host } = await shown(knob({ moves: 'ring', at: [1, 0, 0], root: [0, 0, 0], axis: [0, 0, 1] }));
    const ring = host.querySelector('polyline, polygon')!.getAttribute('points')!.split(' ').map((pair) => pair.split(',').map(Number)); // prettier-ignore
    expect(ring).toHaveLength(49);
    const [x, y] = pixels([0, 1, 0]);
    expect(ring[12]).toEqual([expect.closeTo(x / 8, 4), expect.closeTo(y / 6, 4)]);
    expect(ring[48]).toEqual(ring[0].map((value) => expect.closeTo(value, 6)));
    point(ball(), 'pointerdown', ...pixels([1, 0, 0]));
    point(ball(), 'pointermove', x, y);
    expect(taken(pulled)).toEqual(near([0, 1, 0]));
  });

  test('freely goes across the view, or over the floor where one looks down on it; with Shift upright', async () => {
    const across = await shown(knob({ moves: 'free' as never, at: [0, 0, 0] }));
    point(across.ball(), 'pointerdown', ...across.pixels([0, 0, 0]));
    point(across.ball(), 'pointermove', ...across.pixels([0.3, 0.2, 0]));
    expect(taken(across.pulled)).toEqual(near([0.3, 0.2, 0]));
    point(across.ball(), 'pointermove', ...across.pixels([0.3, 0.2, 0]), { shiftKey: true });
    expect(taken(across.pulled)).toEqual([0, expect.closeTo(0.2, 2), 0]);
    const down = await shown(knob({ moves: 'free' as never, at: [0, 0, 0] }), true);
    point(down.ball(), 'pointerdown', ...down.pixels([0, 0, 0]));
    point(down.ball(), 'pointermove', ...down.pixels([0.3, 0, 0.4]));
    expect(taken(down.pulled)).toEqual(near([0.3, 0, 0.4]));
  });

  test('as an aim keeps its depth', async () => {
    const { ball, pixels, pulled } = await shown(knob({ moves: 'aim', at: [0, 0, 1] }));
    point(ball(), 'pointerdown', ...pixels([0, 0, 1]));
    point(ball(), 'pointermove', ...pixels([0.2, 0.3, 1]));
    expect(taken(pulled)).toEqual(near([0.2, 0.3, 1]));
  });

  test('with Ctrl goes on what is near, and says on what', async () => {
    const { ball, pixels, pulled, host, settle } = await shown(knob());
    point(ball(), 'pointerdown', ...pixels([0, 0.5, 0]));
    point(ball(), 'pointermove', ...pixels([0.49, 0, 0]), { ctrlKey: true });
    await settle();
    expect(taken(pulled)).toEqual(near([0.5, 0, 0]));
    expect(host.textContent).toMatch(/Height 0.5 m · on a \w+/);
    point(ball(), 'pointerup', 0, 0);
    await settle();
    expect(host.textContent).not.toContain('on a');
  });

  test('by another button is not; a knob out of sight is not drawn', async () => {
    const { ball, pixels, pulled, fixture, host, settle } = await shown(knob());
    point(ball(), 'pointerdown', ...pixels([0, 0.5, 0]), { button: 2 });
    point(ball(), 'pointermove', 0, 0);
    expect(pulled).toEqual([]);
    for (const at of [
      [0, 0, 9],
      [60, 0, 0],
    ]) {
      fixture.componentRef.setInput('knobs', [knob({ at: at as never })]);
      await settle();
      expect(host.querySelector('[tabindex="0"]')).toBeNull();
    }
  });
});

describe('a knob by keys', () => {
  test('digits set its number with Enter; Backspace takes one back, Escape all', async () => {
    const { ball, kept, host, settle } = await shown(knob());
    ball().dispatchEvent(new FocusEvent('focus'));
    for (const key of ['1', '.', '2', '5', 'Backspace']) expect(press(ball(), key).defaultPrevented).toBe(true);
    await settle();
    expect(host.textContent).toContain('Height 1.2▏m');
    press(ball(), 'Enter');
    expect([taken(kept), (kept[0] as { did: string }).did]).toEqual([{ set: 1.2 }, 'Set']);
    press(ball(), '7');
    press(ball(), 'Escape');
    expect(press(ball(), 'Enter').defaultPrevented).toBe(false);
    for (const key of ['-', '-', 'Enter']) press(ball(), key);
    expect(kept).toHaveLength(1);
  });

  test('arrows take it a step, ten with Shift; a knob of a place goes level by left and right, and deep by up and down', async () => {
    const typed = await shown(knob());
    press(typed.ball(), 'ArrowUp');
    press(typed.ball(), 'ArrowLeft', { shiftKey: true });
    expect(typed.kept.map((each) => (each as { value: { set: number }; did: string }).value.set)).toEqual([0.6, -0.5]);
    const placed = await shown(knob({ typed: undefined, at: [0.1, 0.2, 0.3] } as never));
    for (const key of ['ArrowRight', 'ArrowLeft', 'ArrowUp', 'ArrowDown']) press(placed.ball(), key);
    expect(placed.kept.map((each) => (each as { value: unknown }).value)).toEqual([
      near([0.2, 0.2, 0.3]),
      near([0, 0.2, 0.3]),
      near([0.1, 0.2, 0.2]),
      near([0.1, 0.2, 0.4]),
    ]);
    expect(press(placed.ball(), 'ArrowUp', { ctrlKey: true }).defaultPrevented).toBe(false);
  });

  test('Escape in a drag lets it go back to what it was', async () => {
    const { ball, pixels, pulled, kept, dropped } = await shown(knob());
    point(ball(), 'pointerdown', ...pixels([0, 0.5, 0]));
    press(ball(), 'Escape');
    expect(dropped).toEqual([]);
    point(ball(), 'pointerdown', ...pixels([0, 0.5, 0]));
    point(ball(), 'pointermove', ...pixels([0, 1, 0]));
    press(ball(), 'Escape');
    point(ball(), 'pointerup', 0, 0);
    expect([dropped.length, pulled.length, kept.length]).toEqual([1, 1, 0]);
  });
});
