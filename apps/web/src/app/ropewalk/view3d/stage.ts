import { Scene, Vector3, WebGLRenderer, type Object3D } from 'three';
import type { OutlinePicture, Picture } from '@filaxis/protocol';
import { drawnBySoftware, refinesStill, smoothEdges } from '../../shared/graphics';
import { ContactShade } from './contact';
import { Content, discard } from './content';
import { Drawing } from './drawing';
import { Floor, type FloorInks } from './floor';
import { Light } from './light';
import { Marks } from './marks';
import { Orbit } from './orbit';
import { Outlines, type Outlined } from './outlines';
import type { Step } from './pace';
import { Programs } from './programs';
import { Picking, type SurfaceHit } from './picking';
import { Sight, type CurvePoint } from './sight';
import type { StageInks } from './stage-objects';
import type { StageOptions } from './stage-options';
import { keepDyes } from './tone';
import { ViewCamera } from './view-camera';

/** A part of a picture, pixels from its upper left corner. */
export interface PicturePart {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
/** Height of the bars over the view, px. */
const barHeight = 60;

export type DrawPicture = (width: number, height: number, part?: PicturePart) => HTMLCanvasElement;

/** The three.js scene: it draws pictures and knows nothing of documents. */
export class Stage {
  private readonly scene = new Scene();
  readonly camera = new ViewCamera();
  readonly orbit = new Orbit(this.camera, () => this.invalidate());
  readonly sight = new Sight(this.camera);
  private readonly renderer: WebGLRenderer;
  private readonly programs: Programs;
  private readonly content: Content;
  private readonly light: Light;
  private readonly contact: ContactShade;
  private readonly floor: Floor;
  private readonly outlines: Outlines;
  private readonly picking = new Picking();
  private readonly software = drawnBySoftware();
  /** Pixels of contact shade for one of the view. */
  private readonly fineness = this.software ? 0.5 : 1;
  private readonly smooth = smoothEdges();
  private readonly drawing: Drawing;
  private readonly marks = new Marks();
  private picture: Picture | null = null;
  private prepared: Picture | null = null;
  private edges: Float32Array | null = null;
  /** The canvas has twice the pixels each way. */
  private larger = false;
  private ratio = 1;
  private size = { width: 1, height: 1 };
  /** What is not shown any more. It goes after the next frame: a shader that nothing uses in between would be compiled anew for each picture. */
  private readonly outgoing: Object3D[] = [];
  onFrame: (() => void) | null = null;
  /** Told when the picture is the last for the moment, and when it is not any more. */
  onRest: ((rests: boolean) => void) | null = null;
  /** Told when the graphics are taken away, and when they are back. */
  onLost: ((lost: boolean) => void) | null = null;
  private lost = false;
  /** How other pictures than the view's own look, while they are drawn; null: none are. */
  private elsewhere: Partial<StageOptions> | null = null;

