/** The 3D view as a pane: what the scene is told, what the pane tells, and what is said in it. */
import { By } from '@angular/platform-browser';
import { Vector3 } from 'three';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Picture } from '@filaxis/protocol';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { ViewFacts } from '../../src/app/ropewalk/view3d/view-facts';
import { ViewPanel } from '../../src/app/ropewalk/view3d/view-panel';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { plainOptions } from '../../src/app/ropewalk/view3d/stage-options';
import { Tripod } from '../../src/app/ropewalk/view3d/tripod';
import { MAKE_STAGE, View3d } from '../../src/app/ropewalk/view3d/view3d';
import { answer, graph, heard, mounted, point, press, type Mounted } from './mounted';

/** A scene that remembers what it was told. */
class FakeStage {
  readonly told: [name: string, ...given: unknown[]][] = [];
  readonly camera = new ViewCamera();
  readonly sight = new Sight(this.camera);
  readonly orbit = {
    target: new Vector3(),
    kept: { position: [0, 0, 5], target: [0, 0, 0], focal: 45, parallel: false },
    get state() {
      return this.kept;
    },
    set state(state: object) {
      Object.assign(this, { kept: { focal: 45, parallel: false, ...state } });
    },
    ...Object.fromEntries(['turn', 'slide', 'zoom', 'turnAbout', 'zoomLens', 'setParallel'].map((name) => [name, (...given: unknown[]) => void this.told.push([name, ...given])])),
  }; // prettier-ignore
  readonly bounds = { min: [-1, -1, -1], max: [1, 1, 1] };
  readonly middle = new Vector3(0.5, 0, 0);
  readonly extent = 4;
  gridStep = 0.1;
  bytes = 1234;
  note: string | null = null;
  ready = true;
  curve: { curve: number; point: number; place: readonly number[] } | null = null;
  surface: { place: Vector3; corners: readonly number[]; copy: readonly number[] | null } | null = null;
  onFrame: (() => void) | null = null;
  onRest: ((rests: boolean) => void) | null = null;
  onLost: ((lost: boolean) => void) | null = null;

  constructor() {
    for (const name of [
      'show',
      'setOptions',
      'setInks',
      'ink',
      'mark',
      'pick',
      'outline',
      'resize',
      'suitFloor',
      'frameAll',
      'frameBox',
      'flyTo',
      'invalidate',
      'prepare',
      'dispose',
    ])
      Object.assign(this, { [name]: (...given: unknown[]) => void this.told.push([name, ...given]) });
  }
  curvePointAt(): FakeStage['curve'] {
    return this.curve;
  }
  placeAt(): Vector3 | null {
    return this.surface?.place ?? null;
  }
  hitsAt(): object[] {
    return this.surface ? [this.surface] : [];
  }
  aside(): null {
    return null;
  }
  of(name: string): unknown[][] {
    return this.told.filter(([each]) => each === name).map(([, ...given]) => given);
  }
}

const nodes = [{ id: 'line', type: 'lay.line' }, { id: 'drawn', type: 'lay.drawn' }, { id: 'rope', type: 'skin.rope' }]; // prettier-ignore
const picture = (bounds: Picture['bounds'] = { min: [0, 0, 0], max: [1, 1, 1] }): Picture =>
  ({ mesh: null, copies: [], curves: null, counts: { faces: 3 }, bounds, budget: 0, ghost: null, names: [], colour: null }) as unknown as Picture;

interface View extends Mounted<View3d> {
  readonly stage: FakeStage;
  readonly canvas: HTMLCanvasElement;
  readonly show: (shown?: Picture) => void;
  readonly text: () => string;
}
async function view(inputs: Record<string, unknown> = {}, make: (stage: FakeStage) => unknown = (stage) => stage): Promise<View> {
  const stage = new FakeStage();
  const made = await mounted(View3d, { document: graph(nodes), inputs, more: [{ provide: MAKE_STAGE, useValue: () => make(stage) }] });
  await made.settle();
  return {
    ...made,
    stage,
    canvas: made.host.querySelector('canvas')!,
    show: (shown = picture()) => made.evaluation.pictures.next(shown),
    text: () => made.host.textContent!.replace(/\s+/g, ' '),
  };
}
const click = (canvas: HTMLElement, button = 0): void => {
  point(canvas, 'pointerdown', 400, 300, { button });
  point(canvas, 'pointerup', 400, 300, { button });
};
const ownBox = HTMLElement.prototype.getBoundingClientRect;
beforeEach(() => {
  HTMLElement.prototype.getBoundingClientRect = () => ({ left: 0, top: 0, width: 800, height: 600 }) as DOMRect;
});
// The files of a worker share its page.
afterEach(() => {
  HTMLElement.prototype.getBoundingClientRect = ownBox;
});

