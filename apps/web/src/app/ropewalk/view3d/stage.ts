import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  DoubleSide,
  Group,
  HemisphereLight,
  InstancedBufferAttribute,
  InstancedMesh,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  PerspectiveCamera,
  Points,
  PointsMaterial,
  Scene,
  SphereGeometry,
  Vector3,
  WebGLRenderer,
  type Object3D,
} from 'three';
import { plainMaterial, type Material } from '@filaxis/core';
import type { MeshPicture, Picture } from '@filaxis/protocol';
import { hatchBacks } from './backs';
import { checkerTexture } from './checker';
import { coloursOf, type ColourMap } from './colour-map';
import { Orbit } from './orbit';
import { Sight, type CurvePoint } from './sight';
import { curveObjects, floorLines, frameArrows, ghostObjects, type StageInks } from './stage-objects';
import { Surfaces } from './surfaces';
import { smoothEdges } from '../../shared/graphics';

export interface StageOptions {
  readonly surface: 'shaded' | 'checker' | 'colour';
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
}

/** Frees what an object was drawn with; surfaces are kept elsewhere. */
function discard(object: Object3D): void {
  const { geometry, material, name } = object as Mesh;
  if (name !== 'mesh' && name !== 'wire') geometry.dispose();
  for (const each of Array.isArray(material) ? material : [material]) each.dispose();
  if (object instanceof InstancedMesh) object.dispose();
}

/** The three.js scene: it draws pictures and knows nothing of documents. */
export class Stage {
  private readonly scene = new Scene();
  readonly camera = new PerspectiveCamera(30, 1, 0.01, 1000);
  readonly orbit = new Orbit(this.camera, () => this.invalidate());
  readonly sight = new Sight(this.camera);
  private readonly renderer: WebGLRenderer;
  private readonly content = new Group();
  private readonly grid = new Group();
  private readonly marker = new Mesh(
    new SphereGeometry(1, 20, 14),
    new MeshBasicMaterial({ color: '#c39a1b', depthTest: false, transparent: true, opacity: 0.9 }),
  );
  private readonly picks = new Points(
    new BufferGeometry(),
    new PointsMaterial({ color: '#c39a1b', size: 8, sizeAttenuation: false, depthTest: false, transparent: true }),
  );
  private readonly checker = checkerTexture();
  private readonly surfaces = new Surfaces();
  private picture: Picture | null = null;
  private mesh: Mesh | null = null;
  private frame = 0;
  /** What is not shown any more. It goes after the next frame: a shader that nothing uses in between would be compiled anew for each picture. */
  private readonly outgoing: Object3D[] = [];
  onFrame: (() => void) | null = null;
  /** Told when the graphics are taken away, and when they are back. */
  onLost: ((lost: boolean) => void) | null = null;
  private lost = false;

