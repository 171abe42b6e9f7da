import { firstHit, newRayHit } from '../space/ray.js';
import { newHit } from '../near/nearest.js';
import type { Surface } from '../near/surface.js';

export interface LandingOptions {
  /** `nearest`: to the nearest place; `alongDirection`: to what is met first along the direction, or, where nothing is, against it. */
  method: 'nearest' | 'alongDirection';
  /** Of any length. */
  direction: readonly [number, number, number];
  /** Metres off the surface: outwards from the nearest place, against the direction otherwise. */
  offset: number;
}

/** Finds where places come to lie on a body. */
export class Landing {
  private readonly hit = newHit();
  private readonly ray = newRayHit();
  private readonly from = new Float64Array(3);
  private readonly along: Float64Array;
  private readonly against: Float64Array;
  private readonly outward = new Float64Array(3);

  constructor(
    private readonly body: Surface,
    private readonly options: LandingOptions,
  ) {
    const size = Math.hypot(...options.direction);
    this.along = Float64Array.from(options.direction, (value) => value / size);
    this.against = this.along.map((value) => -value);
  }

  /** Writes where x, y, z comes to lie, and returns the triangle there; −1 where there is nothing of the body, and it stays where it is. */
  land(x: number, y: number, z: number, into: Float32Array | Float64Array, o = 0): number {
    const { body, options, hit, ray, from, along, against, outward } = this;
    if (options.method === 'nearest') {
      body.nearest.nearest(x, y, z, hit);
      if (!body.outward(hit, outward)) outward.fill(0);
      for (let k = 0; k < 3; k++) into[o + k] = hit.place[k] + options.offset * outward[k];
      return hit.piece;
    }
    from[0] = x;
    from[1] = y;
    from[2] = z;
    const { tree } = body.nearest;
    let way = along;
    if (firstHit(tree, from, along, ray).piece < 0) firstHit(tree, from, (way = against), ray);
    const found = ray.piece >= 0;
    for (let k = 0; k < 3; k++) into[o + k] = found ? from[k] + ray.t * way[k] - options.offset * along[k] : from[k];
    return ray.piece;
  }
}
