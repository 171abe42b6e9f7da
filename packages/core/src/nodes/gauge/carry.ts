import { anyIn, anyOut } from '../../definition/ports.js';
import { carryOver, carryRules } from '../../gauge/carry.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { hangingLine, valued } from '../../definition/sample.js';
import { carriers, carrierOf } from './carriers.js';

export default defineNode({
  type: 'gauge.carry',
  label: 'Carry over',
  family: families.gauge,
  summary: 'Carries an attribute from points to curves, faces or the whole, or back.',
  help: 'Where several values meet they become their mean, least, greatest, first or sum. On a mesh points and corners are carried to faces, and faces to their corners.',
  attributes: { named: ({ attribute }) => [String(attribute)] },
  keywords: ['hand on', 'convert', 'carrier', 'average', 'from points to faces'],
  asks: {
    'average over faces': { to: 'faces' },
    'carry a value to curves': { to: 'curves' },
  },
  telling: ['attribute', 'to'],
  sample: { given: { any: valued(hangingLine, 'y') } },
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    attribute: { kind: 'text', label: 'Attribute', help: 'The attribute that is carried over.', default: 'value' },
    to: { kind: 'choice', label: 'To', help: 'What carries it afterwards.', default: 'curves', choices: carriers },
    rule: {
      kind: 'choice',
      label: 'Where several meet',
      help: 'What they become.',
      default: 'mean',
      choices: Object.fromEntries(
        carryRules.map((rule) => [rule, { mean: 'mean', min: 'least', max: 'greatest', first: 'first', sum: 'sum' }[rule]]),
      ) as Record<(typeof carryRules)[number], string>,
    },
  },
  run: (context) => {
    const { settings, input } = context;
    const given = input('any');
    return { any: carryOver(given, settings.attribute, carrierOf(settings.to, given), settings.rule, context) };
  },
});
