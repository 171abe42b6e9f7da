import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { describe, expect, test } from 'vitest';
import type { DrawnCurves } from '../../src/app/ropewalk/document/drawn';
import { CurveEditor } from '../../src/app/ropewalk/view3d/curve-editor';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { graph, mounted, point, press, typeInto, type Mounted } from './mounted';

/** An eye above the ground, that looks at the origin over a pane of 800 × 600. */
function stage(): { sight: Sight; gridStep: number } {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600, focal: 12 / Math.tan(Math.PI / 9) });
  camera.position.set(0, 6, 6);
  camera.lookAt(0, 0, 0);
  camera.reach(5);
  camera.updateMatrixWorld();
  return { sight: new Sight(camera), gridStep: 1 };
}

const bent: DrawnCurves = [{ points: [[-1, 0, 0], [0, 0.5, 0], [1, 0, 0]] }]; // prettier-ignore

interface Editor extends Mounted<CurveEditor> {
  readonly curves: () => DrawnCurves;
  readonly spots: () => Element[];
  readonly sheet: () => Element;
  readonly choose: (text: string | RegExp) => Promise<void>;
}

async function editor(curves: DrawnCurves, kind = 'straight'): Promise<Editor> {
  const node = { id: 'path', type: 'lay.drawn', settings: { curves, kind } };
  const made = await mounted(CurveEditor, { document: graph([node]), inputs: { stage: stage(), drawnFrames: 0 } });
  // The element stands in tests under another name than in the page, where it is looked for by its own.
  const host = document.createElement('fx-curve-editor');
  made.host.replaceWith(host);
  host.append(made.host);
  const box = { left: 0, top: 0, right: 800, bottom: 600, width: 800, height: 600, x: 0, y: 0, toJSON: () => null };
  host.getBoundingClientRect = () => box;
  made.documents.select('path');
  await made.settle();
  const menu = await made.loader.getHarness(MatMenuHarness.with({ triggerText: 'More' }));
  return {
    ...made,
    curves: () => (made.documents.document().nodes[0].settings as { curves: DrawnCurves }).curves,
    spots: () => [...made.host.querySelectorAll('circle.point')],
    sheet: () => {
      const sheet = made.host.querySelector('.sheet')!;
      sheet.getBoundingClientRect = () => box;
      return sheet;
    },
    choose: async (text) => {
      await menu.open();
      await menu.clickItem({ text });
      await made.settle();
    },
  };
}
const lay = async (made: Editor, x: number, y: number): Promise<void> => {
  point(made.sheet(), 'pointerdown', x, y, { button: 0 });
  await made.settle();
};

describe('drawing', () => {
  test('begins by itself where there is nothing yet, and lays points on the ground under the pointer', async () => {
    const made = await editor([]);
    await lay(made, 400, 300);
    await lay(made, 500, 300);
    const [{ points }] = made.curves();
    expect(points[0]).toEqual([0, 0, 0]);
    expect(points[1][0]).toBeGreaterThan(0.4);
    expect([points[1][1], points[1][2]].map((value) => Math.abs(value))).toEqual([0, 0]);
  });

  test('does not begin where there is a curve already', async () => {
    const made = await editor(bent);
    expect([made.host.querySelector('.sheet'), made.spots().length]).toEqual([null, 3]);
  });

  test('at a typed height: points lie there, with a line down to the floor', async () => {
    const made = await editor([]);
    typeInto(made.host.querySelector<HTMLInputElement>('.height input')!, '500mm');
    await made.settle();
    await lay(made, 400, 300);
    expect(made.curves()[0].points[0][1]).toBe(0.5);
    expect(made.host.querySelectorAll('line.drop')).toHaveLength(1);
    expect(made.host.querySelector('text.drop')!.textContent).toBe('500 mm');
  });

  test('Enter ends a curve, Backspace takes the last point back, Escape ends drawing', async () => {
    const made = await editor([]);
    for (const x of [300, 400, 500]) await lay(made, x, 300);
    press(document.body, 'Backspace');
    await made.settle();
    expect(made.curves().map(({ points }) => points.length)).toEqual([2]);
    press(document.body, 'Enter');
    await lay(made, 350, 400);
    expect(made.curves().map(({ points }) => points.length)).toEqual([2, 1]);
    press(document.body, 'Escape');
    await made.settle();
    expect(made.host.querySelector('.sheet')).toBeNull();
    // From here on keys mean the graph again.
    expect(press(document.body, 'Backspace').defaultPrevented).toBe(false);
  });

  test('keys that are typed into a field are not for the drawing', async () => {
    const made = await editor([]);
    await lay(made, 400, 300);
    press(made.host.querySelector('.height input')!, 'Backspace');
    expect(made.curves()[0].points).toHaveLength(1);
  });
});

