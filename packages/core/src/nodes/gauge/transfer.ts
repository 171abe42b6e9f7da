import { namesIn } from './names.js';
import { anyIn, anyOut, toIn } from '../../definition/ports.js';
import { transfer } from '../../gauge/distances.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, moved, valued } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.transfer',
  label: 'Take from nearest',
  family: families.gauge,
  summary: 'Takes attributes over from the nearest place of another geometry.',
  help: 'Each point, vertex or copy takes the values of the nearest place: interpolated along curves and over faces, or those of the nearest face; or of the element with the same id, or of the same place in the list. By id, elements without a partner keep what they had.',
  keywords: ['sample', 'transfer', 'copy', 'project', 'nearest', 'attribute', 'lookup'],
  asks: {
    'copy values from another': {},
    'take the nearest value': { by: 'nearest' },
  },
  attributes: { named: ({ attribute }) => namesIn(attribute) },
  telling: ['attribute'],
  sample: { given: { any: moved(ball, 0.3, 0, 0), to: valued(ball, 'y') } },
  inputs: [anyIn, toIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    attribute: { kind: 'text', label: 'Attributes', help: 'Names, with commas between them.', default: 'value' },
    by: {
      kind: 'choice',
      label: 'From',
      help: 'Where the values are taken from.',
      default: 'nearest',
      choices: { id: 'same id', index: 'same place in list', nearest: 'nearest place', face: 'nearest face' },
      aliases: { nearestFace: 'face', nearestPlace: 'nearest', byIndex: 'index', samePlaceInList: 'index', sameId: 'id' },
    },
  },
  run: (context) => {
    const { attribute, by } = context.settings;
    const { geometry, alone } = transfer(context.input('any'), context.input('to'), namesIn(attribute), by, context);
    if (alone)
      context.warn({
        code: 'unequal-lists',
        message: `${alone} elements have an id that nothing in "to" has; they keep what they had.`,
        remedy: 'Take from the nearest place, or give both the same ids.',
      });
    return { any: geometry };
  },
});
