import { curvesIn, curvesOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { branching } from '../../gauge/branching.js';

export default defineNode({
  type: 'gauge.branching',
  label: 'Branching',
  family: families.gauge,
  summary: 'How a network branches: distance from the root, tips beyond, order, and thickness from root to tips.',
  help: 'For curves that branch from each other, as Creep, Shortest routes and Branching rules make them, or any that begin at others. Each point gets its distance from the root, the tips beyond it, its order by Strahler (1957; a tip has 1, two of one order make the next), and a thickness from 0 to 1 by the pipe model (Shinozaki 1964): as many pipes as there are tips beyond. Give a radius by the formula 0.02 * thickness, and it is thick at the root and thin at the tips, each fork as thick as what leaves it.',
  attributes: { reads: ['parent'], writes: ['distance', 'tips', 'order', 'thickness'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['strahler', 'order', 'root', 'network', 'branches', 'thickness', 'taper', 'tree', 'pipe', 'depth'],
  asks: {
    'thick at the root, thin at the tips': {},
    'how far from the root': {},
  },
  telling: ['exponent'],
  sample: { given: { curves: { type: 'grow.rules' } } },
  thick: '0.04 * thickness',
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  where: 'none',
  settings: {
    exponent: {
      kind: 'number',
      label: 'Exponent',
      help: 'Two keep the area of all sections (a pipe a tip); higher numbers thin more slowly.',
      default: 2,
      min: 0.25,
      max: 20,
      step: 0.05,
    },
    within: {
      kind: 'number',
      label: 'Within',
      help: 'A curve that begins this near to another is a branch of it, unless it says itself whose branch it is (parent).',
      default: 0.001,
      min: 0,
      unit: 'm',
      step: 0.001,
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const { curves, circles } = branching(input('curves'), settings, context);
    if (circles) warn({ code: 'degenerate', message: `${circles} branches lead back to themselves; each counts as a root.`, remedy: 'Part them, or give a smaller distance within which curves are branches.' }); // prettier-ignore
    return { curves };
  },
});
