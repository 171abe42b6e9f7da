import { MatSelectHarness } from '@angular/material/select/testing';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { UvSheet } from '@filaxis/core';
import { MAKE_SHEET_STAGE, UvSheetPanel } from '../../src/app/ropewalk/uv/uv-sheet';
import { answer, graph, heard, mounted, point, press, refuse, type Mounted } from './mounted';

/** Two triangles of a square metre, one over the other. */
const sheet: UvSheet = {
  corners: Float32Array.of(0, 0, 0.5, 0, 0.5, 0.5, 0, 0, 0.5, 0, 0.5, 0.5),
  places: Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1),
  island: Uint32Array.of(0, 1),
  islands: 2,
  density: Float32Array.of(0.5, 0.5),
  stretch: Float32Array.of(1, 1),
  overlapping: Uint8Array.of(1, 1),
  edges: new Float32Array(0),
};

async function panel(): Promise<Mounted<UvSheetPanel> & { facts: () => string }> {
  const made = await mounted(UvSheetPanel, { document: graph([{ id: 'hose', type: 'skin.tube' }]) });
  await new Promise((done) => setTimeout(done, 200));
  return { ...made, facts: () => made.host.querySelector('[data-testid=uv-facts]')?.textContent ?? '' };
}

describe('the UV sheet', () => {
  test('is of what is chosen, and tells islands, texels to the metre and what overlaps', async () => {
    const made = await panel();
    made.documents.select('hose');
    await made.settle();
    await new Promise((done) => setTimeout(done, 200));
    expect(answer(made.worker, 'uvSheet', sheet)).toEqual({ node: 'hose' });
    await made.settle();
    expect(made.facts()).toContain('2 islands');
    // Half a unit of UV a metre, of 1,024 texels.
    expect(made.facts()).toContain('512 px/m');
    expect(made.facts()).toContain('100 % lies over something else');
  });

  test('texels to the metre go with the size of the texture', async () => {
    const made = await panel();
    answer(made.worker, 'uvSheet', { ...sheet, overlapping: Uint8Array.of(0, 0), islands: 1 });
    await made.settle();
    const size = await made.loader.getHarness(MatSelectHarness.with({ selector: '[aria-label="Size of the texture"]' }));
    await size.open();
    await size.clickOptions({ text: /4.096 px/ });
    expect(made.facts()).toContain('2050 px/m');
    expect(made.facts()).toMatch(/1 island(?!s)/);
    expect(made.facts()).toContain('nothing overlaps');
  });

  test('asks anew for each picture, and says why there is none', async () => {
    const made = await panel();
    answer(made.worker, 'uvSheet', null);
    await made.settle();
    const saves = [...made.host.querySelectorAll('button')].filter(({ textContent }) => textContent!.includes('Save'));
    expect(saves.map(({ disabled }) => disabled)).toEqual([true, true]);
    const before = made.worker.heard('ask').length;
    made.evaluation.pictures.next({} as never);
    await new Promise((done) => setTimeout(done, 200));
    expect(made.worker.heard('ask').length).toBe(before + 1);
    refuse(made.worker, 'uvSheet', 'Nothing has been computed yet.');
    await made.settle();
    expect(made.facts()).toBe('');
  });

  test('without graphics it says so', async () => {
    expect((await panel()).host.textContent).toContain('The UV sheet needs WebGL 2');
  });
});

/** A drawing that remembers what it was told, and has a hundred pixels for a unit of UV. */
class FakeSheetStage {
  readonly told: [name: string, ...given: unknown[]][] = [];
  constructor() {
    for (const name of ['show', 'fit', 'slide', 'zoom', 'resize', 'dispose'])
      Object.assign(this, { [name]: (...given: unknown[]) => void this.told.push([name, ...given]) });
  }
  at(x: number, y: number): readonly [number, number] {
    return [x / 100, y / 100];
  }
  pixelOf(u: number, v: number): readonly [number, number] {
    return [u * 100, v * 100];
  }
  async image(texels: number): Promise<Blob> {
    return new Blob([`${texels}`]);
  }
  of(name: string): unknown[][] {
    return this.told.filter(([each]) => each === name).map(([, ...given]) => given);
  }
}

