import type { Attribute } from '../geometry/attributes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import { boundsOf } from '../geometry/geometry.js';
import type { Mesh } from '../geometry/mesh.js';
import { ArcLengthInverse } from '../curves/arcLengthInverse.js';
import { framesOf } from '../curves/frames.js';
import { asBezier } from '../curves/knots.js';
import { spanPoint, spansOf, type Spans } from '../curves/spans.js';
import { stationsOf } from '../curves/arcLength.js';
import { perpendicular, turnAbout } from '../curves/transport.js';
import type { Work } from '../graph/work.js';
import { drawObject } from './copies.js';

export interface RunOptions {
  /** The pieces' own axis that runs along the curve. */
  axis: 0 | 1 | 2;
  /** Metres of a piece; 0: as measured. */
  length: number;
  /** Where a piece begins: in its origin, or where it begins itself. */
  begin: 'origin' | 'edge';
  /** `stretch`: a whole number of pieces, each as long as its place; `nearestCount`: the same places, pieces as they are; `exact`: as many as fit, end to end. */
  fit: 'stretch' | 'nearestCount' | 'exact';
  /** Own up stays upright and the piece leans along with the ground; else it turns with the frame. */
  upright: boolean;
  /** Factor on pieces. */
  size: number;
  /** Degrees by which each piece is rolled beyond the one before it, when it turns with the frame. */
  alternateRoll: number;
  pick: 'inTurn' | 'random';
  weights: readonly number[];
  seed: number;
  /** Degrees; at corners that turn by more a piece ends and another begins. */
  cornerAngle: number;
  /** Numbers of the objects that stand at corners and at the ends of open curves, besides; −1: none. */
  cornerPiece: number;
  endPiece: number;
}

export interface RunIssue {
  code: 'too-short' | 'no-length' | 'upright';
  curve: number;
}

/** Copies that are being put together. */
interface Run {
  readonly object: number[];
  readonly matrices: number[];
  readonly curve: number[];
  readonly s: number[];
}

/**
 * Pieces one after another along curves, each from one place to the next, so that neighbours meet: chains, fences, kerbs. A piece reaches straight from its
 * place to that of its neighbour (not along the curve between), so they meet in bends too.
 * @throws RangeError when there is no object left to pick from, or one has no extent along the axis.
 */
export function runOfPieces(given: Curves, objects: readonly Mesh[], options: RunOptions, work: Work): { copies: Copies; issues: RunIssue[] } {
  const curves = asBezier(given, true);
  const { normal } = framesOf(curves);
  const stations = stationsOf(curves);
  const pieces = objects.map((mesh, i) => measured(mesh, i, options));
  const usual = objects.flatMap((_, i) => (i === options.cornerPiece || i === options.endPiece ? [] : [i]));
  if (!usual.length) throw new RangeError('All objects stand at corners and ends; there is none left for the run.');
  const longest = Math.max(...usual.map((i) => pieces[i].length)) * options.size;
  const run: Run = { object: [], matrices: [], curve: [], s: [] };
  const issues: RunIssue[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    work.progress(c / curveCount(curves));
    const spans = spansOf(curves, c);
    const path = new Path(spans, normal, curves.starts[c], curves.starts[c + 1] - curves.starts[c]);
    if (!(path.total > 0)) {
      issues.push({ code: 'no-length', curve: c });
      continue;
    }
    const closed = curves.closed[c] === 1;
    const corners = cornersOf(curves, c, options).map((i) => stations[i]);
    const stops = closed ? (corners.length ? [...corners, corners[0] + path.total] : [0, path.total]) : [0, ...corners, path.total];
    const before = run.object.length;
    const put = (object: number, from: number[], to: number[], s: number): void => {
      if (!place(run, pieces[object], object, from, to, path.normalAt(s), c, s, options, run.object.length - before))
        issues.push({ code: 'upright', curve: c });
    };
    let last: number[][] = [];
    for (let k = 0; k + 1 < stops.length; k++) {
      const ends = divided(path, stops[k], stops[k + 1], longest, options.fit);
      work.claim({ copies: run.object.length + ends.length });
      for (let i = 0; i + 1 < ends.length; i++) {
        const [from, to] = [path.at(ends[i]), path.at(ends[i + 1])];
        put(usual[drawObject(options.pick, usual.map((each) => options.weights[each] ?? 1), options.seed, run.object.length)], from, to, ends[i]); // prettier-ignore
        last = [from, to];
      }
      const corner = closed ? corners.length > 0 : k > 0;
      if (corner && options.cornerPiece >= 0) {
        const at = path.at(stops[k]);
        const [into, out] = [path.at(stops[k] - path.total * 1e-4), path.at(stops[k] + path.total * 1e-4)];
        put(options.cornerPiece, at, at.map((value, j) => value + out[j] - into[j]), stops[k]); // prettier-ignore
      }
    }
    if (run.object.length === before) issues.push({ code: 'too-short', curve: c });
    else if (!closed && options.endPiece >= 0) put(options.endPiece, last[1], last[1].map((value, j) => value * 2 - last[0][j]), path.total); // prettier-ignore
  }
  const attributes = new Map<string, Attribute>();
  for (const [name, list] of Object.entries({ id: run.object.map((_, i) => i), curve: run.curve, s: run.s })) attributes.set(name, { carrier: 'copy', size: 1, data: Float32Array.from(list) }); // prettier-ignore
  return { copies: makeCopies(objects, Uint32Array.from(run.object), Float32Array.from(run.matrices), attributes), issues };
}

/** How long a piece is along the axis, and where it begins there. */
interface Piece {
  readonly length: number;
  readonly from: number;
}

