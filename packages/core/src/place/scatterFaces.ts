import { withAttributes, type Attribute } from '../geometry/attributes.js';
import type { Mesh } from '../geometry/mesh.js';
import { makePoints, type Points } from '../geometry/points.js';
import { perpendicular } from '../curves/evaluate/transport.js';
import { progressEvery, tick, type Work } from '../base/work.js';
import { connectedParts } from '../mesh/topology/parts.js';
import { placesOfMesh } from '../mesh/topology/samePlaces.js';
import { cellSize, PointGrid } from '../space/grid.js';
import { piecesOf } from '../near/pieces.js';
import { type Pieces } from '../space/boxTree.js';
import { fieldAt, type Field } from '../values/field.js';
import { hash, randomAt } from '../values/random.js';

export interface ScatterOnFacesOptions {
  by: 'count' | 'density';
  count: number;
  /** Points a square metre, a value a face. */
  density: Field;
  /** 0: no points on this face; a value a face. */
  where: Field;
  seed: number;
  /** Metres between points at least, straight through space; 0: none. */
  minGap: number;
}

/** Candidates for each point that is asked for, when points need a gap. */
const candidates = 40;

/** A mesh of several connected pieces with their numbers as `body`, unless it has some. */
function withParts(mesh: Mesh, work: Work): Mesh {
  if (mesh.attributes.has('body')) return mesh;
  const { ofFace, count } = connectedParts(mesh, placesOfMesh(mesh, work));
  return count < 2 ? mesh : { ...mesh, attributes: withAttributes(mesh.attributes, { body: { carrier: 'face', size: 1, data: Float32Array.from(ofFace) } }) };
}

/**
 * Points at random places of a mesh, evenly over its area: a triangle drawn by its area, and a place in it by two numbers (Turk 1990). By count the same seed
 * draws the same and more points keep those there were; by density each face keeps its own whatever happens to others. Points carry `normal`, a `tangent` across it,
 * the values of their face and those of its corners between them, their number as `id`, and, where the mesh is of several connected pieces, the number of theirs as
 * `body`. `left` counts points for which there was no room.
 */
export function scatterOnFaces(given: Mesh, options: ScatterOnFacesOptions, work: Work): { points: Points; left: number } {
  const mesh = withParts(given, work);
  const pieces = piecesOf(mesh);
  const { seed, minGap } = options;
  const areas = areasOf(pieces, options.where);
  const spots = new Spots(pieces, minGap);
  let left = 0;
  if (options.by === 'count') {
    const ends = areas.slice();
    for (let i = 1; i < ends.length; i++) ends[i] += ends[i - 1];
    const total = ends[ends.length - 1] ?? 0;
    const most = total > 0 ? options.count * (minGap > 0 ? candidates : 1) : 0;
    for (let i = 0; i < most && spots.count < options.count; i++) {
      if (i % progressEvery === 0) work.progress(spots.count / options.count);
      spots.put(above(ends, randomAt(hash(seed, 1), i) * total), randomAt(hash(seed, 2), i), randomAt(hash(seed, 3), i));
    }
    left = total > 0 ? options.count - spots.count : 0;
  } else
    for (let i = 0; i < areas.length; i++) {
      tick(work, i, areas.length);
      const own = hash(seed, i);
      const wanted = areas[i] * fieldAt(options.density, pieces.element[i]);
      // What is less than a point is a chance of one.
      const count = Math.floor(wanted) + (randomAt(own, 0) < wanted % 1 ? 1 : 0);
      if (count) work.claim({ points: spots.count + count });
      for (let j = 1; j <= count; j++) if (!spots.put(i, randomAt(own, j * 2), randomAt(own, j * 2 + 1))) left++;
    }
  return { points: spots.finish(mesh), left };
}

/** Area of each triangle, 0 where there are to be no points. */
function areasOf({ corners: c, element }: Pieces, where: Field): Float64Array {
  const areas = new Float64Array(element.length);
  for (let i = 0; i < areas.length; i++) {
    if (!fieldAt(where, element[i])) continue;
    areas[i] = Math.hypot(...acrossOf(c, i)) / 2;
  }
  return areas;
}

