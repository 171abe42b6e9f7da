import { planeOf } from '../curves/evaluate/plane.js';
import { newHit } from '../near/nearest.js';
import type { Surface } from '../near/surface.js';
import { firstHit, newRayHit } from '../space/ray.js';
import type { Work } from '../base/work.js';

type Place = ArrayLike<number>;

/** Directions round a link in which a way out of a body is looked for. */
const escapes = 16;

/** Points of a way, at most. */
const mostPoints = 240;

/** How often a way is drawn tighter, at most. */
const rounds = 400;

/** Points that are so far apart are drawn together by turns, in the first rounds: what is long and slack comes tight by the wide ones, what lies on the body by the narrow ones. */
const strides = [32, 16, 8, 4, 2, 1];
const coarse = 120;

/** How often pieces of a way that come too near are halved, at most. */
const finest = 12;

/** A way is taut when no round of tightening shortens it by more than this share. */
const taut = 1e-5;

/** Which ends of a way may lie on the body or in it; it then comes as near there as it has to. Others keep clear of it. */
type Touching = readonly [first: boolean, last: boolean];
const both: Touching = [true, true];

/** Short ways round a body, between two places on or off it. */
export class WayRound {
  private readonly hit = newHit();
  private readonly ray = newRayHit();
  private readonly outward = new Float64Array(3);
  private touching = both;

  /** @param clearance metres off the body. Near its ends, which may lie on the body, a way comes as near as it has to. */
  constructor(
    private readonly body: Surface,
    private readonly clearance: number,
  ) {}

  /** Whether the straight line passes the body with the clearance, but for its ends. */
  isFree(a: Place, b: Place): boolean {
    const length = distance(a, b);
    const step = Math.max(this.clearance / 2, length / mostPoints);
    const count = Math.max(2, Math.ceil(length / step));
    if (this.passesThrough(a, b, length)) return false;
    for (let i = 1; i < count; i++) {
      const s = (length * i) / count;
      if (this.depth(between(a, b, i / count), this.asked(s, length)) > 1e-9) return false;
    }
    return true;
  }

  /** The clearance that is asked for so far from an end: less near the ends, which may lie on the body. */
  private asked(s: number, length: number): number {
    const fromEnd = Math.min(s, length - s);
    return fromEnd < this.clearance * 2 ? -Infinity : this.clearance;
  }

  private passesThrough(a: Place, b: Place, length: number): boolean {
    if (!(length > 0)) return false;
    const along = [0, 1, 2].map((k) => (b[k] - a[k]) / length);
    // Ends lie on the body: what is met within a hair of them is where they lie.
    const hair = length * 1e-4;
    const from = [0, 1, 2].map((k) => a[k] + along[k] * hair);
    return firstHit(this.body.nearest.tree, from, along, this.ray, length - 2 * hair).piece >= 0;
  }

  /** Metres by which a place is nearer than asked. */
  private depth(place: Place, asked: number): number {
    return asked === -Infinity ? -1 : asked - this.body.signedDistance(place[0], place[1], place[2], this.hit);
  }

  /**
   * A taut way round: the straight line is taken out of the body to the side where that is nearest, then drawn tight against it. Null where there is none that keeps
   * the clearance.
   */
  round(a: Place, b: Place, work: Work, touching: Touching = both): Float64Array | null {
    this.touching = touching;
    const p = this.sampled(Float64Array.of(a[0], a[1], a[2], b[0], b[1], b[2]));
    const n = p.length / 3;
    this.takeOut(p, n, a, b);
    let before = Infinity;
    for (let turn = 0; turn < rounds; turn++) {
      work.progress(turn / rounds);
      const stride = strides[turn % strides.length];
      this.tighten(p, n, turn < coarse ? stride : 1);
      for (let i = 1; i < n - 1; i++) this.push(p, i);
      const now = total(p, n);
      if (turn > coarse + 8 && Math.abs(before - now) < taut * now) break;
      before = now;
    }
    this.straighten(p, n);
    return this.settled(p);
  }

  /** Puts points that nothing keeps from it on straight lines, each as long as the body lets it be. */
  private straighten(p: Float64Array, n: number): void {
    const [first, last] = this.endsOf(p);
    const at = (i: number): Float64Array => p.subarray(i * 3, i * 3 + 3);
    for (let i = 0; i < n - 1;) {
      // Twice as far each time, then halving between the last that was free and the first that was not.
      let free = i + 1;
      let step = 2;
      while (free < n - 1 && this.isPieceFree(at(i), at(Math.min(n - 1, i + step)), first, last)) {
        free = Math.min(n - 1, i + step);
        step *= 2;
      }
      for (let not = Math.min(n, i + step); not - free > 1;) {
        const middle = (free + not) >> 1;
        if (this.isPieceFree(at(i), at(middle), first, last)) free = middle;
        else not = middle;
      }
      const [from, to] = [at(i).slice(), at(free).slice()];
      for (let k = i + 1; k < free; k++) p.set(between(from, to, (k - i) / (free - i)), k * 3);
      i = free;
    }
  }

