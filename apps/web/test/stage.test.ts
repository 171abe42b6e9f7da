/** The 3D view's scene: what is drawn when, where the camera stands, and that pictures taken aside leave nothing behind. */
import type * as Three from 'three';
import type { Mesh } from 'three';
import { Box3, Vector3, type DirectionalLight, type HemisphereLight, type Scene } from 'three';
import { GTAOPass } from 'three/examples/jsm/postprocessing/GTAOPass.js';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { MeshPicture, Picture } from '@filaxis/protocol';
import { contactLayer } from '../src/app/ropewalk/view3d/contact';
import type { Light } from '../src/app/ropewalk/view3d/light';
import { stillAfter } from '../src/app/ropewalk/view3d/pace';
import { Stage, type DrawPicture } from '../src/app/ropewalk/view3d/stage';
import type { StageInks } from '../src/app/ropewalk/view3d/stage-objects';
import { plainOptions, type StageOptions } from '../src/app/ropewalk/view3d/stage-options';
import { FakeCanvas, FakeRenderer, stubPage, surroundingsMade } from './graphics';

vi.mock('three', async (original) => {
  const three = await original<typeof Three>();
  return { ...three, ...(await import('./graphics')).fakeGraphics(three) };
});

const inks = new Proxy({}, { get: () => '#123456' }) as StageInks;
/** A square in the plane z = 0, from −1 to 1, that looks to +z. */
const square = (metalness = 0): MeshPicture => ({
  positions: Float32Array.of(-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0),
  normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
  uv: null,
  indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  groups: [{ start: 0, count: 6, material: { name: 'a', colour: '#808080', roughness: 1, metalness, opacity: 1, checker: false } as never, backs: false }],
  edges: null,
  values: null,
});
const picture = (more: Partial<Picture> = {}): Picture => ({
  mesh: square(), copies: [], curves: null, counts: {} as never, bounds: { min: [-1, -1, 0], max: [1, 1, 0] }, budget: 0, ghost: null, names: [], colour: null, ...more,
}); // prettier-ignore
const line = { lines: Float32Array.of(-1, 0, 0.5, 1, 0, 0.5), curveOf: Uint32Array.of(0), points: Float32Array.of(-1, 0, 0.5, 1, 0, 0.5), tangents: new Float32Array(6), normals: new Float32Array(), pointCurve: Uint32Array.of(0, 0), lineValues: null }; // prettier-ignore

