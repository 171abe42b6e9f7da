import type { Curves } from '../../geometry/curves.js';
import { chord, stationsOf } from '../../curves/evaluate/arcLength.js';
import { fieldAt, type Field } from '../../values/field.js';
import { planTubes, turnCosine, type PlanOptions, type TubePlans } from './tubePlan.js';

/** The section may fill this much of what the bend leaves it. */
const room = 0.98;
/** Metres that a thinned section grows back per metre of path. */
const slope = 0.5;

/** Rounds of thinning at most. One is enough for sections about their path; where one ring leans outwards and its neighbour inwards a second may find more. */
const mostRounds = 8;

/**
 * Factors, a value per point, by which a section must be thinned so that it folds over itself nowhere: between two rings r₁·tan(θ₁/2) + r₂·tan(θ₂/2)
 * stays below the chord (see `findPinches`; `inwardOf` gives r, by default the radius), and away from the place it grows back gently. 1 where nothing
 * is wrong.
 */
export function pinchFactors(curves: Curves, options: PlanOptions, inwardOf: (plans: TubePlans) => Field = () => options.radius): Float64Array {
  const { radius } = options;
  const factors = new Float64Array(curves.positions.length / 3).fill(1);
  const plans = planTubes(curves, options, []);
  const inward = inwardOf(plans);
  const stations = stationsOf(curves);
  const p = curves.positions;
  const { rings } = plans;
  for (let k = 0; k < plans.count; k++) {
    const { from, count, closed } = plans.at(k);
    const own = Float64Array.from({ length: count }, (_, i) => fieldAt(radius, rings[from + i]));
    // How far along the path the inside of each ring reaches, below 0 on the outer side.
    const reaches = Float64Array.from({ length: count }, (_, i) => {
      if (!closed && (i === 0 || i === count - 1)) return 0;
      const cosine = turnCosine(p, rings, from, count, i);
      return fieldAt(inward, rings[from + i]) * Math.sqrt(Math.max(0, 1 - cosine) / Math.max(1e-9, 1 + cosine));
    });
    const thin = own.slice();
    for (let round = 0; round < mostRounds; round++) {
      const share = Float64Array.from({ length: count }, (_, i) => (own[i] > 0 ? thin[i] / own[i] : 1));
      let thinnedAny = false;
      for (let i = 0; i < (closed ? count : count - 1); i++) {
        const next = (i + 1) % count;
        const allowed = room * chord(p, rings[from + i], rings[from + next]);
        const [a, b] = [share[i] * reaches[i], share[next] * reaches[next]];
        if (!(a + b > allowed * (1 + 1e-9))) continue;
        thinnedAny = true;
        // Both that reach inwards give way in the same proportion.
        const factor = allowed / (Math.max(0, a) + Math.max(0, b));
        for (const [ring, reach] of [[i, a], [next, b]]) if (reach > 0) thin[ring] = Math.min(thin[ring], own[ring] * share[ring] * factor); // prettier-ignore
      }
      if (!thinnedAny) break;
      growBack(thin, own, stations, rings, from, count, closed);
    }
    for (let i = 0; i < count; i++) factors[rings[from + i]] = own[i] > 0 ? thin[i] / own[i] : 1;
    // Points between rings take the factor of the ring before them.
    for (let i = 0; i + 1 < count; i++) for (let k = rings[from + i] + 1; k < rings[from + i + 1]; k++) factors[k] = factors[rings[from + i]];
  }
  return factors;
}

/** Lets no radius exceed that of a neighbour by more than the slope allows; a closed curve is gone round twice each way. */
function growBack(thin: Float64Array, own: Float64Array, stations: Float64Array, rings: Uint32Array, from: number, count: number, closed: boolean): void {
  const limit = (a: number, b: number): void => {
    const run = Math.abs(stations[rings[from + a]] - stations[rings[from + b]]);
    // Only thinning spreads; a taper of its own is left alone.
    if (thin[a] < own[a]) thin[b] = Math.min(thin[b], Math.max(thin[a] + slope * run, (own[b] * thin[a]) / own[a]));
  };
  for (let round = 0; round < (closed ? 2 : 1); round++) {
    for (let i = 0; i + 1 < count; i++) limit(i, i + 1);
    for (let i = count - 1; i > 0; i--) limit(i, i - 1);
  }
}

/** The field times the factors. */
export const thinned = (field: Field, factors: Float64Array): Field => ({ constant: 0, values: factors.map((factor, i) => factor * fieldAt(field, i)) });
