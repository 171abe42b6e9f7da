import { newHit, NearestTree } from '../../near/nearest.js';
import type { Surface } from '../../near/surface.js';
import { cellSize, PointGrid } from '../../space/grid.js';
import type { Pieces } from '../../space/boxTree.js';
import type { Rope } from './rope.js';

/** How many steps a contact plane is kept before the body is asked anew. */
const keptFor = 6;

/** Samples along a piece at which ropes are kept apart, at most. */
const mostSamples = 6;

/** How many thicknesses along itself a rope is before it counts as another that it can meet. */
const selfApart = 6;

/** What keeps a rope out of bodies, and off other ropes. */
export interface Contact {
  /** Moves points out; `friction` is the share of the sideways way of this step that is taken back, by how deep a point was pressed in. */
  resolve(rope: Rope): void;
}

/** Keeps the points of one rope a radius off a body. Planes through the nearest places stand for the body until it is asked again. */
export class BodyContact implements Contact {
  private readonly hit = newHit();
  private readonly outward = new Float64Array(3);
  /** For each point the plane that it is to stay above: normal and height, and whether there is one. */
  private readonly planes: Float64Array;
  private readonly near: Uint8Array;
  private steps = 0;

  constructor(
    private readonly body: Surface,
    private readonly radius: number,
    private readonly friction: number,
    /** Metres that a point may go in one step. */
    private readonly most: number,
    n: number,
  ) {
    this.planes = new Float64Array(n * 4);
    this.near = new Uint8Array(n);
  }

  resolve(rope: Rope): void {
    if (this.steps++ % keptFor === 0) this.ask(rope);
    const { planes, near, radius } = this;
    const { p, free } = rope;
    for (let i = 0; i < rope.n; i++) {
      if (!near[i] || !free[i]) continue;
      const [o, q] = [i * 3, i * 4];
      const depth = radius + planes[q + 3] - (p[o] * planes[q] + p[o + 1] * planes[q + 1] + p[o + 2] * planes[q + 2]);
      if (!(depth > 0)) continue;
      for (let k = 0; k < 3; k++) p[o + k] += depth * planes[q + k];
      hold(rope, i, planes, q, this.friction * depth);
    }
  }

  /** Takes every point that is too near out, once, by the body itself. Returns how much too near the worst still is. */
  settle(rope: Rope): number {
    let worst = 0;
    for (let i = 0; i < rope.n; i++) {
      if (!rope.free[i]) continue;
      for (let turn = 0; turn < 4; turn++) {
        const depth = this.radius - this.distance(rope, i);
        if (!(depth > 0)) break;
        if (turn === 3) worst = Math.max(worst, depth);
        this.plane(rope, i);
        const q = i * 4;
        const away = rope.p[i * 3] * this.planes[q] + rope.p[i * 3 + 1] * this.planes[q + 1] + rope.p[i * 3 + 2] * this.planes[q + 2] - this.planes[q + 3];
        for (let k = 0; k < 3; k++) rope.p[i * 3 + k] += (this.radius + 1e-7 - away) * this.planes[q + k];
      }
    }
    return worst;
  }

  /** Points that lie in the body. */
  inside(rope: Rope): number {
    let count = 0;
    for (let i = 0; i < rope.n; i++) if (rope.free[i] && this.distance(rope, i) < -this.radius) count++;
    return count;
  }

  private distance(rope: Rope, i: number): number {
    return this.body.signedDistance(rope.p[i * 3], rope.p[i * 3 + 1], rope.p[i * 3 + 2], this.hit);
  }

  private ask(rope: Rope): void {
    const reach = this.radius + this.most * keptFor * 2;
    for (let i = 0; i < rope.n; i++) {
      if (!rope.free[i]) continue;
      const [x, y, z] = [rope.p[i * 3], rope.p[i * 3 + 1], rope.p[i * 3 + 2]];
      this.body.nearest.nearest(x, y, z, this.hit, reach);
      this.near[i] = Number(this.hit.piece >= 0);
      if (this.near[i]) this.plane(rope, i);
    }
  }

  /** The plane through the place that was found last, square to the way from there to the point, or out of the body where the point is in it. */
  private plane(rope: Rope, i: number): void {
    const { hit, outward, planes } = this;
    if (!this.body.outward(hit, outward)) return void (this.near[i] = 0);
    const q = i * 4;
    const way = [0, 1, 2].map((k) => rope.p[i * 3 + k] - hit.place[k]);
    const outside = way[0] * outward[0] + way[1] * outward[1] + way[2] * outward[2] > 0;
    if (outside && hit.distance > 1e-9) for (let k = 0; k < 3; k++) outward[k] = way[k] / hit.distance;
    for (let k = 0; k < 3; k++) planes[q + k] = outward[k];
    planes[q + 3] = outward[0] * hit.place[0] + outward[1] * hit.place[1] + outward[2] * hit.place[2];
  }
}

/** Takes the sideways way of this step back, up to `most` metres. */
function hold(rope: Rope, i: number, normal: Float64Array, q: number, most: number): void {
  if (!(most > 0)) return;
  const { p, before } = rope;
  const o = i * 3;
  const way = [p[o] - before[o], p[o + 1] - before[o + 1], p[o + 2] - before[o + 2]];
  const up = way[0] * normal[q] + way[1] * normal[q + 1] + way[2] * normal[q + 2];
  const side = way.map((value, k) => value - up * normal[q + k]);
  const size = Math.hypot(...side);
  if (!(size > 0)) return;
  const share = Math.min(1, most / size);
  for (let k = 0; k < 3; k++) p[o + k] -= side[k] * share;
}

