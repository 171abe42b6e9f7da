import { curvesIn, curvesOut } from '../../definition/ports.js';
import { closeOpen } from '../../curves/change/closing.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'pace.closeOpen',
  label: 'Close or open',
  family: families.pace,
  summary: 'Joins the last point of each curve to its first, or takes that piece away.',
  help: 'Closing drops a last point that repeats the first. A curve of two points cannot be closed; it stays open with a warning.',
  keywords: ['loop', 'ring', 'endless', 'open'],
  asks: {
    'close the curve': { closed: true },
    'open the curve': { closed: false },
  },
  telling: ['closed'],
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: { closed: { kind: 'boolean', label: 'Closed', help: 'Closed, or open.', default: true } },
  run: ({ settings, input, warn }) => {
    const { curves: result, short } = closeOpen(input('curves'), settings.closed);
    for (const curve of short.slice(0, 50))
      warn({
        code: 'not-closed',
        curve,
        message: `Curve ${curve + 1} has fewer than three points and cannot be closed; it stays open.`,
        remedy: 'Give it a third point.',
      });
    return { curves: result };
  },
});
