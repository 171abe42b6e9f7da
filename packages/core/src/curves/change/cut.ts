import { curveCount, type Curves } from '../../geometry/curves.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { fieldAt, type Field } from '../../values/field.js';
import { ArcLengthInverse } from '../evaluate/arcLengthInverse.js';
import { PlacedCurves, PlaceList } from '../evaluate/places.js';
import { isPaced, spansOf, type Spans } from '../evaluate/spans.js';

export interface CutOptions {
  /** Where the kept part begins and ends, a value per curve. */
  start: Field;
  end: Field;
  /** 0…1 of the length, or metres along it. */
  in: 'fraction' | 'metres';
}

/** Puts down the places of a part of a curve, metres along it; `across`: over its first point. */
export function placesBetween(
  spans: Spans,
  inverse: ArcLengthInverse,
  { from, to, across = false }: { readonly from: number; readonly to: number; readonly across?: boolean },
  places: PlaceList,
): void {
  const [a, b] = [from, to].map((s) => {
    const { span, u } = inverse.at(s);
    return u > 1 - 1e-12 && span + 1 < spans.count ? { span: span + 1, u: 0 } : { span, u };
  });
  places.push(a.span, a.u);
  if (across) {
    for (let i = a.span + 1; i < spans.count; i++) places.push(i, 0);
    for (let i = 0; i <= b.span; i++) if (i < b.span || b.u > 0) places.push(i, 0);
  } else for (let i = a.span + 1; i <= b.span; i++) if (i < b.span || b.u > 0) places.push(i, 0);
  // The end as the end of its span, so that the last piece is cut out of the span it lies in.
  if (b.u === 0 && b.span > 0) places.push(b.span - 1, 1);
  else if (b.u === 0) places.push(spans.count - 1, 1);
  else places.push(b.span, b.u);
}

/**
 * The part of every curve between two places along it; its course does not change. Places beyond an end are taken as the end. A closed curve whose
 * start lies after its end is kept across its first point. Parts without length are left out; their curves are returned in `gone`.
 */
export function cutToSpan(curves: Curves, options: CutOptions, work: Work = unbounded): { curves: Curves; gone: number[] } {
  const result = new PlacedCurves(curves);
  const places = new PlaceList();
  const inverse = new ArcLengthInverse();
  const gone: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    tick(work, c, curveCount(curves));
    const spans = spansOf(curves, c);
    inverse.load(spans);
    const scale = options.in === 'fraction' ? inverse.total : 1;
    const [from, to] = [options.start, options.end].map((field) => Math.min(Math.max(fieldAt(field, c) * scale, 0), inverse.total));
    const closed = curves.closed[c] === 1;
    const across = closed && from > to;
    places.clear();
    if (closed && from === 0 && to === inverse.total && inverse.total > 0) {
      for (let i = 0; i < spans.count; i++) places.push(i, 0);
      result.add(c, spans, places, { closed, handles: 'exact', tangents: isPaced(curves, c) });
      continue;
    }
    const length = across ? inverse.total - from + to : to - from;
    if (!(length > 1e-12 * inverse.total)) {
      gone.push(c);
      continue;
    }
    placesBetween(spans, inverse, { from, to, across }, places);
    result.add(c, spans, places, { closed: false, handles: 'exact', tangents: isPaced(curves, c) });
  }
  return { curves: result.finish(), gone };
}
