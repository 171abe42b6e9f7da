import { curvesOut } from '../../definition/ports.js';
import { helix } from '../../curves/make/generate.js';
import { shareOf } from '../../varying/share.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'lay.helix',
  label: 'Helix',
  family: families.lay,
  summary: 'A screw line about the vertical, with an even or a changing radius.',
  help: 'Gives a helix that rises along Y from the origin. The radius may change with the height, for cones and springs: formulas and ramps know it as t. Right-handed: it rises as a right-hand thread does.',
  keywords: ['spiral', 'coil', 'spring', 'screw', 'thread'],
  asks: {
    'a coil': {},
    'a spring': { turns: 12 },
    'a flat spiral': { height: 0 },
    'wind the other way': { hand: 'left' },
  },
  telling: ['radius', 'height', 'turns'],
  handles: [
    { kind: 'length', setting: 'radius', along: [1, 0, 0] },
    { kind: 'length', setting: 'height', along: [0, 1, 0] },
  ],
  outputs: [curvesOut],
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
