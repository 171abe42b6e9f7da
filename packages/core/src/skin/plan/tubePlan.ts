import { curveCount, curveKinds, type Curves } from '../../geometry/curves.js';
import { fieldAt, type Field } from '../../values/field.js';

/** How one end of a tube is made. `tip`: the radius runs out to nothing, so the wall closes on one point. */
export type TubeEnd = 'open' | 'flat' | 'domed' | 'tip';

/** What is wrong with the skin of a curve, and where. */
export interface SkinIssue {
  code: 'pinch' | 'degenerate' | 'self-cross' | 'flip';
  curve: number;
  /** Metres from the start of the curve. */
  at: number;
  reason: 'one-point' | 'no-length' | 'no-thickness' | 'turns-back' | 'folds' | 'near-itself' | 'coarse' | 'seam' | 'fork';
  /** Where positions are too coarse: metres between those that 32 bits can hold there, the greatest radius, and the least that would do. */
  grain?: number;
  radius?: number;
  least?: number;
  /** Degrees that a seam turns by, and how many times a turn the section looks the same. */
  turn?: number;
  symmetry?: number;
}

/** The rings of one curve, worked out before anything is allocated. */
export interface TubePlan {
  readonly curve: number;
  readonly closed: boolean;
  /** Where its rings begin in the plans' shared lists, and how many there are. */
  readonly from: number;
  readonly count: number;
  /** Sections at corners stand in the bisecting plane and are stretched so that the tube keeps its thickness: at all of a straight curve's, at kinks of a smooth one. */
  readonly mitred: boolean;
  readonly start: TubeEnd;
  readonly end: TubeEnd;
}

const tubeEnds: readonly TubeEnd[] = ['open', 'flat', 'domed', 'tip'];

/** The rings of all curves in shared lists, so that many short curves cost no more than a few long ones. */
export class TubePlans {
  /** Curves that can be skinned. */
  count = 0;
  /** Point index of each ring, rising within a curve. */
  readonly rings: Uint32Array;
  /** 1 where the wall is creased: the ring has one set of vertices for each side. */
  readonly crease: Uint8Array;
  /** Of each plan: its curve, its first ring, and its other fields packed. */
  private readonly curve: Uint32Array;
  private readonly from: Uint32Array;
  private readonly how: Uint8Array;
  private readonly plan: { -readonly [K in keyof TubePlan]: TubePlan[K] } = {
    curve: 0,
    closed: false,
    from: 0,
    count: 0,
    mitred: false,
    start: 'open',
    end: 'open',
  };

  constructor(curves: number, points: number) {
    this.rings = new Uint32Array(points);
    this.crease = new Uint8Array(points);
    this.curve = new Uint32Array(curves);
    this.from = new Uint32Array(curves + 1);
    this.how = new Uint8Array(curves);
  }

  /** Rings of all plans. */
  get ringCount(): number {
    return this.from[this.count];
  }

  /** Adds the plan of a curve whose `rings` are written behind those of the others. */
  push(curve: number, rings: number, closed: boolean, mitred: boolean, start: TubeEnd, end: TubeEnd): void {
    const k = this.count++;
    this.curve[k] = curve;
    this.from[k + 1] = this.from[k] + rings;
    this.how[k] = tubeEnds.indexOf(start) + tubeEnds.indexOf(end) * 4 + (closed ? 16 : 0) + (mitred ? 32 : 0);
  }

  /** Plan `k`. It is the same object each time: look at one after the other. */
  at(k: number): TubePlan {
    const { plan } = this;
    const how = this.how[k];
    plan.curve = this.curve[k];
    plan.from = this.from[k];
    plan.count = this.from[k + 1] - plan.from;
    plan.closed = (how & 16) !== 0;
    plan.mitred = (how & 32) !== 0;
    plan.start = tubeEnds[how & 3];
    plan.end = tubeEnds[(how >> 2) & 3];
    return plan;
  }
}

/** Corners that turn by more than this are creased. */
const creaseCosine = Math.cos((25 * Math.PI) / 180);

export interface PlanOptions {
  radius: Field;
  caps: 'open' | 'flat' | 'domed';
  corners: 'mitre' | 'asIs';
  ringStep: number;
  pieces?: { readonly open: Uint8Array };
}

/**
 * Chooses the rings of every curve: every k-th point and the last, without points that repeat their predecessor.
 * Curves that cannot be skinned are left out and told in `issues`.
 * @throws RangeError naming curve and point where a radius is negative or not finite.
 */
export function planTubes(curves: Curves, options: PlanOptions, issues: SkinIssue[]): TubePlans {
  const plans = new TubePlans(curveCount(curves), curves.positions.length / 3);
  for (let c = 0; c < curveCount(curves); c++) {
    const points = curves.starts[c + 1] - curves.starts[c];
    if (points === 0) continue;
    const from = plans.ringCount;
    const count = chooseRings(curves, c, options, plans.rings, from);
    if (count < 2) {
      issues.push({ code: 'degenerate', curve: c, at: 0, reason: points < 2 ? 'one-point' : 'no-length' });
      continue;
    }
    const radius = greatestRadius(options.radius, plans.rings, from, count, c, curves.starts[c]);
    const grain = grainOf(curves.positions, plans.rings, from, count);
    if (radius === 0) {
      issues.push({ code: 'degenerate', curve: c, at: 0, reason: 'no-thickness' });
      continue;
    }
    if (grain > radius * coarsest) issues.push({ code: 'degenerate', curve: c, at: 0, reason: 'coarse', grain, radius, least: grain / coarsest });
    planOne(curves, c, plans, count, options);
  }
  return plans;
}

