import type { Attribute } from '../../geometry/attributes.js';
import { curveKinds, makeCurves, type Curves } from '../../geometry/curves.js';
import { progressEvery, tick, unbounded, type Work } from '../../base/work.js';
import { perpendicular, type Vector3 } from '../evaluate/transport.js';

const bezier = Uint8Array.of(curveKinds.indexOf('bezier'));

/** One paced Bezier curve from points, unit tangents and handle lengths (metres, one a point). */
export function smoothCurve(positions: Float32Array, tangent: Float32Array, handle: (i: number) => number, closed: boolean, work: Work = unbounded): Curves {
  const handleOut = new Float32Array(positions.length);
  const handleIn = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    if (i % (progressEvery * 3) === 0) work.progress(i / positions.length);
    const length = handle(i / 3);
    for (let k = i; k < i + 3; k++) {
      handleOut[k] = tangent[k] * length;
      handleIn[k] = -tangent[k] * length;
    }
  }
  const attributes = new Map<string, Attribute>([
    ['tangent', { carrier: 'point', size: 3, data: tangent }],
    ['handleOut', { carrier: 'point', size: 3, data: handleOut }],
    ['handleIn', { carrier: 'point', size: 3, data: handleIn }],
  ]);
  return makeCurves({ positions, starts: Uint32Array.of(0, positions.length / 3), closed: Uint8Array.of(closed ? 1 : 0), kind: bezier, attributes });
}

/** Handle length, over the radius, of the cubic span that follows an arc of `angle` radians (4/3·tan(angle/4); common practice). */
const arcHandle = (angle: number): number => (4 / 3) * Math.tan(angle / 4);

export interface CircleOptions {
  /** Metres. */
  radius: number;
  /** Points on it, ends included when it is an arc. */
  points: number;
  centre: Vector3;
  /** The circle runs counter-clockwise seen against it. */
  axis: Vector3;
  /** Degrees from the zero direction: world X (Y where the axis is X) as far as the axis allows. */
  start: number;
  /** Degrees; 360 closes it. */
  span: number;
}

/** A circle or an arc with exact points and tangents; between them it is true to 1e-6 of the radius from 16 points a turn. */
export function circle({ radius, points, centre, axis, start, span }: CircleOptions, work: Work = unbounded): Curves {
  const closed = span === 360;
  const size = Math.hypot(...axis);
  const [ax, ay, az] = axis.map((value) => value / size);
  const u = new Float64Array(3);
  const alongX = Math.abs(ax) > 1 - 1e-6;
  perpendicular(alongX ? [0, 1, 0] : [1, 0, 0], ax, ay, az, u, 0);
  const v = [ay * u[2] - az * u[1], az * u[0] - ax * u[2], ax * u[1] - ay * u[0]];
  const step = ((span / (closed ? points : points - 1)) * Math.PI) / 180;
  const positions = new Float32Array(points * 3);
  const tangent = new Float32Array(points * 3);
  for (let i = 0; i < points; i++) {
    tick(work, i, points);
    const angle = (start * Math.PI) / 180 + i * step;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    for (let k = 0; k < 3; k++) {
      positions[i * 3 + k] = centre[k] + radius * (c * u[k] + s * v[k]);
      tangent[i * 3 + k] = c * v[k] - s * u[k];
    }
  }
  return smoothCurve(positions, tangent, () => radius * arcHandle(step), closed, work);
}

export interface HelixOptions {
  /** Metres at a fraction of the height, 0…1. */
  radius: (t: number) => number;
  /** Metres along Y, from the origin up. */
  height: number;
  turns: number;
  pointsPerTurn: number;
  hand: 'right' | 'left';
}

/** A helix about Y, starting at x = radius. Points even in angle; a varying radius is differentiated over a thousandth of the length. */
export function helix({ radius, height, turns, pointsPerTurn, hand }: HelixOptions): Curves {
  const gaps = Math.max(1, Math.round(turns * pointsPerTurn));
  const step = (turns * 2 * Math.PI) / gaps;
  const sign = hand === 'right' ? -1 : 1;
  const positions = new Float32Array((gaps + 1) * 3);
  const tangent = new Float32Array(positions.length);
  const speeds = new Float64Array(gaps + 1);
  const whole = turns * 2 * Math.PI;
  for (let i = 0; i <= gaps; i++) {
    const t = i / gaps;
    const angle = t * whole;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const r = radius(t);
    const [low, high] = [Math.max(0, t - 5e-4), Math.min(1, t + 5e-4)];
    const widening = (radius(high) - radius(low)) / ((high - low) * whole);
    positions.set([r * c, height * t, sign * r * s], i * 3);
    const d = [widening * c - r * s, height / whole, sign * (widening * s + r * c)];
    speeds[i] = Math.hypot(...d);
    for (let k = 0; k < 3; k++) tangent[i * 3 + k] = d[k] / (speeds[i] || 1);
  }
  return smoothCurve(positions, tangent, (i) => speeds[i] * arcHandle(step), false);
}
