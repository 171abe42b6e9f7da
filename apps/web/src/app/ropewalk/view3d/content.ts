import {
  BackSide,
  BufferAttribute,
  BufferGeometry,
  Group,
  InstancedBufferAttribute,
  InstancedMesh,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  Plane,
  Vector2,
  Vector3,
  type Material as Drawn,
  type MeshStandardMaterial,
  type Object3D,
} from 'three';
import { plainMaterial } from '@filaxis/core';
import type { MeshPicture, Picture } from '@filaxis/protocol';
import { alterShader, type Backs } from './backs';
import { checkerTexture } from './checker';
import { coloursOf, partColours, type ColourMap } from './colour-map';
import { contactLayer, takeContact, type ContactShade } from './contact';
import type { Cut } from './cut';
import { edgesOf, endsOf, wideLines } from './lines';
import { surfaceMaterial, type Coloured, type Look } from './looks';
import { normalPins, type Pins } from './pins';
import { curveObjects, frameArrows, ghostObjects, type StageInks } from './stage-objects';
import { mostSpread } from './spread';
import { Surfaces } from './surfaces';

/** Which edges are inked over surfaces. */
export type InkedEdges = 'none' | 'borders' | 'sharp';

/** How what comes out is drawn. */
export interface ContentOptions {
  readonly surface: Look;
  /** What is shown as colour, and how. */
  readonly colour: string;
  readonly map: ColourMap;
  /** Ends of the colours; null: the least and the greatest value there are. */
  readonly range: readonly [number, number] | null;
  readonly wire: boolean;
  readonly frames: boolean;
  readonly curves: boolean;
  /** Length of the arrows, metres; 0: by the size of the scene. */
  readonly arrowLength: number;
  /** Every how many points frames are drawn; 0: as many as do not crowd each other. */
  readonly every: number;
  readonly backs: Backs;
  /** Normals as pins. */
  readonly pins: Pins;
  readonly edges: InkedEdges;
  /** Width of lines, pixels. */
  readonly lineWidth: number;
  readonly cut: Cut | null;
}

/** Frees what an object was drawn with; surfaces are kept elsewhere. `release`: what becomes of its materials. */
export function discard(object: Object3D, release: (material: Drawn) => void): void {
  const { geometry, material, name } = object as Mesh;
  if (name !== 'mesh' && name !== 'wire' && name !== 'outline') geometry.dispose();
  for (const each of Array.isArray(material) ? material : [material]) release(each);
  if (object instanceof InstancedMesh) object.dispose();
}

/** Looks that are in the light. */
const lit: ReadonlySet<Look> = new Set<Look>(['shaded', 'clay', 'checker']);

/** Most copies whose shadows and contact shade are drawn: more cost more than they show. */
const mostShadows = 200_000;

/** What comes out, as three.js objects. */
export class Content {
  readonly group = new Group();
  private readonly surfaces = new Surfaces();
  private readonly checker = checkerTexture();
  /** Nearest and farthest depth, metres. */
  readonly depths: { value: [number, number] } = { value: [0, 1] };
  readonly viewport = { value: new Vector2(1, 1) };
  private picture: Picture | null = null;
  /** Inked edges, 6 numbers a piece; null: none are asked for, or they are not here yet. */
  private edges: Float32Array | null = null;
  /** Planes that cut what is shown. */
  clip: readonly Plane[] = [];

  constructor(
    private options: ContentOptions,
    private inks: StageInks,
    private readonly contact: Pick<ContactShade, 'uniforms'>,
    /** Copies are drawn as one large thing, as is quicker where software draws. */
    private readonly spreads: boolean,
  ) {}

  /** Puts a picture in the place of the one before. @returns what is not shown any more. */
  show(picture: Picture | null, edges: Float32Array | null, options: ContentOptions, inks: StageInks): Object3D[] {
    Object.assign(this, { picture, edges, options, inks });
    const outgoing = [...this.group.children];
    this.group.clear();
    const { cut } = options;
    this.clip = cut ? [new Plane().setFromNormalAndCoplanarPoint(new Vector3(...cut.normal).normalize().negate(), new Vector3(...cut.point))] : [];
    if (picture) this.build(picture);
    this.surfaces.sweep();
    return outgoing;
  }

  /** From corner to corner of all that is shown, metres. */
  get extent(): number {
    const bounds = this.picture?.bounds;
    return bounds ? Math.max(0.05, Math.hypot(...bounds.max.map((value, k) => value - bounds.min[k]))) : 4;
  }

