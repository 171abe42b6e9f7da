import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { faceCount, faceStart, vertexCount, type Mesh } from '../../geometry/mesh.js';
import { tick, type Work } from '../../base/work.js';
import { PairTable } from '../topology/pairTable.js';
import type { SamePlaces } from '../topology/samePlaces.js';
import { FaceList, green } from './faceList.js';
import type { RefineOptions } from './refine.js';

/** A mesh with its points, and of each face the one it was made of. */
export interface Divided {
  readonly mesh: Mesh;
  readonly places: SamePlaces;
  readonly sources: Uint32Array;
}

/** One division of a mesh. Its points are: those there were, one an edge that is divided, one a face that gets a middle; and so are its vertices. */
export class Refinement {
  private readonly mesh: Mesh;
  private readonly points: Uint32Array;
  private readonly pointCount: number;
  private readonly faces: number;
  private readonly vertices: number;
  private readonly triangles: boolean;
  /** The two points of each edge, and the edge that begins at each corner. */
  private readonly edgeCount: number;
  private readonly ends: Uint32Array;
  private readonly edgeAt: Uint32Array;
  /** Of each edge: whether a face beside it is divided, how many are beside it, how many of them are divided, and the sum of what lies beside it. */
  private readonly divided: Uint8Array;
  private readonly beside: Uint8Array;
  private readonly inner: Uint8Array;
  private readonly sums: Float64Array;
  private readonly middles: Float64Array;
  private readonly places: Float64Array;
  /** Vertices in the middle of edges: at a seam an edge has several. The one of the edge that begins at each corner, the edge and the two vertices of each. */
  private readonly seamAt: Uint32Array;
  private seamCount = 0;
  private seamEdges = new Uint32Array(0);
  private seamEnds = new Uint32Array(0);

  constructor(
    given: Divided,
    private readonly chosen: Uint8Array | null,
    private readonly options: RefineOptions,
    private readonly work: Work,
  ) {
    const { mesh, places: own } = given;
    this.mesh = mesh;
    this.points = own.pointOf;
    this.pointCount = own.count;
    this.faces = faceCount(mesh);
    this.vertices = vertexCount(mesh);
    this.triangles = options.scheme === 'triangles';
    const corners = mesh.corners.length;
    this.edgeAt = new Uint32Array(corners);
    const edges = this.numberEdges();
    this.edgeCount = edges.count;
    this.ends = edges.ends;
    this.divided = new Uint8Array(edges.count);
    this.beside = new Uint8Array(edges.count);
    this.inner = new Uint8Array(edges.count);
    this.sums = new Float64Array(edges.count * 3);
    this.middles = new Float64Array(this.faces * 3);
    this.seamAt = new Uint32Array(corners);
    this.places = new Float64Array(this.pointCount * 3);
    for (let v = 0; v < this.points.length; v++) {
      const o = this.points[v] * 3;
      this.places[o] = mesh.positions[v * 3];
      this.places[o + 1] = mesh.positions[v * 3 + 1];
      this.places[o + 2] = mesh.positions[v * 3 + 2];
    }
  }

  run(): Divided {
    this.look();
    const edgePlaces = this.edgePlaces();
    const pointPlaces = this.options.scheme === 'flat' ? this.places : this.pointPlaces();
    return this.build(pointPlaces, edgePlaces);
  }

  private isChosen(f: number): boolean {
    return !this.chosen || this.chosen[f] !== 0;
  }

  /** Whether a face, if it is divided, gets no middle: a triangle that is cut into four. */
  private isFour(corners: number): boolean {
    return corners === 3 && this.options.scheme !== 'catmullClark';
  }

  private numberEdges(): PairTable {
    const { mesh, points, edgeAt } = this;
    const { corners } = mesh;
    const edges = new PairTable((corners.length * 0.55) | 0);
    for (let f = 0; f < this.faces; f++) {
      tick(this.work, f, this.faces);
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      for (let i = from; i < to; i++) edgeAt[i] = edges.number(points[corners[i]], points[corners[i + 1 < to ? i + 1 : from]]);
    }
    return edges;
  }

  /** Finds the middles of faces, and what lies beside each edge. */
  private look(): void {
    const { mesh, points, edgeAt, middles, places, sums, triangles } = this;
    const { corners } = mesh;
    for (let f = 0; f < this.faces; f++) {
      tick(this.work, f, this.faces);
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      let [x, y, z] = [0, 0, 0];
      for (let i = from; i < to; i++) {
        const o = points[corners[i]] * 3;
        x += places[o];
        y += places[o + 1];
        z += places[o + 2];
      }
      middles[f * 3] = x /= to - from;
      middles[f * 3 + 1] = y /= to - from;
      middles[f * 3 + 2] = z /= to - from;
      const chosen = this.isChosen(f);
      for (let i = from; i < to; i++) {
        const e = edgeAt[i];
        if (this.beside[e] < 255) this.beside[e]++;
        if (!chosen) continue;
        this.divided[e] = 1;
        if (this.inner[e] < 255) this.inner[e]++;
        const across = points[corners[i === from ? to - 1 : i - 1]] * 3;
        sums[e * 3] += triangles ? places[across] : x;
        sums[e * 3 + 1] += triangles ? places[across + 1] : y;
        sums[e * 3 + 2] += triangles ? places[across + 2] : z;
      }
    }
  }

