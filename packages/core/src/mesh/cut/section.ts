import { makeCurves, type Curves } from '../../geometry/curves.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { areaVector } from '../../curves/evaluate/plane.js';
import type { Work } from '../../base/work.js';
import { PairTable } from '../topology/pairTable.js';
import { placesOfMesh, type SamePlaces } from '../topology/samePlaces.js';
import { earsOfPolygon } from '../topology/triangulate.js';
import { boxesOf, perBox } from './faceBoxes.js';

/** A plane by a place on it and the direction it is square to, unit. */
export interface CuttingPlane {
  readonly origin: readonly [number, number, number];
  readonly normal: readonly [number, number, number];
}

/**
 * Where planes cut a mesh: straight curves through the edges that each plane crosses, plane after plane, the largest first; the plane's number is their
 * attribute `plane`. Seen against a plane's normal outlines of the body run counter-clockwise and those of holes clockwise. A corner on the plane counts as
 * above it, so every outline is whole; what only touches the plane is left out. Closed where the body is.
 */
export function section(mesh: Mesh, planes: readonly CuttingPlane[], work: Work): Curves {
  const cutter = new Cutter(mesh, placesOfMesh(mesh, work));
  const lists: { places: number[]; closed: boolean; plane: number }[] = [];
  planes.forEach((plane, which) => {
    work.progress(which / planes.length);
    const found = cutter
      .cut(plane, work)
      .map((chain) => ({ ...chain, plane: which, size: Math.hypot(...areaVector(chain.places, 0, chain.places.length / 3)) }));
    lists.push(...found.sort((a, b) => b.size - a.size));
    work.claim({ points: lists.reduce((sum, { places }) => sum + places.length / 3, 0) });
  });
  const starts = new Uint32Array(lists.length + 1);
  lists.forEach(({ places }, c) => (starts[c + 1] = starts[c] + places.length / 3));
  const positions = new Float32Array(starts[lists.length] * 3);
  lists.forEach(({ places }, c) => positions.set(places, starts[c] * 3));
  const closed = Uint8Array.from(lists, (list) => (list.closed ? 1 : 0));
  const plane = Float32Array.from(lists, (list) => list.plane);
  return makeCurves({ positions, starts, closed, attributes: new Map([['plane', { carrier: 'curve', size: 1, data: plane }]]) });
}

/** A list of numbers that grows. */
class Numbers<Kind extends Float64Array | Uint32Array> {
  count = 0;
  constructor(public list: Kind) {}

  /** Room for some more; returns where they begin. */
  more(numbers: number): number {
    const from = this.count;
    this.count += numbers;
    if (this.count > this.list.length) {
      const longer = new (this.list.constructor as new (length: number) => Kind)(this.count * 2);
      longer.set(this.list);
      this.list = longer;
    }
    return from;
  }
}

/** What is found out of a mesh before it is cut; kept as long as that is there. */
const prepared = new WeakMap<Mesh, Pick<Cutter, 'cornerAt' | 'boxes'>>();

/** Cuts one mesh by one plane after the other. Crossings of edges are numbered as they are found; pieces lead from one to another. */
class Cutter {
  /** Of each corner the vertex that stands for all at its place. */
  readonly cornerAt: Uint32Array;
  /** Boxes round so many faces each, round so many of these boxes each, and so on: 6 numbers a box, its middle and half its sides. */
  readonly boxes: readonly Float64Array[];
  private edges = new PairTable(64);
  /** Places of crossings. */
  private readonly crossings = new Numbers(new Float64Array(256));
  /** Two crossings a piece: its face goes below the plane at the first and comes up at the second, seen along its winding. */
  private readonly pieces = new Numbers(new Uint32Array(256));
  /** The plane's origin and normal. */
  private readonly plane = new Float64Array(6);

  constructor(
    private readonly mesh: Mesh,
    { pointOf, count }: SamePlaces,
  ) {
    let own = prepared.get(mesh);
    if (!own) {
      const vertexAt = new Uint32Array(count);
      for (let v = 0; v < pointOf.length; v++) vertexAt[pointOf[v]] = v;
      const cornerAt = mesh.corners.map((vertex) => vertexAt[pointOf[vertex]]);
      prepared.set(mesh, (own = { cornerAt, boxes: boxesOf(mesh, cornerAt) }));
    }
    this.cornerAt = own.cornerAt;
    this.boxes = own.boxes;
  }

  cut(plane: CuttingPlane, work: Work): { places: number[]; closed: boolean }[] {
    this.plane.set([...plane.origin, ...plane.normal]);
    this.edges = new PairTable(64);
    this.crossings.count = this.pieces.count = 0;
    const { boxes } = this;
    const top = boxes.length - 1;
    for (let i = 0; i * 6 < boxes[top].length; i++) {
      work.progress(i / (boxes[top].length / 6));
      this.cutBox(top, i);
    }
    return this.chains();
  }

  /** Cuts what is in one box, if the plane comes through it. */
  private cutBox(level: number, i: number): void {
    const { boxes, plane } = this;
    const own = boxes[level];
    const away = heightOver(plane, own, i * 6);
    // A little more than half of it, so that rounding leaves nothing out.
    const reach = (own[i * 6 + 3] * Math.abs(plane[3]) + own[i * 6 + 4] * Math.abs(plane[4]) + own[i * 6 + 5] * Math.abs(plane[5])) * 1.000001 + 1e-9;
    if (away > reach || away < -reach) return;
    const from = i * perBox;
    if (level) for (let j = from, to = Math.min(boxes[level - 1].length / 6, from + perBox); j < to; j++) this.cutBox(level - 1, j);
    else for (let f = from, to = Math.min(faceCount(this.mesh), from + perBox); f < to; f++) this.cutFace(f);
  }

