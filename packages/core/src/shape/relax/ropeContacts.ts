import { newHit } from '../../near/nearest.js';
import type { Surface } from '../../near/surface.js';
import { cellSize, PointGrid } from '../../space/grid.js';
import type { Rope } from './rope.js';

/** About how many steps at the greatest speed pairs last for. */
const stepsKept = 6;

/** How many thicknesses along itself a rope is before it counts as another that it can meet. */
const selfApart = 6;

/** A piece of a rope. */
interface Piece {
  readonly rope: Rope;
  readonly j: number;
  /** Metres along the rope at its middle. */
  readonly s: number;
}

function piecesOf(ropes: readonly Rope[]): Piece[] {
  return ropes.flatMap((rope) => {
    let s = 0;
    return Array.from(rope.rest, (length, j) => ({ rope, j, s: (s += length) - length / 2 }));
  });
}

function middleOf({ rope, j }: Piece, into: Float64Array, o: number): void {
  const next = rope.after(j);
  for (let k = 0; k < 3; k++) into[o + k] = (rope.p[j * 3 + k] + rope.p[next * 3 + k]) / 2;
}

/** Half the length of the longest piece, now and at rest. */
function halfLongest(ropes: readonly Rope[]): number {
  let longest = 0;
  for (const rope of ropes) for (let j = 0; j < rope.pieces; j++) longest = Math.max(longest, rope.rest[j], rope.span(j));
  return longest / 2;
}

/** Ropes that lie already, and do not move. */
export class LyingRopes {
  readonly pieces: Piece[] = [];
  half = 0;
  private readonly grid: PointGrid;
  private readonly middle = new Float64Array(3);

  /** @param reach about how far from each other pieces are looked for, metres. */
  constructor(reach: number) {
    this.grid = new PointGrid(reach);
  }

  add(rope: Rope): void {
    this.half = Math.max(this.half, halfLongest([rope]));
    for (const piece of piecesOf([rope])) {
      middleOf(piece, this.middle, 0);
      this.grid.add(this.middle[0], this.middle[1], this.middle[2]);
      this.pieces.push(piece);
    }
  }

  near(x: number, y: number, z: number, reach: number, visit: (piece: number) => void): void {
    if (this.pieces.length) this.grid.near(x, y, z, reach, visit);
  }
}

/** Where two pieces are nearest to each other: shares of each, and from the second to the first. */
const nearest = { s: 0, t: 0, way: new Float64Array(3), distance: 0 };

/**
 * Keeps ropes a distance apart: those that move push each other, and come to lie on those that lie already, lifted over them off the body, or up where there is none. Which
 * pieces are near each other is looked up again when they have moved.
 */
export class RopeContacts {
  private readonly pieces: Piece[];
  /** How far the middles of pieces may be apart that may meet. */
  private readonly reach: number;
  /** How much further than they need to be pairs are looked for, so that they last until two points have gone so far together. */
  private readonly skin: number;
  /** Numbers of pieces, the moving one first; the second is one that lies where it is not less than the number of those that move. */
  private pairs: Uint32Array = new Uint32Array(1024);
  private count = 0;
  /** Where all points were when pairs were looked up. */
  private readonly looked: Float64Array[];
  private readonly ground = newHit();
  private readonly outward = new Float64Array(3);

  /** @param most metres that a point may go in a step. */
  constructor(
    private readonly moving: readonly Rope[],
    private readonly lying: LyingRopes,
    private readonly apart: number,
    most: number,
    private readonly friction: number,
    private readonly body: Surface | null,
    private readonly up: readonly number[],
  ) {
    this.pieces = piecesOf(moving);
    this.skin = Math.max(apart, most * stepsKept * 2);
    this.reach = apart + this.skin + halfLongest(moving);
    this.looked = moving.map(({ p }) => p.slice().fill(Infinity));
  }

  resolve(): void {
    if (this.haveMoved()) this.find();
    const { pieces, lying, pairs, apart } = this;
    for (let k = 0; k < this.count; k++) {
      const a = pieces[pairs[k * 2]];
      const other = pairs[k * 2 + 1];
      const lies = other >= pieces.length;
      const b = lies ? lying.pieces[other - pieces.length] : pieces[other];
      approach(a, b);
      if (!(nearest.distance < apart)) continue;
      if (lies) this.lift(a);
      else this.part(a, b);
    }
  }

  private haveMoved(): boolean {
    const most = (this.skin / 2) ** 2;
    return this.moving.some(({ p }, r) => {
      const then = this.looked[r];
      for (let i = 0; i < p.length; i += 3) if (!((p[i] - then[i]) ** 2 + (p[i + 1] - then[i + 1]) ** 2 + (p[i + 2] - then[i + 2]) ** 2 < most)) return true;
      return false;
    });
  }

  /** Looks up which pieces may meet until they have moved. */
  private find(): void {
    this.moving.forEach(({ p }, r) => this.looked[r].set(p));
    const { pieces, lying } = this;
    const middles = new Float64Array(pieces.length * 3);
    pieces.forEach((piece, i) => middleOf(piece, middles, i * 3));
    const among = this.reach + halfLongest(this.moving);
    const onto = this.reach + lying.half;
    const grid = new PointGrid(cellSize(middles, among / 2), Math.max(1, pieces.length));
    this.count = 0;
    for (let i = 0; i < pieces.length; i++) {
      const [x, y, z] = [middles[i * 3], middles[i * 3 + 1], middles[i * 3 + 2]];
      grid.near(x, y, z, among, (other) => {
        if ((x - middles[other * 3]) ** 2 + (y - middles[other * 3 + 1]) ** 2 + (z - middles[other * 3 + 2]) ** 2 > among ** 2) return;
        if (pieces[other].rope !== pieces[i].rope || this.isFar(pieces[i], pieces[other])) this.pair(i, other);
      });
      grid.add(x, y, z);
      lying.near(x, y, z, onto, (other) => {
        approach(pieces[i], lying.pieces[other]);
        if (nearest.distance < this.apart + this.skin) this.pair(i, pieces.length + other);
      });
    }
  }

