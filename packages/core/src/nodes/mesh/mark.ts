import { anyIn, anyOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { alongDirection, byChance, combinations, largerThanMean, nearTo, noisy, onBoundary, withSides, type Choosing } from '../../gauge/marks.js';
import { withAttributes } from '../../geometry/attributes.js';
import { fieldAt } from '../../values/field.js';
import { elementCount } from '../../varying/perElement.js';
import { vectorAt } from '../../varying/varyingVector.js';
import { markName } from '../settings/mark.js';
import { seedSetting } from '../settings/common.js';
import { carrierFor, chosenElements, elementsSetting } from '../settings/elements.js';

export default defineNode({
  type: 'mesh.mark',
  label: 'Mark',
  family: families.mesh,
  summary: 'Marks faces, curves or points by where they look, how large they are, what they lie near, or by chance.',
  help: 'Writes 1 to what is chosen and 0 to the rest, under a name that later nodes can use: Keep or drop, Edges as curves, Only where. Put several behind each other and combine: and, or, but not. Direction goes by the normal of faces and points and by the way from start to end of curves. Near needs something wired into near.',
  attributes: { reads: ['normal', 'mark'], named: ({ name }) => [String(name)] },
  keywords: ['select', 'selection', 'mask', 'choose', 'facing', 'filter', 'paint', 'down', 'flag'],
  asks: {
    'faces that look down': { by: 'direction', direction: [0, -1, 0], angle: 45 },
    'leave out small faces': { by: 'size' },
    'select faces by noise': { by: 'noise' },
    'select by chance': { by: 'chance' },
    'faces near something': { by: 'near' },
    'every third face': { by: 'every', every: 3 },
    'faces at the border': { by: 'boundary' },
    'only quads': { by: 'sides', sides: 4 },
  },
  telling: ['by'],
  sample: { shownBy: (any) => ({ type: 'mesh.keep', given: { any } }) },
  handles: [{ kind: 'direction', setting: 'direction', at: ['middle'] }],
  inputs: [anyIn, { name: 'near', kinds: ['any'], optional: true }],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    by: {
      kind: 'choice',
      label: 'By',
      help: 'What decides.',
      default: 'direction',
      choices: {
        direction: 'direction',
        size: 'size against the mean',
        noise: 'noise',
        near: 'nearness',
        chance: 'chance',
        every: 'every so many',
        boundary: 'border',
        sides: 'number of sides',
        condition: 'a condition',
      },
    },
    of: elementsSetting,
    direction: {
      kind: 'vector',
      label: 'Direction',
      help: 'Which way they are to look.',
      default: [0, -1, 0],
      direction: true,
      shownWhen: { by: ['direction'] },
    },
    angle: {
      kind: 'number',
      label: 'Angle',
      help: 'How far from the direction they may look.',
      default: 45,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
      shownWhen: { by: ['direction'] },
    },
    times: {
      kind: 'number',
      label: 'Larger than',
      help: 'Times the mean area of a face, or the mean length of a curve.',
      default: 1,
      min: 0,
      step: 0.05,
      shownWhen: { by: ['size'] },
    },
    size: { kind: 'number', label: 'Size', help: 'From one bump of the noise to the next.', default: 0.5, min: 0, above: true, unit: 'm', step: 0.01, shownWhen: { by: ['noise'] } }, // prettier-ignore
    level: { kind: 'number', label: 'Level', help: 'Where the noise, −1 to 1, is above this.', default: 0, min: -1, max: 1, step: 0.01, shownWhen: { by: ['noise'] } }, // prettier-ignore
    shift: { kind: 'vector', label: 'Shift', help: 'Moves the noise; a formula with time lets it run.', default: [0, 0, 0], unit: 'm', step: 0.01, varies: 'whole', shownWhen: { by: ['noise'] } }, // prettier-ignore
    distance: { kind: 'number', label: 'Distance', help: 'From what is wired into near, at most.', default: 0.1, min: 0, unit: 'm', step: 0.01, shownWhen: { by: ['near'] } }, // prettier-ignore
    share: { kind: 'number', label: 'Share', help: 'Of all, on average.', default: 50, min: 0, max: 100, unit: '%', step: 1, shownWhen: { by: ['chance'] } },
    seed: { ...seedSetting, shownWhen: { by: ['chance', 'noise'] } },
    every: { kind: 'integer', label: 'Every', help: 'One of so many.', default: 2, min: 1, max: 1_000_000, shownWhen: { by: ['every'] } },
    first: {
      kind: 'integer',
      label: 'First',
      help: 'The number that is begun with, from 0.',
      default: 0,
      min: 0,
      max: 1_000_000,
      shownWhen: { by: ['every'] },
    },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of a face.', default: 4, min: 3, max: 1000, shownWhen: { by: ['sides'] } },
    condition: {
      kind: 'boolean',
      label: 'Condition',
      help: 'Those for which it holds.',
      default: true,
      condition: true,
      shownWhen: { by: ['condition'] },
    },
    invert: { kind: 'boolean', label: 'The others', help: 'Those are marked that would not be.', default: false },
    combine: {
      kind: 'choice',
      label: 'With earlier marks',
      help: 'How this goes together with a mark of this name that is there already.',
      default: 'replace',
      choices: { replace: 'in their place', and: 'and', or: 'or', butNot: 'but not' },
      aliases: { not: 'butNot' },
    },
    name: markName,
  },
  run: (context) => {
    const { settings, input, field, vectorField, warn } = context;
    const given = input('any');
    const per = chosenElements(settings.of, given);
    const count = elementCount(given, per);
    const choosing = (): Choosing => {
      switch (settings.by) {
        case 'direction':
          return alongDirection(given, per, settings.direction, settings.angle);
        case 'size':
          return largerThanMean(given, per, settings.times);
        case 'noise':
          return noisy(given, per, { ...settings, shift: vectorAt(vectorField(settings.shift, given, 'whole'), 0) });
        case 'near': {
          const near = input('near');
          if (!near) throw new RangeError('Nothing is wired into near, so nothing can be near to it.');
          return nearTo(given, per, near, settings.distance, context);
        }
        case 'chance':
          return byChance(given, per, settings.share / 100, settings.seed);
        case 'every':
          return (i) => i >= settings.first && (i - settings.first) % settings.every === 0;
        case 'boundary':
          return onBoundary(given, per, context);
        case 'sides':
          return withSides(given, per, settings.sides);
        case 'condition': {
          const holds = field(settings.condition, given, per);
          return (i) => fieldAt(holds, i) !== 0;
        }
      }
    };
    const chosen = choosing();
    const carrier = carrierFor(per, given);
    const before = given.attributes.get(settings.name);
    const old = before?.carrier === carrier && before.size === 1 ? before.data : null;
    const combined = combinations[settings.combine];
    const data = new Float32Array(count);
    for (let i = 0; i < count; i++) data[i] = Number(combined(chosen(i) !== settings.invert, !!old?.[i]));
    if (count && !data.includes(1))
      warn({ code: 'empty', message: `None of the ${count} is marked.`, remedy: 'Loosen what decides, or look at the direction.' });
    return { any: { ...given, attributes: withAttributes(given.attributes, { [settings.name]: { carrier, size: 1, data } }) } };
  },
});
