import type { Dial } from '@filaxis/core';
import { describe, expect, test } from 'vitest';
import { Vector3 } from 'three';
import { axisOf, cutAcross, cutKnobs } from '../../src/app/ropewalk/view3d/cut';
import { NodeHandles } from '../../src/app/ropewalk/view3d/node-handles';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { graph, mounted, point, press, type Mounted } from './mounted';

/** An eye 5 m before the origin and 3 m above it, in a pane of 800 × 600; a corner of a face lies at 1.5, 0, 0. */
function stage() {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600 });
  camera.position.set(0, 3, 5);
  camera.lookAt(0, 0, 0);
  camera.reach(6);
  camera.updateMatrixWorld();
  const sight = new Sight(camera);
  const face = { place: new Vector3(1.4, 0, 0), distance: 5, corners: [1.5, 0, 0, 9, 9, 9, 9, 9, 9], copy: null };
  return { sight, extent: 2, middle: new Vector3(), gridStep: 1, hitsAt: () => [face], curvePointAt: () => null };
}

interface Editor extends Mounted<NodeHandles> {
  knob(id: string): Element;
  setting(name: string): unknown;
  /** Drags a knob to where a place is seen. */
  drag(id: string, to: readonly [number, number, number], ctrlKey?: boolean): Promise<void>;
}

async function editor(type: string, settings: Readonly<Record<string, unknown>>, dials: readonly Dial[] = []): Promise<Editor> {
  const made = await mounted(NodeHandles, { document: graph([{ id: 'a', type, settings }], [], { dials }), inputs: { stage: stage(), drawnFrames: 0 } });
  const { host } = made;
  host.querySelector('fx-handles')!.getBoundingClientRect = () => ({
    left: 0,
    top: 0,
    right: 800,
    bottom: 600,
    width: 800,
    height: 600,
    x: 0,
    y: 0,
    toJSON: () => null,
  });
  made.documents.select('a');
  await made.settle();
  const knob = (id: string): Element => made.host.querySelector(`[data-knob="${id}"]`)!;
  const setting = (name: string): unknown => made.documents.document().nodes[0].settings?.[name];
  const drag = async (id: string, to: readonly [number, number, number], ctrlKey = false): Promise<void> => {
    const { x, y } = stage().sight.projected(to)!;
    const at = [(x + 1) * 400, (1 - y) * 300] as const;
    point(knob(id), 'pointerdown', ...at, { ctrlKey });
    point(knob(id), 'pointermove', ...at, { ctrlKey });
    await made.settle();
    point(knob(id), 'pointerup', ...at, { ctrlKey });
    await made.settle();
  };
  return { ...made, knob, setting, drag };
}

