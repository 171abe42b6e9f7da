import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { faceCount, faceStart, vertexCount, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { PairTable } from '../topology/pairTable.js';
import { triangulate } from '../topology/triangulate.js';
import { refreshNormals, smoothNormals } from './normals.js';

export type RefineScheme = 'flat' | 'catmullClark' | 'triangles';

export interface RefineOptions {
  times: number;
  /**
   * `flat`: faces are divided where they lie; `catmullClark`: into quads that round the mesh (Catmull & Clark 1978); `triangles`: into triangles that do (Loop 1987).
   * Borders are rounded by themselves (cubic B-splines, Hoppe et al. 1994).
   */
  scheme: RefineScheme;
  /** Corners of borders stay where they are. */
  keepCorners: boolean;
}

/**
 * Divides faces. Where only some are (`where`, a number a face, not 0), their neighbours get the new points into their outlines, so that there are no cracks; what is
 * divided is rounded within its own border. Values of faces go to their pieces; UVs and other values of corners are divided straight.
 */
export function refine(given: Mesh, where: ArrayLike<number> | null, options: RefineOptions, work: Work = unbounded): Mesh {
  let mesh = options.scheme === 'triangles' ? asTriangles(given) : { mesh: given, faceOf: null };
  let chosen =
    where &&
    (mesh.faceOf
      ? Uint8Array.from(mesh.faceOf, (f) => Number(where[f] !== 0))
      : Uint8Array.from({ length: faceCount(given) }, (_, f) => Number(where[f] !== 0)));
  const all = faceCount(mesh.mesh);
  const more = (chosen ? chosen.reduce((sum, own) => sum + own, 0) : all) * 4 ** options.times;
  if (options.times) work.claim({ faces: all + more, vertices: vertexCount(mesh.mesh) + more });
  for (let turn = 0; turn < options.times; turn++) {
    work.progress(turn / options.times);
    const step = new Refinement(mesh.mesh, chosen, options, work).run();
    mesh = { mesh: step.mesh, faceOf: null };
    chosen = chosen && Uint8Array.from(step.sources, (f) => chosen![f]);
  }
  if (!options.times) return given;
  // What was rounded is smooth all over; what lies as it did keeps its creases.
  return options.scheme === 'flat' ? refreshNormals(mesh.mesh, mesh.mesh, work) : smoothNormals(mesh.mesh, work);
}

/** The mesh cut into triangles. */
function asTriangles(mesh: Mesh): { mesh: Mesh; faceOf: Uint32Array | null } {
  if (mesh.uniform === 3) return { mesh, faceOf: null };
  const { indices, faceOf } = triangulate(mesh);
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of mesh.attributes)
    attributes.set(name, attribute.carrier === 'face' ? { ...attribute, data: gatherRows(attribute, faceOf) } : attribute);
  return { mesh: { ...mesh, corners: indices, uniform: 3, faceStarts: null, attributes }, faceOf };
}

/** One division of a mesh. Its points are: those there were, one an edge that is divided, one a face that gets a middle; and so are its vertices. */
class Refinement {
  private readonly points: Uint32Array;
  private readonly pointCount: number;
  /** Edges over points, and over vertices: at a seam one of the first is several of the second. */
  private readonly edges: PairTable;
  private readonly seams: PairTable;
  /** Of each edge: whether a face beside it is divided, how many are beside it, and the sum of what lies beside it. */
  private readonly divided: Uint8Array;
  private readonly beside: Uint8Array;
  private readonly inner: Uint8Array;
  private readonly sums: Float64Array;
  private readonly middles: Float64Array;
  private readonly places: Float64Array;

  constructor(
    private readonly mesh: Mesh,
    private readonly chosen: Uint8Array | null,
    private readonly options: RefineOptions,
    private readonly work: Work,
  ) {
    const own = placesOfMesh(mesh, work);
    this.points = own.pointOf;
    this.pointCount = own.count;
    const corners = mesh.corners.length;
    this.edges = new PairTable(corners);
    this.seams = new PairTable(corners);
    this.divided = new Uint8Array(corners);
    this.beside = new Uint8Array(corners);
    this.inner = new Uint8Array(corners);
    this.sums = new Float64Array(corners * 3);
    this.middles = new Float64Array(faceCount(mesh) * 3);
    this.places = new Float64Array(this.pointCount * 3);
    for (let v = 0; v < this.points.length; v++) for (let k = 0; k < 3; k++) this.places[this.points[v] * 3 + k] = mesh.positions[v * 3 + k];
  }

  run(): { mesh: Mesh; sources: number[] } {
    this.look();
    const edgePlaces = this.edgePlaces();
    const pointPlaces = this.options.scheme === 'flat' ? this.places : this.pointPlaces();
    return this.build(pointPlaces, edgePlaces);
  }

  private isChosen(f: number): boolean {
    return !this.chosen || this.chosen[f] !== 0;
  }

