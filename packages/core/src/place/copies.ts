import { cosineAndSine } from '../base/turns.js';
import { tick, unbounded, type Work } from '../base/work.js';
import { axesToFollow, turnToStandard, type AxesToFollow } from '../geometry/axes.js';
import { noAttributes, type Attribute } from '../geometry/attributes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { numbersEnd, perpendicular, type Vector3 } from '../curves/evaluate/transport.js';
import { randomAt } from '../values/random.js';
import { fieldAt, type Field } from '../values/field.js';
import { drawKeys } from '../varying/drawKeys.js';

export interface CopiesOptions {
  /** Which object each point gets: the next in turn, one drawn by chance, or the one a value on the points names. */
  readonly pick: 'inTurn' | 'random' | { readonly attribute: string };
  /** Chances of the objects when drawn, in their order; those not named have 1. */
  readonly weights: readonly number[];
  readonly seed: number;
  /** Factor, and degrees about the tangent (about its own up where it does not follow the frame), values per point. */
  readonly size: Field;
  readonly turn: Field;
  /** Degrees that a copy leans away from what it turns about, and which way: degrees round that, before it is turned. Values per point. */
  readonly lean: Field;
  readonly toward: Field;
  /** Own axes that follow tangent and normal; null: as the points say (see aim.axes), else z and y. */
  readonly axes: AxesToFollow | null;
  /** `frame`: as the points' frames; `upright`: own up stays upright and the tangent is followed level; `none`: not turned. */
  readonly align: 'frame' | 'upright' | 'none';
}

/** Columns of the rotation for a tangent and a normal, side × up × forward; `out` gets 9 numbers, column by column. */
function frameColumns(t: Vector3, n: Vector3, out: Float64Array): void {
  const side = [n[1] * t[2] - n[2] * t[1], n[2] * t[0] - n[0] * t[2], n[0] * t[1] - n[1] * t[0]];
  for (let k = 0; k < 3; k++) {
    out[k] = side[k];
    out[3 + k] = n[k];
    out[6 + k] = t[k];
  }
}

/**
 * Which of several objects, by their chances, an element gets: in turn by its number, or drawn by its key.
 * @throws RangeError when none has a chance.
 */
export function drawObject(pick: 'inTurn' | 'random', chances: readonly number[], seed: number, i: number): number {
  if (pick === 'inTurn') return i % chances.length;
  const total = chances.reduce((sum, chance) => sum + chance, 0);
  if (!(total > 0)) throw new RangeError('All weights are 0; give one of the objects a chance.');
  const drawn = randomAt(seed, i) * total;
  let reached = 0;
  const which = chances.findIndex((chance) => drawn < (reached += chance));
  // Rounding may leave the very last share out.
  return which < 0 ? chances.findLastIndex((chance) => chance > 0) : which;
}

/** Numbers of the objects for all points. */
function choices(points: Points, count: number, objects: number, { pick, weights, seed }: CopiesOptions): Uint32Array {
  if (pick === 'inTurn' || pick === 'random') {
    const chances = Array.from({ length: objects }, (_, k) => weights[k] ?? 1);
    const keys = pick === 'random' ? drawKeys(points, 'point') : null;
    return Uint32Array.from({ length: count }, (_, i) => drawObject(pick, chances, seed, keys ? keys[i] : i));
  }
  const values = points.attributes.get(pick.attribute);
  if (!values || values.size !== 1)
    throw new RangeError(`The points have no number "${pick.attribute}"; they have ${[...points.attributes.keys()].join(', ') || 'none'}.`);
  return Uint32Array.from({ length: count }, (_, i) => {
    const which = Math.round(values.data[i]);
    if (!(which >= 0 && which < objects))
      throw new RangeError(`"${pick.attribute}" of point ${i + 1} is ${values.data[i]}; it must name one of the ${objects} objects, 0 to ${objects - 1}.`);
    return which;
  });
}

/**
 * One copy of an object at each point: its z along the tangent and its y along the normal, or as the axes say. Points without tangents count as looking
 * along z with y up. Values of the points go to the copies.
 * @throws RangeError when the pick cannot be made.
 */
