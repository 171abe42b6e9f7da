import { curvesIn, curvesOut } from '../../definition/ports.js';
import { split, type SplitAt } from '../../curves/change/split.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { cornerAngle } from '../settings/cornerAngle.js';

export default defineNode({
  type: 'pace.split',
  label: 'Split',
  family: families.pace,
  summary: 'Cuts curves into pieces: at every point, at corners, or where a value changes.',
  help: 'Neighbouring pieces share their end points. Smooth pieces keep their course; values go with the points and curves.',
  keywords: ['break', 'separate', 'segments', 'explode', 'pieces', 'corners'],
  asks: {
    'cut at corners': { at: 'corners' },
    'break into pieces': { at: 'everyPoint' },
  },
  telling: ['at'],
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    at: {
      kind: 'choice',
      label: 'At',
      help: 'Where to cut.',
      default: 'everyPoint',
      choices: { everyPoint: 'every point', corners: 'corners', attributeChange: 'attribute change' },
      aliases: { atEveryPoint: 'everyPoint', atCorners: 'corners', atAttributeChange: 'attributeChange' },
    },
    angle: { ...cornerAngle, shownWhen: { at: ['corners'] } },
    attribute: {
      kind: 'text',
      label: 'Attribute',
      help: 'The value on the points that is looked at.',
      default: 'mark',
      shownWhen: { at: ['attributeChange'] },
    },
  },
  run: (context) => {
    const { settings, input, claim } = context;
    const given = input('curves');
    claim({ points: settings.at === 'everyPoint' ? (given.positions.length / 3) * 2 : 0 });
    return { curves: split(given, settings satisfies SplitAt, context) };
  },
});
