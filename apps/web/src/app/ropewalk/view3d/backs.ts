import type { MeshStandardMaterial } from 'three';
import { Color, type Material } from 'three';

/** How backs of faces are drawn: tinted, and hatched where they are not seen in files; not at all; or like fronts. */
export type Backs = 'marked' | 'hidden' | 'fronts';

type Shader = Parameters<MeshStandardMaterial['onBeforeCompile']>[0];

/** Has a material's shader changed, after what changed it before. */
export function alterShader(material: Material, key: string, change: (shader: Shader) => void): void {
  const [before, keyBefore] = [material.onBeforeCompile.bind(material), material.customProgramCacheKey.bind(material)];
  material.onBeforeCompile = (shader, renderer) => {
    before(shader, renderer);
    change(shader);
  };
  material.customProgramCacheKey = () => `${keyBefore()} ${key}`;
}

/** Code for the backs: `inked` is a stripe of the hatching. */
const drawn = {
  hatched: 'diffuseColor.rgb = mix(diffuseColor.rgb * 0.35, backInk, inked);',
  tinted: 'diffuseColor.rgb = mix(diffuseColor.rgb, backInk, 0.16 + 0.2 * inked);',
  hidden: 'discard;',
} as const;

/**
 * Draws the backs of a material's faces in their own way, so that a face that is turned the wrong way shows at once. Backs that are seen where the file is opened (`seen`) are
 * tinted with a fine hatching, others are hatched strongly. Copies that are mirrored keep their fronts.
 */
export function markBacks(material: Material, backs: Backs, seen: boolean, ink: string): void {
  if (backs === 'fronts') return;
  const how = backs === 'hidden' ? 'hidden' : seen ? 'tinted' : 'hatched';
  alterShader(material, `${how} backs`, (shader) => {
    shader.uniforms['backInk'] = { value: new Color(ink) };
    shader.vertexShader = shader.vertexShader.replace('#include <common>', '#include <common>\nvarying float vMirrored;').replace(
      '#include <begin_vertex>',
      `#include <begin_vertex>
        vMirrored = 1.0;
        #ifdef USE_INSTANCING
          vMirrored = sign(determinant(mat3(instanceMatrix)));
        #endif`,
    );
    shader.fragmentShader = shader.fragmentShader.replace('#include <common>', '#include <common>\nvarying float vMirrored;\nuniform vec3 backInk;').replace(
      '#include <color_fragment>',
      `#include <color_fragment>
        if ((gl_FrontFacing ? vMirrored : -vMirrored) < 0.0) {
          float inked = step(${how === 'tinted' ? '0.8' : '0.5'}, fract((gl_FragCoord.x + gl_FragCoord.y) / ${how === 'tinted' ? '5.0' : '10.0'}));
          ${drawn[how]}
        }`,
    );
  });
}
