import { seedSetting } from '../settings/common.js';
import { anyOut } from '../../definition/ports.js';
import { reordered } from '../../curves/change/reorder.js';
import { throughMoved } from '../../curves/evaluate/knots.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { gatherCurves, gatherPoints } from '../../geometry/gather.js';
import type { Attributes } from '../../geometry/attributes.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { hangingLine } from '../../definition/sample.js';

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

export default defineNode({
  type: 'pace.reorder',
  label: 'Reorder points',
  family: families.pace,
  summary: 'Puts points in another order: along a direction, by a value, nearest next, turned round, mixed, or from another start.',
  help: 'Works on points, or on the points within each curve. In this sequence: the order, mixing, turning round, strides (every k-th point, then every k-th from the second on), and the start (the list begins k places along and comes round). A closed curve that only starts elsewhere or is turned round keeps its course; any other new order gives straight pieces.',
  keywords: ['sort', 'order', 'shift', 'start point', 'seam', 'reverse', 'shuffle', 'interleave', 'nearest', 'index'],
  asks: {
    'reverse the order': { reverse: true },
    'shuffle the order': { mix: true },
    'sort by direction': { sort: 'direction' },
    'sort by an attribute': { sort: 'attribute' },
  },
  telling: ['sort'],
  sample: { settings: { mix: true }, given: { any: { type: 'shape.row', settings: { count: 6, step: [0, 0, 0.3] }, given: { any: hangingLine } } } },
  usualAfter: { points: 3 },
  handles: [{ kind: 'direction', setting: 'direction', at: ['middle'] }],
  inputs: [{ name: 'any', kinds: ['curves', 'points'], aliases: ['curves', 'points'] }],
  outputs: [{ ...anyOut, aliases: ['curves', 'points'] }],
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
    seed: { ...seedSetting, help: 'Another seed, another order.', shownWhen: { mix: [true] } },
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
    const given = input('any');
    const { sort, direction, attribute, shift, interleave, reverse, mix } = settings;
    const { positions } = given as Curves;
    const keys = sortKeys(sort, direction, attribute, positions, given.attributes);
    const options = { ...settings, keys, nearest: sort === 'nearest' ? positions : null, shuffle: mix ? settings.seed : null };
    if (given.type === 'points') return { any: gatherPoints(given, reordered(0, positions.length / 3, options)) };
    const curves = given;
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
