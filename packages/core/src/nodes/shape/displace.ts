import { seedSetting } from '../settings/common.js';
import { anyIn, anyOut } from '../../definition/ports.js';
import { asBezier } from '../../curves/evaluate/knots.js';
import { defineNode } from '../../definition/define.js';
import { displace } from '../../shape/displace.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'shape.displace',
  label: 'Displace',
  family: families.shape,
  summary: 'Moves points by noise, or along a vector.',
  help: 'Noise is smooth and the same for the same seed; its size is about the distance from one bump to the next. Free moves in any direction, along the normal only in and out, in the frame’s plane only across the path. Smooth curves run through their moved points afterwards; meshes get new normals and stay shut at seams.',
  attributes: { reads: ['normal'], drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['noise', 'jitter', 'wobble', 'random', 'perturb', 'bump', 'shake'],
  asks: {
    'make it uneven': {},
    'add noise': { pattern: 'noise' },
    'wobble by noise': { amount: 0.05 },
    'bumps along the normal': { along: 'normal' },
  },
  telling: ['amount'],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'point',
  settings: {
    amount: { kind: 'number', label: 'Amount', help: 'How far points move at most.', default: 0.1, unit: 'm', step: 0.002, varies: 'point' },
    pattern: { kind: 'choice', label: 'Pattern', help: 'By noise, or all along one vector.', default: 'noise', choices: { noise: 'noise', vector: 'vector' } },
    vector: {
      kind: 'vector',
      label: 'Vector',
      help: 'The direction, times the amount. It may be an attribute of three numbers; chance draws each axis apart; a formula or a ramp gives all three axes one number.',
      default: [0, 1, 0],
      step: 0.01,
      varies: 'point',
      shownWhen: { pattern: ['vector'] },
    },
    size: {
      kind: 'number',
      label: 'Size',
      help: 'From one bump to the next.',
      default: 1,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.01,
      shownWhen: { pattern: ['noise'] },
    },
    seed: { ...seedSetting, help: 'Another seed, another noise.', shownWhen: { pattern: ['noise'] } },
    along: {
      kind: 'choice',
      label: 'Along',
      help: 'Which ways points may go.',
      default: 'free',
      choices: { free: 'free', normal: 'normal', framePlane: 'frame plane' },
    },
  },
  run: (context) => {
    const { settings, input, field, vectorField } = context;
    const given = input('any');
    const basis = given.type === 'curves' ? asBezier(given) : given;
    const [amount, vector] = [field(settings.amount, basis, 'point'), vectorField(settings.vector, basis, 'point')];
    return { any: displace(basis, { ...settings, amount, vector }, context) };
  },
});
