import {
  MeshStandardMaterial,
  ShaderLib,
  ShadowMaterial,
  UniformsUtils,
  type Material,
  type Texture,
  type Vector4,
  type WebGLProgramParametersWithUniforms,
} from 'three';
import { describe, expect, test } from 'vitest';
import { ContactShade, takeContact, takeContactInShadow } from '../src/app/ropewalk/view3d/contact';
import { ViewCamera } from '../src/app/ropewalk/view3d/view-camera';

const shade = (): ContactShade => new ContactShade(null as never, null as never, new ViewCamera());

/** The shader of a material after its changes, as the library would compile it. */
function compiled(material: Material, of: 'standard' | 'shadow') {
  const { vertexShader, fragmentShader, uniforms } = ShaderLib[of];
  const shader = { vertexShader, fragmentShader, uniforms: UniformsUtils.clone(uniforms) as Record<string, unknown> };
  material.onBeforeCompile(shader as unknown as WebGLProgramParametersWithUniforms, null as never);
  return shader;
}

describe('contact shade', () => {
  test('dims what lit materials get from all around, and less of the key light', () => {
    const { uniforms } = shade();
    const material = new MeshStandardMaterial();
    takeContact(material, uniforms);
    const { fragmentShader, uniforms: given } = compiled(material, 'standard');
    // Where the library names its light otherwise one day, this says so.
    for (const part of ['indirectDiffuse *= contact', 'indirectSpecular *= contact', 'directDiffuse *= mix(1.0, contact'])
      expect(fragmentShader).toContain(part);
    expect(fragmentShader.indexOf('float contact =')).toBeGreaterThan(fragmentShader.indexOf('#include <lights_fragment_end>'));
    expect(given['contactShade']).toBe(uniforms.contactShade);
    expect(material.customProgramCacheKey()).toContain('contact');
  });

  test('darkens the floor as a shadow does', () => {
    const material = new ShadowMaterial();
    takeContactInShadow(material, shade().uniforms);
    expect(compiled(material, 'shadow').fragmentShader).toContain('1.0 - getShadowMask() * texture2D(contactShade');
  });

  test('a pixel finds its place in the image of the whole picture, whichever part is drawn and however finely', () => {
    const made = shade();
    const at = (x: number, y: number): number[] => {
      const [fromX, fromY, perX, perY] = (made.uniforms.contactAt.value as Vector4).toArray();
      return [fromX + x * perX, fromY + y * perY];
    };
    made.drawn(2000, 1000, 2, { x: 0, y: 0, height: 1000 });
    expect(at(4000, 2000)).toEqual([1, 1]);
    // The lower right quarter, whose pixels are counted from its own lower left.
    made.drawn(2000, 1000, 1, { x: 1000, y: 500, height: 500 });
    expect([at(0, 0), at(1000, 500)]).toEqual([[0.5, 0], [1, 0.5]]); // prettier-ignore
  });

  test('left out, nothing is darkened', () => {
    const made = shade();
    made.clear();
    const { image } = made.uniforms.contactShade.value as Texture & { image: { data: Uint8Array } };
    expect([...image.data]).toEqual([255, 255, 255, 255]);
  });
});
