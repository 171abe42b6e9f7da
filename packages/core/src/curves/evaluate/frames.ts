import { curveCount, curveKinds, type Curves } from '../../geometry/curves.js';
import { freshMemory, type Memory } from '../../base/work.js';
import { fieldAt, type Field } from '../../values/field.js';
import { chord, curveLengths, stationsOf } from './arcLength.js';
import { tangentsOf, type TangentRule } from './tangents.js';
import { chordTransport, doubleReflection, leastRotation, numbersEnd, perpendicular, sineBetween, turnAbout, type Vector3 } from './transport.js';

export interface FrameOptions {
  /**
   * `minimal`: rotation-minimising; `upright`: the normal is `up` as far as the curve allows; `curvature`: the normal points to the centre of the
   * bend (Frenet 1852, Serret 1851); `target`: it points to a place as far as the curve allows; `surface`: it is that of a surface.
   */
  method: 'minimal' | 'upright' | 'curvature' | 'target' | 'surface';
  /** Direction that the upright normal leans to. */
  up: Vector3;
  /** Direction that the first normal of a minimal frame leans to. */
  start: Vector3;
  /** The place that normals by target point to, metres; null: the mean of each curve's own points. */
  target: Vector3 | null;
  /** The normal of the surface at the place nearest to a point, of any length; null: there is no surface. */
  surface: ((x: number, y: number, z: number) => Vector3) | null;
  /** Directions of the path: as the curve has them, the mean of the pieces on both sides, or that of the next piece. */
  tangents: TangentRule;
  /** Degrees about the tangent, a value per point; null: none. */
  roll: Field | null;
  /** Degrees that each point is rolled beyond the one before. */
  rollStep: number;
  /** Degrees over the whole curve, spread by length. */
  twist: number;
  /** Turns per metre, in addition. */
  turnsPerMetre: number;
  /** Spread the closing angle of a closed curve's minimal frame evenly by length, so that its ends meet. */
  spreadClosure: boolean;
}

export const defaultFrames: FrameOptions = {
  method: 'minimal',
  up: [0, 1, 0],
  start: [0, 1, 0],
  target: null,
  surface: null,
  tangents: 'exact',
  roll: null,
  rollStep: 0,
  twist: 0,
  turnsPerMetre: 0,
  spreadClosure: true,
};

/** What a frame could not do as asked, and where. */
export interface FrameIssue {
  code: 'parallel-up' | 'flip' | 'degenerate' | 'simpler-method-used';
  curve: number;
  /** Metres from the start of the curve. */
  at: number;
  /** Of `parallel-up`: the frame is still as asked, but turns quickly there. */
  near?: boolean;
}

export interface Frames {
  /** Unit, 3 numbers a point. */
  tangent: Float32Array;
  /** Unit and perpendicular to the tangent; side = tangent × normal. */
  normal: Float32Array;
  /** Degrees by which each frame was rolled out of its method's own. */
  roll: Float32Array;
  issues: FrameIssue[];
}

/**
 * Frames at the points of every curve. Curves are expected to be paced (see `paced`): smooth kinds carry exact tangents.
 *
 * Degenerate places are told in `issues`, never left out: an upright frame whose tangent is parallel to `up` within a millionth continues the
 * neighbouring frame by the least rotation; within a thousandth it is told.
 */
export function computeFrames(curves: Curves, options: FrameOptions, memory: Memory = freshMemory): Frames {
  const tangent = tangentsOf(curves, options.tangents, memory);
  const normal = memory.float32(tangent.length);
  const roll = new Float32Array(tangent.length / 3);
  const issues: FrameIssue[] = [];
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const count = curves.starts[c + 1] - from;
    if (!count) continue;
    if (!(lengths[c] > 0)) issues.push({ code: 'degenerate', curve: c, at: 0 });
    let closing = 0;
    if (options.method === 'upright') leaningNormals(curves, c, () => options.up, tangent, normal, stations, issues);
    else if (options.method === 'target') leaningNormals(curves, c, towards(curves, c, options.target), tangent, normal, stations, issues);
    else if (options.method === 'surface' && options.surface) leaningNormals(curves, c, onSurface(curves, options.surface), tangent, normal, stations, issues);
    else if (options.method === 'curvature') curvatureNormals(curves, c, options.start, tangent, normal, stations, issues);
    else closing = minimalNormals(curves, c, options.start, tangent, normal);
    const spread = options.spreadClosure && lengths[c] > 0 ? closing / lengths[c] : 0;
    const perMetre = (lengths[c] > 0 ? options.twist / lengths[c] : 0) + options.turnsPerMetre * 360;
    if (!options.roll && !perMetre && !spread && !options.rollStep) continue;
    for (let i = from; i < from + count; i++) {
      roll[i] = (options.roll ? fieldAt(options.roll, i) : 0) + perMetre * stations[i] + options.rollStep * (i - from);
      const angle = (roll[i] * Math.PI) / 180 + spread * stations[i];
      if (angle !== 0) turnAbout(tangent, normal, i * 3, angle);
    }
  }
  return { tangent, normal, roll, issues };
}

