import type { Mesh } from '../geometry/mesh.js';
import { placesOfMesh, type SamePlaces } from '../mesh/topology/samePlaces.js';
import { tableSize } from '../space/grid.js';
import { unbounded, type Work } from '../base/work.js';
import { nearestTreeOf, newHit, type Hit, type NearestTree } from './nearest.js';
import type { Pieces } from '../space/boxTree.js';

/** Weights below this count as none: the place lies on an edge, or in a corner. */
const onBorder = 1e-9;

/**
 * A mesh as a body: its nearest places, and on which side of it a place lies. Inside a face the face's normal tells it; on an edge the mean of both faces', in a
 * corner that of all faces there weighted by their angles, with which the side is right everywhere (Bærentzen & Aanæs 2005). Vertices at one place are one
 * corner, however the mesh is split up.
 */
export class Surface {
  readonly nearest: NearestTree;
  private known: Normals | null = null;

  /** @param work is told how far it is while the tree is built. @throws RangeError when the mesh has no faces. */
  constructor(
    private readonly mesh: Mesh,
    work: Work = unbounded,
  ) {
    this.nearest = nearestTreeOf(mesh, work);
    if (!this.nearest.pieces.element.length) throw new RangeError('The body has no faces.');
  }

  /** The normals, when they are first asked for: rays do without. */
  private get normals(): Normals {
    return (this.known ??= new Normals(this.nearest.pieces, placesOfMesh(this.mesh)));
  }

  /** Writes the unit direction outwards at the place of a hit, and returns false where there is none (a body folded flat). */
  outward(hit: Pick<Hit, 'piece' | 'weights'>, into: Float64Array): boolean {
    return this.normals.outward(hit, into);
  }

  /** Which triangles meet at the sides of triangles: side k of triangle i runs from its corner k to the next; −1 where there is none beyond it. */
  get beyond(): Int32Array {
    return this.normals.beyond;
  }

  /** Unit normals of triangles, 3 numbers each; 0, 0, 0 for those without area. */
  get triangleNormals(): Float64Array {
    return this.normals.ofTriangles;
  }

  /** Writes the direction that light falls on at the place of a hit: between the normals of the mesh's vertices, or outwards where it has none. */
  shading({ piece, weights }: Hit, into: Float64Array): void {
    const normals = this.mesh.attributes.get('normal')?.data;
    if (!normals) return void this.outward({ piece, weights }, into);
    const { points } = this.nearest.pieces;
    for (let k = 0; k < 3; k++) into[k] = weights.reduce((sum, weight, j) => sum + weight * normals[points[piece * 3 + j] * 3 + k], 0);
  }

  /** Metres from a place to the body, negative inside; the nearest place goes to `hit`. */
  signedDistance(x: number, y: number, z: number, hit: Hit = newHit()): number {
    this.nearest.nearest(x, y, z, hit);
    if (!this.outward(hit, outwards)) return hit.distance;
    const side = (x - hit.place[0]) * outwards[0] + (y - hit.place[1]) * outwards[1] + (z - hit.place[2]) * outwards[2];
    return side < 0 ? -hit.distance : hit.distance;
  }
}

const outwards = new Float64Array(3);

const surfaces = new WeakMap<Mesh, Surface>();

/** The surface of a mesh, the same one as long as the mesh is the same: a drag of what lies on a body does not build it anew. */
export function surfaceOf(mesh: Mesh, work: Work = unbounded): Surface {
  let surface = surfaces.get(mesh);
  if (!surface) surfaces.set(mesh, (surface = new Surface(mesh, work)));
  return surface;
}

/** Directions outwards from triangles, their sides and their corners. */
class Normals {
  /** Unit normals of triangles. */
  readonly ofTriangles: Float64Array;
  /** The triangle beyond each side of each triangle (side k runs from corner k to the next), −1: none. */
  readonly beyond: Int32Array;
  /** The place of each corner of the triangles, and the normals there. */
  private readonly placeOf: Uint32Array;
  private readonly atPlaces: Float64Array;

