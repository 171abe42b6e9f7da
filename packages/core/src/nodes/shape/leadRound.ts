import { bodyIn, curvesIn, curvesOut } from '../../definition/ports.js';
import { paced } from '../../curves/change/resample.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, lineOf } from '../../definition/sample.js';
import { surfaceOf } from '../../near/surface.js';
import { leadRound } from '../../place/leadRound.js';

export default defineNode({
  type: 'shape.leadRound',
  label: 'Lead round',
  family: families.shape,
  summary: 'Leads curves that pass through a body round it, on the shortest way or pushed aside.',
  help: 'Each stretch that passes through the body, or nearer to it than the clearance, is taken out to the side where that is nearest, from the last point before it to the first behind it, and drawn tight against the body; or it is only pushed aside, so that it keeps its course seen from there. The rest of the curve stays as it is. Ends of open curves may lie on the body. Points on the way have the values of the point before it. Count half the thickness of the rope into the clearance. What finds no way round stays as it was, and is told.',
  attributes: { drops: ['tangent', 'normal', 'handleIn', 'handleOut'] },
  keywords: ['avoid', 'obstacle', 'around', 'detour', 'route', 'clearance', 'collide', 'pass through'],
  asks: {
    'lead it round the body': {},
    'go round an obstacle': {},
    'push the curve aside': { way: 'aside' },
    'cable round a pillar': { clearance: 0.03 },
  },
  telling: ['way', 'clearance'],
  sample: { given: { curves: lineOf([-2, 0.2, 0], [2, 0.3, 0]), body: ball } },
  inputs: [curvesIn, bodyIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    way: { kind: 'choice', label: 'Way', help: 'How it gets round.', default: 'taut', choices: { taut: 'drawn tight', aside: 'pushed aside' } },
    clearance: {
      kind: 'number',
      label: 'Clearance',
      help: 'From the body to the middle of what is led round it.',
      default: 0.02,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.001,
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const { curves, stuck } = leadRound(paced(input('curves'), context), surfaceOf(input('body'), context), settings, context);
    if (stuck.length)
      warn({
        code: 'through-body',
        curve: stuck[0],
        message: `${stuck.length} ${stuck.length === 1 ? 'stretch finds' : 'stretches find'} no way round the body, the first on curve ${stuck[0] + 1}.`,
        remedy: 'Give it less clearance, or begin and end outside the body.',
      });
    return { curves };
  },
});