  /** An edge between two divided faces is rounded; one at a border, of three faces or more, or beside what is not divided is sharp. */
  private isSmooth(e: number): boolean {
    return this.beside[e] === 2 && this.inner[e] === 2;
  }

  private edgePlaces(): Float64Array {
    const { ends, places, sums } = this;
    const [share, beside] = this.triangles ? [3 / 8, 1 / 8] : [1 / 4, 1 / 4];
    const result = new Float64Array(this.edgeCount * 3);
    for (let e = 0; e < this.edgeCount; e++) {
      if (!this.divided[e]) continue;
      const a = ends[e * 2] * 3;
      const b = ends[e * 2 + 1] * 3;
      const smooth = this.options.scheme !== 'flat' && this.isSmooth(e);
      const [own, others] = smooth ? [share, beside] : [1 / 2, 0];
      for (let k = 0; k < 3; k++) result[e * 3 + k] = own * (places[a + k] + places[b + k]) + others * sums[e * 3 + k];
    }
    return result;
  }

  /** Where the points there were go. */
  private pointPlaces(): Float64Array {
    const { mesh, points, ends, places, middles, pointCount } = this;
    const valence = new Uint32Array(pointCount);
    const around = new Float64Array(pointCount * 3);
    const faces = new Uint32Array(pointCount);
    const middle = new Float64Array(pointCount * 3);
    const sharp = new Uint32Array(pointCount);
    const along = new Float64Array(pointCount * 3);
    for (let e = 0; e < this.edgeCount; e++) {
      if (!this.divided[e]) continue;
      const smooth = this.isSmooth(e);
      for (let side = 0; side < 2; side++) {
        const a = ends[e * 2 + side];
        const b = ends[e * 2 + 1 - side];
        valence[a]++;
        add(around, a, places, b);
        if (smooth) continue;
        sharp[a]++;
        add(along, a, places, b);
      }
    }
    for (let f = 0; f < this.faces; f++) {
      if (!this.isChosen(f)) continue;
      for (let i = faceStart(mesh, f), to = faceStart(mesh, f + 1); i < to; i++) {
        const a = points[mesh.corners[i]];
        faces[a]++;
        add(middle, a, middles, f);
      }
    }
    const result = places.slice();
    for (let a = 0; a < pointCount; a++) {
      const n = valence[a];
      if (!n) continue;
      // Where a border runs through it is a curve of its own; where several meet, or a lone face has its corner, the point stays.
      if (sharp[a] && (sharp[a] !== 2 || (this.options.keepCorners && faces[a] === 1))) continue;
      const beta = this.triangles ? (5 / 8 - (3 / 8 + Math.cos((2 * Math.PI) / n) / 4) ** 2) / n : 0;
      for (let k = 0; k < 3; k++) {
        const o = a * 3 + k;
        if (sharp[a]) result[o] = (6 * places[o] + along[o]) / 8;
        else if (this.triangles) result[o] = (1 - n * beta) * places[o] + beta * around[o];
        else result[o] = (middle[o] / faces[a] + (places[o] + around[o] / n) + (n - 3) * places[o]) / n;
      }
    }
    return result;
  }

  /** Numbers the vertices in the middle of edges, as their edges are met. */
  private numberSeams(): void {
    const { mesh, edgeAt, divided, seamAt, vertices } = this;
    const { corners } = mesh;
    // Without seams there is one an edge.
    const whole = this.pointCount === vertices;
    const seams = whole ? null : new PairTable(this.edgeCount);
    const ofEdge = new Int32Array(whole ? this.edgeCount : 0).fill(-1);
    const edges = new Uint32Array(whole ? this.edgeCount : corners.length);
    const ends = new Uint32Array(edges.length * 2);
    let count = 0;
    for (let f = 0; f < this.faces; f++) {
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      for (let i = from; i < to; i++) {
        const e = edgeAt[i];
        if (!divided[e]) continue;
        const [a, b] = [corners[i], corners[i + 1 < to ? i + 1 : from]];
        let number = seams ? seams.number(a, b) : ofEdge[e];
        if (number < 0 || number === count) {
          number = count++;
          if (!seams) ofEdge[e] = number;
          edges[number] = e;
          ends[number * 2] = a;
          ends[number * 2 + 1] = b;
        }
        seamAt[i] = vertices + number;
      }
    }
    this.seamCount = count;
    this.seamEdges = edges;
    this.seamEnds = ends;
  }

