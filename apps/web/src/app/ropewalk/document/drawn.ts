/** Edits of the data of a Drawn curve node, as pure functions. Places in metres. */

export type Place = readonly [number, number, number];

/** One curve of the node's data: its points, for Bezier curves two handle places for each (before, after), and whether it is closed. */
export interface DrawnCurve {
  readonly points: readonly Place[];
  readonly handles?: readonly (readonly [Place, Place])[];
  readonly closed?: boolean;
}
export type DrawnCurves = readonly DrawnCurve[];

/** A point of a curve, or one of its handles: 0 before, 1 after. */
export interface DrawnPoint {
  readonly curve: number;
  readonly point: number;
  readonly handle?: 0 | 1;
}

const add = (a: Place, b: Place, factor = 1): Place => [a[0] + b[0] * factor, a[1] + b[1] * factor, a[2] + b[2] * factor];
const minus = (a: Place, b: Place): Place => add(a, b, -1);

const changed = (curves: DrawnCurves, which: number, change: (curve: DrawnCurve) => DrawnCurve): DrawnCurves =>
  curves.map((curve, c) => (c === which ? change(curve) : curve));

/** Handles a third of the way to the neighbours, along the direction from one neighbour to the other: smooth at the point. */
function roundHandles(points: readonly Place[], closed: boolean, i: number): [Place, Place] {
  const n = points.length;
  const before = closed || i > 0 ? points[(i + n - 1) % n] : points[i];
  const after = closed || i < n - 1 ? points[(i + 1) % n] : points[i];
  const along = minus(after, before);
  const size = Math.hypot(...along) || 1;
  const reach = (to: Place): number => Math.hypot(...minus(to, points[i])) / 3 / size;
  return [add(points[i], along, -reach(before)), add(points[i], along, reach(after))];
}

/** Bezier curves with handles of their own: those given as a control polygon (corner, handle, handle, corner) are taken apart. */
export function withHandles(curves: DrawnCurves): DrawnCurves {
  return curves.map((curve) => {
    if (curve.handles || curve.points.length < 2) return curve.handles ? curve : { ...curve, handles: curve.points.map((p): [Place, Place] => [p, p]) };
    const p = curve.points;
    const points = p.filter((_, i) => i % 3 === 0);
    const handles = points.map((corner, i): [Place, Place] => [p[i * 3 - 1] ?? (curve.closed ? p[p.length - 1] : corner), p[i * 3 + 1] ?? corner]);
    return { ...curve, points, handles };
  });
}

/** A point put after point `after` of a curve (−1: before the first). */
export function insertPoint(curves: DrawnCurves, which: number, after: number, place: Place): DrawnCurves {
  return changed(curves, which, (curve) => {
    const points = [...curve.points.slice(0, after + 1), place, ...curve.points.slice(after + 1)];
    if (!curve.handles) return { ...curve, points };
    const own = roundHandles(points, curve.closed === true, after + 1);
    return { ...curve, points, handles: [...curve.handles.slice(0, after + 1), own, ...curve.handles.slice(after + 1)] };
  });
}

/** A new curve with one point; Bezier curves get handles. */
export const addCurve = (curves: DrawnCurves, place: Place, bezier: boolean): DrawnCurves => [
  ...curves,
  { points: [place], ...(bezier && { handles: [[place, place]] as const }) },
];

/** Takes a point away; a curve without points goes. */
export function removePoint(curves: DrawnCurves, { curve: which, point }: DrawnPoint): DrawnCurves {
  const without = <T>(list: readonly T[]): T[] => list.filter((_, i) => i !== point);
  return changed(curves, which, (curve) => ({ ...curve, points: without(curve.points), ...(curve.handles && { handles: without(curve.handles) }) })).filter(
    ({ points }) => points.length > 0,
  );
}

/** Takes several points away; curves without points go. */
export function removePoints(curves: DrawnCurves, gone: readonly DrawnPoint[]): DrawnCurves {
  const from = gone.toSorted((a, b) => b.curve - a.curve || b.point - a.point);
  return from.reduce(removePoint, curves);
}

/**
 * Moves a point, with its handles, or one handle to a place. Unless `broken`, the other handle keeps its length and turns along, so that the curve
 * stays smooth there.
 */
export function moveTo(curves: DrawnCurves, { curve: which, point, handle }: DrawnPoint, place: Place, broken = false): DrawnCurves {
  return changed(curves, which, (curve) => {
    const by = minus(place, curve.points[point]);
    if (handle === undefined) {
      const points = curve.points.map((p, i) => (i === point ? place : p));
      if (!curve.handles) return { ...curve, points };
      return { ...curve, points, handles: curve.handles.map((pair, i) => (i === point ? [add(pair[0], by), add(pair[1], by)] : pair)) };
    }
    const pair = curve.handles?.[point];
    if (!pair) return curve;
    const corner = curve.points[point];
    const other = pair[1 - handle];
    const length = Math.hypot(...minus(other, corner));
    const size = Math.hypot(...by);
    const turned = !broken && length > 0 && size > 0 ? add(corner, by, -length / size) : other;
    const next: [Place, Place] = handle === 0 ? [place, turned] : [turned, place];
    return { ...curve, handles: curve.handles.map((old, i) => (i === point ? next : old)) };
  });
}

/** Makes a point of a Bezier curve sharp (its handles drawn in) or round (smooth through its neighbours). */
export function setSharp(curves: DrawnCurves, { curve: which, point }: DrawnPoint, sharp: boolean): DrawnCurves {
  return changed(curves, which, (curve) => {
    if (!curve.handles) return curve;
    const p = curve.points[point];
    const pair: [Place, Place] = sharp ? [p, p] : roundHandles(curve.points, curve.closed === true, point);
    return { ...curve, handles: curve.handles.map((old, i) => (i === point ? pair : old)) };
  });
}

/**
 * The curves of one kind as another kind, with their shape as far as that allows: kinds with handles get them (drawn in where the curve was straight), others lose
 * them. `says` tells what that did; null: nothing.
 */
export function asKind(curves: DrawnCurves, from: string, to: string): { curves: DrawnCurves; says: string | null } {
  if (from === to || !curves.length) return { curves, says: null };
  if (to === 'bezier') {
    const handled = curves.map((curve) => ({
      ...curve,
      handles: curve.points.map((p, i): [Place, Place] => (from === 'straight' ? [p, p] : roundHandles(curve.points, curve.closed === true, i))),
    }));
    return {
      curves: handled,
      says: from === 'straight' ? 'Every point is a sharp one now; make those round that should be.' : 'Points got handles that run on from their neighbours.',
    };
  }
  if (from !== 'bezier') return { curves, says: to === 'bspline' ? 'The curve keeps near its points now, and no longer goes through them.' : null };
  const bare = withHandles(curves).map(({ points, closed }): DrawnCurve => ({ points, ...(closed !== undefined && { closed }) }));
  return { curves: bare, says: 'Handles went; the points stay where they are.' };
}

export const setClosed = (curves: DrawnCurves, which: number, closed: boolean): DrawnCurves => changed(curves, which, (curve) => ({ ...curve, closed }));

/** A place on the nearest crossing of a grid. */
export const snapped = (place: readonly number[], step: number): Place => {
  const at = (value: number): number => (step > 0 ? Number((Math.round(value / step) * step).toFixed(9)) : value);
  return [at(place[0]), at(place[1]), at(place[2])];
};
