import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  Scene,
  Sphere,
  WebGLRenderer,
  type Texture,
} from 'three';
import type { UvSheet } from '@filaxis/core';
import { smoothEdges } from '../../shared/graphics';
import { checkerTexture } from '../view3d/checker';
import { coloursOf, partColours } from '../view3d/colour-map';
import { quickTriangles, SheetFilm } from './sheet-film';

/** What the colours of a sheet mean. */
export type SheetColour = 'islands' | 'checker' | 'stretch' | 'texels';

/** Part of the sheet that is looked at: its middle, and how many pixels a unit of UV is. */
export interface SheetView {
  readonly u: number;
  readonly v: number;
  readonly scale: number;
}

export interface SheetInks {
  readonly line: string;
  readonly frame: string;
  readonly overlap: readonly [number, number, number];
  readonly mark: string;
}

/** Lines nearer than this to each other, in pixels, would be all there is to see. */
const nearestLines = 4;

/** Draws a sheet of UVs by the graphics card. */
export class SheetStage {
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera();
  private readonly renderer: WebGLRenderer;
  private readonly checker: Texture = checkerTexture();
  private surface: Mesh<BufferGeometry, MeshBasicMaterial> | null = null;
  private lines: LineSegments<BufferGeometry, LineBasicMaterial> | null = null;
  private readonly frame: LineSegments<BufferGeometry, LineBasicMaterial>;
  /** How long sides of faces are in the middle, in UV. */
  private side = 1;
  private size = { width: 1, height: 1 };
  view: SheetView = { u: 0.5, v: 0.5, scale: 200 };
  private readonly film: SheetFilm;
  /** The sheet that is looked at whole, until somebody slides or zooms. */
  private whole: UvSheet | null = null;

