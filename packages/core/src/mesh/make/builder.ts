import type { Attribute } from '../../geometry/attributes.js';
import { requireFinite } from '../../geometry/curves.js';
import { emptyMesh, type Mesh } from '../../geometry/mesh.js';

function grown<A extends Float32Array | Uint32Array>(array: A): A {
  const more = new (array.constructor as new (length: number) => A)(array.length * 2);
  more.set(array);
  return more;
}

/**
 * Puts a mesh together vertex by vertex and face by face, for skins of any section. Points are numbered by the caller through `point`; a face
 * leaves out corners whose point repeats its neighbour's, and faces of fewer than three points are not made.
 */
export class MeshBuilder {
  vertices = 0;
  points = 0;
  faces = 0;
  private corner = 0;
  private positions = new Float32Array(768);
  private normals = new Float32Array(768);
  private uv = new Float32Array(512);
  private pointOf = new Uint32Array(256);
  private source = new Uint32Array(256);
  private corners = new Uint32Array(1024);
  private faceStarts = new Uint32Array(256);
  private part = new Float32Array(256);
  private readonly sizes = new Set<number>();

  point(): number {
    return this.points++;
  }

  /** A vertex at a place; `source`: the element that its values are those of, for whoever asks (see `sources`). */
  vertex(x: number, y: number, z: number, point: number, u: number, v: number, source = 0): number {
    const at = this.vertices++;
    if (at >= this.pointOf.length) {
      this.positions = grown(this.positions);
      this.normals = grown(this.normals);
      this.uv = grown(this.uv);
      this.pointOf = grown(this.pointOf);
      this.source = grown(this.source);
    }
    this.positions[at * 3] = x;
    this.positions[at * 3 + 1] = y;
    this.positions[at * 3 + 2] = z;
    this.uv[at * 2] = u;
    this.uv[at * 2 + 1] = v;
    this.pointOf[at] = point;
    this.source[at] = source;
    return at;
  }

  /** Gives a vertex its normal, made unit; a direction of no length is left out. */
  normal(vertex: number, x: number, y: number, z: number): void {
    const size = Math.sqrt(x * x + y * y + z * z);
    if (!(size > 0)) return;
    this.normals[vertex * 3] = x / size;
    this.normals[vertex * 3 + 1] = y / size;
    this.normals[vertex * 3 + 2] = z / size;
  }

  hasNormal(vertex: number): boolean {
    const o = vertex * 3;
    return this.normals[o] !== 0 || this.normals[o + 1] !== 0 || this.normals[o + 2] !== 0;
  }

  /** The source of every vertex. */
  get sources(): Uint32Array {
    return this.source.slice(0, this.vertices);
  }

  /** Place of a vertex along an axis. */
  at(vertex: number, axis: number): number {
    return this.positions[vertex * 3 + axis];
  }

  /** A face of `part` with these vertices, counter-clockwise seen from outside. */
  face(part: number, list: readonly number[]): void {
    const kept = list.filter((v, i) => this.pointOf[v] !== this.pointOf[list[(i + list.length - 1) % list.length]]);
    if (kept.length < 3) return;
    if (this.faces + 2 >= this.faceStarts.length) {
      this.faceStarts = grown(this.faceStarts);
      this.part = grown(this.part);
    }
    while (this.corner + kept.length > this.corners.length) this.corners = grown(this.corners);
    for (const v of kept) this.corners[this.corner++] = v;
    this.part[this.faces++] = part;
    this.faceStarts[this.faces] = this.corner;
    this.sizes.add(kept.length);
  }

  /** The mesh, with the normals of vertices that got none pointing up. @throws GeometryError when a place is not finite. */
  finish(): Mesh {
    if (!this.faces) return emptyMesh;
    const { vertices, faces } = this;
    const [size] = [...this.sizes];
    const uniform = this.sizes.size === 1 && (size === 3 || size === 4) ? size : 0;
    for (let v = 0; v < vertices; v++) if (!this.hasNormal(v)) this.normals[v * 3 + 1] = 1;
    const positions = this.positions.slice(0, vertices * 3);
    requireFinite(positions, 'vertex');
    const attributes = new Map<string, Attribute>([
      ['normal', { carrier: 'corner', size: 3, data: this.normals.slice(0, vertices * 3) }],
      ['uv', { carrier: 'corner', size: 2, data: this.uv.slice(0, vertices * 2) }],
      ['part', { carrier: 'face', size: 1, data: this.part.slice(0, faces) }],
    ]);
    return {
      type: 'mesh',
      positions,
      corners: this.corners.slice(0, this.corner),
      pointOf: this.pointOf.slice(0, vertices),
      pointCount: this.points,
      faceStarts: uniform ? null : this.faceStarts.slice(0, faces + 1),
      uniform,
      materials: [],
      attributes,
    };
  }
}
