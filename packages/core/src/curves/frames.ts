import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import { fieldAt, type Field } from '../values/field.js';
import { curveLengths, stationsOf } from './arcLength.js';

export type Vector3 = readonly [number, number, number];

export interface FrameOptions {
  /** `minimal`: rotation-minimising; `upright`: the normal is `up` as far as the curve allows. */
  method: 'minimal' | 'upright';
  /** Direction that the upright normal leans to. */
  up: Vector3;
  /** Direction that the first normal of a minimal frame leans to. */
  start: Vector3;
  /** Degrees about the tangent, a value per point; null: none. */
  roll: Field | null;
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
  roll: null,
  twist: 0,
  turnsPerMetre: 0,
  spreadClosure: true,
};

/** What a frame could not do as asked, and where. */
export interface FrameIssue {
  code: 'parallel-up' | 'flip' | 'degenerate';
  curve: number;
  /** Metres from the start of the curve. */
  at: number;
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
 * Unit directions at the points: the `tangent` attribute where the curve has one, else the bisector of the neighbouring chords.
 * Repeated points take the direction of the next distinct one; a curve of no length points along x.
 */
export function tangentsOf(curves: Curves): Float32Array {
  const p = curves.positions;
  const known = curves.attributes.get('tangent');
  const result = new Float32Array(p.length);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    const at = from * 3;
    if (known?.carrier === 'point' && to > from && (known.data[at] !== 0 || known.data[at + 1] !== 0 || known.data[at + 2] !== 0)) {
      result.set(known.data.subarray(at, to * 3), at);
      continue;
    }
    chordTangents(p, from, to, curves.closed[c] === 1, result);
  }
  return result;
}

/** Room for the unit legs between neighbouring points; grows with the longest curve. */
let legRoom = new Float64Array(300);

/** Unit legs from each point to the next (and from the last to the first), 0 where they coincide, in `legRoom`. Returns how many are not 0. */
function findLegs(p: Float32Array, from: number, count: number): number {
  if (legRoom.length < count * 3) legRoom = new Float64Array(count * 4);
  let real = 0;
  for (let i = 0; i < count; i++) {
    const a = (from + i) * 3;
    const b = (from + (i + 1 < count ? i + 1 : 0)) * 3;
    const x = p[b] - p[a];
    const y = p[b + 1] - p[a + 1];
    const z = p[b + 2] - p[a + 2];
    const length = Math.sqrt(x * x + y * y + z * z);
    const scale = length > 0 ? 1 / length : 0;
    legRoom[i * 3] = x * scale;
    legRoom[i * 3 + 1] = y * scale;
    legRoom[i * 3 + 2] = z * scale;
    if (length > 0) real++;
  }
  return real;
}

const isLeg = (i: number): boolean => legRoom[i * 3] !== 0 || legRoom[i * 3 + 1] !== 0 || legRoom[i * 3 + 2] !== 0;

/** Bisectors of the legs into and out of each point, looking past repeated points; ends of open curves take their only leg. */
function chordTangents(p: Float32Array, from: number, to: number, closed: boolean, out: Float32Array): void {
  const count = to - from;
  const real = count > 1 ? findLegs(p, from, count) : 0;
  if (!real) {
    for (let i = from; i < to; i++) out[i * 3] = 1;
    return;
  }
  // The closing leg counts for closed curves only.
  const legs = closed ? count : count - 1;
  let into = closed ? legs - 1 : -1;
  if (closed) while (!isLeg(into)) into--;
  let next = 0;
  for (let i = 0; i < count; i++) {
    if (i > 0 && isLeg(i - 1)) into = i - 1;
    if (next < i) next = i;
    while (next < legs && !isLeg(next)) next++;
    let after = next < legs ? next : -1;
    if (after < 0 && closed) for (after = 0; !isLeg(after); after++);
    const o = (from + i) * 3;
    writeBisector(into, after, out, o);
  }
}

