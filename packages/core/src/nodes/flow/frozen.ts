import { anyOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball } from '../../definition/sample.js';
import type { Geometry } from '../../geometry/geometry.js';
import { totalOf } from './totalOf.js';

export default defineNode({
  type: 'flow.frozen',
  label: 'Frozen',
  family: families.flow,
  summary: 'A result as it was at one moment, kept while what it came from goes on.',
  help: 'Freeze takes what comes in as it is now and gives just that from then on, number for number, whatever becomes of the nodes before it; these need not run any more, and may be deleted. Freeze again takes it anew, Thaw lets what comes in pass again. What is frozen is a file beside the document, so the document stays small; it goes along when the document is packed or handed out.',
  attributes: { keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['static', 'fixed', 'thaw', 'collapse', 'frozen result'],
  asks: {
    'freeze a result': {},
    'keep it as it is now': {},
  },
  telling: ['asset'],
  sample: { given: { any: ball } },
  inputs: [{ name: 'any', kinds: ['any'], optional: true }],
  outputs: [anyOut],
  settings: {
    asset: {
      kind: 'asset',
      label: 'Frozen',
      help: 'What was taken, and when. Not frozen: what comes in passes through.',
      default: '',
      holds: 'frozen',
      absent: 'nothing that was frozen',
      endings: [],
    },
  },
  standsAlone: ({ asset }) => typeof asset === 'string' && asset !== '',
  run: ({ settings, input, imported, warn, claim }) => {
    if (settings.asset) {
      const [geometry] = Object.values(imported(settings.asset)) as Geometry[];
      claim(totalOf([geometry]));
      return { any: geometry };
    }
    const given = input('any');
    if (given) return { any: given };
    warn({ code: 'empty', message: 'Nothing comes in, and nothing is frozen.', remedy: 'Wire something to it; Freeze then keeps it.' });
    return {} as { any: Geometry };
  },
});
