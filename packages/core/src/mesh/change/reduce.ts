import { triangleCount, type Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { withAttributes } from '../../geometry/attributes.js';
import { cornerAfter, edgesOf } from '../topology/edgeTable.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { triangulate } from '../topology/triangulate.js';
import { gatherFaces } from './takeFaces.js';
import { refreshNormals } from './normals.js';

export interface ReduceOptions {
  /** Triangles that are to be left, at least as many as it takes to keep the shape. */
  triangles: number;
  /** Metres that the surface may be off at most; Infinity: as far as it takes. */
  maxError: number;
  /** Open borders stay as they are. */
  keepBorder: boolean;
}

export interface Reduced {
  readonly mesh: Mesh;
  /** How far the surface is off, metres, as measured; 0 where no bound was given. */
  readonly error: number;
  /** Places at which the surface is torn and was not: more than two faces at an edge, or two sheets that meet in a point. */
  readonly broken: number;
}

/** Measures how far one of two meshes is off the other at most, metres. */
export type Deviation = (made: Mesh, given: Mesh) => number;

/** How often it is tried again: with a smaller error where it came too far off, with points held where it broke. */
const tries = 8;

/** A mesh that came apart, or came too far off, is made again with a bound smaller by this and what it missed by. */
const stricter = 0.9;

/**
 * Fewer triangles: edges are collapsed where that changes the surface least (quadric errors, Garland & Heckbert 1997; meshoptimizer, which is loaded when it is first
 * asked for). Points that stay do not move, so seams, UVs and other values of corners stay true. The collapse only estimates how far it goes, so that is measured by
 * `deviation`, and it is made again with a smaller bound where it went too far. A surface stays one: where it tears, the points about the place are held.
 */
export async function reduce(given: Mesh, options: ReduceOptions, deviation: Deviation, work: Work = unbounded): Promise<Reduced> {
  const { indices } = triangulate(given);
  if (triangleCount(given) <= options.triangles) return { mesh: given, error: 0, broken: 0 };
  work.progress(0);
  const { MeshoptSimplifier } = await import('meshoptimizer');
  await MeshoptSimplifier.ready;
  const flags: ('LockBorder' | 'ErrorAbsolute')[] = options.keepBorder ? ['ErrorAbsolute', 'LockBorder'] : ['ErrorAbsolute'];
  const bounded = Number.isFinite(options.maxError);
  const vertices = given.positions.length / 3;
  const none = new Float32Array(0);
  let held: Uint8Array | null = null;
  let bound = bounded ? options.maxError : 1e30;
  for (let turn = 0; ; turn++) {
    const left = held
      ? MeshoptSimplifier.simplifyWithAttributes(indices, given.positions, 3, none, 0, [], held, options.triangles * 3, bound, flags)[0]
      : MeshoptSimplifier.simplify(indices, given.positions, 3, options.triangles * 3, bound, flags)[0];
    work.progress((turn + 0.5) / (tries + 1));
    const torn = tornAnew(given, indices, left, work);
    const last = turn === tries - 1;
    if (torn.length && !last) {
      held = holdAbout(indices, given, torn, held ?? new Uint8Array(vertices), turn + 2);
      continue;
    }
    const made = gathered(given, left, work);
    const error = bounded ? deviation(made, given) : 0;
    if (bounded && error > options.maxError && !last) {
      bound *= stricter * Math.max(0.1, options.maxError / error);
      continue;
    }
    // What is too far off after all tries is not given out.
    if (bounded && error > options.maxError) return { mesh: given, error: 0, broken: 0 };
    return { mesh: refreshNormals(made, made, work), error, broken: torn.length };
  }
}

function gathered(given: Mesh, corners: Uint32Array, work: Work): Mesh {
  const faceValues = [...given.attributes].filter(([, { carrier }]) => carrier === 'face').map(([name]) => [name, null]);
  const attributes = withAttributes(given.attributes, Object.fromEntries(faceValues));
  const faces = Uint32Array.from({ length: corners.length / 3 }, (_, f) => f);
  return gatherFaces({ ...given, corners, uniform: 3, faceStarts: null, attributes }, faces, work);
}

/** Places at which the surface is torn as made, and was not as given. */
function tornAnew(given: Mesh, indices: Uint32Array, made: Uint32Array, work: Work): number[] {
  const { pointOf, count } = placesOfMesh(given, work);
  const torn = tornPlaces(given, made, work);
  if (!torn.length) return torn;
  const asked = new Uint8Array(count);
  for (const place of torn) asked[place] = 1;
  // Only the given faces at these places are looked at: whole fans of them, so the places' own state is right.
  const about: number[] = [];
  for (let i = 0; i < indices.length; i += 3)
    if (asked[pointOf[indices[i]]] || asked[pointOf[indices[i + 1]]] || asked[pointOf[indices[i + 2]]]) about.push(indices[i], indices[i + 1], indices[i + 2]);
  for (const place of tornPlaces(given, Uint32Array.from(about), work)) asked[place] = 0;
  return torn.filter((place) => asked[place]);
}

/** Places (points of the given mesh) at ends of edges with more than two faces, or at which a surface meets itself in a point: the corners about it form more than one fan. */
function tornPlaces(given: Mesh, corners: Uint32Array, work: Work): number[] {
  const mesh: Mesh = { ...given, corners, uniform: 3, faceStarts: null };
  const { pointOf, count } = placesOfMesh(given, work);
  const edges = edgesOf({ ...mesh, pointOf, pointCount: count }, work);
  const torn = new Set<number>();
  const parent = Int32Array.from(corners, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  for (let e = 0; e < edges.count; e++) {
    if (edges.sides[e] === 1) continue;
    const [one, two] = [edges.from[e * 2], edges.from[e * 2 + 1]];
    const [oneEnd, twoEnd] = [cornerAfter(mesh, edges.face[e * 2], one), cornerAfter(mesh, edges.face[e * 2 + 1], two)];
    if (edges.sides[e] > 2) torn.add(pointOf[corners[one]]).add(pointOf[corners[oneEnd]]);
    else {
      // Sides of two faces that look the same way run against each other.
      const across = edges.against[e] ? two : twoEnd;
      parent[root(one)] = root(across);
      parent[root(oneEnd)] = root(across === two ? twoEnd : two);
    }
  }
  const fans = new Uint8Array(count);
  for (let i = 0; i < corners.length; i++) if (parent[i] === i && ++fans[pointOf[corners[i]]] > 1) torn.add(pointOf[corners[i]]);
  return [...torn];
}

/** Locks the vertices at some places and within `rings` edges of them. */
function holdAbout(indices: Uint32Array, given: Mesh, places: readonly number[], held: Uint8Array, rings: number): Uint8Array {
  const { pointOf, count } = placesOfMesh(given);
  const near = new Uint8Array(count);
  for (const place of places) near[place] = 1;
  for (let ring = 1; ring <= rings; ring++)
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [pointOf[indices[i]], pointOf[indices[i + 1]], pointOf[indices[i + 2]]];
      if (near[a] !== ring && near[b] !== ring && near[c] !== ring) continue;
      near[a] ||= ring + 1;
      near[b] ||= ring + 1;
      near[c] ||= ring + 1;
    }
  for (let v = 0; v < held.length; v++) if (near[pointOf[v]]) held[v] = 1;
  return held;
}