/** The unit bisector of two legs (−1: none). A path that turns straight back has none; it keeps the direction it came from. */
function writeBisector(into: number, after: number, out: Float32Array, o: number): void {
  const a = (into < 0 ? after : into) * 3;
  const b = (after < 0 ? into : after) * 3;
  const x = legRoom[a] + legRoom[b];
  const y = legRoom[a + 1] + legRoom[b + 1];
  const z = legRoom[a + 2] + legRoom[b + 2];
  const length = Math.sqrt(x * x + y * y + z * z);
  const back = length < 1e-6;
  out[o] = back ? legRoom[a] : x / length;
  out[o + 1] = back ? legRoom[a + 1] : y / length;
  out[o + 2] = back ? legRoom[a + 2] : z / length;
}

const worldAxes: readonly Vector3[] = [[0, 0, 1], [1, 0, 0], [0, 1, 0]]; // prettier-ignore

/** The part of `direction` across `tangent`, unit; a world axis serves where they are parallel. Returns whether it was parallel. */
export function perpendicular(direction: Vector3, tx: number, ty: number, tz: number, out: Float64Array | Float32Array, o: number): boolean {
  if (across(direction, tx, ty, tz, out, o)) return false;
  for (const axis of worldAxes) if (across(axis, tx, ty, tz, out, o)) break;
  return true;
}

/** Writes the unit part of `direction` across the tangent; false when they are parallel within 1/1000. */
function across(direction: Vector3, tx: number, ty: number, tz: number, out: Float64Array | Float32Array, o: number): boolean {
  const [x, y, z] = direction;
  const along = x * tx + y * ty + z * tz;
  const nx = x - along * tx;
  const ny = y - along * ty;
  const nz = z - along * tz;
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (!(length > 1e-3 * Math.sqrt(x * x + y * y + z * z))) return false;
  // A second pass: where the two are nearly parallel, the first leaves the tangent's own round-off, enlarged.
  const left = (nx * tx + ny * ty + nz * tz) / length;
  const px = nx / length - left * tx;
  const py = ny / length - left * ty;
  const pz = nz / length - left * tz;
  const unit = Math.sqrt(px * px + py * py + pz * pz);
  out[o] = px / unit;
  out[o + 1] = py / unit;
  out[o + 2] = pz / unit;
  return true;
}

/**
 * Carries normals from the first point of a list to the others by double reflection (Wang, Jüttler, Zheng & Liu 2008, "Computation of
 * rotation minimizing frames"): fourth order in the step for exact tangents. `normals` holds the first on entry.
 * Positions and tangents: 3 numbers a point, `count` points from index `from`; one more step back to the first point when `closed`,
 * whose result is returned (else the last normal).
 */
export function doubleReflection(
  positions: ArrayLike<number>,
  tangents: ArrayLike<number>,
  normals: Float32Array | Float64Array,
  from: number,
  count: number,
  closed: boolean,
): Vector3 {
  let [rx, ry, rz] = [normals[from * 3], normals[from * 3 + 1], normals[from * 3 + 2]];
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const a = (from + i) * 3;
    const b = (from + ((i + 1) % count)) * 3;
    const vx = positions[b] - positions[a];
    const vy = positions[b + 1] - positions[a + 1];
    const vz = positions[b + 2] - positions[a + 2];
    const c1 = vx * vx + vy * vy + vz * vz;
    if (c1 > 0) {
      const f = (2 / c1) * (vx * rx + vy * ry + vz * rz);
      const g = (2 / c1) * (vx * tangents[a] + vy * tangents[a + 1] + vz * tangents[a + 2]);
      const lx = rx - f * vx;
      const ly = ry - f * vy;
      const lz = rz - f * vz;
      const wx = tangents[b] - (tangents[a] - g * vx);
      const wy = tangents[b + 1] - (tangents[a + 1] - g * vy);
      const wz = tangents[b + 2] - (tangents[a + 2] - g * vz);
      const c2 = wx * wx + wy * wy + wz * wz;
      const h = c2 > 1e-24 ? (2 / c2) * (wx * lx + wy * ly + wz * lz) : 0;
      rx = lx - h * wx;
      ry = ly - h * wy;
      rz = lz - h * wz;
    }
    // Round-off is taken out against the tangent at each step.
    const along = rx * tangents[b] + ry * tangents[b + 1] + rz * tangents[b + 2];
    rx -= along * tangents[b];
    ry -= along * tangents[b + 1];
    rz -= along * tangents[b + 2];
    const length = Math.sqrt(rx * rx + ry * ry + rz * rz) || 1;
    rx /= length;
    ry /= length;
    rz /= length;
    if (i + 1 < count) {
      normals[b] = rx;
      normals[b + 1] = ry;
      normals[b + 2] = rz;
    }
  }
  return [rx, ry, rz];
}

