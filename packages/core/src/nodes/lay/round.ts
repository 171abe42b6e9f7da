import { circle, helix } from '../../curves/generate.js';
import { shareOf } from '../../values/share.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

const curvesOut = [{ name: 'curves', kind: 'curves' }] as const;

export const circleNode = defineNode({
  type: 'lay.circle',
  label: 'Circle',
  family: families.lay,
  summary: 'A circle, or an open arc of one.',
  help: 'Gives a closed circle, or an open arc when its span is less than 360°. It runs counter-clockwise seen against its axis, and starts on the side of world X. The points are where rings and copies go; the curve between them stays round when it is resampled.',
  keywords: ['ring', 'arc', 'round', 'loop'],
  outputs: curvesOut,
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

export const helixNode = defineNode({
  type: 'lay.helix',
  label: 'Helix',
  family: families.lay,
  summary: 'A screw line about the vertical, with an even or a changing radius.',
  help: 'Gives a helix that rises along Y from the origin. The radius may change with the height, for cones and springs: formulas and ramps know it as t. Right-handed: it rises as a right-hand thread does.',
  keywords: ['spiral', 'coil', 'spring', 'screw', 'thread'],
  outputs: curvesOut,
  settings: {
    radius: {
      kind: 'number',
      label: 'Radius',
      help: 'Distance from the axis; a ramp runs from the foot to the top.',
      default: 0.5,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.005,
      varies: 'point',
    },
    height: { kind: 'number', label: 'Height', help: 'From foot to top; 0 is a flat spiral.', default: 2, unit: 'm', step: 0.01 },
    turns: { kind: 'number', label: 'Turns', help: 'How often it goes round.', default: 4, min: 0, above: true, max: 100_000, step: 0.05 },
    pointsPerTurn: { kind: 'integer', label: 'Points per turn', help: 'How finely it is divided.', default: 24, min: 3, max: 10_000, unit: 'per turn' },
    hand: { kind: 'choice', label: 'Hand', help: 'Which way it screws.', default: 'right', choices: { right: 'right', left: 'left' } },
  },
  run: ({ settings, claim, field }) => {
    claim({ points: Math.round(settings.turns * settings.pointsPerTurn) + 1 });
    return { curves: helix({ ...settings, radius: shareOf(settings.radius, field) }) };
  },
});
