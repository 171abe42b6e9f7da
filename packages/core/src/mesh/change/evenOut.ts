import { makeMesh, type Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { triangulate } from '../topology/triangulate.js';
import { dot, TriangleNet } from './triangleNet.js';

export interface EvenOptions {
  /** Length that all edges are to have, metres. */
  edge: number;
  /** How often all is gone over. */
  times: number;
  /** Edges at which faces meet at more than this many degrees stay edges; 180: none but borders. */
  sharp: number;
}

/** Where places of a mesh belong: writes the nearest place of the old surface, or of its sharp edges. */
export interface Onto {
  surface(p: Float64Array, o: number): void;
  line(p: Float64Array, o: number): void;
}

/** Sharp edges of a mesh, for whoever makes an `Onto`: pairs of ends, 6 numbers each. */
export type Lines = Float32Array;

/**
 * A triangle mesh of even edges over the same surface: edges too long are split, too short collapsed, turned where that evens the number of neighbours, and points moved
 * along the surface to the middle of their neighbours (Botsch & Kobbelt 2004). Borders and sharp edges stay, their corners (where they turn by more than 30°) where they are.
 * @param onto is made from the sharp edges, once they are known.
 */
export function evenOut(given: Mesh, options: EvenOptions, onto: (lines: Lines) => Onto, work: Work = unbounded): Mesh {
  const remesh = new Remesher(given, options);
  const target = onto(remesh.lines());
  for (let turn = 0; turn < options.times; turn++) {
    work.progress((turn / options.times) * 0.5);
    remesh.split(work);
    remesh.collapse();
    for (let pass = 0; pass < passes; pass++) {
      remesh.flip(false);
      remesh.relax(target, pass < passes / 2 ? 0 : 1);
    }
  }
  const last = options.times * settling;
  for (let pass = 0; pass < last; pass++) {
    work.progress(0.5 + (pass / last) * 0.5);
    // How many points it has depends on where splitting began; the last turns are for what is there.
    if (pass % settling === 0 && pass < last - 2 * settling) remesh.balance();
    remesh.flip(pass % 2 === 1);
    remesh.relax(target, 1);
  }
  return remesh.finish();
}

/** Shares of the length at which edges are split and collapsed: 4/3 and 4/5 (Botsch & Kobbelt 2004) leave them a tenth too short on the whole. */
const longest = 1.42;
const shortest = 0.9;

/** How often points are moved each time edges have been split and collapsed, and at the end for each of those times. */
const passes = 4;
const settling = 4;

/** How much of what is wrong with the number of points is put right at a time. */
const gentle = 0.3;
/** The longest edge, as a share of the length asked, that may come of it: the turns that follow draw its ends together. */
const farthest = 1.8;

/** Degrees by which borders and sharp edges turn at a corner that stays. */
const cornerTurn = 30;

/** A pair of points as one number. */
const wide = 2 ** 26;
const key = (a: number, b: number): number => (a < b ? a * wide + b : b * wide + a);

class Remesher extends TriangleNet {
  /** Edges that stay edges. */
  private readonly sharp = new Set<number>();
  /** Of each point: how many sharp edges meet there; 2 is a line, else a corner. */
  private readonly lineCount: number[];
  private readonly goal: number;

  constructor(mesh: Mesh, options: EvenOptions) {
    const { pointOf, count } = placesOfMesh(mesh);
    super(count);
    this.goal = options.edge;
    for (let v = 0; v < pointOf.length; v++) for (let k = 0; k < 3; k++) this.p[pointOf[v] * 3 + k] = mesh.positions[v * 3 + k];
    this.lineCount = new Array<number>(count).fill(0);
    const { indices } = triangulate(mesh);
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [pointOf[indices[i]], pointOf[indices[i + 1]], pointOf[indices[i + 2]]];
      if (a !== b && b !== c && a !== c) this.add(a, b, c);
    }
    const least = Math.cos((Math.min(180, options.sharp) * Math.PI) / 180);
    for (let a = 0; a < count; a++)
      for (const b of this.neighbours(a)) {
        if (b < a) continue;
        const beside = this.beside(a, b);
        if (beside.length === 2 && (options.sharp >= 180 || dot(this.normal(beside[0]), this.normal(beside[1])) >= least)) continue;
        this.setSharp(a, b);
      }
    this.keepCorners();
  }

  /** Points at which a line turns are corners, which stay: they count as if one more line met there. */
  private keepCorners(): void {
    const { p } = this;
    const turned = Math.cos((cornerTurn * Math.PI) / 180);
    for (let v = 0; v < this.points; v++) {
      if (this.lineCount[v] !== 2) continue;
      const [a, b] = this.neighbours(v).filter((n) => this.sharp.has(key(v, n)));
      const way = (from: number, to: number): number[] => [0, 1, 2].map((k) => p[to * 3 + k] - p[from * 3 + k]);
      const [into, on] = [way(a, v), way(v, b)];
      const cosine = (into[0] * on[0] + into[1] * on[1] + into[2] * on[2]) / (Math.hypot(...into) * Math.hypot(...on));
      if (cosine < turned) this.lineCount[v]++;
    }
  }

  lines(): Lines {
    const list: number[] = [];
    for (const pair of this.sharp) {
      const [a, b] = [Math.floor(pair / wide), pair % wide];
      list.push(...this.p.subarray(a * 3, a * 3 + 3), ...this.p.subarray(b * 3, b * 3 + 3));
    }
    return Float32Array.from(list);
  }

  split(work: Work): void {
    const most = (this.goal * longest) ** 2;
    // Pieces of what is split are looked at again, so that one pass is enough.
    for (let t = 0; t < this.tri.length / 3; t++) {
      if (t % 4096 === 0) work.claim({ faces: this.living, vertices: this.points });
      if (!this.alive[t]) continue;
      let [far, at] = [most, -1];
      for (let k = 0; k < 3; k++) {
        const size = this.squared(this.tri[t * 3 + k], this.tri[t * 3 + ((k + 1) % 3)]);
        if (size > far) [far, at] = [size, k];
      }
      if (at >= 0) this.splitEdge(this.tri[t * 3 + at], this.tri[t * 3 + ((at + 1) % 3)]);
    }
  }

  private splitEdge(a: number, b: number): void {
    const m = this.addPoint(a, b);
    this.lineCount.push(0);
    const sharp = this.sharp.has(key(a, b));
    for (const t of this.beside(a, b)) {
      const [x, y, z] = this.turned(t, a, b);
      this.remove(t);
      this.add(x, m, z);
      this.add(m, y, z);
    }
    if (!sharp) return;
    this.clearSharp(a, b);
    this.setSharp(a, m);
    this.setSharp(m, b);
  }

  collapse(): void {
    const least = (this.goal * shortest) ** 2;
    const most = (this.goal * longest) ** 2;
    for (let a = 0; a < this.points; a++) {
      for (let again = true; again;) {
        again = false;
        for (const b of this.neighbours(a)) {
          if (this.squared(a, b) >= least) continue;
          const gone = this.collapseEdge(a, b, most);
          if (gone < 0) continue;
          again = gone !== a;
          break;
        }
      }
    }
  }

  /**
   * Takes points away from the shortest edges and adds some to the longest: as many as would make the mean of the edges that asked (their number goes with its square),
   * and some more of both where many are too short or too long, as it is there that points are too many or too few.
   */
  balance(): void {
    const edges: { a: number; b: number; size: number }[] = [];
    let points = 0;
    for (let a = 0; a < this.points; a++) {
      if (this.at[a].length) points++;
      for (const b of this.neighbours(a)) if (a < b) edges.push({ a, b, size: Math.sqrt(this.squared(a, b)) / this.goal });
    }
    // What lies on sharp edges has a number of its own.
    const free = edges.filter(({ a, b }) => !this.sharp.has(key(a, b)));
    const mean = free.reduce((sum, { size }) => sum + size, 0) / (free.length || 1);
    const more = points * (mean * mean - 1);
    const both = free.filter(({ size }) => size < 0.8 || size > 1.25).length / 2;
    edges.sort((one, other) => one.size - other.size);
    // Neighbours of what has changed wait until they have moved.
    const changed = new Uint8Array(this.points + edges.length);
    const change = (count: number, list: Iterable<(typeof edges)[number]>, does: (a: number, b: number) => boolean): void => {
      let left = Math.round(count * gentle);
      for (const { a, b } of list) {
        if (left <= 0) return;
        if (changed[a] || changed[b] || !this.at[a].length || !this.at[b].length || !does(a, b)) continue;
        left--;
        for (const v of [a, b]) {
          changed[v] = 1;
          for (const n of this.neighbours(v)) changed[n] = 1;
        }
      }
    };
    const most = (this.goal * farthest) ** 2;
    change(Math.max(0, -more) + both, edges.filter(({ size }) => size < 1), (a, b) => this.collapseEdge(a, b, most) >= 0); // prettier-ignore
    change(Math.max(0, more) + both, edges.filter(({ size }) => size > 1).reverse(), (a, b) => (this.splitEdge(a, b), true)); // prettier-ignore
  }

  /** Puts one end of an edge into the other, where nothing comes longer than `most` (squared) by it; returns the one that is gone, −1 where that cannot be. */
  private collapseEdge(a: number, b: number, most: number): number {
    // The one that may move goes to the other.
    const [gone, kept] = this.mayGo(a, b) ? [a, b] : this.mayGo(b, a) ? [b, a] : [-1, -1];
    if (gone < 0 || !this.canCollapse(gone, kept, most)) return -1;
    this.collapseInto(gone, kept);
    return gone;
  }

  /** A point may go into another when it lies on no line, or on one that runs to the other. */
  private mayGo(gone: number, kept: number): boolean {
    const lines = this.lineCount[gone];
    return lines === 0 || (lines === 2 && this.sharp.has(key(gone, kept)));
  }

  private canCollapse(gone: number, kept: number, most: number): boolean {
    const beside = this.beside(gone, kept);
    const own = this.neighbours(gone);
    const others = new Set(this.neighbours(kept));
    // The mesh stays a surface: the two have no neighbours in common but those across from their edge.
    let common = 0;
    for (const n of own) if (others.has(n)) common++;
    if (common !== beside.length || beside.length < 1 || beside.length > 2) return false;
    for (const n of own) if (n !== kept && this.squared(n, kept) > most) return false;
    for (const t of this.at[gone]) {
      if (beside.includes(t)) continue;
      const [, y, z] = this.turnedAt(t, gone);
      const before = this.normal(t);
      const after = this.normalOf(kept, y, z);
      if (dot(before, after) < 0.5 || this.isNeedle(kept, y, z)) return false;
    }
    return true;
  }

  private collapseInto(gone: number, kept: number): void {
    const along = this.lineCount[gone] ? this.neighbours(gone).filter((n) => n !== kept && this.sharp.has(key(gone, n))) : [];
    if (this.lineCount[gone] === 0 && this.lineCount[kept] === 0)
      for (let k = 0; k < 3; k++) this.p[kept * 3 + k] = (this.p[kept * 3 + k] + this.p[gone * 3 + k]) / 2;
    if (this.sharp.has(key(gone, kept))) this.clearSharp(gone, kept);
    for (const n of along) {
      this.clearSharp(gone, n);
      this.setSharp(kept, n);
    }
    for (const t of [...this.at[gone]]) {
      const list = [0, 1, 2].map((k) => this.tri[t * 3 + k]);
      this.remove(t);
      if (!list.includes(kept)) this.add(...(list.map((v) => (v === gone ? kept : v)) as [number, number, number]));
    }
  }

  /** Turns edges where that evens the number of neighbours, or, `byLength`, where the other way across is nearer to the length asked. */
  flip(byLength: boolean): void {
    for (let t = 0; t < this.tri.length / 3; t++)
      for (let k = 0; k < 3 && this.alive[t]; k++) {
        const [a, b] = [this.tri[t * 3 + k], this.tri[t * 3 + ((k + 1) % 3)]];
        if (a < b && !this.isSharp(a, b)) this.flipEdge(a, b, byLength);
      }
  }

  private flipEdge(a: number, b: number, byLength: boolean): void {
    const own = this.at[a];
    let [first, second, beside] = [-1, -1, 0];
    for (let i = 0; i < own.length; i++) {
      const t = own[i];
      if (this.runs(t, a, b)) first = t;
      else if (this.runs(t, b, a)) second = t;
      else continue;
      beside++;
    }
    if (beside !== 2 || first < 0 || second < 0) return;
    const c = this.across(first, a, b);
    const d = this.across(second, a, b);
    if (c === d) return;
    const gain = this.gainOf(a, -1) + this.gainOf(b, -1) + this.gainOf(c, 1) + this.gainOf(d, 1);
    if (byLength ? gain < -2 || this.wrong(a, b) - this.wrong(c, d) < 0.1 : gain <= 0) return;
    if (this.neighbours(c).includes(d)) return;
    const [m, n] = [this.normal(first), this.normal(second)];
    const [one, two] = [this.normalOf(a, d, c), this.normalOf(d, b, c)];
    if (dot(one, m) < 0.7 || dot(one, n) < 0.7 || dot(two, m) < 0.7 || dot(two, n) < 0.7) return;
    if (this.isNeedle(a, d, c) || this.isNeedle(d, b, c)) return;
    this.remove(first);
    this.remove(second);
    this.add(a, d, c);
    this.add(d, b, c);
  }

  /** The corner of a triangle that is neither end of its edge. */
  private across(t: number, a: number, b: number): number {
    const { tri } = this;
    const [x, y] = [tri[t * 3], tri[t * 3 + 1]];
    return x !== a && x !== b ? x : y !== a && y !== b ? y : tri[t * 3 + 2];
  }

  /** How much nearer a point comes to the number of triangles that suits it, squared, with so many more of them. */
  private gainOf(v: number, by: number): number {
    const off = this.at[v].length - (this.isBorder(v) ? 3 : 6);
    return off * off - (off + by) * (off + by);
  }

  /** How far a length is from the one asked, as a share of that. */
  private wrong(from: number, to: number): number {
    return Math.abs(Math.sqrt(this.squared(from, to)) / this.goal - 1);
  }

  /** Whether the mesh is open at a point. */
  private isBorder(v: number): boolean {
    return this.lineCount[v] > 0 && this.gather(v) !== this.at[v].length;
  }

  private isSharp(a: number, b: number): boolean {
    return this.lineCount[a] > 0 && this.lineCount[b] > 0 && this.sharp.has(key(a, b));
  }

  /**
   * Moves points along the surface, and back onto it: with `spring` 0 to the middle of their neighbours, which evens the whole; with 1 as springs of the length asked would,
   * which evens each edge.
   */
  relax(onto: Onto, spring: 0 | 1): void {
    const { p, around } = this;
    const moved = p.slice();
    const to = [0, 0, 0];
    for (let v = 0; v < this.points; v++) {
      if (!this.at[v].length) continue;
      const lines = this.lineCount[v];
      if (lines !== 0 && lines !== 2) continue;
      const o = v * 3;
      const all = this.gather(v);
      let count = 0;
      to.fill(0);
      for (let i = 0; i < all; i++) {
        const n = around[i];
        if (lines && !this.isSharp(v, n)) continue;
        count++;
        const pull = spring ? 1 - this.goal / Math.max(Math.sqrt(this.squared(v, n)), this.goal * 0.1) : 1;
        for (let k = 0; k < 3; k++) to[k] += pull * (p[n * 3 + k] - p[o + k]);
      }
      // With two neighbours a whole step to their middle would leave every other point swinging.
      const step = (lines ? 0.8 : spring ? 1.2 : 1) / count;
      for (let k = 0; k < 3; k++) to[k] *= step;
      if (lines === 0) {
        const n = this.pointNormal(v);
        const up = to[0] * n[0] + to[1] * n[1] + to[2] * n[2];
        for (let k = 0; k < 3; k++) moved[o + k] += to[k] - up * n[k];
        onto.surface(moved, o);
      } else {
        for (let k = 0; k < 3; k++) moved[o + k] += to[k];
        onto.line(moved, o);
      }
    }
    this.p = moved;
    this.takeBackTurns(p);
  }

  /** A move that turns a face over is taken back. */
  private takeBackTurns(before: Float64Array): void {
    const turned = new Uint8Array(this.alive.length);
    let any = false;
    for (let t = 0; t < turned.length; t++) if (this.alive[t] && this.hasTurned(t, before)) any = !!(turned[t] = 1);
    if (!any) return;
    for (let v = 0; v < this.points; v++) {
      const own = this.at[v];
      if (!own.some((t) => turned[t])) continue;
      for (let k = 0; k < 3; k++) this.p[v * 3 + k] = before[v * 3 + k];
      for (const t of own) turned[t] = this.hasTurned(t, before) ? 1 : 0;
    }
  }

  finish(): Mesh {
    const number = new Int32Array(this.points).fill(-1);
    const corners: number[] = [];
    const places: number[] = [];
    for (let t = 0; t < this.tri.length / 3; t++) {
      if (!this.alive[t]) continue;
      for (let k = 0; k < 3; k++) {
        const v = this.tri[t * 3 + k];
        if (number[v] < 0) {
          number[v] = places.length / 3;
          places.push(this.p[v * 3], this.p[v * 3 + 1], this.p[v * 3 + 2]);
        }
        corners.push(number[v]);
      }
    }
    return makeMesh({ positions: Float32Array.from(places), corners: Uint32Array.from(corners), uniform: 3 });
  }

  private setSharp(a: number, b: number): void {
    if (this.sharp.has(key(a, b))) return;
    this.sharp.add(key(a, b));
    this.lineCount[a]++;
    this.lineCount[b]++;
  }

  private clearSharp(a: number, b: number): void {
    if (!this.sharp.delete(key(a, b))) return;
    this.lineCount[a]--;
    this.lineCount[b]--;
  }
}
