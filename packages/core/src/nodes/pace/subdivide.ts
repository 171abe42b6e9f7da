import { curvesIn, curvesOut } from '../../definition/ports.js';
import { cutCorners, halvePieces } from '../../curves/change/subdivide.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { corneredPath } from '../../definition/sample.js';

export default defineNode({
  type: 'pace.subdivide',
  label: 'Subdivide',
  family: families.pace,
  summary: 'More points: every piece halved, or every corner cut off again and again.',
  help: 'Halves every piece, so often; smooth curves keep their course. Smooth cuts corners instead, at a quarter and three quarters of each piece (Chaikin), which rounds straight curves. Values are interpolated.',
  attributes: { drops: ['normal'] },
  keywords: ['refine', 'chaikin', 'halve', 'smooth', 'more points', 'density'],
  asks: {
    'more points': {},
    'smoother between the points': { smooth: true },
  },
  telling: ['times'],
  sample: { given: { curves: corneredPath } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    times: { kind: 'integer', label: 'Times', help: 'How often.', default: 1, min: 0, max: 16 },
    smooth: { kind: 'boolean', label: 'Smooth', help: 'Cuts corners instead of only adding points.', default: false },
    keepEnds: { kind: 'boolean', label: 'Keep ends', help: 'The ends of open curves stay where they are.', default: true, shownWhen: { smooth: [true] } },
  },
  run: (context) => {
    const { settings, input } = context;
    const { times, smooth, keepEnds } = settings;
    return { curves: smooth ? cutCorners(input('curves'), times, keepEnds, context) : halvePieces(input('curves'), times, context) };
  },
});
