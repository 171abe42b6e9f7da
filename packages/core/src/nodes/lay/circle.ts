import { curvesOut } from '../../definition/ports.js';
import { circle } from '../../curves/make/generate.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'lay.circle',
  label: 'Circle',
  family: families.lay,
  summary: 'A circle, or an open arc of one.',
  help: 'Gives a closed circle, or an open arc when its span is less than 360°. It runs counter-clockwise seen against its axis, and starts on the side of world X. The points are where rings and copies go; the curve between them stays round when it is resampled.',
  keywords: ['ring', 'arc', 'round', 'loop'],
  asks: {
    'a ring': {},
    'a half circle': { span: 180 },
    'an open arc': { span: 270 },
  },
  telling: ['radius', 'points'],
  handles: [
    { kind: 'place', setting: 'centre' },
    { kind: 'length', setting: 'radius', at: ['centre'], along: { across: 'axis' } },
    { kind: 'direction', setting: 'axis', at: ['centre'] },
    { kind: 'angle', setting: 'start', at: ['centre'], about: { of: 'axis' } },
    { kind: 'angle', setting: 'span', at: ['centre'], about: { of: 'axis' }, ring: 1.4 },
  ],
  outputs: [curvesOut],
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'From the centre to the curve.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    points: { kind: 'integer', label: 'Points', help: 'Points on the circle; both ends included on an arc.', default: 32, min: 3, max: 20_000_000 },
    centre: { kind: 'vector', label: 'Centre', help: 'The middle.', default: [0, 0, 0], unit: 'm' },
    axis: { kind: 'vector', label: 'Axis', help: 'The direction the circle is square to.', default: [0, 1, 0], direction: true },
    start: { kind: 'number', label: 'Start', help: 'Where the first point lies.', default: 0, unit: '°', step: 1 },
    span: {
      kind: 'number',
      label: 'Span',
      help: 'How far it goes round; less than 360° is an open arc.',
      default: 360,
      min: 0,
      max: 360,
      above: true,
      unit: '°',
      step: 1,
    },
  },
  run: (context) => {
    context.claim({ points: context.settings.points });
    return { curves: circle(context.settings, context) };
  },
});
