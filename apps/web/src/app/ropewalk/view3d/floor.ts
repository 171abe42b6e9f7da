import {
  CanvasTexture,
  Color,
  CustomBlending,
  DoubleSide,
  Group,
  Mesh,
  MeshBasicMaterial,
  OneFactor,
  OneMinusSrcAlphaFactor,
  PlaneGeometry,
  ShaderMaterial,
  ShadowMaterial,
  SrcAlphaFactor,
  SRGBColorSpace,
  Vector2,
  type Camera,
  type Vector3,
} from 'three';
import { lengthText } from '../../shared/figures';
import { contactLayer, takeContactInShadow, type ContactShade } from './contact';

/** Colours of the floor, as CSS has them. */
export interface FloorInks {
  readonly grid: string;
  readonly gridMain: string;
  /** The rods along x and z, and the writing on them. */
  readonly rod: string;
}

/** How many steps of the grid a scene is across, on the whole. */
const stepsAcross = 8;
/** Half the floor's side, in steps. */
const reach = 200;

/** Metres between two lines for a scene of a size: a power of ten. */
export const stepFor = (extent: number): number => 10 ** Math.max(-3, Math.round(Math.log10(extent / stepsAcross)));

/** Every how many steps a number is written, so that some five of them lie along the scene. */
export function labelEvery(extent: number, step: number): number {
  const wanted = extent / 2 / step / 5;
  return [1, 2, 5, 10, 20, 50].find((every) => every >= wanted) ?? 100;
}

const vertexShader = /* glsl */ `
  varying vec2 place;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = world.xz;
    gl_Position = projectionMatrix * viewMatrix * world;
  }
`;

const fragmentShader = /* glsl */ `
  varying vec2 place;
  uniform float gap, fade;
  uniform vec2 middle;
  uniform vec3 ink, inkMain, inkRod;

  // How much of a pixel lines every 'apart' metres cover; nothing where they would run into each other.
  float lines(float apart, float width) {
    vec2 at = place / apart;
    vec2 size = max(fwidth(at), vec2(1e-6));
    vec2 near = abs(fract(at - 0.5) - 0.5) / size;
    vec2 covered = clamp(width * 0.5 + 0.5 - near, 0.0, 1.0) * clamp(1.0 - size * 2.5, 0.0, 1.0);
    return max(covered.x, covered.y);
  }

  void main() {
    float far = length(place - middle) / fade;
    float shown = 1.0 - smoothstep(0.35, 1.0, far);
    vec2 size = max(fwidth(place), vec2(1e-9));
    // The axes are measuring rods: thick and thin by turns, a step each.
    vec2 thick = vec2(1.0) + 1.6 * step(0.5, fract(place * 0.5 / gap));
    vec2 axis = clamp(thick * 0.5 + 0.4 - abs(place.yx) / size.yx, 0.0, 1.0);
    vec4 colour = vec4(ink, 0.0);
    float fine = lines(gap, 1.0) * 0.85, main = lines(gap * 10.0, 1.5);
    colour = mix(colour, vec4(ink, 1.0), fine * shown);
    colour = mix(colour, vec4(inkMain, 1.0), main * shown);
    colour = mix(colour, vec4(inkRod, 1.0), max(axis.x, axis.y) * shown * 0.8);
    if (colour.a < 0.004) discard;
    gl_FragColor = colour;
    #include <colorspace_fragment>
  }
`;

/**
 * The floor, at height 0 or at the height it is given: lines every step, axes marked in metres, and the shadows that fall on it. It is glass: bodies below it look as
 * they do above it, from either side. It stays as it is while one works; only `suit` gives it another scale.
 */
export class Floor {
  readonly group = new Group();
  private readonly sheet: Mesh<PlaneGeometry, ShaderMaterial>;
  private readonly shade: Mesh<PlaneGeometry, ShadowMaterial>;
  private readonly writing = new Group();
  private extent = 0;
  private inks: FloorInks | null = null;
  private steps = 1;

  constructor(contact: Pick<ContactShade, 'uniforms'>) {
    const uniforms = {
      gap: { value: 1 },
      fade: { value: 10 },
      middle: { value: new Vector2() },
      ...Object.fromEntries(['ink', 'inkMain', 'inkRod'].map((name) => [name, { value: new Color() }])),
    };
    const flat = new PlaneGeometry(2, 2).rotateX(-Math.PI / 2);
    const material = new ShaderMaterial({ uniforms, vertexShader, fragmentShader, transparent: true, depthWrite: false, side: DoubleSide });
    // What stands on the ground is not fought for by it.
    Object.assign(material, { polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 2 });
    this.sheet = new Mesh(flat, material);
    // Drawn before everything and over nothing: a shadow on the floor darkens nothing that is seen through it.
    const shadow = new ShadowMaterial({ opacity: 0.3, depthWrite: false, depthTest: false, side: DoubleSide });
    Object.assign(shadow, {
      transparent: false,
      blending: CustomBlending,
      blendSrc: SrcAlphaFactor,
      blendDst: OneMinusSrcAlphaFactor,
      blendSrcAlpha: OneFactor,
    });
    this.shade = new Mesh(flat, shadow);
    this.shade.receiveShadow = true;
    this.shade.layers.enable(contactLayer);
    takeContactInShadow(this.shade.material, contact.uniforms);
    for (const each of [this.sheet, this.shade]) each.frustumCulled = false;
    this.shade.renderOrder = -1000;
    this.group.add(this.shade, this.sheet, this.writing);
  }

