import { AlongCurve } from '../curves/evaluate/alongCurve.js';
import { framesOf } from '../curves/evaluate/frames.js';
import type { Attribute } from '../geometry/attributes.js';
import { curveCount, curveKinds, curvesFromLists, makeCurves, type Curves } from '../geometry/curves.js';
import type { Points } from '../geometry/points.js';

type Place = readonly number[];

/** How many places a smooth span of a lead is taken in. */
const perSpan = 8;

/**
 * The loops of each point as one open rope: each turn leads into the next, and the last goes once round. A lead that ends at the point continues into its turns, at both ends where both have
 * some. The end itself lies on the body and is left out.
 * @param rings closed straight loops with values `point`, `loop` and `body` (see `loopsAround`), of one way round.
 * @param near metres within which the end of a lead is the point.
 */
export function asRopes(rings: Curves, points: Points, leads: Curves | null, near: number): Curves {
  const [pointOf, bodyOf] = ['point', 'body'].map((name) => rings.attributes.get(name)!.data);
  const turnsOf = new Map<number, { readonly rope: Place[]; readonly body: number }>();
  for (let c = 0; c < curveCount(rings);) {
    const point = pointOf[c];
    const own: Place[][] = [];
    const body = bodyOf[c];
    for (; c < curveCount(rings) && pointOf[c] === point; c++) own.push(ringOf(rings, c));
    turnsOf.set(point, { rope: wound(own), body });
  }
  const normals = leads ? framesOf(leads).normal : new Float32Array(0);
  const ropes: { places: Place[]; point: number; body: number }[] = [];
  const left = new Set(turnsOf.keys());
  const endingAt = (place: Place): number | undefined => [...left].find((point) => distance(place, at(points.positions, point)) <= near);
  for (let c = 0; leads && c < curveCount(leads); c++) {
    let places = leadOf(leads, c, normals);
    let of: number | null = null;
    for (const atStart of leads.closed[c] ? [] : [false, true]) {
      const found = endingAt(atStart ? places[0] : places[places.length - 1]);
      if (found === undefined) continue;
      left.delete(found);
      of ??= found;
      const { rope } = turnsOf.get(found)!;
      places = atStart ? [...[...rope].reverse(), ...places.slice(1)] : [...places.slice(0, -1), ...rope];
    }
    ropes.push({ places, point: of ?? -1, body: of === null ? -1 : turnsOf.get(of)!.body });
  }
  for (const point of left) ropes.push({ places: turnsOf.get(point)!.rope, point, body: turnsOf.get(point)!.body });
  const perCurve = (value: (rope: (typeof ropes)[0]) => number): Attribute => ({ carrier: 'curve', size: 1, data: Float32Array.from(ropes, value) });
  const made = curvesFromLists(ropes.map(({ places }) => places), { kind: 'straight' }); // prettier-ignore
  return makeCurves({ ...made, attributes: new Map([['point', perCurve(({ point }) => point)], ['body', perCurve(({ body }) => body)]]) }); // prettier-ignore
}

const at = (positions: ArrayLike<number>, i: number): Place => [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]];
const distance = (a: Place, b: Place): number => Math.hypot(...a.map((value, k) => value - b[k]));
const between = (a: Place, b: Place, share: number): Place => a.map((value, k) => value + (b[k] - value) * share);

const ringOf = ({ positions, starts }: Curves, c: number): Place[] => Array.from({ length: starts[c + 1] - starts[c] }, (_, i) => at(positions, starts[c] + i));

/** A lead as a line of places: straight ones as they are. */
function leadOf(leads: Curves, c: number, normals: Float32Array): Place[] {
  if (curveKinds[leads.kind[c]] === 'straight') return ringOf(leads, c);
  const path = new AlongCurve(leads, c, normals);
  const count = path.spans.count * perSpan;
  return Array.from({ length: count + 1 }, (_, i) => path.place((path.total * i) / count));
}

/** Rings one after another as one line, from where the first begins: on the way round each becomes the next. */
function wound(rings: readonly Place[][]): Place[] {
  // Each begins where the one before it does, so that corners go over into corners.
  const aligned: Place[][] = [];
  for (const ring of rings) aligned.push(aligned.length ? begunAt(ring, aligned[aligned.length - 1][0]) : ring);
  const rounds = aligned.map((ring) => new Round(ring));
  const rope: Place[] = [];
  rounds.forEach((round, k) => {
    const next = rounds[k + 1] ?? round;
    const shares = [...new Set([...round.shares, ...next.shares])].sort((a, b) => a - b).filter((share, i, all) => !i || share - all[i - 1] > 1e-9);
    // The last of a turn is the first of the next.
    for (const share of shares.slice(k ? 1 : 0)) rope.push(between(round.place(share), next.place(share), share));
  });
  return rope;
}

/** A ring begun at its point nearest to a place. */
function begunAt(ring: readonly Place[], place: Place): Place[] {
  const away = ring.map((each) => distance(each, place));
  const first = away.indexOf(Math.min(...away));
  return [...ring.slice(first), ...ring.slice(0, first)];
}

/** A closed line by the share of its way round. */
class Round {
  readonly shares: number[] = [0];
  private readonly places: readonly Place[];

  constructor(ring: readonly Place[]) {
    this.places = [...ring, ring[0]];
    let way = 0;
    for (let i = 1; i < this.places.length; i++) this.shares.push((way += distance(this.places[i], this.places[i - 1])));
    for (let i = 1; i < this.shares.length; i++) this.shares[i] /= way || 1;
  }

  place(share: number): Place {
    const { shares, places } = this;
    const i = Math.max(1, shares.findIndex((each) => each >= share)); // prettier-ignore
    const span = shares[i] - shares[i - 1];
    return between(places[i - 1], places[i], span > 0 ? (share - shares[i - 1]) / span : 0);
  }
}
