import { gatherRows, type Attribute } from '../geometry/attributes.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { makePoints, type Points } from '../geometry/points.js';
import { AlongCurve } from '../curves/evaluate/alongCurve.js';
import { framesOf } from '../curves/evaluate/frames.js';
import { asBezier } from '../curves/evaluate/knots.js';
import { PlacedCurves, PlaceList, runValues } from '../curves/evaluate/places.js';
import { tick, type Work } from '../base/work.js';
import { hash, randomAt } from '../values/random.js';

export interface ScatterOnCurvesOptions {
  count: number;
  seed: number;
  /** Fractions of the length between which points lie; beyond 0…1 they are taken as the ends. */
  least: number;
  greatest: number;
  /** `equalChance`: each curve is as likely as the others; `byLength`: each metre is. */
  share: 'equalChance' | 'byLength';
  /** Metres along a curve between its points at least; 0: none. */
  minGap: number;
}

/** How often a point that lies too near to another is drawn again. */
const tries = 40;

/** Metres along each curve that have been taken, rising, and the points that took them. */
interface Taken {
  readonly s: number[];
  readonly points: number[];
}

/**
 * Points at random places of curves: each draws its own curve, and its own place along it. The same seed draws the same, and more points keep those there
 * were. Points carry `tangent` and `normal` (of the curve's frames), `t`, `s`, the number of their `curve` and their own as `id`, with the curve's values. Curves
 * without length get none. `left` counts points that found no place with the gap.
 * @throws RangeError when least is greater than greatest.
 */
export function scatterOnCurves(given: Curves, options: ScatterOnCurvesOptions, work: Work): { points: Points; left: number } {
  const { count, seed, share, minGap } = options;
  const [least, greatest] = [options.least, options.greatest].map((value) => Math.min(1, Math.max(0, value)));
  if (least > greatest) throw new RangeError(`The least fraction is ${options.least} and the greatest ${options.greatest}; the least must not be more.`);
  const curves = asBezier(given, true);
  const { normal } = framesOf(curves);
  const along = Array.from({ length: curveCount(curves) }, (_, c) => new AlongCurve(curves, c, normal));
  const usable = along.flatMap(({ total }, c) => (total > 0 ? [c] : []));
  const ends: number[] = [];
  for (const c of usable) ends.push((ends[ends.length - 1] ?? 0) + along[c].total);
  const taken = new Map<number, Taken>();
  let left = 0;
  for (let i = 0; i < count && usable.length; i++) {
    tick(work, i, count);
    const draw = randomAt(hash(seed, 1), i);
    const c = usable[share === 'equalChance' ? Math.min(usable.length - 1, Math.floor(draw * usable.length)) : firstAbove(ends, draw * ends[ends.length - 1])];
    const { total } = along[c];
    let own = taken.get(c);
    if (!own) taken.set(c, (own = { s: [], points: [] }));
    const around = curves.closed[c] === 1 && minGap > 0 ? total : 0;
    let found = false;
    for (let turn = 0; turn < (minGap > 0 ? tries : 1) && !found; turn++) {
      const s = (least + (greatest - least) * randomAt(hash(seed, 2 + turn), i)) * total;
      const at = firstAbove(own.s, s);
      found = !(minGap > 0) || isFree(own.s, at, s, minGap, around);
      if (!found) continue;
      own.s.splice(at, 0, s);
      own.points.splice(at, 0, i);
    }
    if (!found) left++;
  }
  return { points: pointsAt(curves, along, taken), left: usable.length ? left : 0 };
}

/** Index of the first number of a rising list that is above a value; the last index at least for lists of ends. */
function firstAbove(list: readonly number[], value: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle] <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

function isFree(list: readonly number[], at: number, s: number, gap: number, around: number): boolean {
  const [before, after] = [at > 0 ? list[at - 1] : list[list.length - 1] - around, at < list.length ? list[at] : list[0] + around];
  const open = around === 0;
  return !((at > 0 || !open) && s - before < gap) && !((at < list.length || !open) && after - s < gap);
}

/** Points at metres along curves, in the order of their numbers. */
function pointsAt(curves: Curves, along: readonly AlongCurve[], taken: ReadonlyMap<number, Taken>): Points {
  const placed = new PlacedCurves(curves);
  const places = new PlaceList();
  const order: number[] = [];
  const [curve, t, s, tangent, normal]: number[][] = [[], [], [], [], []];
  for (const c of [...taken.keys()].sort((a, b) => a - b)) {
    const own = taken.get(c)!;
    const { spans, total } = along[c];
    places.clear();
    own.s.forEach((metres, k) => {
      const { span, u } = along[c].spanAt(metres);
      places.push(span, u, metres);
      order.push(own.points[k]);
      curve.push(c);
      s.push(metres);
      t.push(metres / total);
      const frame = along[c].frame(metres);
      tangent.push(...frame.tangent);
      normal.push(...frame.normal);
    });
    placed.add(c, spans, places, { closed: false, handles: { total }, tangents: false });
  }
  const made = placed.finish();
  const rows: Attribute = { carrier: 'point', size: 3, data: made.positions };
  // Back in the order that they were drawn in.
  const which = Uint32Array.from(order.keys()).sort((a, b) => order[a] - order[b]);
  const attributes = new Map<string, Attribute>();
  const set = (name: string, size: number, data: Float32Array): void => void attributes.set(name, { carrier: 'point', size, data: gatherRows({ carrier: 'point', size, data }, which) }); // prettier-ignore
  for (const [name, { carrier, size, data }] of made.attributes) {
    if (carrier === 'point' && !(name in runValues)) set(name, size, data);
    else if (carrier === 'whole') attributes.set(name, { carrier, size, data });
  }
  for (const [name, { carrier, size, data }] of curves.attributes) if (carrier === 'curve') set(name, size, gatherRows({ carrier, size, data }, curve));
  set('tangent', 3, Float32Array.from(tangent));
  set('normal', 3, Float32Array.from(normal));
  for (const [name, list] of Object.entries({ t, s, curve, id: order })) set(name, 1, Float32Array.from(list));
  return makePoints(gatherRows(rows, which), attributes);
}
