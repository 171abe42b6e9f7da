import { withAttributes } from '../geometry/attributes.js';
import { tick, unbounded, type Work } from '../base/work.js';
import type { Geometry } from '../geometry/geometry.js';

export const summaryFigures = ['min', 'max', 'mean', 'sum', 'count'] as const;
export type SummaryFigure = (typeof summaryFigures)[number];

interface Sums {
  count: number;
  sum: number;
  min: number;
  max: number;
}

const figureOf = ({ count, sum, min, max }: Sums, figure: SummaryFigure): number => {
  if (figure === 'count') return count;
  if (figure === 'sum') return sum;
  if (!count) return NaN;
  return figure === 'mean' ? sum / count : figure === 'min' ? min : max;
};

/**
 * One figure of an attribute of one number an element, and the geometry with the figure of each group written back as `<name>_<figure>` when a
 * group attribute on the same elements is named. Values that are not finite are left out, and counted.
 * @throws RangeError naming an attribute that is missing, of several numbers, or on other elements than its group; or when no value is finite.
 */
export function summarise(
  geometry: Geometry,
  name: string,
  figure: SummaryFigure,
  group: string,
  work: Work = unbounded,
): { value: number; geometry: Geometry; leftOut: number } {
  const attribute = geometry.attributes.get(name);
  const known = [...geometry.attributes.keys()].join(', ') || 'none';
  if (!attribute) throw new RangeError(`There is no attribute "${name}"; there are ${known}.`);
  if (attribute.size !== 1) throw new RangeError(`"${name}" has ${attribute.size} numbers an element; a summary takes one.`);
  const by = group ? geometry.attributes.get(group) : null;
  if (by === undefined) throw new RangeError(`There is no attribute "${group}" to group by; there are ${known}.`);
  if (by && (by.carrier !== attribute.carrier || by.size !== 1))
    throw new RangeError(`"${group}" must be one number of each ${attribute.carrier}, as "${name}" is; it is ${by.size} of each ${by.carrier}.`);
  const groups = new Map<number, Sums>();
  const whole: Sums = { count: 0, sum: 0, min: Infinity, max: -Infinity };
  let leftOut = 0;
  attribute.data.forEach((value, i) => {
    tick(work, i, attribute.data.length);
    if (!Number.isFinite(value)) {
      leftOut++;
      return;
    }
    const key = by ? by.data[i] : 0;
    let own = groups.get(key);
    if (!own) groups.set(key, (own = { count: 0, sum: 0, min: Infinity, max: -Infinity }));
    for (const sums of [whole, own]) {
      sums.count++;
      sums.sum += value;
      sums.min = Math.min(sums.min, value);
      sums.max = Math.max(sums.max, value);
    }
  });
  const value = figureOf(whole, figure);
  if (!Number.isFinite(value)) throw new RangeError(`"${name}" has no finite value to take the ${figure} of.`);
  if (!by) return { value, geometry, leftOut };
  const data = Float32Array.from(by.data, (key) => {
    const own = groups.get(key);
    return own ? figureOf(own, figure) : 0;
  });
  const written = withAttributes(geometry.attributes, { [`${name}_${figure}`]: { carrier: attribute.carrier, size: 1, data } });
  return { value, geometry: { ...geometry, attributes: written }, leftOut };
}
