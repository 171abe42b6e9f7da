import { curvesIn, curvesOut } from '../../definition/ports.js';
import { joinEnds } from '../../curves/change/closing.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { joined, lineOf } from '../../definition/sample.js';

export default defineNode({
  type: 'pace.joinEnds',
  label: 'Join ends',
  family: families.pace,
  summary: 'Chains curves whose ends meet into longer ones.',
  help: 'Ends nearer than the distance become one point; curves are turned where they need to be. Where a chain’s own ends meet it is closed. Of several ends the nearest is taken. Frames are dropped.',
  attributes: { drops: ['tangent', 'normal'] },
  keywords: ['connect', 'stitch', 'one curve', 'merge', 'weld'],
  asks: {
    'join loose ends': {},
    'connect pieces that touch': {},
  },
  telling: ['distance'],
  sample: { given: { curves: joined(lineOf([-1, 0, 0], [0, 0.5, 0]), lineOf([0, 0.5, 0], [1, 0, 0])) } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  where: 'curve',
  settings: { distance: { kind: 'number', label: 'Distance', help: 'How near ends must be.', default: 0.001, min: 0, unit: 'm', step: 0.0005 } },
  run: (context) => ({ curves: joinEnds(context.input('curves'), context.settings.distance, context) }),
});
