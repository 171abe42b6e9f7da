import { curvesOut, pointsIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { surfaceOf } from '../../near/surface.js';
import { linkPoints } from '../../place/links.js';
import { seedSetting } from '../settings/common.js';

export default defineNode({
  type: 'place.links',
  label: 'Link points',
  family: families.place,
  summary: 'Straight curves between random pairs of points.',
  help: 'Draws as many pairs as asked, each once, no nearer and no further apart than told, and by default not within one part (connected piece: Scatter on faces and Parts write its number as body). The same seed draws the same pairs. Wire bodies into clear of, and links that pass through them, or too near, are left out, or led round them along a taut way. At their ends, which lie on bodies, they may touch. Ends keep the values of their points; each link knows its points as from and to.',
  attributes: { reads: ['body'], writes: ['from', 'to'], keeps: ['point'] },
  keywords: ['connect', 'rope', 'between', 'pairs', 'bridge', 'wire', 'cable', 'string', 'join'],
  asks: {
    'ropes between points': {},
    'connect random points': {},
    'lead ropes round the body': { then: 'leadRound' },
    'no link within one piece': { avoidSamePart: true },
  },
  telling: ['count'],
  eases: { empty: [{ label: 'Lead them round the bodies', setting: 'then', value: 'leadRound' }] },
  inputs: [pointsIn, { name: 'clearOf', kinds: ['mesh'], optional: true }],
  outputs: [curvesOut],
  settings: {
    count: { kind: 'integer', label: 'Count', help: 'Links.', default: 12, min: 0, max: 1_000_000 },
    seed: { ...seedSetting, help: 'Another seed, other pairs.' },
    least: { kind: 'number', label: 'At least', help: 'From point to point.', default: 0, min: 0, unit: 'm', step: 0.05, group: 'Distance' },
    greatest: {
      kind: 'number',
      label: 'At most',
      help: 'From point to point.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.05,
      group: 'Distance',
      special: { called: 'however far', instead: 3 },
    },
    avoidSamePart: { kind: 'boolean', label: 'Not within a part', help: 'Points of the same part are not linked.', default: true },
    then: {
      kind: 'choice',
      label: 'In the way',
      help: 'What becomes of links that bodies are in the way of.',
      default: 'drop',
      choices: { drop: 'leave them out', leadRound: 'lead them round' },
      aliases: { leadround: 'leadRound' },
    },
    clearance: { kind: 'number', label: 'Clearance', help: 'Off the bodies.', default: 0.03, min: 0, above: true, unit: 'm', step: 0.005 },
  },
  run: (context) => {
    const { settings, input, claim, warn } = context;
    if (settings.greatest && settings.greatest < settings.least)
      throw new RangeError(`Links are to be at least ${settings.least} m and at most ${settings.greatest} m long; the least must not be more.`);
    claim({ points: settings.count * 2 });
    const body = input('clearOf');
    const clear = body ? { body: surfaceOf(body, context), clearance: settings.clearance, then: settings.then } : null;
    const { curves, missing, dropped } = linkPoints(input('points'), { ...settings, greatest: settings.greatest || Infinity }, clear, context);
    if (missing > 0) {
      const why = dropped ? `; ${dropped} were left out since a body is in their way` : '';
      warn({ code: 'empty', message: `There are ${settings.count - missing} links of ${settings.count}: no more pairs fit${why}.`, remedy: 'Ask for fewer, widen the distances, or scatter more points.' }); // prettier-ignore
    }
    return { curves };
  },
});