let page: ReturnType<typeof stubPage>;
let contact: { size: readonly number[]; mask: number }[] = [];
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
  page = stubPage();
  contact = [];
  vi.spyOn(GTAOPass.prototype, 'render').mockImplementation(function (this: GTAOPass) {
    const { width, height } = this as unknown as { width: number; height: number };
    contact.push({ size: [width, height], mask: this.camera.layers.mask });
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

function made(options: Partial<StageOptions> = {}): { stage: Stage; canvas: FakeCanvas; renderer: FakeRenderer; rests: boolean[] } {
  const canvas = new FakeCanvas();
  const stage = new Stage(canvas as never, { ...plainOptions, ...options }, inks);
  const rests: boolean[] = [];
  stage.onRest = (rest) => void rests.push(rest);
  stage.resize(800, 600);
  return { stage, canvas, renderer: FakeRenderer.newest, rests };
}
/** Draws, and the still picture after it. */
const settled = (): void => {
  page.frame();
  vi.advanceTimersByTime(stillAfter + 1);
};
const kinds = (renderer: FakeRenderer): string[] => renderer.frames.at(-1)!.seen.map(({ name, type }) => name || type);
/** How far a box reaches in the picture, −1 to 1. */
function inPicture(stage: Stage, min: readonly number[], max: readonly number[]): { x: number; y: number } {
  stage.camera.updateMatrixWorld();
  const corners = Array.from({ length: 8 }, (_, i) => new Vector3(...[0, 1, 2].map((k) => (i & (1 << k) ? max[k] : min[k]))).project(stage.camera));
  return { x: Math.max(...corners.map(({ x }) => Math.abs(x))), y: Math.max(...corners.map(({ y }) => Math.abs(y))) };
}

describe('frames', () => {
  test('one is drawn for any number of changes, none while nothing changes; then it rests', () => {
    const { stage, renderer, rests } = made();
    stage.show(picture());
    stage.setOptions({ ...plainOptions, wire: true });
    expect(renderer.frames).toEqual([]);
    page.frame();
    expect([renderer.frames.length, rests]).toEqual([1, [false, true]]);
    expect(kinds(renderer)).toEqual(expect.arrayContaining(['mesh', 'edges', 'writing']));
    settled();
    expect(renderer.frames).toHaveLength(1);
    // The same again is nothing new.
    stage.ink(null);
    stage.mark(null);
    stage.pick(null);
    stage.outline('chosen', null);
    page.frame();
    expect(renderer.frames).toHaveLength(1);
    for (const change of [
      () => stage.mark([0, 0, 0]),
      () => stage.pick(Float32Array.of(0, 0, 0)),
      () => stage.ink(new Float32Array(6)),
      () => stage.setInks(inks),
    ]) {
      const before = renderer.frames.length;
      change();
      page.frame();
      expect(renderer.frames.length).toBe(before + 1);
    }
  });

  test('are as fine as the screen, up to two pixels a point, and know their proportions', () => {
    page = stubPage({ ratio: 3 });
    const { stage, renderer } = made();
    expect([renderer.size, stage.camera.aspect]).toEqual([[800, 600, 2], 800 / 600]); // prettier-ignore
    stage.resize(300, 0);
    expect([renderer.size, stage.camera.aspect]).toEqual([[300, 0, 2], 300]); // prettier-ignore
    expect([renderer.given.antialias, renderer.shadowMap.enabled, renderer.localClippingEnabled]).toEqual([true, true, true]);
  });

  test('have twice the pixels each way once the view rests where edges are not smoothed otherwise', () => {
    page = stubPage({ smooth: false });
    const { stage, renderer, rests } = made();
    stage.show(picture());
    page.frame();
    vi.advanceTimersByTime(stillAfter - 1);
    expect([renderer.frames.map(({ size }) => size[2]), rests]).toEqual([[1], [false]]);
    vi.advanceTimersByTime(1);
    expect([renderer.frames.map(({ size }) => size[2]), rests]).toEqual([
      [1, 2],
      [false, true],
    ]);
    stage.invalidate();
    page.frame();
    expect(renderer.frames.map(({ size }) => size[2])).toEqual([1, 2, 1]);
  });

  test('what is not shown any more goes after the next frame', () => {
    const { stage, renderer } = made();
    stage.show(picture());
    page.frame();
    const [{ material }] = renderer.frames[0].seen.filter((each): each is Mesh => each.name === 'mesh');
    const gone = vi.fn();
    for (const each of [material].flat()) each.addEventListener('dispose', gone);
    stage.show(picture({ mesh: square() }));
    expect(gone).not.toHaveBeenCalled();
    page.frame();
    expect(gone).toHaveBeenCalledTimes(1);
  });

  test('are not drawn while the graphics are away, and again once they are back', () => {
    const { stage, canvas, renderer } = made();
    const lost: boolean[] = [];
    stage.onLost = (away) => void lost.push(away);
    stage.show(picture());
    const event = new Event('webglcontextlost', { cancelable: true });
    canvas.dispatchEvent(event);
    page.frame();
    // The browser is asked for them.
    expect([event.defaultPrevented, lost, renderer.frames.length]).toEqual([true, [true], 0]);
    expect(stage.aside({}, () => 1)).toBeNull();
    canvas.dispatchEvent(new Event('webglcontextrestored'));
    page.frame();
    expect([lost, renderer.frames.length]).toEqual([[true, false], 1]);
  });

  test('after the end there are none, and nothing is kept', () => {
    const { stage, renderer } = made();
    stage.show(picture());
    stage.dispose();
    page.frame();
    expect([renderer.frames.length, renderer.disposed]).toEqual([0, true]);
  });
});

describe('the camera', () => {
  test('shows everything whole, a sixth of the view around it and room for the bars, whatever its proportions', () => {
    const { stage } = made();
    expect([stage.bounds, stage.middle.toArray()]).toEqual([{ min: [-2, -1, -2], max: [2, 2, 2] }, [0, 0, 0]]); // prettier-ignore
    for (const [min, max] of [[[-1, -1, 0], [1, 1, 0]], [[0, 0, 0], [40, 1, 1]], [[3, 0, 3], [3.1, 9, 3.1]]]) {
      stage.show(picture({ bounds: { min, max } }));
      stage.frameAll(new Vector3(0.42, 0.36, 1));
      const { x, y } = inPicture(stage, min, max);
      // 60 px above and below are left to the bars.
      expect(Math.max(x / 0.84, y / Math.min(0.84, 1 - 120 / 600))).toBeCloseTo(1, 6);
      expect([stage.orbit.target.toArray(), stage.bounds, stage.middle.toArray()]).toEqual([min.map((value, k) => expect.closeTo((value + max[k]) / 2, 9)), { min, max }, min.map((value, k) => expect.closeTo((value + max[k]) / 2, 9))]);
    } // prettier-ignore
  });

  test('the floor has the scale of what is shown once that is asked for, and keeps it', () => {
    const { stage } = made();
    stage.show(picture({ bounds: { min: [-40, 0, 0], max: [40, 0, 0] } }));
    expect([stage.extent, stage.gridStep]).toEqual([80, 1]);
    stage.suitFloor();
    expect(stage.gridStep).toBe(10);
    stage.show(picture());
    expect([stage.extent, stage.gridStep]).toEqual([Math.hypot(2, 2), 10]);
  });

  test('flies to a place, to see a fifth of the scene, never farther away than it was', () => {
    const { stage } = made();
    stage.show(picture({ bounds: { min: [-3, -4, 0], max: [3, 4, 0] } }));
    stage.frameAll(new Vector3(0, 0, 1));
    stage.flyTo([1, 2, 0]);
    const away = (10 * 0.2) / Math.tan((stage.camera.fov * Math.PI) / 360);
    expect([stage.orbit.target.toArray(), stage.camera.position.toArray()]).toEqual([[1, 2, 0], [1, 2, expect.closeTo(away, 9)]]); // prettier-ignore
    stage.orbit.state = { ...stage.orbit.state, position: [1, 2, 0.5] };
    stage.flyTo([0, 0, 0]);
    expect(stage.camera.position.toArray()).toEqual([0, 0, expect.closeTo(0.5, 9)]);
  });

  test('depths are told from the nearest to the farthest of what is shown', () => {
    const { stage } = made();
    stage.show(picture({ bounds: { min: [-3, -4, 0], max: [3, 4, 0] } }));
    const depths = (stage as unknown as { content: { depths: { value: number[] } } }).content.depths;
    for (const [away, expected] of [[20, [15, 25]], [2, [0, 7]]] as const) {
      stage.orbit.state = { position: [0, 0, away], target: [0, 0, 0] };
      page.frame();
      expect(depths.value).toEqual(expected);
    } // prettier-ignore
  });
});

describe('under the pointer', () => {
  test('is the surface, where it is not cut away, and the nearest point of the curves', () => {
    const { stage } = made();
    expect([stage.hitsAt(0, 0), stage.placeAt(0, 0), stage.curvePointAt(0, 0, 1)]).toEqual([[], null, null]);
    stage.show(picture());
    stage.orbit.state = { position: [0, 0, 4], target: [0, 0, 0] };
    expect(stage.curvePointAt(0, 0, 1)).toBeNull();
    expect(stage.placeAt(0.1, 0.1)!.toArray().map((value) => value > 0)).toEqual([true, true, false]); // prettier-ignore
    expect(stage.placeAt(0.99, 0.99)).toBeNull();
    stage.setOptions({ ...plainOptions, cut: { point: [0, 0, 0], normal: [1, 0, 0] } as never });
    // What lies on the side that the plane looks to is gone.
    expect([stage.hitsAt(0.1, 0.1).length, stage.hitsAt(-0.1, 0.1).length]).toEqual([0, 1]);
    stage.show(picture({ curves: line }));
    // Its ends are 0.8 of half the view to the left and right.
    expect([stage.curvePointAt(-0.8, 0.01, 0.2), stage.curvePointAt(0, 0.01, 0.2)]).toEqual([expect.objectContaining({ curve: 0 }), null]);
  });

  test('is found quickly once it was prepared, until there is another picture', () => {
    const { stage } = made();
    stage.prepare();
    expect(stage.ready).toBe(false);
    const shown = picture();
    stage.show(shown);
    expect(stage.ready).toBe(false);
    stage.prepare();
    expect(stage.ready).toBe(true);
    stage.show(picture());
    expect(stage.ready).toBe(false);
  });
});

describe('contact shade', () => {
  test('is worked out of what takes part in it, for surfaces in the light alone, and not where it is turned off', () => {
    const { stage } = made();
    stage.show(picture());
    page.frame();
    expect(contact).toEqual([{ size: [800, 600], mask: 1 << contactLayer }]);
    expect(stage.camera.layers.mask).toBe(1);
    for (const options of [{ contact: false }, { surface: 'ink' }, { surface: 'normals' }] as Partial<StageOptions>[]) {
      stage.setOptions({ ...plainOptions, ...options });
      settled();
    }
    expect(contact).toHaveLength(1);
  });

  test('of a large picture is worked out in 2048 pixels', () => {
    const { stage } = made();
    stage.resize(4096, 1024);
    stage.show(picture());
    page.frame();
    expect(contact[0].size).toEqual([2048, 512]);
  });
});

describe('pictures aside', () => {
  test('are drawn with other options and without marks, in parts of one view; then all is as it was', () => {
    const { stage, renderer } = made();
    stage.show(picture());
    stage.frameAll(new Vector3(0, 0, 1));
    stage.mark([0, 0, 0]);
    settled();
    const state = stage.orbit.state;
    contact = [];
    const answer = stage.aside({ floor: false, wire: true }, (draw: DrawPicture) => {
      stage.orbit.state = { position: [9, 9, 9], target: [0, 0, 0] };
      expect(draw(1000, 500, { x: 0, y: 0, width: 600, height: 500 })).toBe(renderer.domElement);
      draw(1000, 500, { x: 600, y: 0, width: 400, height: 500 });
      return 'done';
    });
    expect(answer).toBe('done');
    const [, first, second] = renderer.frames;
    expect([first.size, second.size, first.position]).toEqual([[600, 500, 1], [400, 500, 1], [9, 9, 9]]); // prettier-ignore
    expect([first.view, second.view]).toEqual([
      expect.objectContaining({ fullWidth: 1000, offsetX: 0, offsetY: 0, width: 600, height: 500 }),
      expect.objectContaining({ fullWidth: 1000, offsetX: 600, offsetY: 0, width: 400, height: 500 }),
    ]);
    const names = first.seen.map(({ name, type }) => name || type);
    expect([names.includes('mesh'), names.includes('edges'), names.includes('writing')]).toEqual([true, true, false]);
    // The ball that marks a place is the only mesh without a name.
    expect(names.filter((name) => name === 'Mesh')).toEqual([]);
    // Of the whole, once.
    expect(contact.map(({ size }) => size)).toEqual([[1000, 500]]); // prettier-ignore
    expect([stage.orbit.state, renderer.size]).toEqual([state, [800, 600, 1]]); // prettier-ignore
    page.frame();
    const after = renderer.frames.at(-1)!;
    expect([after.view, after.position, stage.camera.aspect]).toEqual([null, state.position.map((value) => expect.closeTo(value, 9)), 800 / 600]);
    expect([kinds(renderer).includes('writing'), kinds(renderer).includes('edges'), kinds(renderer).filter((name) => name === 'Mesh').length > 0]).toEqual([
      true,
      false,
      true,
    ]);
  });

  test('that fail leave nothing behind either', () => {
    const { stage, renderer } = made();
    stage.show(picture());
    const state = stage.orbit.state;
    expect(() =>
      stage.aside({ wire: true }, (draw) => {
        draw(64, 64);
        throw new Error('Enough.');
      }),
    ).toThrow('Enough.');
    page.frame();
    expect([stage.orbit.state, renderer.size, kinds(renderer).includes('edges')]).toEqual([state, [800, 600, 1], false]); // prettier-ignore
  });

  test('have twice the pixels each way where edges are not smoothed otherwise', () => {
    page = stubPage({ smooth: false });
    const { stage, renderer } = made();
    stage.aside({}, (draw) => draw(64, 32));
    expect(renderer.frames.at(-1)!.size).toEqual([64, 32, 2]);
  });
});

describe('light', () => {
  const bounds = { min: [-1, 0, -1], max: [1, 2, 1] };
  function lit(): { light: Light; key: DirectionalLight; sky: HemisphereLight; scene: Scene } {
    const { stage } = made();
    const { light, scene } = stage as unknown as { light: Light; scene: Scene };
    const key = scene.children.find((each): each is DirectionalLight => each.type === 'DirectionalLight')!;
    const sky = scene.children.find((each): each is HemisphereLight => each.type === 'HemisphereLight')!;
    light.set('window', 0, true, bounds);
    return { light, key, sky, scene };
  }

  test('comes from a key light outside of all that is shown, whose shadows reach all of it', () => {
    const { light, key } = lit();
    light.setFull(true, true);
    expect(key.target.position.toArray()).toEqual([0, 1, 0]);
    const radius = Math.hypot(2, 2, 2) / 2;
    expect(key.position.distanceTo(key.target.position)).toBeCloseTo(2 * radius, 9);
    key.updateMatrixWorld();
    key.target.updateMatrixWorld();
    key.shadow.updateMatrices(key);
    const { camera } = key.shadow;
    const box = new Box3(new Vector3(...bounds.min), new Vector3(...bounds.max));
    for (let i = 0; i < 8; i++) {
      const corner = new Vector3(i & 1 ? box.max.x : box.min.x, i & 2 ? box.max.y : box.min.y, i & 4 ? box.max.z : box.min.z).project(camera);
      for (const value of corner.toArray()) expect(Math.abs(value)).toBeLessThanOrEqual(1);
    }
    // A texel and a half.
    expect(key.shadow.normalBias).toBeCloseTo((2 * radius * 1.5) / 2048, 12);
    expect([key.shadow.mapSize.width, key.shadow.autoUpdate, key.shadow.needsUpdate]).toEqual([2048, false, true]);
  });

  test('turns with its surroundings about the vertical', () => {
    const { light, key, scene } = lit();
    const from = (): Vector3 => key.position.clone().sub(key.target.position);
    const before = from();
    light.set('window', 90, true, bounds);
    expect(from().y).toBeCloseTo(before.y, 9);
    expect(from().setY(0).dot(before.setY(0))).toBeCloseTo(0, 9);
    expect(scene.environmentRotation.y).toBeCloseTo(-Math.PI / 2, 12);
  });

  test('is plain while it has to be quick: no shadows, and light from above and below in place of the surroundings', () => {
    const { light, key, sky, scene } = lit();
    surroundingsMade.length = 0;
    light.setFull(false, false);
    expect([key.castShadow, light.shades, sky.visible, scene.environment]).toEqual([false, false, true, null]);
    const plain = key.intensity;
    light.setFull(true, false);
    expect([key.castShadow, sky.visible, key.intensity]).toEqual([true, true, plain]);
    light.setFull(true, true);
    expect([key.castShadow, light.shades, sky.visible, scene.environment]).toEqual([true, true, false, surroundingsMade[0]]);
    light.set('window', 20, false, bounds);
    expect([light.shades, surroundingsMade.length]).toEqual([false, 1]);
    light.set('overcast' as never, 0, true, bounds);
    light.set('window', 0, true, bounds);
    // Made once for each lighting, and again when the graphics were lost.
    expect(surroundingsMade.length).toBe(2);
    light.restore();
    expect([surroundingsMade.length, scene.environment]).toEqual([3, surroundingsMade[2]]);
    const ended = vi.fn();
    surroundingsMade[2].addEventListener('dispose', ended);
    light.dispose();
    expect(ended).toHaveBeenCalledTimes(1);
  });
});
