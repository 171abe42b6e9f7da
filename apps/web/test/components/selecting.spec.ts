import { Component, inject } from '@angular/core';
import { Vector3 } from 'three';
import { beforeEach, describe, expect, test } from 'vitest';
import type { Maker } from '@filaxis/protocol';
import { Selecting } from '../../src/app/ropewalk/view3d/selecting';
import type { Stage } from '../../src/app/ropewalk/view3d/stage';
import type { FakeWorker } from '../services';
import { answer, graph, mounted, type Mounted } from './mounted';

@Component({ template: '', providers: [Selecting] })
class Holder {
  readonly selecting = inject(Selecting);
}

/** A view with two surfaces behind each other, and notes of what is outlined. */
function stage(outlined: [string, unknown][]): Stage {
  const hit = (z: number) => ({ place: new Vector3(0, 0, z), distance: 5 - z, corners: [z, 0, 0, 1, 0, z, 0, 1, z], copy: null });
  return { hitsAt: () => [hit(1), hit(0)], curvePointAt: () => ({ curve: 0, index: 0, place: [9, 9, 9] }), outline: (...told: [string, unknown]) => outlined.push(told), prepare: () => undefined } as unknown as Stage; // prettier-ignore
}

const maker = (node: string): Maker => ({ node, through: ['out'], kind: 'mesh', per: 'face', element: 3, part: 0 });
const centre = { x: 0, y: 0 };
const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

describe('choosing in the 3D view', () => {
  let made: Mounted<Holder>;
  let selecting: Selecting;
  let outlined: [string, unknown][];

  beforeEach(async () => {
    made = await mounted(Holder, { document: graph([{ id: 'front', type: 'skin.tube' }, { id: 'back', type: 'skin.tube' }]) }); // prettier-ignore
    ({ selecting } = made.component);
    outlined = [];
    selecting.attach(stage(outlined));
  });

  const click = async (node: string, pixels = { x: 400, y: 300 }) => {
    const picked = selecting.click(centre, pixels);
    answer(made.worker, 'maker', maker(node));
    return picked;
  };

  test('first the node, then its element, then what lies behind, then its element', async () => {
    expect([await click('front'), await click('front')].map((picked) => [picked!.maker.node, picked!.what])).toEqual([['front', 'node'], ['front', 'element']]); // prettier-ignore
    expect(await click('back')).toMatchObject({ maker: { node: 'back' }, what: 'node', place: [0, 0, 0] });
    expect(await click('back')).toMatchObject({ maker: { node: 'back' }, what: 'element' });
  });

  test('what was chosen already is passed over on the way deeper', async () => {
    await click('front');
    await click('front');
    const deeper = selecting.click(centre, { x: 400, y: 300 });
    // The second surface is of the same node, and there is no third.
    answer(made.worker, 'maker', maker('front'));
    expect(await deeper).toBeNull();
    expect(await click('front')).toMatchObject({ what: 'node' });
  });

  test('another place begins anew, and so does a document that means something else; another picture alone does not', async () => {
    await click('front');
    expect((await click('front', { x: 440, y: 300 }))!.what).toBe('node');
    made.evaluation.pictures.next({} as never);
    expect((await click('front', { x: 440, y: 300 }))!.what).toBe('element');
    made.documents.apply('Rename', { ...made.documents.document(), dials: [] });
    expect((await click('front', { x: 440, y: 300 }))!.what).toBe('node');
  });

  test('a curve is chosen before surfaces where curves are seen', async () => {
    selecting.curvesSeen = () => true;
    const picked = selecting.click(centre, { x: 1, y: 1 });
    expect(answer(made.worker, 'maker', { ...maker('line'), kind: 'curves', per: 'curve' })).toMatchObject({ point: [9, 9, 9], corners: null });
    expect((await picked)!.place).toEqual([9, 9, 9]);
  });

  test('what is chosen, and what the pointer rests on, is outlined; a new picture has no outlines yet', async () => {
    const answered = (worker: FakeWorker, topic: string, given: unknown): unknown => answer(worker, topic, given);
    const outline = {
      positions: new Float32Array(0),
      indices: new Uint32Array(0),
      matrices: null,
      lines: new Float32Array(0),
      bounds: { min: [0, 0, 0], max: [1, 1, 1] },
    };
    made.documents.select('front');
    await made.settle();
    expect(answered(made.worker, 'outline', outline)).toEqual({ node: 'front' });
    await wait(5);
    expect(outlined.at(-1)).toEqual(['chosen', outline]);
    expect(await selecting.boxOf('front')).toEqual(outline.bounds);
    selecting.hover(centre);
    await wait(90);
    answered(made.worker, 'maker', maker('back'));
    await wait(5);
    answered(made.worker, 'outline', outline);
    await wait(5);
    expect(outlined.at(-1)).toEqual(['hovered', outline]);
    selecting.hover(null);
    await wait(90);
    expect(outlined.at(-1)).toEqual(['hovered', null]);
    made.evaluation.pictures.next({} as never);
    expect(outlined.slice(-2)).toEqual([['chosen', null], ['hovered', null]]); // prettier-ignore
  });

  test('in a Handout a click chooses nothing', async () => {
    selecting.active = () => false;
    expect(await selecting.click(centre, { x: 0, y: 0 })).toBeNull();
    expect(made.worker.heard('ask')).toEqual([]);
  });
});
