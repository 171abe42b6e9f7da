import type { Attribute } from '../geometry/attributes.js';
import type { curveKinds } from '../geometry/curves.js';
import { curvesFromLists, emptyCurves, makeCurves, type Curves } from '../geometry/curves.js';
import { affineFrom, transformGeometry } from '../geometry/transform.js';
import { circle, helix } from '../curves/generate.js';
import { rampAt } from '../values/ramp.js';
import { defineNode } from '../graph/define.js';
import type { DataSetting } from '../graph/settings.js';
import { families } from './families.js';

const curvesOut = [{ name: 'curves', kind: 'curves' }] as const;

const line = defineNode({
  type: 'lay.line',
  label: 'Line',
  family: families.lay,
  summary: 'A straight line between two places, or of a length in a direction.',
  help: 'Gives one straight curve from one place to another. Give a length above 0 to measure it from the first place along a direction instead, from its middle when centred. More than two points are spaced evenly.',
  keywords: ['straight', 'segment', 'edge', 'start'],
  outputs: curvesOut,
  settings: {
    from: { kind: 'vector', label: 'From', help: 'Where the line starts.', default: [0, 0, 0], unit: 'm' },
    to: { kind: 'vector', label: 'To', help: 'Where it ends. Not used when a length is given.', default: [1, 0, 0], unit: 'm', shownWhen: { length: [0] } },
    points: { kind: 'integer', label: 'Points', help: 'Points along the line, both ends included.', default: 2, min: 2, max: 1_000_000 },
    length: {
      kind: 'number',
      label: 'Length',
      help: 'Above 0: the line has this length along its direction. 0: it ends at To.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.01,
    },
    direction: { kind: 'vector', label: 'Direction', help: 'Which way a line given by length runs.', default: [1, 0, 0], direction: true },
    centred: { kind: 'boolean', label: 'Centred', help: 'A line given by length has its middle at From.', default: false },
  },
  run: ({ settings, claim }) => {
    claim({ points: settings.points });
    let from = settings.from;
    let to = settings.to;
    if (settings.length > 0) {
      const size = Math.hypot(...settings.direction);
      const along = settings.direction.map((value) => (value / size) * settings.length);
      const middle = settings.centred ? 0.5 : 0;
      from = [from[0] - along[0] * middle, from[1] - along[1] * middle, from[2] - along[2] * middle];
      to = [from[0] + along[0], from[1] + along[1], from[2] + along[2]];
    }
    if (from.every((value, k) => value === to[k]))
      throw new RangeError(`The line starts and ends at ${JSON.stringify(from)}; it needs two different places, or a length above 0.`);
    const list = Array.from({ length: settings.points }, (_, i) => {
      const f = i / (settings.points - 1);
      return from.map((value, k) => value * (1 - f) + to[k] * f);
    });
    return { curves: curvesFromLists([list]) };
  },
});

/** Curves drawn by hand. `handles`: for each point the places of its two handles, [before, after]; only for Bezier curves. */
interface DrawnCurve {
  readonly points: readonly (readonly number[])[];
  readonly handles?: readonly (readonly [readonly number[], readonly number[]])[];
  readonly closed?: boolean;
}

const isPlace = (value: unknown): boolean => Array.isArray(value) && value.length === 3 && value.every((n) => typeof n === 'number' && Number.isFinite(n));

/** How many points a Bezier curve without `handles` needs: corner, handle, handle, corner … */
const bezierPointsFit = (count: number, closed: boolean): boolean => count <= 1 || (closed ? count % 3 === 0 : count % 3 === 1);

function drawnFault(value: unknown, settings: Readonly<Record<string, unknown>>): { path: string; message: string } | null {
  if (!Array.isArray(value)) return { path: '', message: 'This must be a list of curves.' };
  for (let c = 0; c < value.length; c++) {
    const curve = value[c] as Partial<DrawnCurve> | null;
    if (typeof curve !== 'object' || curve === null || !Array.isArray(curve.points)) return { path: `/${c}`, message: `curve ${c} has no list of points.` };
    const extra = Object.keys(curve).find((key) => !['points', 'handles', 'closed'].includes(key));
    if (extra) return { path: `/${c}/${extra}`, message: `curve ${c} has no "${extra}"; it has points, handles and closed.` };
    const bad = curve.points.findIndex((point) => !isPlace(point));
    if (bad >= 0)
      return { path: `/${c}/points/${bad}`, message: `point ${bad} of curve ${c} is ${JSON.stringify(curve.points[bad])}; a point is three finite numbers.` };
    if (curve.closed !== undefined && typeof curve.closed !== 'boolean')
      return { path: `/${c}/closed`, message: `closed of curve ${c} must be true or false.` };
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
  fault: drawnFault,
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

function drawnCurves(list: readonly DrawnCurve[], kind: (typeof curveKinds)[number]): Curves {
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

const drawn = defineNode({
  type: 'lay.drawn',
  label: 'Drawn curve',
  family: families.lay,
  summary: 'Curves from points laid by hand: straight, smooth through them, Bezier or B-spline.',
  help: 'Gives the curves whose points you lay. Through runs smoothly through every point (centripetal Catmull–Rom), Bezier follows its handles, B-spline is drawn toward its points without touching them. Add a Resample to choose how many points come out; without it, surfaces sample smooth curves finely.',
  keywords: ['draw', 'points', 'polyline', 'spline', 'catmull', 'bezier', 'nurbs', 'path'],
  outputs: curvesOut,
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
        warn({ code: 'degenerate', curve: c, at: 0, message: `Curve ${c} has one point, so it has no length.`, remedy: 'Give it a second point.' });
      if (curve.closed && curve.points.length === 2)
        warn({ code: 'not-closed', curve: c, message: `Curve ${c} has two points and cannot be closed; it stays open.`, remedy: 'Give it a third point.' });
    });
    return { curves: drawnCurves(settings.curves, settings.kind) };
  },
});

