import { curvesIn, curvesOut } from '../../definition/ports.js';
import { roundCorners } from '../../curves/change/roundCorners.js';
import { curveKinds } from '../../geometry/curves.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';

export default defineNode({
  type: 'shape.roundCorners',
  label: 'Round corners',
  family: families.shape,
  summary: 'Replaces the corners of straight curves by arcs.',
  help: 'Each arc touches both legs of its corner and has exact directions at its points, so pipes and offsets follow it truly. With the limit an arc takes at most half of a leg and is made smaller where it would need more. Smooth curves have no corners of this kind and stay as they are. Values go with the corners; frames are dropped.',
  attributes: { drops: ['normal'] },
  keywords: ['fillet', 'radius', 'bend', 'elbow', 'arc', 'soft'],
  asks: {
    'round the corners': {},
    'softer corners': { radius: 0.3 },
    fillet: {},
  },
  telling: ['radius'],
  sample: { given: { curves: corneredPath } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'Of the arcs.', default: 0.1, min: 0, unit: 'm', step: 0.002, varies: 'point' },
    points: { kind: 'integer', label: 'Points', help: 'Points on each arc, both ends included.', default: 8, min: 2, max: 10_000 },
    limit: { kind: 'boolean', label: 'Limit', help: 'Never takes more than half of a leg.', default: true },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = input('curves');
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
