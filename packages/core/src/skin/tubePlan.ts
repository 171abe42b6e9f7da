import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import { fieldAt, type Field } from '../values/field.js';

/** How one end of a tube is made. `tip`: the radius runs out to nothing, so the wall closes on one point. */
export type TubeEnd = 'open' | 'flat' | 'domed' | 'tip';

/** What is wrong with the skin of a curve, and where. */
export interface SkinIssue {
  code: 'pinch' | 'degenerate';
  curve: number;
  /** Metres from the start of the curve. */
  at: number;
  reason: 'one-point' | 'no-length' | 'turns-back' | 'folds';
}

/** The rings of one curve, worked out before anything is allocated. */
export interface TubePlan {
  readonly curve: number;
  readonly closed: boolean;
  /** Point index of each ring, rising. */
  readonly rings: Uint32Array;
  /** 1 where the wall is creased: the ring has one set of vertices for each side. */
  readonly crease: Uint8Array;
  /** Sections stand in the bisecting plane and are stretched so that the tube keeps its thickness. */
  readonly mitred: boolean;
  readonly start: TubeEnd;
  readonly end: TubeEnd;
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
export function planTubes(curves: Curves, options: PlanOptions, issues: SkinIssue[]): TubePlan[] {
  const plans: TubePlan[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    if (to === from) continue;
    const rings = distinctRings(curves, c, options);
    if (rings.length < 2) {
      issues.push({ code: 'degenerate', curve: c, at: 0, reason: to - from < 2 ? 'one-point' : 'no-length' });
      continue;
    }
    requireRadii(options.radius, rings, c, from);
    plans.push(planOne(curves, c, rings, options));
  }
  return plans;
}

function distinctRings(curves: Curves, c: number, { radius, ringStep }: PlanOptions): Uint32Array {
  const p = curves.positions;
  const from = curves.starts[c];
  const to = curves.starts[c + 1];
  const step = Math.max(1, Math.floor(ringStep));
  const chosen: number[] = [];
  const same = (a: number, b: number): boolean =>
    p[a * 3] === p[b * 3] && p[a * 3 + 1] === p[b * 3 + 1] && p[a * 3 + 2] === p[b * 3 + 2];
  const take = (i: number): void => {
    const last = chosen[chosen.length - 1];
    if (last !== undefined && same(last, i) && fieldAt(radius, last) === fieldAt(radius, i)) return;
    chosen.push(i);
  };
  for (let i = from; i < to; i += step) take(i);
  if (!curves.closed[c]) {
    if ((to - 1 - from) % step !== 0) take(to - 1);
  } else while (chosen.length > 1 && same(chosen[0], chosen[chosen.length - 1])) chosen.pop();
  return Uint32Array.from(chosen.every((i) => same(i, chosen[0])) ? chosen.slice(0, 1) : chosen);
}

function requireRadii(radius: Field, rings: Uint32Array, c: number, from: number): void {
  let greatest = 0;
  for (const i of rings) {
    const r = fieldAt(radius, i);
    if (!(r >= 0) || !Number.isFinite(r)) throw new RangeError(`The radius at point ${i - from} of curve ${c} is ${r} m; it must be 0 or more.`);
    greatest = Math.max(greatest, r);
  }
  if (!(greatest > 0)) throw new RangeError(`The radius of curve ${c} is 0 m all along; it must be more than 0 somewhere.`);
}

function planOne(curves: Curves, c: number, rings: Uint32Array, { radius, caps, corners }: PlanOptions): TubePlan {
  const closed = curves.closed[c] === 1 && rings.length > 2;
  const mitred = corners === 'mitre' && curveKinds[curves.kind[c]] === 'straight';
  const crease = new Uint8Array(rings.length);
  if (mitred) for (let i = closed ? 0 : 1; i < (closed ? rings.length : rings.length - 1); i++) crease[i] = turnCosine(curves.positions, rings, i) < creaseCosine ? 1 : 0;
  const endOf = (ring: number): TubeEnd => (closed ? 'open' : fieldAt(radius, ring) === 0 ? 'tip' : caps);
  return { curve: c, closed, rings, crease, mitred, start: endOf(rings[0]), end: endOf(rings[rings.length - 1]) };
}

/** Cosine of the angle by which the path turns at ring `i`; 1 where a neighbour coincides. */
export function turnCosine(p: Float32Array, rings: Uint32Array, i: number): number {
  const n = rings.length;
  const a = rings[(i + n - 1) % n] * 3;
  const b = rings[i] * 3;
  const d = rings[(i + 1) % n] * 3;
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[d] - p[b], p[d + 1] - p[b + 1], p[d + 2] - p[b + 2]];
  const size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz));
  return size > 0 ? Math.min(1, Math.max(-1, (ux * vx + uy * vy + uz * vz) / size)) : 1;
}

/**
 * Places where the section folds over itself: between two rings the inside of the bend has no length left. With θ the turn at a ring and
 * r the radius there, that is where r₁·tan(θ₁/2) + r₂·tan(θ₂/2) exceeds the chord; for many rings it is radius > radius of curvature.
 * Only the worst place of each stretch is told.
 */
export function findPinches(curves: Curves, plan: TubePlan, radius: Field, stations: Float64Array, issues: SkinIssue[]): void {
  const { rings, closed, curve } = plan;
  const p = curves.positions;
  const n = rings.length;
  const reach = (i: number): number => {
    if (!closed && (i === 0 || i === n - 1)) return 0;
    const cosine = turnCosine(p, rings, i);
    if (cosine < -1 + 1e-9) {
      issues.push({ code: 'degenerate', curve, at: stations[rings[i]], reason: 'turns-back' });
      return 0;
    }
    return fieldAt(radius, rings[i]) * Math.sqrt(Math.max(0, (1 - cosine) / (1 + cosine)));
  };
  const first = reach(0);
  let before = first;
  let worst = 0;
  let worstAt = 0;
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const after = i + 1 === n ? first : reach(i + 1);
    const a = rings[i] * 3;
    const b = rings[(i + 1) % n] * 3;
    const chord = Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);
    const over = before + after - chord * (1 + 1e-5);
    if (over > worst) {
      worst = over;
      worstAt = stations[before > after ? rings[i] : rings[(i + 1) % n]];
    } else if (over <= 0 && worst > 0) {
      issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
      worst = 0;
    }
    before = after;
  }
  if (worst > 0) issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
}
