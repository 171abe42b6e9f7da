import { closeOpen, joinEnds } from '../../curves/closing.js';
import { cutToSpan } from '../../curves/cut.js';
import { reverse, runsAgainst } from '../../curves/reverse.js';
import { split, type SplitAt } from '../../curves/split.js';
import { curveCount } from '../../geometry/curves.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';
import { cornerAngle } from './points.js';

const curvesIn = [{ name: 'curves', kinds: ['curves'] }] as const;
const curvesOut = [{ name: 'curves', kind: 'curves' }] as const;

export const cutNode = defineNode({
  type: 'pace.cut',
  label: 'Cut to span',
  family: families.pace,
  summary: 'Keeps the part of each curve between two places along it.',
  help: 'Cuts every curve at its true length, without changing its course. Places are fractions of the length or metres; beyond an end they mean the end. On a closed curve a start after the end keeps the part across its first point. Values are interpolated.',
  attributes: { writes: ['tangent'], drops: ['normal'] },
  keywords: ['trim', 'shorten', 'part', 'crop', 'segment'],
  inputs: curvesIn,
  outputs: curvesOut,
  passes: true,
  settings: {
    in: {
      kind: 'choice',
      label: 'In',
      help: 'What the places are counted in.',
      default: 'fraction',
      choices: { fraction: 'fraction of the length', metres: 'metres' },
    },
    start: { kind: 'number', label: 'Start', help: 'Where the kept part begins.', default: 0, min: 0, step: 0.005, varies: 'curve' },
    end: { kind: 'number', label: 'End', help: 'Where it ends.', default: 1, min: 0, step: 0.005, varies: 'curve' },
  },
  run: ({ settings, curves, field, warn }) => {
    const given = curves('curves');
    const { curves: result, gone } = cutToSpan(given, {
      start: field(settings.start, given, 'curve'),
      end: field(settings.end, given, 'curve'),
      in: settings.in,
    });
    for (const curve of gone.slice(0, 50))
      warn({ code: 'empty', curve, message: `Nothing is left of curve ${curve}: its start is not before its end.`, remedy: 'Move the end further.' });
    return { curves: result };
  },
});

export const reverseNode = defineNode({
  type: 'pace.reverse',
  label: 'Reverse',
  family: families.pace,
  summary: 'Turns the direction of curves, all or only those that run against the first.',
  help: 'The course stays the same. Frames keep their normal, so the side changes over. Match turns only curves that run against the first one: closed curves by the sense they turn in, open ones by which ends lie nearer.',
  keywords: ['direction', 'flip', 'backwards', 'invert'],
  inputs: curvesIn,
  outputs: curvesOut,
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
  run: ({ settings, curves }) => {
    const given = curves('curves');
    const which = Uint8Array.from({ length: curveCount(given) }, (_, c) => (settings.match === 'none' || (c > 0 && runsAgainst(given, c, 0)) ? 1 : 0));
    return { curves: reverse(given, which) };
  },
});

export const closeOpenNode = defineNode({
  type: 'pace.closeOpen',
  label: 'Close or open',
  family: families.pace,
  summary: 'Joins the last point of each curve to its first, or takes that piece away.',
  help: 'Closing drops a last point that repeats the first. A curve of two points cannot be closed; it stays open with a warning.',
  keywords: ['loop', 'ring', 'endless', 'open'],
  inputs: curvesIn,
  outputs: curvesOut,
  passes: true,
  settings: { closed: { kind: 'boolean', label: 'Closed', help: 'Closed, or open.', default: true } },
  run: ({ settings, curves, warn }) => {
    const { curves: result, short } = closeOpen(curves('curves'), settings.closed);
    for (const curve of short.slice(0, 50))
      warn({
        code: 'not-closed',
        curve,
        message: `Curve ${curve} has fewer than three points and cannot be closed; it stays open.`,
        remedy: 'Give it a third point.',
      });
    return { curves: result };
  },
});

export const joinEndsNode = defineNode({
  type: 'pace.joinEnds',
  label: 'Join ends',
  family: families.pace,
  summary: 'Chains curves whose ends meet into longer ones.',
  help: 'Ends nearer than the distance become one point; curves are turned where they need to be. Where a chain’s own ends meet it is closed. Of several ends the nearest is taken. Frames are dropped.',
  attributes: { drops: ['tangent', 'normal'] },
  keywords: ['chain', 'merge', 'connect', 'weld', 'stitch'],
  inputs: curvesIn,
  outputs: curvesOut,
  passes: true,
  where: 'curve',
  settings: { distance: { kind: 'number', label: 'Distance', help: 'How near ends must be.', default: 0.001, min: 0, unit: 'm', step: 0.0005 } },
  run: ({ settings, curves }) => ({ curves: joinEnds(curves('curves'), settings.distance) }),
});

export const splitNode = defineNode({
  type: 'pace.split',
  label: 'Split',
  family: families.pace,
  summary: 'Cuts curves into pieces: at every point, at corners, or where a value changes.',
  help: 'Neighbouring pieces share their end points. Smooth pieces keep their course; values go with the points and curves.',
  keywords: ['break', 'separate', 'segments', 'explode', 'pieces', 'corners'],
  inputs: curvesIn,
  outputs: curvesOut,
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
  run: ({ settings, curves, claim }) => {
    const given = curves('curves');
    claim({ points: settings.at === 'everyPoint' ? (given.positions.length / 3) * 2 : 0 });
    return { curves: split(given, settings satisfies SplitAt) };
  },
});
