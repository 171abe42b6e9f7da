import { curveCount, type Curves } from '../geometry/curves.js';
import { tick, type Work } from '../base/work.js';
import { newHit } from '../near/nearest.js';
import type { Surface } from '../near/surface.js';
import { SurfaceWalk } from '../near/walk.js';
import { firstHit, newRayHit } from '../space/ray.js';
import { fieldAt, type Field } from '../values/field.js';
import { hash, randomAt } from '../values/random.js';
import { Others, vinesAsCurves, type Vine } from './vines.js';

export interface CreepOptions {
  /** Every which point of the guides starts a vine: 1 each, 2 every second … */
  startEvery: number;
  /** Which way vines begin: to the left and right of the guide, along it, or any way. */
  heading: 'sides' | 'along' | 'any';
  /** Chance to go on at each step, 0…1. */
  chance: number;
  /** Steps of a vine at most. */
  steps: number;
  /** Metres of a step, for each point of the guides. */
  step: Field;
  /** Steps are up to this share longer or shorter. */
  uneven: number;
  /** Turns of up to this to either side at each step, radians. */
  turn: number;
  /** What vines lean to at each step, beside the way they go (1 as much), for each point of the guides. */
  lean: readonly [Field, Field, Field];
  /** Metres off the body, outwards. */
  offset: number;
  /** Chance of a side vine at each step, 0…1. */
  branch: number;
  /** Metres that vines keep from each other and from themselves; 0: they cross. */
  avoid: number;
  /** Metres that a vine may hang free where the body ends. */
  gap: number;
  seed: number;
  /** Steps a second. */
  pace: number;
  /** Seconds that it takes until the last point of a guide starts. */
  spread: number;
}

/** What became of vines, counted. */
export interface CreepTally {
  starts: number;
  /** Starts that lay further from the body than some steps, and the furthest of them, metres. */
  far: number;
  furthest: number;
  /** Starts that had no room, or no way to go. */
  noRoom: number;
  /** Vines that ended since others were in their way, at a border of the body, in slivers, or hanging. */
  crowded: number;
  border: number;
  stuck: number;
  hanging: number;
}

export interface Crept {
  readonly curves: Curves;
  readonly tally: CreepTally;
}

/** Radians between a side vine and the one it leaves. */
const [leastFork, mostFork] = [Math.PI / 7, Math.PI / 3];
/** Tries to find a way past others, each turning up to so many times as far. */
const tries = 6;
/** How much a hanging vine falls at each step. */
const falling = 0.25;
/** A start this many steps off the body is told of. */
const farSteps = 4;
/** Radians of an inner edge from which on it is looked whether what stands off one face is in the other. */
const innerEdge = 0.35;

/** What a chance is drawn for. */
const Draw = { goOn: 0, length: 1, branch: 2, fork: 3, start: 4, turn: 5 } as const;
type Draw = (typeof Draw)[keyof typeof Draw];

/**
 * Vines that creep over a body: each step adds one piece to every growing tip, walks it over the triangles, and turns it by a chance about the surface's normal. Curves come out
 * parents first, with frames (normals outwards), `birth` and `age` (seconds) and `hangs` at their points, `order` and `parent` (a curve's number, −1: none).
 */
export class Creep {
  private readonly vines: Vine[] = [];
  private readonly walk: SurfaceWalk;
  private readonly tally: CreepTally = { starts: 0, far: 0, furthest: 0, noRoom: 0, crowded: 0, border: 0, stuck: 0, hanging: 0 };
  private readonly others: Others | null;
  private readonly hit = newHit();
  private readonly ray = newRayHit();
  private readonly out = new Float64Array(3);
  private readonly normals: Float64Array;
  private made = 0;
  /** The step at work: whose, when, how long; whether it passed an inner edge; how far the last point lay, and in which triangle. */
  private readonly pass = { vine: null as Vine | null, now: 0, length: 0, inner: false, lastAt: 0, lastTriangle: 0 };

  constructor(
    private readonly body: Surface,
    private readonly options: CreepOptions,
    private readonly work: Work,
  ) {
    this.walk = new SurfaceWalk(body);
    this.normals = body.triangleNormals;
    this.others = options.avoid > 0 ? new Others(options.avoid, body.nearest.pieces.corners) : null;
  }

