import { curveCount, type Curves } from '../geometry/curves.js';
import { asBezier, throughMoved } from '../curves/evaluate/knots.js';
import { tick, type Work } from '../base/work.js';
import { newHit } from '../near/nearest.js';
import type { Surface } from '../near/surface.js';

export interface KeepOutsideOptions {
  /** Metres off the body at least. */
  padding: number;
  /** The first point of each curve stays where it is. */
  keepRoots: boolean;
  /** The last point of each curve stays where it is. */
  keepTips: boolean;
  /** Pieces keep their lengths as far as the body lets them. */
  keepLength: boolean;
  /** How often what was moved is looked at again. */
  iterations: number;
}

/** What is nearer than the padding by no more than this stays: it was put there in 32 bits. */
const enough = 1e-6;

/**
 * Moves every point that lies in a body, or nearer to it than the padding, out to the padding from the nearest place. Points outside do not move at all.
 * Between two bodies, or in a narrow corner, one move may lead into another wall, so moved points are looked at again; `left` counts those that are still
 * too near afterwards. With `keepLength` what follows a moved point is drawn after it, from the root to the tip.
 */
export function keepOutside(given: Curves, body: Surface, options: KeepOutsideOptions, work: Work): { curves: Curves; left: number } {
  const curves = asBezier(given);
  const p = Float32Array.from(curves.positions);
  const changed = new Uint8Array(p.length / 3);
  const pusher = new Pusher(body, options.padding);
  let left = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    if (c % 64 === 0) work.progress(c / curveCount(curves));
    const from = curves.starts[c] + (options.keepRoots ? 1 : 0);
    const to = curves.starts[c + 1] - (options.keepTips ? 1 : 0);
    let pushed = false;
    for (let i = from; i < to; i++) {
      tick(work, i, changed.length);
      if (!pusher.push(p, i, options.iterations)) continue;
      changed[i] = 1;
      pushed = true;
    }
    if (!pushed || !options.keepLength) continue;
    for (let turn = 0; turn < options.iterations; turn++) {
      drawAfter(p, curves.positions, Math.max(from, curves.starts[c] + 1), to, changed);
      for (let i = from; i < to; i++) if (changed[i] && pusher.push(p, i, options.iterations)) changed[i] = 1;
    }
  }
  for (let i = 0; i < changed.length; i++) if (changed[i] && pusher.depth(p, i) > 1e-4) left++;
  return { curves: throughMoved(curves, p), left };
}

/** From the first moved point on, each point follows the one before it at the distance it was given with. */
function drawAfter(p: Float32Array, given: Float32Array, from: number, to: number, changed: Uint8Array): void {
  let drawn = changed[from - 1] === 1;
  for (let i = from; i < to; i++) {
    drawn ||= changed[i] === 1;
    if (!drawn) continue;
    const [a, b] = [(i - 1) * 3, i * 3];
    const wanted = Math.hypot(given[b] - given[a], given[b + 1] - given[a + 1], given[b + 2] - given[a + 2]);
    const now = Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);
    if (!(now > 0) || Math.abs(now - wanted) <= 1e-7 * wanted) continue;
    changed[i] = 1;
    for (let k = 0; k < 3; k++) p[b + k] = p[a + k] + ((p[b + k] - p[a + k]) / now) * wanted;
  }
}

class Pusher {
  private readonly hit = newHit();
  private readonly outward = new Float64Array(3);

  constructor(
    private readonly body: Surface,
    private readonly padding: number,
  ) {}

  /** Metres by which a point is nearer than the padding; 0 or less: far enough. The hit is its nearest place. */
  depth(p: Float32Array, i: number): number {
    return this.padding - this.body.signedDistance(p[i * 3], p[i * 3 + 1], p[i * 3 + 2], this.hit);
  }

  /** Moves a point out, and returns whether it moved. */
  push(p: Float32Array, i: number, times: number): boolean {
    const { body, hit, outward, padding } = this;
    const o = i * 3;
    for (let turn = 0; turn < times; turn++) {
      const depth = this.depth(p, i);
      if (!(depth > enough)) return turn > 0;
      const inside = depth > padding;
      // Out of the body along its normal; off it, straight away from the nearest place.
      if (inside || hit.distance < 1e-9) body.outward(hit, outward);
      else for (let k = 0; k < 3; k++) outward[k] = (p[o + k] - hit.place[k]) / hit.distance;
      for (let k = 0; k < 3; k++) p[o + k] = hit.place[k] + outward[k] * padding;
    }
    return true;
  }
}