  constructor(canvas: HTMLCanvasElement) {
    this.film = new SheetFilm(canvas, () => this.render());
    this.renderer = new WebGLRenderer({ canvas, alpha: true, antialias: smoothEdges(), preserveDrawingBuffer: true });
    const square = new BufferGeometry();
    square.setAttribute('position', new BufferAttribute(Float32Array.of(0, 0, 0, 1, 0, 0, 1, 0, 0, 1, 1, 0, 1, 1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0), 3));
    this.frame = new LineSegments(square, new LineBasicMaterial());
    this.frame.frustumCulled = false;
    this.frame.renderOrder = 3;
    this.scene.add(this.frame);
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    this.film.resize(width, height);
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio || 1));
    this.renderer.setSize(width * this.film.spread, height * this.film.spread, false);
    if (this.whole) this.fit(this.whole);
    this.film.anew();
  }

  /** Puts a sheet in, in colours; `texels`: pixels along one side of its texture. */
  show(sheet: UvSheet | null, colour: SheetColour, texels: number, inks: SheetInks): void {
    this.clear();
    this.frame.material.color.set(inks.frame);
    if (sheet) this.build(sheet, colour, texels, inks);
    const heavy = (sheet?.island.length ?? 0) > quickTriangles;
    if (heavy !== this.film.heavy) {
      this.film.heavy = heavy;
      this.resize(this.size.width, this.size.height);
    }
    this.film.anew();
  }

  private build(sheet: UvSheet, colour: SheetColour, texels: number, inks: SheetInks): void {
    const geometry = new BufferGeometry();
    const places = new BufferAttribute(sheet.corners, 2);
    geometry.setAttribute('position', places);
    geometry.setAttribute('uv', places);
    const squared = colour === 'checker';
    if (!squared) geometry.setAttribute('color', new BufferAttribute(cornerColours(sheet, colour, texels, inks), 3));
    const material = new MeshBasicMaterial({
      map: squared ? this.checker : null,
      vertexColors: !squared,
      side: DoubleSide,
      depthTest: false,
      transparent: true,
      opacity: 0.85,
    });
    this.surface = new Mesh(geometry, material);
    this.surface.frustumCulled = false;
    const edges = new BufferGeometry();
    // Two numbers a place are enough here, but not to find a sphere around them.
    geometry.boundingSphere = edges.boundingSphere = new Sphere();
    edges.setAttribute('position', new BufferAttribute(sheet.edges, 2));
    this.lines = new LineSegments(edges, new LineBasicMaterial({ color: inks.line, transparent: true, opacity: 0.5, depthTest: false }));
    this.lines.frustumCulled = false;
    this.lines.renderOrder = 2;
    this.side = middleSide(sheet.edges);
    this.scene.add(this.surface, this.lines);
  }

  /** Looks at all of a sheet, with a little room around. */
  fit(sheet: UvSheet): void {
    this.whole = sheet;
    const { corners } = sheet;
    const [low, high] = [[Infinity, Infinity], [-Infinity, -Infinity]]; // prettier-ignore
    for (let i = 0; i < corners.length; i++) {
      low[i % 2] = Math.min(low[i % 2], corners[i]);
      high[i % 2] = Math.max(high[i % 2], corners[i]);
    }
    const scale = 0.9 * Math.min(this.size.width / Math.max(1e-9, high[0] - low[0]), this.size.height / Math.max(1e-9, high[1] - low[1]));
    this.view = { u: (low[0] + high[0]) / 2, v: (low[1] + high[1]) / 2, scale };
    this.film.look(this.view);
  }

  slide(dx: number, dy: number): void {
    this.whole = null;
    const { u, v, scale } = this.view;
    this.view = { u: u - dx / scale, v: v + dy / scale, scale };
    this.film.look(this.view);
  }

  /** Goes nearer or farther; the place under a pixel stays there. */
  zoom(factor: number, x: number, y: number): void {
    this.whole = null;
    const [u, v] = this.at(x, y);
    const scale = Math.min(1e7, Math.max(1e-3, this.view.scale * factor));
    this.view = { u: u - (x - this.size.width / 2) / scale, v: v + (y - this.size.height / 2) / scale, scale };
    this.film.look(this.view);
  }

  /** The UV under a pixel. */
  at(x: number, y: number): readonly [number, number] {
    const { u, v, scale } = this.view;
    return [u + (x - this.size.width / 2) / scale, v - (y - this.size.height / 2) / scale];
  }

  /** The pixel of a UV. */
  pixelOf(u: number, v: number): readonly [number, number] {
    return [(u - this.view.u) * this.view.scale + this.size.width / 2, (this.view.v - v) * this.view.scale + this.size.height / 2];
  }

  /** The sheet from 0 to 1 as an image of `texels` a side. */
  async image(texels: number): Promise<Blob | null> {
    const { view, size, whole } = this;
    this.whole = null;
    this.renderer.setPixelRatio(1);
    this.renderer.setSize(texels, texels, false);
    this.size = { width: texels, height: texels };
    this.view = { u: 0.5, v: 0.5, scale: texels };
    this.render(1);
    const copy = Object.assign(document.createElement('canvas'), { width: texels, height: texels });
    copy.getContext('2d')!.drawImage(this.renderer.domElement, 0, 0);
    this.view = view;
    this.whole = whole;
    this.resize(size.width, size.height);
    return new Promise((done) => copy.toBlob(done, 'image/png'));
  }

  dispose(): void {
    this.film.dispose();
    this.clear();
    this.checker.dispose();
    this.frame.geometry.dispose();
    this.renderer.dispose();
  }

  /** Draws so many times what the pane shows, each way. */
  private render(spread = this.film.spread): void {
    const { u, v, scale } = this.view;
    const [wide, high] = [this.size.width, this.size.height].map((side) => (side * spread) / 2 / scale);
    Object.assign(this.camera, { left: u - wide, right: u + wide, top: v + high, bottom: v - high, near: -1, far: 1 });
    this.camera.updateProjectionMatrix();
    if (this.lines) this.lines.visible = this.side * scale >= nearestLines;
    this.renderer.render(this.scene, this.camera);
    this.film.done(this.view);
  }

  private clear(): void {
    for (const each of [this.surface, this.lines]) {
      if (!each) continue;
      this.scene.remove(each);
      each.geometry.dispose();
      each.material.dispose();
    }
    this.surface = this.lines = null;
  }
}

/** A colour at each corner of each triangle; what is overlapped has its own. */
function cornerColours(sheet: UvSheet, colour: SheetColour, texels: number, { overlap }: SheetInks): Float32Array {
  const { island, stretch, density, overlapping } = sheet;
  const each =
    colour === 'islands'
      ? partColours(island)
      : colour === 'stretch'
        ? coloursOf(stretch, 1, 3, 'dye')
        : coloursOf(density.map((value) => value * texels), 0, middleOf(density) * texels * 2, 'dye'); // prettier-ignore
  const colours = new Float32Array(each.length * 3);
  for (let t = 0; t < island.length; t++) {
    const own = colour === 'islands' && overlapping[t] ? overlap : each.subarray(t * 3, t * 3 + 3);
    for (let k = 0; k < 3; k++) colours.set(own, (t * 3 + k) * 3);
  }
  return colours;
}

/** The middle one of the finite values. */
export function middleOf(values: Float32Array): number {
  const finite = values.filter((value) => Number.isFinite(value) && value > 0).sort();
  return finite[finite.length >> 1] ?? 0;
}

function middleSide(edges: Float32Array): number {
  const sample = Float32Array.from({ length: Math.min(2000, edges.length / 4) }, (_, i) => {
    const at = Math.floor((i * edges.length) / 4 / Math.min(2000, edges.length / 4)) * 4;
    return Math.hypot(edges[at + 2] - edges[at], edges[at + 3] - edges[at + 1]);
  });
  return middleOf(sample) || 1;
}