export function placeCopies(points: Points, objects: readonly Mesh[], options: CopiesOptions, work: Work = unbounded): Copies {
  const count = points.positions.length / 3;
  const object = choices(points, count, objects.length, options);
  const tangent = points.attributes.get('tangent')?.data;
  const normal = points.attributes.get('normal')?.data;
  const given = points.attributes.get('axes');
  const standard = turnToStandard(axesToFollow('z', 'y'));
  const wanted = options.axes ? turnToStandard(options.axes) : given?.size === 9 ? Array.from(given.data) : standard;
  // What follows no frame keeps its own axes.
  const turnOf = options.align === 'none' ? standard : wanted;
  const matrices = new Float32Array(count * 16);
  const frame = new Float64Array(9);
  const up = new Float64Array(3);
  const axis = options.align === 'frame' ? 2 : 1;
  for (let i = 0; i < count; i++) {
    tick(work, i, count);
    const o = i * 3;
    let t: Vector3 = tangent ? [tangent[o], tangent[o + 1], tangent[o + 2]] : [0, 0, 1];
    if (options.align === 'upright') {
      const level = Math.hypot(t[0], t[2]);
      t = level > 1e-6 ? [t[0] / level, 0, t[2] / level] : [0, 0, 1];
    }
    perpendicular(options.align === 'upright' || !normal ? [0, 1, 0] : [normal[o], normal[o + 1], normal[o + 2]], t[0], t[1], t[2], up, 0, numbersEnd);
    if (options.align === 'none') frame.set(level);
    else frameColumns(t, [up[0], up[1], up[2]], frame);
    leanFrame(frame, axis, fieldAt(options.lean, i), fieldAt(options.toward, i));
    turnFrame(frame, axis, fieldAt(options.turn, i));
    const size = fieldAt(options.size, i);
    const at = i * 16;
    for (let column = 0; column < 3; column++)
      for (let row = 0; row < 3; row++) {
        let sum = 0;
        for (let k = 0; k < 3; k++) sum += frame[k * 3 + row] * turnOf[column * 3 + k];
        matrices[at + column * 4 + row] = size * sum;
      }
    for (let k = 0; k < 3; k++) matrices[at + 12 + k] = points.positions[o + k];
    matrices[at + 15] = 1;
  }
  const attributes = new Map<string, Attribute>(noAttributes);
  for (const [name, attribute] of points.attributes)
    if (attribute.carrier === 'point' && name !== 'tangent' && name !== 'normal') attributes.set(name, { ...attribute, carrier: 'copy' });
  return makeCopies(objects, object, matrices, attributes);
}

/**
 * Leans a frame by degrees away from one of its columns, which is its up, toward a heading round it: 0 is the next column, counter-clockwise seen against the up.
 */
function leanFrame(frame: Float64Array, up: 1 | 2, degrees: number, heading: number): void {
  if (!degrees) return;
  const at = (column: number, k: number): number => frame[column * 3 + k];
  const [c, s] = cosineAndSine(heading);
  const [first, second] = [(up + 1) % 3, (up + 2) % 3];
  const u = [0, 1, 2].map((k) => at(up, k));
  const way = [0, 1, 2].map((k) => at(first, k) * c + at(second, k) * s);
  const aside = [0, 1, 2].map((k) => at(second, k) * c - at(first, k) * s);
  const [cosine, sine] = cosineAndSine(degrees);
  for (let k = 0; k < 3; k++) {
    const [leaned, bowed] = [u[k] * cosine + way[k] * sine, way[k] * cosine - u[k] * sine];
    frame[up * 3 + k] = leaned;
    frame[first * 3 + k] = bowed * c - aside[k] * s;
    frame[second * 3 + k] = bowed * s + aside[k] * c;
  }
}

/** Turns a frame about one of its columns, counter-clockwise seen against it. */
function turnFrame(frame: Float64Array, axis: 1 | 2, degrees: number): void {
  if (!degrees) return;
  const [c, s] = cosineAndSine(degrees);
  const [first, second] = [((axis + 1) % 3) * 3, ((axis + 2) % 3) * 3];
  for (let k = 0; k < 3; k++) {
    const [a, b] = [frame[first + k], frame[second + k]];
    frame[first + k] = a * c + b * s;
    frame[second + k] = b * c - a * s;
  }
}

/** The frame of copies that follow none. */
const level = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** How each copy is changed about its own place: degrees about its own y, degrees of lean away from it and toward which heading, and a factor. */
export interface CopyChange {
  readonly turn: Field;
  readonly lean: Field;
  readonly toward: Field;
  readonly size: Field;
}

/** Copies turned about their own y, leaned, and sized, each about its own place. */
export function adjustCopies(copies: Copies, { turn, lean, toward, size }: CopyChange): Copies {
  const matrices = new Float32Array(copies.matrices);
  const own = new Float64Array(9);
  for (let i = 0; i < copies.object.length; i++) {
    own.set(level);
    leanFrame(own, 1, fieldAt(lean, i), fieldAt(toward, i));
    turnFrame(own, 1, fieldAt(turn, i));
    const [at, factor] = [i * 16, fieldAt(size, i)];
    for (let column = 0; column < 3; column++)
      for (let row = 0; row < 3; row++) {
        let sum = 0;
        for (let k = 0; k < 3; k++) sum += copies.matrices[at + k * 4 + row] * own[column * 3 + k];
        matrices[at + column * 4 + row] = factor * sum;
      }
  }
  return { ...copies, matrices };
}
