import { gatherRows, type Attribute } from './attributes.js';
import { makeCurves, type Curves } from './curves.js';
import { makePoints, type Points } from './points.js';

/** New curves as lists of points of given ones. */
export interface GatheredCurves {
  /** Point of the given curves for each new point. */
  readonly points: ArrayLike<number>;
  /** Offsets of the new curves' first points, and their number last. */
  readonly starts: ArrayLike<number>;
  /** The curve that each new one takes its curve values and its kind from. */
  readonly sources: ArrayLike<number>;
  readonly closed: ArrayLike<number>;
}

/** Curves made of points of other curves, with all their values. Handles and tangents are taken along as they are. */
export function gatherCurves(curves: Curves, { points, starts, sources, closed }: GatheredCurves): Curves {
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of curves.attributes) {
    if (attribute.carrier === 'point') attributes.set(name, { ...attribute, data: gatherRows(attribute, points) });
    else attributes.set(name, attribute.carrier === 'curve' ? { ...attribute, data: gatherRows(attribute, sources) } : attribute);
  }
  return makeCurves({
    positions: gatherRows({ carrier: 'point', size: 3, data: curves.positions }, points),
    starts: Uint32Array.from(starts),
    closed: Uint8Array.from(closed),
    kind: Uint8Array.from(sources, (source) => curves.kind[source]),
    attributes,
  });
}

/** Points in another order, or some of them. */
export function gatherPoints(points: Points, which: ArrayLike<number>): Points {
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of points.attributes)
    attributes.set(name, attribute.carrier === 'point' ? { ...attribute, data: gatherRows(attribute, which) } : attribute);
  return makePoints(gatherRows({ carrier: 'point', size: 3, data: points.positions }, which), attributes);
}

/** Some curves in the order named, with all their values. */
export function takeCurves(curves: Curves, which: readonly number[]): Curves {
  const points: number[] = [];
  const starts = [0];
  for (const c of which) {
    for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) points.push(i);
    starts.push(points.length);
  }
  return gatherCurves(curves, { points, starts, sources: which, closed: which.map((c) => curves.closed[c]) });
}
