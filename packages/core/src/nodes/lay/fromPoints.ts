import { arcsThrough } from '../../curves/arcThrough.js';
import { nearestNext } from '../../curves/reorder.js';
import { curveKinds, makeCurves } from '../../geometry/curves.js';
import { gatherPoints } from '../../geometry/gather.js';
import type { Points } from '../../geometry/points.js';
import { withAttributes } from '../../geometry/attributes.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';
import { pairedCount, unequalSetting } from '../unequal.js';

const placesOf = ({ positions }: Points, count: number): number[][] => {
  const own = positions.length / 3;
  return Array.from({ length: count }, (_, i) => [0, 1, 2].map((k) => positions[(i % own) * 3 + k]));
};

export const arc3 = defineNode({
  type: 'lay.arc3',
  label: 'Arc through three points',
  family: families.lay,
  summary: 'One arc through each triple of points: first of a, first of b, first of c, and so on.',
  help: 'Takes three lists of points (or curves, whose points are used) and lays an arc from each point of a over that of b to that of c. The points on an arc are even and their directions exact. Three points in a line give a straight line and a warning. Lists of different lengths are refused unless you choose otherwise.',
  keywords: ['arch', 'bow', 'circle', 'triple', 'rib', 'three'],
  inputs: [
    { name: 'a', kinds: ['points'] },
    { name: 'b', kinds: ['points'] },
    { name: 'c', kinds: ['points'] },
  ],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    points: { kind: 'integer', label: 'Points', help: 'Points on each arc, both ends included.', default: 16, min: 2, max: 100_000 },
    ...unequalSetting,
  },
  run: (context) => {
    const { settings, points, claim, warn } = context;
    const lists = [points('a'), points('b'), points('c')];
    const [a, b, c] = lists.map(({ positions }) => positions.length / 3);
    const count = pairedCount({ a, b, c }, settings.unequal);
    claim({ points: count * settings.points });
    const [p, q, r] = lists.map((list) => placesOf(list, count));
    const { curves, collinear } = arcsThrough(p, q, r, settings.points, context);
    for (const curve of collinear.slice(0, 50))
      warn({
        code: 'collinear',
        curve,
        at: 0,
        message: `The three points of arc ${curve} lie in a line, so it is a straight line.`,
        remedy: 'Move the middle point off the line.',
      });
    if (collinear.length > 50) warn({ code: 'collinear', message: `And ${collinear.length - 50} more like these.` });
    return { curves };
  },
});

export const throughPoints = defineNode({
  type: 'lay.throughPoints',
  label: 'Curve through points',
  family: families.lay,
  summary: 'One curve through all points that come in.',
  help: 'Joins the points in their order, sorted by a value, or each to the nearest one left. Straight joins them by lines, through runs smoothly through them, B-spline is drawn toward them. Values on the points are kept; frames are not.',
  attributes: { keeps: ['point', 'whole'], drops: ['tangent', 'normal', 't', 's'] },
  keywords: ['connect', 'polyline', 'spline', 'interpolate', 'path', 'trace'],
  inputs: [{ name: 'points', kinds: ['points'] }],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    kind: {
      kind: 'choice',
      label: 'Kind',
      help: 'How the curve runs between the points.',
      default: 'through',
      choices: { through: 'through the points', straight: 'straight', bspline: 'B-spline' },
    },
    closed: { kind: 'boolean', label: 'Closed', help: 'Leads back to the first point.', default: false },
    order: {
      kind: 'choice',
      label: 'Order',
      help: 'As the points come, by a value on them, or to the nearest one next.',
      default: 'asGiven',
      choices: { asGiven: 'as given', byAttribute: 'by attribute', nearestNext: 'nearest next' },
    },
    attribute: { kind: 'text', label: 'Attribute', help: 'The value to sort by, rising.', default: 't', shownWhen: { order: ['byAttribute'] } },
  },
  run: ({ settings, points, warn }) => {
    const given = points('points');
    const count = given.positions.length / 3;
    let order = Array.from({ length: count }, (_, i) => i);
    if (settings.order === 'nearestNext') {
      if (count > 20_000) throw new RangeError(`Ordering ${count} points by nearest next takes too long; the limit is 20,000.`);
      order = nearestNext(given.positions);
    } else if (settings.order === 'byAttribute') {
      const values = given.attributes.get(settings.attribute);
      if (!values || values.size !== 1)
        throw new RangeError(`The points have no number "${settings.attribute}"; they have ${[...given.attributes.keys()].join(', ') || 'none'}.`);
      order.sort((a, b) => values.data[a] - values.data[b] || a - b);
    }
    const closed = settings.closed && count > 2;
    if (settings.closed && !closed)
      warn({ code: 'not-closed', message: `${count} points cannot be closed; the curve stays open.`, remedy: 'Give it a third point.' });
    const sorted = gatherPoints(given, order);
    const attributes = withAttributes(sorted.attributes, { tangent: null, normal: null, handleIn: null, handleOut: null, t: null, s: null });
    return {
      curves: makeCurves({
        positions: sorted.positions,
        starts: Uint32Array.of(0, count),
        closed: Uint8Array.of(closed ? 1 : 0),
        kind: Uint8Array.of(curveKinds.indexOf(settings.kind)),
        attributes,
      }),
    };
  },
});
