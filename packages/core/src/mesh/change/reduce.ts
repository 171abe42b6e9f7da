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
  /** Edges between more than two faces, or open where the given mesh was closed, that could not be kept from coming. */
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
 * `deviation`, and it is made again with a smaller bound where it went too far. A surface stays one: where faces would meet three at an edge the points about it are held.
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
  const whole = isWhole(given, work);
  const none = new Float32Array(0);
  let held: Uint8Array | null = null;
  let bound = bounded ? options.maxError : 1e30;
  for (let turn = 0; ; turn++) {
    const left = held
      ? MeshoptSimplifier.simplifyWithAttributes(indices, given.positions, 3, none, 0, [], held, options.triangles * 3, bound, flags)[0]
      : MeshoptSimplifier.simplify(indices, given.positions, 3, options.triangles * 3, bound, flags)[0];
    work.progress((turn + 0.5) / (tries + 1));
    const made = gathered(given, left, work);
    const torn = whole ? tornPlaces(given, left, work) : [];
    const last = turn === tries - 1;
    if (torn.length && !last) {
      held = holdAbout(indices, given, torn, held ?? new Uint8Array(vertices), turn + 2);
      continue;
    }
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

/** Edges of a mesh over distinct places. */
function placedEdges(mesh: Mesh, work: Work): ReturnType<typeof edgesOf> {
  const { pointOf, count } = placesOfMesh(mesh, work);
  return edgesOf({ ...mesh, pointOf, pointCount: count }, work);
}

/** Whether no edge has more than two faces. */
function isWhole(mesh: Mesh, work: Work): boolean {
  const { sides, count } = placedEdges(mesh, work);
  for (let e = 0; e < count; e++) if (sides[e] > 2) return false;
  return true;
}

/** Places (points of the given mesh) at ends of edges with more than two faces, or at which a surface meets itself in a point: the corners about it form more than one fan. */
function tornPlaces(given: Mesh, corners: Uint32Array, work: Work): number[] {
  const mesh: Mesh = { ...given, corners, uniform: 3, faceStarts: null };
  const { pointOf, count } = placesOfMesh(given, work);
  const edges = edgesOf({ ...mesh, pointOf, pointCount: count }, work);
  const torn = new Set<number>();
  const parent = Int32Array.from({ length: corners.length }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  for (let e = 0; e < edges.count; e++) {
    const from = edges.from[e * 2];
    const [a, b] = [pointOf[corners[from]], pointOf[corners[cornerAfter(mesh, edges.face[e * 2], from)]]];
    if (edges.sides[e] > 2) torn.add(a).add(b);
    if (edges.sides[e] !== 2) continue;
    for (const end of [a, b]) {
      const [one, two] = [cornerAt(mesh, pointOf, edges.face[e * 2], end), cornerAt(mesh, pointOf, edges.face[e * 2 + 1], end)];
      if (one >= 0 && two >= 0) parent[root(one)] = root(two);
    }
  }
  const fans = new Uint8Array(count);
  for (let i = 0; i < corners.length; i++) if (root(i) === i && ++fans[pointOf[corners[i]]] > 1) torn.add(pointOf[corners[i]]);
  return [...torn];
}

/** The corner of a triangle at a place; −1: none. */
function cornerAt({ corners }: Mesh, pointOf: Uint32Array, face: number, place: number): number {
  for (let i = face * 3; i < face * 3 + 3; i++) if (pointOf[corners[i]] === place) return i;
  return -1;
}

/** Locks the vertices at some places and within `rings` edges of them. */
function holdAbout(indices: Uint32Array, given: Mesh, places: readonly number[], held: Uint8Array, rings: number): Uint8Array {
  const { pointOf, count } = placesOfMesh(given);
  const near = new Uint8Array(count);
  for (const place of places) near[place] = 1;
  for (let ring = 1; ring <= rings; ring++)
    for (let i = 0; i < indices.length; i += 3) {
      const corners = [0, 1, 2].map((k) => pointOf[indices[i + k]]);
      if (corners.some((place) => near[place] === ring)) for (const place of corners) near[place] ||= ring + 1;
    }
  for (let v = 0; v < held.length; v++) if (near[pointOf[v]]) held[v] = 1;
  return held;
}