  /** Height above the plane of a vertex, metres. */
  private height(vertex: number): number {
    return heightOver(this.plane, this.mesh.positions, vertex * 3);
  }

  private cutFace(f: number): void {
    const { mesh, cornerAt } = this;
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    let changes = 0;
    for (let i = from, above = this.height(cornerAt[to - 1]) >= 0; i < to; i++) {
      const now = this.height(cornerAt[i]) >= 0;
      if (now !== above) changes++;
      above = now;
    }
    if (changes === 2) this.cutPolygon(cornerAt, from, to);
    // One that is crossed more often is not convex: its ears are cut one by one.
    else if (changes) {
      const corners = cornerAt.subarray(from, to);
      const flat = Float64Array.from({ length: corners.length * 3 }, (_, i) => mesh.positions[corners[(i / 3) | 0] * 3 + (i % 3)]);
      const ears = earsOfPolygon(flat) ?? Array.from({ length: (corners.length - 2) * 3 }, (_, i) => (i % 3 ? ((i / 3) | 0) + (i % 3) : 0));
      const cut = Uint32Array.from(ears, (i) => corners[i]);
      for (let i = 0; i < cut.length; i += 3) this.cutPolygon(cut, i, i + 3);
    }
  }

  private cutPolygon(corners: Uint32Array, from: number, to: number): void {
    let [up, down] = [-1, -1];
    let height = this.height(corners[from]);
    for (let i = from; i < to; i++) {
      const next = corners[i + 1 < to ? i + 1 : from];
      const then = this.height(next);
      if (height < 0 && then >= 0) up = this.crossing(corners[i], next, height, then);
      else if (height >= 0 && then < 0) down = this.crossing(corners[i], next, height, then);
      height = then;
    }
    if (up < 0 || down < 0) return;
    const at = this.pieces.more(2);
    this.pieces.list[at] = down;
    this.pieces.list[at + 1] = up;
  }

  /** The number of the place where the edge between two vertices at those heights is crossed; the same from both of its faces. */
  private crossing(a: number, b: number, heightOfA: number, heightOfB: number): number {
    const { edges, crossings } = this;
    const before = edges.count;
    const number = edges.number(a, b);
    if (number < before) return number;
    const [low, high, above, below] = a < b ? [a, b, heightOfA, heightOfB] : [b, a, heightOfB, heightOfA];
    const p = this.mesh.positions;
    const f = above / (above - below);
    const at = crossings.more(3);
    for (let k = 0; k < 3; k++) crossings.list[at + k] = p[low * 3 + k] + f * (p[high * 3 + k] - p[low * 3 + k]);
    return number;
  }

  /** Pieces put together end to end, each as long as it goes. */
  private chains(): { places: number[]; closed: boolean }[] {
    const { pieces, crossings } = this;
    const count = crossings.count / 3;
    // The pieces at each crossing, one crossing after the other.
    const starts = new Uint32Array(count + 1);
    for (let i = 0; i < pieces.count; i++) starts[pieces.list[i] + 1]++;
    for (let i = 0; i < count; i++) starts[i + 1] += starts[i];
    const at = new Uint32Array(pieces.count);
    const filled = starts.slice(0, count);
    for (let i = 0; i < pieces.count; i++) at[filled[pieces.list[i]]++] = i >> 1;
    const used = new Uint8Array(pieces.count / 2);
    const unused = (crossing: number): number => {
      for (let i = starts[crossing]; i < starts[crossing + 1]; i++) if (!used[at[i]]) return at[i];
      return -1;
    };
    const chains: { places: number[]; closed: boolean }[] = [];
    const walk = (start: number): void => {
      const numbers = [start];
      let along = 0;
      for (let now = start; ;) {
        const piece = unused(now);
        if (piece < 0) break;
        used[piece] = 1;
        const forwards = pieces.list[piece * 2] === now;
        along += forwards ? 1 : -1;
        now = pieces.list[piece * 2 + (forwards ? 1 : 0)];
        numbers.push(now);
        if (now === start) break;
      }
      const closed = numbers.length > 1 && numbers[numbers.length - 1] === start;
      if (closed) numbers.pop();
      // Faces that wind the other way are outvoted.
      const places = this.withoutDoubles(along < 0 ? numbers.reverse() : numbers, closed);
      if (places.length >= (closed ? 9 : 6)) chains.push({ places, closed });
    };
    // Where a body is open its sections begin at its border.
    for (let i = 0; i < count; i++) if (starts[i + 1] - starts[i] === 1 && !used[at[starts[i]]]) walk(i);
    for (let i = 0; i < count; i++) while (unused(i) >= 0) walk(i);
    return chains;
  }

  /** Places of crossings without those that repeat the one before, as stored in 32 bits. */
  private withoutDoubles(numbers: readonly number[], closed: boolean): number[] {
    const { list } = this.crossings;
    const places: number[] = [];
    const same = (a: number, b: number): boolean =>
      Math.fround(places[a]) === Math.fround(places[b]) &&
      Math.fround(places[a + 1]) === Math.fround(places[b + 1]) &&
      Math.fround(places[a + 2]) === Math.fround(places[b + 2]);
    for (const number of numbers) {
      places.push(list[number * 3], list[number * 3 + 1], list[number * 3 + 2]);
      if (places.length > 3 && same(places.length - 3, places.length - 6)) places.length -= 3;
    }
    while (closed && places.length > 3 && same(0, places.length - 3)) places.length -= 3;
    return places;
  }
}

/** How far a place lies over a plane, metres. */
function heightOver(plane: Float64Array, p: Float32Array | Float64Array, o: number): number {
  return (p[o] - plane[0]) * plane[3] + (p[o + 1] - plane[1]) * plane[4] + (p[o + 2] - plane[2]) * plane[5];
}
