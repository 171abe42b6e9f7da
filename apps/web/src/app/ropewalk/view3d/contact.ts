import { DataTexture, DoubleSide, FrontSide, Vector4, type Material, type Plane, type Scene, type Texture, type WebGLRenderer } from 'three';
import { GTAOPass } from 'three/examples/jsm/postprocessing/GTAOPass.js';
import { alterShader } from './backs';
import type { ViewCamera } from './view-camera';

/** What takes part in contact shade is in this layer too. */
export const contactLayer = 1;

/** How far a thing darkens what is near it, as a share of half the height of the picture. */
const reach = 0.16;
/** Share of the key light that is dimmed with the light from all around. */
const ofKey = '0.5';
/** Longest side of the image that it is worked out in, pixels. */
const longest = 2048;

const open = new DataTexture(new Uint8Array([255, 255, 255, 255]), 1, 1);
open.needsUpdate = true;

/**
 * Where the light from all around reaches less, since something is near: in corners, between strands, under what stands on the floor. It is worked out from depths and normals of the
 * picture. It dims that light, and the key light by less: that comes from a window or a low sun, which has an extent too.
 */
export class ContactShade {
  /** Shared by all that is darkened: the image (white: nothing is), and where in it a pixel lies (from, and share for a pixel). */
  readonly uniforms: { readonly contactShade: { value: Texture }; readonly contactAt: { value: Vector4 } } = {
    contactShade: { value: open },
    contactAt: { value: new Vector4(0, 0, 1, 1) },
  };
  private pass: GTAOPass | null = null;

  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly scene: Scene,
    private readonly camera: ViewCamera,
  ) {}

  /** Leaves it out from now on. */
  clear(): void {
    this.uniforms.contactShade.value = open;
  }

  /**
   * Works it out for what the camera sees in a picture of a size, with so many pixels for one of the picture's; what is cut by planes, or hidden as a back, darkens nothing.
   */
  update(width: number, height: number, fineness: number, { cut, backsHidden }: { readonly cut: readonly Plane[]; readonly backsHidden: boolean }): void {
    const { camera, renderer } = this;
    const scale = Math.min(fineness, longest / Math.max(width, height));
    const pass = (this.pass ??= this.made());
    const { normalMaterial, gtaoMaterial } = pass;
    pass.setSize(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
    normalMaterial.clippingPlanes = [...cut];
    normalMaterial.side = backsHidden ? FrontSide : DoubleSide;
    const perspective = camera.parallel ? 0 : 1;
    if (gtaoMaterial.defines['PERSPECTIVE_CAMERA'] !== perspective) {
      gtaoMaterial.defines['PERSPECTIVE_CAMERA'] = perspective;
      gtaoMaterial.needsUpdate = true;
    }
    const radius = camera.halfHeight * reach;
    pass.updateGtaoMaterial({ radius, thickness: radius, distanceExponent: 1.5, distanceFallOff: 0.7, scale: 2 });
    const layers = camera.layers.mask;
    camera.layers.set(contactLayer);
    pass.render(renderer, pass.pdRenderTarget, pass.pdRenderTarget, 0, false);
    camera.layers.mask = layers;
    renderer.setRenderTarget(null);
    this.uniforms.contactShade.value = pass.gtaoMap;
  }

  /** Says which part of that picture is drawn, `ratio` pixels for one of its; from its upper left corner. */
  drawn(width: number, height: number, ratio: number, part: { readonly x: number; readonly y: number; readonly height: number }): void {
    this.uniforms.contactAt.value.set(part.x / width, (height - part.y - part.height) / height, 1 / (width * ratio), 1 / (height * ratio));
  }

  /** The graphics were lost: what was made by them is made again. */
  restore(): void {
    this.pass = null;
    this.clear();
  }

  dispose(): void {
    this.pass?.dispose();
  }

  private made(): GTAOPass {
    const pass = new GTAOPass(this.scene, this.camera);
    pass.output = (GTAOPass.OUTPUT as unknown as { readonly Off: number }).Off;
    pass.updatePdMaterial({ lumaPhi: 10, depthPhi: 2, normalPhi: 3, radius: 6, rings: 2, samples: 12 });
    // The same picture each time: the library strews its samples by chance.
    const strewn = pass.pdNoiseTexture.image.data as Uint8Array;
    for (let i = 0, state = 1; i < strewn.length; i++) strewn[i] = (state = (state * 48271) % 2147483647) & 255;
    pass.pdNoiseTexture.needsUpdate = true;
    pass.normalMaterial.side = DoubleSide;
    return pass;
  }
}

/** Has a lit material darkened by contact shade. */
export function takeContact(material: Material, uniforms: ContactShade['uniforms']): void {
  alterShader(material, 'contact', (shader) => {
    Object.assign(shader.uniforms, uniforms);
    shader.fragmentShader = shader.fragmentShader.replace('#include <common>', `#include <common>\n${declared}`).replace(
      '#include <aomap_fragment>',
      `#include <aomap_fragment>
        float contact = ${looked};
        reflectedLight.indirectDiffuse *= contact;
        reflectedLight.indirectSpecular *= contact;
        reflectedLight.directDiffuse *= mix(1.0, contact, ${ofKey});
        reflectedLight.directSpecular *= mix(1.0, contact, ${ofKey});`,
    );
  });
}

/** The same for what shows only shadows. */
export function takeContactInShadow(material: Material, uniforms: ContactShade['uniforms']): void {
  alterShader(material, 'contact', (shader) => {
    Object.assign(shader.uniforms, uniforms);
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', `#include <common>\n${declared}`)
      .replace('1.0 - getShadowMask()', `1.0 - getShadowMask() * ${looked}`);
  });
}

const declared = 'uniform sampler2D contactShade;\nuniform vec4 contactAt;';
const looked = 'texture2D(contactShade, contactAt.xy + gl_FragCoord.xy * contactAt.zw).r';