/** Turns `r` (across unit `a`) by the least rotation that takes `a` to unit `b`; opposite directions leave it. In place at offset 0. */
function leastRotation(r: Float64Array, ax: number, ay: number, az: number, bx: number, by: number, bz: number): void {
  const cosine = ax * bx + ay * by + az * bz;
  if (cosine < -1 + 1e-9) return;
  const f = (r[0] * bx + r[1] * by + r[2] * bz) / (1 + cosine);
  r[0] -= f * (ax + bx);
  r[1] -= f * (ay + by);
  r[2] -= f * (az + bz);
}

/** Takes round-off out of `r`: its part along the unit tangent, and its length's distance from 1. */
function straighten(r: Float64Array, tx: number, ty: number, tz: number): void {
  const along = r[0] * tx + r[1] * ty + r[2] * tz;
  r[0] -= along * tx;
  r[1] -= along * ty;
  r[2] -= along * tz;
  const length = Math.sqrt(r[0] * r[0] + r[1] * r[1] + r[2] * r[2]) || 1;
  r[0] /= length;
  r[1] /= length;
  r[2] /= length;
}

/**
 * Carries normals along chords: the least rotation from each point's bisector to the chord and on to the next bisector. On a polyline
 * this is exact parallel transport, so that mitred sections are true prisms between their corners. Arguments as `doubleReflection`.
 */
export function chordTransport(p: Float32Array, tangents: Float32Array, normals: Float32Array, from: number, count: number, closed: boolean): Vector3 {
  const r = carried;
  for (let k = 0; k < 3; k++) r[k] = normals[from * 3 + k];
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const a = (from + i) * 3;
    const b = (from + (i + 1 < count ? i + 1 : 0)) * 3;
    const x = p[b] - p[a];
    const y = p[b + 1] - p[a + 1];
    const z = p[b + 2] - p[a + 2];
    const length = Math.sqrt(x * x + y * y + z * z);
    if (length > 0) {
      leastRotation(r, tangents[a], tangents[a + 1], tangents[a + 2], x / length, y / length, z / length);
      leastRotation(r, x / length, y / length, z / length, tangents[b], tangents[b + 1], tangents[b + 2]);
    } else leastRotation(r, tangents[a], tangents[a + 1], tangents[a + 2], tangents[b], tangents[b + 1], tangents[b + 2]);
    straighten(r, tangents[b], tangents[b + 1], tangents[b + 2]);
    if (i + 1 < count) {
      normals[b] = r[0];
      normals[b + 1] = r[1];
      normals[b + 2] = r[2];
    }
  }
  return [r[0], r[1], r[2]];
}

const carried = new Float64Array(3);

/**
 * Frames at the points of every curve. Curves are expected to be paced (see `paced`): smooth kinds carry exact tangents.
 *
 * Degenerate places are told in `issues`, never left out: an upright frame whose tangent is parallel to `up` continues the neighbouring
 * frame by the least rotation.
 */