describe('hands on the UV sheet', () => {
  async function drawn(
    given: UvSheet = { ...sheet, overlapping: Uint8Array.of(0, 1) },
  ): Promise<Mounted<UvSheetPanel> & { stage: FakeSheetStage; pane: HTMLElement }> {
    const stage = new FakeSheetStage();
    const made = await mounted(UvSheetPanel, {
      document: graph([{ id: 'hose', type: 'skin.tube' }], [], { title: 'Deck hose' }),
      more: [{ provide: MAKE_SHEET_STAGE, useValue: () => stage }],
    });
    await new Promise((done) => setTimeout(done, 200));
    answer(made.worker, 'uvSheet', given);
    await made.settle();
    return { ...made, stage, pane: made.host.querySelector<HTMLElement>('canvas')!.parentElement! };
  }
  const ownBox = HTMLElement.prototype.getBoundingClientRect;
  beforeEach(() => {
    HTMLElement.prototype.getBoundingClientRect = () => ({ left: 10, top: 20, width: 800, height: 600 }) as DOMRect;
  });
  // The files of a worker share its page.
  afterEach(() => {
    HTMLElement.prototype.getBoundingClientRect = ownBox;
  });

  test('it is drawn in the size of the pane, looked at whole once for a node, and anew in other colours', async () => {
    const { stage, worker, evaluation, settle, loader, fixture, documents } = await drawn();
    expect([stage.of('resize'), stage.of('fit').length]).toEqual([[[800, 600]], 1]);
    evaluation.pictures.next({} as never);
    await new Promise((done) => setTimeout(done, 200));
    answer(worker, 'uvSheet', { ...sheet });
    await settle();
    expect(stage.of('fit')).toHaveLength(1);
    const colours = await loader.getHarness(MatSelectHarness.with({ selector: ':not([aria-label="Size of the texture"])' }));
    await colours.open();
    await colours.clickOptions({ text: 'Stretch' });
    await settle();
    expect(stage.of('show').at(-1)!.slice(1, 3)).toEqual(['stretch', 1024]);
    documents.select('hose');
    await settle();
    await new Promise((done) => setTimeout(done, 200));
    answer(worker, 'uvSheet', { ...sheet });
    await settle();
    expect(stage.of('fit')).toHaveLength(2);
    fixture.destroy();
    expect(stage.of('dispose')).toHaveLength(1);
  });

  test('the triangle under the pointer is told: in space, its texels, its stretch, and that it overlaps', async () => {
    const { component, pane, host, settle } = await drawn({
      ...sheet,
      corners: Float32Array.of(0, 0, 1, 0, 1, 1, 2, 0, 3, 0, 3, 1),
      overlapping: Uint8Array.of(0, 1),
      stretch: Float32Array.of(1, 2.5),
      density: Float32Array.of(0.5, 0.25),
    });
    const hovered = heard(component.hovered);
    point(pane, 'pointermove', 10 + 75, 20 + 25);
    await settle();
    expect(hovered).toEqual([[0.75, 0.25, 0].map((value) => expect.closeTo(value, 6))]);
    expect(host.textContent).toContain('512 px/m · stretched 1 : 1');
    expect(host.textContent).not.toContain('1 : 1 · overlaps');
    point(pane, 'pointermove', 10 + 290, 20 + 10);
    await settle();
    expect(host.textContent).toContain('256 px/m · stretched 2.5 : 1 · overlaps');
    point(pane, 'pointermove', 10 + 500, 20 + 10);
    pane.dispatchEvent(new PointerEvent('pointerleave'));
    await settle();
    expect([hovered.slice(2), host.textContent!.includes('stretched')]).toEqual([[null, null], false]);
  });

  test('it is slid by a drag and by arrows, and looked at nearer by the wheel and by keys', async () => {
    const { component, pane, stage } = await drawn();
    const hovered = heard(component.hovered);
    point(pane, 'pointerdown', 100, 100);
    point(pane, 'pointermove', 130, 90);
    point(pane, 'pointermove', 140, 90);
    point(pane, 'pointerup', 140, 90);
    expect([stage.of('slide'), hovered]).toEqual([[[30, -10], [10, 0]], []]); // prettier-ignore
    point(pane, 'pointermove', 500, 90);
    expect(hovered).toEqual([null]);
    for (const key of ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown']) expect(press(pane, key).defaultPrevented).toBe(true);
    expect(stage.of('slide').slice(2)).toEqual([[24, 0], [-24, 0], [0, 24], [0, -24]]); // prettier-ignore
    press(pane, '+');
    press(pane, '-');
    expect(press(pane, 'x').defaultPrevented).toBe(false);
    for (const deltaMode of [0, 1]) pane.dispatchEvent(new WheelEvent('wheel', { deltaY: -100, deltaMode, clientX: 60, clientY: 50, cancelable: true }));
    expect(stage.of('zoom')).toEqual([[1.2, 400, 300], [1 / 1.2, 400, 300], [Math.exp(0.12), 50, 30], [Math.exp(5), 50, 30]]); // prettier-ignore
  });

  test('the place that the 3D view is pointed at is marked on it', async () => {
    const { component, fixture, settle } = await drawn();
    const mark = (component as unknown as { mark: () => readonly number[] | null }).mark;
    fixture.componentRef.setInput('over', { corners: [0, 0, 0, 1, 0, 0, 1, 1, 0], place: [1, 0, 0] });
    await settle();
    expect(mark()).toEqual([expect.closeTo(50, 4), expect.closeTo(0, 4)]);
    fixture.componentRef.setInput('over', null);
    await settle();
    expect(mark()).toBeNull();
  });

  test('it is saved as lines and as an image of the texture’s size, named after the document', async () => {
    const { host } = await drawn();
    const saved: [string, Blob][] = [];
    let newest: Blob;
    URL.createObjectURL = (blob: Blob) => ((newest = blob), 'blob:x');
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      saved.push([this.download, newest]);
    });
    for (const button of host.querySelectorAll('button')) if (button.textContent!.includes('Save')) button.click();
    await vi.waitFor(() => expect(saved).toHaveLength(2));
    const byName = new Map(saved);
    expect([...byName.keys()].sort()).toEqual(['deck-hose-uv.png', 'deck-hose-uv.svg']);
    expect([await byName.get('deck-hose-uv.png')!.text(), (await byName.get('deck-hose-uv.svg')!.text()).includes('<svg')]).toEqual(['1024', true]);
  });
});