  private build(pointPlaces: Float64Array, edgePlaces: Float64Array): Divided {
    this.numberSeams();
    const { mesh, points, edgeAt, divided, seamAt, seamCount, middles, pointCount, vertices } = this;
    const firstMiddle = vertices + seamCount;
    const list = this.roomForFaces();
    const centred: number[] = [];
    for (let f = 0; f < this.faces; f++) {
      tick(this.work, f, this.faces);
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      const { corners } = mesh;
      if (!this.isChosen(f)) {
        const own = Array.from(corners.subarray(from, to));
        const splits = own.map((_, i) => divided[edgeAt[from + i]] === 1);
        if (this.isFour(own.length)) green(own, Array.from(seamAt.subarray(from, to)), splits, (...corner) => list.add(f, corner));
        else list.add(f, own.flatMap((v, i) => (splits[i] ? [v, seamAt[from + i]] : [v]))); // prettier-ignore
      } else if (this.isFour(to - from)) {
        for (let i = from; i < to; i++) list.add3(f, corners[i], seamAt[i], seamAt[i === from ? to - 1 : i - 1]);
        list.add3(f, seamAt[from], seamAt[from + 1], seamAt[from + 2]);
      } else {
        const centre = firstMiddle + centred.push(f) - 1;
        for (let i = from; i < to; i++) list.add4(f, corners[i], seamAt[i], centre, seamAt[i === from ? to - 1 : i - 1]);
      }
    }
    const total = firstMiddle + centred.length;
    const positions = new Float32Array(total * 3);
    const pointOf = new Uint32Array(total);
    const place = (v: number, point: number, from: Float64Array, which: number): void => {
      pointOf[v] = point;
      positions[v * 3] = from[which * 3];
      positions[v * 3 + 1] = from[which * 3 + 1];
      positions[v * 3 + 2] = from[which * 3 + 2];
    };
    for (let v = 0; v < vertices; v++) place(v, points[v], pointPlaces, points[v]);
    for (let s = 0; s < seamCount; s++) place(vertices + s, pointCount + this.seamEdges[s], edgePlaces, this.seamEdges[s]);
    for (let i = 0; i < centred.length; i++) place(firstMiddle + i, pointCount + this.edgeCount + i, middles, centred[i]);
    const own = compacted(pointOf);
    const attributes = new Map<string, Attribute>();
    for (const [name, attribute] of mesh.attributes) attributes.set(name, this.dividedValues(attribute, list.sources, centred));
    const { corners, uniform, faceStarts, sources } = list;
    const seams = own.count < total ? own.pointOf : null;
    return { mesh: { ...mesh, positions, corners, uniform, faceStarts, pointOf: seams, pointCount: own.count, attributes }, places: own, sources };
  }

  private roomForFaces(): FaceList {
    const { mesh, edgeAt, divided } = this;
    let faces = 0;
    let corners = 0;
    let [least, most] = [Infinity, 0];
    for (let f = 0; f < this.faces; f++) {
      const from = faceStart(mesh, f);
      const to = faceStart(mesh, f + 1);
      const four = this.isFour(to - from);
      const chosen = this.isChosen(f);
      let splits = 0;
      if (!chosen) for (let i = from; i < to; i++) splits += divided[edgeAt[i]];
      const made = chosen ? (four ? 4 : to - from) : four ? 1 + splits : 1;
      const size = four ? 3 : chosen ? 4 : to - from + splits;
      faces += made;
      corners += made * size;
      if (size < least) least = size;
      if (size > most) most = size;
    }
    return new FaceList(faces, corners, least === most && (most === 3 || most === 4) ? most : 0);
  }

  private dividedValues(attribute: Attribute, sources: ArrayLike<number>, centred: readonly number[]): Attribute {
    if (attribute.carrier === 'face') return { ...attribute, data: gatherRows(attribute, sources) };
    if (attribute.carrier !== 'corner') return attribute;
    const { size, data } = attribute;
    const { seamEnds, seamCount, mesh } = this;
    const vertices = data.length / size;
    const result = new Float32Array((vertices + seamCount + centred.length) * size);
    result.set(data);
    for (let s = 0; s < seamCount; s++)
      for (let k = 0; k < size; k++) result[(vertices + s) * size + k] = (data[seamEnds[s * 2] * size + k] + data[seamEnds[s * 2 + 1] * size + k]) / 2;
    for (let i = 0; i < centred.length; i++) {
      const from = faceStart(mesh, centred[i]);
      const to = faceStart(mesh, centred[i] + 1);
      for (let j = from; j < to; j++)
        for (let k = 0; k < size; k++) result[(vertices + seamCount + i) * size + k] += data[mesh.corners[j] * size + k] / (to - from);
    }
    return { ...attribute, data: result };
  }
}

/** Adds one place to a sum. */
function add(sums: Float64Array, to: number, places: Float64Array, from: number): void {
  sums[to * 3] += places[from * 3];
  sums[to * 3 + 1] += places[from * 3 + 1];
  sums[to * 3 + 2] += places[from * 3 + 2];
}

/** Points without gaps in their numbers. */
function compacted(pointOf: Uint32Array): SamePlaces {
  let most = 0;
  for (let v = 0; v < pointOf.length; v++) if (pointOf[v] >= most) most = pointOf[v] + 1;
  const number = new Int32Array(most).fill(-1);
  const own = new Uint32Array(pointOf.length);
  let count = 0;
  for (let v = 0; v < own.length; v++) {
    const p = pointOf[v];
    if (number[p] < 0) number[p] = count++;
    own[v] = number[p];
  }
  return { pointOf: own, count };
}