/** A direction square to a triangle, twice its area long. */
function acrossOf(c: Float32Array, triangle: number): [number, number, number] {
  const o = triangle * 9;
  const [ux, uy, uz] = [c[o + 3] - c[o], c[o + 4] - c[o + 1], c[o + 5] - c[o + 2]];
  const [vx, vy, vz] = [c[o + 6] - c[o], c[o + 7] - c[o + 1], c[o + 8] - c[o + 2]];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

/** Index of the first of rising ends that is above a value. */
function above(ends: Float64Array, value: number): number {
  let [low, high] = [0, ends.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle] <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Weights of a triangle's corners for two numbers of 0…1, so that places are even over it (Turk 1990). */
export const evenWeights = (r1: number, r2: number): [number, number, number] => {
  const root = Math.sqrt(r1);
  return [1 - root, root * (1 - r2), root * r2];
};

/** Points as they are found, no two nearer to each other than the gap. */
class Spots {
  count = 0;
  private readonly pieces: number[] = [];
  private readonly weights: number[] = [];
  private readonly places: number[] = [];
  private readonly grid: PointGrid;

  constructor(
    private readonly of: Pieces,
    private readonly gap: number,
  ) {
    this.grid = new PointGrid(cellSize(of.corners, gap));
  }

  /** Adds a point, unless it lies too near to another. */
  put(piece: number, r1: number, r2: number): boolean {
    const weights = evenWeights(r1, r2);
    const place = [0, 1, 2].map((k) => weights.reduce((sum, weight, j) => sum + weight * this.of.corners[piece * 9 + j * 3 + k], 0));
    if (this.gap > 0 && !this.hasRoom(place)) return false;
    this.pieces.push(piece);
    this.weights.push(...weights);
    this.places.push(...place);
    this.count++;
    return true;
  }

  private hasRoom(place: readonly number[]): boolean {
    const { gap, places } = this;
    const [x, y, z] = place;
    if (this.grid.near(x, y, z, gap, (other) => Math.hypot(x - places[other * 3], y - places[other * 3 + 1], z - places[other * 3 + 2]) < gap)) return false;
    this.grid.add(x, y, z);
    return true;
  }

  finish(mesh: Mesh): Points {
    const { count } = this;
    const { points, element } = this.of;
    const attributes = new Map<string, Attribute>();
    for (const [name, { carrier, size, data }] of mesh.attributes) {
      if (carrier === 'whole') attributes.set(name, { carrier, size, data });
      if (carrier !== 'face' && carrier !== 'corner') continue;
      const own = new Float32Array(count * size);
      for (let i = 0; i < count; i++)
        for (let k = 0; k < size; k++)
          if (carrier === 'face') own[i * size + k] = data[element[this.pieces[i]] * size + k];
          else for (let j = 0; j < 3; j++) own[i * size + k] += this.weights[i * 3 + j] * data[points[this.pieces[i] * 3 + j] * size + k];
      attributes.set(name, { carrier: 'point', size, data: own });
    }
    attributes.set('normal', { carrier: 'point', size: 3, data: this.normals(attributes.get('normal')?.data) });
    const normal = attributes.get('normal')!.data;
    const tangent = new Float32Array(count * 3);
    for (let i = 0; i < count * 3; i += 3) perpendicular([0, 0, 1], normal[i], normal[i + 1], normal[i + 2], tangent, i);
    attributes.set('tangent', { carrier: 'point', size: 3, data: tangent });
    attributes.set('id', { carrier: 'point', size: 1, data: Float32Array.from({ length: count }, (_, i) => i) });
    return makePoints(Float32Array.from(this.places), attributes);
  }

  /** Unit normals: those between the vertices', or the triangle's own. */
  private normals(shading: Float32Array | undefined): Float32Array {
    const normals = new Float32Array(this.count * 3);
    for (let i = 0; i < this.count; i++) {
      const own = shading ? shading.subarray(i * 3, i * 3 + 3) : acrossOf(this.of.corners, this.pieces[i]);
      const size = Math.hypot(own[0], own[1], own[2]);
      for (let k = 0; k < 3; k++) normals[i * 3 + k] = size > 0 ? own[k] / size : k === 1 ? 1 : 0;
    }
    return normals;
  }
}