  /**
   * A way pushed aside: of the given one, places after each other from end to end, what is in the body or too near to it goes straight out to one side, that where all of it
   * has the shortest way out. Null where it does not keep the clearance even so.
   */
  aside(given: Float64Array, touching: Touching = both): Float64Array | null {
    this.touching = touching;
    const p = this.sampled(given);
    const n = p.length / 3;
    const [first, last] = this.endsOf(p);
    const inside: number[] = [];
    for (let i = 1; i < n - 1; i++) {
      const place = p.subarray(i * 3, i * 3 + 3);
      if (this.depth(place, this.askedFrom(place, first, last)) > 0) inside.push(i);
    }
    const way = this.shortestWayOut(p, inside, p.subarray(0, 3), p.subarray(n * 3 - 3));
    if (way)
      for (const i of inside) {
        const out = this.wayOut(p, i, way.direction);
        if (out > 0) for (let k = 0; k < 3; k++) p[i * 3 + k] += way.direction[k] * (out + this.clearance);
      }
    return this.settled(p);
  }

  /** Places along a way as near to each other as the clearance is wide, as far as there may be so many. */
  private sampled(path: Float64Array): Float64Array {
    const length = total(path, path.length / 3);
    return evenly(path, Math.min(mostPoints, Math.max(16, Math.ceil(length / Math.max(this.clearance, 1e-6)))) + 1);
  }

  /** A way with all of it taken out to the clearance; null where that cannot be. */
  private settled(p: Float64Array): Float64Array | null {
    for (let turn = 0; turn < 4; turn++) for (let i = 1; i < p.length / 3 - 1; i++) this.push(p, i);
    const fine = this.refined(p);
    return this.keeps(fine) ? fine : null;
  }

  /** The way with points put in where a piece of it comes too near, as it does over edges. */
  private refined(given: Float64Array): Float64Array {
    let p = given;
    for (let turn = 0; turn < finest; turn++) {
      const list: number[] = [...p.subarray(0, 3)];
      const [first, last] = this.endsOf(p);
      for (let i = 3; i < p.length; i += 3) {
        const [from, to] = [p.subarray(i - 3, i), p.subarray(i, i + 3)];
        const middle = Float64Array.from(between(from, to, 0.5));
        const asked = this.askedFrom(middle, first, last);
        const depth = this.depth(middle, asked);
        if (depth > asked * 0.005) {
          this.pushOut(middle, 0, asked, depth);
          list.push(...middle);
        }
        list.push(...to);
      }
      if (list.length === p.length) return p;
      p = Float64Array.from(list);
    }
    return p;
  }

  /** The ends of a way that may lie on the body. */
  private endsOf(p: Float64Array): [Place | null, Place | null] {
    return [this.touching[0] ? p.subarray(0, 3) : null, this.touching[1] ? p.subarray(p.length - 3) : null];
  }

  /** Takes the stretch inside the body out of it, all to one side: of many the one with the shortest way out. */
  private takeOut(p: Float64Array, n: number, a: Place, b: Place): void {
    const inside: number[] = [];
    for (let i = 1; i < n - 1; i++) if (this.body.signedDistance(p[i * 3], p[i * 3 + 1], p[i * 3 + 2], this.hit) < this.clearance) inside.push(i);
    if (!inside.length) return;
    const best = this.shortestWayOut(p, inside, a, b);
    if (!best) return;
    // The whole stretch from the first to the last, as a bow, so that nothing is pushed to two sides.
    const [from, to] = [Math.max(1, inside[0] - 1), Math.min(n - 2, inside[inside.length - 1] + 1)];
    for (let i = from; i <= to; i++) {
      const out = best.furthest + this.clearance;
      for (let k = 0; k < 3; k++) p[i * 3 + k] += best.direction[k] * out;
    }
  }

  /** The direction square to the way from a to b in which the point that has it furthest out of the body has it shortest; null where there are no points. */
  private shortestWayOut(p: Float64Array, points: readonly number[], a: Place, b: Place): { direction: number[]; furthest: number } | null {
    const { u, v } = planeOf([0, 1, 2].map((k) => b[k] - a[k]));
    let best: { direction: number[]; furthest: number } | null = null;
    for (let e = 0; points.length && e < escapes; e++) {
      const angle = (2 * Math.PI * e) / escapes;
      const direction = u.map((value, k) => Math.cos(angle) * value + Math.sin(angle) * v[k]);
      const furthest = Math.max(...points.map((i) => this.wayOut(p, i, direction)));
      if (!best || furthest < best.furthest) best = { direction, furthest };
    }
    return best;
  }

  /** Metres along a direction to where the body is left for good. */
  private wayOut(p: Float64Array, i: number, d: readonly number[]): number {
    let s = 0;
    for (let met = 0; met < 64; met++) {
      const from = [0, 1, 2].map((k) => p[i * 3 + k] + d[k] * s);
      if (firstHit(this.body.nearest.tree, from, d, this.ray).piece < 0) break;
      s += this.ray.t + 1e-6;
    }
    return s;
  }

