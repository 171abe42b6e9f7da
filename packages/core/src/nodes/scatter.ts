import { scatterOnCurves } from '../place/scatterCurves.js';
import { scatterOnFaces } from '../place/scatterFaces.js';
import { defineNode, type Warning } from '../graph/define.js';
import { families } from './families.js';

const seedSetting = { kind: 'integer', label: 'Seed', help: 'Another seed, other places.', default: 1, min: 0, max: 2_147_483_647 } as const;
const gapSetting = { kind: 'number', label: 'Least gap', help: 'Between two points at least; 0 lets them fall anywhere.', default: 0, min: 0, unit: 'm', step: 0.01 } as const; // prettier-ignore
const pointsOut = [{ name: 'points', kind: 'points' }] as const;

/** Tells that some points found no place. */
function tellLeft(left: number, warn: (warning: Warning) => void): void {
  if (!left) return;
  const points = left === 1 ? '1 point was' : `${left} points were`;
  warn({ code: 'empty', message: `There is no room for more: ${points} left out.`, remedy: 'Ask for fewer, or make the gap smaller.' });
}

export const scatterOnCurvesNode = defineNode({
  type: 'pace.scatter',
  label: 'Scatter on curves',
  family: families.pace,
  summary: 'Points at random places along curves.',
  help: 'Each point draws its own curve, all with the same chance or by length, and its own place along it between the least and the greatest fraction of that curve’s length. The same seed draws the same places, and more points keep those there were. Points carry tangent and normal, t, s and the number of their curve, with the curve’s values; copies placed on them follow. A gap keeps points of one curve apart.',
  attributes: { reads: ['tangent', 'normal'], writes: ['tangent', 'normal', 't', 's', 'curve', 'id'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['random', 'distribute', 'strew', 'place', 'many', 'along', 'buds', 'knots'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: pointsOut,
  settings: {
    count: { kind: 'integer', label: 'Count', help: 'Points on all curves together.', default: 20, min: 0, max: 10_000_000 },
    seed: seedSetting,
    least: { kind: 'number', label: 'Least', help: 'From which fraction of the length on; below 0 counts as 0.', default: 0, step: 0.01 },
    greatest: { kind: 'number', label: 'Greatest', help: 'Up to which fraction; above 1 counts as 1.', default: 1, step: 0.01 },
    share: {
      kind: 'choice',
      label: 'Share',
      help: 'Which curves get how many.',
      default: 'equalChance',
      choices: { equalChance: 'each curve alike', byLength: 'by length' },
    },
    minGap: gapSetting,
  },
  run: (context) => {
    const { settings, curves, warn, claim } = context;
    claim({ points: settings.count });
    const { points, left } = scatterOnCurves(curves('curves'), settings, context);
    tellLeft(left, warn);
    return { points };
  },
});

export const scatterOnFacesNode = defineNode({
  type: 'place.scatter',
  label: 'Scatter on faces',
  family: families.place,
  summary: 'Points at random places of a mesh, evenly over its area.',
  help: 'So many points on the whole, or so many a square metre, which may differ from face to face: by a formula, an attribute or chance. Only where leaves faces out. Points carry the normal of the surface and a tangent across it, the values of their face, and those of its corners between them. The same seed draws the same places; by density each face keeps its own points when others change. A gap keeps points apart, straight through space.',
  attributes: { reads: ['normal'], writes: ['tangent', 'normal', 'id'], keeps: ['corner', 'face', 'whole'] },
  keywords: ['random', 'distribute', 'strew', 'grass', 'density', 'sprinkle', 'points', 'surface'],
  inputs: [{ name: 'mesh', kinds: ['mesh'] }],
  outputs: pointsOut,
  where: 'self',
  settings: {
    by: { kind: 'choice', label: 'By', help: 'On the whole, or by area.', default: 'count', choices: { count: 'count', density: 'density' } },
    count: { kind: 'integer', label: 'Count', help: 'Points on all faces together.', default: 100, min: 0, max: 10_000_000, shownWhen: { by: ['count'] } },
    density: {
      kind: 'number',
      label: 'Density',
      help: 'Points a square metre.',
      default: 10,
      min: 0,
      unit: '/m²',
      step: 0.1,
      varies: 'face',
      shownWhen: { by: ['density'] },
    },
    seed: seedSetting,
    minGap: gapSetting,
    where: {
      kind: 'boolean',
      label: 'Only where',
      help: 'Faces that get points: all, none, or those for which a condition holds.',
      default: true,
      condition: true,
    },
  },
  run: (context) => {
    const { settings, mesh, field, warn, claim } = context;
    const given = mesh('mesh');
    if (settings.by === 'count') claim({ points: settings.count });
    const where = field(settings.where, given, 'face');
    const { points, left } = scatterOnFaces(given, { ...settings, where, density: field(settings.density, given, 'face') }, context);
    tellLeft(left, warn);
    return { points };
  },
});
