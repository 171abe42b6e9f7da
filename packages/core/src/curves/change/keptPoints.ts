import { progressEvery, unbounded, type Work } from '../../base/work.js';

/**
 * Adds to `out` the points from `from` to before `to` that must stay so that all others lie within `tolerance` metres of the straight line between those
 * that do (Ramer 1972; Douglas & Peucker 1973; distances are to the segment, not to its endless line). A closed curve is cut at its first point and the
 * point farthest from it, which both stay.
 */
export function keptPoints(p: ArrayLike<number>, from: number, to: number, closed: boolean, tolerance: number, out: number[], work: Work = unbounded): void {
  const count = to - from;
  if (count <= 2) {
    for (let i = from; i < to; i++) out.push(i);
    return;
  }
  // A closed curve has its first point once more at the end.
  const last = closed ? count : count - 1;
  const at = (i: number): number => (from + (i % count)) * 3;
  const keep = new Uint8Array(last + 1);
  keep[0] = keep[last] = 1;
  // Stretches still to be looked at, with the times they were parted. Beyond so many they are halved: a coil, parted at one end again and again,
  // would take the square of its points (9.3 s for 48,000, now 0.8 s).
  const deepest = 8 + 2 * Math.log2(count);
  const open: [from: number, to: number, depth: number][] = [];
  if (closed) {
    let far = 0;
    let most = -1;
    for (let i = 1; i < count; i++) {
      const d = Math.hypot(p[at(i)] - p[at(0)], p[at(i) + 1] - p[at(0) + 1], p[at(i) + 2] - p[at(0) + 2]);
      if (d > most) [most, far] = [d, i];
    }
    keep[far] = 1;
    open.push([0, far, 0], [far, last, 0]);
  } else open.push([0, last, 0]);
  let looked = 0;
  while (open.length) {
    const [a, b, depth] = open.pop()!;
    looked += b - a;
    if (looked > 10 * progressEvery) {
      work.progress(Math.min(1, a / count));
      looked = 0;
    }
    let worst = tolerance;
    let which = -1;
    for (let i = a + 1; i < b; i++) {
      const d = segmentDistance(p, at(i), p, at(a), at(b));
      // Of places equally far (to a millionth, so that storage in 32 bits does not decide) the first is kept.
      if (d > (which < 0 ? worst : worst * (1 + 1e-6))) [worst, which] = [d, i];
    }
    if (which < 0) continue;
    if (depth > deepest) which = (a + b) >> 1;
    keep[which] = 1;
    open.push([a, which, depth + 1], [which, b, depth + 1]);
  }
  for (let i = 0; i < count; i++) if (keep[i]) out.push(from + i);
}

/** Distance of the point at offset `o` of `p` from the segment between offsets `a` and `b` of `q` (3 numbers each). */
export function segmentDistance(p: ArrayLike<number>, o: number, q: ArrayLike<number>, a: number, b: number): number {
  const dx = q[b] - q[a];
  const dy = q[b + 1] - q[a + 1];
  const dz = q[b + 2] - q[a + 2];
  const x = p[o] - q[a];
  const y = p[o + 1] - q[a + 1];
  const z = p[o + 2] - q[a + 2];
  const squared = dx * dx + dy * dy + dz * dz;
  const t = squared > 0 ? Math.min(1, Math.max(0, (x * dx + y * dy + z * dz) / squared)) : 0;
  return Math.hypot(x - t * dx, y - t * dy, z - t * dz);
}
