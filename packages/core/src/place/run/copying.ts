import type { Attribute } from '../../geometry/attributes.js';
import { makeCopies, type Copies } from '../../geometry/copies.js';
import { boundsOf } from '../../geometry/geometry.js';
import { ownAxes } from '../../geometry/ownAxes.js';
import type { Mesh } from '../../geometry/mesh.js';
import type { AlongCurve } from '../../curves/evaluate/alongCurve.js';
import { perpendicular, turnAbout } from '../../curves/evaluate/transport.js';
import { laidAlong, stationFrom, type Station } from '../../mesh/change/laidAlong.js';
import { progressEvery, type Work } from '../../base/work.js';
import { drawObject } from '../copies.js';
import type { RunOptions, StandingPlace } from './options.js';
import type { Planned } from './stretch.js';

/** The copies as they are put one after another. */
export class CopiesOfRun {
  /** Metres of the longest piece that is picked along the run, at its size. */
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
  private readonly standing: Readonly<Record<StandingPlace, { readonly which: readonly number[]; readonly shares: readonly number[] }>>;
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
    const at = (place: StandingPlace): { which: number[]; shares: number[] } => {
      const which = objects.flatMap((_, i) => (options.stands[i][place] ? [i] : []));
      return { which, shares: which.map((i) => options.stands[i].share) };
    };
    this.standing = { along: at('along'), joints: at('joints'), bends: at('bends'), first: at('first'), last: at('last'), ends: at('ends') };
    const { which } = this.standing.along;
    if (!which.length) throw new RangeError('No object stands along the run, so that there is none left for the run itself.');
    this.longest = Math.max(...which.map((i) => this.lengthOf(i)));
  }

  standsAt(place: StandingPlace): boolean {
    return this.standing[place].which.length > 0;
  }

  /** The object for a kind of place; `turn`: the number of the copy that it is for. */
  drawn(place: StandingPlace, turn = this.count): number {
    const { which, shares } = this.standing[place];
    const { pick, seed } = this.options;
    return which[drawObject(typeof pick === 'function' ? 'inTurn' : pick, shares, seed, turn)];
  }

  /** The piece that is `k` places beyond the next, and begins at a given point of the curve or behind it. */
  planned(k: number, point: number): Planned {
    const { pick, lengths, bendPieces } = this.options;
    const planned = this.count + k + 1;
    if (k % progressEvery === 0) this.work.claim({ copies: planned, ...(bendPieces && { vertices: this.vertices + (k + 1) * this.most }) });
    const which = typeof pick === 'function' ? pick(point, this.curve) : this.drawn('along', this.count + k);
    return { which, length: lengths === 'own' || typeof pick === 'function' ? this.lengthOf(which) : this.longest };
  }

  /**
   * Metres of a piece at its size.
   * @throws RangeError when it has none.
   */
  lengthOf(object: number): number {
    const { length } = this.pieces[object];
    if (!(length > 0))
      throw new RangeError(
        `Object ${object} reaches ${length} m along ${'xyz'[this.options.axis]} from where it begins; choose another axis, or give the length.`,
      );
    return length * this.options.size;
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

  /** A piece from one place of the path to another; stretched to reach it, or at its size. */
  piece(which: number, path: AlongCurve, from: number, to: number, stretched: boolean): void {
    this.last = { from: path.place(from), to: path.place(to) };
    if (this.options.bendPieces && !isStraight(path, from, to)) this.putBent(which, path, from, to, stretched);
    else this.put(which, this.last.from, this.last.to, path, from, { stretched });
  }

  /** Puts an object at a corner or joint, turned halfway between the ways in and out. */
  putAcross(place: 'bends' | 'joints', path: AlongCurve, s: number): void {
    const little = path.total * 1e-4;
    const [into, out, at] = [path.place(s - little), path.place(s + little), path.place(s)];
    const way = out.map((value, k) => value - into[k]);
    const joint = place === 'joints';
    // A post stands level on a slope, where a rail leans with it.
    if (joint && this.options.upright && Math.hypot(way[0], way[2]) > 1e-3 * Math.hypot(...way)) way[1] = 0;
    this.put(this.drawn(place), at, at.map((value, k) => value + way[k]), path, s, { atOrigin: joint }); // prettier-ignore
  }

  /** Puts an object after the last piece. */
  putBeyond(path: AlongCurve): void {
    const { from, to } = this.last!;
    this.put(this.drawn('ends'), to, to.map((value, k) => value * 2 - from[k]), path, path.total); // prettier-ignore
  }

  /** An object bent along the path, as one of its own with its origin where it begins. What it has before and beyond its place goes on straight. */
  private putBent(object: number, path: AlongCurve, from: number, to: number, stretched: boolean): void {
    const { axis, size } = this.options;
    const { from: begins, length } = this.pieces[object];
    const scale = stretched ? (to - from) / length : size;
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

  /** An object from one place towards another; stretched to reach it, or at its size; where it begins, or with its origin (`atOrigin`). */
  private put(object: number, from: readonly number[], to: readonly number[], path: AlongCurve, s: number, { stretched = false, atOrigin = false } = {}): void {
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
    this.matrices.push(...from.map((value, k) => value - (atOrigin ? 0 : columns[axis][k] * this.pieces[object].from)), 1);
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

/** How long an object is along the axis, metres before its size, and where it begins there. */
interface Piece {
  readonly length: number;
  readonly from: number;
}

function measured(mesh: Mesh, which: number, { axis, length, begin, stands }: RunOptions): Piece {
  const bounds = boundsOf(mesh.positions);
  const from = begin === 'edge' && bounds ? bounds.min[axis] : 0;
  const given = stands[which].length || length;
  return { length: given > 0 ? given : (bounds?.max[axis] ?? 0) - from, from };
}
