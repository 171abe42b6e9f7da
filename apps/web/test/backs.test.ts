import { MeshStandardMaterial, ShaderLib, type WebGLRenderer } from 'three';
import { expect, test } from 'vitest';
import { hatchBacks } from '../src/app/ropewalk/view3d/backs';

test('backs are hatched in both stages of the shader, and programs with and without are told apart', () => {
  const [plain, hatched] = [new MeshStandardMaterial(), new MeshStandardMaterial()];
  hatchBacks(hatched, '#a2323f');
  const { vertexShader, fragmentShader } = ShaderLib['standard'];
  const shader = { vertexShader, fragmentShader, uniforms: {} as Record<string, { value: unknown }> };
  hatched.onBeforeCompile(shader as never, null as unknown as WebGLRenderer);
  // Each place that is replaced has to be there, whatever becomes of the library.
  expect(shader.vertexShader).toContain('vMirrored = sign(determinant(mat3(instanceMatrix)));');
  expect(shader.vertexShader).toContain('varying float vMirrored;');
  expect(shader.fragmentShader).toContain('uniform vec3 hatchInk;');
  expect(shader.fragmentShader).toContain('gl_FrontFacing ? vMirrored : -vMirrored');
  expect((shader.uniforms['hatchInk'].value as { getHexString(): string }).getHexString()).toBe('a2323f');
  expect(hatched.customProgramCacheKey()).not.toBe(plain.customProgramCacheKey());
});
