import { cumulativeLengths, spanLength } from '../evaluate/arcLength.js';
import { keptPoints, segmentDistance } from './keptPoints.js';
import { PlaceList, type PlacedHow } from '../evaluate/places.js';
import { spanPoint, type Spans } from '../evaluate/spans.js';

/** Share of the tolerance that goes to finding places on bends; the rest is for leaving places out. */
const share = 0.25;

/**
 * As many places as a curve's shape needs, so that no chord between them lies farther from it than `tolerance` metres. Bends are divided finely, then what
 * lies nearly in line is left out, over the curve's own points too. Says how the new curve runs between its places: as the old one where each piece
 * lies in one span, else by length.
 */
export function byDeviation(spans: Spans, closed: boolean, tolerance: number, expect: (points: number) => void, places: PlaceList): PlacedHow['handles'] {
  const fine = new PlaceList();
  divideBends(spans, closed, tolerance * share, expect, fine);
  const positions = new Float64Array(fine.count * 3);
  for (let i = 0; i < fine.count; i++) spanPoint(spans, fine.span[i], fine.u[i], positions, i * 3);
  const kept: number[] = [];
  keptPoints(positions, 0, fine.count, closed, spans.straight ? tolerance : tolerance * (1 - share), kept);
  if (closed && kept.length < 3) addThird(positions, fine.count, kept);
  const before = cumulativeLengths(spans);
  let across = false;
  let last = 0;
  for (const i of kept) {
    const [span, u] = [fine.span[i], fine.u[i]];
    places.push(span, u, before[span] + spanLength(spans, span, 0, u));
    // A piece that ends where the next span begins lies in one span still.
    across ||= (u > 0 ? span : span - 1) > last;
    last = span;
  }
  if (closed && spans.count - 1 > last) across = true;
  return across && !spans.straight ? { total: before[spans.count] } : 'exact';
}

/** A closed curve needs three places: the one farthest from the line through the two that stayed is the third, or the middle one. */
function addThird(positions: Float64Array, count: number, kept: number[]): void {
  let [far, third] = [-1, -1];
  for (let i = 0; i < count; i++) {
    if (kept.includes(i)) continue;
    const away = segmentDistance(positions, i * 3, positions, kept[0] * 3, (kept[1] ?? kept[0]) * 3);
    if (away > far) [far, third] = [away, i];
  }
  if (third < 0) return;
  kept.push(third);
  kept.sort((a, b) => a - b);
}

/**
 * Halves every span until its chord lies within `tolerance` of the curve, looked at at a quarter, a half and three quarters (an S-shaped
 * span crosses its chord at the half). At most 2^16 pieces a span.
 */
function divideBends(spans: Spans, closed: boolean, tolerance: number, expect: (points: number) => void, places: PlaceList): void {
  const ends = new Float64Array(6);
  const probe = new Float64Array(3);
  const far = (i: number, from: number, to: number): boolean => {
    spanPoint(spans, i, from, ends, 0);
    spanPoint(spans, i, to, ends, 3);
    return [0.25, 0.5, 0.75].some((f) => {
      spanPoint(spans, i, from + (to - from) * f, probe, 0);
      return segmentDistance(probe, 0, ends, 0, 3) > tolerance;
    });
  };
  const cut = (i: number, from: number, to: number, depth: number): void => {
    if (depth > 0 && far(i, from, to)) {
      const middle = (from + to) / 2;
      cut(i, from, middle, depth - 1);
      cut(i, middle, to, depth - 1);
      return;
    }
    places.push(i, from);
    if (places.count % 4096 === 0) expect(places.count);
  };
  for (let i = 0; i < spans.count; i++) cut(i, 0, 1, spans.straight ? 0 : 16);
  if (!closed) places.push(spans.count - 1, 1);
  expect(places.count);
}
