import { withAttributes } from '../../geometry/attributes.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { seamJump } from './seamJump.js';
import { tangentsOf } from './tangents.js';
import { leastRotation, perpendicular, turnAbout, twistBetween } from './transport.js';

/** Where each new point lies on the curves it was made from: between points `a` and `b`, at `share` of the way (0 at `a`). */
export interface Between {
  readonly a: ArrayLike<number>;
  readonly b: ArrayLike<number>;
  readonly share: ArrayLike<number>;
}

/**
 * New points of curves with the frames that the old points had: at an old point its own, between two of them carried by the least rotation and turned
 * by the share of what the frame turns from one to the other. The attribute `roll` tells whole turns from none. Curves without frames are returned as
 * they are; where only some have them, the others keep normals of 0 (see `framesOf`).
 */
export function carryFrames(given: Curves, made: Curves, { a, b, share }: Between): Curves {
  const [tangent, normal, roll] = ['tangent', 'normal', 'roll'].map((name) => given.attributes.get(name));
  if (tangent?.carrier !== 'point' || normal?.carrier !== 'point') return made;
  const [t, n] = [tangent.data, normal.data];
  const tangents = tangentsOf(made);
  const normals = new Float32Array(tangents.length);
  const r = new Float64Array(3);
  for (let c = 0; c < curveCount(made); c++) {
    const first = a[made.starts[c]] * 3;
    if (made.starts[c] === made.starts[c + 1] || (!n[first] && !n[first + 1] && !n[first + 2])) continue;
    for (let i = made.starts[c]; i < made.starts[c + 1]; i++) {
      const from = a[i] * 3;
      const o = i * 3;
      for (let k = 0; k < 3; k++) r[k] = n[from + k];
      leastRotation(r, t[from], t[from + 1], t[from + 2], tangents[o], tangents[o + 1], tangents[o + 2]);
      perpendicular(r, tangents[o], tangents[o + 1], tangents[o + 2], normals, o);
      if (!(share[i] > 0) || a[i] === b[i]) continue;
      let turn = twistBetween(given.positions, t, n, a[i], b[i]);
      if (roll?.carrier === 'point') {
        const rolled = ((roll.data[b[i]] - roll.data[a[i]]) * Math.PI) / 180;
        turn += 2 * Math.PI * Math.round((rolled - turn) / (2 * Math.PI));
      }
      // Over the seam of a closed curve frames go on as they did, so that what jumps there still does so between two points alone.
      if (b[i] < a[i]) turn -= jumpOver(given, t, n, b[i], a[i]);
      turnAbout(tangents, normals, o, turn * share[i]);
    }
  }
  return {
    ...made,
    attributes: withAttributes(made.attributes, {
      tangent: { carrier: 'point', size: 3, data: tangents },
      normal: { carrier: 'point', size: 3, data: normals },
    }),
  };
}

/** What the frames of a closed curve of points `first` to `last` jump from the last to the first. */
function jumpOver({ positions }: Curves, tangent: Float32Array, normal: Float32Array, first: number, last: number): number {
  const count = last - first + 1;
  return count < 3 ? 0 : seamJump(positions, { tangent, normal }, (k) => first + ((k + count) % count), null).jump;
}