  /** Whether something bare of metal is shown. */
  get mirrors(): boolean {
    const meshes = [this.picture?.mesh, ...(this.picture?.copies ?? []).map(({ mesh }) => mesh)];
    return this.options.surface === 'shaded' && meshes.some((mesh) => mesh?.groups.some(({ material }) => (material?.metalness ?? 0) > 0.2));
  }

  /** Whether surfaces are shown in the light. */
  get lit(): boolean {
    return lit.has(this.options.surface);
  }

  /** Whether a place is cut away. */
  isCut(place: Vector3): boolean {
    return this.clip.some((plane) => plane.distanceToPoint(place) < 0);
  }

  /** Bytes of what the graphics hold for surfaces and copies. */
  get bytes(): number {
    return this.surfaces.bytes + (this.picture?.copies ?? []).reduce((sum, { matrices }) => sum + matrices.byteLength, 0);
  }

  dispose(): void {
    for (const each of this.group.children) discard(each, (material) => material.dispose());
    this.surfaces.dispose();
    this.checker.dispose();
  }

  private build({ mesh, copies, curves, ghost }: Picture): void {
    const { options, inks } = this;
    if (mesh) this.addMesh(mesh);
    for (const each of copies) this.addCopies(each);
    if (curves && (options.curves || !(mesh || copies.length)))
      this.group.add(...curveObjects(curves, this.coloursFor(curves.lineValues), inks.curve, options.lineWidth));
    const arrows = curves && options.frames ? frameArrows(curves, options.arrowLength || this.extent * 0.045, options.every, inks) : null;
    if (arrows) this.group.add(arrows);
    if (ghost) this.group.add(...ghostObjects(ghost, inks.curve, options.lineWidth));
    if (this.edges?.length && (options.edges !== 'none' || options.surface === 'ink')) {
      const drawn = wideLines(this.edges, { ink: inks.pen, width: Math.max(1.2, options.lineWidth * 0.8), opacity: 0.9 });
      this.group.add(this.clipped(this.named(drawn, 'edges')));
    }
  }

  private addMesh(picture: MeshPicture): void {
    const { geometry, materials } = this.surfaceOf(picture, false);
    this.group.add(this.shaded(this.named(new Mesh(geometry, materials), 'mesh')));
    if (this.options.surface === 'ink') this.group.add(this.named(new Mesh(geometry, this.hull()), 'outline'));
    if (this.options.wire) {
      const wire = wideLines(endsOf(picture.positions, edgesOf(picture)), { ink: this.inks.wire, width: Math.min(this.options.lineWidth, 1.5), opacity: 0.6 });
      this.group.add(this.clipped(this.named(wire, 'edges')));
    }
    const pins = normalPins(picture, this.options.pins, this.extent * 0.015);
    if (pins) this.group.add(this.clipped(this.named(wideLines(pins, { ink: this.inks.normal, width: Math.min(this.options.lineWidth, 1.5) }), 'pins')));
  }

  /** One object drawn once for each matrix. */
  private addCopies({ mesh, matrices, values }: Picture['copies'][number]): void {
    const count = matrices.length / 16;
    const { geometry, materials } = this.surfaceOf(mesh, values !== null || this.options.surface === 'parts');
    const colours = this.options.surface === 'parts' ? partColours(Array.from({ length: count }, (_, i) => i)) : this.coloursFor(values);
    if (this.spreads && (mesh.positions.length / 3) * count <= mostSpread) return this.addSpread(mesh, matrices, materials, colours);
    const copies = this.instances(new InstancedMesh(geometry, materials, count), matrices, 'mesh');
    if (colours) copies.instanceColor = new InstancedBufferAttribute(colours, 3);
    this.group.add(this.shaded(copies, count));
    if (this.options.surface === 'ink') this.group.add(this.instances(new InstancedMesh(geometry, this.hull(), count), matrices, 'outline'));
    if (!this.options.wire) return;
    const lines = new InstancedMesh(
      this.surfaces.wireOf(mesh),
      new LineBasicMaterial({ color: this.inks.wire, transparent: true, opacity: 0.6 }) as never,
      count,
    );
    // The library has no lines that are drawn many times, but draws them so when they are told to be lines.
    Object.assign(lines, { isMesh: false, isLine: true, isLineSegments: true });
    this.group.add(this.clipped(this.instances(lines, matrices, 'wire')));
  }

