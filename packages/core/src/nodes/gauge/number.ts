import { numberOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { pipeOfRadius } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.number',
  label: 'Number',
  family: families.gauge,
  summary: 'One number, to be wired to settings.',
  help: 'Wire it to any setting of one number: the setting then follows it. One number may feed many settings. To let people change it from outside, use a dial instead.',
  keywords: ['value', 'constant', 'float', 'integer', 'scalar'],
  asks: {
    'a number for many': {},
    'one number to wire': {},
  },
  telling: ['value'],
  sample: { settings: { value: 0.05 }, shownBy: pipeOfRadius },
  outputs: [numberOut],
  settings: { value: { kind: 'number', label: 'Value', help: 'The number.', default: 0, step: 0.01 } },
  run: ({ settings }) => ({ number: { type: 'number', value: settings.value } }),
});
