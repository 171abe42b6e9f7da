import { curveCount, curvesFromLists, type Curves } from '../../geometry/curves.js';
import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { unbounded, type Work } from '../../base/work.js';
import { PlaneCells } from '../../space/planeCells.js';
import { fieldAt, type Field } from '../../values/field.js';
import { paced } from './resample.js';
import { intoPlane, outOfPlane, planeThrough, seenFrom, type Facing } from '../evaluate/plane.js';

export interface OffsetOptions {
  /** Metres, a value per point. Closed curves grow by it and shrink below 0; open ones move to the left, seen from their side. */
  distance: Field;
  joins: 'mitre' | 'round';
  /** The side that curves are seen from; by curve where they differ. */
  facing: Facing | ((curve: number) => Facing);
}

/** A place of an offset path: plane coordinates and height. */
type Place = [number, number, number];

/** Radians of an arc that one chord of a round join spans at most. */
const arcStep = Math.PI / 12;

/** Sharper corners than this many offsets away are cut off straight. */
const mitreLimit = 8;

/**
 * Curves at a distance in their own plane, straight between their points (smooth ones are sampled first). Loops that the path makes where it is
 * too narrow are taken out: of the raw offset, cut at its crossings, only pieces stay that are as far from the curve as asked. A closed
 * curve may fall into several, or none. Curve values are kept; point values are dropped.
 * @returns the curves, and the numbers of the given ones of which nothing is left.
 */
export function offset(given: Curves, options: OffsetOptions, work: Work = unbounded): { curves: Curves; gone: number[] } {
  const curves = paced(given, work);
  const lists: number[][][] = [];
  const closedMarks: boolean[] = [];
  const sources: number[] = [];
  const gone: number[] = [];
  const { facing } = options;
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    const closed = curves.closed[c] === 1 && to - from > 2;
    const plane = seenFrom(planeThrough(curves.positions, from, to), typeof facing === 'function' ? facing(c) : facing, curves.positions, from, to, closed);
    const flat = intoPlane(plane, curves.positions, from, to);
    const path: Place[] = [];
    const reach: number[] = [];
    for (let i = 0; i < to - from; i++) {
      const place: Place = [flat[i * 3], flat[i * 3 + 1], flat[i * 3 + 2]];
      const before = path[path.length - 1];
      if (before && before[0] === place[0] && before[1] === place[1]) continue;
      path.push(place);
      reach.push(fieldAt(options.distance, from + i));
    }
    if (closed && path.length > 1 && path[0][0] === path[path.length - 1][0] && path[0][1] === path[path.length - 1][1]) {
      path.pop();
      reach.pop();
    }
    work.progress(c / curveCount(curves));
    const made = path.length < (closed ? 3 : 2) ? [] : offsetPath(path, reach, closed, options.joins);
    if (!made.length && to > from) gone.push(c);
    for (const line of made) {
      lists.push(line.map(([x, y, h]) => outOfPlane(plane, x, y, h)));
      closedMarks.push(closed);
      sources.push(c);
    }
  }
  const result = curvesFromLists(lists, { closed: closedMarks });
  const kept = new Map<string, Attribute>();
  for (const [name, attribute] of curves.attributes) {
    if (attribute.carrier === 'curve') kept.set(name, { ...attribute, data: gatherRows(attribute, sources) });
    else if (attribute.carrier === 'whole') kept.set(name, attribute);
  }
  return { curves: { ...result, attributes: kept }, gone };
}

function offsetPath(path: readonly Place[], reach: readonly number[], closed: boolean, joins: OffsetOptions['joins']): Place[][] {
  if (reach.every((d) => d === 0)) return [[...path]];
  let area = 0;
  if (closed) path.forEach(([x, y], i) => (area += x * path[(i + 1) % path.length][1] - path[(i + 1) % path.length][0] * y));
  // To the left of the way; for closed paths positive is outwards, which is to the right of a counter-clockwise one.
  const sign = closed ? (area > 0 ? -1 : 1) : 1;
  const distances = reach.map((d) => d * sign);
  const raw = rawOffset(path, distances, closed, joins);
  // What bulges everywhere has no place that is too narrow when it grows alike all round.
  if (closed && reach[0] > 0 && reach.every((d) => d === reach[0]) && isConvex(path)) return [raw];
  // Middles of an arc's chords lie a little nearer than the arc.
  return withoutLoops(raw, path, reach, closed, area, joins === 'round' ? 2 * (1 - Math.cos(arcStep / 2)) : 1e-6);
}

/** Whether a closed path goes round once and never turns back. */
function isConvex(path: readonly Place[]): boolean {
  let [left, right, turned] = [0, 0, 0];
  for (let i = 0; i < path.length; i++) {
    const [a, b, c] = [path[i], path[(i + 1) % path.length], path[(i + 2) % path.length]];
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
    const turn = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
    turned += turn;
    if (turn > 0) left++;
    else if (turn < 0) right++;
    if (left && right) return false;
  }
  return Math.abs(turned) < 3 * Math.PI;
}

