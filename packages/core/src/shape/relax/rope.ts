/**
 * How strongly a piece keeps its length against what a point weighs: the more, the less it gives and the slower it swings. Ropes of few pieces need less of it
 * to keep theirs, and are slower to move with the same: it grows with their number.
 */
const most = { hold: 1000, pieces: 64 };
const holdOf = (pieces: number): number => most.hold * Math.min(1, pieces / most.pieces);

/** The shortest that a rope between two held points can be, of the straight line: enough to pull it straight. */
const pull = 0.99;

/** How far a piece that is pushed together comes back to its length in a step: a rope does not resist that, but its points are to stay spread. */
const spreading = 0.05;

/** What is left of a swing after a step; beside a body, whose bearing follows with a delay, less. */
const swing = { free: 0.995, byBody: 0.6 };

/**
 * One rope that is being relaxed: points with their places now and a moment ago, pieces with their lengths at rest.
 *
 * A step is one of projective dynamics (Bouaziz, Martin, Liu, Kavan & Pauly 2014): what every piece would like to be is found by itself, then all points are placed
 * between that and where they were going, by one tridiagonal system that never changes. However hard it is pulled, nothing in it can swing up.
 */
export class Rope {
  readonly n: number;
  /** Places, and where they were before the step. */
  readonly p: Float64Array;
  readonly before: Float64Array;
  /** 0: the point is held, 1: free. */
  readonly free: Float64Array;
  /** Length at rest of the piece from each point to the next. */
  readonly rest: Float64Array;
  readonly pieces: number;
  readonly length: number;
  /** Squared way of the last step, by which a swing is told, and how many have been stopped. */
  private moving = 0;
  stops = 0;
  private readonly hold: number;
  private readonly system: RingSolver;
  private readonly right: Float64Array;
  /** What the body bears, and after a step how far that alone moved each point: 3 numbers each. */
  readonly borne: Float64Array;
  private readonly nowhere: Float64Array;

  constructor(
    places: ArrayLike<number>,
    readonly closed: boolean,
    slack: number,
    held: (i: number) => boolean,
  ) {
    this.n = places.length / 3;
    this.p = Float64Array.from(places);
    this.before = this.p.slice();
    this.pieces = closed ? this.n : Math.max(0, this.n - 1);
    this.free = Float64Array.from({ length: this.n }, (_, i) => (held(i) ? 0 : 1));
    this.rest = Float64Array.from({ length: this.pieces }, (_, j) => this.span(j) * (1 + slack));
    this.allowStraight();
    this.length = this.rest.reduce((sum, each) => sum + each, 0);
    this.hold = holdOf(this.pieces);
    this.system = new RingSolver(this.free, closed, this.hold);
    this.right = new Float64Array(this.n * 3);
    this.borne = new Float64Array(this.n * 3);
    this.nowhere = new Float64Array(this.n * 3);
  }

  /** The point at the end of a piece. */
  after(j: number): number {
    return j + 1 < this.n ? j + 1 : 0;
  }

  /** Length of a piece now. */
  span(j: number): number {
    const [a, b] = [j * 3, this.after(j) * 3];
    return distance(this.p, b, this.p, a);
  }

  /** Between two held points a rope cannot be shorter than the straight line, but for what draws it straight. */
  private allowStraight(): void {
    const held = [...this.free.keys()].filter((i) => !this.free[i]);
    const { p, rest, n, closed } = this;
    held.forEach((from, k) => {
      const to = held[k + 1] ?? (closed && held.length > 1 ? held[0] : -1);
      if (to < 0) return;
      const own: number[] = [];
      for (let j = from; j !== to; j = (j + 1) % n) own.push(j);
      const straight = Math.hypot(p[to * 3] - p[from * 3], p[to * 3 + 1] - p[from * 3 + 1], p[to * 3 + 2] - p[from * 3 + 2]);
      const sum = own.reduce((total, j) => total + rest[j], 0);
      const least = straight * pull;
      if (sum < least) for (const j of own) rest[j] *= least / sum;
    });
  }

