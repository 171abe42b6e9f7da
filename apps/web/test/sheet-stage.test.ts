/** The UV sheet as it is drawn: where it is looked at, in which colours, and the image of it. */
import type * as Three from 'three';
import type { LineSegments, Mesh, OrthographicCamera, Scene } from 'three';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { UvSheet } from '@filaxis/core';
import { partColours } from '../src/app/ropewalk/view3d/colour-map';
import { middleOf, SheetStage, type SheetColour } from '../src/app/ropewalk/uv/sheet-stage';
import { FakeCanvas, FakeRenderer, stubPage } from './graphics';

vi.mock('three', async (original) => {
  const three = await original<typeof Three>();
  return { ...three, ...(await import('./graphics')).fakeGraphics(three) };
});

const inks = { line: '#111111', frame: '#222222', overlap: [1, 0, 0.5] as const, mark: '#333333' };
/** Two triangles from (0, 0) to (2, 1), one of which lies over something. */
const sheet = {
  corners: Float32Array.of(0, 0, 2, 0, 2, 1, 0, 0, 2, 1, 0, 1),
  edges: Float32Array.of(0, 0, 2, 0, 2, 0, 2, 1, 2, 1, 0, 1, 0, 1, 0, 0),
  island: Uint32Array.of(0, 1),
  overlapping: Uint8Array.of(0, 1),
  stretch: Float32Array.of(1, 3),
  density: Float32Array.of(0.5, 1),
} as unknown as UvSheet;

let page: ReturnType<typeof stubPage>;
beforeEach(() => {
  page = stubPage();
});
afterEach(() => vi.unstubAllGlobals());

function made(): { stage: SheetStage; renderer: FakeRenderer; canvas: FakeCanvas; seen: () => readonly (Mesh | LineSegments)[]; edges: () => number[] } {
  const canvas = new FakeCanvas();
  const stage = new SheetStage(canvas as never);
  stage.resize(400, 300);
  const renderer = FakeRenderer.newest;
  const camera = (): OrthographicCamera => renderer.frames.at(-1)!.camera as OrthographicCamera;
  const edges = (): number[] => (({ left, right, bottom, top }) => [left, right, bottom, top])(camera()).map((value) => Number(value.toFixed(6)));
  return { stage, renderer, canvas, seen: () => renderer.frames.at(-1)!.seen as never, edges };
}
const near = (values: readonly number[]): unknown[] => values.map((value) => expect.closeTo(value, 6));

describe('the part that is looked at', () => {
  test('is all of it with a little room around, until the hand slides; it stays whole when the pane is resized', () => {
    const { stage, edges } = made();
    stage.show(sheet, 'islands', 1024, inks);
    stage.fit(sheet);
    // 400 pixels for 2 units would be 200.
    expect(stage.view).toEqual({ u: 1, v: 0.5, scale: 180 });
    page.frame();
    expect(edges()).toEqual([1 - 200 / 180, 1 + 200 / 180, 0.5 - 150 / 180, 0.5 + 150 / 180].map((value) => Number(value.toFixed(6))));
    stage.resize(800, 300);
    expect(stage.view.scale).toBeCloseTo(270, 9);
    stage.slide(54, 27);
    expect([stage.view.u, stage.view.v]).toEqual(near([0.8, 0.6]));
    stage.resize(400, 300);
    expect(stage.view.scale).toBeCloseTo(270, 9);
  });

  test('goes nearer about the place under the pointer, between limits', () => {
    const { stage } = made();
    stage.fit(sheet);
    const before = stage.at(100, 50);
    stage.zoom(2, 100, 50);
    expect(stage.at(100, 50)).toEqual(near(before));
    expect(stage.view.scale).toBeCloseTo(360, 9);
    // Only then it is not whole any more.
    stage.resize(200, 150);
    expect(stage.view.scale).toBeCloseTo(360, 9);
    stage.zoom(1e9, 0, 0);
    expect(stage.view.scale).toBe(1e7);
    stage.zoom(1e-15, 0, 0);
    expect(stage.view.scale).toBe(1e-3);
  });

  test('tells pixels from UV and back', () => {
    const { stage } = made();
    stage.fit(sheet);
    expect([stage.at(200, 150), stage.at(380, 60)]).toEqual([[1, 0.5], near([2, 1])]);
    expect([stage.pixelOf(1, 0.5), stage.pixelOf(2, 1)]).toEqual([[200, 150], near([380, 60])]); // prettier-ignore
  });

  test('of a sheet without extent has a scale all the same', () => {
    const { stage } = made();
    stage.fit({ ...sheet, corners: Float32Array.of(3, 4, 3, 4, 3, 4) });
    expect([stage.view.u, stage.view.v, Number.isFinite(stage.view.scale)]).toEqual([3, 4, true]);
  });
});