/** Every piece moved sideways, joined at the corners. */
function rawOffset(path: readonly Place[], distance: readonly number[], closed: boolean, joins: OffsetOptions['joins']): Place[] {
  const count = path.length;
  const out: Place[] = [];
  const normalOf = (i: number): [number, number] => {
    const [a, b] = [path[i], path[(i + 1) % count]];
    const size = Math.hypot(b[0] - a[0], b[1] - a[1]);
    return [-(b[1] - a[1]) / size, (b[0] - a[0]) / size];
  };
  for (let i = 0; i < count; i++) {
    const [x, y, h] = path[i];
    const d = distance[i];
    const after = closed || i + 1 < count ? normalOf(i) : null;
    const before = closed || i > 0 ? normalOf((i + count - 1) % count) : null;
    if (!before || !after) {
      const n = (before ?? after)!;
      out.push([x + d * n[0], y + d * n[1], h]);
      continue;
    }
    const cosine = before[0] * after[0] + before[1] * after[1];
    const turn = Math.atan2(before[0] * after[1] - before[1] * after[0], cosine);
    const outer = turn * d < 0;
    const half = Math.cos(turn / 2);
    if (Math.abs(turn) < 1e-9) out.push([x + d * after[0], y + d * after[1], h]);
    else if (outer && joins === 'round') {
      const steps = Math.max(1, Math.ceil(Math.abs(turn) / arcStep));
      for (let k = 0; k <= steps; k++) {
        const angle = (turn * k) / steps;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        out.push([x + d * (before[0] * c - before[1] * s), y + d * (before[0] * s + before[1] * c), h]);
      }
    } else if (outer && 1 / half <= mitreLimit) {
      const [nx, ny] = [before[0] + after[0], before[1] + after[1]];
      const scale = d / (half * Math.hypot(nx, ny));
      out.push([x + nx * scale, y + ny * scale, h]);
    } else out.push([x + d * before[0], y + d * before[1], h], ...(outer ? [] : [[x, y, h] as Place]), [x + d * after[0], y + d * after[1], h]);
  }
  return out;
}

/** Ends of crossings looked at before an offset is refused. */
const mostCrossings = 100_000;

interface Crossing {
  /** Place along the path: piece + share of it. */
  readonly at: number;
  readonly place: Place;
}

/** All crossings of the path with itself, on both of the pieces that cross. Pieces are looked at in order of their least x. */
function crossingsOf(path: readonly Place[], closed: boolean): Crossing[] {
  const count = closed ? path.length : path.length - 1;
  const order = Array.from({ length: count }, (_, i) => i);
  const left = (i: number): number => Math.min(path[i][0], path[(i + 1) % path.length][0]);
  const right = (i: number): number => Math.max(path[i][0], path[(i + 1) % path.length][0]);
  order.sort((a, b) => left(a) - left(b));
  const found: Crossing[] = [];
  order.forEach((i, n) => {
    for (let m = n + 1; m < count; m++) {
      const j = order[m];
      if (left(j) > right(i)) break;
      const apart = Math.abs(i - j);
      if (apart <= 1 || (closed && apart === count - 1)) continue;
      const [a, b, c, d] = [path[i], path[(i + 1) % path.length], path[j], path[(j + 1) % path.length]];
      const rx = b[0] - a[0];
      const ry = b[1] - a[1];
      const qx = d[0] - c[0];
      const qy = d[1] - c[1];
      const cross = rx * qy - ry * qx;
      if (Math.abs(cross) < 1e-300) continue;
      const t = ((c[0] - a[0]) * qy - (c[1] - a[1]) * qx) / cross;
      const u = ((c[0] - a[0]) * ry - (c[1] - a[1]) * rx) / cross;
      if (t < 0 || t > 1 || u < 0 || u > 1) continue;
      const place: Place = [a[0] + t * rx, a[1] + t * ry, a[2] + t * (b[2] - a[2])];
      found.push({ at: i + t, place }, { at: j + u, place });
      if (found.length > mostCrossings)
        throw new RangeError('The offset crosses itself more than 50,000 times; the curve winds over itself too often to be offset in a plane.');
    }
  });
  return found.sort((a, b) => a.at - b.at);
}

/** The pieces of a path, to ask how far places are from it. */
class PathCells {
  private readonly cells: PlaneCells;
  private readonly most: number;

