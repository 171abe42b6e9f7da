/** Edits of strokes drawn on a body, as pure functions. Places in metres. */
import type { Stroke } from '@filaxis/core';
import type { BodyHit } from '@filaxis/protocol';

export type Strokes = readonly Stroke[];

/** A point of a stroke. */
export interface StrokePoint {
  readonly stroke: number;
  readonly point: number;
}

/** With other points at `at`; places on a body of other triangles are given up, since the new ones would not be of the same. */
function spliced(stroke: Stroke, at: number, gone: number, hits: readonly BodyHit[], triangles: number): Stroke {
  const put = <T>(list: readonly T[], items: readonly T[]): T[] => [...list.slice(0, at), ...items, ...list.slice(at + gone)];
  const points = put(stroke.points, hits.map(({ place }) => place)); // prettier-ignore
  const closed = stroke.closed === undefined ? {} : { closed: stroke.closed };
  const fits = !stroke.points.length || (stroke.on && (stroke.triangles === triangles || !hits.length));
  if (!fits) return { points, ...closed };
  return { points, on: put(stroke.on ?? [], hits.map(({ on }) => on)), triangles: hits.length ? triangles : stroke.triangles!, ...closed }; // prettier-ignore
}

const changed = (strokes: Strokes, which: number, change: (stroke: Stroke) => Stroke): Strokes =>
  strokes.map((stroke, i) => (i === which ? change(stroke) : stroke));

/** Points at the end of a stroke; one after the last begins a new one. */
export function extended(strokes: Strokes, which: number, hits: readonly BodyHit[], triangles: number): Strokes {
  if (!hits.length) return strokes;
  const all = which < strokes.length ? strokes : [...strokes, { points: [] }];
  return changed(all, Math.min(which, strokes.length), (stroke) => spliced(stroke, stroke.points.length, 0, hits, triangles));
}

export const movedTo = (strokes: Strokes, { stroke: which, point }: StrokePoint, hit: BodyHit, triangles: number): Strokes =>
  changed(strokes, which, (stroke) => spliced(stroke, point, 1, [hit], triangles));

/** A stroke without points goes. */
export const withoutPoint = (strokes: Strokes, { stroke: which, point }: StrokePoint): Strokes =>
  changed(strokes, which, (stroke) => spliced(stroke, point, 1, [], 0)).filter(({ points }) => points.length > 0);

export const withoutStroke = (strokes: Strokes, which: number): Strokes => strokes.filter((_, i) => i !== which);

export const closedStroke = (strokes: Strokes, which: number, closed: boolean): Strokes => changed(strokes, which, (stroke) => ({ ...stroke, closed }));
