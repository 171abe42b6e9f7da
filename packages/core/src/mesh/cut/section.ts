import { makeCurves, type Curves } from '../../geometry/curves.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { areaVector } from '../../curves/evaluate/plane.js';
import { tick, type Work } from '../../base/work.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { earsOfPolygon } from '../topology/triangulate.js';

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
  const { pointOf, count } = placesOfMesh(mesh, work);
  const cutter = new Cutter(mesh, pointOf, count);
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

/** Cuts one mesh by one plane after the other. Crossings of edges are numbered as they are found; pieces lead from one to another. */
class Cutter {
  private readonly heights: Float64Array;
  /** A vertex at each place. */
  private readonly vertexAt: Uint32Array;
  private readonly known = new Map<number, number>();
  private readonly crossings: number[] = [];
  /** Two crossings a piece: its face goes below the plane at the first and comes up at the second, seen along its winding. */
  private readonly pieces: number[] = [];

  constructor(
    private readonly mesh: Mesh,
    private readonly placeOf: Uint32Array,
    private readonly placeCount: number,
  ) {
    this.heights = new Float64Array(placeCount);
    this.vertexAt = new Uint32Array(placeCount);
    placeOf.forEach((place, vertex) => (this.vertexAt[place] = vertex));
  }

  cut(plane: CuttingPlane, work: Work): { places: number[]; closed: boolean }[] {
    const { mesh, heights, vertexAt } = this;
    const p = mesh.positions;
    const [nx, ny, nz] = plane.normal;
    const [ox, oy, oz] = plane.origin;
    for (let i = 0; i < this.placeCount; i++) {
      const o = vertexAt[i] * 3;
      heights[i] = (p[o] - ox) * nx + (p[o + 1] - oy) * ny + (p[o + 2] - oz) * nz;
    }
    this.known.clear();
    this.crossings.length = this.pieces.length = 0;
    for (let f = 0; f < faceCount(mesh); f++) {
      tick(work, f, faceCount(mesh));
      this.cutFace(f);
    }
    return this.chains();
  }

  private cutFace(f: number): void {
    const { mesh, placeOf, heights } = this;
    const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
    let changes = 0;
    for (let i = from, above = heights[placeOf[mesh.corners[to - 1]]] >= 0; i < to; i++) {
      const now = heights[placeOf[mesh.corners[i]]] >= 0;
      if (now !== above) changes++;
      above = now;
    }
    if (!changes) return;
    const corners = Array.from(mesh.corners.subarray(from, to), (vertex) => placeOf[vertex]);
    if (changes === 2) this.cutPolygon(corners);
    // One that is crossed more often is not convex: its ears are cut one by one.
    else {
      const flat = Float64Array.from(corners.flatMap((place) => [0, 1, 2].map((k) => mesh.positions[this.vertexAt[place] * 3 + k])));
      const ears = earsOfPolygon(flat) ?? corners.slice(2).flatMap((_, i) => [0, i + 1, i + 2]);
      for (let i = 0; i < ears.length; i += 3) this.cutPolygon([0, 1, 2].map((k) => corners[ears[i + k]]));
    }
  }

  private cutPolygon(corners: readonly number[]): void {
    const { heights } = this;
    let [up, down] = [-1, -1];
    for (let i = 0; i < corners.length; i++) {
      const [a, b] = [corners[i], corners[(i + 1) % corners.length]];
      const [from, to] = [heights[a] >= 0, heights[b] >= 0];
      if (from === to) continue;
      if (to) up = this.crossing(a, b);
      else down = this.crossing(a, b);
    }
    if (up >= 0 && down >= 0) this.pieces.push(down, up);
  }

  /** The number of the place where the edge between two places is crossed; the same from both of its faces. */
  private crossing(a: number, b: number): number {
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = low * this.placeCount + high;
    let number = this.known.get(key);
    if (number !== undefined) return number;
    this.known.set(key, (number = this.crossings.length / 3));
    const { heights, vertexAt } = this;
    const p = this.mesh.positions;
    const f = heights[low] / (heights[low] - heights[high]);
    const [o, q] = [vertexAt[low] * 3, vertexAt[high] * 3];
    for (let k = 0; k < 3; k++) this.crossings.push(p[o + k] + f * (p[q + k] - p[o + k]));
    return number;
  }

  /** Pieces put together end to end, each as long as it goes. */
  private chains(): { places: number[]; closed: boolean }[] {
    const { pieces } = this;
    const at: number[][] = Array.from({ length: this.crossings.length / 3 }, () => []);
    for (let i = 0; i < pieces.length; i++) at[pieces[i]].push(i >> 1);
    const used = new Uint8Array(pieces.length / 2);
    const chains: { places: number[]; closed: boolean }[] = [];
    const walk = (start: number): void => {
      const numbers = [start];
      let along = 0;
      for (let now = start; ;) {
        const piece = at[now].find((each) => !used[each]);
        if (piece === undefined) break;
        used[piece] = 1;
        const forwards = pieces[piece * 2] === now;
        along += forwards ? 1 : -1;
        now = pieces[piece * 2 + (forwards ? 1 : 0)];
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
    for (let i = 0; i < at.length; i++) if (at[i].length === 1 && !used[at[i][0]]) walk(i);
    for (let i = 0; i < at.length; i++) while (at[i].some((piece) => !used[piece])) walk(i);
    return chains;
  }

  /** Places of crossings without those that repeat the one before, as stored in 32 bits. */
  private withoutDoubles(numbers: readonly number[], closed: boolean): number[] {
    const places: number[] = [];
    const same = (a: number, b: number): boolean => [0, 1, 2].every((k) => Math.fround(places[a + k]) === Math.fround(places[b + k]));
    for (const number of numbers) {
      places.push(...this.crossings.slice(number * 3, number * 3 + 3));
      if (places.length > 3 && same(places.length - 3, places.length - 6)) places.length -= 3;
    }
    while (closed && places.length > 3 && same(0, places.length - 3)) places.length -= 3;
    return places;
  }
}