describe('what is drawn', () => {
  const coloursOf = (colour: SheetColour, change: Partial<UvSheet> = {}, texels = 1024): number[][] => {
    const { stage, seen } = made();
    stage.show({ ...sheet, ...change }, colour, texels, inks);
    page.frame();
    const [surface] = seen().filter((each): each is Mesh => each.type === 'Mesh');
    const given = surface.geometry.getAttribute('color');
    return given ? Array.from({ length: given.count }, (_, i) => [given.getX(i), given.getY(i), given.getZ(i)]) : [];
  };

  test('each island has a colour at the corners of its triangles, and what lies over something its own', () => {
    const [first] = [partColours([0, 1]).subarray(0, 3)].map((each) => [...each]);
    expect(coloursOf('islands')).toEqual([first, first, first, ...Array.from({ length: 3 }, () => [...inks.overlap])]);
    expect(coloursOf('checker')).toEqual([]);
  });

  test('stretch is coloured from 1 to 3, sizes of texels from 0 to twice the middle; both show overlaps as they are', () => {
    const stretched = coloursOf('stretch');
    expect([stretched[0], stretched[3]]).toEqual([
      coloursOf('stretch', { stretch: Float32Array.of(0.2, 9) })[0],
      coloursOf('stretch', { stretch: Float32Array.of(0.2, 9) })[3],
    ]);
    expect(stretched[0]).not.toEqual(stretched[3]);
    expect(coloursOf('stretch', { stretch: Float32Array.of(2, 3) })[0]).not.toEqual(stretched[0]);
    const sized = coloursOf('texels');
    // The same whatever the texture's size, and the middle half way up.
    expect([coloursOf('texels', {}, 64), coloursOf('texels', { density: Float32Array.of(5, 10) })]).toEqual([sized, sized]);
    expect(sized[3]).toEqual(coloursOf('stretch', { stretch: Float32Array.of(1, 2) })[3]);
    expect(sized[0]).toEqual(coloursOf('stretch', { stretch: Float32Array.of(1.5, 2) })[0]);
  });

  test('lines are left out where they would be all there is to see; the frame of the sheet stays', () => {
    const { stage, seen } = made();
    stage.show(sheet, 'islands', 1024, inks);
    // Sides are 2, 1, 2 and 1 long: 2 in the middle, so 4 pixels at a scale of 2.
    for (const [scale, lines] of [[2, 2], [1.9, 1]] as const) {
      stage.view = { u: 0, v: 0, scale };
      stage.show(sheet, 'islands', 1024, inks);
      page.frame();
      expect(seen().filter(({ type }) => type === 'LineSegments')).toHaveLength(lines);
    } // prettier-ignore
    stage.show(null, 'islands', 1024, inks);
    page.frame();
    expect(seen().map(({ type }) => type)).toEqual(['LineSegments']);
  });

  test('one sheet takes the place of the other, and nothing of it stays', () => {
    const { stage, seen, renderer } = made();
    stage.show(sheet, 'islands', 1024, inks);
    page.frame();
    const old = seen().filter(({ type }) => type === 'Mesh');
    const gone = vi.fn();
    old.forEach(
      (each) => (
        each.geometry.addEventListener('dispose', gone),
        (each.material as Mesh['material'] & { addEventListener: (type: string, told: () => void) => void }).addEventListener('dispose', gone)
      ),
    );
    stage.show(sheet, 'stretch', 1024, inks);
    page.frame();
    expect([gone.mock.calls.length, seen().includes(old[0])]).toEqual([2, false]);
    stage.dispose();
    expect([renderer.disposed, (stage as unknown as { scene: Scene }).scene.children.length]).toEqual([true, 1]);
  });

  test('of many triangles the canvas is twice the pane each way, and moved while the hand slides', () => {
    const { stage, renderer, canvas } = made();
    const many = 40_001;
    const large = {
      ...sheet,
      island: new Uint32Array(many),
      corners: new Float32Array(many * 6),
      overlapping: new Uint8Array(many),
      stretch: new Float32Array(many),
      density: new Float32Array(many),
    };
    stage.show(large, 'islands', 1024, inks);
    page.frame();
    expect([renderer.size.slice(0, 2), canvas.style['left']]).toEqual([[800, 600], '-200px']);
    stage.slide(10, 0);
    expect(Number(/translate\((.*?)px, 0px\) scale\(1\)/.exec(canvas.style['transform'])![1])).toBeCloseTo(10, 6);
    stage.show(sheet, 'islands', 1024, inks);
    expect([renderer.size.slice(0, 2), canvas.style['left']]).toEqual([[400, 300], '0px']);
  });
});

test('the image is the sheet from 0 to 1, a pixel a texel; afterwards it is looked at as before', async () => {
  const { stage, renderer, edges } = made();
  stage.show(sheet, 'islands', 1024, inks);
  stage.fit(sheet);
  const { view } = stage;
  const blob = await stage.image(512);
  expect([await blob!.text(), blob!.type]).toEqual(['512 × 512', 'image/png']);
  const { size } = renderer.frames.at(-1)!;
  expect([size, edges()]).toEqual([[512, 512, 1], [0, 1, 0, 1]]); // prettier-ignore
  expect(page.canvases.at(-1)!.pasted.map(([from, ...at]) => [from === renderer.domElement, ...at])).toEqual([[true, 0, 0]]);
  expect([stage.view, renderer.size]).toEqual([view, [400, 300, 1]]); // prettier-ignore
});

test('the middle one of values leaves out what is nothing or not known', () => {
  expect([middleOf(Float32Array.of(9, 1, 0, 5, Infinity, NaN, -3)), middleOf(new Float32Array(3))]).toEqual([5, 0]);
});
