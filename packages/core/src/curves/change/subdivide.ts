import type { Attribute } from '../../geometry/attributes.js';
import { curveCount, makeCurves, type Curves } from '../../geometry/curves.js';
import { unbounded, type Work } from '../../base/work.js';
import { PlacedCurves, PlaceList } from '../evaluate/places.js';
import { isPaced, spanCount, spansOf } from '../evaluate/spans.js';
import { paced } from './resample.js';

/** Halves every piece `times` over: smooth curves at the middle of each span, without changing their course. */
export function halvePieces(curves: Curves, times: number, work: Work = unbounded): Curves {
  const pieces = 2 ** times;
  let total = 0;
  for (let c = 0; c < curveCount(curves); c++) total += spanCount(curves, c) * pieces + 1;
  work.claim({ points: total });
  const result = new PlacedCurves(curves, total);
  const places = new PlaceList();
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    const closed = curves.closed[c] === 1;
    places.clear();
    for (let i = 0; i < spans.count; i++) for (let k = 0; k < pieces; k++) places.push(i, k / pieces);
    if (!closed && spans.count) places.push(spans.count - 1, 1);
    if (!spans.count && curves.starts[c + 1] > curves.starts[c]) places.push(0, 0);
    result.add(c, spans, places, { closed, handles: 'exact', tangents: isPaced(curves, c) });
  }
  return result.finish();
}

/**
 * Cuts every corner at a quarter and three quarters of its legs, `times` over (Chaikin 1974): tends to the uniform quadratic B-spline of the
 * points. `keepEnds` adds the ends of open curves each time, else they draw in. Smooth curves are sampled first; all come out straight.
 */
export function cutCorners(curves: Curves, times: number, keepEnds: boolean, work: Work = unbounded): Curves {
  let current = paced(curves);
  for (let round = 0; round < times; round++) current = cutOnce(current, keepEnds, work);
  return current;
}

function cutOnce(curves: Curves, keepEnds: boolean, work: Work): Curves {
  /** First point, second point and share of the second, for each new point. */
  const from: number[] = [];
  const to: number[] = [];
  const share: number[] = [];
  const starts = [0];
  const put = (a: number, b: number, f: number): void => {
    from.push(a);
    to.push(b);
    share.push(f);
  };
  for (let c = 0; c < curveCount(curves); c++) {
    const first = curves.starts[c];
    const end = curves.starts[c + 1];
    const closed = curves.closed[c] === 1 && end - first > 2;
    if (end - first < 3 && !closed) for (let i = first; i < end; i++) put(i, i, 0);
    else {
      if (!closed && keepEnds) put(first, first, 0);
      for (let i = first; i < (closed ? end : end - 1); i++) {
        const next = i + 1 < end ? i + 1 : first;
        put(i, next, 0.25);
        put(i, next, 0.75);
      }
      if (!closed && keepEnds) put(end - 1, end - 1, 0);
    }
    starts.push(from.length);
    work.claim({ points: from.length });
  }
  const mixed = (data: Float32Array, size: number): Float32Array => {
    const result = new Float32Array(from.length * size);
    for (let i = 0, at = 0; i < from.length; i++)
      for (let k = 0; k < size; k++) result[at++] = data[from[i] * size + k] * (1 - share[i]) + data[to[i] * size + k] * share[i];
    return result;
  };
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of curves.attributes) {
    if (attribute.carrier !== 'point') attributes.set(name, attribute);
    else if (!['tangent', 'normal', 'handleIn', 'handleOut'].includes(name))
      attributes.set(name, { ...attribute, data: mixed(attribute.data, attribute.size) });
  }
  return makeCurves({ positions: mixed(curves.positions, 3), starts: Uint32Array.from(starts), closed: curves.closed, attributes });
}