export function computeFrames(curves: Curves, options: FrameOptions): Frames {
  const tangent = tangentsOf(curves);
  const normal = new Float32Array(tangent.length);
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
    if (options.method === 'upright') uprightNormals(curves, c, options.up, tangent, normal, stations, issues);
    else closing = minimalNormals(curves, c, options.start, tangent, normal);
    const spread = options.spreadClosure && lengths[c] > 0 ? closing / lengths[c] : 0;
    const perMetre = (lengths[c] > 0 ? options.twist / lengths[c] : 0) + options.turnsPerMetre * 360;
    for (let i = from; i < from + count; i++) {
      roll[i] = (options.roll ? fieldAt(options.roll, i) : 0) + perMetre * stations[i];
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

/** True when the tangent at point `i` is given, not found from chords. */
export function hasExactTangent(curves: Curves, i: number): boolean {
  const known = curves.attributes.get('tangent');
  return !!known && known.carrier === 'point' && (known.data[i * 3] !== 0 || known.data[i * 3 + 1] !== 0 || known.data[i * 3 + 2] !== 0);
}

function uprightNormals(
  curves: Curves,
  c: number,
  up: Vector3,
  tangent: Float32Array,
  normal: Float32Array,
  stations: Float64Array,
  issues: FrameIssue[],
): void {
  const from = curves.starts[c];
  const to = curves.starts[c + 1];
  const parallel = new Uint8Array(to - from);
  for (let i = from; i < to; i++) {
    const o = i * 3;
    parallel[i - from] = perpendicular(up, tangent[o], tangent[o + 1], tangent[o + 2], normal, o) ? 1 : 0;
  }
  const first = parallel.indexOf(0);
  if (parallel.includes(1)) issues.push({ code: 'parallel-up', curve: c, at: stations[from + parallel.indexOf(1)] });
  if (first < 0) return;
  const r = new Float64Array(3);
  const carry = (a: number, b: number): void => {
    for (let k = 0; k < 3; k++) r[k] = normal[a * 3 + k];
    leastRotation(r, tangent[a * 3], tangent[a * 3 + 1], tangent[a * 3 + 2], tangent[b * 3], tangent[b * 3 + 1], tangent[b * 3 + 2]);
    perpendicular([r[0], r[1], r[2]], tangent[b * 3], tangent[b * 3 + 1], tangent[b * 3 + 2], normal, b * 3);
  };
  for (let i = from + first - 1; i >= from; i--) carry(i + 1, i);
  for (let i = from + first + 1; i < to; i++) if (parallel[i - from]) carry(i - 1, i);
  for (let i = from + 1; i < to; i++) {
    const dot = normal[i * 3] * normal[i * 3 - 3] + normal[i * 3 + 1] * normal[i * 3 - 2] + normal[i * 3 + 2] * normal[i * 3 - 1];
    const ahead = tangent[i * 3] * tangent[i * 3 - 3] + tangent[i * 3 + 1] * tangent[i * 3 - 2] + tangent[i * 3 + 2] * tangent[i * 3 - 1];
    if (dot < -0.2 && ahead > 0.2) issues.push({ code: 'flip', curve: c, at: stations[i] });
  }
}

/** Turns the normal at offset `o` about its tangent by `angle` radians, counter-clockwise seen against the tangent. */
function turnAbout(tangent: Float32Array, normal: Float32Array, o: number, angle: number): void {
  const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
  const [nx, ny, nz] = [normal[o], normal[o + 1], normal[o + 2]];
  const cosine = Math.cos(angle);
  const sine = Math.sin(angle);
  normal[o] = nx * cosine + (ty * nz - tz * ny) * sine;
  normal[o + 1] = ny * cosine + (tz * nx - tx * nz) * sine;
  normal[o + 2] = nz * cosine + (tx * ny - ty * nx) * sine;
}

/** The frames that the curves carry, or minimal ones where they carry none. */
export function framesOf(curves: Curves): Frames {
  const normal = curves.attributes.get('normal');
  const tangent = curves.attributes.get('tangent');
  const carried = normal?.carrier === 'point' && tangent?.carrier === 'point';
  if (!carried) return computeFrames(curves, defaultFrames);
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
