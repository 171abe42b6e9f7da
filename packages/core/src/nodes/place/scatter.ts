import { meshIn, pointsOut } from '../../definition/ports.js';
import { scatterOnFaces } from '../../place/scatterFaces.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { gapSetting, seedSetting, tellLeft } from '../settings/scattering.js';

export default defineNode({
  type: 'place.scatter',
  label: 'Scatter on faces',
  family: families.place,
  summary: 'Points at random places of a mesh, evenly over its area.',
  help: 'So many points on the whole, or so many a square metre, which may differ from face to face: by a formula, an attribute or chance. Only where leaves faces out. Points carry the normal of the surface and a tangent across it, the values of their face, and those of its corners between them. The same seed draws the same places; by density each face keeps its own points when others change. A gap keeps points apart, straight through space.',
  attributes: { reads: ['normal'], writes: ['tangent', 'normal', 'id'], keeps: ['corner', 'face', 'whole'] },
  keywords: ['populate', 'random', 'distribute', 'strew', 'grass', 'density', 'sprinkle', 'points', 'surface'],
  asks: {
    'scatter over the ground': {},
    'grass on a mesh': { by: 'density', density: 20 },
    'so many points on the surface': { by: 'count', count: 200 },
    'not too close together': { minGap: 0.2 },
  },
  telling: ['count', 'density'],
  inputs: [meshIn],
  outputs: [pointsOut],
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
    const { settings, input, field, warn, claim } = context;
    const given = input('mesh');
    if (settings.by === 'count') claim({ points: settings.count });
    const where = field(settings.where, given, 'face');
    const { points, left } = scatterOnFaces(given, { ...settings, where, density: field(settings.density, given, 'face') }, context);
    tellLeft(left, warn);
    return { points };
  },
});
