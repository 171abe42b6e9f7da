import { simplify } from '../../curves/simplify.js';
import { cutCorners, halvePieces } from '../../curves/subdivide.js';
import { reordered } from '../../curves/reorder.js';
import { throughMoved } from '../../curves/knots.js';
import { pickPoints } from '../../curves/split.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { gatherCurves, gatherPoints } from '../../geometry/gather.js';
import type { Attributes } from '../../geometry/attributes.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

/** What counts as a corner of a curve. */
export const cornerAngle = {
  kind: 'number',
  label: 'Angle',
  help: 'A corner turns by more than this.',
  default: 30,
  min: 0,
  max: 180,
  unit: '°',
  step: 1,
} as const;

const curvesIn = [{ name: 'curves', kinds: ['curves'] }] as const;
const curvesOut = [{ name: 'curves', kind: 'curves' }] as const;

export const simplifyNode = defineNode({
  type: 'pace.simplify',
  label: 'Simplify',
  family: families.pace,
  summary: 'Leaves out points that lie nearly in line.',
  help: 'Drops every point nearer than the tolerance to the straight line between those that stay (Ramer, Douglas and Peucker; distances are to the segment). A lower tolerance keeps more. Curves come out straight between their points; smooth ones are sampled finely first. Values on the points that stay are kept, frames dropped.',
  attributes: { drops: ['tangent', 'normal', 'handleIn', 'handleOut'] },
  keywords: ['reduce', 'decimate', 'fewer', 'in line', 'clean', 'tolerance'],
  inputs: curvesIn,
  outputs: curvesOut,
  passes: true,
  settings: {
    tolerance: {
      kind: 'number',
      label: 'Tolerance',
      help: 'How far a dropped point may lie from the new line.',
      default: 0.001,
      min: 0,
      unit: 'm',
      step: 0.0005,
    },
  },
  run: ({ settings, curves }) => ({ curves: simplify(curves('curves'), settings.tolerance) }),
});

export const subdivideNode = defineNode({
  type: 'pace.subdivide',
  label: 'Subdivide',
  family: families.pace,
  summary: 'More points: every piece halved, or every corner cut off again and again.',
  help: 'Halves every piece, so often; smooth curves keep their course. Smooth cuts corners instead, at a quarter and three quarters of each piece (Chaikin), which rounds straight curves. Values are interpolated.',
  attributes: { drops: ['normal'] },
  keywords: ['refine', 'chaikin', 'halve', 'smooth', 'more points', 'density'],
  inputs: curvesIn,
  outputs: curvesOut,
  passes: true,
  settings: {
    times: { kind: 'integer', label: 'Times', help: 'How often.', default: 1, min: 0, max: 16 },
    smooth: { kind: 'boolean', label: 'Smooth', help: 'Cuts corners instead of only adding points.', default: false },
    keepEnds: { kind: 'boolean', label: 'Keep ends', help: 'The ends of open curves stay where they are.', default: true, shownWhen: { smooth: [true] } },
  },
  run: (context) => {
    const { settings, curves } = context;
    const { times, smooth, keepEnds } = settings;
    return { curves: smooth ? cutCorners(curves('curves'), times, keepEnds, context) : halvePieces(curves('curves'), times, context) };
  },
});

const sortChoices = { none: 'not sorted', x: 'along X', y: 'along Y', z: 'along Z', attribute: 'by attribute' };

function sortKeys(sort: string, attribute: string, positions: Float32Array, attributes: Attributes): ArrayLike<number> | null {
  if (sort === 'none') return null;
  if (sort !== 'attribute') return positions.filter((_, i) => i % 3 === 'xyz'.indexOf(sort));
  const values = attributes.get(attribute);
  if (!values || values.carrier !== 'point' || values.size !== 1)
    throw new RangeError(`There is no number "${attribute}" on the points; there is ${[...attributes.keys()].join(', ') || 'none'}.`);
  return values.data;
}

