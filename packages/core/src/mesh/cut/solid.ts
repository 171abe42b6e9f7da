import type { Manifold, ManifoldToplevel } from 'manifold-3d';
import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { joinMeshes } from '../../geometry/join.js';
import { emptyMesh, makeMesh, triangleCount, vertexCount, type Mesh } from '../../geometry/mesh.js';
import { brokeOff, ForeignPart } from '../../base/foreign.js';
import { unbounded, type Work } from '../../base/work.js';
import { edgesOf } from '../topology/edgeTable.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { triangulate } from '../topology/triangulate.js';

export type SolidOperation = 'union' | 'difference' | 'intersection';

/** A body that has no inside, so that nothing can be cut out of it or put to it. */
export class NotSolid extends RangeError {
  constructor(
    /** Which of the bodies, from 0. */
    readonly body: number,
    readonly why: string,
  ) {
    super(`Body ${body + 1} ${why}`);
  }
}

export interface Solid {
  readonly mesh: Mesh;
  /** Bodies that were inside out, and were taken the right way round. */
  readonly turned: readonly number[];
}

/** The library (an Apache-2.0 WebAssembly module). */
const library = new ForeignPart<ManifoldToplevel>(async () => {
  const { default: load } = await import('manifold-3d');
  const module = await load();
  module.setup();
  return module;
});

/**
 * Closed bodies put together (union), the others cut out of the first (difference), or what all have in common (intersection), by manifold-3d. The pieces of one body that
 * overlap count as one. Values of corners are interpolated along the cuts, values of faces and materials are those of the body a face is from.
 * @throws NotSolid naming the first body that is open or has edges where more than two faces meet; Error when the library breaks off.
 */
export async function solid(bodies: readonly Mesh[], operation: SolidOperation, work: Work = unbounded): Promise<Solid> {
  if (!bodies.length) return { mesh: emptyMesh, turned: [] };
  work.progress(0);
  return library.use((all) => solidWith(all, bodies, operation, work));
}

function solidWith(all: ManifoldToplevel, bodies: readonly Mesh[], operation: SolidOperation, work: Work): Solid {
  const joined = new JoinedBodies(bodies);
  const made: Manifold[] = [];
  const keep = (each: Manifold): Manifold => {
    made.push(each);
    return each;
  };
  const turned: number[] = [];
  try {
    const closed = bodies.map((_, b) => {
      work.progress((0.5 * b) / bodies.length);
      const { body, inside } = bodyOf(all, joined, b, keep);
      if (inside) turned.push(b);
      return body;
    });
    const result = closed.length === 1 ? closed[0] : keep(all.Manifold[operation](closed));
    work.progress(0.9);
    return { mesh: joined.meshOf(result), turned };
  } catch (error) {
    // Of a library that broke off nothing can be given back: all of it goes.
    if (brokeOff(error)) made.length = 0;
    throw error;
  } finally {
    for (const each of made) each.delete();
  }
}

/** One of the bodies as the library takes it: its pieces as one, the right way round. */
function bodyOf(all: ManifoldToplevel, joined: JoinedBodies, b: number, keep: (each: Manifold) => Manifold): { body: Manifold; inside: boolean } {
  // Looked at before: the library reads outside of its memory where the sides of an edge do not pair, and breaks off sooner or later.
  const fault = joined.faultOf(b);
  if (fault) throw new NotSolid(b, fault);
  const made = (mirrored: boolean): Manifold => {
    try {
      return keep(new all.Manifold(new all.Mesh(joined.givenOf(b, all.Manifold.reserveIDs(1), mirrored))));
    } catch (error) {
      if (brokeOff(error)) throw error;
      throw new NotSolid(b, `cannot be taken as a solid (${(error as Error).message}).`);
    }
  };
  let whole = made(false);
  const inside = whole.volume() < 0;
  if (inside) whole = made(true);
  const pieces = whole.decompose().map(keep);
  // A piece that is inside out is a hollow of another, and has to stay with it.
  if (pieces.length < 2 || pieces.some((piece) => piece.volume() < 0)) return { body: whole, inside };
  return { body: keep(all.Manifold.union(pieces)), inside };
}