function measured(mesh: Mesh, which: number, { axis, length, begin }: RunOptions): Piece {
  const bounds = boundsOf(mesh.positions);
  const from = begin === 'edge' && bounds ? bounds.min[axis] : 0;
  const own = length > 0 ? length : (bounds?.max[axis] ?? 0) - from;
  if (!(own > 0)) throw new RangeError(`Object ${which} reaches ${own} m along ${'xyz'[axis]} from where it begins; choose another axis, or give the length.`);
  return { length: own, from };
}

/** One curve by metres along it. */
class Path {
  readonly total: number;
  private readonly inverse: ArcLengthInverse;

  constructor(
    private readonly spans: Spans,
    private readonly normals: Float32Array,
    private readonly first: number,
    private readonly points: number,
  ) {
    this.inverse = new ArcLengthInverse(spans);
    this.total = this.inverse.total;
  }

  /** The place so many metres along; beyond the ends round the curve when it is closed, else the end. */
  at(s: number): number[] {
    const out = new Float64Array(3);
    const { span, u } = this.inverse.at(this.within(s));
    spanPoint(this.spans, span, u, out, 0);
    return [...out];
  }

  normalAt(s: number): [number, number, number] {
    const { span, u } = this.inverse.at(this.within(s));
    const [a, b] = [(this.first + span) * 3, (this.first + ((span + 1) % this.points)) * 3];
    return [0, 1, 2].map((k) => this.normals[a + k] * (1 - u) + this.normals[b + k] * u) as [number, number, number];
  }

  private within(s: number): number {
    const closed = this.spans.count === this.points;
    return closed ? s - Math.floor(s / this.total) * this.total : Math.min(this.total, Math.max(0, s));
  }
}

/** Points of a straight curve at which it turns by more than the angle, without its ends; for upright pieces as seen from above, so that bumps are no corners. */
function cornersOf(curves: Curves, c: number, { cornerAngle, upright }: RunOptions): number[] {
  if (curveKinds[curves.kind[c]] !== 'straight') return [];
  const p = curves.positions;
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  const count = to - from;
  const closed = curves.closed[c] === 1;
  const corners: number[] = [];
  for (let i = closed ? 0 : 1; i < (closed ? count : count - 1); i++) {
    const [a, b, d] = [from + ((i + count - 1) % count), from + i, from + ((i + 1) % count)];
    const [u, v] = [[a, b], [b, d]].map(([x, y]) => [0, 1, 2].map((k) => (upright && k === 1 ? 0 : p[y * 3 + k] - p[x * 3 + k]))); // prettier-ignore
    const size = Math.hypot(...u) * Math.hypot(...v);
    const cosine = size > 0 ? u.reduce((sum, value, k) => sum + value * v[k], 0) / size : 1;
    if (Math.acos(Math.min(1, Math.max(-1, cosine))) > (cornerAngle * Math.PI) / 180) corners.push(b);
  }
  return corners;
}

/** Metres at which pieces begin between two stops, and where the last one ends. */
function divided(path: Path, from: number, to: number, length: number, fit: RunOptions['fit']): number[] {
  if (fit !== 'exact') {
    const count = Math.max(1, Math.round((to - from) / length));
    return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
  }
  const ends = [from];
  for (;;) {
    const s = ends[ends.length - 1];
    const start = path.at(s);
    // As far along as it takes to be one length away: a chord is never longer than its arc, so what is missing is not too much.
    let next = s + length;
    for (let turn = 0; turn < 60 && next <= to; turn++) {
      const missing = length - Math.hypot(...path.at(next).map((value, k) => value - start[k]));
      if (!(missing > length * 1e-9)) break;
      next += missing;
    }
    if (next > to + length * 1e-6) return ends.length > 1 ? ends : [];
    ends.push(Math.min(next, to));
  }
}

/** Adds a copy that reaches from one place towards another; false where it should be upright and the way is. */
function place(
  run: Run,
  piece: Piece,
  object: number,
  from: readonly number[],
  to: readonly number[],
  normal: [number, number, number],
  curve: number,
  s: number,
  options: RunOptions,
  turn: number,
): boolean {
  // prettier-ignore
  const way = to.map((value, k) => value - from[k]);
  const chord = Math.hypot(...way);
  const along = way.map((value) => value / (chord || 1));
  const level = Math.hypot(along[0], along[2]);
  const upright = options.upright && level > 1e-3;
  const up = new Float32Array(3);
  if (upright) up[1] = 1;
  else {
    perpendicular(normal, along[0], along[1], along[2], up, 0);
    const angle = (options.alternateRoll * turn * Math.PI) / 180;
    if (angle) turnAbout(Float32Array.from(along), up, 0, angle);
  }
  const side = [up[1] * along[2] - up[2] * along[1], up[2] * along[0] - up[0] * along[2], up[0] * along[1] - up[1] * along[0]];
  const across = Math.hypot(...side);
  const { axis, size } = options;
  const upAxis = axis === 1 ? 2 : 1;
  const third = 3 - axis - upAxis;
  // The own axes are right-handed: up × along is the third, or what is opposite to it.
  const hand = (third + 1) % 3 === upAxis ? 1 : -1;
  const stretch = options.fit === 'stretch' && object !== options.cornerPiece && object !== options.endPiece ? chord / piece.length : size;
  const columns: number[][] = [];
  columns[axis] = along.map((value) => value * stretch);
  columns[upAxis] = Array.from(up, (value) => value * size);
  columns[third] = side.map((value) => (hand * value * size) / (across || 1));
  const origin = from.map((value, k) => value - columns[axis][k] * piece.from);
  for (const column of columns) run.matrices.push(...column, 0);
  run.matrices.push(...origin, 1);
  run.object.push(object);
  run.curve.push(curve);
  run.s.push(s);
  return upright || !options.upright;
}
