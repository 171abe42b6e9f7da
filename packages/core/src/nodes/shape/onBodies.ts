import type { Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import type { Points } from '../../geometry/points.js';
import { drape } from '../../shape/drape.js';
import { keepOutside } from '../../shape/keepOutside.js';
import { surfaceOf } from '../../space/surface.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

const bodyIn = { name: 'body', kinds: ['mesh'] } as const;

export const drapeNode = defineNode({
  type: 'shape.drape',
  label: 'Drape',
  family: families.shape,
  summary: 'Lays curves, points or a mesh on a body.',
  help: 'Nearest takes each point to the nearest place of the body. Along a direction it comes to lie on what is met first that way, or, where there is nothing, on what lies behind it: a path that runs partly under the ground comes up. The offset lifts it off the surface, outwards from the nearest place or against the direction. Refine gives curves more points where they are needed, so that they follow the ground within the tolerance and do not sink into hills; they come out straight between their points. Points that have nothing of the body in their way stay, with a warning.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['project', 'ground', 'terrain', 'snap', 'lay', 'stick', 'path', 'shrinkwrap', 'fall'],
  inputs: [{ name: 'any', kinds: ['curves', 'points', 'mesh'], aliases: ['curves', 'points', 'mesh'] }, bodyIn],
  outputs: [{ name: 'any', kind: 'any', aliases: ['curves', 'points', 'mesh'] }],
  passes: true,
  where: 'point',
  settings: {
    method: {
      kind: 'choice',
      label: 'Method',
      help: 'Which place of the body a point comes to.',
      default: 'nearest',
      choices: { nearest: 'nearest', alongDirection: 'along direction' },
    },
    direction: {
      kind: 'vector',
      label: 'Direction',
      help: 'The way points fall.',
      default: [0, -1, 0],
      direction: true,
      shownWhen: { method: ['alongDirection'] },
    },
    offset: { kind: 'number', label: 'Offset', help: 'Off the surface; below 0 into it.', default: 0, unit: 'm', step: 0.001 },
    follow: {
      kind: 'choice',
      label: 'Follow',
      help: 'With the points there are, or with as many as it takes.',
      default: 'points',
      choices: { points: 'points', refine: 'refine' },
    },
    tolerance: {
      kind: 'number',
      label: 'Tolerance',
      help: 'How far curves may be off the surface between their points.',
      default: 0.01,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.001,
      shownWhen: { follow: ['refine'] },
    },
  },
  run: (context) => {
    const { settings, input, mesh, warn } = context;
    const subject = input('any') as Curves | Points | Mesh;
    const { draped, missed } = drape(subject, surfaceOf(mesh('body'), context), settings, context);
    if (missed)
      warn({
        code: 'degenerate',
        message: `${missed} ${missed === 1 ? 'point has' : 'points have'} nothing of the body in the way, and stayed.`,
        remedy: 'Make the body larger, or use the nearest place.',
      });
    return { any: draped };
  },
});

export const keepOutsideNode = defineNode({
  type: 'shape.keepOutside',
  label: 'Keep outside',
  family: families.shape,
  summary: 'Moves points that lie in a body, or too near to it, out to a padding.',
  help: 'A point is inside by the side of the nearest place that it lies on; at edges and corners all faces there tell it. It goes to the nearest place plus the padding along the surface’s normal; points that are far enough do not move at all. Roots may stay in the body. Keep length draws what follows after a moved point, so that strands do not get longer or shorter but where the body forces them. Nothing is lost: switch it off, or change the padding, and the curves are as they were. What cannot get out of a narrow place is told.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['collide', 'collision', 'push', 'hair', 'penetrate', 'clearance', 'avoid', 'skin', 'outside'],
  inputs: [{ name: 'curves', kinds: ['curves'] }, bodyIn],
  outputs: [{ name: 'curves', kind: 'curves' }],
  passes: true,
  where: 'point',
  settings: {
    padding: { kind: 'number', label: 'Padding', help: 'Off the body at least.', default: 0.002, min: 0, unit: 'm', step: 0.0005 },
    keepRoots: { kind: 'boolean', label: 'Keep roots', help: 'The first point of each curve stays where it is.', default: true },
    keepLength: { kind: 'boolean', label: 'Keep length', help: 'Pieces keep their lengths as far as the body lets them.', default: false },
    iterations: { kind: 'integer', label: 'Iterations', help: 'How often moved points are looked at again.', default: 8, min: 1, max: 100 },
  },
  run: (context) => {
    const { settings, curves, mesh, warn } = context;
    const { curves: kept, left } = keepOutside(curves('curves'), surfaceOf(mesh('body'), context), settings, context);
    if (left)
      warn({
        code: 'through-body',
        message: `${left} ${left === 1 ? 'point is' : 'points are'} still nearer to the body than the padding.`,
        remedy: 'Give it more iterations, or less padding: the body is narrow there.',
      });
    return { curves: kept };
  },
});