/** Normals of one curve by transport; returns the angle (radians) that would close it: from the carried normal to the first. */
function minimalNormals(curves: Curves, c: number, start: Vector3, tangent: Float32Array, normal: Float32Array): number {
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1 && count > 1;
  const o = from * 3;
  perpendicular(start, tangent[o], tangent[o + 1], tangent[o + 2], normal, o);
  const smooth = curveKinds[curves.kind[c]] !== 'straight';
  const carried = smooth
    ? doubleReflection(curves.positions, tangent, normal, from, count, closed)
    : chordTransport(curves.positions, tangent, normal, from, count, closed);
  if (!closed) return 0;
  const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
  const [nx, ny, nz] = [normal[o], normal[o + 1], normal[o + 2]];
  const [cx, cy, cz] = carried;
  const sine = tx * (cy * nz - cz * ny) + ty * (cz * nx - cx * nz) + tz * (cx * ny - cy * nx);
  return Math.atan2(sine, cx * nx + cy * ny + cz * nz);
}

/** The direction from each point to a place, or to the middle of its own curve. */
function towards(curves: Curves, c: number, target: Vector3 | null): (i: number) => Vector3 {
  const p = curves.positions;
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  const aim = [0, 0, 0];
  if (target) for (let k = 0; k < 3; k++) aim[k] = target[k];
  else for (let i = from; i < to; i++) for (let k = 0; k < 3; k++) aim[k] += p[i * 3 + k] / (to - from);
  return (i) => [aim[0] - p[i * 3], aim[1] - p[i * 3 + 1], aim[2] - p[i * 3 + 2]];
}

