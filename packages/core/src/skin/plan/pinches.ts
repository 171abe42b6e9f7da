import { chord } from '../../curves/evaluate/arcLength.js';
import type { Curves } from '../../geometry/curves.js';
import { fieldAt, type Field } from '../../values/field.js';
import { turnCosine, type SkinIssue, type TubePlan, type TubePlans } from './tubePlan.js';

/**
 * How far the section's inside reaches along the path where it turns by an angle of this cosine: r·tan(θ/2), below 0 where the section lies on the
 * outer side; Infinity where it turns straight back.
 */
function reachOf(cosine: number, inward: Field, point: number): number {
  if (cosine < -1 + 1e-9) return Infinity;
  return cosine > 1 - 1e-12 ? 0 : fieldAt(inward, point) * Math.sqrt((1 - cosine) / (1 + cosine));
}

const finite = (reach: number): number => (reach === Infinity ? 0 : reach);

/** The first ring of a closed tube behind which nothing folds, so that a stretch over its first point is one stretch; 0 when all folds. */
function firstSound({ positions: p }: Curves, { rings }: TubePlans, { from, count }: TubePlan, inward: Field): number {
  const reachAt = (i: number): number => finite(reachOf(turnCosine(p, rings, from, count, i), inward, rings[from + i]));
  for (let i = 0; i < count; i++) {
    const next = i + 1 < count ? i + 1 : 0;
    if (reachAt(i) + reachAt(next) <= chord(p, rings[from + i], rings[from + next]) * (1 + 1e-5)) return i;
  }
  return 0;
}

/**
 * Places where the section folds over itself: between two rings the inside of the bend has no length left. With θ the turn at a ring and
 * r how far the section reaches there toward the centre of the bend (the radius of a tube; see `inwardReach` for other sections), that is where
 * r₁·tan(θ₁/2) + r₂·tan(θ₂/2) exceeds the chord; for many rings it is r > radius of curvature. Only the worst place of each stretch is told.
 */
export function findPinches(curves: Curves, plans: TubePlans, plan: TubePlan, inward: Field, stations: Float64Array, issues: SkinIssue[]): void {
  const { from, count, closed, curve } = plan;
  const { rings } = plans;
  const p = curves.positions;
  const pieces = closed ? count : count - 1;
  const begin = closed ? firstSound(curves, plans, plan, inward) : 0;
  const first = closed ? reachOf(turnCosine(p, rings, from, count, begin), inward, rings[from + begin]) : 0;
  let before = first;
  let worst = 0;
  let worstAt = 0;
  // The piece from ring i to the next one, and its length; each was the piece after the last one.
  let i = begin;
  let next = i + 1 < count ? i + 1 : 0;
  let b = rings[from + next] * 3;
  let ux = p[b] - p[rings[from + i] * 3];
  let uy = p[b + 1] - p[rings[from + i] * 3 + 1];
  let uz = p[b + 2] - p[rings[from + i] * 3 + 2];
  let length = Math.sqrt(ux * ux + uy * uy + uz * uz);
  for (let k = 0; k < pieces; k++) {
    if (before === Infinity) {
      issues.push({ code: 'degenerate', curve, at: stations[rings[from + i]], reason: 'turns-back' });
      before = 0;
    }
    const further = next + 1 < count ? next + 1 : 0;
    const c = rings[from + further] * 3;
    const vx = p[c] - p[b];
    const vy = p[c + 1] - p[b + 1];
    const vz = p[c + 2] - p[b + 2];
    const lengthAfter = Math.sqrt(vx * vx + vy * vy + vz * vz);
    let after = first;
    if (k + 1 < pieces) {
      const size = length * lengthAfter;
      after = reachOf(size > 0 ? (ux * vx + uy * vy + uz * vz) / size : 1, inward, rings[from + next]);
    }
    const over = before + finite(after) - length * (1 + 1e-5);
    if (over > worst) {
      worst = over;
      worstAt = stations[rings[from + (finite(before) > finite(after) ? i : next)]];
    } else if (over <= 0 && worst > 0) {
      issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
      worst = 0;
    }
    before = after;
    i = next;
    next = further;
    b = c;
    ux = vx;
    uy = vy;
    uz = vz;
    length = lengthAfter;
  }
  if (worst > 0) issues.push({ code: 'pinch', curve, at: worstAt, reason: 'folds' });
}