  /** Pieces of one rope meet only where the rope comes back to itself. */
  private isFar(a: Piece, b: Piece): boolean {
    const between = Math.abs(a.s - b.s);
    return Math.min(between, a.rope.closed ? a.rope.length - between : Infinity) > this.apart * selfApart;
  }

  private pair(a: number, b: number): void {
    if (this.count * 2 === this.pairs.length) {
      const more = new Uint32Array(this.pairs.length * 2);
      more.set(this.pairs);
      this.pairs = more;
    }
    this.pairs[this.count * 2] = a;
    this.pairs[this.count * 2 + 1] = b;
    this.count++;
  }

  private part(a: Piece, b: Piece): void {
    const { s, t, way, distance } = nearest;
    const depth = (this.apart - distance) / 2;
    const per = distance > 1e-12 ? 1 / distance : 0;
    const [x, y, z] = per ? [way[0] * per, way[1] * per, way[2] * per] : this.up;
    push(a, s, x, y, z, depth);
    push(b, t, x, y, z, -depth);
  }

  /** Takes a piece up to where it passes over one that lies. */
  private lift(a: Piece): void {
    const { s, way, distance } = nearest;
    const over = this.over(a, s);
    const high = way[0] * over[0] + way[1] * over[1] + way[2] * over[2];
    const aside = Math.max(0, distance ** 2 - high ** 2);
    const depth = Math.sqrt(Math.max(0, this.apart ** 2 - aside)) - high;
    push(a, s, over[0], over[1], over[2], depth);
    for (const i of [a.j, a.rope.after(a.j)]) a.rope.slow(i, over[0], over[1], over[2], this.friction * depth);
  }

  /** Which way is off the body at a place of a piece. */
  private over({ rope, j }: Piece, share: number): ArrayLike<number> {
    const { body, ground, outward } = this;
    if (!body) return this.up;
    const [a, b] = [j * 3, rope.after(j) * 3];
    const at = (k: number): number => rope.p[a + k] * (1 - share) + rope.p[b + k] * share;
    body.nearest.nearest(at(0), at(1), at(2), ground);
    return body.outward(ground, outward) ? outward : this.up;
  }
}

/** The least share by which a place is taken to follow the ends of its piece. */
const leastLever = 0.25;

/** Moves a place of a piece by moving its ends, each by its share. */
function push({ rope, j }: Piece, share: number, x: number, y: number, z: number, by: number): void {
  const next = rope.after(j);
  const [wa, wb] = [rope.free[j] * (1 - share), rope.free[next] * share];
  // Next to a held point the other end is not thrown out for it.
  const sum = Math.max(leastLever, wa * (1 - share) + wb * share);
  const { p } = rope;
  const [first, second] = [(wa / sum) * by, (wb / sum) * by];
  p[j * 3] += first * x;
  p[j * 3 + 1] += first * y;
  p[j * 3 + 2] += first * z;
  p[next * 3] += second * x;
  p[next * 3 + 1] += second * y;
  p[next * 3 + 2] += second * z;
}

/** Finds where two pieces are nearest to each other (Ericson 2005, closest points of two segments). */
function approach(a: Piece, b: Piece): void {
  const [p, q] = [a.rope.p, b.rope.p];
  const [a0, a1, b0, b1] = [a.j * 3, a.rope.after(a.j) * 3, b.j * 3, b.rope.after(b.j) * 3];
  const [ux, uy, uz] = [p[a1] - p[a0], p[a1 + 1] - p[a0 + 1], p[a1 + 2] - p[a0 + 2]];
  const [vx, vy, vz] = [q[b1] - q[b0], q[b1 + 1] - q[b0 + 1], q[b1 + 2] - q[b0 + 2]];
  const [rx, ry, rz] = [p[a0] - q[b0], p[a0 + 1] - q[b0 + 1], p[a0 + 2] - q[b0 + 2]];
  const [uu, vv, uv] = [ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz, ux * vx + uy * vy + uz * vz];
  const [ur, vr] = [ux * rx + uy * ry + uz * rz, vx * rx + vy * ry + vz * rz];
  const wide = uu * vv - uv * uv;
  let s = wide > 1e-12 * uu * vv ? share((uv * vr - ur * vv) / wide) : 0.5;
  let t = vv > 0 ? (uv * s + vr) / vv : 0;
  if (t < 0 || t > 1) {
    t = share(t);
    s = uu > 0 ? share((uv * t - ur) / uu) : 0;
  }
  nearest.s = s;
  nearest.t = t;
  nearest.way[0] = rx + ux * s - vx * t;
  nearest.way[1] = ry + uy * s - vy * t;
  nearest.way[2] = rz + uz * s - vz * t;
  nearest.distance = Math.sqrt(nearest.way[0] ** 2 + nearest.way[1] ** 2 + nearest.way[2] ** 2);
}

const share = (value: number): number => (value < 0 ? 0 : value > 1 ? 1 : value);
