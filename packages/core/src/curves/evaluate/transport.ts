export type Vector3 = readonly [number, number, number];

const worldAxes: readonly Vector3[] = [[0, 0, 1], [1, 0, 0], [0, 1, 0]]; // prettier-ignore

/** Sine of the angle within which a direction that only has to start something counts as parallel: nearer ones would follow every unevenness. */
const steady = 1e-3;

/** Sine of the angle below which 32-bit directions no longer tell which way a direction leans. */
export const numbersEnd = 1e-6;

/** Sine of the angle between a direction of any length and a unit tangent. */
export function sineBetween([x, y, z]: Vector3, tx: number, ty: number, tz: number): number {
  return Math.hypot(y * tz - z * ty, z * tx - x * tz, x * ty - y * tx) / (Math.hypot(x, y, z) || 1);
}

/**
 * The part of `direction` across `tangent`, unit; a world axis serves where they are parallel, within an angle whose sine is `least`. Returns whether
 * they were.
 */
export function perpendicular(
  direction: ArrayLike<number>,
  tx: number,
  ty: number,
  tz: number,
  out: Float64Array | Float32Array,
  o: number,
  least: number = steady,
): boolean {
  if (across(direction, tx, ty, tz, out, o, least)) return false;
  for (const axis of worldAxes) if (across(axis, tx, ty, tz, out, o, steady)) break;
  return true;
}

/** Writes the unit part of `direction` across the tangent; false when the sine of the angle between them is `least` or less. */
function across(direction: ArrayLike<number>, tx: number, ty: number, tz: number, out: Float64Array | Float32Array, o: number, least: number): boolean {
  const x = direction[0];
  const y = direction[1];
  const z = direction[2];
  const along = x * tx + y * ty + z * tz;
  const nx = x - along * tx;
  const ny = y - along * ty;
  const nz = z - along * tz;
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (!(length > least * Math.sqrt(x * x + y * y + z * z))) return false;
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
export function leastRotation(r: Float64Array, ax: number, ay: number, az: number, bx: number, by: number, bz: number): void {
  const cosine = ax * bx + ay * by + az * bz;
  if (cosine < -1 + 1e-9) return;
  const f = (r[0] * bx + r[1] * by + r[2] * bz) / (1 + cosine);
  r[0] -= f * (ax + bx);
  r[1] -= f * (ay + by);
  r[2] -= f * (az + bz);
}

/** Radians by which the normal of point `b` is turned about its tangent against that of `a`, carried there over the chord by least rotations; −π…π. */
export function twistBetween(p: ArrayLike<number>, tangents: ArrayLike<number>, normals: ArrayLike<number>, a: number, b: number): number {
  const j = b * 3;
  const [tx, ty, tz] = [tangents[j], tangents[j + 1], tangents[j + 2]];
  carryOver(p, tangents, normals, a, b, carried);
  const [cx, cy, cz] = carried;
  const [nx, ny, nz] = [normals[j], normals[j + 1], normals[j + 2]];
  return Math.atan2(tx * (cy * nz - cz * ny) + ty * (cz * nx - cx * nz) + tz * (cx * ny - cy * nx), cx * nx + cy * ny + cz * nz);
}

const carried = new Float64Array(3);

/** Writes the normal of point `a` as it arrives at `b` over the chord, by least rotations from tangent to chord and from chord to tangent. */
function carryOver(p: ArrayLike<number>, tangents: ArrayLike<number>, normals: ArrayLike<number>, a: number, b: number, out: Float64Array): void {
  const [i, j] = [a * 3, b * 3];
  for (let k = 0; k < 3; k++) out[k] = normals[i + k];
  const [dx, dy, dz] = [p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]];
  const length = Math.sqrt(dx * dx + dy * dy + dz * dz);
  const [bx, by, bz] = [tangents[j], tangents[j + 1], tangents[j + 2]];
  const [x, y, z] = length > 0 ? [dx / length, dy / length, dz / length] : [bx, by, bz];
  leastRotation(out, tangents[i], tangents[i + 1], tangents[i + 2], x, y, z);
  leastRotation(out, x, y, z, bx, by, bz);
}

/**
 * Carries normals along chords: the least rotation from each point's bisector to the chord and on to the next bisector. On a polyline
 * this is exact parallel transport, so that mitred sections are true prisms between their corners. Arguments as `doubleReflection`.
 */
export function chordTransport(p: Float32Array, tangents: Float32Array, normals: Float32Array, from: number, count: number, closed: boolean): Vector3 {
  let a = from * 3;
  let rx = normals[a];
  let ry = normals[a + 1];
  let rz = normals[a + 2];
  let tx = tangents[a];
  let ty = tangents[a + 1];
  let tz = tangents[a + 2];
  for (let i = 1; i < (closed ? count + 1 : count); i++) {
    const b = (i < count ? from + i : from) * 3;
    const dx = p[b] - p[a];
    const dy = p[b + 1] - p[a + 1];
    const dz = p[b + 2] - p[a + 2];
    const bx = tangents[b];
    const by = tangents[b + 1];
    const bz = tangents[b + 2];
    // Two turns of `leastRotation`, written out: from the tangent to the chord, and from the chord to the next tangent.
    const length = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const x = length > 0 ? dx / length : bx;
    const y = length > 0 ? dy / length : by;
    const z = length > 0 ? dz / length : bz;
    const into = tx * x + ty * y + tz * z;
    if (into >= -1 + 1e-9) {
      const f = (rx * x + ry * y + rz * z) / (1 + into);
      rx -= f * (tx + x);
      ry -= f * (ty + y);
      rz -= f * (tz + z);
    }
    const on = x * bx + y * by + z * bz;
    if (on >= -1 + 1e-9) {
      const f = (rx * bx + ry * by + rz * bz) / (1 + on);
      rx -= f * (x + bx);
      ry -= f * (y + by);
      rz -= f * (z + bz);
    }
    // Round-off is taken out: the part along the tangent, and the length's distance from 1.
    const along = rx * bx + ry * by + rz * bz;
    rx -= along * bx;
    ry -= along * by;
    rz -= along * bz;
    const size = Math.sqrt(rx * rx + ry * ry + rz * rz) || 1;
    rx /= size;
    ry /= size;
    rz /= size;
    if (i < count) {
      normals[b] = rx;
      normals[b + 1] = ry;
      normals[b + 2] = rz;
    }
    a = b;
    tx = bx;
    ty = by;
    tz = bz;
  }
  return [rx, ry, rz];
}

/** Turns the normal at offset `o` about its tangent by `angle` radians, counter-clockwise seen against the tangent. */
export function turnAbout(tangent: Float32Array, normal: Float32Array, o: number, angle: number): void {
  const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
  const [nx, ny, nz] = [normal[o], normal[o + 1], normal[o + 2]];
  const cosine = Math.cos(angle);
  const sine = Math.sin(angle);
  normal[o] = nx * cosine + (ty * nz - tz * ny) * sine;
  normal[o + 1] = ny * cosine + (tz * nx - tx * nz) * sine;
  normal[o + 2] = nz * cosine + (tx * ny - ty * nx) * sine;
}