  constructor({ points, corners, element }: Pieces, { pointOf, count }: SamePlaces) {
    this.placeOf = points.map((vertex) => pointOf[vertex]);
    this.ofTriangles = new Float64Array(element.length * 3);
    this.atPlaces = new Float64Array(count * 3);
    for (let i = 0; i < element.length; i++) this.addNormals(i, corners);
    this.beyond = neighbours(this.placeOf);
  }

  private addNormals(i: number, c: Float32Array): void {
    const o = i * 9;
    const side = (from: number, to: number, k: number): number => c[o + to * 3 + k] - c[o + from * 3 + k];
    const [ux, uy, uz] = [side(0, 1, 0), side(0, 1, 1), side(0, 1, 2)];
    const [vx, vy, vz] = [side(0, 2, 0), side(0, 2, 1), side(0, 2, 2)];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    if (!(size > 0)) return;
    for (let k = 0; k < 3; k++) this.ofTriangles[i * 3 + k] = n[k] / size;
    for (let corner = 0; corner < 3; corner++) {
      const [next, last] = [(corner + 1) % 3, (corner + 2) % 3];
      let [along, a2, b2] = [0, 0, 0];
      for (let k = 0; k < 3; k++) {
        const [a, b] = [side(corner, next, k), side(corner, last, k)];
        along += a * b;
        a2 += a * a;
        b2 += b * b;
      }
      const angle = Math.acos(Math.min(1, Math.max(-1, along / Math.sqrt(a2 * b2))));
      const at = this.placeOf[i * 3 + corner] * 3;
      for (let k = 0; k < 3; k++) this.atPlaces[at + k] += angle * this.ofTriangles[i * 3 + k];
    }
  }

  outward({ piece, weights }: Pick<Hit, 'piece' | 'weights'>, into: Float64Array): boolean {
    const off = [0, 1, 2].filter((k) => weights[k] <= onBorder);
    if (off.length === 2) {
      const corner = [0, 1, 2].find((k) => !off.includes(k))!;
      const at = this.placeOf[piece * 3 + corner] * 3;
      for (let k = 0; k < 3; k++) into[k] = this.atPlaces[at + k];
    } else {
      for (let k = 0; k < 3; k++) into[k] = this.ofTriangles[piece * 3 + k];
      // The side across from a corner begins at the next one.
      const other = off.length === 1 ? this.beyond[piece * 3 + ((off[0] + 1) % 3)] : -1;
      if (other >= 0) for (let k = 0; k < 3; k++) into[k] += this.ofTriangles[other * 3 + k];
    }
    const size = Math.sqrt(into[0] * into[0] + into[1] * into[1] + into[2] * into[2]);
    if (!(size > 1e-12)) return false;
    for (let k = 0; k < 3; k++) into[k] /= size;
    return true;
  }
}

/** For each side of each triangle (three corners each, by place) the triangle on its other side; of more than two at an edge the first two find each other. */
function neighbours(placeOf: Uint32Array): Int32Array {
  const mask = tableSize(placeOf.length) - 1;
  const table = new Int32Array(mask + 1).fill(-1);
  const beyond = new Int32Array(placeOf.length).fill(-1);
  const end = (side: number): number => placeOf[side % 3 === 2 ? side - 2 : side + 1];
  for (let side = 0; side < placeOf.length; side++) {
    const [a, b] = [placeOf[side], end(side)];
    const [low, high] = a < b ? [a, b] : [b, a];
    let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (; table[slot] >= 0; slot = (slot + 1) & mask) {
      const other = table[slot];
      const [c, d] = [placeOf[other], end(other)];
      if (beyond[other] >= 0 || Math.min(c, d) !== low || Math.max(c, d) !== high) continue;
      beyond[side] = (other / 3) | 0;
      beyond[other] = (side / 3) | 0;
      break;
    }
    if (table[slot] < 0) table[slot] = side;
  }
  return beyond;
}