describe('what is shown', () => {
  test('the first picture is looked at whole, those after it from where one stands', async () => {
    const { stage, show } = await view();
    expect([stage.of('resize'), stage.of('frameAll').length]).toEqual([[[800, 600]], 1]); // prettier-ignore
    show(picture(null));
    expect(stage.of('frameAll')).toHaveLength(1);
    show();
    show();
    expect([stage.of('show').length, stage.of('frameAll').length]).toEqual([3, 2]);
  });

  test('a camera that was kept stays, and only the floor is suited to what is there', async () => {
    const kept = { position: [9, 8, 7], target: [1, 2, 3] };
    const { stage, show, component } = await view();
    component.restoreCamera(kept);
    expect(stage.orbit.state).toMatchObject(kept);
    show();
    expect([stage.of('frameAll').length, stage.of('suitFloor').length]).toEqual([1, 1]);
  });

  test('while somebody draws, the view stays as it is under the hand, and curves are seen', async () => {
    const { stage, show, documents, settle } = await view();
    documents.select('drawn');
    await settle();
    expect(stage.of('setOptions').at(-1)).toEqual([{ ...plainOptions, curves: true }]);
    show();
    expect(stage.of('frameAll')).toHaveLength(1);
  });

  test('marks and places that are pointed out are handed on', async () => {
    const { stage, fixture, settle, host } = await view();
    const picks = new Float32Array(6);
    fixture.componentRef.setInput('marked', [1, 2, 3]);
    fixture.componentRef.setInput('picks', picks);
    await settle();
    expect([stage.of('mark').at(-1), stage.of('pick').at(-1), host.getAttribute('data-picks')]).toEqual([[[1, 2, 3]], [picks], '2']);
    fixture.componentRef.setInput('picks', null);
    await settle();
    expect([stage.of('pick').at(-1), host.getAttribute('data-picks')]).toEqual([[null], null]);
  });

  test('edges are asked for when they are to be seen, once for a picture', async () => {
    const { component, worker, show, settle } = await view();
    const asked = (): unknown[] => worker.heard('ask').filter(({ topic }) => topic === 'edges').map(({ question }) => question); // prettier-ignore
    const waited = async (): Promise<void> => {
      await settle();
      await new Promise((done) => setTimeout(done, 100));
    };
    show();
    await waited();
    expect(asked()).toEqual([]);
    component.set({ edges: 'borders' });
    await waited();
    component.set({ edges: 'none', surface: 'ink' });
    await waited();
    show();
    await waited();
    expect(asked()).toEqual([{ sharp: false }, { sharp: true }, { sharp: true }]);
  });

  test('what is shown as colour is asked for by name: the one wanted, the one shown last, the first that is of somebody’s making', async () => {
    const { component, evaluation, settle } = await view();
    const asked = heard(component.colourAsked);
    const names = evaluation.colourNames as unknown as { set: (names: string[]) => void };
    const shown = async (step: () => void): Promise<unknown> => {
      step();
      await settle();
      const { surface, colour, range } = component.currentOptions();
      return [surface, colour, range, asked.at(-1)];
    };
    names.set(['part', 'material', 't', 'y', 'wear']);
    expect(await shown(() => component.look('colour'))).toEqual(['colour', 'wear', null, 'wear']);
    component.set({ range: [0, 1] });
    expect(await shown(() => component.showColour('y'))).toEqual(['colour', 'y', null, 'y']);
    expect(await shown(() => component.showColour())).toEqual(['colour', 'y', null, 'y']);
    names.set(['t']);
    expect(await shown(() => component.showColour())).toEqual(['colour', 't', null, 't']);
    names.set(['x']);
    expect(await shown(() => component.showColour())).toEqual(['colour', 'y', null, 'y']);
    expect(await shown(() => component.look('parts'))).toEqual(['parts', 'y', null, 'body']);
    expect(await shown(() => component.look('clay'))).toEqual(['clay', 'y', null, null]);
  });
});

