import { anyOut, bodyIn } from '../../definition/ports.js';
import { drape } from '../../shape/drape.js';
import { surfaceOf } from '../../near/surface.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'shape.drape',
  label: 'Drape',
  family: families.shape,
  summary: 'Lays curves, points or a mesh on a body.',
  help: 'Nearest takes each point to the nearest place of the body. Along a direction it comes to lie on what is met first that way, or, where there is nothing, on what lies behind it: a path that runs partly under the ground comes up. The offset lifts it off the surface, outwards from the nearest place or against the direction. Refine gives curves more points where they are needed, so that they follow the ground within the tolerance and do not sink into hills; they come out straight between their points. Points that have nothing of the body in their way stay, with a warning.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['project', 'drop to floor', 'snap to ground', 'snap', 'lay', 'ground', 'terrain', 'stick', 'path', 'shrinkwrap', 'fall'],
  asks: {
    'lay on the ground': { method: 'alongDirection' },
    'stick to the surface': { method: 'nearest' },
    'follow the ground closely': { follow: 'refine' },
    'hover above the ground': { offset: 0.05 },
  },
  telling: ['method', 'offset'],
  sample: {
    settings: { method: 'alongDirection', follow: 'refine', offset: 0.02 },
    given: { any: { type: 'lay.circle', settings: { radius: 0.6, centre: [0, 1.5, 0] } } },
  },
  handles: [{ kind: 'direction', setting: 'direction', at: ['middle'] }],
  inputs: [{ name: 'any', kinds: ['curves', 'points', 'mesh'], aliases: ['curves', 'points', 'mesh'] }, bodyIn],
  outputs: [{ ...anyOut, aliases: ['curves', 'points', 'mesh'] }],
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
    const { settings, input, warn } = context;
    const subject = input('any');
    const { draped, missed } = drape(subject, surfaceOf(input('body'), context), settings, context);
    if (missed)
      warn({
        code: 'degenerate',
        message: `${missed} ${missed === 1 ? 'point has' : 'points have'} nothing of the body in the way, and stayed.`,
        remedy: 'Make the body larger, or use the nearest place.',
      });
    return { any: draped };
  },
});
