import { curvesIn, meshOut } from '../../definition/ports.js';
import { loft } from '../../skin/loft/loft.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { joined, type SampleNode } from '../../definition/sample.js';
import { namedCounts, pairedCount, unequalSetting } from '../settings/unequal.js';
import { uvSettings } from '../settings/uv.js';
import { capSettings } from '../settings/caps.js';
import { looksJoined } from '../../gauge/pairing.js';
import { joinedWarning } from './filling.js';

const ring = (radius: number, y: number): SampleNode => ({ type: 'lay.circle', settings: { radius, centre: [0, y, 0] } });

export default defineNode({
  type: 'skin.loft',
  label: 'Loft',
  family: families.skin,
  summary: 'A surface over a row of curves, from each to the next.',
  help: 'With columns, every curve gets as many points, so curves drawn with different numbers become an even patch; without, their points are joined as they are, smooth curves with points between as bends need them; where their numbers differ, each gets as many as the richest has, unless you choose otherwise. Across puts rows between each two curves; Rows spaces so many anew over the whole, straight from curve to curve or smooth through them. Curves that run against the one before are turned. UVs: u along the curves, v across, both by length.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['skin', 'bridge', 'patch', 'hull', 'surface', 'ruled', 'between', 'grid'],
  asks: {
    'a surface over curves': {},
    'a hull from frames': { smooth: 'through' },
    'a smooth skin through curves': { smooth: 'through' },
  },
  telling: ['columns', 'rows'],
  sample: { given: { curves: joined(ring(1, 0), ring(0.6, 1), ring(0.9, 2)) } },
  usualAfter: { curves: 6 },
  inputs: [curvesIn],
  outputs: [meshOut],
  settings: {
    columns: {
      kind: 'integer',
      label: 'Columns',
      help: 'Points along each curve.',
      default: 0,
      min: 0,
      max: 100_000,
      special: { called: 'as they are', instead: 24 },
    },
    sampled: {
      kind: 'boolean',
      label: 'Sample bends',
      help: 'Smooth curves get points between their own, about one for each 7.5° that they turn, as many on every curve.',
      default: true,
      earlier: { before: 3, default: false },
      shownWhen: { columns: [0] },
    },
    across: { kind: 'integer', label: 'Across', help: 'Rows put between each two curves.', default: 0, min: 0, max: 10_000, shownWhen: { rows: [0] } },
    rows: {
      kind: 'integer',
      label: 'Rows',
      help: 'So many rows in all, spaced anew from the first curve to the last; or one for each curve, and those between them.',
      default: 0,
      special: { called: 'one a curve', instead: 12 },
      min: 0,
      max: 100_000,
    },
    smooth: {
      kind: 'choice',
      label: 'Smooth',
      help: 'Straight from curve to curve, or smooth through them.',
      default: 'linear',
      choices: { linear: 'linear', through: 'through' },
    },
    spread: {
      kind: 'choice',
      label: 'Spread',
      help: 'How columns and rows are spaced.',
      default: 'even',
      choices: { even: 'even', ends: 'closer to the ends', curvature: 'closer in bends' },
      aliases: { closerToTheEnds: 'ends' },
    },
    closedAcross: { kind: 'boolean', label: 'Closed across', help: 'Joins the last curve to the first.', default: false },
    matchDirection: { kind: 'boolean', label: 'Match direction', help: 'Turns curves that run against the one before.', default: true },
    flip: { kind: 'boolean', label: 'Flip', help: 'Turns the faces over.', default: false },
    caps: {
      kind: 'choice',
      label: 'Caps',
      help: 'Closes the first and the last of closed curves with flat faces.',
      default: 'open',
      choices: { open: 'open', flat: 'flat' },
    },
    unequal: {
      ...unequalSetting.unequal,
      help: 'What to do when the curves have different numbers of points and Columns are as they are: give all as many as the richest has, refuse, stop at the shortest, or begin the shorter ones again.',
      default: 'even',
      choices: { even: 'even them out', ...unequalSetting.unequal.choices },
    },
    ...uvSettings,
    ...capSettings,
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const unequal = (counts: Readonly<Record<string, number>>): number | null => {
      if (settings.unequal !== 'even')
        return pairedCount(counts, settings.unequal, 'Set Columns, so that each gets as many points, or Unequal lists to even them out.');
      const most = Object.values(counts).reduce((a, b) => Math.max(a, b));
      warn({
        code: 'unequal-lists',
        message: `The curves have different numbers of points (${namedCounts(counts)}); each was given ${most}.`,
        remedy: 'Set Columns to say how many.',
      });
      return null;
    };
    if (looksJoined(input('curves'), 'row')) warn(joinedWarning('A loft runs from each curve to the next'));
    const mesh = loft(input('curves'), { ...settings, unequal }, context);
    if (!mesh.corners.length)
      warn({ code: 'degenerate', message: 'The curves lie on each other, so there is no surface between them.', remedy: 'Move them apart.' });
    return { mesh };
  },
});
