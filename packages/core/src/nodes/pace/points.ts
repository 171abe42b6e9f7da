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
  run: (context) => ({ curves: simplify(context.curves('curves'), context.settings.tolerance, context) }),
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

const orders = { none: 'as given', direction: 'along a direction', attribute: 'by value', nearest: 'nearest next' } as const;

/** What points are sorted by, a number a point; null: they are not. */
function sortKeys(
  sort: keyof typeof orders,
  way: readonly number[],
  attribute: string,
  positions: Float32Array,
  attributes: Attributes,
): ArrayLike<number> | null {
  if (sort === 'none' || sort === 'nearest') return null;
  if (sort === 'direction')
    return Float64Array.from({ length: positions.length / 3 }, (_, i) => way.reduce((sum, value, k) => sum + value * positions[i * 3 + k], 0));
  const values = attributes.get(attribute);
  if (!values || values.carrier !== 'point' || values.size !== 1)
    throw new RangeError(`There is no number "${attribute}" on the points; there is ${[...attributes.keys()].join(', ') || 'none'}.`);
  return values.data;
}

export const reorderNode = defineNode({
  type: 'pace.reorder',
  label: 'Reorder points',
  family: families.pace,
  summary: 'Puts points in another order: along a direction, by a value, nearest next, turned round, mixed, or from another start.',
  help: 'Works on points, or on the points within each curve. In this sequence: the order, mixing, turning round, strides (every k-th point, then every k-th from the second on), and the start (the list begins k places along and comes round). A closed curve that only starts elsewhere or is turned round keeps its course; any other new order gives straight pieces.',
  keywords: ['sort', 'order', 'shift', 'start point', 'seam', 'reverse', 'shuffle', 'interleave', 'nearest', 'index'],
  inputs: [{ name: 'any', kinds: ['curves', 'points'], aliases: ['curves', 'points'] }],
  outputs: [{ name: 'any', kind: 'any', aliases: ['curves', 'points'] }],
  passes: true,
  settings: {
    sort: {
      kind: 'choice',
      label: 'Order',
      help: 'As given; rising along a direction or by a value; or from each to the nearest that is left.',
      default: 'none',
      choices: orders,
    },
    direction: {
      kind: 'vector',
      label: 'Direction',
      help: 'Points further this way come later.',
      default: [1, 0, 0],
      direction: true,
      shownWhen: { sort: ['direction'] },
    },
    attribute: { kind: 'text', label: 'Value', help: 'The attribute to order by.', default: 't', shownWhen: { sort: ['attribute'] } },
    shift: { kind: 'integer', label: 'Start at', help: 'The place in the list, counted from 0, that becomes the first; the list comes round.', default: 0 },
    reverse: { kind: 'boolean', label: 'Turn round', help: 'Last point first.', default: false },
    interleave: {
      kind: 'integer',
      label: 'Stride',
      help: 'Takes every so-manieth point, round after round; 1 takes them one by one.',
      default: 1,
      min: 0,
      max: 1_000_000,
    },
    mix: { kind: 'boolean', label: 'Mix', help: 'In a random order.', default: false },
    seed: { kind: 'integer', label: 'Seed', help: 'Another seed, another order.', default: 1, min: 0, max: 1_000_000, shownWhen: { mix: [true] } },
  },
  upgrade: (settings) => {
    const { sort, shuffle, ...rest } = settings;
    const axis = typeof sort === 'string' ? ['x', 'y', 'z'].indexOf(sort) : -1;
    if (axis < 0 && shuffle === undefined) return settings;
    return {
      ...rest,
      ...(sort !== undefined && (axis < 0 ? { sort } : { sort: 'direction', direction: [0, 1, 2].map((k) => (k === axis ? 1 : 0)) })),
      ...(typeof shuffle === 'number' && shuffle >= 0 && { mix: true, seed: shuffle }),
    };
  },
  run: ({ settings, input }) => {
    const given = input('any')!;
    const { sort, direction, attribute, shift, interleave, reverse, mix } = settings;
    const { positions } = given as Curves;
    const keys = sortKeys(sort, direction, attribute, positions, given.attributes);
    const options = { ...settings, keys, nearest: sort === 'nearest' ? positions : null, shuffle: mix ? settings.seed : null };
    if (given.type === 'points') return { any: gatherPoints(given, reordered(0, positions.length / 3, options)) };
    const curves = given as Curves;
    const points: number[] = [];
    for (let c = 0; c < curveCount(curves); c++) for (const point of reordered(curves.starts[c], curves.starts[c + 1], options)) points.push(point);
    const sources = Uint32Array.from({ length: curveCount(curves) }, (_, c) => c);
    const result = gatherCurves(curves, { points, starts: curves.starts, sources, closed: curves.closed });
    const same = sort === 'none' && !mix && interleave < 2 && !reverse && (shift === 0 || curves.closed.every((mark) => mark));
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