  /**
   * One step: points run on and fall `by` metres, are borne by what they lie on (`bear`), and pieces draw them to their lengths; no point goes further than `most`. A swing that has passed its fastest is stopped
   * where it is, so that the rope comes to rest where it hangs lowest (kinetic damping of dynamic relaxation, Day 1965, Cundall 1976).
   */
  step(by: readonly number[], most: number, bear?: (balance: Float64Array) => void): void {
    const { p, before, free, n } = this;
    let moving = 0;
    for (let i = 0; i < n * 3; i++) moving += (p[i] - before[i]) ** 2;
    const stop = moving < this.moving;
    if (stop) this.stops++;
    this.moving = stop ? 0 : moving;
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++) {
        const at = i * 3 + k;
        const way = stop ? 0 : (p[at] - before[at]) * (bear ? swing.byBody : swing.free);
        before[at] = p[at];
        p[at] += free[i] * way;
      }
    this.restore(by, bear);
    for (let i = 0; i < n; i++) {
      const o = i * 3;
      const way = distance(p, o, before, o);
      if (way > most) for (let k = 0; k < 3; k++) p[o + k] = before[o + k] + ((p[o + k] - before[o + k]) * most) / way;
    }
  }

  /**
   * Places all points between where they were going and what pieces would like to be. Which way pieces run is looked at before points fall: what rests then rests where the
   * pulls of its pieces bear its weight.
   */
  private restore(by: readonly number[], bear?: (balance: Float64Array) => void): void {
    const { p, free, rest, pieces, right, system, hold } = this;
    for (let i = 0; i < right.length; i++) right[i] = p[i] + free[(i / 3) | 0] * by[i % 3];
    if (bear) {
      this.borne.fill(0);
      bear(this.borne);
      for (let i = 0; i < right.length; i++) right[i] += this.borne[i];
      system.solve(this.borne, this.nowhere);
    }
    for (let j = 0; j < pieces; j++) {
      const next = this.after(j);
      const [a, b] = [j * 3, next * 3];
      const size = this.span(j);
      if (!(size > 0)) continue;
      // What is too long wants its length; what is pushed together wants to stay as it is, but for a little.
      const wanted = size > rest[j] ? rest[j] / size : 1 + (spreading * (rest[j] - size)) / size;
      for (let k = 0; k < 3; k++) {
        const d = hold * wanted * (p[b + k] - p[a + k]);
        right[a + k] -= free[j] * d;
        right[b + k] += free[next] * d;
      }
    }
    system.solve(right, p);
    p.set(right);
  }

  /** Draws points toward the middle of their neighbours, by `share` of the way. */
  straighten(share: number): void {
    if (!(share > 0)) return;
    const { p, free, n, closed } = this;
    const [first, last] = closed ? [0, n] : [1, n - 1];
    for (let i = first; i < last; i++) {
      if (!free[i]) continue;
      const [a, o, b] = [((i + n - 1) % n) * 3, i * 3, ((i + 1) % n) * 3];
      for (let k = 0; k < 3; k++) p[o + k] += share * ((p[a + k] + p[b + k]) / 2 - p[o + k]);
    }
  }

  /** Takes the way of a point across a normal in this step back, up to `most` metres. */
  slow(i: number, x: number, y: number, z: number, most: number): void {
    if (!(most > 0) || !this.free[i]) return;
    const { p, before } = this;
    const o = i * 3;
    const [a, b, c] = [p[o] - before[o], p[o + 1] - before[o + 1], p[o + 2] - before[o + 2]];
    const up = a * x + b * y + c * z;
    const [sx, sy, sz] = [a - up * x, b - up * y, c - up * z];
    const size = Math.sqrt(sx * sx + sy * sy + sz * sz);
    if (!(size > 0)) return;
    const share = Math.min(1, most / size);
    p[o] -= sx * share;
    p[o + 1] -= sy * share;
    p[o + 2] -= sz * share;
  }

  /** The furthest that a point went in the last step, metres. */
  lastWay(): number {
    let most = 0;
    for (let i = 0; i < this.n; i++) {
      const o = i * 3;
      most = Math.max(most, distance(this.p, o, this.before, o));
    }
    return most;
  }
}