function samePlace(p: Float32Array, a: number, b: number): boolean {
  return p[a * 3] === p[b * 3] && p[a * 3 + 1] === p[b * 3 + 1] && p[a * 3 + 2] === p[b * 3 + 2];
}

/** Writes the rings of a curve to the shared list from `from` on, and returns how many there are; 1 when all lie in one place. */
function chooseRings(curves: Curves, c: number, { radius, ringStep }: PlanOptions, rings: Uint32Array, from: number): number {
  const p = curves.positions;
  const first = curves.starts[c];
  const end = curves.starts[c + 1];
  const closed = curves.closed[c] === 1;
  const step = Math.max(1, Math.floor(ringStep));
  let at = from;
  let spread = false;
  for (let i = first; i < end; i = i + step < end || i === end - 1 || closed ? i + step : end - 1) {
    if (at > from) {
      const last = rings[at - 1];
      const same = samePlace(p, last, i);
      if (same && fieldAt(radius, last) === fieldAt(radius, i)) continue;
      spread ||= !same;
    }
    rings[at++] = i;
  }
  if (closed) while (at - from > 1 && samePlace(p, rings[from], rings[at - 1])) at--;
  return spread ? at - from : 1;
}

/** Positions that are stored more coarsely than this share of the radius make a tube uneven to the eye. */
const coarsest = 1 / 50;

/** Metres between neighbouring 32-bit numbers as large as the furthest coordinate of the rings (IEEE 754: 24 binary digits). */
function grainOf(p: Float32Array, rings: Uint32Array, from: number, count: number): number {
  let furthest = 0;
  for (let k = from; k < from + count; k++)
    for (let at = rings[k] * 3, end = at + 3; at < end; at++) {
      const size = Math.abs(p[at]);
      if (size > furthest) furthest = size;
    }
  return furthest * 2 ** -23;
}

/** @throws RangeError as `planTubes`. */
function greatestRadius(radius: Field, rings: Uint32Array, from: number, count: number, c: number, first: number): number {
  let greatest = 0;
  for (let k = from; k < from + count; k++) {
    const r = fieldAt(radius, rings[k]);
    if (!(r >= 0) || !(r <= 1e30)) throw new RangeError(`The radius at point ${rings[k] - first + 1} of curve ${c + 1} is ${r} m; it must be 0 or more.`);
    if (r > greatest) greatest = r;
  }
  return greatest;
}

function endOf(closed: boolean, radius: number, caps: PlanOptions['caps']): TubeEnd {
  if (closed) return 'open';
  return radius === 0 ? 'tip' : caps;
}

function planOne(curves: Curves, c: number, plans: TubePlans, count: number, { radius, caps, corners, pieces }: PlanOptions): void {
  const { rings, crease, ringCount: from } = plans;
  const closed = curves.closed[c] === 1 && count > 2;
  const straight = curveKinds[curves.kind[c]] === 'straight';
  let mitred = corners === 'mitre' && straight;
  if (corners === 'mitre')
    for (let i = closed ? 0 : 1; i < (closed ? count : count - 1); i++)
      if ((straight ? turnCosine(curves.positions, rings, from, count, i) : kinkCosine(curves, rings[from + i])) < creaseCosine) {
        crease[from + i] = 1;
        mitred = true;
      }
  const open = pieces?.open[c] ?? 0;
  const start = open & 1 ? 'open' : endOf(closed, fieldAt(radius, rings[from]), caps);
  const end = open & 2 ? 'open' : endOf(closed, fieldAt(radius, rings[from + count - 1]), caps);
  plans.push(c, count, closed, mitred, start, end);
}

/** Cosine of the angle between the directions in which a Bezier curve arrives at a point and leaves it; 1 where it has no handles there. */
function kinkCosine({ attributes }: Curves, point: number): number {
  const [into, out] = [attributes.get('handleIn')?.data, attributes.get('handleOut')?.data];
  if (!into || !out) return 1;
  const o = point * 3;
  const size = Math.hypot(into[o], into[o + 1], into[o + 2]) * Math.hypot(out[o], out[o + 1], out[o + 2]);
  return size > 0 ? -(into[o] * out[o] + into[o + 1] * out[o + 1] + into[o + 2] * out[o + 2]) / size : 1;
}

/** Cosine of the angle by which the path turns at ring `i` of the `count` rings from `from`; 1 where a neighbour coincides. */
export function turnCosine(p: Float32Array, rings: Uint32Array, from: number, count: number, i: number): number {
  const a = rings[from + (i > 0 ? i - 1 : count - 1)] * 3;
  const b = rings[from + i] * 3;
  const d = rings[from + (i + 1 < count ? i + 1 : 0)] * 3;
  const ux = p[b] - p[a];
  const uy = p[b + 1] - p[a + 1];
  const uz = p[b + 2] - p[a + 2];
  const vx = p[d] - p[b];
  const vy = p[d + 1] - p[b + 1];
  const vz = p[d + 2] - p[b + 2];
  const size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz));
  return size > 0 ? Math.min(1, Math.max(-1, (ux * vx + uy * vy + uz * vz) / size)) : 1;
}