  /** Numbers the edges, and finds the middles of faces. */
  private look(): void {
    const { mesh, points, edges, middles, places } = this;
    const faces = faceCount(mesh);
    for (let f = 0; f < faces; f++) {
      tick(this.work, f, faces);
      const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
      for (let i = from; i < to; i++) for (let k = 0; k < 3; k++) middles[f * 3 + k] += places[points[mesh.corners[i]] * 3 + k] / (to - from);
      const chosen = this.isChosen(f);
      for (let i = from; i < to; i++) {
        const next = i + 1 < to ? i + 1 : from;
        const e = edges.number(points[mesh.corners[i]], points[mesh.corners[next]]);
        if (this.beside[e] < 255) this.beside[e]++;
        if (!chosen) continue;
        this.divided[e] = 1;
        if (this.inner[e] < 255) this.inner[e]++;
        const across = this.options.scheme === 'triangles' ? points[mesh.corners[i === from ? to - 1 : i - 1]] * 3 : -1;
        for (let k = 0; k < 3; k++) this.sums[e * 3 + k] += across < 0 ? middles[f * 3 + k] : places[across + k];
      }
    }
  }

  /** An edge between two divided faces is rounded; one at a border, of three faces or more, or beside what is not divided is sharp. */
  private isSmooth(e: number): boolean {
    return this.beside[e] === 2 && this.inner[e] === 2;
  }

  private edgePlaces(): Float64Array {
    const { edges, places, sums } = this;
    const [ends, beside] = this.options.scheme === 'triangles' ? [3 / 8, 1 / 8] : [1 / 4, 1 / 4];
    const result = new Float64Array(edges.count * 3);
    for (let e = 0; e < edges.count; e++) {
      if (!this.divided[e]) continue;
      const [a, b] = [edges.ends[e * 2] * 3, edges.ends[e * 2 + 1] * 3];
      const smooth = this.options.scheme !== 'flat' && this.isSmooth(e);
      for (let k = 0; k < 3; k++)
        result[e * 3 + k] = smooth ? ends * (places[a + k] + places[b + k]) + beside * sums[e * 3 + k] : (places[a + k] + places[b + k]) / 2;
    }
    return result;
  }

