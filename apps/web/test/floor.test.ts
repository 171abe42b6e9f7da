/** The floor of the 3D view: what is written on it, and when it is seen. */
import { PerspectiveCamera, Texture, Vector3, Vector4, type Group, type Mesh, type ShaderMaterial, type ShadowMaterial } from 'three';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Floor } from '../src/app/ropewalk/view3d/floor';

/** What was written, with its ink, on canvases as wide as it has letters. */
let written: { text: string; ink: string }[] = [];
beforeEach(() => {
  written = [];
  vi.stubGlobal('document', {
    createElement: () => {
      const brush = { fillStyle: '', measureText: (text: string) => ({ width: text.length * 20 }), fillText: (text: string) => void written.push({ text, ink: brush.fillStyle }) };
      return { width: 0, height: 0, getContext: () => brush };
    },
  }); // prettier-ignore
});
afterEach(() => vi.unstubAllGlobals());

const inks = { grid: '#111111', gridMain: '#222222', rod: '#444444' };
function floor(extent: number): { floor: Floor; shade: Mesh; sheet: Mesh; words: Mesh[] } {
  const made = new Floor({ uniforms: { contactShade: { value: new Texture() }, contactAt: { value: new Vector4() } } });
  made.setInks(inks);
  made.suit(extent);
  const [shade, sheet, writing] = made.group.children as [Mesh, Mesh, Group];
  return { floor: made, shade, sheet, words: writing.children as Mesh[] };
}
const uniforms = (sheet: Mesh): ShaderMaterial['uniforms'] => (sheet.material as ShaderMaterial).uniforms;

test('metres are written along both axes, five to each side, and names at their ends', () => {
  const { words, floor: made } = floor(8);
  expect([made.step, words.length]).toEqual([1, 23]);
  const texts = written.map(({ text }) => text);
  expect(texts.slice(0, 20).filter((_, i) => i % 2 === 0)).toEqual(['−5 m', '−4 m', '−3 m', '−2 m', '−1 m', '1 m', '2 m', '3 m', '4 m', '5 m']);
  expect(texts.slice(0, 20).filter((_, i) => i % 2)).toEqual(texts.slice(0, 20).filter((_, i) => i % 2 === 0));
  expect([texts.slice(20), new Set(written.map(({ ink }) => ink))]).toEqual([['x', 'z', '0'], new Set(['#444444'])]);
  // On the rods, beside them by the height of a letter.
  const along = (axis: 'x' | 'z', from: number): number[] => words.filter((_, i) => i < 20 && i % 2 === from).map(({ position }) => position[axis]);
  expect([along('x', 0), along('z', 1)]).toEqual([[-5, -4, -3, -2, -1, 1, 2, 3, 4, 5], [-5, -4, -3, -2, -1, 1, 2, 3, 4, 5]]); // prettier-ignore
  expect([words[20].position.x, words[21].position.z]).toEqual([5.5, 5.5]);
  for (const { position, scale } of words.slice(0, 20)) expect([position.y, Number((scale.z / 0.16).toFixed(6))]).toEqual([0, 1]);
});

test('a scene of another size has another step; what was written goes', () => {
  const { floor: made, sheet, words } = floor(8);
  const gone = words.map((each) => vi.spyOn(each.geometry, 'dispose'));
  written = [];
  made.suit(0.08);
  expect([made.step, uniforms(sheet)['gap'].value, sheet.scale.x, gone.every((each) => each.mock.calls.length === 1)]).toEqual([0.01, 0.01, 2, true]);
  expect(written[0].text).toBe('−50 mm');
  made.dispose();
  expect(words).toEqual([]);
});

test('lines fade about what is looked at; shadows are seen from below as from above, and the floor lies where it is put', () => {
  const { floor: made, shade, sheet } = floor(8);
  const camera = new PerspectiveCamera();
  camera.position.set(3, 4, 0);
  made.follow(camera, new Vector3(3, 1, 2), true);
  expect([shade.visible, uniforms(sheet)['middle'].value.toArray(), made.group.position.y]).toEqual([true, [3, 2], 0]);
  expect(uniforms(sheet)['fade'].value).toBeCloseTo(Math.sqrt(13) * 2.2 + 1, 9);
  made.follow(camera, new Vector3(3, 1, 2), true, -0.5);
  expect(uniforms(sheet)['fade'].value).toBeCloseTo(Math.sqrt(13) * 2.2 + 1.5, 9);
  expect(made.group.position.y).toBe(-0.5);
  made.follow(camera, new Vector3(), false);
  expect(shade.visible).toBe(false);
  camera.position.set(0, -900, 0);
  made.follow(camera, new Vector3(), true);
  expect([shade.visible, uniforms(sheet)['fade'].value]).toEqual([true, 200]);
});

test('its shadow is drawn first and hides nothing', () => {
  const { shade } = floor(8);
  expect([shade.renderOrder < 0, (shade.material as ShadowMaterial).transparent, (shade.material as ShadowMaterial).depthWrite]).toEqual([true, false, false]);
});

test('nothing is written before its ink and its size are known', () => {
  const made = new Floor({ uniforms: { contactShade: { value: new Texture() }, contactAt: { value: new Vector4() } } });
  made.suit(8);
  expect(written).toEqual([]);
  made.setInks(inks);
  expect(written).toHaveLength(23);
});
