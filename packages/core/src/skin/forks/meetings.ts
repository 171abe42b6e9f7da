import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import type { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { PointGrid } from '../../space/grid.js';
import { nearestOfSegments } from '../../space/segments.js';

/** Curves, and what is asked of them where they may meet. */
export interface Meetable {
  readonly curves: Curves;
  readonly paths: readonly AlongCurve[];
  /** Metres from the start of its curve, a point. */
  readonly stations: ArrayLike<number>;
  /** Metres, of a curve at metres along it. */
  readonly radiusAt: (curve: number, at: number) => number;
}

/** A place of a curve. */
export interface OnCurve {
  readonly curve: number;
  readonly at: number;
}

/** Two places where curves, or two parts of one, touch. */
export interface Contact {
  readonly a: OnCurve;
  readonly b: OnCurve;
  readonly away: number;
  /** One of them is an end of an open curve. */
  readonly end: boolean;
}

/** Middles of curves count as touching when they are nearer than this share of the thinner one's radius; an end, of the radius of what it lies on. */
const touching = 0.5;
/** Two parts of one curve can only meet when they are at least this many radii apart along it. */
const ownApart = 6;
/** Two ways out of a meeting count as one when the angle between them, measured this many radii away, is below 20°. */
const sameWay = { cosine: Math.cos((20 * Math.PI) / 180), radii: 3 };
/** Contacts count as equally near when they differ by less than this share of the radius. */
const asNear = 0.02;

/** Metres along a curve from one place to another, the shorter way round. */
export function metresBetween(curves: Curves, paths: readonly AlongCurve[], curve: number, a: number, b: number): number {
  const apart = Math.abs(a - b);
  return curves.closed[curve] ? Math.min(apart, paths[curve].total - apart) : apart;
}

/**
 * Where middles of curves cross or touch, each once, at its nearest: wherever the ways out run at least three ways. Curves that run along each other, or a bend that comes near itself,
 * do not meet there.
 */
export function contactsOf(given: Meetable, work: Work): Contact[] {
  const found = new Map<string, Contact[]>();
  const { curves, stations, paths, radiusAt } = given;
  const { segments, grid, reach, middle } = sampled(given);
  const station = ({ curve, point, next }: Segment, share: number): number => {
    const end = next > point ? stations[next] : paths[curve].total;
    return stations[point] + share * (end - stations[point]);
  };
  const seen = new Set<number>();
  for (let i = 0; i < segments.length; i++) {
    if (i % 1024 === 0) work.progress(i / segments.length);
    seen.clear();
    const one = segments[i];
    grid.near(middle[i * 3], middle[i * 3 + 1], middle[i * 3 + 2], reach, (j) => {
      const other = segments[j];
      if (j >= i || other.point === one.point || seen.has(other.point)) return;
      seen.add(other.point);
      const { s, t, distance } = nearestOfSegments(curves.positions, one.point * 3, one.next * 3, other.point * 3, other.next * 3);
      const [a, b] = [{ curve: one.curve, at: station(one, s) }, { curve: other.curve, at: station(other, t) }]; // prettier-ignore
      const [ra, rb] = [radiusAt(a.curve, a.at), radiusAt(b.curve, b.at)];
      const [endA, endB] = [isEnd(given, a), isEnd(given, b)];
      if (a.curve === b.curve && metresBetween(curves, paths, a.curve, a.at, b.at) < ownApart * Math.max(ra, rb)) return;
      const radius = endA && endB ? Math.max(ra, rb) : endA ? rb : endB ? ra : Math.min(ra, rb);
      if (!(distance <= Math.max(1e-6, touching * radius))) return;
      const turned = a.curve > b.curve || (a.curve === b.curve && a.at > b.at);
      const contact: Contact = { ...(turned ? { a: b, b: a } : { a, b }), away: distance, end: endA || endB };
      const key = `${contact.a.curve} ${contact.b.curve}`;
      const list = found.get(key);
      if (list) list.push(contact);
      else found.set(key, [contact]);
    });
  }
  return [...found.values()].flatMap((contacts) => nearestOfEach(given, contacts)).filter((contact) => isMeeting(given, contact));
}

/** The nearest contact of each stretch over which two curves touch. Stretches over which they stay equally near are left out: there the curves run side by side. */
function nearestOfEach({ radiusAt }: Meetable, contacts: Contact[]): Contact[] {
  contacts.sort((x, y) => x.a.at - y.a.at || x.b.at - y.b.at);
  const stretches: Contact[][] = [];
  let open: Contact[][] = [];
  for (const contact of contacts) {
    const { a, b } = contact;
    const near = 2 * Math.max(radiusAt(a.curve, a.at), radiusAt(b.curve, b.at));
    open = open.filter((stretch) => a.at - stretch[stretch.length - 1].a.at <= near);
    const own = open.find((stretch) => Math.abs(b.at - stretch[stretch.length - 1].b.at) <= near);
    if (own) own.push(contact);
    else {
      open.push([contact]);
      stretches.push(open[open.length - 1]);
    }
  }
  return stretches.flatMap((stretch) => {
    const ends = stretch.filter(({ end }) => end);
    if (ends.length) return ends;
    const nearest = stretch.reduce((best, each) => (each.away < best.away ? each : best));
    const radius = Math.max(radiusAt(nearest.a.curve, nearest.a.at), radiusAt(nearest.b.curve, nearest.b.at));
    const alike = stretch.filter(({ away }) => away <= nearest.away + asNear * radius).map(({ a }) => a.at);
    return Math.max(...alike) - Math.min(...alike) > 2 * radius ? [] : [nearest];
  });
}

function isMeeting(given: Meetable, { a, b, end }: Contact): boolean {
  if (end) return true;
  const radius = Math.max(given.radiusAt(a.curve, a.at), given.radiusAt(b.curve, b.at));
  const ways: number[][] = [];
  for (const { curve, at } of [a, b]) {
    const { total } = given.paths[curve];
    const here = given.paths[curve].place(at);
    for (const way of [1, -1]) {
      const end = at + way * sameWay.radii * radius;
      const room = given.curves.closed[curve] ? end : Math.min(total, Math.max(0, end));
      if (Math.abs(room - at) < radius) continue;
      const to = given.paths[curve].place(room).map((value, k) => value - here[k]);
      const size = Math.hypot(...to);
      const out = to.map((value) => value / (size || 1));
      if (!ways.some((other) => other.reduce((sum, value, k) => sum + value * out[k], 0) > sameWay.cosine)) ways.push(out);
    }
  }
  return ways.length > 2;
}

const isEnd = ({ curves, paths }: Meetable, { curve, at }: OnCurve): boolean => !curves.closed[curve] && (at <= 0 || at >= paths[curve].total * (1 - 1e-12));

/** A piece of a curve from a point to the next. */
interface Segment {
  readonly curve: number;
  readonly point: number;
  readonly next: number;
}

/** Places along all segments, so near to each other that what touches lies within `reach` of each other's places. */
function sampled({ curves, paths, stations, radiusAt }: Meetable): { grid: PointGrid; segments: Segment[]; reach: number; middle: number[] } {
  const { starts, closed, positions: p } = curves;
  let [widest, length] = [0, 0];
  for (let c = 0; c < curveCount(curves); c++) {
    length += paths[c].total;
    for (let i = starts[c]; i < starts[c + 1]; i++) widest = Math.max(widest, radiusAt(c, stations[i]));
  }
  // Not many more than there are points, however long some segments are.
  const step = Math.max(widest * 2, length / (1000 + (p.length / 3) * 4)) || 1;
  const reach = step + widest * touching;
  const grid = new PointGrid(reach, p.length / 3);
  const segments: Segment[] = [];
  const middle: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    if (!(paths[c].total > 0)) continue;
    const [from, to] = [starts[c], starts[c + 1]];
    for (let i = from; i < (closed[c] ? to : to - 1); i++) {
      const next = i + 1 < to ? i + 1 : from;
      const span = (next > i ? stations[next] : paths[c].total) - stations[i];
      const pieces = Math.max(1, Math.ceil(span / step));
      for (let k = 0; k < pieces; k++) {
        const u = (k + 0.5) / pieces;
        const [x, y, z] = [0, 1, 2].map((axis) => p[i * 3 + axis] * (1 - u) + p[next * 3 + axis] * u);
        grid.add(x, y, z);
        middle.push(x, y, z);
        segments.push({ curve: c, point: i, next });
      }
    }
  }
  return { grid, segments, reach, middle };
}