  private addSpread(mesh: MeshPicture, matrices: Float32Array, materials: Drawn[], colours: Float32Array | null): void {
    const geometry = this.surfaces.spreadOf(mesh, matrices, colours);
    if (colours) for (const each of materials as MeshStandardMaterial[]) each.vertexColors = true;
    this.group.add(this.shaded(this.named(new Mesh(geometry, materials), 'mesh'), matrices.length / 16));
    if (this.options.surface === 'ink') this.group.add(this.named(new Mesh(geometry, this.hull()), 'outline'));
    if (!this.options.wire) return;
    const thin = new LineBasicMaterial({ color: this.inks.wire, transparent: true, opacity: 0.6 });
    this.group.add(this.clipped(this.named(new LineSegments(this.surfaces.spreadWireOf(mesh, matrices), thin), 'wire')));
  }

  private instances(object: InstancedMesh, matrices: Float32Array, name: string): InstancedMesh {
    object.instanceMatrix.array.set(matrices);
    return this.named(object, name);
  }

  private named<T extends Object3D>(object: T, name: string): T {
    object.name = name;
    object.frustumCulled = false;
    return object;
  }

  private shaded<T extends Mesh>(mesh: T, copies = 1): T {
    const materials = mesh.material as unknown as Drawn[];
    mesh.receiveShadow = this.lit;
    mesh.castShadow = this.options.surface !== 'ink' && copies <= mostShadows && materials.some(({ opacity }) => opacity >= 0.5);
    if (mesh.castShadow) mesh.layers.enable(contactLayer);
    for (const each of materials) {
      each.clippingPlanes = [...this.clip];
      // What is cut away throws no shadow.
      each.clipShadows = true;
      if (this.lit) takeContact(each, this.contact.uniforms);
    }
    return mesh;
  }

  private clipped<T extends Object3D>(object: T): T {
    for (const each of [(object as unknown as Mesh).material].flat()) each.clippingPlanes = [...this.clip];
    return object;
  }

  /** Outlines: the backs, a line's width larger in the picture. */
  private hull(): Drawn {
    const material = new MeshBasicMaterial({ color: this.inks.pen, side: BackSide, toneMapped: false });
    widen(material, this.options.lineWidth, this.viewport);
    material.clippingPlanes = [...this.clip];
    return material;
  }

  /** Colours of values, when they are to be shown. */
  private coloursFor(values: Float32Array | null): Float32Array | null {
    const shown = this.picture?.colour;
    if (!values || !shown) return null;
    if (this.options.surface === 'parts') return partColours(values);
    if (this.options.surface !== 'colour') return null;
    const [low, high] = this.options.range ?? [shown.low, shown.high];
    return coloursOf(values, low, high, this.options.map);
  }

  private surfaceOf(picture: MeshPicture, tinted: boolean): { geometry: BufferGeometry; materials: Drawn[] } {
    const colours = this.coloursFor(picture.values);
    const geometry = this.surfaces.surfaceOf(picture, colours, this.picture?.bounds ?? null);
    const shows = this.options.surface === 'colour' || this.options.surface === 'parts';
    const coloured: Coloured = colours ? 'vertices' : tinted && shows ? 'copies' : 'material';
    const { surface: look, backs } = this.options;
    const parts = { look, coloured, backs, checker: this.checker, backInk: this.inks.back, paper: this.inks.paper, depths: this.depths };
    return { geometry, materials: picture.groups.map((group) => surfaceMaterial(group.material ?? plainMaterial, { ...parts, backsSeen: group.backs })) };
  }
}

/** Makes what a material draws larger by pixels, along its normals in the picture. */
export function widen(material: Drawn, pixels: number, viewport: { readonly value: Vector2 }): void {
  alterShader(material, `wider by ${pixels}`, (shader) => {
    shader.uniforms['viewport'] = viewport;
    shader.vertexShader = shader.vertexShader.replace('#include <common>', '#include <common>\nuniform vec2 viewport;').replace(
      '#include <project_vertex>',
      `#include <project_vertex>
        vec3 along = normal;
        #ifdef USE_INSTANCING
          along = mat3(instanceMatrix) * along;
        #endif
        vec2 aside = (projectionMatrix * vec4(normalMatrix * along, 0.0)).xy * viewport;
        if (dot(aside, aside) > 1e-12) gl_Position.xy += normalize(aside) / viewport * (${(pixels * 2).toFixed(2)} * gl_Position.w);`,
    );
  });
}

/** Triangles on their own. */
export function trianglesOf(positions: Float32Array, indices: Uint32Array): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  geometry.computeVertexNormals();
  return geometry;
}
