import { curvesFromLists, makeMesh, makePoints, type Attribute, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';
import { countedFrom, farOrigin, originAttribute } from './far.js';
import { GrowingFloats, GrowingIndices } from './growing.js';
import { Statements, type Progress } from './statements.js';

/** What stands for no UV or normal. */
const none = 0xffffffff;

/** Points, UVs and normals as faces put them together: each combination is a vertex once. */
class Vertices {
  readonly point = new GrowingIndices();
  readonly uv = new GrowingIndices();
  readonly normal = new GrowingIndices();
  /** The newest vertex of a point, and of a vertex the one before it at the same point; 1 more than its number, 0: none. */
  private readonly newest = new GrowingIndices();
  private readonly before = new GrowingIndices();

  at(point: number, uv: number, normal: number): number {
    while (this.newest.length <= point) this.newest.push(0);
    for (let v = this.newest.at(point); v; v = this.before.at(v - 1)) if (this.uv.at(v - 1) === uv && this.normal.at(v - 1) === normal) return v - 1;
    const vertex = this.point.push(point);
    this.uv.push(uv);
    this.normal.push(normal);
    this.before.push(this.newest.at(point));
    this.newest.set(point, vertex + 1);
    return vertex;
  }

  get count(): number {
    return this.point.length;
  }
}

/** Reads the statements of a file one by one. */
class Reading {
  readonly places = new GrowingFloats();
  readonly colours = new GrowingFloats();
  readonly uvs = new GrowingFloats();
  readonly normals = new GrowingFloats();
  readonly vertices = new Vertices();
  readonly corners = new GrowingIndices();
  readonly faceStarts = new GrowingIndices();
  readonly groups = new Map<string, number>();
  readonly parts = new GrowingIndices();
  readonly paths: number[][] = [];
  private group = 0;
  private readonly wholes = new Float64Array(3);

  constructor(private readonly all: Statements) {
    this.faceStarts.push(0);
    while (all.next()) this.statement();
  }

  private fail(what: string): never {
    throw new FormatError(`Line ${this.all.line}: ${what}`);
  }

  private statement(): void {
    const { all } = this;
    if (all.is('v')) {
      this.numbers(1, 3, this.places);
      // Three more numbers are a colour (common practice); a weight alone is not looked at.
      if (all.count >= 7) this.numbers(4, 3, this.colours);
    } else if (all.is('f')) this.face();
    else if (all.is('vn')) this.numbers(1, 3, this.normals);
    else if (all.is('vt')) {
      this.numbers(1, 1, this.uvs);
      if (all.count > 2) this.numbers(2, 1, this.uvs);
      else this.uvs.push(0);
    } else if (all.is('g') || all.is('o')) {
      const name = all.from(1);
      if (!this.groups.has(name)) this.groups.set(name, this.groups.size);
      this.group = this.groups.get(name)!;
    } else if (all.is('l')) {
      if (all.count < 3) this.fail('a line needs two points or more.');
      this.paths.push(Array.from({ length: all.count - 1 }, (_, k) => this.corner(k + 1, 1)[0]));
    }
  }

  private numbers(from: number, count: number, out: GrowingFloats): void {
    for (let k = from; k < from + count; k++) {
      const value = this.all.number(k);
      if (!Number.isFinite(value)) this.fail(`"${this.all.from(0).slice(0, 60)}" needs ${from - 1 + count} finite numbers.`);
      out.push(value);
    }
  }

  private index(count: number, value: number, k: number): number {
    const index = value < 0 ? count + value : value - 1;
    if (!(index >= 0 && index < count)) this.fail(`index ${this.all.word(k)} is not among the ${count} read so far.`);
    return index;
  }

  /** The point, UV and normal that a word names; the latter two only where they are wanted. */
  private corner(k: number, wanted: number): Float64Array {
    const { wholes, all } = this;
    const count = all.wholes(k, wholes);
    if (count < 0 || Number.isNaN(wholes[0])) this.fail(`index ${all.word(k)} is not among the ${this.places.length / 3} read so far.`);
    wholes[0] = this.index(this.places.length / 3, wholes[0], k);
    if (wanted === 1) return wholes;
    wholes[1] = count > 1 && !Number.isNaN(wholes[1]) ? this.index(this.uvs.length / 2, wholes[1], k) : none;
    wholes[2] = count > 2 && !Number.isNaN(wholes[2]) ? this.index(this.normals.length / 3, wholes[2], k) : none;
    return wholes;
  }

  private face(): void {
    const { all } = this;
    if (all.count < 4) this.fail('a face needs three corners or more.');
    for (let k = 1; k < all.count; k++) {
      const [point, uv, normal] = this.corner(k, 3);
      this.corners.push(this.vertices.at(point, uv, normal));
    }
    this.faceStarts.push(this.corners.length);
    this.parts.push(this.group);
  }
}

/**
 * Faces and `l` lines of OBJ text (see `plainBytes`), with UVs, normals, groups (as `part`) and colours of points; points alone where there is nothing else. Negative indices count from
 * the end; statements that say nothing of these are passed over.
 * @throws FormatError with the line of what cannot be read, and what `progress` throws.
 */
export function readObj(bytes: Uint8Array, progress?: Progress): GeometrySet {
  const read = new Reading(new Statements(bytes, progress));
  // One origin for all, so that lines stay on their faces.
  const places = read.places.data;
  const origin = farOrigin(places);
  const near = countedFrom(places, origin);
  const set: { mesh?: Mesh; curves?: GeometrySet['curves']; points?: GeometrySet['points'] } = {};
  if (read.paths.length) set.curves = curvesOf(read.paths, near, origin);
  if (read.corners.length) set.mesh = meshOf(read, near, origin);
  if (!read.paths.length && !read.corners.length && places.length) {
    const coloured = read.colours.length === places.length;
    const colour: [string, Attribute][] = coloured ? [['colour', { carrier: 'point', size: 3, data: Float32Array.from(read.colours.data) }]] : [];
    set.points = makePoints(near, new Map([...colour, ...originAttribute(origin)]));
  }
  return set;
}

function curvesOf(paths: readonly number[][], near: Float32Array, origin: readonly number[] | null): NonNullable<GeometrySet['curves']> {
  const place = (i: number): number[] => Array.from(near.subarray(i * 3, i * 3 + 3));
  const closed = paths.map((path) => path.length > 3 && path[0] === path[path.length - 1]);
  const curves = curvesFromLists(
    paths.map((path, c) => (closed[c] ? path.slice(0, -1) : path).map(place)),
    { closed },
  );
  return origin ? { ...curves, attributes: new Map(originAttribute(origin)) } : curves;
}

function meshOf({ vertices, uvs, normals, colours, corners, faceStarts, groups, parts }: Reading, near: Float32Array, origin: readonly number[] | null): Mesh {
  const rows = (list: ArrayLike<number>, size: number, which: Uint32Array): Float32Array => {
    const out = new Float32Array(which.length * size);
    for (let i = 0; i < which.length; i++) for (let k = 0; k < size; k++) out[i * size + k] = list[which[i] * size + k];
    return out;
  };
  const [point, uv, normal] = [vertices.point.data, vertices.uv.data, vertices.normal.data];
  const attributes = new Map<string, Attribute>(originAttribute(origin));
  if (!uv.includes(none)) attributes.set('uv', { carrier: 'corner', size: 2, data: rows(uvs.data, 2, uv) });
  if (!normal.includes(none)) attributes.set('normal', { carrier: 'corner', size: 3, data: rows(normals.data, 3, normal) });
  if (colours.length > 0 && colours.length === near.length) attributes.set('colour', { carrier: 'corner', size: 3, data: rows(colours.data, 3, point) });
  if (groups.size > 1) attributes.set('body', { carrier: 'face', size: 1, data: Float32Array.from(parts.data) });
  return makeMesh({
    positions: rows(near, 3, point),
    pointOf: point.slice(),
    pointCount: near.length / 3,
    corners: corners.data.slice(),
    faceStarts: faceStarts.data.slice(),
    attributes,
  });
}
