import { curvesOut, meshIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import type { DataSetting } from '../../definition/settings.js';
import { families } from '../../definition/families.js';
import { ball, strokeOverBall } from '../../definition/sample.js';
import { surfaceOf } from '../../near/surface.js';
import { asStroke, placeStrokes, type GivenStroke, type Stroke } from '../../place/strokes.js';
import { drape } from '../../shape/drape.js';
import { drawnFault, isPlace } from './drawnFault.js';

function strokesFault(value: unknown): { path: string; message: string } | null {
  if (!Array.isArray(value)) return { path: '', message: 'This must be a list of strokes.' };
  const whole = value.map((stroke: unknown) => (Array.isArray(stroke) ? { points: stroke } : stroke));
  const fault = drawnFault(whole, 'stroke', ['on', 'triangles']);
  if (fault) return fault;
  for (const [i, { points, on, triangles }] of (whole as Stroke[]).entries()) {
    if (on === undefined && triangles === undefined) continue;
    const path = `/${i}/on`;
    if (!Array.isArray(on) || on.length !== points.length)
      return { path, message: `stroke ${i} needs a place on the body for each of its ${points.length} points.` };
    if (!Number.isInteger(triangles) || triangles! < 1)
      return { path: `/${i}/triangles`, message: `triangles of stroke ${i} must be how many triangles the body had.` };
    const bad = on.findIndex((place: unknown) => {
      if (!isPlace(place)) return true;
      const [triangle, second, third] = place as number[];
      return !Number.isInteger(triangle) || triangle < 0 || triangle >= triangles! || second < 0 || third < 0 || second + third > 1 + 1e-6;
    });
    if (bad >= 0)
      return { path: `${path}/${bad}`, message: `place ${bad} of stroke ${i} is ${JSON.stringify(on[bad])}; it is a triangle (0 to ${triangles! - 1}) and two shares that sum to 1 at most.` }; // prettier-ignore
  }
  return null;
}

const strokesSetting: DataSetting<readonly GivenStroke[]> = {
  kind: 'data',
  edit: 'strokes',
  label: 'Strokes',
  help: 'The strokes and their points: drawn on the body in the 3D view.',
  default: [],
  fault: strokesFault,
};

export default defineNode({
  type: 'lay.surfaceStroke',
  label: 'Stroke on surface',
  family: families.lay,
  summary: 'Curves drawn by hand on a body, which keep to it.',
  help: 'Draw on the body in the 3D view: a click lays a point, a drag a whole line. Each point is kept by its place on the body (a triangle, and where on it), so the stroke goes along when the body is moved or bent. Where the body has other triangles than when it was drawn, each point goes to the nearest place of it instead, with a warning. Between its points a stroke follows the surface within the tolerance, or runs straight. The offset lifts it off outwards.',
  keywords: ['draw', 'surface', 'paint', 'guide', 'path', 'vein', 'line', 'mesh', 'sketch'],
  asks: {
    'draw on a surface': {},
    'draw on a body': {},
    'a line on the mesh by hand': {},
  },
  telling: ['offset'],
  sample: { settings: { strokes: [strokeOverBall] }, given: { mesh: ball } },
  role: 'drawing',
  inputs: [meshIn],
  outputs: [curvesOut],
  settings: {
    strokes: strokesSetting,
    offset: { kind: 'number', label: 'Offset', help: 'Off the surface; below 0 into it.', default: 0, unit: 'm', step: 0.001 },
    between: {
      kind: 'choice',
      label: 'Between points',
      help: 'On the surface, with as many points as it takes, or straight.',
      default: 'surface',
      choices: { surface: 'on the surface', straight: 'straight' },
    },
    tolerance: {
      kind: 'number',
      label: 'Tolerance',
      help: 'How far a stroke may be off the surface between its points.',
      default: 0.005,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.001,
      shownWhen: { between: ['surface'] },
    },
  },
  run: (context) => {
    const { settings, input, claim, warn } = context;
    const strokes = settings.strokes.map(asStroke);
    claim({ points: strokes.reduce((sum, { points }) => sum + points.length, 0) });
    const body = surfaceOf(input('mesh'), context);
    const { curves, elsewhere, furthest } = placeStrokes(strokes, body, context);
    if (elsewhere)
      warn({
        code: 'degenerate',
        message: `${elsewhere} of ${strokes.length} strokes were drawn on a body with other triangles; the nearest places are taken, up to ${Number(furthest.toPrecision(3))} m away.`,
        remedy: 'Draw them anew, or give it the body that they were drawn on.',
      });
    const short = strokes.findIndex(({ points }) => points.length === 1);
    if (short >= 0)
      warn({ code: 'degenerate', curve: short, at: 0, message: `Stroke ${short + 1} has one point, so it has no length.`, remedy: 'Give it a second point.' });
    const follow = settings.between === 'surface' ? 'refine' : 'points';
    const { draped } = drape(
      curves,
      body,
      { method: 'nearest', direction: [0, -1, 0], follow, offset: settings.offset, tolerance: settings.tolerance },
      context,
    );
    return { curves: draped };
  },
});
