import { anyIn, anyOut, numberOut } from '../../definition/ports.js';
import { summarise } from '../../gauge/summary.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { hangingLine, valued } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.summary',
  label: 'Summary',
  family: families.gauge,
  summary: 'The least, greatest, mean, sum or count of an attribute, as a number.',
  help: 'Gives the number to be wired to settings, and passes on what came in. With a group attribute it also writes each group’s figure back as name_figure. Values that are not finite are left out, with a warning.',
  attributes: { keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['average', 'statistics', 'minimum', 'maximum', 'total', 'aggregate', 'count'],
  asks: {
    'the total': { figure: 'sum' },
    'the greatest': { figure: 'max' },
    'how many': { figure: 'count' },
  },
  telling: ['attribute', 'figure'],
  sample: { settings: { attribute: 'value' }, given: { any: valued(hangingLine, 'y') } },
  inputs: [anyIn],
  outputs: [numberOut, anyOut],
  settings: {
    attribute: { kind: 'text', label: 'Attribute', help: 'The attribute it is taken of.', default: 'length' },
    figure: {
      kind: 'choice',
      label: 'Figure',
      help: 'Which figure.',
      default: 'mean',
      choices: { mean: 'mean', sum: 'sum', min: 'least', max: 'greatest', count: 'count' },
    },
    group: { kind: 'text', label: 'Per', help: 'An attribute: each of its values makes a group. Empty: all together.', default: '' },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const { value, geometry, leftOut } = summarise(input('any'), settings.attribute, settings.figure, settings.group, context);
    if (leftOut)
      warn({
        code: 'degenerate',
        message: `${leftOut} values of "${settings.attribute}" are not finite and were left out.`,
        remedy: 'Look at the node that writes it.',
      });
    return { number: { type: 'number', value }, any: geometry };
  },
});
