import { curvesIn, curvesOut } from '../../definition/ports.js';
import { reverse, runsAgainst } from '../../curves/change/reverse.js';
import { curveCount } from '../../geometry/curves.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'pace.reverse',
  label: 'Reverse',
  family: families.pace,
  summary: 'Turns the direction of curves, all or only those that run against the first.',
  help: 'The course stays the same. Frames keep their normal, so the side changes over. Match turns only curves that run against the first one: closed curves by the sense they turn in, open ones by which ends lie nearer.',
  keywords: ['direction', 'flip', 'backwards', 'invert'],
  asks: {
    'turn the curve round': {},
    'all curves the same way': { match: 'first' },
  },
  telling: ['match'],
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    match: {
      kind: 'choice',
      label: 'Match',
      help: 'Turns all curves, or only those that run against the first.',
      default: 'none',
      choices: { none: 'none: turn all', first: 'first curve’s direction' },
      aliases: { firstCurvesDirection: 'first', firstCurveSDirection: 'first' },
    },
  },
  run: (context) => {
    const { settings, input } = context;
    const given = input('curves');
    const which = Uint8Array.from({ length: curveCount(given) }, (_, c) => (settings.match === 'none' || (c > 0 && runsAgainst(given, c, 0)) ? 1 : 0));
    return { curves: reverse(given, which, context) };
  },
});