describe('where one stands', () => {
  test('everything, or what the chosen node made, is brought into view', async () => {
    const { component, stage, documents, worker, settle, host } = await view();
    const before = stage.of('frameAll').length;
    await component.frameChosen();
    host.querySelector<HTMLElement>('.corner .round')!.click();
    expect(stage.of('frameAll').length).toBe(before + 2);
    documents.select('rope');
    await settle();
    const framed = component.frameChosen();
    answer(worker, 'outline', { bounds: { min: [1, 1, 1], max: [2, 2, 2] } });
    await framed;
    expect([stage.of('frameBox').at(-1), stage.of('frameAll').length]).toEqual([[[1, 1, 1], [2, 2, 2]], before + 2]); // prettier-ignore
  });

  test('an axis is looked along, and back along it when one does already', async () => {
    const { component, stage, fixture } = await view();
    const along = (): number[] => (stage.of('frameBox').at(-1)![2] as Vector3).toArray().map((value) => Math.round(value));
    stage.camera.position.set(0, 0, 5);
    fixture.debugElement.query(By.directive(Tripod)).triggerEventHandler('along', 'x');
    expect([along(), stage.of('frameBox').at(-1)!.slice(0, 2)]).toEqual([[1, 0, 0], [stage.bounds.min, stage.bounds.max]]); // prettier-ignore
    component.lookAlong('y');
    expect(along()).toEqual([0, 1, 0]);
    component.lookAlong('z');
    expect(along().map(Math.abs)).toEqual([0, 0, 1]);
    expect(along()[2]).toBe(-1);
  });

  test('lens and parallel sight are handed on, and the camera is told', async () => {
    const { component, stage, fixture } = await view();
    const told = heard(component.cameraChanged);
    const panel = fixture.debugElement.query(By.directive(ViewPanel));
    panel.triggerEventHandler('lens', 90);
    panel.triggerEventHandler('parallel', true);
    component.toggleParallel();
    panel.triggerEventHandler('shown', { position: [1, 1, 1], target: [0, 0, 0] });
    expect([stage.of('zoomLens'), stage.of('setParallel'), told.length, told.at(-1)!.position]).toEqual([[[90]], [[true], [true]], 4, [1, 1, 1]]); // prettier-ignore
  });

  test('a cut goes through the middle of what is shown across x, and is closed by the same', async () => {
    const { component } = await view();
    component.toggleCut();
    expect(component.currentOptions().cut).toMatchObject({ point: [0.5, 0, 0] });
    component.toggleCut();
    expect(component.currentOptions().cut).toBeNull();
  });

  test('after a frame the pane knows the camera, the step of the grid, and what is left out', async () => {
    const { stage, text, settle, fixture } = await view();
    stage.gridStep = 0.01;
    stage.note = 'Plain light while it moves: the graphics are slow';
    stage.onFrame!();
    await settle();
    const facts = fixture.debugElement.query(By.directive(ViewFacts)).componentInstance as ViewFacts;
    expect([text().includes('grid 10 mm'), facts.note()]).toEqual([true, stage.note]);
  });
});

describe('the pointer', () => {
  test('tells what is under it: the curve to the strip, the surface to who asks', async () => {
    const { component, stage, canvas, fixture } = await view();
    const [hovered, over] = [heard(component.hovered), heard(component.over)];
    stage.curve = { curve: 2, point: 5, place: [1, 1, 1] };
    stage.surface = { place: new Vector3(1, 2, 3), corners: [1, 2, 3, 4, 5, 6, 7, 8, 9], copy: null };
    point(canvas, 'pointermove', 400, 300);
    expect([hovered, over]).toEqual([[stage.curve], []]); // prettier-ignore
    fixture.componentRef.setInput('tellsOver', true);
    await fixture.whenStable();
    point(canvas, 'pointermove', 400, 300);
    stage.surface = { ...stage.surface, copy: [1] };
    point(canvas, 'pointermove', 400, 300);
    stage.ready = false;
    point(canvas, 'pointermove', 400, 300);
    canvas.dispatchEvent(new PointerEvent('pointerleave'));
    expect(over).toEqual([{ corners: [1, 2, 3, 4, 5, 6, 7, 8, 9], place: [1, 2, 3] }, null, null]);
    expect(hovered.at(-1)).toBeNull();
  });

  test('a click chooses a curve and a place: of the surface, or of the curve where there is none', async () => {
    const { component, stage, canvas } = await view();
    const [curves, places] = [heard(component.pickedCurve), heard(component.pickedPlace)];
    click(canvas);
    expect([curves, places]).toEqual([[], []]);
    stage.curve = { curve: 2, point: 5, place: [1, 1, 1] };
    click(canvas);
    expect([curves, places]).toEqual([[2], [[1, 1, 1]]]); // prettier-ignore
    stage.surface = { place: new Vector3(1, 2, 3), corners: [], copy: null };
    click(canvas, 2);
    expect(places.at(-1)).toEqual([1, 2, 3]);
  });

  test('a click chooses the node that made what is there, with the first button alone', async () => {
    const { component, stage, canvas, worker } = await view();
    const picked = heard(component.picked);
    stage.surface = { place: new Vector3(1, 2, 3), corners: [1, 2, 3], copy: null };
    const asked = (): number => worker.heard('ask').filter(({ topic }) => topic === 'maker').length;
    click(canvas, 2);
    expect(asked()).toBe(0);
    click(canvas);
    await vi.waitFor(() => expect(asked()).toBe(1));
    expect(answer(worker, 'maker', { node: 'rope' })).toEqual({ corners: [1, 2, 3], copy: null, point: null });
    await vi.waitFor(() => expect(picked).toEqual([{ maker: { node: 'rope' }, what: 'node', place: [1, 2, 3] }]));
  });

  test('a drag moves the camera and tells where it rests', async () => {
    const { component, stage, canvas } = await view();
    const told = heard(component.cameraChanged);
    point(canvas, 'pointerdown', 400, 300);
    point(canvas, 'pointermove', 430, 300);
    point(canvas, 'pointerup', 430, 300);
    expect([stage.of('turn').length + stage.of('slide').length, told.length]).toEqual([1, 1]);
    press(canvas, 'ArrowLeft');
    expect(stage.of('turn').at(-1)).toEqual([24, 0, 600]);
  });
});

