import {
  Color,
  DataTexture,
  DirectionalLight,
  EquirectangularReflectionMapping,
  FloatType,
  HemisphereLight,
  LinearFilter,
  PMREMGenerator,
  RGBAFormat,
  Sphere,
  Vector3,
  type Scene,
  type Texture,
  type WebGLRenderer,
} from 'three';
import { ambience, fromAboveAndBelow, keyShare, lightings, surroundings, towards, type Lighting, type LightingName } from './lighting';

/** Texels along one side of the shadow's image. */
const shadowTexels = 2048;

/**
 * The light of a scene. Full, it has surroundings that metal mirrors and a key light that casts shadows; plain, the same light without both, for graphics that cannot
 * draw them while the view moves.
 */
export class Light {
  private readonly key = new DirectionalLight();
  private readonly sky = new HemisphereLight();
  private readonly maps = new Map<LightingName, Texture>();
  private name: LightingName = 'window';
  private turned = 0;
  private full = false;
  private mirrored = false;
  private shadows = true;
  private readonly around = new Sphere(new Vector3(), 1);

  constructor(
    private readonly scene: Scene,
    private readonly renderer: WebGLRenderer,
  ) {
    const { shadow } = this.key;
    shadow.mapSize.set(shadowTexels, shadowTexels);
    shadow.radius = 2.5;
    // The eye moves, the shadow stays.
    shadow.autoUpdate = false;
    scene.add(this.key, this.key.target, this.sky);
  }

  /** Lights what lies in `bounds` by one of the lightings, turned about the vertical by degrees. Shadows are as sharp as the bounds let them be. */
  set(name: LightingName, turned: number, shadows: boolean, bounds: { readonly min: readonly number[]; readonly max: readonly number[] }): void {
    Object.assign(this, { name, turned, shadows });
    const [min, max] = [new Vector3().fromArray(bounds.min), new Vector3().fromArray(bounds.max)];
    this.around.set(min.clone().add(max).multiplyScalar(0.5), Math.max(1e-3, min.distanceTo(max) / 2));
    this.apply();
  }

  /** Full light, or plain; `around`: with the surroundings as something that is mirrored, not only as light from above and below. */
  setFull(full: boolean, around: boolean): void {
    if (full === this.full && around === this.mirrored) return;
    Object.assign(this, { full, mirrored: around });
    this.apply();
  }

  /** Whether it casts shadows now. */
  get shades(): boolean {
    return this.key.castShadow;
  }

  /** The graphics were lost: what was made by them is made again. */
  restore(): void {
    this.maps.clear();
    this.apply();
  }

  dispose(): void {
    for (const map of this.maps.values()) map.dispose();
    this.key.shadow.map?.dispose();
  }

  private apply(): void {
    const lighting: Lighting = lightings[this.name];
    const { share, plainShare, up, down } = strengthOf(this.name);
    const { key, sky } = this;
    const { center, radius } = this.around;
    const { round, above, colour } = lighting.key;
    const direction = new Vector3(...towards(round + this.turned, above));
    key.color.copy(colourOf(colour));
    key.intensity = (this.mirrored ? share : plainShare) * Math.PI;
    key.target.position.copy(center);
    key.position.copy(center).addScaledVector(direction, radius * 2);
    key.castShadow = this.full && this.shadows;
    const { camera } = key.shadow;
    Object.assign(camera, { left: -radius, right: radius, top: radius, bottom: -radius, near: radius * 0.9, far: radius * 6 });
    camera.updateProjectionMatrix();
    // A texel and a half along the normal, so that a face does not shade itself.
    key.shadow.normalBias = (radius * 2 * 1.5) / shadowTexels;
    key.shadow.bias = -0.0004;
    key.shadow.needsUpdate = true;
    sky.visible = !this.mirrored;
    sky.color.copy(up);
    sky.groundColor.copy(down);
    sky.intensity = Math.PI;
    this.scene.environment = this.mirrored ? this.mapOf(this.name) : null;
    this.scene.environmentRotation.set(0, (-this.turned * Math.PI) / 180, 0);
  }

  private mapOf(name: LightingName): Texture {
    let map = this.maps.get(name);
    if (map) return map;
    const width = 128;
    const image = new DataTexture(surroundings(lightings[name], width), width, width / 2, RGBAFormat, FloatType, EquirectangularReflectionMapping);
    image.magFilter = image.minFilter = LinearFilter;
    image.needsUpdate = true;
    const maker = new PMREMGenerator(this.renderer);
    map = maker.fromEquirectangular(image).texture;
    maker.dispose();
    image.dispose();
    this.maps.set(name, map);
    return map;
  }
}

interface Strength {
  readonly share: number;
  /** The same where only light from above and below is around. */
  readonly plainShare: number;
  readonly up: Color;
  readonly down: Color;
}
const strengths = new Map<LightingName, Strength>();

/** How bright a lighting's key light is, and what comes from above and below: summed up over all directions once. */
function strengthOf(name: LightingName): Strength {
  let known = strengths.get(name);
  if (known) return known;
  const lighting = lightings[name];
  const { round, above } = lighting.key;
  const [up, down] = [ambience(lighting, [0, 1, 0]), ambience(lighting, [0, -1, 0])];
  const share = keyShare(lighting, ambience(lighting, towards(round, above)));
  known = { share, plainShare: keyShare(lighting, fromAboveAndBelow(up, down, towards(round, above))), up: colourOf(up), down: colourOf(down) };
  strengths.set(name, known);
  return known;
}

const colourOf = ([r, g, b]: readonly [number, number, number]): Color => new Color().setRGB(r, g, b);
