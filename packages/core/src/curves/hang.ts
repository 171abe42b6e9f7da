import { gatherRows, type Attribute } from '../geometry/attributes.js';
import { curveCount, curveKinds, makeCurves, type Curves } from '../geometry/curves.js';
import { unbounded, type Work } from '../graph/work.js';
import { fieldAt, type Field } from '../values/field.js';
import { catenaryAt, catenaryByLength, catenaryBySag, type Catenary } from './catenary.js';
import type { Vector3 } from './transport.js';

export interface HangOptions {
  by: 'sag' | 'slack';
  /** Sag: metres below the chord. Slack: length ÷ distance − 1. A value per curve, 0 or more. */
  value: Field;
  /** Points per hanging rope, ends included. */
  points: number;
  /** Which way is down. */
  down: Vector3;
  /** One rope between the ends of each curve, or one between each point and the next. */
  spans: 'ends' | 'each';
}

/** Ropes hanging between two places, as long lists of the ends (6 numbers each), with the curve each came from. */
function endsOf(curves: Curves, spans: HangOptions['spans']): { from: number; to: number; curve: number }[] {
  const list: { from: number; to: number; curve: number }[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const first = curves.starts[c];
    const last = curves.starts[c + 1] - 1;
    if (last <= first) continue;
    if (spans === 'ends' && !curves.closed[c]) list.push({ from: first, to: last, curve: c });
    else {
      for (let i = first; i < last; i++) list.push({ from: i, to: i + 1, curve: c });
      if (curves.closed[c]) list.push({ from: last, to: first, curve: c });
    }
  }
  return list;
}

/**
 * Ropes in true catenaries between the ends of the curves, with even points and exact tangents. Closed curves hang between each point and
 * the next. Curve attributes are kept, point attributes dropped.
 *
 * @returns the ropes, and for each the curve it hangs for when it could not sag as asked: its ends lie one above the other.
 * @throws RangeError naming the curve whose value is negative.
 */
export function hang(curves: Curves, options: HangOptions, work: Work = unbounded): { curves: Curves; upright: number[] } {
  const list = endsOf(curves, options.spans);
  work.claim({ points: list.length * options.points });
  const positions = new Float32Array(list.length * options.points * 3);
  const tangent = new Float32Array(positions.length);
  const handleOut = new Float32Array(positions.length);
  const handleIn = new Float32Array(positions.length);
  const upright: number[] = [];
  list.forEach(({ from, to, curve }, rope) => {
    const value = fieldAt(options.value, curve);
    if (!(value >= 0)) throw new RangeError(`The ${options.by} of curve ${curve} is ${value}; it must be 0 or more.`);
    const plane = hangingPlane(curves.positions, from, to, options.down);
    const shape = catenaryFor(plane, value, options.by);
    if (!shape) upright.push(curve);
    const used = shape ?? catenaryByLength(plane.span, plane.rise, Math.hypot(plane.span, plane.rise));
    const third = used.length / (options.points - 1) / 3;
    for (let i = 0; i < options.points; i++) {
      const [x, y, dx, dy] = catenaryAt(used, (used.length * i) / (options.points - 1));
      const o = (rope * options.points + i) * 3;
      for (let k = 0; k < 3; k++) {
        positions[o + k] = curves.positions[from * 3 + k] + x * plane.along[k] + y * plane.up[k];
        tangent[o + k] = dx * plane.along[k] + dy * plane.up[k];
        handleOut[o + k] = tangent[o + k] * third;
        handleIn[o + k] = -tangent[o + k] * third;
      }
    }
    // The ends are those of the curve to the last bit.
    const first = rope * options.points * 3;
    const last = first + (options.points - 1) * 3;
    for (let k = 0; k < 3; k++) {
      positions[first + k] = curves.positions[from * 3 + k];
      positions[last + k] = curves.positions[to * 3 + k];
    }
  });
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of curves.attributes)
    if (attribute.carrier === 'curve') attributes.set(name, { ...attribute, data: gatherRows(attribute, list.map(({ curve }) => curve)) }); // prettier-ignore
  attributes.set('tangent', { carrier: 'point', size: 3, data: tangent });
  attributes.set('handleOut', { carrier: 'point', size: 3, data: handleOut });
  attributes.set('handleIn', { carrier: 'point', size: 3, data: handleIn });
  const starts = Uint32Array.from({ length: list.length + 1 }, (_, i) => i * options.points);
  const kind = new Uint8Array(list.length).fill(curveKinds.indexOf('bezier'));
  return { curves: makeCurves({ positions, starts, kind, attributes }), upright };
}

interface HangingPlane {
  span: number;
  rise: number;
  along: readonly number[];
  up: readonly number[];
}

/** The upright plane through two points: its horizontal and upward unit directions, and the distances along them. */
function hangingPlane(p: Float32Array, from: number, to: number, down: Vector3): HangingPlane {
  const size = Math.hypot(...down);
  const up = down.map((value) => -value / size);
  const d = [0, 1, 2].map((k) => p[to * 3 + k] - p[from * 3 + k]);
  const rise = d[0] * up[0] + d[1] * up[1] + d[2] * up[2];
  const level = d.map((value, k) => value - rise * up[k]);
  const span = Math.hypot(...level);
  return { span, rise, up, along: span > 0 ? level.map((value) => value / span) : [0, 0, 0] };
}

/** The catenary, or null where a sag is asked between ends that lie one above the other. */
function catenaryFor({ span, rise }: HangingPlane, value: number, by: HangOptions['by']): Catenary | null {
  const straight = Math.hypot(span, rise);
  if (by === 'slack') return catenaryByLength(span, rise, straight * (1 + value));
  return span > 1e-9 * straight || value === 0 ? catenaryBySag(span, rise, value) : null;
}