  constructor(
    canvas: HTMLCanvasElement,
    private options: StageOptions,
    private inks: StageInks,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: smoothEdges(), alpha: true, preserveDrawingBuffer: false });
    // Asked to, the browser gives the graphics back; everything is in memory and is drawn again.
    canvas.addEventListener('webglcontextlost', (event) => {
      event.preventDefault();
      this.lost = true;
      this.onLost?.(true);
    });
    canvas.addEventListener('webglcontextrestored', () => {
      this.lost = false;
      this.onLost?.(false);
      this.rebuild();
    });
    const sun = new DirectionalLight('#fff4de', 2.1);
    sun.position.set(4, 9, 6);
    const fill = new DirectionalLight('#cfd8ff', 0.5);
    fill.position.set(-6, 2, -5);
    this.scene.add(
      new HemisphereLight('#fff9ee', '#8d7f6c', 1.15),
      new AmbientLight('#ffffff', 0.25),
      sun,
      fill,
      this.grid,
      this.content,
      this.marker,
      this.picks,
    );
    this.picks.visible = false;
    this.picks.renderOrder = 4;
    this.picks.frustumCulled = false;
    this.marker.visible = false;
    this.marker.renderOrder = 5;
  }

  resize(width: number, height: number): void {
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio || 1));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
    this.invalidate();
  }

  /** Puts a new picture in the place of the old one. */
  show(picture: Picture): void {
    this.picture = picture;
    this.rebuild();
  }

  setOptions(options: StageOptions): void {
    this.options = options;
    this.rebuild();
  }

  setInks(inks: StageInks): void {
    this.inks = inks;
    this.rebuild();
  }

  /** Shows everything. */
  frameAll(direction: Vector3 | null = null): void {
    const { min, max } = this.picture?.bounds ?? { min: [-2, -1, -2], max: [2, 2, 2] };
    this.orbit.frame(new Vector3().fromArray(min), new Vector3().fromArray(max), direction);
  }

  /** The middle of all that is shown. */
  get middle(): Vector3 {
    const { min, max } = this.picture?.bounds ?? { min: [0, 0, 0], max: [0, 0, 0] };
    return new Vector3().fromArray(min).add(new Vector3().fromArray(max)).multiplyScalar(0.5);
  }

  /** Marks a place with a small ball, or takes the mark away. */
  mark(place: readonly number[] | null): void {
    this.marker.visible = place !== null;
    if (place) this.marker.position.fromArray(place);
    this.invalidate();
  }

  /** Points places out with dots that are seen through everything; null: none. */
  pick(places: Float32Array | null): void {
    this.picks.visible = !!places?.length;
    this.picks.material.size = (places?.length ?? 0) > 600 ? 3 : 9;
    this.picks.geometry.dispose();
    this.picks.geometry = new BufferGeometry();
    if (places) this.picks.geometry.setAttribute('position', new BufferAttribute(places.slice(), 3));
    this.invalidate();
  }

  /** Slides to a place and goes near it: a fifth of the scene fills the view, or what is nearer already. */
  flyTo(place: readonly number[]): void {
    const { target } = this.orbit;
    const eye = this.camera.position.clone().sub(target);
    const wanted = Math.min(eye.length(), (this.extent * 0.2) / Math.tan((this.camera.fov * Math.PI) / 360));
    const next = new Vector3().fromArray(place);
    const position = next.clone().add(eye.setLength(wanted));
    this.orbit.state = { ...this.orbit.state, target: next.toArray(), position: position.toArray() };
    this.invalidate();
  }

  /** The place on the surface under a point of the view (−1…1), or null. */
  placeAt(x: number, y: number): Vector3 | null {
    return this.mesh && (this.sight.ray(x, y).intersectObject(this.mesh, false)[0]?.point ?? null);
  }

  /** The point of the curves nearest to a point of the view, within `reach` of its height. */
  curvePointAt(x: number, y: number, reach: number): CurvePoint | null {
    const curves = this.picture?.curves;
    return curves ? this.sight.nearestOf(curves, x, y, reach) : null;
  }

  invalidate(): void {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.render();
    });
  }

  /** Draws now; needed before reading the canvas. */
  render(): void {
    if (this.lost) return;
    if (this.marker.visible) this.marker.scale.setScalar(this.camera.position.distanceTo(this.marker.position) * 0.008);
    this.renderer.render(this.scene, this.camera);
    this.outgoing.splice(0).forEach(discard);
    this.onFrame?.();
  }

  /** A picture of the content alone, as a PNG of the given size. */
  async snapshot(width: number, height: number): Promise<Blob | null> {
    // Nothing is drawn meanwhile: a picture of that would stand for the document.
    if (this.lost) return null;
    const canvas = this.renderer.domElement;
    const before = { width: canvas.clientWidth, height: canvas.clientHeight };
    const state = this.orbit.state;
    this.renderer.setPixelRatio(1);
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.frameAll();
    const shown = this.content.children.map((child) => child.visible);
    for (const child of this.content.children) child.visible = child.name === 'mesh' || (!this.mesh && !this.picture?.copies.length && child.name === 'curves');
    this.render();
    const copy = document.createElement('canvas');
    Object.assign(copy, { width, height });
    copy.getContext('2d')!.drawImage(canvas, 0, 0);
    this.content.children.forEach((child, i) => (child.visible = shown[i]));
    this.resize(before.width, before.height);
    this.orbit.state = state;
    return new Promise((done) => copy.toBlob(done, 'image/png'));
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.clear();
    this.outgoing.splice(0).forEach(discard);
    this.surfaces.dispose();
    this.checker.dispose();
    this.renderer.dispose();
  }

  private clear(): void {
    for (const group of [this.content, this.grid]) {
      this.outgoing.push(...group.children);
      group.clear();
    }
    this.mesh = null;
  }

  private rebuild(): void {
    this.clear();
    this.layFloor();
    const { mesh, curves } = this.picture ?? {};
    if (mesh) this.buildMesh(mesh);
    for (const copies of this.picture?.copies ?? []) this.buildCopies(copies);
    if (curves && (this.options.curves || !(mesh || this.picture?.copies.length)))
      this.content.add(...curveObjects(curves, this.coloursFor(curves.lineValues), this.inks.curve));
    const arrows = curves && this.options.frames ? frameArrows(curves, this.options.arrowLength || this.extent * 0.045, this.options.every, this.inks) : null;
    if (arrows) this.content.add(arrows);
    if (this.picture?.ghost) this.content.add(...ghostObjects(this.picture.ghost, this.inks.curve));
    this.surfaces.sweep();
    this.invalidate();
  }

  /** One object drawn once for each matrix. */
  private buildCopies({ mesh, matrices, values }: Picture['copies'][number]): void {
    const { geometry, materials } = this.surfaceOf(mesh, values !== null);
    const copies = new InstancedMesh(geometry, materials, matrices.length / 16);
    copies.instanceMatrix.array.set(matrices);
    copies.name = 'mesh';
    const colours = this.coloursFor(values);
    if (colours) copies.instanceColor = new InstancedBufferAttribute(colours, 3);
    copies.frustumCulled = false;
    this.content.add(copies);
  }

  /** Colours of values, when they are to be shown. */
  private coloursFor(values: Float32Array | null): Float32Array | null {
    const shown = this.picture?.colour;
    if (!values || !shown || this.options.surface !== 'colour') return null;
    const [low, high] = this.options.range ?? [shown.low, shown.high];
    return coloursOf(values, low, high, this.options.map);
  }

  private surfaceOf(picture: MeshPicture, tinted = false): { geometry: BufferGeometry; materials: MeshStandardMaterial[] } {
    const colours = this.coloursFor(picture.values);
    const geometry = this.surfaces.surfaceOf(picture, colours, this.picture?.bounds ?? null);
    const how = colours ? 'vertices' : tinted && this.options.surface === 'colour' ? 'copies' : 'material';
    return { geometry, materials: picture.groups.map(({ material, backs }) => this.surface(material ?? plainMaterial, how, backs)) };
  }

  private buildMesh(picture: MeshPicture): void {
    const { geometry, materials } = this.surfaceOf(picture);
    this.mesh = new Mesh(geometry, materials);
    this.mesh.name = 'mesh';
    this.content.add(this.mesh);
    if (!this.options.wire) return;
    const lines = new LineSegments(this.surfaces.wireOf(picture), new LineBasicMaterial({ color: this.inks.wire, transparent: true, opacity: 0.55 }));
    lines.name = 'wire';
    this.content.add(lines);
  }

  private surface(
    { colour, roughness, metalness, opacity, checker }: Material,
    colours: 'vertices' | 'copies' | 'material',
    backs: boolean,
  ): MeshStandardMaterial {
    const plain = colours !== 'material';
    const squared = !plain && ((checker && this.options.surface !== 'colour') || this.options.surface === 'checker');
    const made = new MeshStandardMaterial({
      color: squared || plain ? '#ffffff' : this.options.surface === 'colour' ? '#9f9a92' : colour,
      vertexColors: colours === 'vertices',
      map: squared ? this.checker : null,
      roughness: plain ? 1 : roughness,
      // There is nothing around to be mirrored, so bare metal would be black: it is shown half as metallic as it is.
      metalness: plain ? 0 : metalness * 0.5,
      transparent: !plain && opacity < 1,
      opacity: plain ? 1 : opacity,
      side: DoubleSide,
      // The surface is pushed back a little, so that wires and curves on it are drawn whole.
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    if (!backs) hatchBacks(made, this.inks.back);
    return made;
  }

  /** From corner to corner of all that is shown, metres. */
  get extent(): number {
    const bounds = this.picture?.bounds;
    return bounds ? Math.max(0.05, Math.hypot(...bounds.max.map((value, k) => value - bounds.min[k]))) : 4;
  }

  private layFloor(): void {
    this.grid.add(...floorLines(this.gridStep, this.picture?.bounds ?? null, this.inks));
  }

  /** Metres between lines of the grid. */
  get gridStep(): number {
    return 10 ** Math.max(-3, Math.round(Math.log10(this.extent / 8)));
  }
}