/** The bodies in one mesh, whose values the result takes. */
class JoinedBodies {
  private readonly mesh: Mesh;
  private readonly triangles: { readonly indices: Uint32Array; readonly faceOf: Uint32Array };
  /** The first vertex and the first triangle of each body, and the numbers of all. */
  private readonly vertexStarts: number[] = [0];
  private readonly triangleStarts: number[] = [0];
  private readonly corners: readonly (readonly [string, Attribute])[];
  /** Numbers of a vertex: its place, and the values of corners one after another. */
  private readonly width: number;
  /** Bodies by the numbers that the library knows them by. */
  private readonly ids = new Map<number, number>();

  constructor(private readonly bodies: readonly Mesh[]) {
    this.mesh = joinMeshes(bodies);
    this.triangles = triangulate(this.mesh);
    for (const body of bodies) {
      this.vertexStarts.push(this.vertexStarts.at(-1)! + vertexCount(body));
      this.triangleStarts.push(this.triangleStarts.at(-1)! + triangleCount(body));
    }
    this.corners = [...this.mesh.attributes].filter(([, { carrier }]) => carrier === 'corner');
    this.width = 3 + this.corners.reduce((sum, [, { size }]) => sum + size, 0);
  }

  /** Vertices, triangles and sameness of places of a body. */
  givenOf(b: number, id: number, mirrored: boolean): ConstructorParameters<ManifoldToplevel['Mesh']>[0] {
    this.ids.set(id, b);
    const { width } = this;
    const [from, to] = [this.vertexStarts[b], this.vertexStarts[b + 1]];
    const vertProperties = new Float32Array((to - from) * width);
    let offset = 3;
    for (const { data, size } of [{ data: this.mesh.positions, size: 3 }, ...this.corners.map(([, attribute]) => attribute)]) {
      const at = data === this.mesh.positions ? 0 : offset;
      for (let v = from; v < to; v++) for (let k = 0; k < size; k++) vertProperties[(v - from) * width + at + k] = data[v * size + k];
      if (at) offset += size;
    }
    const { pointOf } = placesOfMesh(this.bodies[b]);
    const first = new Int32Array(to - from).fill(-1);
    const [mergeFrom, mergeTo]: [number[], number[]] = [[], []];
    pointOf.forEach((point, v) => {
      if (first[point] < 0) first[point] = v;
      else {
        mergeFrom.push(v);
        mergeTo.push(first[point]);
      }
    });
    const faceID = this.trianglesOf(b, pointOf);
    const triVerts = new Uint32Array(faceID.length * 3);
    faceID.forEach((t, i) => {
      const turned = mirrored ? 1 : 0;
      triVerts[i * 3] = this.triangles.indices[t * 3 + turned] - from;
      triVerts[i * 3 + 1] = this.triangles.indices[t * 3 + 1 - turned] - from;
      triVerts[i * 3 + 2] = this.triangles.indices[t * 3 + 2] - from;
    });
    return {
      numProp: width,
      vertProperties,
      triVerts,
      mergeFromVert: Uint32Array.from(mergeFrom),
      mergeToVert: Uint32Array.from(mergeTo),
      runIndex: Uint32Array.of(0, triVerts.length),
      runOriginalID: Uint32Array.of(id),
      faceID: Uint32Array.from(faceID),
    };
  }

  /** The triangles of a body whose corners lie at three places: the library cannot pair the sides of others, which have no surface. */
  private trianglesOf(b: number, pointOf: Uint32Array): number[] {
    const { indices } = this.triangles;
    const from = this.vertexStarts[b];
    const found: number[] = [];
    for (let t = this.triangleStarts[b]; t < this.triangleStarts[b + 1]; t++) {
      const p = pointOf[indices[t * 3] - from];
      const q = pointOf[indices[t * 3 + 1] - from];
      const r = pointOf[indices[t * 3 + 2] - from];
      if (p !== q && q !== r && r !== p) found.push(t);
    }
    return found;
  }

