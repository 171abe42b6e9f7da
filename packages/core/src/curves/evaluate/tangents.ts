import { curveCount, type Curves } from '../../geometry/curves.js';
import { freshMemory, type Memory } from '../../base/work.js';

/** `exact`: as the curve has them; `neighbours`: the mean of the pieces on both sides; `forwardDifference`: that of the next piece. */
export type TangentRule = 'exact' | 'neighbours' | 'forwardDifference';

/**
 * Unit directions at the points: the `tangent` attribute where the curve has one, else the bisector of the neighbouring chords.
 * Repeated points take the direction of the next distinct one; a curve of no length points along x.
 */
export function tangentsOf(curves: Curves, rule: TangentRule = 'exact', memory: Memory = freshMemory): Float32Array {
  const p = curves.positions;
  const known = curves.attributes.get('tangent');
  const result = memory.float32(p.length);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    const at = from * 3;
    if (rule === 'forwardDifference') {
      forwardTangents(p, from, to, curves.closed[c] === 1, result);
      continue;
    }
    if (rule === 'exact' && known?.carrier === 'point' && to > from && (known.data[at] !== 0 || known.data[at + 1] !== 0 || known.data[at + 2] !== 0)) {
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

function alongX(from: number, to: number, out: Float32Array): void {
  out.fill(0, from * 3, to * 3);
  for (let i = from; i < to; i++) out[i * 3] = 1;
}

const isLeg = (i: number): boolean => legRoom[i * 3] !== 0 || legRoom[i * 3 + 1] !== 0 || legRoom[i * 3 + 2] !== 0;

/** Bisectors of the legs into and out of each point, looking past repeated points; ends of open curves take their only leg. */
function chordTangents(p: Float32Array, from: number, to: number, closed: boolean, out: Float32Array): void {
  const count = to - from;
  const real = count > 1 ? findLegs(p, from, count) : 0;
  if (!real) {
    alongX(from, to, out);
    return;
  }
  if (real === count || (!closed && real === count - 1 && !isLeg(count - 1))) {
    bisectAll(from, count, closed, out);
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

/** Bisectors where no point repeats its neighbour, as it mostly is. */
function bisectAll(from: number, count: number, closed: boolean, out: Float32Array): void {
  const last = (count - 1) * 3;
  let ax = closed ? legRoom[last] : 0;
  let ay = closed ? legRoom[last + 1] : 0;
  let az = closed ? legRoom[last + 2] : 0;
  for (let i = 0, k = 0, o = from * 3; i < count; i++, k += 3, o += 3) {
    const open = !closed && i + 1 === count;
    const bx = open ? 0 : legRoom[k];
    const by = open ? 0 : legRoom[k + 1];
    const bz = open ? 0 : legRoom[k + 2];
    const x = ax + bx;
    const y = ay + by;
    const z = az + bz;
    const length = Math.sqrt(x * x + y * y + z * z);
    // A path that turns straight back keeps the direction that it came from.
    const back = length < 1e-6;
    out[o] = back ? ax : x / length;
    out[o + 1] = back ? ay : y / length;
    out[o + 2] = back ? az : z / length;
    ax = bx;
    ay = by;
    az = bz;
  }
}

/** Directions of the legs out of each point, looking past repeated points; the last of an open curve takes the leg into it. */
function forwardTangents(p: Float32Array, from: number, to: number, closed: boolean, out: Float32Array): void {
  const count = to - from;
  const legs = closed ? count : count - 1;
  if (!(count > 1 && findLegs(p, from, count))) {
    alongX(from, to, out);
    return;
  }
  let last = -1;
  for (let i = legs - 1; i >= 0 && last < 0; i--) if (isLeg(i)) last = i;
  let first = 0;
  while (!isLeg(first)) first++;
  for (let i = count - 1, next = closed ? first : last; i >= 0; i--) {
    if (i < legs && isLeg(i)) next = i;
    for (let k = 0; k < 3; k++) out[(from + i) * 3 + k] = legRoom[next * 3 + k];
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

/** True when the tangent at point `i` is given, not found from chords. */
export function hasExactTangent(curves: Curves, i: number): boolean {
  const known = curves.attributes.get('tangent');
  return !!known && known.carrier === 'point' && (known.data[i * 3] !== 0 || known.data[i * 3 + 1] !== 0 || known.data[i * 3 + 2] !== 0);
}
