import { curvesIn, curvesOut } from '../../definition/ports.js';
import { hang } from '../../curves/change/hang.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { lineOf } from '../../definition/sample.js';

export default defineNode({
  type: 'shape.hang',
  label: 'Hang',
  family: families.shape,
  summary: 'Ropes that hang between the ends of curves, in true catenaries.',
  help: 'Each curve becomes a rope that hangs between its ends, at whatever heights they are. By sag: how far its lowest part lies below the straight line between the ends. By slack: how much longer than that line the rope is (0.05 is 5 % longer). Choose Each pair of points to hang one rope from point to point, such as from post to post. Points are even along the rope, with exact tangents; where so few could not hold its length (to 1/10,000) they lie closer at the bottom, and if need be there are more.',
  attributes: { writes: ['tangent'], keeps: ['curve'] },
  keywords: ['catenary', 'sag', 'slack', 'droop', 'cable', 'gravity', 'rope'],
  asks: {
    'let it hang': {},
    'more sag': { by: 'sag', value: 0.5 },
    'a taut rope': { by: 'slack', value: 1 },
    'hang between every post': { spans: 'each' },
    'a catenary': {},
  },
  telling: ['by', 'value'],
  sample: { given: { curves: lineOf([-1, 1, 0], [1, 1.2, 0]) } },
  usualAfter: { curves: 1 },
  handles: [{ kind: 'direction', setting: 'down', at: ['middle'] }],
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    by: { kind: 'choice', label: 'By', help: 'Sag in metres, or slack as a share of the distance.', default: 'sag', choices: { sag: 'sag', slack: 'slack' } },
    value: {
      kind: 'number',
      label: 'Amount',
      help: 'Sag in metres, or slack as length ÷ distance − 1.',
      default: 0.3,
      min: 0,
      max: 1e6,
      unit: 'm',
      step: 0.005,
      varies: 'curve',
    },
    points: { kind: 'integer', label: 'Points', help: 'Points per rope, ends included.', default: 24, min: 2, max: 20_000_000 },
    spans: {
      kind: 'choice',
      label: 'Between',
      help: 'One rope between the ends of each curve, or one from each point to the next.',
      default: 'ends',
      choices: { ends: 'ends of each curve', each: 'each pair of points' },
    },
    down: { kind: 'vector', label: 'Down', help: 'Which way the ropes hang.', default: [0, -1, 0], direction: true },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = input('curves');
    const hung = hang(given, { ...settings, value: field(settings.value, given, 'curve') }, context);
    for (const curve of hung.upright)
      warn({
        code: 'degenerate',
        curve,
        at: 0,
        message: `The ends of curve ${curve + 1} lie one above the other, so it has no sag; it was drawn straight.`,
        remedy: 'Hang it by slack.',
      });
    if (!hung.curves.positions.length)
      warn({ code: 'empty', message: 'No curve that came in has two points to hang between.', remedy: 'Look at the node before it.' });
    return { curves: hung.curves };
  },
});
