import { CustomToneMapping, ShaderChunk, type WebGLRenderer } from 'three';

/**
 * Brightness up to which colours are shown as they are. What is brighter runs towards white, as in the Khronos PBR Neutral tone mapper (2024), whose shoulder this is;
 * its darkening for mirrored light is left out, since it would change the dyes where nothing is mirrored.
 */
const shoulder = 0.76;

const plain = 'vec3 CustomToneMapping( vec3 color ) { return color; }';
const own = `vec3 CustomToneMapping( vec3 color ) {
  color *= toneMappingExposure;
  float peak = max( color.r, max( color.g, color.b ) );
  if ( peak < ${shoulder} ) return color;
  float room = 1. - ${shoulder};
  float shown = 1. - room * room / ( peak + room - ${shoulder} );
  float whiter = 1. - 1. / ( 0.15 * ( peak - shown ) + 1. );
  return mix( color * shown / peak, vec3( shown ), whiter );
}`;

/** Has a renderer show colours as they are, and only what is brighter than paper pressed together. */
export function keepDyes(renderer: WebGLRenderer): void {
  ShaderChunk.tonemapping_pars_fragment = ShaderChunk.tonemapping_pars_fragment.replace(plain, own);
  renderer.toneMapping = CustomToneMapping;
}