  /** Where the points there were go. */
  private pointPlaces(): Float64Array {
    const { mesh, points, edges, places, middles, pointCount } = this;
    const valence = new Uint32Array(pointCount);
    const around = new Float64Array(pointCount * 3);
    const faces = new Uint32Array(pointCount);
    const middle = new Float64Array(pointCount * 3);
    const sharp = new Uint32Array(pointCount);
    const along = new Float64Array(pointCount * 3);
    for (let e = 0; e < edges.count; e++) {
      if (!this.divided[e]) continue;
      for (const side of [0, 1]) {
        const [a, b] = [edges.ends[e * 2 + side], edges.ends[e * 2 + 1 - side]];
        valence[a]++;
        for (let k = 0; k < 3; k++) around[a * 3 + k] += places[b * 3 + k];
        if (this.isSmooth(e)) continue;
        sharp[a]++;
        for (let k = 0; k < 3; k++) along[a * 3 + k] += places[b * 3 + k];
      }
    }
    for (let f = 0; f < faceCount(mesh); f++) {
      if (!this.isChosen(f)) continue;
      for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) {
        const a = points[mesh.corners[i]];
        faces[a]++;
        for (let k = 0; k < 3; k++) middle[a * 3 + k] += middles[f * 3 + k];
      }
    }
    const result = places.slice();
    for (let a = 0; a < pointCount; a++) {
      const n = valence[a];
      if (!n) continue;
      // Where a border runs through it is a curve of its own; where several meet, or a lone face has its corner, the point stays.
      if (sharp[a] && (sharp[a] !== 2 || (this.options.keepCorners && faces[a] === 1))) continue;
      const beta = (5 / 8 - (3 / 8 + Math.cos((2 * Math.PI) / n) / 4) ** 2) / n;
      for (let k = 0; k < 3; k++) {
        const o = a * 3 + k;
        if (sharp[a]) result[o] = (6 * places[o] + along[o]) / 8;
        else if (this.options.scheme === 'triangles') result[o] = (1 - n * beta) * places[o] + beta * around[o];
        else result[o] = (middle[o] / faces[a] + (places[o] + around[o] / n) + (n - 3) * places[o]) / n;
      }
    }
    return result;
  }

  private build(pointPlaces: Float64Array, edgePlaces: Float64Array): { mesh: Mesh; sources: number[] } {
    const { mesh, points, edges, seams, middles, pointCount } = this;
    const vertices = vertexCount(mesh);
    const faces = faceCount(mesh);
    const corners: number[] = [];
    const starts = [0];
    const sources: number[] = [];
    const centred: number[] = [];
    const face = (f: number, ...list: number[]): void => {
      corners.push(...list);
      starts.push(corners.length);
      sources.push(f);
    };
    // Vertices of edges and middles are numbered apart until their counts are known.
    const onEdge = (a: number, b: number): number => -1 - seams.number(a, b) * 2;
    const inMiddle = (f: number): number => -2 - (centred.push(f) - 1) * 2;
    for (let f = 0; f < faces; f++) {
      tick(this.work, f, faces);
      const own = Array.from(mesh.corners.subarray(faceStart(mesh, f), faceStart(mesh, f + 1)));
      const n = own.length;
      const splits = own.map((v, i) => this.divided[edges.find(points[v], points[own[(i + 1) % n]])] === 1);
      const mid = own.map((v, i) => (splits[i] ? onEdge(v, own[(i + 1) % n]) : v));
      if (!this.isChosen(f)) {
        if (n === 3 && this.options.scheme !== 'catmullClark') green(own, mid, splits, (...list) => face(f, ...list));
        else face(f, ...own.flatMap((v, i) => (splits[i] ? [v, mid[i]] : [v])));
      } else if (n === 3 && this.options.scheme !== 'catmullClark') {
        own.forEach((v, i) => face(f, v, mid[i], mid[(i + 2) % 3]));
        face(f, mid[0], mid[1], mid[2]);
      } else {
        const centre = inMiddle(f);
        own.forEach((v, i) => face(f, v, mid[i], centre, mid[(i + n - 1) % n]));
      }
    }
    const firstMiddle = vertices + seams.count;
    const vertexOf = (code: number): number => (code >= 0 ? code : code % 2 ? vertices + (-1 - code) / 2 : firstMiddle + (-2 - code) / 2);
    const total = firstMiddle + centred.length;
    const positions = new Float32Array(total * 3);
    const pointOf = new Uint32Array(total);
    for (let v = 0; v < vertices; v++) {
      pointOf[v] = points[v];
      for (let k = 0; k < 3; k++) positions[v * 3 + k] = pointPlaces[points[v] * 3 + k];
    }
    for (let s = 0; s < seams.count; s++) {
      const e = edges.find(points[seams.ends[s * 2]], points[seams.ends[s * 2 + 1]]);
      pointOf[vertices + s] = pointCount + e;
      for (let k = 0; k < 3; k++) positions[(vertices + s) * 3 + k] = edgePlaces[e * 3 + k];
    }
    centred.forEach((f, i) => {
      pointOf[firstMiddle + i] = pointCount + edges.count + i;
      for (let k = 0; k < 3; k++) positions[(firstMiddle + i) * 3 + k] = middles[f * 3 + k];
    });
    const size = starts[1] ?? 0;
    const uniform = (size === 3 || size === 4) && starts.every((start, i) => start === i * size) ? size : 0;
    const attributes = new Map<string, Attribute>();
    for (const [name, attribute] of mesh.attributes) attributes.set(name, this.dividedValues(attribute, sources, centred));
    const made: Mesh = {
      ...mesh,
      positions,
      corners: Uint32Array.from(corners, vertexOf),
      uniform,
      faceStarts: uniform ? null : Uint32Array.from(starts),
      ...compacted(pointOf),
      attributes,
    };
    return { mesh: made, sources };
  }

  private dividedValues(attribute: Attribute, sources: readonly number[], centred: readonly number[]): Attribute {
    if (attribute.carrier === 'face') return { ...attribute, data: gatherRows(attribute, sources) };
    if (attribute.carrier !== 'corner') return attribute;
    const { size, data } = attribute;
    const { seams, mesh } = this;
    const vertices = data.length / size;
    const result = new Float32Array((vertices + seams.count + centred.length) * size);
    result.set(data);
    for (let s = 0; s < seams.count; s++)
      for (let k = 0; k < size; k++) result[(vertices + s) * size + k] = (data[seams.ends[s * 2] * size + k] + data[seams.ends[s * 2 + 1] * size + k]) / 2;
    centred.forEach((f, i) => {
      const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
      for (let j = from; j < to; j++)
        for (let k = 0; k < size; k++) result[(vertices + seams.count + i) * size + k] += data[mesh.corners[j] * size + k] / (to - from);
    });
    return { ...attribute, data: result };
  }
}

/** Cuts a triangle that is not divided itself, so that it has the middles of its divided sides as corners. */
function green(own: readonly number[], mid: readonly number[], splits: readonly boolean[], face: (...list: number[]) => void): void {
  const count = splits.filter(Boolean).length;
  if (!count) return face(...own);
  if (count === 3) {
    own.forEach((v, i) => face(v, mid[i], mid[(i + 2) % 3]));
    return face(...mid);
  }
  // Turned so that the first side is divided and the last is not.
  const first = [0, 1, 2].find((i) => splits[i] && !splits[(i + 2) % 3])!;
  const [a, b, c] = [0, 1, 2].map((i) => own[(first + i) % 3]);
  const ab = mid[first];
  if (count === 1) {
    face(a, ab, c);
    return face(ab, b, c);
  }
  const bc = mid[(first + 1) % 3];
  face(ab, b, bc);
  face(a, ab, bc);
  face(a, bc, c);
}

/** Points without gaps in their numbers. */
function compacted(pointOf: Uint32Array): { pointOf: Uint32Array; pointCount: number } {
  let most = 0;
  for (const p of pointOf) most = Math.max(most, p + 1);
  const number = new Int32Array(most).fill(-1);
  let count = 0;
  const own = pointOf.map((p) => (number[p] < 0 ? (number[p] = count++) : number[p]));
  return { pointOf: own, pointCount: count };
}