  grow(guides: Curves): Crept {
    this.start(guides);
    if (this.others || this.options.branch > 0) this.growTogether();
    else this.growSingly();
    this.tally.noRoom += this.vines.filter(({ births, parent }) => births.length < 2 && !parent).length;
    return { curves: vinesAsCurves(this.vines, this.options.pace, this.work.memory), tally: this.tally };
  }

  /** Vines that know nothing of each other, one after another: what is at work stays at hand. */
  private growSingly(): void {
    this.vines.forEach((vine, i) => {
      this.work.progress(i / this.vines.length);
      this.work.claim({ points: this.made });
      for (let now = vine.begins; this.advance(vine, now); now++) tick(this.work, now, now + 2);
    });
  }

  /** All tips a step, then all the next, since they keep away from each other. */
  private growTogether(): void {
    let growing = this.vines.slice();
    const last = growing.reduce((most, { begins }) => Math.max(most, begins), 0) + this.options.steps;
    for (let now = 0; growing.length && now <= last; now++) {
      this.work.progress(now / (last + 1));
      this.work.claim({ points: this.made });
      const next: Vine[] = [];
      growing.forEach((vine, i) => {
        tick(this.work, i, growing.length);
        if (now < vine.begins) next.push(vine);
        else if (this.advance(vine, now)) {
          next.push(vine);
          const side = this.fork(vine, now);
          if (side) next.push(side);
        }
      });
      growing = next;
    }
  }

  private start(guides: Curves): void {
    const { startEvery, seed, spread, pace, step, lean, heading } = this.options;
    for (let c = 0; c < curveCount(guides); c++) {
      const [from, to] = [guides.starts[c], guides.starts[c + 1]];
      for (let i = from; i < to; i += startEvery) {
        tick(this.work, i, guides.positions.length / 3);
        this.tally.starts++;
        const key = hash(seed, i);
        const size = fieldAt(step, i);
        const [x, y, z] = guides.positions.subarray(i * 3, i * 3 + 3);
        const { distance, piece, place } = this.body.nearest.nearest(x, y, z, this.hit);
        if (distance > farSteps * size + this.options.offset) {
          this.tally.far++;
          this.tally.furthest = Math.max(this.tally.furthest, distance);
        }
        const along = guideDirection(guides, c, i);
        if (!this.walk.stand(piece, place, along) && !this.walk.stand(piece, place, [0.48, 0.6, 0.64])) {
          this.tally.noRoom++;
          continue;
        }
        const draw = randomAt(key, Draw.start);
        if (heading === 'any') this.walk.turn(draw * 2 * Math.PI);
        if (heading === 'sides') this.walk.turn((draw < 0.5 ? 1 : -1) * (Math.PI / 2));
        const begins = Math.round((to - from > 1 ? ((i - from) / (to - from - 1)) * spread : 0) * pace);
        const vine = this.begin(null, { key, step: size, lean: lean.map((field) => fieldAt(field, i)) as [number, number, number], begins });
        this.addPoint(vine, begins, piece);
        const at = vine.points;
        if (this.others?.tooNear(vine, at[0], at[1], at[2], 0)) this.tally.noRoom++;
        else {
          this.others?.add(vine, at[0], at[1], at[2], 0);
          this.vines.push(vine);
        }
      }
    }
  }

  /** A vine that stands where the walker does. */
  private begin(parent: Vine | null, own: Pick<Vine, 'key' | 'step' | 'lean' | 'begins'>): Vine {
    const { place, along, triangle } = this.walk;
    const order = parent ? parent.order + 1 : 0;
    return { ...own, order, parent, leftAt: parent?.length ?? 0, points: [], normals: [], births: [], hangs: [], along: along.slice(), place: place.slice(), triangle, length: 0, steps: 0, hung: -1 }; // prettier-ignore
  }

  /** One step of a tip; false: it ends there. */
  private advance(vine: Vine, now: number): boolean {
    const { options } = this;
    const draw = (what: Draw, again = 0): number => randomAt(vine.key, (vine.steps * 8 + again) * 8 + what);
    if (vine.steps >= options.steps || (vine.steps > 0 && draw(Draw.goOn) >= options.chance)) return false;
    const length = vine.step * (1 + options.uneven * (2 * draw(Draw.length) - 1));
    if (!(length > 0)) return false;
    if (vine.hung >= 0) return this.hangOn(vine, length, now);
    for (let attempt = 0; attempt < (this.others ? tries : 1); attempt++) {
      const angle =
        options.turn * (1 + attempt) * (2 * draw(Draw.turn, attempt) - 1) + (attempt && options.turn === 0 ? (attempt % 2 ? 1 : -1) * 0.3 * attempt : 0);
      const went = this.tryStep(vine, length, angle, now);
      if (went === 'taken') continue;
      if (went === 'there') vine.steps++;
      return went === 'there';
    }
    this.tally.crowded++;
    return false;
  }