const distance = (p: Float64Array, a: number, q: Float64Array, b: number): number =>
  Math.sqrt((p[a] - q[b]) ** 2 + (p[a + 1] - q[b + 1]) ** 2 + (p[a + 2] - q[b + 2]) ** 2);

/**
 * Solves (1 + hold · Laplacian) x = b for points in a line or ring, of which some are held, over and over: the factors are made once (Thomas 1949; a ring by Sherman &
 * Morrison 1950).
 */
class RingSolver {
  private readonly lower: Float64Array;
  private readonly per: Float64Array;
  private readonly upper: Float64Array;
  /** Of a ring: what its closing piece adds. */
  private readonly closing: Float64Array | null = null;
  private readonly corner: number = 0;
  private readonly gamma: number = 1;
  private readonly isRing: boolean;

  constructor(
    private readonly free: Float64Array,
    closed: boolean,
    private readonly hold: number,
  ) {
    const n = free.length;
    const ring = closed && n > 2;
    this.isRing = ring;
    this.lower = new Float64Array(n);
    this.per = new Float64Array(n);
    this.upper = new Float64Array(n);
    const diagonal = Float64Array.from(free, (own, i) => (own ? 1 + hold * (Number(ring || i > 0) + Number(ring || i + 1 < n)) : 1));
    for (let i = 1; i < n; i++) this.lower[i] = free[i] ? -hold : 0;
    const upper = Float64Array.from(free, (own, i) => (own && i + 1 < n ? -hold : 0));
    if (ring && free[0] && free[n - 1]) {
      this.corner = -hold;
      diagonal[0] *= 2;
      diagonal[n - 1] += hold ** 2 / (diagonal[0] / 2);
    }
    for (let i = 0; i < n; i++) {
      const own = diagonal[i] - (i > 0 ? this.lower[i] * this.upper[i - 1] : 0);
      this.per[i] = 1 / own;
      this.upper[i] = upper[i] / own;
    }
    if (!this.corner) return;
    const u = new Float64Array(n);
    u[0] = -diagonal[0] / 2;
    u[n - 1] = this.corner;
    this.sweep(u, 1, 0);
    this.closing = u;
    this.gamma = -diagonal[0] / 2;
  }

  /** `right`, 3 numbers a point, becomes the solution. `now`: where held neighbours across the ends of a ring are. */
  solve(right: Float64Array, now: Float64Array): void {
    const n = this.free.length;
    for (let k = 0; k < 3; k++) {
      // A ring that is held at an end is open there: its neighbour is known.
      if (!this.corner && this.isRing) {
        if (this.free[0]) right[k] += this.hold * now[(n - 1) * 3 + k];
        if (this.free[n - 1]) right[(n - 1) * 3 + k] += this.hold * now[k];
      }
      this.sweep(right, 3, k);
      if (!this.closing) continue;
      const v = this.corner / this.gamma;
      const factor = (right[k] + v * right[(n - 1) * 3 + k]) / (1 + this.closing[0] + v * this.closing[n - 1]);
      for (let i = 0; i < n; i++) right[i * 3 + k] -= factor * this.closing[i];
    }
  }

  private sweep(x: Float64Array, size: number, k: number): void {
    const { lower, per, upper } = this;
    const n = per.length;
    for (let i = 0; i < n; i++) x[i * size + k] = (x[i * size + k] - (i > 0 ? lower[i] * x[(i - 1) * size + k] : 0)) * per[i];
    for (let i = n - 2; i >= 0; i--) x[i * size + k] -= upper[i] * x[(i + 1) * size + k];
  }
}
