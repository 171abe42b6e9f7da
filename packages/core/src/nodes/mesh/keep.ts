import { anyIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { takeElements } from '../../gauge/takeElements.js';
import { fieldAt } from '../../values/field.js';
import { elementCount } from '../../varying/perElement.js';
import { markName } from '../settings/mark.js';
import { carrierFor, chosenElements, elementsSetting } from '../settings/elements.js';

export default defineNode({
  type: 'mesh.keep',
  label: 'Keep or drop',
  family: families.mesh,
  summary: 'Parts what is marked from the rest: faces, curves, points or copies.',
  help: 'Kept has what is marked, rest has the others; wire on what you need. By a condition it goes without a mark: i % 3 == 0, area > 0.01, y > 2. Curves of which points are dropped fall into pieces; a mesh keeps the faces all of whose points are kept.',
  attributes: { reads: ['mark'], keeps: ['point', 'curve', 'corner', 'face', 'copy', 'whole'] },
  keywords: ['delete', 'remove', 'filter', 'cull', 'discard', 'separate', 'split', 'select', 'drop', 'group'],
  asks: {
    'delete marked faces': {},
    'keep only some curves': { by: 'condition', condition: { formula: 'i % 2 == 0' } },
    'drop what lies low': { by: 'condition', condition: { formula: 'y > 0' } },
    'take pieces away': {},
  },
  telling: ['by'],
  sample: { given: { any: { type: 'mesh.mark' } } },
  inputs: [anyIn],
  outputs: [
    { name: 'kept', kind: 'any', follows: 'any' },
    { name: 'rest', kind: 'any', follows: 'any' },
  ],
  settings: {
    by: {
      kind: 'choice',
      label: 'By',
      help: 'What decides.',
      default: 'mark',
      choices: { mark: 'a mark', condition: 'a condition' },
      aliases: { formula: 'condition' },
    },
    of: elementsSetting,
    name: { ...markName, label: 'Mark', help: 'What is marked so is kept.', shownWhen: { by: ['mark'] } },
    condition: {
      kind: 'boolean',
      label: 'Keep where',
      help: 'Those for which it holds are kept.',
      default: true,
      condition: true,
      shownWhen: { by: ['condition'] },
    },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = input('any');
    const per = chosenElements(settings.of, given);
    const count = elementCount(given, per);
    const chosen = (): ((i: number) => boolean) => {
      if (settings.by === 'condition') {
        const holds = field(settings.condition, given, per);
        return (i) => fieldAt(holds, i) !== 0;
      }
      const mark = given.attributes.get(settings.name);
      const carrier = carrierFor(per, given);
      if (mark?.carrier !== carrier || mark.size !== 1) {
        const why = mark ? `is a value of each ${mark.carrier}` : 'is not there';
        throw new RangeError(`The mark "${settings.name}" ${why}, so it cannot tell one ${per} from another; mark them before, or change what it is of.`);
      }
      return (i) => mark.data[i] !== 0;
    };
    const holds = chosen();
    const kept: number[] = [];
    const rest: number[] = [];
    for (let i = 0; i < count; i++) (holds(i) ? kept : rest).push(i);
    if (count && !kept.length) warn({ code: 'empty', message: `Nothing is kept of ${count}.`, remedy: 'Loosen what decides, or use the rest.' });
    return { kept: takeElements(given, per, kept, context), rest: takeElements(given, per, rest, context) };
  },
});
