import { curveCount, type Curves } from '../../geometry/curves.js';
import { chord, curveLengths, stationsOf } from '../../curves/evaluate/arcLength.js';
import { PointGrid } from '../../space/grid.js';
import { fieldAt, type Field } from '../../values/field.js';
import type { SkinIssue } from './tubePlan.js';

/** Paths of more points than this are not looked at: the check would take longer than the skin. */
export const mostPointsForSelfCross = 100_000;

/** Up to so many pieces each is compared with every other. */
const few = 24;

/** Places told for one curve at most. */
const mostPlaces = 50;

/**
 * Places where two parts of one path come nearer than twice the radius: their skins run through each other. Only parts farther along than half a turn
 * of the tightest bend a tube of that radius can make are compared. Only the first place of each stretch is told. `path`: what places are told along,
 * where the sections stand beside it.
 */
export function findSelfCrossings(curves: Curves, radius: Field, issues: SkinIssue[], path: Curves = curves): void {
  if (curves.positions.length / 3 > mostPointsForSelfCross) return;
  const lengths = curveLengths(curves);
  const told = stationsOf(path);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const count = curves.starts[c + 1] - from;
    if (count < 4) continue;
    let greatest = 0;
    for (let i = 0; i < count; i++) greatest = Math.max(greatest, fieldAt(radius, from + i));
    if (greatest > 0 && lengths[c] > Math.PI * greatest) crossingsOf(curves, c, radius, greatest, told, lengths[c], issues);
  }
}

function crossingsOf(curves: Curves, c: number, radius: Field, greatest: number, alongPath: Float64Array, length: number, issues: SkinIssue[]): void {
  const p = curves.positions;
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1;
  const stations = stationsOf(curves);
  let longest = 0;
  const pieces = closed ? count : count - 1;
  for (let i = 0; i < pieces; i++) longest = Math.max(longest, chord(p, from + i, from + ((i + 1) % count)));
  // Cells so large that pieces nearer than two radii have middles in neighbouring cells; a few pieces are all in one.
  const size = pieces > few ? longest + 2 * greatest : Infinity;
  const around = pieces > few ? size : 0;
  const grid = new PointGrid(size, Math.max(1, pieces));
  /** Whether piece i comes too near to piece j. */
  const meets = (i: number, j: number): boolean => {
    const reach = fieldAt(radius, from + i) + fieldAt(radius, from + j);
    const apart = Math.abs(stations[from + i] - stations[from + j]);
    const way = (closed ? Math.min(apart, length - apart) : apart) - longest;
    if (way <= (Math.PI / 2) * reach * 1.05) return false;
    const [a, b] = [(from + i) * 3, (from + j) * 3];
    // Too far from each other at a glance: each piece ends within the longest from where it begins.
    const far = reach + 2 * longest;
    if ((p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2 > far * far) return false;
    return segmentsDistance(p, a, (from + ((i + 1) % count)) * 3, b, (from + ((j + 1) % count)) * 3) < reach * (1 - 1e-3);
  };
  let told = -Infinity;
  let left = mostPlaces;
  for (let i = 0; i < pieces && left > 0; i++) {
    const a = (from + i) * 3;
    const b = (from + ((i + 1) % count)) * 3;
    const [x, y, z] = [0, 1, 2].map((k) => (p[a + k] + p[b + k]) / 2 - p[from * 3 + k]);
    // A stretch is told once.
    if (stations[from + i] - told > 4 * greatest + longest) {
      const found = grid.near(x, y, z, around, (j) => meets(i, j));
      if (found) {
        told = stations[from + i];
        left--;
        issues.push({ code: 'self-cross', curve: c, at: alongPath[from + i], reason: 'near-itself' });
      }
    }
    grid.add(x, y, z);
  }
}

/** Least distance of two segments given by the offsets of their ends (Ericson 2005, Real-Time Collision Detection, 5.1.9; from memory). */
export function segmentsDistance(p: ArrayLike<number>, a: number, b: number, c: number, d: number): number {
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[d] - p[c], p[d + 1] - p[c + 1], p[d + 2] - p[c + 2]];
  const [wx, wy, wz] = [p[a] - p[c], p[a + 1] - p[c + 1], p[a + 2] - p[c + 2]];
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
  const [dx, dy, dz] = [wx + s * ux - t * vx, wy + s * uy - t * vy, wz + s * uz - t * vz];
  return Math.sqrt(dx * dx + dy * dy + dz * dz);
}
