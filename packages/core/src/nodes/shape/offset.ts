import { curvesIn, curvesOut } from '../../definition/ports.js';
import { offset } from '../../curves/change/offset.js';
import { asBezier } from '../../curves/evaluate/knots.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';
import { facingOf, facingSettings } from '../settings/facing.js';

export default defineNode({
  type: 'shape.offset',
  label: 'Offset',
  family: families.shape,
  summary: 'Curves at a distance beside the given ones, in their plane.',
  help: 'Closed curves grow by a positive distance and shrink by a negative one; open ones move to the left of their way, seen from above; upright ones upwards. Corners are mitred or rounded; loops that appear where the curve is too narrow are taken out, so a closed curve may fall into several or vanish (with a warning). Each curve is offset in its own plane; a straight line in the level one.',
  attributes: { keeps: ['curve', 'whole'] },
  keywords: ['parallel', 'inset', 'outset', 'border', 'margin', 'contour'],
  asks: {
    'a parallel path': {},
    'move sideways along the path': { distance: 0.2 },
    'round outer corners of the offset': { joins: 'round' },
  },
  telling: ['distance'],
  sample: { given: { curves: corneredPath } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    distance: { kind: 'number', label: 'Distance', help: 'How far.', default: 0.1, unit: 'm', step: 0.002, varies: 'point' },
    joins: { kind: 'choice', label: 'Joins', help: 'How outer corners are made.', default: 'mitre', choices: { mitre: 'mitre', round: 'round' } },
    ...facingSettings,
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = asBezier(input('curves'), true);
    const { curves: result, gone } = offset(
      given,
      { joins: settings.joins, facing: facingOf(settings), distance: field(settings.distance, given, 'point') },
      context,
    );
    for (const curve of gone.slice(0, 50))
      warn({
        code: 'empty',
        curve,
        message: `Nothing is left of curve ${curve + 1}: it is too narrow for this distance, or has no length.`,
        remedy: 'Use a smaller distance.',
      });
    return { curves: result };
  },
});