function onSurface({ positions: p }: Curves, normalAt: NonNullable<FrameOptions['surface']>): (i: number) => Vector3 {
  return (i) => normalAt(p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
}

/** Sine of the angle to the wanted direction below which a frame, though it is defined, is told. */
const almostParallel = 1e-3;

/** Normals that lean to a direction given at each point. Where it is parallel to the path (to a millionth) they continue their neighbour by the least rotation. */
function leaningNormals(
  curves: Curves,
  c: number,
  direction: (i: number) => Vector3,
  tangent: Float32Array,
  normal: Float32Array,
  stations: Float64Array,
  issues: FrameIssue[],
): void {
  const from = curves.starts[c];
  const to = curves.starts[c + 1];
  const undefinedAt = new Uint8Array(to - from);
  let near = -1;
  for (let i = from; i < to; i++) {
    const o = i * 3;
    const wanted = direction(i);
    const nowhere = wanted[0] === 0 && wanted[1] === 0 && wanted[2] === 0;
    const parallel = perpendicular(nowhere ? [0, 1, 0] : wanted, tangent[o], tangent[o + 1], tangent[o + 2], normal, o, numbersEnd);
    undefinedAt[i - from] = parallel || nowhere ? 1 : 0;
    if (near < 0 && !parallel && sineBetween(wanted, tangent[o], tangent[o + 1], tangent[o + 2]) < almostParallel) near = i;
  }
  if (undefinedAt.includes(1)) issues.push({ code: 'parallel-up', curve: c, at: stations[from + undefinedAt.indexOf(1)] });
  else if (near >= 0) issues.push({ code: 'parallel-up', curve: c, at: stations[near], near: true });
  continueOver(undefinedAt, from, tangent, normal);
  tellFlips(from, to, c, tangent, normal, stations, issues);
}

/** Fills in the normals of points marked 1 from their nearest earlier neighbour (later, before the first), by the least rotation. */
function continueOver(missing: Uint8Array, from: number, tangent: Float32Array, normal: Float32Array): void {
  const first = missing.indexOf(0);
  if (first < 0) return;
  const r = new Float64Array(3);
  const carry = (a: number, b: number): void => {
    for (let k = 0; k < 3; k++) r[k] = normal[a * 3 + k];
    leastRotation(r, tangent[a * 3], tangent[a * 3 + 1], tangent[a * 3 + 2], tangent[b * 3], tangent[b * 3 + 1], tangent[b * 3 + 2]);
    perpendicular([r[0], r[1], r[2]], tangent[b * 3], tangent[b * 3 + 1], tangent[b * 3 + 2], normal, b * 3);
  };
  for (let i = first - 1; i >= 0; i--) carry(from + i + 1, from + i);
  for (let i = first + 1; i < missing.length; i++) if (missing[i]) carry(from + i - 1, from + i);
}

function tellFlips(from: number, to: number, c: number, tangent: Float32Array, normal: Float32Array, stations: Float64Array, issues: FrameIssue[]): void {
  for (let i = from + 1; i < to; i++) {
    const dot = normal[i * 3] * normal[i * 3 - 3] + normal[i * 3 + 1] * normal[i * 3 - 2] + normal[i * 3 + 2] * normal[i * 3 - 1];
    const ahead = tangent[i * 3] * tangent[i * 3 - 3] + tangent[i * 3 + 1] * tangent[i * 3 - 2] + tangent[i * 3 + 2] * tangent[i * 3 - 1];
    if (dot < -0.2 && ahead > 0.2) issues.push({ code: 'flip', curve: c, at: stations[i] });
  }
}

/**
 * Normals to the centre of the bend: the change of direction over length, second order from the neighbours on both sides. Where the path is straight
 * there is none, and the frame continues its neighbour; a path straight all along gets minimal frames.
 */
function curvatureNormals(
  curves: Curves,
  c: number,
  start: Vector3,
  tangent: Float32Array,
  normal: Float32Array,
  stations: Float64Array,
  issues: FrameIssue[],
): void {
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1 && count > 2;
  const p = curves.positions;
  const missing = new Uint8Array(count);
  const turn = new Float64Array(3);
  let length = 0;
  for (let i = 0; i < count; i++) length += i ? chord(p, from + i - 1, from + i) : 0;
  /** Change of direction over length at an inner point, second order for any spacing. */
  const bendAt = (i: number, out: Float64Array): void => {
    const before = from + ((i + count - 1) % count);
    const after = from + ((i + 1) % count);
    const [h0, h1] = [chord(p, before, from + i) || 1, chord(p, from + i, after) || 1];
    for (let k = 0; k < 3; k++) {
      const into = (tangent[(from + i) * 3 + k] - tangent[before * 3 + k]) / h0;
      const outOf = (tangent[after * 3 + k] - tangent[(from + i) * 3 + k]) / h1;
      out[k] = count > 2 ? (into * h1 + outOf * h0) / (h0 + h1) : 0;
    }
  };
  const next = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    const o = (from + i) * 3;
    const inner = closed ? i : Math.min(Math.max(i, 1), Math.max(1, count - 2));
    bendAt(inner % count, turn);
    if (inner !== i && count > 3) {
      // Ends of open curves go on as their two neighbours do, unless that would turn the bend over; a straight last piece has no bend.
      const further = i === 0 ? 2 : count - 3;
      bendAt(further, next);
      const piece = chord(p, from + i, from + inner);
      const share = Math.min(1, piece / (chord(p, from + inner, from + further) || 1));
      let along = 0;
      let change = 0;
      for (let k = 0; k < 3; k++) {
        along += turn[k] * (turn[k] + (turn[k] - next[k]) * share);
        change += (tangent[o + k] - tangent[(from + inner) * 3 + k]) ** 2;
      }
      if (along > 0) for (let k = 0; k < 3; k++) turn[k] += (turn[k] - next[k]) * share;
      if (change < 1e-12) turn.fill(0);
    }
    // Bends wider than ten thousand times the path are no bends: 32-bit directions say no more.
    const bend = Math.hypot(turn[0], turn[1], turn[2]);
    const straight = !(bend * length > 1e-4) || perpendicular([turn[0], turn[1], turn[2]], tangent[o], tangent[o + 1], tangent[o + 2], normal, o);
    missing[i] = straight ? 1 : 0;
  }
  if (!missing.includes(0)) {
    issues.push({ code: 'simpler-method-used', curve: c, at: 0 });
    minimalNormals(curves, c, start, tangent, normal);
    return;
  }
  if (missing.includes(1)) issues.push({ code: 'simpler-method-used', curve: c, at: stations[from + missing.indexOf(1)] });
  continueOver(missing, from, tangent, normal);
  tellFlips(from, from + count, c, tangent, normal, stations, issues);
}

/** The frames that the curves carry, or minimal ones where they carry none. */
export function framesOf(curves: Curves, memory: Memory = freshMemory): Frames {
  const normal = curves.attributes.get('normal');
  const tangent = curves.attributes.get('tangent');
  const carried = normal?.carrier === 'point' && tangent?.carrier === 'point';
  if (!carried) return computeFrames(curves, defaultFrames, memory);
  let complete = true;
  for (let c = 0; c < curveCount(curves); c++) {
    const o = curves.starts[c] * 3;
    complete &&= curves.starts[c + 1] === curves.starts[c] || normal.data[o] !== 0 || normal.data[o + 1] !== 0 || normal.data[o + 2] !== 0;
  }
  if (complete) return { tangent: tangent.data, normal: normal.data, roll: new Float32Array(normal.data.length / 3), issues: [] };
  // Some joined curves have frames and some do not: those without get minimal ones.
  const own = computeFrames(curves, defaultFrames);
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c] * 3, curves.starts[c + 1] * 3];
    if (!normal.data[from] && !normal.data[from + 1] && !normal.data[from + 2]) continue;
    own.normal.set(normal.data.subarray(from, to), from);
    own.tangent.set(tangent.data.subarray(from, to), from);
  }
  return own;
}
