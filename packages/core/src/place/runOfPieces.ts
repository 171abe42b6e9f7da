import type { Attribute } from '../geometry/attributes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import { boundsOf } from '../geometry/geometry.js';
import { ownAxes } from '../geometry/ownAxes.js';
import type { Mesh } from '../geometry/mesh.js';
import { AlongCurve } from '../curves/evaluate/alongCurve.js';
import { framesOf } from '../curves/evaluate/frames.js';
import { asBezier } from '../curves/evaluate/knots.js';
import { stationsOf } from '../curves/evaluate/arcLength.js';
import { perpendicular, turnAbout } from '../curves/evaluate/transport.js';
import { laidAlong, stationFrom, type Station } from '../mesh/change/laidAlong.js';
import { progressEvery, tick, type Work } from '../base/work.js';
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
  /** Pieces bend with the curve between their places; else they reach straight from one to the next. */
  bendPieces: boolean;
  pick: 'inTurn' | 'random';
  /** Where each object stands: along the curve, at corners besides, at the ends of open curves besides; and its share among those that do. */
  stands: readonly { readonly along: boolean; readonly bends: boolean; readonly ends: boolean; readonly share: number }[];
  seed: number;
  /** Degrees; at corners that turn by more a piece ends and another begins. */
  cornerAngle: number;
}

export interface RunIssue {
  code: 'too-short' | 'no-length' | 'upright' | 'folds';
  curve: number;
}

/**
 * Pieces one after another along curves, each from one place to the next, so that neighbours meet: chains, fences, kerbs. A piece reaches straight from its
 * place to that of its neighbour (not along the curve between), so they meet in bends too; or bends with the curve, and is then an object of its own.
 * @throws RangeError when there is no object left to pick from, or one has no extent along the axis.
 */
export function runOfPieces(given: Curves, objects: readonly Mesh[], options: RunOptions, work: Work): { copies: Copies; issues: RunIssue[] } {
  const curves = asBezier(given, true);
  const { normal } = framesOf(curves);
  const stations = stationsOf(curves);
  const run = new Run(objects, options, work);
  const issues: RunIssue[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    work.progress(c / curveCount(curves));
    const path = new AlongCurve(curves, c, normal);
    if (!(path.total > 0)) {
      issues.push({ code: 'no-length', curve: c });
      continue;
    }
    const closed = curves.closed[c] === 1;
    const corners = cornersOf(curves, c, options).map((i) => stations[i]);
    const stops = closed ? (corners.length ? [...corners, corners[0] + path.total] : [0, path.total]) : [0, ...corners, path.total];
    run.begin(c);
    for (let k = 0; k + 1 < stops.length; k++) {
      const more = Math.round((stops[k + 1] - stops[k]) / run.longest);
      work.claim({ copies: run.count + more, ...(options.bendPieces && { vertices: run.vertices + more * run.most }) });
      const ends = divided(path, stops[k], stops[k + 1], run.longest, options, work);
      for (let i = 0; i + 1 < ends.length; i++) {
        tick(work, i, ends.length);
        run.piece(path, ends[i], ends[i + 1]);
      }
      if (run.standsAt('bends') && (closed ? corners.length > 0 : k > 0)) {
        // Halfway between the ways in and out.
        const little = path.total * 1e-4;
        const [into, out, at] = [path.place(stops[k] - little), path.place(stops[k] + little), path.place(stops[k])];
        run.put(run.drawn('bends'), at, at.map((value, j) => value + out[j] - into[j]), path, stops[k]); // prettier-ignore
      }
    }
    if (!run.last) issues.push({ code: 'too-short', curve: c });
    else if (!closed && run.standsAt('ends')) {
      const { from, to } = run.last;
      run.put(run.drawn('ends'), to, to.map((value, j) => value * 2 - from[j]), path, path.total); // prettier-ignore
    }
    if (run.steep) issues.push({ code: 'upright', curve: c });
    if (run.folds) issues.push({ code: 'folds', curve: c });
  }
  return { copies: run.finish(), issues };
}

