/**
 * Strands of a laid rope that touch: sized by the true distance between neighbouring helices, which is less than in the flat section
 * (at short lays strands sized by tangent circles would pass through each other).
 */
export interface RopeSection {
  /** Distance of the strands' middles from the rope's, metres. */
  centreRadius: number;
  strandRadius: number;
  /** Radius of the hole in the middle, 0 or more. */
  coreRadius: number;
}

/** Least distance in space between two of `strands` helices of radius `a` and lay `lay` (metres per turn), evenly set around. */
export function neighbourDistance(a: number, lay: number, strands: number): number {
  const step = (2 * Math.PI) / strands;
  const rise = lay / (2 * Math.PI);
  const squared = (psi: number): number => 2 * a * a * (1 - Math.cos(psi)) + (rise * (psi - step)) ** 2;
  // The derivative 2a²·sin ψ + 2·rise²·(ψ − step) is negative at 0 and positive at step; its first root is the least distance.
  let low = 0;
  let high = step;
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (a * a * Math.sin(middle) + rise * rise * (middle - step) < 0) low = middle;
    else high = middle;
  }
  return Math.sqrt(squared((low + high) / 2));
}

/** The section of a rope of outer `radius` (metres) with `strands` equal strands that touch their neighbours; lay in metres per turn. */
export function ropeSection(radius: number, strands: number, lay: number): RopeSection {
  if (strands === 1) return { centreRadius: 0, strandRadius: radius, coreRadius: 0 };
  let low = 0;
  let high = radius;
  for (let i = 0; i < 80; i++) {
    const a = (low + high) / 2;
    if (a + neighbourDistance(a, lay, strands) / 2 < radius) low = a;
    else high = a;
  }
  const centreRadius = (low + high) / 2;
  const strandRadius = radius - centreRadius;
  return { centreRadius, strandRadius, coreRadius: Math.max(0, centreRadius - strandRadius) };
}
