import type { Attribute } from '../../geometry/attributes.js';
import { gatherRows, withAttributes } from '../../geometry/attributes.js';
import { curveCount, curveKinds, curveOfPoints, type Curves } from '../../geometry/curves.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { curveLengths, stationsOf } from './arcLength.js';
import { framesOf } from './frames.js';
import { PlacedCurves, PlaceList, runValues } from './places.js';
import { identityOf, seedsOfPoints } from './pointSeeds.js';
import { isPaced, spansOf } from './spans.js';

/**
 * The same curves with points that lie on them: `through` and `bspline` become `bezier` with the handles they have been all along (the points of
 * a B-spline move onto it). `tangents`: also says that the points are where rings belong; else only curves that said so before do.
 */
export function asBezier(curves: Curves, tangents = false): Curves {
  const needs = (c: number): boolean => {
    const kind = curveKinds[curves.kind[c]];
    return kind === 'through' || kind === 'bspline' || (tangents && !isPaced(curves, c));
  };
  let any = false;
  for (let c = 0; c < curveCount(curves); c++) any ||= needs(c);
  if (!any) return curves;
  const result = new PlacedCurves(curves);
  const places = new PlaceList();
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const closed = curves.closed[c] === 1;
    places.clear();
    for (let i = 0; i < spans.count; i++) places.push(i, 0);
    if (!closed && spans.count) places.push(spans.count - 1, 1);
    if (!spans.count && curves.starts[c + 1] > curves.starts[c]) places.push(0, 0);
    result.add(c, spans, places, { closed, handles: 'exact', tangents: tangents || isPaced(curves, c) });
  }
  return result.finish();
}

/** Curves whose points have moved or changed places: smooth ones run through the new points, and what belonged to the old run is dropped. */
export function throughMoved(curves: Curves, positions: Float32Array = curves.positions): Curves {
  const bezier = curveKinds.indexOf('bezier');
  const through = curveKinds.indexOf('through');
  return {
    ...curves,
    positions,
    kind: curves.kind.map((kind) => (kind === bezier ? through : kind)),
    attributes: withAttributes(curves.attributes, runValues),
  };
}

/**
 * The points of curves as places of their own, on the curve for every kind, with what they know: `tangent`, `normal` (the curve's frames, or
 * minimal ones), `t` 0…1 and `s` metres along, the number of their `curve`, an `id` of their own (their number, unless they have one), and the
 * `seed` that random values follow from (see `seedsOfPoints`).
 */
export function pointsOf(curves: Curves): Points {
  const known = madePoints.get(curves);
  if (known) return known;
  const own = asBezier(curves, true);
  const frames = framesOf(own);
  const stations = stationsOf(own);
  const lengths = curveLengths(own);
  const count = own.positions.length / 3;
  const t = new Float32Array(count);
  const curve = curveOfPoints(own);
  for (let c = 0; c < curveCount(own); c++) for (let i = own.starts[c]; i < own.starts[c + 1]; i++) t[i] = lengths[c] > 0 ? stations[i] / lengths[c] : 0;
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of own.attributes) {
    if (attribute.carrier === 'point' && !(name in runValues)) attributes.set(name, attribute);
    else if (attribute.carrier === 'curve' && !identityNames.has(name))
      attributes.set(name, { carrier: 'point', size: attribute.size, data: gatherRows(attribute, curve) });
    else if (attribute.carrier === 'whole') attributes.set(name, attribute);
  }
  attributes.set('tangent', { carrier: 'point', size: 3, data: frames.tangent });
  attributes.set('normal', { carrier: 'point', size: 3, data: frames.normal });
  const numbers = (name: string, data: Float32Array): void => void attributes.set(name, { carrier: 'point', size: 1, data });
  numbers('t', t);
  numbers('s', Float32Array.from(stations));
  numbers('curve', Float32Array.from(curve));
  if (!identityOf(own, 'point')) {
    numbers('id', Float32Array.from(curve.keys()));
    numbers('seed', Float32Array.from(seedsOfPoints(own)));
  }
  const points = makePoints(own.positions, attributes);
  madePoints.set(curves, points);
  return points;
}

/** Values of a curve by which it is known; its points have their own. */
const identityNames: ReadonlySet<string> = new Set(['id', 'seed']);

const madePoints = new WeakMap<Curves, Points>();
