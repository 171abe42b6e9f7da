import { curvesOut } from '../../definition/ports.js';
import type { Attribute } from '../../geometry/attributes.js';
import { curvesFromLists, makeCurves, type CurveKind, type Curves } from '../../geometry/curves.js';
import { defineNode } from '../../definition/define.js';
import type { DataSetting } from '../../definition/settings.js';
import { families } from '../../definition/families.js';
import { drawnFault, isPlace } from './drawnFault.js';

/** Curves drawn by hand. `handles`: for each point the places of its two handles, [before, after]; only for Bezier curves. */
export interface DrawnCurve {
  readonly points: readonly (readonly number[])[];
  readonly handles?: readonly (readonly [readonly number[], readonly number[]])[];
  readonly closed?: boolean;
}

/** How many points a Bezier curve without `handles` needs: corner, handle, handle, corner … */
const bezierPointsFit = (count: number, closed: boolean): boolean => count <= 1 || (closed ? count % 3 === 0 : count % 3 === 1);

function curvesFault(value: unknown, settings: Readonly<Record<string, unknown>>): { path: string; message: string } | null {
  if (!Array.isArray(value)) return { path: '', message: 'This must be a list of curves.' };
  const fault = drawnFault(value, 'curve', ['handles']);
  if (fault) return fault;
  for (const [c, curve] of (value as DrawnCurve[]).entries()) {
    if (curve.handles !== undefined) {
      const fits =
        Array.isArray(curve.handles) &&
        curve.handles.length === curve.points.length &&
        curve.handles.every((pair: unknown) => Array.isArray(pair) && pair.length === 2 && pair.every(isPlace));
      if (!fits) return { path: `/${c}/handles`, message: `curve ${c} needs two handle places for each of its ${curve.points.length} points.` };
    } else if (settings['kind'] === 'bezier' && !bezierPointsFit(curve.points.length, curve.closed === true))
      return {
        path: `/${c}/points`,
        message: `Bezier curve ${c} has ${curve.points.length} points; without handles it needs ${curve.closed ? '3, 6, 9 …' : '4, 7, 10 …'} (corner, handle, handle, corner).`,
      };
  }
  return null;
}

const drawnSetting: DataSetting<readonly DrawnCurve[]> = {
  kind: 'data',
  edit: 'curves',
  label: 'Curves',
  help: 'The curves and their points, in metres.',
  default: [
    {
      points: [
        [0, 0, 0],
        [0.6, 0.5, 0],
        [1.4, 0.2, 0.4],
        [2, 0.6, 0],
      ],
    },
  ],
  fault: curvesFault,
};

/** A Bezier curve given as its control polygon, with corners and handles told apart. */
function withHandles(curve: DrawnCurve): DrawnCurve {
  if (curve.handles || curve.points.length <= 1) return curve;
  const p = curve.points;
  const n = p.length;
  const corners = p.filter((_, i) => i % 3 === 0);
  const handles = corners.map((corner, i): [readonly number[], readonly number[]] => {
    const at = i * 3;
    return [at > 0 ? p[at - 1] : curve.closed ? p[n - 1] : corner, at + 1 < n ? p[at + 1] : corner];
  });
  return { points: corners, handles, closed: curve.closed };
}

function drawnCurves(list: readonly DrawnCurve[], kind: CurveKind): Curves {
  const whole = kind === 'bezier' ? list.map(withHandles) : list;
  const closed = whole.map((curve) => curve.closed === true && curve.points.length > 2);
  const curves = curvesFromLists(whole.map((curve) => curve.points), { closed, kind }); // prettier-ignore
  if (kind !== 'bezier') return curves;
  const attributes = new Map<string, Attribute>();
  for (const [side, name] of ['handleIn', 'handleOut'].entries()) {
    const data = new Float32Array(curves.positions.length);
    let at = 0;
    for (const curve of whole)
      curve.points.forEach((point, i) => {
        for (let k = 0; k < 3; k++) data[at++] = (curve.handles?.[i]?.[side]?.[k] ?? point[k]) - point[k];
      });
    attributes.set(name, { carrier: 'point', size: 3, data });
  }
  return makeCurves({ ...curves, attributes });
}

/** The first point that is another than the one before it, but not in 32 bits; −1 where there is none. */
function lostPoint(points: readonly (readonly number[])[]): number {
  return points.findIndex((p, i) => {
    const before = points[i - 1];
    return i > 0 && p.some((value, k) => value !== before[k]) && p.every((value, k) => Math.fround(value) === Math.fround(before[k]));
  });
}

export default defineNode({
  type: 'lay.drawn',
  label: 'Drawn curve',
  family: families.lay,
  summary: 'Curves from points laid by hand: straight, smooth through them, Bezier or B-spline.',
  help: 'Gives the curves whose points you lay. Through runs smoothly through every point (centripetal Catmull–Rom), Bezier follows its handles, B-spline is drawn toward its points without touching them. Add a Resample to choose how many points come out; without it, surfaces sample smooth curves finely.',
  keywords: ['draw', 'pen', 'spline', 'polyline', 'path', 'bezier', 'nurbs', 'points'],
  asks: {
    'draw a path by hand': {},
    'a path with corners': { kind: 'straight' },
    'draw with handles': { kind: 'bezier' },
  },
  telling: ['kind'],
  role: 'drawing',
  outputs: [curvesOut],
  settings: {
    kind: {
      kind: 'choice',
      label: 'Kind',
      help: 'How the curve runs between its points.',
      default: 'through',
      choices: { through: 'through the points', straight: 'straight', bezier: 'Bezier', bspline: 'B-spline' },
    },
    curves: drawnSetting,
  },
  run: ({ settings, claim, warn }) => {
    claim({ points: settings.curves.reduce((sum, curve) => sum + curve.points.length, 0) });
    settings.curves.forEach((curve, c) => {
      if (curve.points.length === 1)
        warn({ code: 'degenerate', curve: c, at: 0, message: `Curve ${c + 1} has one point, so it has no length.`, remedy: 'Give it a second point.' });
      if (curve.closed && curve.points.length === 2)
        warn({ code: 'not-closed', curve: c, message: `Curve ${c + 1} has two points and cannot be closed; it stays open.`, remedy: 'Give it a third point.' });
      const lost = lostPoint(curve.points);
      if (lost > 0)
        warn({ code: 'degenerate', curve: c, message: `Point ${lost + 1} of curve ${c + 1} is stored at the place of the point before: there, positions less than ${coarseness(curve.points[lost])} m apart become one.`, remedy: 'Move the points apart, or draw the curve near the origin and move the result.' }); // prettier-ignore
    });
    return { curves: drawnCurves(settings.curves, settings.kind) };
  },
});

/** Metres between neighbouring 32-bit numbers as large as the greatest coordinate of a point (IEEE 754: 24 binary digits), as text. */
const coarseness = (point: readonly number[]): string => (Math.max(...point.map(Math.abs)) * 2 ** -23).toPrecision(2);