describe('what is said', () => {
  test('why nothing is shown, with a way to the node', async () => {
    const { component, fixture, host, settle, text } = await view({ reason: { text: 'The rope has no curve.', node: 'rope' } });
    const shown = heard(component.showNode);
    expect(text()).toContain('The rope has no curve.');
    host.querySelector<HTMLElement>('.reason button')!.click();
    expect(shown).toEqual(['rope']);
    fixture.componentRef.setInput('reason', { text: 'Nothing yet.', node: null });
    await settle();
    expect(host.querySelector('.reason button')).toBeNull();
  });

  test('what is peeked at, and what the key that is held shows', async () => {
    const { component, fixture, host, settle, text } = await view({ peeked: 'Hang' });
    const ended = heard(component.endPeek);
    host.querySelector<HTMLElement>('button.peek')!.click();
    expect(ended).toHaveLength(1);
    fixture.componentRef.setInput('before', 'Diameter');
    await settle();
    expect([text().includes('Diameter · let go to come back'), text().includes('Peeking')]).toEqual([true, false]);
    fixture.componentRef.setInput('before', null);
    fixture.componentRef.setInput('peeked', null);
    component.lightHand.hold();
    await settle();
    expect(text()).toContain('Drag to turn the light · 0°');
  });

  test('that something is at work, or a file is read, with a way to stop it', async () => {
    const { evaluation, host, settle, text } = await view();
    const [busy, reading] = [evaluation.busy, evaluation.reading] as unknown as { set: (given: unknown) => void }[];
    const [cancel, stop] = [vi.spyOn(evaluation, 'cancel'), vi.spyOn(evaluation, 'stopReading')];
    busy.set({ node: 'Rope' });
    await settle();
    expect(text()).toContain('Rope is at work …');
    host.querySelector<HTMLElement>('.busy button')!.click();
    reading.set({ name: '', fraction: 0.256 });
    await settle();
    expect([text().includes('Reading the file: 26 % …'), text().includes('at work')]).toEqual([true, false]);
    host.querySelector<HTMLElement>('.busy button')!.click();
    expect([cancel.mock.calls.length, stop.mock.calls.length]).toEqual([1, 1]);
  });

  test('that the graphics are away, until they are back, and that there are none', async () => {
    const { stage, settle, text } = await view();
    stage.onLost!(true);
    await settle();
    expect(text()).toContain('The browser took the graphics away for the moment.');
    stage.onLost!(false);
    await settle();
    expect(text()).not.toContain('took the graphics away');
    const none = await view({ reason: { text: 'Nothing yet.', node: null } }, () => {
      throw new Error('no context');
    });
    expect([none.text().includes('The 3D view needs WebGL 2, which this browser does not give (no context).'), none.text().includes('Nothing yet.')]).toEqual([
      true,
      false,
    ]);
    // It can be asked all the same.
    for (const step of [
      () => none.component.frameAll(),
      () => none.component.lookAlong('x'),
      () => none.component.toggleCut(),
      () => none.component.takePictures(),
      () => none.component.flyTo([0, 0, 0]),
    ])
      step();
    expect([await none.component.snapshot(), none.component.currentOptions().cut]).toEqual([null, null]);
  });

  test('whether it rests, to who waits for the picture', async () => {
    const { stage, host } = await view();
    stage.onRest!(true);
    expect(host.hasAttribute('data-rests')).toBe(true);
    stage.onRest!(false);
    expect(host.hasAttribute('data-rests')).toBe(false);
  });
});

test('measures are taken by clicks while that is asked, which choose nothing', async () => {
  const { component, stage, canvas, host, settle } = await view();
  const places = heard(component.pickedPlace);
  stage.surface = { place: new Vector3(1, 2, 3), corners: [], copy: null };
  component.toggleMeasuring();
  await settle();
  expect(host.classList.contains('measuring')).toBe(true);
  click(canvas);
  expect(places).toEqual([]);
  component.toggleMeasuring();
  await settle();
  expect(host.classList.contains('measuring')).toBe(false);
});

test('the scene ends with the pane', async () => {
  const { stage, fixture } = await view();
  fixture.destroy();
  expect(stage.of('dispose')).toHaveLength(1);
});
