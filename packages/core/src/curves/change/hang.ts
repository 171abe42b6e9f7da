import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { curveCount, curveKinds, makeCurves, type Curves } from '../../geometry/curves.js';
import { unbounded, type Work } from '../../base/work.js';
import { fieldAt, type Field } from '../../values/field.js';
import { catenaryByLength, catenaryBySag, type Catenary } from './catenary.js';
import { hangingPoints } from './hangingPoints.js';
import type { Vector3 } from '../evaluate/transport.js';

export interface HangOptions {
  by: 'sag' | 'slack';
  /** Sag: metres below the chord. Slack: length ÷ distance − 1. A value per curve, 0 or more. */
  value: Field;
  /** Points per hanging rope, ends included; more where so few cannot hold its length. */
  points: number;
  /** Which way is down. */
  down: Vector3;
  /** One rope between the ends of each curve, or one between each point and the next. */
  spans: 'ends' | 'each';
}

/** What a hanging rope has when nothing else is asked for. */
export const defaultHang = { by: 'sag', points: 32, down: [0, -1, 0], spans: 'ends' } as const satisfies Omit<HangOptions, 'value'>;

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
 * Ropes in true catenaries between the ends of the curves, with exact tangents. Points are even by length; where the Bezier curve through them would miss
 * the rope's length by more than 1/10,000 they lie closer where it bends, and where that does not do either there are more. Closed curves hang between
 * each point and the next. Curve attributes are kept, point attributes dropped.
 *
 * @example
 * const { curves } = hang(line, { ...defaultHang, value: constantField(0.3) });
 *
 * @returns the ropes, and for each the curve it hangs for when it could not sag as asked: its ends lie one above the other.
 * @throws RangeError naming the curve whose value is negative.
 */
export function hang(curves: Curves, options: HangOptions, work: Work = unbounded): { curves: Curves; upright: number[] } {
  const list = endsOf(curves, options.spans);
  work.claim({ points: list.length * options.points });
  const upright: number[] = [];
  let points = 0;
  const starts = new Uint32Array(list.length + 1);
  const ropes = list.map(({ from, to, curve }, i) => {
    const value = fieldAt(options.value, curve);
    if (!(value >= 0)) throw new RangeError(`The ${options.by} of curve ${curve + 1} is ${value}; it must be 0 or more.`);
    const plane = hangingPlane(curves.positions, from, to, options.down);
    const shape = catenaryFor(plane, value, options.by);
    if (!shape) upright.push(curve);
    const made = hangingPoints(shape ?? catenaryByLength(plane.span, plane.rise, Math.hypot(plane.span, plane.rise)), options.points);
    points += made.count;
    work.claim({ points });
    starts[i + 1] = points;
    return { made, plane, from, to };
  });
  const positions = new Float32Array(points * 3);
  const tangent = new Float32Array(positions.length);
  const handleOut = new Float32Array(positions.length);
  const handleIn = new Float32Array(positions.length);
  ropes.forEach(({ made, plane, from, to }, rope) => {
    for (let i = 0; i < made.count; i++) {
      const o = (starts[rope] + i) * 3;
      for (let k = 0; k < 3; k++) {
        const inSpace = (list: Float64Array): number => list[i * 2] * plane.along[k] + list[i * 2 + 1] * plane.up[k];
        positions[o + k] = curves.positions[from * 3 + k] + inSpace(made.places);
        tangent[o + k] = inSpace(made.directions);
        handleOut[o + k] = inSpace(made.out);
        handleIn[o + k] = inSpace(made.into);
      }
    }
    // The ends are those of the curve to the last bit.
    const first = starts[rope] * 3;
    const last = starts[rope + 1] * 3 - 3;
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
