import type { DrawnPlane } from '@filaxis/core';
import type { Questions } from '@filaxis/protocol';
import { of } from 'rxjs';
import { Vector3 } from 'three';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { describe, expect, test } from 'vitest';
import { PlaneEditor } from '../../src/app/ropewalk/view3d/plane-editor';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { graph, mounted, point, press, type Mounted } from './mounted';

/** An eye 5 m before the origin, in a pane of 800 × 600; what is shown is 2 m across. */
function stage(): { sight: Sight; extent: number; middle: Vector3 } {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600, focal: 12 / Math.tan(Math.PI / 9) });
  camera.position.set(0, 0, 5);
  camera.reach(5);
  camera.updateMatrixWorld();
  return { sight: new Sight(camera), extent: 2, middle: new Vector3() };
}

async function editor(
  planes: readonly DrawnPlane[],
): Promise<Mounted<PlaneEditor> & { planes: () => readonly DrawnPlane[]; knob: (label: string) => Element; sheet: () => Element }> {
  const made = await mounted(PlaneEditor, {
    document: graph([{ id: 'knives', type: 'lay.planes', settings: { planes } }]),
    inputs: { stage: stage(), drawnFrames: 0 },
  });
  // A wall half a metre before the origin stands for the body.
  made.evaluation.ask = ((_: string, { rays }: Questions['onBody']) =>
    of({
      triangles: 2,
      hits: rays.map(({ from, along }) => ({ place: from.map((value, k) => value + (along[k] * (0.5 - from[2])) / along[2]), on: [0, 0, 0] })),
    })) as typeof made.evaluation.ask;
  const host = document.createElement('fx-plane-editor');
  made.host.replaceWith(host);
  host.append(made.host);
  host.getBoundingClientRect = () => ({ left: 0, top: 0, right: 800, bottom: 600, width: 800, height: 600, x: 0, y: 0, toJSON: () => null });
  made.documents.select('knives');
  await made.settle();
  const held = (element: Element): Element => Object.assign(element, { setPointerCapture: () => undefined });
  return {
    ...made,
    planes: () => (made.documents.document().nodes[0].settings as { planes: readonly DrawnPlane[] }).planes,
    knob: (label) => held(made.host.querySelector(`[aria-label="${label}"]`)!),
    sheet: () => held(made.host.querySelector('.sheet')!),
  };
}
const level: DrawnPlane = { point: [0, 0, 0], normal: [0, 1, 0] };

describe('planes over a body', () => {
  test('a level line makes a plane through it and the eye, on the body; one step back', async () => {
    const made = await editor([]);
    const sheet = made.sheet();
    point(sheet, 'pointerdown', 300, 180);
    point(sheet, 'pointermove', 600, 180);
    point(sheet, 'pointerup', 600, 180);
    await made.settle();
    const [{ point: place, normal }] = made.planes();
    // In the middle of the line: 50 of 300 pixels to the right, where the wall is 4.5 m away and half the view is tan 20° of that high.
    expect(place[0]).toBeCloseTo((50 / 300) * 4.5 * Math.tan(Math.PI / 9), 4);
    expect(place[1]).toBeCloseTo((120 / 300) * 4.5 * Math.tan(Math.PI / 9), 4);
    expect(place[2]).toBeCloseTo(0.5, 5);
    expect(normal[0]).toBeCloseTo(0, 5);
    // It holds the eye and the place: its normal is square to the way between them.
    expect(normal[1] * place[1] + normal[2] * (place[2] - 5)).toBeCloseTo(0, 4);
    expect(normal[1]).toBeGreaterThan(0.9);
    expect(made.documents.undoLabel()).toBe('Draw a plane');
    // The next line is the next plane, until Escape.
    const next = made.sheet();
    point(next, 'pointerdown', 300, 300);
    point(next, 'pointermove', 600, 320);
    point(next, 'pointerup', 600, 320);
    await made.settle();
    expect(made.planes()).toHaveLength(2);
    made.documents.undo();
    press(document, 'Escape');
    await made.settle();
    expect(made.host.querySelector('.sheet')).toBeNull();
    made.documents.undo();
    expect(made.planes()).toEqual([]);
  });

  test('each plane is shown as a sheet about its point, a third of what is shown to each side', async () => {
    const { host } = await editor([{ point: [0, 0, 0], normal: [0, 0, 1] }]);
    // 0.6 m to each side of the middle, 5 m away: half the view is 5 tan 20° high.
    const high = 5 * Math.tan(Math.PI / 9);
    const [x, y] = [(0.6 / high) * 300, (0.6 / high) * 300];
    const corners = host.querySelector('polygon')!.getAttribute('points')!.split(' ').map((pair) => pair.split(',').map(Number)); // prettier-ignore
    const seen = corners.map(([left, top]) => [Math.round((left / 100) * 800 - 400), Math.round((top / 100) * 600 - 300)]);
    const [right, below] = [Math.round(x), Math.round(y)];
    expect(seen.map((corner) => corner.join()).sort()).toEqual([[-right, -below], [right, -below], [right, below], [-right, below]].map((corner) => corner.join()).sort()); // prettier-ignore
  });

  test('a click is no line', async () => {
    const made = await editor([]);
    point(made.sheet(), 'pointerdown', 200, 180);
    point(made.sheet(), 'pointerup', 203, 181);
    await made.settle();
    expect(made.planes()).toEqual([]);
  });

  test('its middle moves it along its normal, its arrow turns it', async () => {
    const made = await editor([level]);
    const middle = made.knob('Plane 1');
    point(middle, 'pointerdown', 400, 300);
    point(middle, 'pointermove', 430, 200);
    point(middle, 'pointerup', 430, 200);
    await made.settle();
    // A third of the half height, at 5 m and 40°.
    expect(made.planes()[0].point[1]).toBeCloseTo((5 * Math.tan((20 * Math.PI) / 180)) / 3, 2);
    expect(made.planes()[0].point[0]).toBe(0);
    expect(made.documents.undoLabel()).toBe('Move a plane');
    made.documents.undo();
    await made.settle();
    const arrow = made.knob('Arrow of plane 1');
    point(arrow, 'pointerdown', 400, 260);
    point(arrow, 'pointermove', 450, 250);
    point(arrow, 'pointerup', 450, 250);
    await made.settle();
    expect(made.planes()[0].normal).toEqual([Math.SQRT1_2, Math.SQRT1_2, 0].map((value) => expect.closeTo(value, 2) as number));
    expect(made.documents.undoLabel()).toBe('Turn a plane');
  });

  test('by keys it is moved and deleted; the order is changed; all are cleared', async () => {
    const made = await editor([level, { point: [0, 0.2, 0], normal: [0, 1, 0] }]);
    press(made.knob('Plane 1'), 'ArrowUp');
    await made.settle();
    expect(made.planes()[0].point[1]).toBeCloseTo(0.012, 5);
    point(made.knob('Plane 1'), 'pointerdown', 400, 300);
    point(made.knob('Plane 1'), 'pointerup', 400, 300);
    await made.settle();
    const button = (text: string): HTMLButtonElement => [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.trim() === text)!;
    button('Later').click();
    await made.settle();
    expect(made.planes().map(({ point: [, y] }) => y)).toEqual([0.2, 0.012]);
    press(made.knob('Plane 1'), 'Delete');
    await made.settle();
    expect(made.planes().length).toBe(1);
    button('Clear').click();
    await made.settle();
    expect([made.planes(), made.host.querySelector('.note')!.textContent]).toEqual([[], expect.stringContaining('Drag a line over the body') as string]);
  });
});
