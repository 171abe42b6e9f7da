import { curveKinds, type Curves } from '../../geometry/curves.js';
import { turnCosine, type TubePlan, type TubePlans } from './tubePlan.js';

/** Sections are not stretched beyond this, so that a path that nearly doubles back stays finite (12 serves turns up to 170°). */
const mitreLimit = 12;

/** Bend of a mitred ring: unit direction across the bisector in the plane of the bend, and the factor by which the section stretches along it. */
export interface Bend {
  x: number;
  y: number;
  z: number;
  factor: number;
  /** Sine and cosine of half the turn. */
  sine: number;
  cosine: number;
}

/** Finds the bend at ring `i` of a plan; false where the path has no corner there. Tangents: 3 numbers a curve point. */
export function findBend(curves: Curves, plans: TubePlans, plan: TubePlan, tangent: Float32Array, i: number, bend: Bend): boolean {
  if (!plan.closed && (i === 0 || i === plan.count - 1)) return false;
  const { rings } = plans;
  if (curveKinds[curves.kind[plan.curve]] !== 'straight' && !plans.crease[plan.from + i]) return false;
  const turn = turnCosine(curves.positions, rings, plan.from, plan.count, i);
  if (turn > 1 - 1e-12) return false;
  const half = Math.sqrt((1 + turn) / 2);
  const p = curves.positions;
  const o = rings[plan.from + i] * 3;
  const next = rings[plan.from + (i + 1 < plan.count ? i + 1 : 0)] * 3;
  const t = tangent;
  const dx = p[next] - p[o];
  const dy = p[next + 1] - p[o + 1];
  const dz = p[next + 2] - p[o + 2];
  const along = dx * t[o] + dy * t[o + 1] + dz * t[o + 2];
  const x = dx - along * t[o];
  const y = dy - along * t[o + 1];
  const z = dz - along * t[o + 2];
  const length = Math.sqrt(x * x + y * y + z * z);
  if (!(length > 0)) return false;
  bend.x = x / length;
  bend.y = y / length;
  bend.z = z / length;
  bend.factor = Math.min(mitreLimit, 1 / Math.max(half, 1e-6));
  bend.cosine = half;
  bend.sine = Math.sqrt(Math.max(0, 1 - half * half));
  return true;
}
