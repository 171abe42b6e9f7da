/** Where two segments are nearest: shares of each, and how far apart they are there. */
interface SegmentsNearest {
  s: number;
  t: number;
  distance: number;
}

const nearest: SegmentsNearest = { s: 0, t: 0, distance: 0 };

/**
 * Where two segments, given by the offsets of their ends among positions, are nearest to each other (Ericson 2005, Real-Time Collision Detection, 5.1.9; from memory).
 * @returns the same object at every call.
 */
export function nearestOfSegments(p: ArrayLike<number>, a: number, b: number, c: number, d: number): Readonly<SegmentsNearest> {
  // Written out, as everything that runs for every pair: lists would be made anew each time.
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[d] - p[c];
  const vy = p[d + 1] - p[c + 1];
  const vz = p[d + 2] - p[c + 2];
  const wx = p[a] - p[c];
  const wy = p[a + 1] - p[c + 1];
  const wz = p[a + 2] - p[c + 2];
  const uu = ux * ux + uy * uy + uz * uz;
  const uv = ux * vx + uy * vy + uz * vz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uw = ux * wx + uy * wy + uz * wz;
  const vw = vx * wx + vy * wy + vz * wz;
  const det = uu * vv - uv * uv;
  let s = det > 1e-12 * uu * vv ? Math.min(1, Math.max(0, (uv * vw - vv * uw) / det)) : 0;
  let t = vv > 0 ? (uv * s + vw) / vv : 0;
  if (t < 0 || t > 1) {
    t = Math.min(1, Math.max(0, t));
    s = uu > 0 ? Math.min(1, Math.max(0, (uv * t - uw) / uu)) : 0;
  }
  const dx = wx + s * ux - t * vx;
  const dy = wy + s * uy - t * vy;
  const dz = wz + s * uz - t * vz;
  nearest.s = s;
  nearest.t = t;
  nearest.distance = Math.sqrt(dx * dx + dy * dy + dz * dz);
  return nearest;
}
