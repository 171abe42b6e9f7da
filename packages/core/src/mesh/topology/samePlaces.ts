import type { Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { tableSize } from '../../space/grid.js';

/** Vertices at the very same place are one point; which ones, told by numbers in the order of their first vertices. */
export interface SamePlaces {
  /** The point of each vertex. */
  readonly pointOf: Uint32Array;
  readonly count: number;
}

/** Finds vertices whose three coordinates are equal (0 and −0 are). Files that split vertices at seams, or repeat them in every face, are whole again by it. */
export function samePlaces(positions: Float32Array, work: Work = unbounded): SamePlaces {
  const vertices = positions.length / 3;
  // Adding 0 makes −0 into 0, so that equal numbers have equal bits.
  const bits = new Uint32Array(positions.map((value) => value + 0).buffer);
  const mask = tableSize(vertices) - 1;
  const table = new Int32Array(mask + 1).fill(-1);
  const pointOf = new Uint32Array(vertices);
  let count = 0;
  for (let v = 0; v < vertices; v++) {
    tick(work, v, vertices);
    const [x, y, z] = [bits[v * 3], bits[v * 3 + 1], bits[v * 3 + 2]];
    let slot = (Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (; ; slot = (slot + 1) & mask) {
      const other = table[slot];
      if (other < 0) {
        table[slot] = v;
        pointOf[v] = count++;
        break;
      }
      if (bits[other * 3] === x && bits[other * 3 + 1] === y && bits[other * 3 + 2] === z) {
        pointOf[v] = pointOf[other];
        break;
      }
    }
  }
  return { pointOf, count };
}

const known = new WeakMap<Mesh, SamePlaces>();

/**
 * The place of each vertex of a mesh: vertices of one point are at one place, whatever rounding left between them, and so are points at the very same place. Found
 * once for a mesh, as long as that is there.
 */
export function placesOfMesh(mesh: Mesh, work: Work = unbounded): SamePlaces {
  let places = known.get(mesh);
  if (!places) known.set(mesh, (places = findPlaces(mesh, work)));
  return places;
}

function findPlaces({ positions, pointOf, pointCount }: Mesh, work: Work): SamePlaces {
  const places = samePlaces(positions, work);
  if (!pointOf) return places;
  const first = new Int32Array(pointCount).fill(-1);
  const own = new Uint32Array(pointOf.length);
  for (let v = 0; v < own.length; v++) {
    if (first[pointOf[v]] < 0) first[pointOf[v]] = places.pointOf[v];
    own[v] = first[pointOf[v]];
  }
  return { pointOf: own, count: places.count };
}