/** The copies as they are put one after another. */
class Run {
  /** The longest piece that is picked for the run, at its size. */
  readonly longest: number;
  /** Where the last piece of this curve reached from and to; null: there is none yet. */
  last: { from: readonly number[]; to: readonly number[] } | null = null;
  /** Some piece of this curve could not stand upright. */
  steep = false;
  /** Some piece of this curve folds over itself. */
  folds = false;
  /** Vertices of pieces that are bent, and of the largest piece. */
  vertices = 0;
  readonly most: number;
  /** Objects as they were given, then those that were bent. */
  private readonly made: Mesh[];
  private readonly pieces: readonly Piece[];
  /** The objects that stand in each kind of place, with their shares. */
  private readonly standing: Readonly<Record<'along' | 'bends' | 'ends', { readonly which: readonly number[]; readonly shares: readonly number[] }>>;
  private readonly object: number[] = [];
  private readonly matrices: number[] = [];
  private readonly values: Readonly<Record<'curve' | 's', number[]>> = { curve: [], s: [] };
  private curve = 0;
  private turn = 0;

  /** @throws RangeError when there is no object left to pick from, or one has no extent along the axis. */
  constructor(
    objects: readonly Mesh[],
    private readonly options: RunOptions,
    private readonly work: Work,
  ) {
    this.made = [...objects];
    this.most = Math.max(0, ...objects.map(({ positions }) => positions.length / 3));
    this.pieces = objects.map((mesh, i) => measured(mesh, i, options));
    const at = (kind: 'along' | 'bends' | 'ends') => {
      const which = objects.flatMap((_, i) => (options.stands[i][kind] ? [i] : []));
      return { which, shares: which.map((i) => options.stands[i].share) };
    };
    this.standing = { along: at('along'), bends: at('bends'), ends: at('ends') };
    const { which } = this.standing.along;
    if (!which.length) throw new RangeError('All objects stand at bends and ends; there is none left for the run.');
    this.longest = Math.max(...which.map((i) => this.pieces[i].length)) * options.size;
  }

  standsAt(kind: 'bends' | 'ends'): boolean {
    return this.standing[kind].which.length > 0;
  }

  /** The next object for a kind of place. */
  drawn(kind: 'along' | 'bends' | 'ends'): number {
    const { which, shares } = this.standing[kind];
    return which[drawObject(this.options.pick, shares, this.options.seed, this.count)];
  }

  get count(): number {
    return this.object.length;
  }

  begin(curve: number): void {
    this.curve = curve;
    this.turn = 0;
    this.last = null;
    this.steep = this.folds = false;
  }

  /** The next piece, picked, from one place of the path to another. */
  piece(path: AlongCurve, from: number, to: number): void {
    const which = this.drawn('along');
    this.last = { from: path.place(from), to: path.place(to) };
    if (this.options.bendPieces && !isStraight(path, from, to)) this.putBent(which, path, from, to);
    else this.put(which, this.last.from, this.last.to, path, from, this.options.fit === 'stretch');
  }

  /** An object bent along the path, as one of its own with its origin where it begins. What it has before and beyond its place goes on straight. */
  private putBent(object: number, path: AlongCurve, from: number, to: number): void {
    const { axis, size, fit } = this.options;
    const { from: begins, length } = this.pieces[object];
    const scale = fit === 'stretch' ? (to - from) / length : size;
    const origin = path.place(from);
    const stationAt = (s: number): Station => {
      const on = Math.min(to, Math.max(from, s));
      const way = path.frame(on).tangent;
      const place = path.place(on).map((value, k) => value - origin[k] + way[k] * (s - on));
      return stationFrom(place, way, Array.from(this.upOf(way, path, on)));
    };
    const bent = laidAlong(
      this.made[object],
      { axis, metresOf: (own) => from + (own - begins) * scale, across: size, stationAt, folding: { from, to, step: (to - from) * ahead } },
      this.work,
    );
    this.folds ||= bent.folds !== null;
    this.vertices += bent.mesh.positions.length / 3;
    this.made.push(bent.mesh);
    this.matrices.push(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...origin, 1);
    this.noted(this.made.length - 1, from);
  }

  private noted(object: number, s: number): void {
    this.object.push(object);
    this.values.curve.push(this.curve);
    this.values.s.push(s);
    this.turn++;
  }