  /** Walks a step; `taken`: others are there, and nothing is changed. */
  private tryStep(vine: Vine, length: number, angle: number, now: number): 'there' | 'ended' | 'taken' {
    const { walk, options, others } = this;
    const { gap } = options;
    this.resume(vine);
    walk.turn(angle);
    const { lean } = vine;
    if (lean[0] || lean[1] || lean[2]) walk.look([walk.along[0] + lean[0], walk.along[1] + lean[1], walk.along[2] + lean[2]]);
    const kept = vine.births.length;
    const { pass } = this;
    pass.vine = vine;
    pass.now = now;
    pass.length = length;
    pass.inner = false;
    pass.lastAt = 0;
    pass.lastTriangle = walk.triangle;
    const end = walk.go(length, this.crossed);
    const stays = distanceBetween(walk.place, vine.place) < length * 0.02;
    if (end !== 'there' && stays && !(end === 'border' && gap > 0)) {
      this.forget(vine, kept);
      if (end === 'border') this.tally.border++;
      else this.tally.stuck++;
      return 'ended';
    }
    if (!stays) this.addPoint(vine, now + 1, walk.triangle, pass.inner);
    if (others && !others.isFree(vine, kept)) {
      this.forget(vine, kept);
      return 'taken';
    }
    others?.addFrom(vine, kept);
    vine.length += length;
    vine.triangle = walk.triangle;
    copyThree(walk.place, vine.place);
    copyThree(walk.along, vine.along);
    if (end === 'border') {
      if (!(gap > 0)) {
        this.tally.border++;
        return 'ended';
      }
      vine.hung = 0;
    }
    return 'there';
  }

  /** Told of each side that a step passes: lays a point there where a chord would cut the corner. One function for all steps, since there are very many. */
  private readonly crossed = (before: number, gone: number): void => {
    const { walk, pass, options } = this;
    const { length } = pass;
    if (this.isInner(before)) {
      if (!pass.inner && this.bend(before, walk.triangle) > innerEdge) pass.inner = true;
      pass.lastTriangle = walk.triangle;
      return;
    }
    const reached = gone - pass.lastAt;
    const left = length - gone;
    const cut = this.bend(pass.lastTriangle, walk.triangle) * ((reached * left) / Math.max(reached + left, 1e-12));
    if (cut <= Math.max(options.offset / 2, length * 0.01)) return;
    this.addPoint(pass.vine!, pass.now + gone / length, before);
    pass.lastAt = gone;
    pass.lastTriangle = walk.triangle;
  };

  /** A step in the air: falling more and more, until the body is met again. */
  private hangOn(vine: Vine, length: number, now: number): boolean {
    const { walk, ray, body, options } = this;
    const o = vine.points.length - 3;
    const from = vine.points.slice(o);
    const d = vine.along;
    for (let k = 0; k < 3; k++) d[k] = d[k] * (1 - falling) - (k === 1 ? falling : 0);
    const size = Math.hypot(...d) || 1;
    for (let k = 0; k < 3; k++) d[k] /= size;
    firstHit(body.nearest.tree, from, d, ray, length);
    const n = ray.piece < 0 ? null : body.triangleNormals.subarray(ray.piece * 3, ray.piece * 3 + 3);
    vine.steps++;
    if (n && ray.t > 1e-6 && d[0] * n[0] + d[1] * n[1] + d[2] * n[2] < -1e-6) {
      const place = from.map((value, k) => value + d[k] * ray.t);
      if (!walk.stand(ray.piece, place, d)) walk.stand(ray.piece, place, vine.lean);
      this.addPoint(vine, now + 1, ray.piece);
      vine.triangle = walk.triangle;
      copyThree(walk.place, vine.place);
      copyThree(walk.along, vine.along);
      vine.hung = -1;
      return true;
    }
    vine.hung += length;
    if (vine.hung > options.gap) {
      this.tally.hanging++;
      return false;
    }
    this.push(vine, from.map((value, k) => value + d[k] * length), vine.normals.slice(o), now + 1, 1); // prettier-ignore
    return true;
  }

