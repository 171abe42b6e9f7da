import { curvesIn, pointsOut } from '../../definition/ports.js';
import { scatterOnCurves } from '../../place/scatterCurves.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { gapSetting, seedSetting, tellLeft } from '../settings/scattering.js';

export default defineNode({
  type: 'pace.scatter',
  label: 'Scatter on curves',
  family: families.pace,
  summary: 'Points at random places along curves.',
  help: 'Each point draws its own curve, all with the same chance or by length, and its own place along it between the least and the greatest fraction of that curve’s length. The same seed draws the same places, and more points keep those there were. Points carry tangent and normal, t, s and the number of their curve, with the curve’s values; copies placed on them follow. A gap keeps points of one curve apart.',
  attributes: { reads: ['tangent', 'normal'], writes: ['tangent', 'normal', 't', 's', 'curve', 'id'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['random', 'distribute', 'strew', 'place', 'many', 'along', 'buds', 'knots'],
  asks: {
    'points by chance along curves': {},
    'random points along the path': { count: 50 },
  },
  telling: ['count'],
  inputs: [curvesIn],
  outputs: [pointsOut],
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
    const { settings, input, warn, claim } = context;
    claim({ points: settings.count });
    const { points, left } = scatterOnCurves(input('curves'), settings, context);
    tellLeft(left, warn);
    return { points };
  },
});