const circleNode = defineNode({
  type: 'lay.circle',
  label: 'Circle',
  family: families.lay,
  summary: 'A circle, or an open arc of one.',
  help: 'Gives a closed circle, or an open arc when its span is less than 360°. It runs counter-clockwise seen against its axis, and starts on the side of world X. The points are where rings and copies go; the curve between them stays round when it is resampled.',
  keywords: ['ring', 'arc', 'round', 'loop'],
  outputs: curvesOut,
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'From the centre to the curve.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    points: { kind: 'integer', label: 'Points', help: 'Points on the circle; both ends included on an arc.', default: 32, min: 3, max: 1_000_000 },
    centre: { kind: 'vector', label: 'Centre', help: 'The middle.', default: [0, 0, 0], unit: 'm' },
    axis: { kind: 'vector', label: 'Axis', help: 'The direction the circle is square to.', default: [0, 1, 0], direction: true },
    start: { kind: 'number', label: 'Start', help: 'Where the first point lies.', default: 0, unit: '°', step: 1 },
    span: {
      kind: 'number',
      label: 'Span',
      help: 'How far it goes round; less than 360° is an open arc.',
      default: 360,
      min: 0,
      max: 360,
      above: true,
      unit: '°',
      step: 1,
    },
  },
  run: ({ settings, claim }) => {
    claim({ points: settings.points });
    return { curves: circle(settings) };
  },
});

const helixNode = defineNode({
  type: 'lay.helix',
  label: 'Helix',
  family: families.lay,
  summary: 'A screw line about the vertical, with an even or a changing radius.',
  help: 'Gives a helix that rises along Y from the origin. The radius may be a ramp over the height, for cones and springs. Right-handed: it rises as a right-hand thread does.',
  keywords: ['spiral', 'coil', 'spring', 'screw', 'thread'],
  outputs: curvesOut,
  settings: {
    radius: {
      kind: 'number',
      label: 'Radius',
      help: 'Distance from the axis; a ramp runs from the foot to the top.',
      default: 0.5,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.005,
      varies: 'point',
    },
    height: { kind: 'number', label: 'Height', help: 'From foot to top; 0 is a flat spiral.', default: 2, unit: 'm', step: 0.01 },
    turns: { kind: 'number', label: 'Turns', help: 'How often it goes round.', default: 4, min: 0, above: true, max: 100_000, step: 0.05 },
    pointsPerTurn: { kind: 'integer', label: 'Points per turn', help: 'How finely it is divided.', default: 24, min: 3, max: 10_000, unit: 'per turn' },
    hand: { kind: 'choice', label: 'Hand', help: 'Which way it screws.', default: 'right', choices: { right: 'right', left: 'left' } },
  },
  run: ({ settings, claim }) => {
    claim({ points: Math.round(settings.turns * settings.pointsPerTurn) + 1 });
    const { radius } = settings;
    const at = (t: number): number => (typeof radius === 'number' ? radius : 'ramp' in radius ? rampAt(radius.ramp, radius.ease ?? 'linear', t) : NaN);
    return { curves: helix({ ...settings, radius: at }) };
  },
});

const importCurves = defineNode({
  type: 'lay.importCurves',
  label: 'Imported curves',
  family: families.lay,
  summary: 'Curves from a file: points in a CSV table or paths in an SVG drawing.',
  help: 'Gives the curves of an imported file. CSV: a table with columns x, y, z (and curve, for several). SVG: every path, line and shape, one unit as one metre before scaling, y turned up. Drop a file on the graph to make this node.',
  keywords: ['file', 'svg', 'csv', 'drawing', 'table', 'load', 'open'],
  outputs: curvesOut,
  settings: {
    asset: { kind: 'asset', label: 'File', help: 'The imported file.', default: '' },
    scale: { kind: 'number', label: 'Scale', help: 'Metres per unit of the file.', default: 1, min: 0, above: true, unit: 'm', step: 0.001 },
    up: { kind: 'choice', label: 'Up', help: 'Which axis of the file points up.', default: 'y', choices: { y: 'Y', z: 'Z' } },
  },
  run: ({ settings, importedCurves, warn, claim }) => {
    if (!settings.asset) {
      warn({ code: 'empty', message: 'No file is chosen yet.', remedy: 'Drop a CSV or SVG file on the graph, or choose one in the settings.' });
      return { curves: emptyCurves };
    }
    const curves = importedCurves(settings.asset);
    claim({ points: curves.positions.length / 3 });
    const { scale } = settings;
    const turn = settings.up === 'z' ? -90 : 0;
    return { curves: transformGeometry(curves, affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [scale, scale, scale], pivot: [0, 0, 0] })) };
  },
});

export const layNodes = [line, drawn, circleNode, helixNode, importCurves];