  /** A side vine at the tip of another, by chance. */
  private fork(vine: Vine, now: number): Vine | null {
    const { branch } = this.options;
    const draw = (what: Draw): number => randomAt(vine.key, vine.steps * 64 + what);
    if (!(branch > 0) || vine.hung >= 0 || draw(Draw.branch) >= branch) return null;
    const fork = draw(Draw.fork);
    this.resume(vine);
    this.walk.turn((fork < 0.5 ? -1 : 1) * (leastFork + (mostFork - leastFork) * Math.abs(2 * fork - 1)));
    const side = this.begin(vine, { key: hash(vine.key, vine.steps * 64 + Draw.fork), step: vine.step, lean: vine.lean, begins: now + 1 });
    const o = vine.points.length - 3;
    this.push(side, vine.points.slice(o), vine.normals.slice(o), vine.births.at(-1)!, 0);
    this.vines.push(side);
    return side;
  }

  private resume(vine: Vine): void {
    this.walk.triangle = vine.triangle;
    copyThree(vine.place, this.walk.place);
    copyThree(vine.along, this.walk.along);
  }

  /** About the radians between the normals of two triangles: the chord between them, which is a tenth less at a right angle. */
  private bend(a: number, b: number): number {
    const n = this.normals;
    const cos = n[a * 3] * n[b * 3] + n[a * 3 + 1] * n[b * 3 + 1] + n[a * 3 + 2] * n[b * 3 + 2];
    return Math.sqrt(Math.max(0, 2 - 2 * cos));
  }

  /** Whether the way goes up from the triangle that it has just left. */
  private isInner(before: number): boolean {
    const { along } = this.walk;
    const n = this.normals;
    return along[0] * n[before * 3] + along[1] * n[before * 3 + 1] + along[2] * n[before * 3 + 2] > 0;
  }

  /** Adds the place where the walker is, off the body; between two triangles off both, `before` and that which the walker is in. */
  private addPoint(vine: Vine, birth: number, before: number, inner = false): void {
    const { body, walk, out, hit } = this;
    const { offset } = this.options;
    const { normals: n } = this;
    const b = before * 3;
    const t = walk.triangle * 3;
    let nx = n[t];
    let ny = n[t + 1];
    let nz = n[t + 2];
    if (b !== t) {
      nx += n[b];
      ny += n[b + 1];
      nz += n[b + 2];
      const size = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
      nx /= size;
      ny /= size;
      nz /= size;
    }
    let x = walk.place[0] + nx * offset;
    let y = walk.place[1] + ny * offset;
    let z = walk.place[2] + nz * offset;
    // In an inner corner what stands off one wall may be in the other.
    if (inner && offset > 0 && body.signedDistance(x, y, z, hit) < offset * 0.999 && body.outward(hit, out)) {
      x = hit.place[0] + out[0] * offset;
      y = hit.place[1] + out[1] * offset;
      z = hit.place[2] + out[2] * offset;
    }
    vine.points.push(x, y, z);
    vine.normals.push(nx, ny, nz);
    vine.births.push(birth);
    vine.hangs.push(0);
    this.made++;
  }

  private push(vine: Vine, place: readonly number[], normal: readonly number[], birth: number, hangs: number): void {
    vine.points.push(...place);
    vine.normals.push(...normal);
    vine.births.push(birth);
    vine.hangs.push(hangs);
    this.made++;
  }

  private forget(vine: Vine, kept: number): void {
    this.made -= vine.births.length - kept;
    vine.births.length = vine.hangs.length = kept;
    vine.points.length = vine.normals.length = kept * 3;
  }
}

function distanceBetween(a: Float64Array, b: Float64Array): number {
  const [x, y, z] = [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  return Math.sqrt(x * x + y * y + z * z);
}

function copyThree(from: Float64Array, to: Float64Array): void {
  to[0] = from[0];
  to[1] = from[1];
  to[2] = from[2];
}

/** Which way a guide runs at one of its points. */
function guideDirection(guides: Curves, c: number, i: number): [number, number, number] {
  const [from, to] = [guides.starts[c], guides.starts[c + 1]];
  const [a, b] = [Math.max(from, i - 1) * 3, Math.min(to - 1, i + 1) * 3];
  return [0, 1, 2].map((k) => guides.positions[b + k] - guides.positions[a + k]) as [number, number, number];
}
