import type { StripLine } from '@filaxis/protocol';
import { bendingOf, computeFrames, curvatureSides, curveLengths, defaultFrames, framesOf, stationsOf, takeCurves, type Curves } from '@filaxis/core';

/** A curve unrolled along its length, as the curve alone tells it: a number (of positions: three) a place. */
export interface PathShape {
  readonly closed: boolean;
  /** Metres. */
  readonly length: number;
  readonly s: Float32Array;
  readonly positions: Float32Array;
  /** Degrees between the frame and the least-turning one, −180…180. */
  readonly roll: Float32Array;
  /** 1/m. */
  readonly curvature: Float32Array;
  /** The same as a line over metres: where a straight piece meets an arc it has two values at one place. */
  readonly bends: StripLine;
  /** Metres to the next place; the last from the one before. */
  readonly spacing: Float32Array;
}

/** Most places of a curve in the strip: more than it has pixels. */
const mostPlaces = 4000;

/** Every how many points of a curve the strip has a place; `count` with the first once more, where the curve is closed. */
export const stripStep = (count: number): number => Math.max(1, Math.ceil(count / mostPlaces));

const known = new WeakMap<Curves, Map<number, PathShape>>();

/** The shape of curve `c` of paced curves. Kept as long as the curves are: a drag of what runs along them asks again and again. */
export function shapeOf(curves: Curves, c: number): PathShape {
  let shapes = known.get(curves);
  if (!shapes) known.set(curves, (shapes = new Map()));
  let shape = shapes.get(c);
  if (!shape) shapes.set(c, (shape = unrolled(takeCurves(curves, [c]))));
  return shape;
}

function unrolled(curve: Curves): PathShape {
  const closed = curve.closed[0] === 1;
  const length = curveLengths(curve)[0];
  const stations = stationsOf(curve);
  const count = stations.length + (closed ? 1 : 0);
  const s = new Float32Array(count);
  s.set(stations);
  if (closed) s[count - 1] = length;
  const spacing = new Float32Array(count);
  for (let i = 0; i < count; i++) spacing[i] = i + 1 < count ? s[i + 1] - s[i] : i ? s[i] - s[i - 1] : 0;
  const step = stripStep(count);
  const positions = new Float32Array(Math.ceil((count - 1) / step) * 3 + 3);
  for (let k = 0; k * 3 < positions.length; k++) {
    const i = Math.min(count - 1, k * step) % stations.length;
    positions.set(curve.positions.subarray(i * 3, i * 3 + 3), k * 3);
  }
  const places = thinned(s);
  const curvature = placesOf(bendingOf(curve).curvature, 0, stations.length, closed, true);
  return {
    closed,
    length,
    s: places,
    positions,
    roll: placesOf(rollOf(curve), 0, stations.length, closed),
    curvature,
    // Where places are left out the greatest value between two of them is told, so that no peak is lost.
    bends: step > 1 ? { s: places, values: curvature } : bendsOf(curve, s),
    spacing: thinned(spacing, true),
  };
}

/** Curvature over metres, with two values where it is not the same before and after a point. */
function bendsOf(curve: Curves, s: Float32Array): StripLine {
  const { before, after } = curvatureSides(curve, 0);
  const [at, values]: [number[], number[]] = [[], []];
  for (let i = 0; i < s.length; i++) {
    const sides = [before[i % before.length], after[i % after.length]];
    const same = i === 0 || i === s.length - 1 || Math.abs(sides[1] - sides[0]) < 0.01 * Math.max(...sides);
    for (const value of same ? [i ? sides[0] : sides[1]] : sides) {
      at.push(s[i]);
      values.push(value);
    }
  }
  return { s: Float32Array.from(at), values: Float32Array.from(values) };
}

/**
 * Values at the strip's places of a curve that has the points from `from` to `to`: a closed one comes back to its first, so that its last piece is unrolled
 * too. `most` keeps the greatest value between two places, so that no peak is lost.
 */
export function placesOf(values: Float32Array, from: number, to: number, closed: boolean, most = false): Float32Array {
  const own = new Float32Array(to - from + (closed ? 1 : 0));
  own.set(values.subarray(from, to));
  if (closed) own[to - from] = values[from];
  return thinned(own, most);
}

/** Every n-th value, the last one with them. */
function thinned(values: Float32Array, most = false): Float32Array {
  const step = stripStep(values.length);
  if (step === 1) return values;
  const kept = new Float32Array(Math.ceil((values.length - 1) / step) + 1);
  for (let k = 0; k < kept.length; k++) {
    const i = Math.min(values.length - 1, k * step);
    kept[k] = values[i];
    for (let j = i; most && j < Math.min(values.length, i + step); j++) if (values[j] > kept[k]) kept[k] = values[j];
  }
  return kept;
}

/** Degrees from the least-turning frame (started like the curve's own) to the curve's own. */
function rollOf(curve: Curves): Float32Array {
  const { normal: n, tangent: t } = framesOf(curve);
  const least = computeFrames(curve, { ...defaultFrames, start: [n[0], n[1], n[2]], spreadClosure: false });
  const m = least.normal;
  const roll = new Float32Array(n.length / 3);
  for (let i = 0, a = 0; i < roll.length; i++, a += 3) {
    const x = m[a + 1] * n[a + 2] - m[a + 2] * n[a + 1];
    const y = m[a + 2] * n[a] - m[a] * n[a + 2];
    const z = m[a] * n[a + 1] - m[a + 1] * n[a];
    const cosine = m[a] * n[a] + m[a + 1] * n[a + 1] + m[a + 2] * n[a + 2];
    roll[i] = (Math.atan2(t[a] * x + t[a + 1] * y + t[a + 2] * z, cosine) * 180) / Math.PI;
  }
  return roll;
}
