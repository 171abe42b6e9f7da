import { anyIn, anyOut, toIn } from '../../definition/ports.js';
import { distanceTo } from '../../gauge/distances.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.distance',
  label: 'Distance to',
  family: families.gauge,
  summary: 'Writes how far each point or copy is from curves, points or a mesh.',
  help: 'Writes distance, in metres, to every point, vertex or copy. Curves count by their whole length, meshes by their faces, and points by themselves. Use it in a formula or a ramp: smaller near the path is one setting, Size as a ramp over distance.',
  attributes: { writes: ['distance'], named: ({ place }) => (place ? ['nearest'] : []) },
  keywords: ['near', 'proximity', 'falloff', 'closest', 'range', 'far'],
  asks: {
    'how far from a body': {},
    'distance to points': {},
  },
  telling: ['reach'],
  sample: { given: { to: boxOf(1, 1, 1) } },
  inputs: [anyIn, toIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    reach: {
      kind: 'number',
      label: 'Reach',
      help: 'What is further away gets this distance.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.05,
      special: { called: 'however far', instead: 1 },
    },
    place: { kind: 'boolean', label: 'Nearest place', help: 'Also writes the nearest place, as nearest.', default: false },
  },
  run: (context) => ({ any: distanceTo(context.input('any'), context.input('to'), context.settings, context) }),
});