export const reorderNode = defineNode({
  type: 'pace.reorder',
  label: 'Reorder points',
  family: families.pace,
  summary: 'Puts points in another order: shifted, interleaved, reversed, sorted or shuffled.',
  help: 'Works on points, or on the points within each curve. In this order: sort, shuffle, reverse, interleave (every k-th point, then every k-th from the second on), shift (the first point moves k places along, and the list comes round). A closed curve that is only shifted or reversed keeps its course; any other new order gives straight pieces.',
  keywords: ['shift', 'weave', 'interleave', 'sort', 'shuffle', 'order', 'seam', 'start point', 'index'],
  inputs: [{ name: 'any', kinds: ['curves', 'points'], aliases: ['curves', 'points'] }],
  outputs: [{ name: 'any', kind: 'any', aliases: ['curves', 'points'] }],
  passes: true,
  settings: {
    shift: { kind: 'integer', label: 'Shift', help: 'Places by which the start moves along.', default: 0 },
    interleave: { kind: 'integer', label: 'Interleave', help: 'Takes every k-th point in turn; 0 or 1 leaves them.', default: 0, min: 0, max: 1_000_000 },
    reverse: { kind: 'boolean', label: 'Reverse', help: 'Last point first.', default: false },
    sort: { kind: 'choice', label: 'Sort', help: 'By a coordinate or a value, rising.', default: 'none', choices: sortChoices },
    attribute: { kind: 'text', label: 'Attribute', help: 'The value to sort by.', default: 't', shownWhen: { sort: ['attribute'] } },
    shuffle: { kind: 'integer', label: 'Shuffle', help: 'Seed of a random order; −1 does not shuffle.', default: -1, min: -1 },
  },
  run: ({ settings, input }) => {
    const given = input('any')!;
    const { sort, attribute, shift, interleave, reverse, shuffle } = settings;
    if (given.type === 'points') {
      const keys = sortKeys(sort, attribute, given.positions, given.attributes);
      return { any: gatherPoints(given, reordered(0, given.positions.length / 3, { ...settings, keys })) };
    }
    const curves = given as Curves;
    const keys = sortKeys(sort, attribute, curves.positions, curves.attributes);
    const points: number[] = [];
    for (let c = 0; c < curveCount(curves); c++) points.push(...reordered(curves.starts[c], curves.starts[c + 1], { ...settings, keys }));
    const sources = Uint32Array.from({ length: curveCount(curves) }, (_, c) => c);
    const result = gatherCurves(curves, { points, starts: curves.starts, sources, closed: curves.closed });
    const same = !keys && shuffle < 0 && interleave < 2 && !reverse && (shift === 0 || curves.closed.every((mark) => mark));
    return { any: same ? result : withStraight(throughMoved(result)) };
  },
});

/** A new order of points has no smooth course of its own. */
const withStraight = (curves: Curves): Curves => ({ ...curves, kind: new Uint8Array(curves.kind.length) });

export const pointsNode = defineNode({
  type: 'pace.points',
  label: 'Points of curves',
  family: families.pace,
  summary: 'Some of the points of curves: every n-th, the ends, or the corners.',
  help: 'Gives points with the frames of their curve (its own, or minimal ones), t and s along it, and id, the number of the curve; values on points and curves come along.',
  attributes: {
    reads: ['tangent', 'normal'],
    writes: ['tangent', 'normal', 't', 's', 'id'],
    keeps: ['point', 'curve', 'whole'],
    drops: ['handleIn', 'handleOut'],
  },
  keywords: ['ends', 'corners', 'every', 'pick', 'extract', 'vertices'],
  inputs: curvesIn,
  outputs: [{ name: 'points', kind: 'points' }],
  settings: {
    which: {
      kind: 'choice',
      label: 'Which',
      help: 'The points to take.',
      default: 'every',
      choices: { every: 'every n-th', ends: 'ends only', corners: 'corners only' },
      aliases: { everyNTh: 'every', everyNth: 'every', endsOnly: 'ends', cornersOnly: 'corners' },
    },
    every: {
      kind: 'integer',
      label: 'Every',
      help: 'Takes each so-manieth point of a curve, from its first on.',
      default: 1,
      min: 1,
      shownWhen: { which: ['every'] },
    },
    angle: { ...cornerAngle, shownWhen: { which: ['corners'] } },
  },
  run: ({ settings, curves }) => ({ points: pickPoints(curves('curves'), settings.which, settings.every, settings.angle) }),
});
