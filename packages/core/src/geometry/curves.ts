import { attributeBytes, noAttributes, type Attributes } from './attributes.js';
import { GeometryError } from '../base/errors.js';

/** How a curve runs between its points; `curveKinds[code]` is its name in documents. */
export const curveKinds = ['straight', 'through', 'bezier', 'bspline'] as const;
export type CurveKind = (typeof curveKinds)[number];

/**
 * Many curves in flat arrays.
 *
 * - `straight`: chords between the points.
 * - `through`: centripetal Catmull–Rom through the points (Barry & Goldman 1988); open ends use the phantom points 2·P0 − P1.
 * - `bezier`: cubic spans between the points, with the point attributes `handleIn` and `handleOut` (offsets from the point, metres).
 * - `bspline`: uniform cubic B-spline; open ends are clamped to the first and last point.
 *
 * A point attribute `tangent` that is not zero says that the points are already where rings, frames and copies belong ("paced"), with
 * the exact direction of the curve there. Smooth curves without it are sampled by the nodes that need such places.
 */
export interface Curves {
  readonly type: 'curves';
  /** Metres, 3 numbers a point. */
  readonly positions: Float32Array;
  /** Offsets of the curves' first points, and the number of points last: curves + 1 numbers. */
  readonly starts: Uint32Array;
  /** 1 where the last point is joined to the first (which is not repeated). */
  readonly closed: Uint8Array;
  /** Index into `curveKinds`, a curve. */
  readonly kind: Uint8Array;
  readonly attributes: Attributes;
}

export interface CurvesParts {
  positions: Float32Array;
  starts: Uint32Array;
  closed?: Uint8Array;
  kind?: Uint8Array;
  attributes?: Attributes;
}

/**
 * Puts curves together from their arrays and checks them.
 * @throws GeometryError when lengths do not agree or a position is not finite (the message names the point).
 */
export function makeCurves(parts: CurvesParts): Curves {
  const count = Math.max(0, parts.starts.length - 1);
  const curves: Curves = {
    type: 'curves',
    positions: parts.positions,
    starts: parts.starts.length ? parts.starts : new Uint32Array(1),
    closed: parts.closed ?? new Uint8Array(count),
    kind: parts.kind ?? new Uint8Array(count),
    attributes: parts.attributes ?? noAttributes,
  };
  const points = curves.starts[count];
  if (curves.positions.length !== points * 3)
    throw new GeometryError(`Curves hold ${curves.positions.length / 3} positions, but their starts end at ${points}.`);
  if (curves.closed.length !== count || curves.kind.length !== count)
    throw new GeometryError(`Curves: ${count} starts, ${curves.closed.length} closed marks and ${curves.kind.length} kinds do not agree.`);
  requireFinite(curves.positions, 'point');
  return curves;
}

/** @throws GeometryError naming the first element whose position is not a finite number. */
export function requireFinite(positions: Float32Array, element: string): void {
  for (let i = 0; i + 2 < positions.length; i += 3) {
    // Not written as Number.isFinite, so that sums with sizes stay in 32 bits too.
    if (Math.abs(positions[i]) + Math.abs(positions[i + 1]) + Math.abs(positions[i + 2]) < 1e30) continue;
    const k = [0, 1, 2].find((axis) => !(Math.abs(positions[i + axis]) < 1e30)) ?? 0;
    throw new GeometryError(`The ${'xyz'[k]} of ${element} ${i / 3} is ${positions[i + k]}; positions must be finite numbers.`);
  }
}

export const emptyCurves: Curves = makeCurves({ positions: new Float32Array(0), starts: new Uint32Array(1) });

/** Curves of one kind from lists of points, metres. Convenient for small data; kernels fill arrays themselves. */
export function curvesFromLists(lists: readonly (readonly (readonly number[])[])[], options: { closed?: readonly boolean[]; kind?: CurveKind } = {}): Curves {
  const starts = new Uint32Array(lists.length + 1);
  lists.forEach((list, c) => (starts[c + 1] = starts[c] + list.length));
  const positions = new Float32Array(starts[lists.length] * 3);
  let at = 0;
  for (const list of lists) for (const point of list) for (let k = 0; k < 3; k++) positions[at++] = point[k];
  return makeCurves({
    positions,
    starts,
    closed: Uint8Array.from(lists, (_, c) => (options.closed?.[c] ? 1 : 0)),
    kind: new Uint8Array(lists.length).fill(curveKinds.indexOf(options.kind ?? 'straight')),
  });
}

export const curveCount = (curves: Curves): number => curves.starts.length - 1;
export const curvePointCount = (curves: Curves): number => curves.positions.length / 3;

export function curvesBytes(curves: Curves): number {
  return curves.positions.byteLength + curves.starts.byteLength + 2 * curves.closed.byteLength + attributeBytes(curves.attributes);
}

const pointCurves = new WeakMap<Curves, Uint32Array>();

/** The curve of each point. Kept as long as the curves are. */
export function curveOfPoints(curves: Curves): Uint32Array {
  let known = pointCurves.get(curves);
  if (known) return known;
  known = new Uint32Array(curves.positions.length / 3);
  for (let c = 1; c < curveCount(curves); c++) known.fill(c, curves.starts[c], curves.starts[c + 1]);
  pointCurves.set(curves, known);
  return known;
}