  constructor(
    private readonly path: readonly Place[],
    private readonly reach: readonly number[],
    closed: boolean,
  ) {
    this.most = reach.reduce((most, d) => Math.max(most, Math.abs(d)), 0);
    const count = closed ? path.length : path.length - 1;
    const boxes = new Float64Array(count * 4);
    for (let i = 0; i < count; i++)
      for (const k of [0, 1]) {
        const [a, b] = [path[i][k], path[(i + 1) % path.length][k]];
        boxes[i * 4 + k] = Math.min(a, b);
        boxes[i * 4 + 2 + k] = Math.max(a, b);
      }
    // A cell is about as wide as what is looked for, so that few are looked into.
    const [x, y] = [0, 1].map((k) => path.reduce(([low, high], place) => [Math.min(low, place[k]), Math.max(high, place[k])], [Infinity, -Infinity]));
    this.cells = new PlaneCells(boxes, Math.min(count, Math.max(x[1] - x[0], y[1] - y[0]) / Math.max(this.most, 1e-9)));
  }

  /** Whether a place is at least as far from the path as asked where it is nearest. */
  farEnough(place: Place, slack: number): boolean {
    const { path, reach } = this;
    const near = (i: number): boolean => {
      const [a, b] = [path[i], path[(i + 1) % path.length]];
      const dx = b[0] - a[0];
      const dy = b[1] - a[1];
      const t = Math.min(1, Math.max(0, ((place[0] - a[0]) * dx + (place[1] - a[1]) * dy) / (dx * dx + dy * dy)));
      const wanted = Math.abs(reach[i] + (reach[(i + 1) % path.length] - reach[i]) * t);
      return Math.hypot(place[0] - a[0] - t * dx, place[1] - a[1] - t * dy) < wanted * (1 - slack) - 1e-12;
    };
    const [[x, y], { most }] = [place, this];
    return !this.cells.near(x - most, y - most, x + most, y + most, near);
  }
}

function withoutLoops(raw: readonly Place[], path: readonly Place[], reach: readonly number[], closed: boolean, area: number, slack: number): Place[][] {
  const cells = new PathCells(path, reach, closed);
  const crossings = crossingsOf(raw, closed);
  // Pieces of the raw path between crossings, each as its places with both ends.
  const pieces: Place[][] = [];
  if (!crossings.length) pieces.push(closed ? [...raw, raw[0]] : [...raw]);
  else {
    const stops: Crossing[] = closed ? crossings : [{ at: 0, place: raw[0] }, ...crossings, { at: raw.length - 1, place: raw[raw.length - 1] }];
    for (let k = 0; k < (closed ? stops.length : stops.length - 1); k++) {
      const [a, b] = [stops[k], stops[(k + 1) % stops.length]];
      const end = k + 1 < stops.length ? b.at : b.at + raw.length;
      const piece: Place[] = [a.place];
      for (let i = Math.floor(a.at) + 1; i < end; i++) piece.push(raw[i % raw.length]);
      piece.push(b.place);
      pieces.push(piece);
    }
  }
  const kept = pieces.map(withoutDoubles).filter((piece) => piece.length > 1 && piece.slice(1).every((b, i) => cells.farEnough(middle(piece[i], b), slack)));
  return chain(kept, closed).filter((line) => !closed || rightWay(line, area));
}

const middle = (a: Place, b: Place): Place => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];

/** What is left of an outline turns the way the outline does; loops that turn the other way are inside out. */
function rightWay(line: readonly Place[], area: number): boolean {
  let own = 0;
  line.forEach(([x, y], i) => (own += x * line[(i + 1) % line.length][1] - line[(i + 1) % line.length][0] * y));
  return own * area > 0;
}

const withoutDoubles = (piece: readonly Place[]): Place[] =>
  piece.filter((b, i) => i === 0 || Math.hypot(b[0] - piece[i - 1][0], b[1] - piece[i - 1][1]) > 1e-12 * (1 + Math.abs(b[0]) + Math.abs(b[1])));

/** Pieces joined where one ends and another begins; closed paths only where they come round. */
function chain(pieces: readonly Place[][], closed: boolean): Place[][] {
  const key = ([x, y]: Place): string => `${x.toPrecision(10)} ${y.toPrecision(10)}`;
  const byStart = new Map<string, Place[][]>();
  for (const piece of pieces) {
    const list = byStart.get(key(piece[0]));
    if (list) list.push(piece);
    else byStart.set(key(piece[0]), [piece]);
  }
  const used = new Set<Place[]>();
  const lines: Place[][] = [];
  for (const piece of pieces) {
    if (used.has(piece)) continue;
    used.add(piece);
    const line = [...piece];
    for (;;) {
      if (closed && line.length > 2 && key(line[0]) === key(line[line.length - 1])) break;
      const next = byStart.get(key(line[line.length - 1]))?.find((candidate) => !used.has(candidate));
      if (!next) break;
      used.add(next);
      line.push(...next.slice(1));
    }
    const round = key(line[0]) === key(line[line.length - 1]);
    if (closed && round && line.length > 3) lines.push(line.slice(0, -1));
    else if (!closed) lines.push(line);
  }
  return lines;
}
