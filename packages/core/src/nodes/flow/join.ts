import { anyOut } from '../../definition/ports.js';
import { byKind, joinGeometries } from '../../geometry/join.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, boxOf, moved } from '../../definition/sample.js';
import { totalOf } from './totalOf.js';

export default defineNode({
  type: 'flow.join',
  label: 'Join',
  family: families.flow,
  summary: 'Puts several inputs of one kind together.',
  help: 'Joins curves with curves, meshes with meshes. The order is that of the wires, listed in the settings, and can be changed there. Values that only some of the inputs have are filled with 0 elsewhere.',
  attributes: { keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['merge', 'combine', 'append', 'collect', 'add'],
  asks: {
    'put things together': {},
    'merge curves': {},
  },
  usualAfter: { mesh: 7 },
  sample: { given: { any: [ball, moved(boxOf(0.5, 0.5, 0.5), 1.5, 0, 0)] } },
  inputs: [{ name: 'any', kinds: ['any'], many: true }],
  outputs: [anyOut],
  settings: {},
  run: ({ inputs, claim, memory }) => {
    const list = inputs('any');
    const kinds = [...byKind(list).keys()];
    if (kinds.length > 1) throw new RangeError(`Join got ${kinds.join(' and ')}; it joins inputs of one kind. Wire them to the Output one by one instead.`);
    claim(totalOf(list));
    return { any: joinGeometries(list, memory) };
  },
});
