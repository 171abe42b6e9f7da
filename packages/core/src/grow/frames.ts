import { withAttributes } from '../geometry/attributes.js';
import type { Curves } from '../geometry/curves.js';
import { tangentsOf } from '../curves/evaluate/tangents.js';
import { perpendicular } from '../curves/evaluate/transport.js';

/** Curves with frames at their points: tangents along them, and normals as near to `outward` (3 numbers a point) as is across them, so that what lies flat on a body lies flat along the curve. */
export function framedOutwards(curves: Curves, outward: Float32Array): Curves {
  const tangent = Float32Array.from(tangentsOf(curves));
  const normal = new Float32Array(outward.length);
  const away = [0, 0, 0];
  for (let i = 0; i < normal.length; i += 3) {
    for (let k = 0; k < 3; k++) away[k] = outward[i + k];
    perpendicular(away, tangent[i], tangent[i + 1], tangent[i + 2], normal, i);
  }
  return {
    ...curves,
    attributes: withAttributes(curves.attributes, {
      tangent: { carrier: 'point', size: 3, data: tangent },
      normal: { carrier: 'point', size: 3, data: normal },
    }),
  };
}
