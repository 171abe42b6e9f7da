import type { Memory } from '../../base/work.js';
import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { curveOfPoints, type Curves } from '../../geometry/curves.js';

/** What the skin has of its own, or what only says how a curve runs. */
const notCarried = new Set(['tangent', 'normal', 'handleIn', 'handleOut', 'axes', 'uv', 'part', 'body', 'material']);

/** True when curves have values that a skin along them can carry. */
export const carriesValues = ({ attributes }: Curves): boolean => [...attributes.keys()].some((name) => !notCarried.has(name));

/** Values of points and curves as values of the vertices that stand at those points, and values of the whole as they are. */
export function carriedValues(curves: Curves, source: Uint32Array, memory: Memory): [string, Attribute][] {
  let curveOf: Uint32Array | null = null;
  const bySource = (): Uint32Array => {
    if (!curveOf) {
      const curve = curveOfPoints(curves);
      curveOf = memory.uint32(source.length);
      for (let i = 0; i < source.length; i++) curveOf[i] = curve[source[i]];
    }
    return curveOf;
  };
  return [...curves.attributes].flatMap(([name, attribute]): [string, Attribute][] => {
    if (notCarried.has(name)) return [];
    if (attribute.carrier === 'whole') return [[name, attribute]];
    const rows = attribute.carrier === 'curve' ? bySource() : source;
    return [[name, { carrier: 'corner', size: attribute.size, data: gatherRows(attribute, rows, memory) }]];
  });
}
