import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import { chord } from '../curves/arcLength.js';
import { fieldAt, type Field } from '../values/field.js';

/** How one end of a tube is made. `tip`: the radius runs out to nothing, so the wall closes on one point. */
export type TubeEnd = 'open' | 'flat' | 'domed' | 'tip';

/** What is wrong with the skin of a curve, and where. */
export interface SkinIssue {
  code: 'pinch' | 'degenerate' | 'self-cross';
  curve: number;
  /** Metres from the start of the curve. */
  at: number;
  reason: 'one-point' | 'no-length' | 'turns-back' | 'folds' | 'near-itself' | 'coarse';
  /** Metres between the places that 32-bit positions can have there, where that is what is wrong. */
  grain?: number;
}

/** The rings of one curve, worked out before anything is allocated. */
export interface TubePlan {
  readonly curve: number;
  readonly closed: boolean;
  /** Where its rings begin in the plans' shared lists, and how many there are. */
  readonly from: number;
  readonly count: number;
  /** Sections stand in the bisecting plane and are stretched so that the tube keeps its thickness. */
  readonly mitred: boolean;
  readonly start: TubeEnd;
  readonly end: TubeEnd;
}

/** The rings of all curves in shared lists, so that many short curves cost no more than a few long ones. */
export interface TubePlans {
  readonly list: readonly TubePlan[];
  /** Point index of each ring, rising within a curve. */
  readonly rings: Uint32Array;
  /** 1 where the wall is creased: the ring has one set of vertices for each side. */
  readonly crease: Uint8Array;
}

/** Corners that turn by more than this are creased. */
const creaseCosine = Math.cos((25 * Math.PI) / 180);

export interface PlanOptions {
  radius: Field;
  caps: 'open' | 'flat' | 'domed';
  corners: 'mitre' | 'asIs';
  ringStep: number;
}

/**
 * Chooses the rings of every curve: every k-th point and the last, without points that repeat their predecessor.
 * Curves that cannot be skinned are left out and told in `issues`.
 * @throws RangeError naming curve and point where a radius is negative or not finite, or 0 all along.
 */
export function planTubes(curves: Curves, options: PlanOptions, issues: SkinIssue[]): TubePlans {
  const list: TubePlan[] = [];
  const rings = new Uint32Array(curves.positions.length / 3);
  const crease = new Uint8Array(rings.length);
  let from = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const points = curves.starts[c + 1] - curves.starts[c];
    if (points === 0) continue;
    const count = chooseRings(curves, c, options, rings, from);
    if (count < 2) {
      issues.push({ code: 'degenerate', curve: c, at: 0, reason: points < 2 ? 'one-point' : 'no-length' });
      continue;
    }
    const radius = greatestRadius(options.radius, rings, from, count, c, curves.starts[c]);
    const grain = grainOf(curves.positions, rings, from, count);
    if (grain > radius * coarsest) issues.push({ code: 'degenerate', curve: c, at: 0, reason: 'coarse', grain });
    list.push(planOne(curves, c, rings, crease, from, count, options));
    from += count;
  }
  return { list, rings, crease };
}

function samePlace(p: Float32Array, a: number, b: number): boolean {
  return p[a * 3] === p[b * 3] && p[a * 3 + 1] === p[b * 3 + 1] && p[a * 3 + 2] === p[b * 3 + 2];
}

/** Writes the rings of a curve to the shared list from `from` on, and returns how many there are; 1 when all lie in one place. */
function chooseRings(curves: Curves, c: number, { radius, ringStep }: PlanOptions, rings: Uint32Array, from: number): number {
  const p = curves.positions;
  const first = curves.starts[c];
  const end = curves.starts[c + 1];
  const closed = curves.closed[c] === 1;
  const step = Math.max(1, Math.floor(ringStep));
  let at = from;
  let spread = false;
  for (let i = first; i < end; i = i + step < end || i === end - 1 || closed ? i + step : end - 1) {
    if (at > from) {
      const last = rings[at - 1];
      const same = samePlace(p, last, i);
      if (same && fieldAt(radius, last) === fieldAt(radius, i)) continue;
      spread ||= !same;
    }
    rings[at++] = i;
  }
  if (closed) while (at - from > 1 && samePlace(p, rings[from], rings[at - 1])) at--;
  return spread ? at - from : 1;
}

/** Positions that are stored more coarsely than this share of the radius make a tube uneven to the eye. */
const coarsest = 1 / 50;

/** Metres between neighbouring 32-bit numbers as large as the furthest coordinate of the rings (IEEE 754: 24 binary digits). */
function grainOf(p: Float32Array, rings: Uint32Array, from: number, count: number): number {
  let furthest = 0;
  for (let k = from; k < from + count; k++)
    for (let at = rings[k] * 3, end = at + 3; at < end; at++) {
      const size = Math.abs(p[at]);
      if (size > furthest) furthest = size;
    }
  return furthest * 2 ** -23;
}

