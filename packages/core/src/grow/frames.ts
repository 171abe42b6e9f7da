import { withAttributes } from '../geometry/attributes.js';
import type { Curves } from '../geometry/curves.js';
import { tangentsOf } from '../curves/evaluate/tangents.js';

/** Curves with frames at their points: tangents along them, and normals as near to `outward` (3 numbers a point) as is across them, so that what lies flat on a body lies flat along the curve. */
export function framedOutwards(curves: Curves, outward: Float32Array): Curves {
  const tangent = Float32Array.from(tangentsOf(curves));
  const normal = new Float32Array(outward.length);
  for (let i = 0; i < normal.length; i += 3) {
    const [tx, ty, tz] = tangent.subarray(i, i + 3);
    const along = outward[i] * tx + outward[i + 1] * ty + outward[i + 2] * tz;
    let [x, y, z] = [outward[i] - along * tx, outward[i + 1] - along * ty, outward[i + 2] - along * tz];
    let size = Math.sqrt(x * x + y * y + z * z);
    if (!(size > 1e-6)) {
      // Straight out: any way across.
      [x, y, z] = Math.abs(tx) < 0.8 ? [1 - tx * tx, -tx * ty, -tx * tz] : [-tx * ty, 1 - ty * ty, -ty * tz];
      size = Math.sqrt(x * x + y * y + z * z) || 1;
    }
    normal[i] = x / size;
    normal[i + 1] = y / size;
    normal[i + 2] = z / size;
  }
  return {
    ...curves,
    attributes: withAttributes(curves.attributes, {
      tangent: { carrier: 'point', size: 3, data: tangent },
      normal: { carrier: 'point', size: 3, data: normal },
    }),
  };
}
