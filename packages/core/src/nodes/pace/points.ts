import { curvesIn, pointsOut } from '../../definition/ports.js';
import { pickPoints } from '../../curves/change/split.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { cornerAngle } from '../settings/cornerAngle.js';

export default defineNode({
  type: 'pace.points',
  label: 'Points of curves',
  family: families.pace,
  summary: 'Some of the points of curves: every n-th, the ends, or the corners.',
  help: 'Gives points with the frames of their curve (its own, or minimal ones), t and s along it, the number of their curve, an id of their own and the seed that chance is drawn by; values on points and curves come along.',
  attributes: {
    reads: ['tangent', 'normal'],
    writes: ['tangent', 'normal', 't', 's', 'curve', 'id', 'seed'],
    keeps: ['point', 'curve', 'whole'],
    drops: ['handleIn', 'handleOut'],
  },
  keywords: ['ends', 'corners', 'every', 'pick', 'extract', 'vertices'],
  asks: {
    'every second point': { which: 'every', every: 2 },
    'points of the curve': { which: 'every', every: 1 },
    'only the ends': { which: 'ends' },
    'only the corners': { which: 'corners' },
  },
  telling: ['which'],
  inputs: [curvesIn],
  outputs: [pointsOut],
  settings: {
    which: {
      kind: 'choice',
      label: 'Which',
      help: 'The points to take.',
      default: 'every',
      choices: { every: 'every n-th', ends: 'ends only', corners: 'corners only' },
      aliases: { everyNTh: 'every', everyNth: 'every', endsOnly: 'ends', cornersOnly: 'corners' },
    },
    every: {
      kind: 'integer',
      label: 'Every',
      help: 'Takes each so-manieth point of a curve, from its first on.',
      default: 1,
      min: 1,
      shownWhen: { which: ['every'] },
    },
    angle: { ...cornerAngle, shownWhen: { which: ['corners'] } },
  },
  run: (context) => {
    const { settings, input } = context;
    return { points: pickPoints(input('curves'), settings.which, settings.every, settings.angle, context) };
  },
});
