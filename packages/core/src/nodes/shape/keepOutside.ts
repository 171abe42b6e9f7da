import { bodyIn, curvesIn, curvesOut } from '../../definition/ports.js';
import { keepOutside } from '../../shape/keepOutside.js';
import { surfaceOf } from '../../near/surface.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, lineOf } from '../../definition/sample.js';

export default defineNode({
  type: 'shape.keepOutside',
  label: 'Keep outside',
  family: families.shape,
  summary: 'Moves points that lie in a body, or too near to it, out to a clearance.',
  help: 'A point is inside by the side of the nearest place that it lies on; at edges and corners all faces there tell it. It goes to the nearest place plus the clearance along the surface’s normal; points that are far enough do not move at all. Roots may stay in the body. Keep length draws what follows after a moved point, so that strands do not get longer or shorter but where the body forces them. Nothing is lost: switch it off, or change the clearance, and the curves are as they were. What cannot get out of a narrow place is told.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['collide', 'collision', 'penetration', 'push out', 'push', 'hair', 'penetrate', 'clearance', 'avoid', 'skin', 'outside'],
  asks: {
    'keep out of a body': {},
    'push out of the mesh': { padding: 0.01 },
    'do not pass through': {},
  },
  telling: ['padding'],
  sample: { given: { curves: lineOf([-2, 0.2, 0], [2, 0.3, 0], 40), body: ball } },
  inputs: [curvesIn, bodyIn],
  outputs: [curvesOut],
  passes: true,
  where: 'point',
  settings: {
    padding: { kind: 'number', label: 'Clearance', help: 'Off the body at least.', default: 0.002, min: 0, unit: 'm', step: 0.0005 },
    keepRoots: { kind: 'boolean', label: 'Keep roots', help: 'The first point of each curve stays where it is.', default: true },
    keepTips: { kind: 'boolean', label: 'Keep tips', help: 'The last point of each curve stays where it is.', default: false },
    keepLength: { kind: 'boolean', label: 'Keep length', help: 'Pieces keep their lengths as far as the body lets them.', default: false },
    iterations: { kind: 'integer', label: 'Iterations', help: 'How often moved points are looked at again.', default: 8, min: 1, max: 100 },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const { curves: kept, left } = keepOutside(input('curves'), surfaceOf(input('body'), context), settings, context);
    if (left)
      warn({
        code: 'through-body',
        message: `${left} ${left === 1 ? 'point is' : 'points are'} still nearer to the body than the clearance.`,
        remedy: 'Give it more iterations, or less clearance: the body is narrow there.',
      });
    return { curves: kept };
  },
});