  /** Metres between two lines. */
  get step(): number {
    return this.steps;
  }

  /** Gives the floor the scale of a scene of a size, metres. */
  suit(extent: number): void {
    this.extent = extent;
    this.steps = stepFor(extent);
    this.sheet.material.uniforms['gap'].value = this.steps;
    for (const each of [this.sheet, this.shade]) each.scale.setScalar(reach * this.steps);
    this.write();
  }

  setInks(inks: FloorInks): void {
    this.inks = inks;
    const { uniforms } = this.sheet.material;
    uniforms['ink'].value.set(inks.grid);
    uniforms['inkMain'].value.set(inks.gridMain);
    uniforms['inkRod'].value.set(inks.rod);
    this.write();
  }

  /** Before a frame: the lines fade out around what is looked at. `shaded`: shadows fall on it; `height`: where it lies, metres. */
  follow(camera: Camera, target: Vector3, shaded: boolean, height = 0): void {
    this.shade.visible = shaded;
    this.group.position.y = height;
    const { uniforms } = this.sheet.material;
    uniforms['middle'].value.set(target.x, target.z);
    const away = camera.position.distanceTo(target);
    uniforms['fade'].value = Math.min(reach * this.steps, away * 2.2 + Math.abs(target.y - height));
  }

  dispose(): void {
    this.clearWriting();
    this.sheet.geometry.dispose();
    this.sheet.material.dispose();
    this.shade.material.dispose();
  }

  private clearWriting(): void {
    for (const each of this.writing.children as Mesh<PlaneGeometry, MeshBasicMaterial>[]) {
      each.geometry.dispose();
      each.material.map?.dispose();
      each.material.dispose();
    }
    this.writing.clear();
  }

  /** Numbers along the axes, lying on the floor. */
  private write(): void {
    this.clearWriting();
    const { inks, steps, extent } = this;
    if (!inks || !extent) return;
    const gap = labelEvery(extent, steps) * steps;
    const high = Math.min(gap * 0.16, extent * 0.03);
    for (let i = -5; i <= 5; i++) {
      if (!i) continue;
      const text = `${i < 0 ? '−' : ''}${lengthText(Math.abs(i * gap))}`;
      const [x, z] = [written(text, inks.rod, high), written(text, inks.rod, high)];
      x.position.set(i * gap, 0, high * 0.8);
      z.position.set(high * 0.4 + z.scale.x / 2, 0, i * gap);
      this.writing.add(x, z);
    }
    for (const [name, x, z] of [['x', gap * 5.5, 0], ['z', 0, gap * 5.5], ['0', -high * 0.7, high * 0.8]] as const) {
      const end = written(name, inks.rod, high * (name === '0' ? 1 : 1.4));
      end.position.set(x, 0, z);
      this.writing.add(end);
    } // prettier-ignore
  }
}

/** Words of a height in metres, lying on the floor, to be read from the front. */
function written(text: string, ink: string, high: number): Mesh {
  const canvas = document.createElement('canvas');
  const size = 48;
  const brush = canvas.getContext('2d', { willReadFrequently: true })!;
  const font = `600 ${size * 0.8}px "Atkinson Hyperlegible Mono Variable", monospace`;
  brush.font = font;
  canvas.width = Math.ceil(brush.measureText(text).width) + 8;
  canvas.height = size;
  Object.assign(brush, { font, fillStyle: ink, textAlign: 'center', textBaseline: 'middle' });
  brush.fillText(text, canvas.width / 2, size / 2);
  const map = new CanvasTexture(canvas);
  map.colorSpace = SRGBColorSpace;
  map.anisotropy = 8;
  const material = new MeshBasicMaterial({ map, transparent: true, depthWrite: false, toneMapped: false, opacity: 0.7, side: DoubleSide });
  const words = new Mesh(new PlaneGeometry(1, 1).rotateX(-Math.PI / 2), material);
  words.scale.set((high * canvas.width) / size, 1, high);
  words.name = 'writing';
  return words;
}
