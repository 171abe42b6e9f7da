import { pointsOf } from '../curves/evaluate/knots.js';
import { expandCopies, expandedSize } from '../geometry/expand.js';
import type { Geometry } from '../geometry/geometry.js';
import type { InputPort } from '../definition/define.js';
import { requireWithin, type Limits } from '../base/limits.js';

/**
 * A geometry as a port takes it.
 * @throws LimitError before copies are expanded to more than is allowed; RangeError for a kind that the port cannot take.
 */
export function converted(value: Geometry, port: InputPort, limits: Limits): Geometry {
  if (port.kinds.includes('any') || port.kinds.includes(value.type)) return value;
  if (value.type === 'curves' && port.kinds.includes('points')) return pointsOf(value);
  if (value.type === 'copies' && port.kinds.includes('mesh')) {
    requireWithin(limits, expandedSize(value));
    return expandCopies(value);
  }
  throw new RangeError(`"${port.name}" got ${value.type}; it takes ${port.kinds.join(' or ')}.`);
}