/** Samples of a rope's pieces no further apart than `gap`: for each the piece and where on it. */
function samplesOf(rope: Rope, gap: number, visit: (piece: number, share: number) => void): void {
  for (let j = 0; j < rope.pieces; j++) {
    const count = Math.min(mostSamples, Math.max(1, Math.ceil(rope.rest[j] / gap)));
    for (let k = 0; k < count; k++) visit(j, (k + 0.5) / count);
  }
}

/** Keeps a rope on top of ropes that lie still: where it meets one it is lifted over it, off the body, or up where there is none. */
export class LyingContact implements Contact {
  private readonly hit = newHit();
  private readonly ground = newHit();
  private readonly outward = new Float64Array(3);

  constructor(
    private readonly lying: NearestTree,
    private readonly body: Surface | null,
    private readonly apart: number,
    private readonly gap: number,
    private readonly up: readonly number[],
  ) {}

  resolve(rope: Rope): void {
    const { hit, apart } = this;
    const { p } = rope;
    samplesOf(rope, this.gap, (j, share) => {
      const [a, b] = [j * 3, rope.after(j) * 3];
      const at = [0, 1, 2].map((k) => p[a + k] * (1 - share) + p[b + k] * share);
      this.lying.nearest(at[0], at[1], at[2], hit, apart);
      if (hit.piece < 0) return;
      const over = this.over(at);
      const way = at.map((value, k) => value - hit.place[k]);
      const high = way[0] * over[0] + way[1] * over[1] + way[2] * over[2];
      const aside = Math.max(0, hit.distance ** 2 - high ** 2);
      push(rope, j, share, over, Math.sqrt(Math.max(0, apart ** 2 - aside)) - high);
    });
  }

  /** Which way is off the body. */
  private over(at: readonly number[]): ArrayLike<number> {
    const { body, ground, outward } = this;
    if (!body) return this.up;
    body.nearest.nearest(at[0], at[1], at[2], ground);
    return body.outward(ground, outward) ? outward : this.up;
  }
}

/** The tree of ropes that lie still. */
export function lyingTree(ropes: readonly Rope[]): NearestTree {
  const total = ropes.reduce((sum, { pieces }) => sum + pieces, 0);
  const corners = new Float32Array(total * 6);
  let at = 0;
  for (const rope of ropes)
    for (let j = 0; j < rope.pieces; j++) {
      for (let k = 0; k < 3; k++) {
        corners[at * 6 + k] = rope.p[j * 3 + k];
        corners[at * 6 + 3 + k] = rope.p[rope.after(j) * 3 + k];
      }
      at++;
    }
  const count = Uint32Array.from({ length: total }, (_, i) => i);
  // What it is of is not asked here.
  return new NearestTree({ corners, size: 6, element: count, points: new Uint32Array(total * 2), perPiece: 2, of: null as unknown as Pieces['of'] });
}

/** Moves a place of a piece by moving its ends, each by its share. */
function push(rope: Rope, j: number, share: number, way: ArrayLike<number>, by: number): void {
  const next = rope.after(j);
  const [wa, wb] = [rope.free[j] * (1 - share), rope.free[next] * share];
  const sum = wa * (1 - share) + wb * share;
  if (!(sum > 1e-9)) return;
  for (let k = 0; k < 3; k++) {
    rope.p[j * 3 + k] += (wa / sum) * by * way[k];
    rope.p[next * 3 + k] += (wb / sum) * by * way[k];
  }
}

/** Keeps ropes that all move off each other, and off themselves. */
export function keepApart(ropes: readonly Rope[], apart: number, gap: number): void {
  const owners: number[] = [];
  const pieces: number[] = [];
  const shares: number[] = [];
  const along: number[] = [];
  ropes.forEach((rope, r) => {
    let s = 0;
    let last = -1;
    samplesOf(rope, gap, (j, share) => {
      if (j !== last && last >= 0) s += rope.rest[last];
      last = j;
      owners.push(r);
      pieces.push(j);
      shares.push(share);
      along.push(s + share * rope.rest[j]);
    });
  });
  const places = new Float64Array(owners.length * 3);
  const place = (i: number): void => {
    const rope = ropes[owners[i]];
    const [a, b] = [pieces[i] * 3, rope.after(pieces[i]) * 3];
    for (let k = 0; k < 3; k++) places[i * 3 + k] = rope.p[a + k] * (1 - shares[i]) + rope.p[b + k] * shares[i];
  };
  for (let i = 0; i < owners.length; i++) place(i);
  const grid = new PointGrid(cellSize(places, apart), Math.max(1, owners.length));
  for (let i = 0; i < owners.length; i++) {
    place(i);
    const [x, y, z] = [places[i * 3], places[i * 3 + 1], places[i * 3 + 2]];
    grid.near(x, y, z, apart, (other) => {
      const rope = ropes[owners[i]];
      if (owners[other] === owners[i]) {
        const between = Math.abs(along[i] - along[other]);
        if (Math.min(between, rope.closed ? rope.length - between : Infinity) < apart * selfApart) return;
      }
      place(other);
      const way = [x - places[other * 3], y - places[other * 3 + 1], z - places[other * 3 + 2]];
      const size = Math.hypot(...way);
      if (!(size < apart)) return;
      const unit = size > 1e-9 ? way.map((value) => value / size) : [0, 1, 0];
      push(rope, pieces[i], shares[i], unit, (apart - size) / 2);
      push(ropes[owners[other]], pieces[other], shares[other], unit, (size - apart) / 2);
      place(i);
    });
    grid.add(x, y, z);
  }
}
