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

/** The section of a round braid: strands of both hands, each going over one and under one of the other. */
export interface BraidSection {
  /** Mean distance of the strands' middles from the rope's, metres. */
  readonly centreRadius: number;
  /** How far strands go out and in from it, metres. */
  readonly swing: number;
  readonly strandRadius: number;
}

/**
 * Distance from the middle of strand `k` of a braid with `half` strands of each hand, at an angle round the rope: it swings out and in once a crossing.
 * Strand i of one hand meets strand j of the other at the angles π·(i + j)/half, so cos(half·angle) is ±1 there, by turns.
 */
export const braidRadius = ({ centreRadius, swing }: Pick<BraidSection, 'centreRadius' | 'swing'>, half: number, angle: number, hand: 1 | -1): number =>
  centreRadius + hand * swing * Math.cos(half * angle);

/** Least distance in space between the middles of a strand and its neighbours, of its own hand and of the other. */
export function braidDistance(section: Pick<BraidSection, 'centreRadius' | 'swing'>, half: number, lay: number): number {
  const rate = (2 * Math.PI) / lay;
  const place = (strand: number, hand: 1 | -1, z: number): [number, number, number] => {
    const angle = hand * rate * z + (2 * Math.PI * strand) / half;
    const r = braidRadius(section, half, angle, hand);
    return [r * Math.cos(angle), r * Math.sin(angle), z];
  };
  // One crossing to the next but one is a whole period of the swing; the nearest places lie within a crossing's height.
  const period = lay / half;
  const steps = 48;
  let least = Infinity;
  for (let i = 0; i < steps; i++) {
    const a = place(0, 1, (period * i) / steps);
    for (const [strand, hand] of [
      [1, 1],
      [0, -1],
      [1, -1],
      [2, -1],
    ] as const)
      // prettier-ignore
      for (let j = -steps; j <= steps; j++) {
        const b = place(strand, hand, (period * i) / steps + (period * j) / (2 * steps));
        least = Math.min(least, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
      }
  }
  return least;
}

/** The thickest strands of a braid of outer `radius` (metres) that do not run into each other; `count` strands, half of each hand. */
export function braidSection(radius: number, count: number, lay: number): BraidSection {
  const half = count / 2;
  const sectionOf = (strandRadius: number): BraidSection => ({ strandRadius, swing: strandRadius, centreRadius: radius - 2 * strandRadius });
  let low = 0;
  let high = radius / 3;
  for (let i = 0; i < 30; i++) {
    const r = (low + high) / 2;
    if (braidDistance(sectionOf(r), half, lay) >= 2 * r) low = r;
    else high = r;
  }
  return sectionOf(low);
}