describe('points', () => {
  test('are moved by the pointer as one change', async () => {
    const made = await editor(bent);
    const [first] = made.spots();
    point(first, 'pointerdown', 200, 300, { button: 0 });
    for (const x of [210, 230]) {
      point(first, 'pointermove', x, 320);
      await made.settle();
    }
    point(first, 'pointerup', 230, 320);
    expect(made.curves()[0].points[0]).not.toEqual([-1, 0, 0]);
    expect(made.curves()[0].points.slice(1)).toEqual(bent[0].points.slice(1));
    expect(made.documents.undoLabel()).toBe('Move point');
    made.documents.undo();
    expect(made.curves()).toEqual(bent);
  });

  test('are moved by arrow keys and numbers, and deleted', async () => {
    const made = await editor(bent);
    press(made.spots()[1], 'ArrowRight');
    await made.settle();
    expect(made.curves()[0].points[1]).toEqual([0.1, 0.5, 0]);
    press(made.spots()[1], 'ArrowUp', { shiftKey: true });
    await made.settle();
    expect(made.curves()[0].points[1]).toEqual([0.1, 0.6, 0]);
    typeInto(made.host.querySelectorAll<HTMLInputElement>('.coordinates input')[2], '0.3');
    await made.settle();
    expect(made.curves()[0].points[1]).toEqual([0.1, 0.6, 0.3]);
    press(made.spots()[1], 'Delete');
    await made.settle();
    expect(made.curves()[0].points).toEqual([[-1, 0, 0], [1, 0, 0]]); // prettier-ignore
  });

  test('are put in between, and the curve is closed', async () => {
    const made = await editor(bent);
    made.host.querySelector('.middle')!.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    await made.settle();
    expect(made.curves()[0].points).toHaveLength(4);
    expect(made.curves()[0].points[1]).toEqual([-0.5, 0.25, 0]);
    await (await made.loader.getHarness(MatButtonToggleHarness.with({ text: 'Closed' }))).check();
    expect(made.curves()[0].closed).toBe(true);
  });

  test('that a box was drawn round are deleted together', async () => {
    const made = await editor(bent);
    await made.choose('Choose points by a box');
    const sheet = made.sheet();
    point(sheet, 'pointerdown', 0, 0, { button: 0 });
    point(sheet, 'pointermove', 450, 600);
    await made.settle();
    point(sheet, 'pointerup', 450, 600);
    await made.settle();
    expect(made.spots().map((spot) => spot.classList.contains('on'))).toEqual([true, true, false]);
    [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('Delete 2 points'))!.click();
    expect(made.curves()).toEqual([{ points: [[1, 0, 0]] }]);
  });

  test('all go by Clear, which begins drawing anew', async () => {
    const made = await editor(bent);
    await made.choose('Clear the drawing');
    expect([made.curves(), made.documents.undoLabel()]).toEqual([[], 'Clear the drawing']);
    expect(made.host.querySelector('.sheet')).not.toBeNull();
  });

  test('of a Bezier curve become sharp and round again', async () => {
    const made = await editor(bent, 'straight');
    made.documents.apply('Kind', { ...made.documents.document(), nodes: [{ id: 'path', type: 'lay.drawn', settings: { kind: 'bezier', curves: bent.map((curve) => ({ ...curve, handles: curve.points.map((p) => [p, p]) })) } }] }); // prettier-ignore
    await made.settle();
    press(made.spots()[1], 'ArrowRight');
    await made.settle();
    await made.choose('Make the point round');
    const [before, after] = made.curves()[0].handles![1];
    expect([before[0] < 0.1, after[0] > 0.1]).toEqual([true, true]);
    await made.choose('Make the point sharp');
    expect(made.curves()[0].handles![1]).toEqual([[0.1, 0.5, 0], [0.1, 0.5, 0]]); // prettier-ignore
  });
});