  /** Why a body has no inside: at some edge not as many sides run one way as the other; null: it has one, though more than two faces may meet at an edge. */
  faultOf(b: number): string | null {
    const places = placesOfMesh(this.bodies[b]);
    if (!this.trianglesOf(b, places.pointOf).length) return 'has no face with a surface.';
    const edges = edgesOf({ ...this.bodies[b], pointOf: places.pointOf, pointCount: places.count });
    let [open, crowded, against] = [0, 0, 0];
    for (let e = 0; e < edges.count; e++) {
      if (edges.surplus[e] === 0) continue;
      if (edges.sides[e] === 1) open++;
      else if (edges.sides[e] > 2) crowded++;
      else against++;
    }
    const counted = (count: number): string => `${count} ${count === 1 ? 'edge' : 'edges'}`;
    if (open) return `is not closed: it has ${counted(open)} with a face on one side only.`;
    if (crowded) return `has ${counted(crowded)} where more than two faces meet.`;
    return against ? `has ${counted(against)} whose faces look opposite ways.` : null;
  }

  /** A result of the library as a mesh, with the values of what it was made of. */
  meshOf(result: Manifold): Mesh {
    const { width } = this;
    const { vertProperties, triVerts, faceID, mergeFromVert, mergeToVert, runIndex, runOriginalID, runFlags } = result.getMesh();
    if (!triVerts.length) return { ...emptyMesh, materials: this.mesh.materials };
    const vertices = vertProperties.length / width;
    const representative = Uint32Array.from({ length: vertices }, (_, v) => v);
    mergeFromVert.forEach((v, i) => (representative[v] = mergeToVert[i]));
    const number = new Int32Array(vertices).fill(-1);
    let pointCount = 0;
    const pointOf = representative.map((v) => (number[v] < 0 ? (number[v] = pointCount++) : number[v]));
    const positions = new Float32Array(vertices * 3);
    for (let v = 0; v < vertices; v++) for (let k = 0; k < 3; k++) positions[v * 3 + k] = vertProperties[v * width + k];
    const attributes = new Map<string, Attribute>();
    let offset = 3;
    for (const [name, { carrier, size }] of this.corners) {
      const data = new Float32Array(vertices * size);
      for (let v = 0; v < vertices; v++) for (let k = 0; k < size; k++) data[v * size + k] = vertProperties[v * width + offset + k];
      attributes.set(name, { carrier, size, data });
      offset += size;
    }
    const normals = attributes.get('normal')?.data;
    // What was cut out of a body is seen from the other side.
    if (normals) for (let run = 0; run < runOriginalID.length; run++) if (runFlags[run] & 1) turnOnce(normals, triVerts, runIndex[run], runIndex[run + 1]);
    if (normals) lengthsOfOne(normals);
    const faceOf = Uint32Array.from(faceID, (t) => this.triangles.faceOf[t]);
    for (const [name, attribute] of this.mesh.attributes) {
      if (attribute.carrier === 'face') attributes.set(name, { ...attribute, data: gatherRows(attribute, faceOf) });
      else if (attribute.carrier === 'whole') attributes.set(name, attribute);
    }
    return makeMesh({ positions, pointOf, pointCount, corners: triVerts.slice(), uniform: 3, materials: this.mesh.materials, attributes });
  }
}

/** Turns the normals of the vertices of a run round, each once. */
function turnOnce(normals: Float32Array, corners: Uint32Array, from: number, to: number): void {
  for (const v of new Set(corners.subarray(from, to))) for (let k = 0; k < 3; k++) normals[v * 3 + k] *= -1;
}

function lengthsOfOne(normals: Float32Array): void {
  for (let i = 0; i < normals.length; i += 3) {
    const length = Math.hypot(normals[i], normals[i + 1], normals[i + 2]) || 1;
    for (let k = 0; k < 3; k++) normals[i + k] /= length;
  }
}
