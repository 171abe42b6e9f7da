import { curvesIn, curvesOut } from '../../definition/ports.js';
import { resample } from '../../curves/change/resample.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'pace.resample',
  label: 'Resample',
  family: families.pace,
  summary: 'New points along each curve: so many, so far apart, or as many as its shape needs.',
  help: 'Lays new points along the true length of each curve, not along its chords. By count: so many per curve, ends included. By spacing: so far apart, evened out so that the end is met, or exact with a shorter last piece. By deviation: no chord farther from the curve than this. Point values are interpolated; frames are dropped, since they belong to the old points. Smooth curves stay smooth: resampled to 8 points a circle lies off by 4 millionths of its radius, to 4 by 3 ten-thousandths.',
  attributes: { writes: ['tangent'], drops: ['normal'] },
  keywords: ['points', 'density', 'divide', 'spacing', 'even', 'segments', 'subdivide', 'rebuild'],
  asks: {
    'points so far apart': { by: 'spacing', spacing: 0.1 },
    'so many points': { by: 'count', count: 24 },
    'more points in bends': { spread: 'curvature' },
    'as few points as the shape needs': { by: 'deviation' },
    'even out the points': { by: 'spacing' },
    'keep the corners when resampling': { keepCorners: 30 },
  },
  telling: ['by', 'count', 'spacing', 'deviation'],
  usualAfter: { curves: 2 },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    by: {
      kind: 'choice',
      label: 'By',
      help: 'What decides how many points there are.',
      default: 'count',
      choices: { count: 'count', spacing: 'spacing', deviation: 'deviation' },
    },
    count: {
      kind: 'integer',
      label: 'Count',
      help: 'Points per curve, ends included.',
      default: 20,
      min: 2,
      max: 20_000_000,
      varies: 'curve',
      shownWhen: { by: ['count'] },
    },
    spacing: {
      kind: 'number',
      label: 'Spacing',
      help: 'Distance along the curve between points.',
      default: 0.1,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.001,
      varies: 'curve',
      shownWhen: { by: ['spacing'] },
    },
    deviation: {
      kind: 'number',
      label: 'Deviation',
      help: 'How far a chord may lie from the curve.',
      default: 0.001,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.0001,
      shownWhen: { by: ['deviation'] },
    },
    fit: {
      kind: 'choice',
      label: 'Fit',
      help: 'Even: the spacing is adjusted so that the end is met. Exact: the last piece is shorter.',
      default: 'even',
      choices: { even: 'even', exact: 'exact' },
      shownWhen: { by: ['spacing'] },
    },
    spread: {
      kind: 'choice',
      label: 'Spread',
      help: 'Even gaps, gaps that shrink toward both ends, or gaps that shrink where the curve bends.',
      default: 'even',
      choices: { even: 'even', ends: 'closer to the ends', curvature: 'closer in bends' },
      aliases: { closerToTheEnds: 'ends' },
      shownWhen: { by: ['count', 'spacing'] },
    },
    keepCorners: {
      kind: 'number',
      label: 'Keep corners',
      help: 'Corners that turn by more than this stay points, and the points between are spread from corner to corner; 0 keeps none.',
      default: 0,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
      shownWhen: { by: ['count', 'spacing'] },
    },
  },
  run: (context) => {
    const { settings, input, field } = context;
    const given = input('curves');
    const options = { ...settings, count: field(settings.count, given, 'curve'), spacing: field(settings.spacing, given, 'curve') };
    return { curves: resample(given, options, context) };
  },
});
