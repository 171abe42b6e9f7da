import type { Curves } from '../geometry/curves.js';
import { newHit } from '../near/nearest.js';
import type { Surface } from '../near/surface.js';
import { tick, type Work } from '../base/work.js';
import { framedOutwards } from './frames.js';

/** Vines laid on another body than they grew on, as far off it; what hangs free stays. */
export function laidOn(curves: Curves, body: Surface, offset: number, work: Work): Curves {
  const positions = curves.positions.slice();
  const normal = curves.attributes.get('normal')!.data.slice();
  const hangs = curves.attributes.get('hangs')!.data;
  const hit = newHit();
  const out = new Float64Array(3);
  for (let i = 0; i < hangs.length; i++) {
    tick(work, i, hangs.length);
    if (hangs[i]) continue;
    body.nearest.nearest(positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2], hit);
    if (!body.outward(hit, out)) continue;
    for (let k = 0; k < 3; k++) {
      positions[i * 3 + k] = hit.place[k] + out[k] * offset;
      normal[i * 3 + k] = out[k];
    }
  }
  return framedOutwards({ ...curves, positions }, normal);
}
