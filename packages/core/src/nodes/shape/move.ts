import { offset } from '../../curves/offset.js';
import { asBezier } from '../../curves/knots.js';
import { roundCorners } from '../../curves/roundCorners.js';
import { curveKinds } from '../../geometry/curves.js';
import { defineNode } from '../../graph/define.js';
import { displace } from '../../shape/displace.js';
import { smoothCurves, smoothMesh } from '../../shape/smooth.js';
import { families } from '../families.js';

export const displaceNode = defineNode({
  type: 'shape.displace',
  label: 'Displace',
  family: families.shape,
  summary: 'Moves points by noise, or along a vector.',
  help: 'Noise is smooth and the same for the same seed; its size is about the distance from one bump to the next. Free moves in any direction, along the normal only in and out, in the frame’s plane only across the path. Smooth curves run through their moved points afterwards; meshes get new normals and stay shut at seams.',
  attributes: { reads: ['normal'], drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['noise', 'jitter', 'wobble', 'random', 'perturb', 'bump', 'shake'],
  inputs: [{ name: 'any', kinds: ['any'] }],
  outputs: [{ name: 'any', kind: 'any' }],
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
    seed: { kind: 'integer', label: 'Seed', help: 'Another seed, another noise.', default: 1, min: 0, max: 1_000_000, shownWhen: { pattern: ['noise'] } },
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
    const given = input('any')!;
    const basis = given.type === 'curves' ? asBezier(given) : given;
    const [amount, vector] = [field(settings.amount, basis, 'point'), vectorField(settings.vector, basis, 'point')];
    return { any: displace(basis, { ...settings, amount, vector }, context) };
  },
});

export const offsetNode = defineNode({
  type: 'shape.offset',
  label: 'Offset',
  family: families.shape,
  summary: 'Curves at a distance beside the given ones, in their plane.',
  help: 'Closed curves grow by a positive distance and shrink by a negative one; open ones move to the left of their way, seen from above. Corners are mitred or rounded; loops that appear where the curve is too narrow are taken out, so a closed curve may fall into several or vanish (with a warning). Each curve is offset in its own plane; a straight line in the level one.',
  attributes: { keeps: ['curve', 'whole'] },
  keywords: ['parallel', 'inset', 'outset', 'border', 'margin', 'contour'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: [{ name: 'curves', kind: 'curves' }],
  passes: true,
  settings: {
    distance: { kind: 'number', label: 'Distance', help: 'How far.', default: 0.1, unit: 'm', step: 0.002, varies: 'point' },
    joins: { kind: 'choice', label: 'Joins', help: 'How outer corners are made.', default: 'mitre', choices: { mitre: 'mitre', round: 'round' } },
  },
  run: (context) => {
    const { settings, curves, field, warn } = context;
    const given = asBezier(curves('curves'), true);
    const { curves: result, gone } = offset(given, { joins: settings.joins, distance: field(settings.distance, given, 'point') }, context);
    for (const curve of gone.slice(0, 50))
      warn({
        code: 'empty',
        curve,
        message: `Nothing is left of curve ${curve}: it is too narrow for this distance, or has no length.`,
        remedy: 'Use a smaller distance.',
      });
    return { curves: result };
  },
});

export const smoothNode = defineNode({
  type: 'shape.smooth',
  label: 'Smooth',
  family: families.shape,
  summary: 'Evens out bumps in curves or meshes.',
  help: 'Moves every point toward the middle of its neighbours, so often. Keep size takes the shrinking back (Taubin 1995). The ends of open curves and the border of open meshes stay where they are, unless you let them go. Normals of meshes are found anew; seams stay shut.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['relax', 'average', 'laplacian', 'even', 'blur', 'soften'],
  inputs: [{ name: 'any', kinds: ['curves', 'mesh'], aliases: ['curves', 'mesh'] }],
  outputs: [{ name: 'any', kind: 'any', aliases: ['curves', 'mesh'] }],
  passes: true,
  where: 'point',
  settings: {
    times: { kind: 'integer', label: 'Times', help: 'How often.', default: 1, min: 0, max: 10_000 },
    strength: { kind: 'number', label: 'Strength', help: 'How far each point goes toward the middle, each time.', default: 0.5, min: 0, max: 1, step: 0.005 },
    keepEnds: { kind: 'boolean', label: 'Keep ends', help: 'Ends and borders stay where they are.', default: true },
    keepSize: { kind: 'boolean', label: 'Keep size', help: 'Does not shrink the whole.', default: false },
  },
  run: (context) => {
    const given = context.input('any')!;
    if (given.type === 'mesh') return { any: smoothMesh(given, context.settings, context) };
    return { any: given.type === 'curves' ? smoothCurves(given, context.settings, context) : given };
  },
});

export const roundCornersNode = defineNode({
  type: 'shape.roundCorners',
  label: 'Round corners',
  family: families.shape,
  summary: 'Replaces the corners of straight curves by arcs.',
  help: 'Each arc touches both legs of its corner and has exact directions at its points, so pipes and offsets follow it truly. With the limit an arc takes at most half of a leg and is made smaller where it would need more. Smooth curves have no corners of this kind and stay as they are. Values go with the corners; frames are dropped.',
  attributes: { drops: ['normal'] },
  keywords: ['fillet', 'radius', 'bend', 'elbow', 'arc', 'soft'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: [{ name: 'curves', kind: 'curves' }],
  passes: true,
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'Of the arcs.', default: 0.1, min: 0, unit: 'm', step: 0.002, varies: 'point' },
    points: { kind: 'integer', label: 'Points', help: 'Points on each arc, both ends included.', default: 8, min: 2, max: 10_000 },
    limit: { kind: 'boolean', label: 'Limit', help: 'Never takes more than half of a leg.', default: true },
  },
  run: (context) => {
    const { settings, curves, field, warn } = context;
    const given = curves('curves');
    const smooth = given.kind.findIndex((kind) => curveKinds[kind] !== 'straight');
    if (smooth >= 0 && given.kind.every((kind) => curveKinds[kind] !== 'straight'))
      warn({
        code: 'simpler-method-used',
        curve: smooth,
        message: 'All curves are smooth, so there are no corners to round.',
        remedy: 'Draw them as straight, or simplify them first.',
      });
    return { curves: roundCorners(given, { ...settings, radius: field(settings.radius, given, 'point') }, context) };
  },
});