  /** Moves each point towards the middle of two others, `stride` before and behind it. */
  private tighten(p: Float64Array, n: number, stride: number): void {
    for (let i = 1; i < n - 1; i++) {
      const far = Math.min(stride, i, n - 1 - i) * 3;
      for (let k = 0; k < 3; k++) {
        const at = i * 3 + k;
        p[at] += 0.9 * ((p[at - far] + p[at + far]) / 2 - p[at]);
      }
    }
  }

  private push(p: Float64Array, i: number): void {
    const o = i * 3;
    const [first, last] = this.endsOf(p);
    const asked = this.askedFrom(p.subarray(o, o + 3), first, last);
    const depth = this.depth(p.subarray(o, o + 3), asked);
    if (depth > 0) this.pushOut(p, o, asked, depth);
  }

  /** Moves the place that was looked at last, and is so much too near, out to the clearance that is asked of it: straight away from the body, or along its normal from inside. */
  private pushOut(p: Float64Array, o: number, asked: number, depth: number): void {
    const { hit, outward } = this;
    if (depth > asked || hit.distance < 1e-9) {
      if (!this.body.outward(hit, outward)) return;
    } else for (let k = 0; k < 3; k++) outward[k] = (p[o + k] - hit.place[k]) / hit.distance;
    for (let k = 0; k < 3; k++) p[o + k] = hit.place[k] + outward[k] * (asked + 1e-7);
  }

  /** The clearance asked of a place, the less the nearer it is to ends that may lie on the body. */
  askedFrom(place: Place, first: Place | null, last: Place | null): number {
    const fromEnd = Math.min(first ? distance(place, first) : Infinity, last ? distance(place, last) : Infinity);
    return fromEnd < this.clearance * 2 ? Math.min(this.clearance, fromEnd / 2) : this.clearance;
  }

  /** Whether a piece of a longer way keeps clear of the body, from one end to the other; `first` and `last` are ends of the whole that may lie on it. */
  isPieceFree(a: Place, b: Place, first: Place | null, last: Place | null): boolean {
    const length = distance(a, b);
    const count = Math.min(mostPoints, Math.max(1, Math.ceil((2 * length) / Math.max(this.clearance, 1e-6))));
    for (let i = 0; i <= count; i++) {
      const place = between(a, b, i / count);
      if (this.depth(place, this.askedFrom(place, first, last)) > this.clearance * 0.02 + 1e-6) return false;
    }
    return !this.passesThrough(a, b, length);
  }

  private keeps(p: Float64Array): boolean {
    const [first, last] = this.endsOf(p);
    for (let i = 3; i < p.length; i += 3) {
      // What begins or ends on the body is in its surface there.
      if ((i === 3 && first) || (i === p.length - 3 && last)) continue;
      if (!this.isPieceFree(p.subarray(i - 3, i), p.subarray(i, i + 3), first, last)) return false;
    }
    return true;
  }
}

const distance = (a: Place, b: Place): number => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
const between = (a: Place, b: Place, t: number): number[] => [0, 1, 2].map((k) => a[k] + (b[k] - a[k]) * t);

function total(p: Float64Array, n: number): number {
  let sum = 0;
  for (let i = 1; i < n; i++) sum += Math.hypot(p[i * 3] - p[i * 3 - 3], p[i * 3 + 1] - p[i * 3 - 2], p[i * 3 + 2] - p[i * 3 - 1]);
  return sum;
}

/** Places at even steps along straight pieces, both ends among them. */
function evenly(path: Float64Array, count: number): Float64Array {
  const length = total(path, path.length / 3);
  const p = new Float64Array(count * 3);
  let passed = 0;
  let piece = 0;
  let own = distance(path.subarray(0, 3), path.subarray(3, 6));
  for (let i = 0; i < count; i++) {
    const at = (length * i) / (count - 1);
    while (passed + own < at && (piece + 2) * 3 < path.length) {
      passed += own;
      piece++;
      own = distance(path.subarray(piece * 3, piece * 3 + 3), path.subarray(piece * 3 + 3, piece * 3 + 6));
    }
    const t = own > 0 ? Math.min(1, (at - passed) / own) : 0;
    p.set(between(path.subarray(piece * 3, piece * 3 + 3), path.subarray(piece * 3 + 3, piece * 3 + 6), t), i * 3);
  }
  return p;
}

/** The share of the whole length at which each place of a line lies (3 numbers a place): 0 at the first, 1 at the last. */
export function sharesAlong(line: ArrayLike<number>): Float64Array {
  const shares = new Float64Array(line.length / 3);
  for (let i = 1; i < shares.length; i++)
    shares[i] = shares[i - 1] + Math.hypot(line[i * 3] - line[i * 3 - 3], line[i * 3 + 1] - line[i * 3 - 2], line[i * 3 + 2] - line[i * 3 - 1]);
  const total = shares[shares.length - 1];
  if (total > 0) for (let i = 0; i < shares.length; i++) shares[i] /= total;
  return shares;
}