/** @throws RangeError as `planTubes`. */
function greatestRadius(radius: Field, rings: Uint32Array, from: number, count: number, c: number, first: number): number {
  let greatest = 0;
  for (let k = from; k < from + count; k++) {
    const r = fieldAt(radius, rings[k]);
    if (!(r >= 0) || !(r <= 1e30)) throw new RangeError(`The radius at point ${rings[k] - first} of curve ${c} is ${r} m; it must be 0 or more.`);
    if (r > greatest) greatest = r;
  }
  if (!(greatest > 0)) throw new RangeError(`The radius of curve ${c} is 0 m all along; it must be more than 0 somewhere.`);
  return greatest;
}

function endOf(closed: boolean, radius: number, caps: PlanOptions['caps']): TubeEnd {
  if (closed) return 'open';
  return radius === 0 ? 'tip' : caps;
}

function planOne(
  curves: Curves,
  c: number,
  rings: Uint32Array,
  crease: Uint8Array,
  from: number,
  count: number,
  { radius, caps, corners }: PlanOptions,
): TubePlan {
  const closed = curves.closed[c] === 1 && count > 2;
  const mitred = corners === 'mitre' && curveKinds[curves.kind[c]] === 'straight';
  if (mitred)
    for (let i = closed ? 0 : 1; i < (closed ? count : count - 1); i++)
      if (turnCosine(curves.positions, rings, from, count, i) < creaseCosine) crease[from + i] = 1;
  const start = endOf(closed, fieldAt(radius, rings[from]), caps);
  const end = endOf(closed, fieldAt(radius, rings[from + count - 1]), caps);
  return { curve: c, closed, from, count, mitred, start, end };
}

/** Cosine of the angle by which the path turns at ring `i` of the `count` rings from `from`; 1 where a neighbour coincides. */
export function turnCosine(p: Float32Array, rings: Uint32Array, from: number, count: number, i: number): number {
  const a = rings[from + (i > 0 ? i - 1 : count - 1)] * 3;
  const b = rings[from + i] * 3;
  const d = rings[from + (i + 1 < count ? i + 1 : 0)] * 3;
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[d] - p[b];
  const vy = p[d + 1] - p[b + 1];
  const vz = p[d + 2] - p[b + 2];
  const size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz));
  return size > 0 ? Math.min(1, Math.max(-1, (ux * vx + uy * vy + uz * vz) / size)) : 1;
}

/** How far the section's inside reaches along the path at a ring: r·tan(θ/2); −1 where the path turns straight back. */
function insideReach(p: Float32Array, { rings }: TubePlans, { from, count, closed }: TubePlan, i: number, radius: Field): number {
  if (!closed && (i === 0 || i === count - 1)) return 0;
  const cosine = turnCosine(p, rings, from, count, i);
  if (cosine < -1 + 1e-9) return -1;
  return cosine > 1 - 1e-12 ? 0 : fieldAt(radius, rings[from + i]) * Math.sqrt((1 - cosine) / (1 + cosine));
}

/** The first ring of a closed tube behind which nothing folds, so that a stretch over its first point is one stretch; 0 when all folds. */
function firstSound({ positions: p }: Curves, plans: TubePlans, plan: TubePlan, radius: Field): number {
  const { from, count } = plan;
  for (let i = 0; i < count; i++) {
    const next = i + 1 < count ? i + 1 : 0;
    const reach = Math.max(0, insideReach(p, plans, plan, i, radius)) + Math.max(0, insideReach(p, plans, plan, next, radius));
    if (reach <= chord(p, plans.rings[from + i], plans.rings[from + next]) * (1 + 1e-5)) return i;
  }
  return 0;
}

/**
 * Places where the section folds over itself: between two rings the inside of the bend has no length left. With θ the turn at a ring and
 * r the radius there, that is where r₁·tan(θ₁/2) + r₂·tan(θ₂/2) exceeds the chord; for many rings it is radius > radius of curvature.
 * Only the worst place of each stretch is told.
 */
export function findPinches(curves: Curves, plans: TubePlans, plan: TubePlan, radius: Field, stations: Float64Array, issues: SkinIssue[]): void {
  const { from, count, closed, curve } = plan;
  const { rings } = plans;
  const p = curves.positions;
  const pieces = closed ? count : count - 1;
  const begin = closed ? firstSound(curves, plans, plan, radius) : 0;
  const first = insideReach(p, plans, plan, begin, radius);
  let before = first;
  let worst = 0;
  let worstAt = 0;
  for (let k = 0; k < pieces; k++) {
    const i = (begin + k) % count;
    if (before < 0) {
      issues.push({ code: 'degenerate', curve, at: stations[rings[from + i]], reason: 'turns-back' });
      before = 0;
    }
    const next = i + 1 < count ? i + 1 : 0;
    const after = next === begin ? first : insideReach(p, plans, plan, next, radius);
    const over = before + Math.max(0, after) - chord(p, rings[from + i], rings[from + next]) * (1 + 1e-5);
    if (over > worst) {
      worst = over;
      worstAt = stations[rings[from + (before > after ? i : next)]];
    } else if (over <= 0 && worst > 0) {
      issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
      worst = 0;
    }
    before = after;
  }
  if (worst > 0) issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
}
