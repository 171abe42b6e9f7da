import { Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { signal } from '@angular/core';
import { LightHand } from '../src/app/ropewalk/view3d/light-hand';
import { Orbit } from '../src/app/ropewalk/view3d/orbit';
import { Sight } from '../src/app/ropewalk/view3d/sight';
import { plainOptions, type StageOptions } from '../src/app/ropewalk/view3d/stage-options';
import { plainHabits, readHabits, type Habits } from '../src/app/ropewalk/view3d/mouse-habits';
import { ViewCamera } from '../src/app/ropewalk/view3d/view-camera';
import { ViewHand, type ViewPoint } from '../src/app/ropewalk/view3d/view-hand';

/** A hand over a pane of 800 × 600 with the origin 5 m away. */
function over(habits: Habits = plainHabits) {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600 });
  const orbit = new Orbit(camera, () => camera.updateMatrixWorld());
  orbit.state = { position: [0, 0, 5], target: [0, 0, 0] };
  const told = { hovers: [] as (ViewPoint | null)[], clicks: [] as ViewPoint[], moved: 0 };
  const options = signal<StageOptions>(plainOptions);
  const light = new LightHand(options, (change) => options.update((now) => ({ ...now, ...change })));
  const pane = { clientHeight: 600, getBoundingClientRect: () => ({ left: 0, top: 0, width: 800, height: 600 }) } as HTMLElement;
  const hand = new ViewHand({
    stage: () => ({ orbit, sight: new Sight(camera), placeAt: () => new Vector3(0, 0, 0) }),
    pane: () => pane,
    light,
    habits: () => habits,
    hover: (at) => told.hovers.push(at),
    click: (at) => told.clicks.push(at),
    moved: () => told.moved++,
  });
  const event = (x: number, y: number, more: object = {}) => ({ clientX: x, clientY: y, button: 0, pointerId: 1, currentTarget: { setPointerCapture: () => undefined }, preventDefault: () => undefined, stopPropagation: () => undefined, ...more }) as never; // prettier-ignore
  const drag = (dx: number, dy: number, more: object = {}): void => {
    hand.down(event(400, 300, more));
    hand.move(event(400 + dx, 300 + dy));
    hand.up(event(400 + dx, 300 + dy));
  };
  return { hand, event, drag, camera, orbit, told, options, light };
}

describe('the hand over the 3D view', () => {
  test('a drag turns about what was taken hold of, and is no click; a press is', () => {
    const { drag, camera, told } = over();
    drag(150, 0);
    // A quarter of the height is a quarter of a turn of the whole: 150 of 600 pixels are 90°.
    expect(camera.position.x).toBeCloseTo(-5, 4);
    expect([told.clicks.length, told.moved]).toEqual([0, 1]);
    drag(2, 1);
    expect([told.clicks.length, told.moved]).toEqual([1, 1]);
  });

  test('with Shift, or another button, the view slides with the pointer', () => {
    for (const more of [{ shiftKey: true }, { button: 2 }]) {
      const { drag, camera, orbit } = over();
      drag(0, 300, more);
      // What lay in the middle lies at the lower edge: half the height seen at 5 m up.
      expect(orbit.target.y).toBeCloseTo(camera.halfHeight, 5);
    }
  });

  test('with Alt it goes nearer and farther from what was taken hold of', () => {
    const { drag, camera } = over();
    drag(0, -100, { altKey: true });
    expect(camera.position.length()).toBeCloseTo(5 * Math.exp(-0.6), 4);
  });

  test('buttons and wheel do what was set, and what is kept and not understood is as at first', () => {
    const turned = over({ ...plainHabits, left: 'nothing', right: 'turn', wheel: 'farther', about: 'middle' });
    turned.drag(100, 0);
    expect(turned.camera.position.toArray()).toEqual([0, 0, 5]);
    turned.drag(150, 0, { button: 2 });
    expect(turned.camera.position.x).toBeCloseTo(-5, 4);
    turned.hand.wheel(turned.event(400, 300, { deltaY: -100, deltaMode: 0 }));
    expect(turned.camera.position.length()).toBeGreaterThan(5.1);
    expect(readHabits('{"left":"slide","right":"fly","other":1}')).toEqual({ ...plainHabits, left: 'slide' });
    for (const text of [null, 'no', '[]', '3']) expect(readHabits(text)).toEqual(plainHabits);
  });

  test('while the light is held a drag turns it and the camera stays', () => {
    const { drag, camera, options, light } = over();
    light.hold();
    drag(40, 0);
    light.letGo();
    expect(camera.position.toArray()).toEqual([0, 0, 5]);
    expect([options().turned, options().lighting]).toEqual([20, 'window']);
  });

  test('the key of the light alone takes the next lighting, round and round; letting go of nothing does nothing', () => {
    const { options, light } = over();
    const seen = [0, 1, 2, 3].map(() => {
      light.hold();
      light.hold();
      light.letGo();
      light.letGo();
      return options().lighting;
    });
    expect(seen).toEqual(['lowSun', 'overcast', 'window', 'lowSun']);
  });

  test('turned light stays within half a turn either way', () => {
    const { light, options } = over();
    light.hold();
    for (const [pixels, degrees] of [[300, 150], [100, -160], [-100, 150]] as const) {
      light.turn(pixels);
      expect(options().turned).toBe(degrees);
    } // prettier-ignore
  });

  test('the wheel goes nearer to what is under it, arrows turn, Shift slides, + and − zoom; other keys are let through', () => {
    const { hand, event, camera, told } = over();
    hand.wheel(event(400, 300, { deltaY: -500, deltaMode: 0 }));
    expect(camera.position.z).toBeCloseTo(5 * Math.exp(-0.6), 4);
    expect(told.moved).toBe(1);
    let stopped = 0;
    const key = (name: string, shiftKey = false): void =>
      hand.key({ key: name, shiftKey, preventDefault: () => undefined, stopPropagation: () => stopped++ } as never);
    const before = camera.position.clone();
    key('ArrowLeft');
    expect(camera.position.distanceTo(before)).toBeGreaterThan(0.1);
    expect(camera.position.length()).toBeCloseTo(before.length(), 5);
    key('+');
    expect(camera.position.length()).toBeCloseTo(before.length() * 0.85, 5);
    key('ArrowUp', true);
    key('k');
    expect(stopped).toBe(3);
  });

  test('the pointer is told where it is, and that it takes hold', () => {
    const { hand, event, told } = over();
    hand.move(event(800, 0));
    hand.down(event(400, 300));
    expect(told.hovers).toEqual([{ x: 1, y: 1 }, null]);
  });
});
