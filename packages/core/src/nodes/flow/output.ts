import { setOf } from '../../geometry/join.js';
import { triangleCount } from '../../geometry/mesh.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { totalOf } from './totalOf.js';

export default defineNode({
  type: 'flow.output',
  label: 'Output',
  family: families.flow,
  summary: 'A named result of the document: what is shown and exported.',
  help: 'Whatever is wired here is a result, under its name. A document may have several outputs. With a budget it warns when there are more faces.',
  keywords: ['result', 'export', 'end', 'deliver', 'budget'],
  asks: {
    'deliver the result': {},
    'limit the faces': { budget: 50000 },
  },
  telling: ['name'],
  sample: { given: { any: { type: 'skin.rope' } } },
  usualAfter: { mesh: 1, copies: 1 },
  role: 'output',
  inputs: [{ name: 'any', kinds: ['any'], many: true }],
  outputs: [],
  settings: {
    name: {
      kind: 'text',
      label: 'Name',
      help: 'The result’s name, each once in a document.',
      default: 'main',
      pattern: /^[A-Za-z0-9][A-Za-z0-9 _-]{0,63}$/,
      accepts: 'letters, digits, spaces, _ and -, starting with a letter or digit',
    },
    budget: {
      kind: 'integer',
      label: 'Budget',
      help: 'Faces it may have.',
      default: 0,
      min: 0,
      unit: 'faces',
      special: { called: 'no budget', instead: 100_000 },
    },
  },
  run: ({ settings, inputs, claim, warn, memory }) => {
    const list = inputs('any');
    claim(totalOf(list));
    const set = setOf(list, memory);
    const faces = set.mesh ? triangleCount(set.mesh) : 0;
    if (settings.budget > 0 && faces > settings.budget)
      warn({
        code: 'budget',
        message: `${faces.toLocaleString('en-GB')} triangles are over the budget of ${settings.budget.toLocaleString('en-GB')}.`,
        remedy: 'Use fewer sides, points or rings, or raise the budget.',
      });
    return { result: { type: 'set', set } };
  },
});