  /** An object from one place towards another; stretched to reach it, or at its size. */
  put(object: number, from: readonly number[], to: readonly number[], path: AlongCurve, s: number, stretched = false): void {
    const { axis, size } = this.options;
    const way = to.map((value, k) => value - from[k]);
    const chord = Math.hypot(...way);
    const along = way.map((value) => value / (chord || 1));
    const up = this.upOf(along, path, s);
    const side = [up[1] * along[2] - up[2] * along[1], up[2] * along[0] - up[0] * along[2], up[0] * along[1] - up[1] * along[0]];
    const across = Math.hypot(...side) || 1;
    const own = ownAxes(axis);
    const columns: number[][] = [];
    columns[axis] = along.map((value) => value * (stretched ? chord / this.pieces[object].length : size));
    columns[own.up] = Array.from(up, (value) => value * size);
    columns[own.side] = side.map((value) => (own.hand * value * size) / across);
    for (const column of columns) this.matrices.push(...column, 0);
    this.matrices.push(...from.map((value, k) => value - columns[axis][k] * this.pieces[object].from), 1);
    this.noted(object, s);
  }

  /** Own up of a piece: upright, or that of the frame, rolled. */
  private upOf(along: readonly number[], path: AlongCurve, s: number): Float32Array {
    const { upright, alternateRoll } = this.options;
    if (upright && Math.hypot(along[0], along[2]) > 1e-3) return Float32Array.of(0, 1, 0);
    if (upright) this.steep = true;
    const up = new Float32Array(3);
    perpendicular(path.normal(s), along[0], along[1], along[2], up, 0);
    const angle = (alternateRoll * this.turn * Math.PI) / 180;
    if (angle) turnAbout(Float32Array.from(along), up, 0, angle);
    return up;
  }

  finish(): Copies {
    const columns = { id: this.object.map((_, i) => i), ...this.values };
    const attributes = new Map<string, Attribute>();
    for (const [name, list] of Object.entries(columns)) attributes.set(name, { carrier: 'copy', size: 1, data: Float32Array.from(list) });
    // Objects of which every piece was bent are not there any more.
    const used = this.options.bendPieces ? [...new Set(this.object)].sort((a, b) => a - b) : this.made.map((_, i) => i);
    const nowAt = new Map(used.map((which, i) => [which, i]));
    const object = Uint32Array.from(this.object, (which) => nowAt.get(which)!);
    return makeCopies(
      used.map((which) => this.made[which]),
      object,
      Float32Array.from(this.matrices),
      attributes,
    );
  }
}

/** Share of a piece over which it is looked whether it goes on forwards. */
const ahead = 1e-4;

/** Whether a path runs straight between two places, and what is up stays so: a piece there is as it was given. */
function isStraight(path: AlongCurve, from: number, to: number): boolean {
  const [a, b] = [path.frame(from), path.frame(to)];
  const start = path.place(from);
  const chord = Math.hypot(...path.place(to).map((value, k) => value - start[k]));
  return chord > (to - from) * (1 - 1e-7) && a.normal.reduce((sum, value, k) => sum + value * b.normal[k], 0) > 1 - 1e-7;
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
function divided(path: AlongCurve, from: number, to: number, length: number, { fit, bendPieces }: RunOptions, work: Work): number[] {
  if (fit === 'exact' && bendPieces) {
    const count = Math.floor((to - from) / length + 1e-6);
    return count ? Array.from({ length: count + 1 }, (_, i) => Math.min(to, from + length * i)) : [];
  }
  if (fit !== 'exact') {
    const count = Math.max(1, Math.round((to - from) / length));
    return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
  }
  const ends = [from];
  for (;;) {
    if (ends.length % progressEvery === 0) work.progress((ends[ends.length - 1] - from) / (to - from));
    const s = ends[ends.length - 1];
    const start = path.place(s);
    // As far along as it takes to be one length away: a chord is never longer than its arc, so what is missing is not too much.
    let next = s + length;
    for (let turn = 0; turn < 60 && next <= to; turn++) {
      const missing = length - Math.hypot(...path.place(next).map((value, k) => value - start[k]));
      if (!(missing > length * 1e-9)) break;
      next += missing;
    }
    if (next > to + length * 1e-6) return ends.length > 1 ? ends : [];
    ends.push(Math.min(next, to));
  }
}
