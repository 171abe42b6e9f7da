import { curvesOut } from '../../definition/ports.js';
import { arcsThrough } from '../../curves/make/arcThrough.js';
import type { Points } from '../../geometry/points.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { lineOf, type SampleNode } from '../../definition/sample.js';
import { pairedCount, unequalSetting } from '../settings/unequal.js';

const placesOf = ({ positions }: Points, count: number): number[][] => {
  const own = positions.length / 3;
  return Array.from({ length: count }, (_, i) => [0, 1, 2].map((k) => positions[(i % own) * 3 + k]));
};

/** Points along z, at a place across. */
const pointsOf = ([x, y]: readonly [number, number]): SampleNode => ({ type: 'pace.points', given: { curves: lineOf([x, y, -1], [x, y, 1], 5) } });

export default defineNode({
  type: 'lay.arc3',
  label: 'Arc through three points',
  family: families.lay,
  summary: 'One arc through each triple of points: first of a, first of b, first of c, and so on.',
  help: 'Takes three lists of points (or curves, whose points are used) and lays an arc from each point of a over that of b to that of c. The points on an arc are even and their directions exact. Three points in a line give a straight line and a warning. Lists of different lengths are refused unless you choose otherwise.',
  keywords: ['arch', 'bow', 'circle', 'triple', 'rib', 'three'],
  asks: {
    'an arc through three points': {},
    'an arch between points': {},
  },
  telling: ['points'],
  sample: { given: { a: pointsOf([-1, 0]), b: pointsOf([0, 1]), c: pointsOf([1, 0]) } },
  usualAfter: { points: 4 },
  inputs: [
    { name: 'a', kinds: ['points'] },
    { name: 'b', kinds: ['points'] },
    { name: 'c', kinds: ['points'] },
  ],
  outputs: [curvesOut],
  settings: {
    points: { kind: 'integer', label: 'Points', help: 'Points on each arc, both ends included.', default: 16, min: 2, max: 100_000 },
    ...unequalSetting,
  },
  run: (context) => {
    const { settings, input, claim, warn } = context;
    const lists = [input('a'), input('b'), input('c')];
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
