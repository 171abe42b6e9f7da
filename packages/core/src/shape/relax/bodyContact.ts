import { newHit } from '../../near/nearest.js';
import type { Surface } from '../../near/surface.js';
import type { Rope } from './rope.js';

/** How many steps a contact plane is kept before the body is asked anew. */
const keptFor = 6;

/** How fast the load follows the depth. */
const bearing = 1;

/** Keeps the points of one rope a radius off a body. Planes through the nearest places stand for the body until it is asked again. */
export class BodyContact {
  private readonly hit = newHit();
  private readonly outward = new Float64Array(3);
  /** For each point the plane that it is to stay above: normal and height, and whether there is one. */
  private readonly planes: Float64Array;
  private readonly near: Uint8Array;
  /**
   * How hard the body bears each point, as the way that it moves a loose point in a step. It is part of the balance of the rope (Uzawa’s method: Arrow, Hurwicz & Uzawa 1958): were
   * points only put back after each step, the pull of a rope round a body would stretch it a little every time.
   */
  private readonly load: Float64Array;
  private steps = 0;

  constructor(
    private readonly body: Surface,
    private readonly radius: number,
    private readonly friction: number,
    /** Metres that a point may go in one step. */
    private readonly most: number,
    n: number,
  ) {
    this.planes = new Float64Array(n * 4);
    this.near = new Uint8Array(n);
    this.load = new Float64Array(n);
  }

  resolve(rope: Rope): void {
    if (this.steps++ % keptFor === 0) this.ask(rope);
    const { planes, near, radius, load } = this;
    const { p, free } = rope;
    for (let i = 0; i < rope.n; i++) {
      if (!near[i] || !free[i]) continue;
      const [o, q] = [i * 3, i * 4];
      const depth = radius + planes[q + 3] - (p[o] * planes[q] + p[o + 1] * planes[q + 1] + p[o + 2] * planes[q + 2]);
      // Well off the body nothing is borne, however hard it was before.
      load[i] = depth < -radius * 0.1 ? 0 : Math.max(0, load[i] + depth * bearing);
      if (depth > 0) for (let k = 0; k < 3; k++) p[o + k] += depth * planes[q + k];
      // How hard it presses, as what the load moves the rope by here.
      const pressed = rope.borne[o] * planes[q] + rope.borne[o + 1] * planes[q + 1] + rope.borne[o + 2] * planes[q + 2];
      if (load[i] > 0) rope.slow(i, planes[q], planes[q + 1], planes[q + 2], this.friction * Math.max(0, pressed));
    }
  }

  /** Adds what the body bears to the balance of a rope, 3 numbers a point. */
  bear(balance: Float64Array): void {
    const { planes, load, near } = this;
    for (let i = 0; i < load.length; i++) if (near[i] && load[i] > 0) for (let k = 0; k < 3; k++) balance[i * 3 + k] += load[i] * planes[i * 4 + k];
  }

  /** Takes every point that is too near out, once, by the body itself. Returns how much too near the worst still is. */
  settle(rope: Rope): number {
    let worst = 0;
    for (let i = 0; i < rope.n; i++) {
      if (!rope.free[i]) continue;
      for (let turn = 0; turn < 4; turn++) {
        const depth = this.radius - this.distance(rope, i);
        if (!(depth > 0)) break;
        if (turn === 3) worst = Math.max(worst, depth);
        this.plane(rope, i);
        const q = i * 4;
        const away = rope.p[i * 3] * this.planes[q] + rope.p[i * 3 + 1] * this.planes[q + 1] + rope.p[i * 3 + 2] * this.planes[q + 2] - this.planes[q + 3];
        for (let k = 0; k < 3; k++) rope.p[i * 3 + k] += (this.radius + 1e-7 - away) * this.planes[q + k];
      }
    }
    return worst;
  }

  /** Points that lie deeper in the body than the radius: those nearer to its skin are only drawn a little coarsely. */
  inside(rope: Rope): number {
    let count = 0;
    for (let i = 0; i < rope.n; i++) if (rope.free[i] && this.distance(rope, i) < -this.radius) count++;
    return count;
  }

  private distance(rope: Rope, i: number): number {
    return this.body.signedDistance(rope.p[i * 3], rope.p[i * 3 + 1], rope.p[i * 3 + 2], this.hit);
  }

  private ask(rope: Rope): void {
    const reach = this.radius + this.most * keptFor * 2;
    for (let i = 0; i < rope.n; i++) {
      if (!rope.free[i]) continue;
      const [x, y, z] = [rope.p[i * 3], rope.p[i * 3 + 1], rope.p[i * 3 + 2]];
      this.body.nearest.nearest(x, y, z, this.hit, reach);
      this.near[i] = Number(this.hit.piece >= 0);
      if (this.near[i]) this.plane(rope, i);
      if (!this.near[i]) this.load[i] = 0;
    }
  }

  /** The plane through the place that was found last, square to the way from there to the point, or out of the body where the point is in it. */
  private plane(rope: Rope, i: number): void {
    const { hit, outward, planes } = this;
    if (!this.body.outward(hit, outward)) return void (this.near[i] = 0);
    const q = i * 4;
    const way = [0, 1, 2].map((k) => rope.p[i * 3 + k] - hit.place[k]);
    const outside = way[0] * outward[0] + way[1] * outward[1] + way[2] * outward[2] > 0;
    if (outside && hit.distance > 1e-9) for (let k = 0; k < 3; k++) outward[k] = way[k] / hit.distance;
    for (let k = 0; k < 3; k++) planes[q + k] = outward[k];
    planes[q + 3] = outward[0] * hit.place[0] + outward[1] * hit.place[1] + outward[2] * hit.place[2];
  }
}