describe('handles', () => {
  test('are those of the chosen node: a circle has its centre, radius, axis and start', async () => {
    const made = await editor('lay.circle', {});
    expect([...made.host.querySelectorAll('[data-knob]')].map((each) => each.getAttribute('aria-label'))).toEqual(
      expect.arrayContaining(['Centre', 'Centre x', 'Radius', 'Axis', 'Start']),
    );
  });

  test('are none of a node that has no places', async () => {
    expect((await editor('skin.tube', {})).host.querySelectorAll('[data-knob]').length).toBe(0);
  });

  test('what follows a dial takes the dial along, within its range, in one change', async () => {
    const dial: Dial = { id: 'wide', label: 'Wide', kind: 'number', value: 1, min: 0, max: 1.5 };
    const made = await editor('lay.circle', { radius: { dial: 'wide' } }, [dial]);
    await made.drag('radius', [1.25, 0, 0]);
    const value = (): unknown => made.documents.document().dials![0].value;
    expect(value()).toBeCloseTo(1.25, 3);
    expect(made.setting('radius')).toEqual({ dial: 'wide' });
    await made.drag('radius', [1.9, 0, 0]);
    expect(value()).toBe(1.5);
    made.documents.undo();
    made.documents.undo();
    expect(value()).toBe(1);
  });

  test('of a vector each part takes its own: the dial where it follows one, else the number', async () => {
    const made = await editor('lay.line', { from: [0, 0, 0], to: [1, { dial: 'high' }, 0] }, [{ id: 'high', label: 'High', kind: 'number', value: 0.5 }]);
    point(made.knob('to'), 'pointerdown', 0, 0);
    point(made.knob('to'), 'pointerup', 0, 0);
    press(made.knob('to.y'), 'ArrowUp');
    await made.settle();
    expect(made.documents.document().dials![0].value).toBeGreaterThan(0.5);
    expect(made.setting('to')).toEqual([1, { dial: 'high' }, 0]);
    press(made.knob('to.x'), 'ArrowUp');
    await made.settle();
    expect((made.setting('to') as unknown[])[0]).toBeGreaterThan(1);
    expect((made.setting('to') as unknown[])[1]).toEqual({ dial: 'high' });
  });

  test('a drag along a line is one change, and one undo', async () => {
    const made = await editor('lay.circle', { radius: 1 });
    await made.drag('radius', [1.75, 0, 0]);
    expect(made.setting('radius')).toBeCloseTo(1.75, 3);
    expect(made.documents.undoLabel()).toBe('Drag radius');
    made.documents.undo();
    expect(made.setting('radius')).toBe(1);
  });

  test('a place goes with the pointer on the level where one looks down on it', async () => {
    const made = await editor('lay.circle', {});
    await made.drag('centre', [0.5, 0, -0.5]);
    expect((made.setting('centre') as number[]).map((value) => Number(value.toFixed(3)))).toEqual([0.5, 0, -0.5]);
  });

  test('with Ctrl it is put on what lies nearest', async () => {
    const made = await editor('lay.circle', {});
    await made.drag('centre', [1.49, 0, 0.01], true);
    expect(made.setting('centre')).toEqual([1.5, 0, 0]);
    await made.drag('centre', [0.02, 0, -0.99], true);
    expect(made.setting('centre')).toEqual([0, 0, -1]);
  });

  test('digits set the number, Escape takes them back, arrows go by steps', async () => {
    const made = await editor('lay.circle', { radius: 1 });
    const type = async (...keys: string[]): Promise<void> => {
      for (const key of keys) press(made.knob('radius'), key);
      await made.settle();
    };
    made.knob('radius').dispatchEvent(new FocusEvent('focus'));
    await type('1', '.', '5');
    expect(made.host.textContent).toContain('Radius 1.5▏m');
    expect(made.setting('radius')).toBe(1);
    await type('Enter');
    expect(made.setting('radius')).toBe(1.5);
    await type('9', 'Escape');
    expect(made.setting('radius')).toBe(1.5);
    await type('ArrowUp');
    expect(made.setting('radius')).toBe(1.505);
  });

  test('angles go round their ring', async () => {
    const made = await editor('shape.transform', {});
    // A quarter turn the other way from where the knob is.
    await made.drag('turn.y', [0.5, 0, 0.5]);
    expect((made.setting('turn') as number[]).map((value) => Number(value.toFixed(2)))).toEqual([0, -90, 0]);
  });
});

describe('handles of the cut', () => {
  test('a knob moves it along its normal, another turns it, digits say how far from the origin it lies', () => {
    const [move, turn] = cutKnobs({ point: [1, 2, 3], normal: [2, 0, 0] }, 0.5);
    expect(move.values).toEqual([1]);
    expect(move.to([4, 9, 9])).toEqual({ point: [4, 2, 3], normal: [2, 0, 0] });
    expect(move.typed!(-1)).toEqual({ point: [-1, 2, 3], normal: [2, 0, 0] });
    expect(turn.at).toEqual([1.8, 2, 3]);
    expect([axisOf(cutAcross([0, 0, 0], 'y')), axisOf({ point: [0, 0, 0], normal: [1, 1, 0] }), axisOf(null)]).toEqual(['y', 'own', 'own']);
    expect(turn.to([1, 7, 3])).toEqual({ point: [1, 2, 3], normal: [0, 1, 0] });
  });
});
