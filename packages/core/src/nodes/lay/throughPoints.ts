import { curvesOut, pointsIn } from '../../definition/ports.js';
import { nearestNext } from '../../curves/change/reorder.js';
import { curveKinds, makeCurves } from '../../geometry/curves.js';
import { gatherPoints } from '../../geometry/gather.js';
import { withAttributes } from '../../geometry/attributes.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'lay.throughPoints',
  label: 'Curve through points',
  family: families.lay,
  summary: 'One curve through all points that come in.',
  help: 'Joins the points in their order, sorted by a value, or each to the nearest one left. Straight joins them by lines, through runs smoothly through them, B-spline is drawn toward them. Values on the points are kept; frames are not.',
  attributes: { keeps: ['point', 'whole'], drops: ['tangent', 'normal', 't', 's'] },
  keywords: ['connect', 'interpolate', 'polyline', 'spline', 'path', 'trace'],
  asks: {
    'a curve through points': {},
    'connect points in order': { kind: 'straight' },
    'connect the nearest points': { order: 'nearestNext' },
    'a loop through points': { closed: true },
  },
  telling: ['kind', 'closed'],
  usualAfter: { points: 2 },
  inputs: [pointsIn],
  outputs: [curvesOut],
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
  run: ({ settings, input, warn }) => {
    const given = input('points');
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
