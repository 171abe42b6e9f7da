import { curvesIn, curvesOut } from '../../definition/ports.js';
import { simplify } from '../../curves/change/simplify.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'pace.simplify',
  label: 'Simplify',
  family: families.pace,
  summary: 'Leaves out points that lie nearly in line.',
  help: 'Drops every point nearer than the tolerance to the straight line between those that stay (Ramer, Douglas and Peucker; distances are to the segment). A lower tolerance keeps more. Curves come out straight between their points; smooth ones are sampled finely first. Values on the points that stay are kept, frames dropped.',
  attributes: { drops: ['tangent', 'normal', 'handleIn', 'handleOut'] },
  keywords: ['reduce', 'decimate', 'fewer', 'in line', 'clean', 'tolerance'],
  asks: {
    'fewer points': {},
    'remove needless points': { tolerance: 0.005 },
  },
  telling: ['tolerance'],
  sample: { settings: { tolerance: 0.02 } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    tolerance: {
      kind: 'number',
      label: 'Tolerance',
      help: 'How far a dropped point may lie from the new line.',
      default: 0.001,
      min: 0,
      unit: 'm',
      step: 0.0005,
    },
  },
  run: (context) => ({ curves: simplify(context.input('curves'), context.settings.tolerance, context) }),
});