  constructor(
    canvas: HTMLCanvasElement,
    private options: StageOptions,
    private inks: StageInks,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: this.smooth, alpha: true, stencil: true, preserveDrawingBuffer: false });
    this.renderer.shadowMap.enabled = true;
    this.renderer.localClippingEnabled = true;
    keepDyes(this.renderer);
    this.programs = new Programs(this.renderer.properties);
    this.drawing = new Drawing({
      gl: this.renderer.getContext() as WebGL2RenderingContext,
      software: this.software,
      smooth: this.smooth,
      refines: refinesStill(),
      paint: (light, refined) => this.paint(light, refined),
      away: () => this.lost,
      rests: (rests) => this.onRest?.(rests),
    });
    this.contact = new ContactShade(this.renderer, this.scene, this.camera);
    this.content = new Content(options, inks, this.contact, this.software);
    this.floor = new Floor(this.contact);
    this.light = new Light(this.scene, this.renderer);
    this.outlines = new Outlines(this.content.viewport, this.software, this.programs.release);
    // Asked to, the browser gives the graphics back; everything is in memory and is drawn again.
    canvas.addEventListener('webglcontextlost', (event) => {
      event.preventDefault();
      this.lost = true;
      this.onLost?.(true);
    });
    canvas.addEventListener('webglcontextrestored', () => {
      this.lost = false;
      this.onLost?.(false);
      this.light.restore();
      this.contact.restore();
      this.rebuild();
    });
    this.scene.add(this.floor.group, this.content.group, this.outlines.group, this.marks.group);
    this.floor.setInks(this.floorInks);
    this.floor.suit(this.content.extent);
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    this.ratio = Math.min(2, devicePixelRatio || 1);
    this.larger = false;
    this.fitTo(width, height, this.ratio);
    this.invalidate();
  }

  private fitTo(width: number, height: number, ratio: number): void {
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    this.content.viewport.value.set(width, height);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
  }

  /** Puts a new picture in the place of the old one. */
  show(picture: Picture): void {
    this.picture = picture;
    this.edges = null;
    this.rebuild();
  }

  /** Inked edges of the picture, 6 numbers a piece. */
  ink(edges: Float32Array | null): void {
    if (edges === this.edges) return;
    this.edges = edges;
    this.rebuild();
  }

  setOptions(options: StageOptions): void {
    this.options = options;
    this.rebuild();
  }

  setInks(inks: StageInks): void {
    this.inks = inks;
    this.floor.setInks(this.floorInks);
    this.rebuild();
  }

  /** Outlines something; null: nothing. */
  outline(which: Outlined, picture: OutlinePicture | null): void {
    if (this.outlines.set(which, picture)) this.invalidate(true);
  }

  /** How it looks now: as it was asked to, or as a picture aside is. */
  private get looks(): StageOptions {
    return { ...this.options, ...this.elsewhere };
  }

  private get floorInks(): FloorInks {
    const { grid, gridMain, rod } = this.inks;
    return { grid, gridMain, rod };
  }

  /** Gives the floor the scale of what is shown. */
  suitFloor(): void {
    this.floor.suit(this.content.extent);
    this.invalidate();
  }

  /** Shows everything, and gives the floor its scale. */
  frameAll(direction: Vector3 | null = null): void {
    this.suitFloor();
    this.frameBox(this.bounds.min, this.bounds.max, direction);
  }

  /** The box around all that is shown. */
  get bounds(): { readonly min: readonly number[]; readonly max: readonly number[] } {
    return this.picture?.bounds ?? { min: [-2, -1, -2], max: [2, 2, 2] };
  }

  /** Shows a box whole. */
  frameBox(min: readonly number[], max: readonly number[], direction: Vector3 | null = null): void {
    this.orbit.frame(new Vector3().fromArray(min), new Vector3().fromArray(max), direction, barHeight / this.size.height);
  }

  /** The middle of all that is shown. */
  get middle(): Vector3 {
    const { min, max } = this.picture?.bounds ?? { min: [0, 0, 0], max: [0, 0, 0] };
    return new Vector3().fromArray(min).add(new Vector3().fromArray(max)).multiplyScalar(0.5);
  }

  /** Marks a place with a small ball, or takes the mark away. */
  mark(place: readonly number[] | null): void {
    if (this.marks.mark(place)) this.invalidate(true);
  }

  /** Points places out with dots that are seen through everything; null: none. */
  pick(places: Float32Array | null): void {
    if (this.marks.pick(places)) this.invalidate(true);
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
    return this.hitsAt(x, y, true)[0]?.place ?? null;
  }

  /** The surfaces under a point of the view, the nearest first; what is cut away is not there. */
  hitsAt(x: number, y: number, nearest = false): SurfaceHit[] {
    if (!this.picture) return [];
    const cut = this.content.clip.length > 0;
    const hits = this.picking.along(this.picture, this.sight.ray(x, y).ray, nearest && !cut);
    return cut ? hits.filter(({ place }) => !this.content.isCut(place)) : hits;
  }

  /** Makes ready what looking at surfaces under the pointer needs. */
  prepare(): void {
    if (this.picture) this.picking.prepare(this.picture);
    this.prepared = this.picture;
  }

  /** Whether looking at surfaces under the pointer is quick now. */
  get ready(): boolean {
    return this.picture !== null && this.prepared === this.picture;
  }

  /** The point of the curves nearest to a point of the view, within `reach` of its height. */
  curvePointAt(x: number, y: number, reach: number): CurvePoint | null {
    const curves = this.picture?.curves;
    return curves ? this.sight.nearestOf(curves, x, y, reach) : null;
  }

  /** Has the picture drawn anew. `slight`: only what marks something has changed, so that a refined picture stays one if that is quick. */
  invalidate(slight = false): void {
    this.drawing.invalidate(slight);
  }

  /** Draws the view itself. Refined, it has twice the pixels each way where edges are not smoothed otherwise; the browser shows four as one. */
  private paint(light: Step, refined: boolean): void {
    const { width, height } = this.size;
    if (!this.smooth && refined !== this.larger) {
      this.larger = refined;
      this.fitTo(width, height, this.ratio * (refined ? 2 : 1));
    }
    this.setLight(light !== 'plain');
    this.setContact(light === 'full' ? this.fineness : 0, width, height);
    this.contact.drawn(width, height, this.ratio * (this.larger ? 2 : 1), { x: 0, y: 0, height });
    this.render();
  }

  /** Works out contact shade for a picture of a size, with so many pixels for one of its; 0 leaves it out. */
  private setContact(fineness: number, width: number, height: number): void {
    const { contact, backs } = this.looks;
    if (!fineness || !contact || !this.content.lit || this.lost) return this.contact.clear();
    this.place();
    this.contact.update(width, height, fineness, { cut: this.content.clip, backsHidden: backs === 'hidden' });
  }

  /** Surroundings take software seconds to make, so there they are made only for what mirrors them. */
  private setLight(full: boolean): void {
    this.light.setFull(full, full && (!this.software || this.content.mirrors));
  }

  /** What the view leaves out while it moves, in words; null: nothing. */
  get note(): string | null {
    return this.drawing.note;
  }

  /** Bytes that the graphics hold for surfaces and copies. */
  get bytes(): number {
    return this.content.bytes;
  }

  /** Puts what goes with the eye where it is now. */
  private place(): void {
    this.marks.follow(this.camera);
    this.floor.group.visible = this.looks.floor;
    this.floor.follow(this.camera, this.orbit.target, this.light.shades, this.looks.floorUnder ? this.bounds.min[1] : 0);
  }

  /** Draws now. */
  private render(): void {
    if (this.lost) return;
    this.place();
    const away = this.camera.position.distanceTo(this.middle);
    const radius = this.extent / 2;
    this.content.depths.value = [Math.max(0, away - radius), away + radius];
    this.renderer.render(this.scene, this.camera);
    for (const each of this.outgoing.splice(0)) discard(each, this.programs.release);
    this.onFrame?.();
  }

  /**
   * Draws other pictures than the view's own, in all the light and with other options; then everything is as it was, before anything else can happen: no hand comes in between, and
   * the view never shows them. `draw` gives the canvas with a picture of a size, or with a part of one.
   * @returns null while the graphics are away: a picture of that would stand for the document.
   */
  aside<T>(change: Partial<StageOptions>, work: (draw: DrawPicture) => T): T | null {
    if (this.lost) return null;
    this.elsewhere = change;
    const state = this.orbit.state;
    const marked = [this.marks.group, this.outlines.group].map((each) => ({ each, visible: each.visible }));
    marked.forEach(({ each }) => (each.visible = false));
    this.rebuild();
    try {
      return work((width, height, part) => {
        const { x, y, width: wide, height: high } = part ?? { x: 0, y: 0, width, height };
        const ratio = this.smooth ? 1 : 2;
        this.fitTo(wide, high, ratio);
        this.setLight(true);
        this.camera.clearViewOffset();
        this.camera.aspect = width / height;
        this.camera.updateProjectionMatrix();
        // Once for all parts: what lies beyond the edge of one darkens it too.
        if (x === 0 && y === 0) this.setContact(1, width, height);
        this.contact.drawn(width, height, ratio, { x, y, height: high });
        if (part) this.camera.setViewOffset(width, height, x, y, wide, high);
        this.render();
        return this.renderer.domElement;
      });
    } finally {
      this.elsewhere = null;
      this.drawing.forget();
      this.camera.clearViewOffset();
      marked.forEach(({ each, visible }) => (each.visible = visible));
      this.rebuild();
      this.resize(this.size.width, this.size.height);
      this.orbit.state = state;
    }
  }

  dispose(): void {
    this.drawing.dispose();
    for (const each of this.outgoing.splice(0)) discard(each, this.programs.release);
    this.content.dispose();
    this.outlines.dispose();
    this.contact.dispose();
    this.marks.dispose();
    this.floor.dispose();
    this.light.dispose();
    this.programs.dispose();
    this.renderer.dispose();
  }

  private rebuild(): void {
    const options = this.looks;
    const { lighting, turned, shadows, surface, lineWidth } = options;
    this.outgoing.push(...this.content.show(this.picture, this.edges, options, this.inks));
    this.outlines.setLooks(this.inks, lineWidth, this.content.clip);
    this.light.set(lighting, turned, shadows && surface !== 'ink', this.bounds);
    this.invalidate();
  }

  /** From corner to corner of all that is shown, metres. */
  get extent(): number {
    return this.content.extent;
  }

  /** Metres between lines of the grid. */
  get gridStep(): number {
    return this.floor.step;
  }
}
