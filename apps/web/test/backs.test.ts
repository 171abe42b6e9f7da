import { MeshStandardMaterial, ShaderLib, type WebGLRenderer } from 'three';
import { expect, test } from 'vitest';
import { plainMaterial } from '@filaxis/core';
import { alterShader, markBacks, type Backs } from '../src/app/ropewalk/view3d/backs';
import { widen } from '../src/app/ropewalk/view3d/content';
import { looks, surfaceMaterial, type Look } from '../src/app/ropewalk/view3d/looks';

/** What becomes of a shader of the library. */
function compiled(material: MeshStandardMaterial, name: 'standard' | 'lambert' | 'basic' = 'standard') {
  const { vertexShader, fragmentShader } = ShaderLib[name];
  const shader = { vertexShader, fragmentShader, uniforms: {} as Record<string, { value: unknown }> };
  material.onBeforeCompile(shader as never, null as unknown as WebGLRenderer);
  return shader;
}

test('backs are drawn their own way in both stages of the shader, and programs are told apart', () => {
  const keys = new Set<string>();
  for (const [backs, seen, code] of [['marked', false, 'mix(diffuseColor.rgb * 0.35'], ['marked', true, '0.16 + 0.2 * inked'], ['hidden', false, 'discard;']] as const) {
    const material = new MeshStandardMaterial();
    markBacks(material, backs, seen, '#a2323f');
    const shader = compiled(material);
    // Each place that is replaced has to be there, whatever becomes of the library.
    expect(shader.vertexShader).toContain('vMirrored = sign(determinant(mat3(instanceMatrix)));');
    expect(shader.vertexShader).toContain('varying float vMirrored;');
    expect(shader.fragmentShader).toContain('gl_FrontFacing ? vMirrored : -vMirrored');
    expect(shader.fragmentShader).toContain(code);
    expect((shader.uniforms['backInk'].value as { getHexString(): string }).getHexString()).toBe('a2323f');
    keys.add(material.customProgramCacheKey());
  } // prettier-ignore
  const plain = new MeshStandardMaterial();
  markBacks(plain, 'fronts' satisfies Backs, false, '#a2323f');
  expect(compiled(plain).fragmentShader).toBe(ShaderLib['standard'].fragmentShader);
  keys.add(plain.customProgramCacheKey());
  expect(keys.size).toBe(4);
});

test('changes of a shader add up', () => {
  const material = new MeshStandardMaterial();
  alterShader(material, 'one', (shader) => (shader.fragmentShader += '\n// one'));
  alterShader(material, 'two', (shader) => (shader.fragmentShader += '\n// two'));
  expect(compiled(material).fragmentShader).toContain('// one\n// two');
  expect(material.customProgramCacheKey()).toMatch(/one.*two/);
});

test('every look has a material; depth and normals are shown as they are, whatever the light', () => {
  const parts = { coloured: 'material', backs: 'marked', backsSeen: true, checker: null as never, backInk: '#a2323f', paper: '#ffffff', depths: { value: [1, 2] } } as const; // prettier-ignore
  const made = (look: Look) => surfaceMaterial(plainMaterial, { ...parts, look, depths: { value: [1, 2] } }) as MeshStandardMaterial;
  for (const look of Object.keys(looks) as Look[]) expect(made(look).polygonOffset).toBe(true);
  const depth = compiled(made('depth'), 'lambert').fragmentShader;
  expect(depth).toContain('uniform vec2 depths;');
  for (const shader of [depth, compiled(made('normals'), 'lambert').fragmentShader]) expect(shader).toContain('outgoingLight = sRGBTransferEOTF(');
  expect([made('depth').toneMapped, made('normals').toneMapped, made('clay').toneMapped]).toEqual([false, false, true]);
  expect(new Set(Object.values(looks).map(({ key }) => key)).size).toBe(Object.keys(looks).length);
});

test('what is outlined is made wider after it is projected', () => {
  const material = new MeshStandardMaterial();
  widen(material, 2, { value: null as never });
  const { vertexShader } = compiled(material, 'basic');
  expect(vertexShader.indexOf('gl_Position.xy += normalize(aside)')).toBeGreaterThan(vertexShader.indexOf('#include <project_vertex>'));
  expect(vertexShader).toContain('uniform vec2 viewport;');
});
