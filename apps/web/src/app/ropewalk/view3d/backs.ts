import { Color, type MeshStandardMaterial } from 'three';

/**
 * Draws the backs of a material's faces hatched: they are not seen where the file is opened, and a face that is turned the wrong way shows at once.
 * Copies that are mirrored keep their fronts.
 */
export function hatchBacks(material: MeshStandardMaterial, ink: string): void {
  material.onBeforeCompile = (shader) => {
    shader.uniforms['hatchInk'] = { value: new Color(ink) };
    shader.vertexShader = shader.vertexShader.replace('#include <common>', '#include <common>\nvarying float vMirrored;').replace(
      '#include <begin_vertex>',
      `#include <begin_vertex>
        vMirrored = 1.0;
        #ifdef USE_INSTANCING
          vMirrored = sign(determinant(mat3(instanceMatrix)));
        #endif`,
    );
    shader.fragmentShader = shader.fragmentShader.replace('#include <common>', '#include <common>\nvarying float vMirrored;\nuniform vec3 hatchInk;').replace(
      '#include <color_fragment>',
      `#include <color_fragment>
        if ((gl_FrontFacing ? vMirrored : -vMirrored) < 0.0) {
          float stripe = step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 10.0));
          diffuseColor.rgb = mix(diffuseColor.rgb * 0.35, hatchInk, stripe);
        }`,
    );
  };
  material.customProgramCacheKey = () => 'hatched backs';
}
