import { curveCount, type Curves } from '../../geometry/curves.js';
import { areaVector } from '../../curves/evaluate/plane.js';
import { paced } from '../../curves/change/resample.js';
import { planeOf, planeThrough } from '../../curves/evaluate/plane.js';
import { nestOutlines, type NestedOutline } from '../../mesh/topology/outlines.js';
import { signedArea } from '../../mesh/topology/polygon.js';

/** One outline of a profile: x lies on the frame's normal, y on its side, metres. */
export interface Outline {
  /** x and y of each place. */
  readonly flat: Float64Array;
  readonly closed: boolean;
  /** 1 where the wall has an edge. */
  readonly hard: Uint8Array;
}

/** What is swept: outlines, closed ones nested. */
export interface Profile {
  readonly outlines: readonly Outline[];
  /** The closed outlines that bound faces, with their holes; open ones are in none. */
  readonly nested: readonly NestedOutline[];
  /** Farthest place from the path, metres. */
  readonly reach: number;
}

export interface ProfileOptions {
  /** Degrees; corners that turn by more are edges. */
  readonly hard: number;
  /** Puts the middle of the profile's box on the path instead of the origin it was drawn about. */
  readonly centre: boolean;
}

/**
 * A profile from curves. The plane is that of the largest outline, its first axis along world X as far as the plane allows (Y where it is square to X), as
 * circles have it; an outline in XY keeps its x and y. Distances from the plane are dropped. Outer outlines run counter-clockwise and holes
 * clockwise, whichever way they were drawn, so that walls face outwards.
 * @throws RangeError when there is no outline of two different places.
 */
export function profileFrom(given: Curves, options: ProfileOptions): Profile {
  const curves = paced(given);
  const plane = profilePlane(curves);
  const lists: { flat: Float64Array; closed: boolean }[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const places: number[] = [];
    for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) {
      const [x, y, z] = curves.positions.subarray(i * 3, i * 3 + 3);
      const a = x * plane.u[0] + y * plane.u[1] + z * plane.u[2];
      const b = x * plane.v[0] + y * plane.v[1] + z * plane.v[2];
      const last = places.length - 2;
      if (last < 0 || Math.hypot(a - places[last], b - places[last + 1]) > 1e-9) places.push(a, b);
    }
    const closed = curves.closed[c] === 1;
    const last = places.length - 2;
    if (closed && last > 0 && Math.hypot(places[0] - places[last], places[1] - places[last + 1]) <= 1e-9) places.length -= 2;
    if (places.length >= (closed ? 6 : 4)) lists.push({ flat: Float64Array.from(places), closed });
  }
  if (!lists.length) throw new RangeError('The profile has no outline of two different places.');
  if (options.centre) centre(lists.map(({ flat }) => flat));
  const closedOnes = lists.map(({ closed }, i) => (closed ? i : -1)).filter((i) => i >= 0);
  const nested = nestOutlines(closedOnes.map((i) => lists[i].flat)).map(({ outer, holes }) => ({
    outer: closedOnes[outer],
    holes: holes.map((i) => closedOnes[i]),
  }));
  const holes = new Set(nested.flatMap((entry) => entry.holes));
  let reach = 0;
  const outlines = lists.map(({ flat, closed }, i): Outline => {
    const turned = closed && signedArea(flat) > 0 === holes.has(i) ? reversed(flat) : flat;
    for (let k = 0; k < flat.length; k += 2) reach = Math.max(reach, Math.hypot(flat[k], flat[k + 1]));
    return { flat: turned, closed, hard: hardCorners(turned, closed, options.hard) };
  });
  return { outlines, nested, reach };
}

function profilePlane(curves: Curves): ReturnType<typeof planeOf> {
  let largest: number[] = [0, 0, 0];
  for (let c = 0; c < curveCount(curves); c++) {
    const n = areaVector(curves.positions, curves.starts[c], curves.starts[c + 1]);
    if (Math.hypot(...n) > Math.hypot(...largest)) largest = n;
  }
  if (Math.hypot(...largest) > 1e-18) return planeOf(largest);
  // A straight profile: across any plane that holds it and, if it can, world Z as its normal.
  const p = curves.positions;
  let flatZ = true;
  for (let i = 5; i < p.length; i += 3) flatZ &&= Math.abs(p[i] - p[2]) < 1e-9;
  return flatZ ? planeOf([0, 0, 1]) : planeOf(planeThrough(p, 0, p.length / 3).normal);
}

function centre(lists: readonly Float64Array[]): void {
  for (const k of [0, 1]) {
    const values = lists.flatMap((flat) => Array.from(flat).filter((_, i) => i % 2 === k));
    const middle = (values.reduce((a, b) => Math.min(a, b)) + values.reduce((a, b) => Math.max(a, b))) / 2;
    for (const flat of lists) for (let i = k; i < flat.length; i += 2) flat[i] -= middle;
  }
}

/** The other way round, with the first place kept first. */
function reversed(flat: Float64Array): Float64Array {
  const result = new Float64Array(flat.length);
  for (let i = 0; i < flat.length / 2; i++) {
    const from = (flat.length / 2 - i) % (flat.length / 2);
    result[i * 2] = flat[from * 2];
    result[i * 2 + 1] = flat[from * 2 + 1];
  }
  return result;
}

function hardCorners(flat: Float64Array, closed: boolean, degrees: number): Uint8Array {
  const count = flat.length / 2;
  const hard = new Uint8Array(count);
  const limit = Math.cos((degrees * Math.PI) / 180);
  for (let i = closed ? 0 : 1; i < (closed ? count : count - 1); i++) {
    const [a, b, c] = [((i + count - 1) % count) * 2, i * 2, ((i + 1) % count) * 2];
    const [ux, uy, vx, vy] = [flat[b] - flat[a], flat[b + 1] - flat[a + 1], flat[c] - flat[b], flat[c + 1] - flat[b + 1]];
    if (ux * vx + uy * vy < limit * Math.hypot(ux, uy) * Math.hypot(vx, vy) - 1e-12) hard[i] = 1;
  }
  return hard;
}

/** Places that lie within this share of the reach count as the same when the section is turned. */
const sameTurned = 1e-5;

/** How many times in one turn the section looks the same, place by place (4 for a square about the path); 1 where any outline is open. */
export function symmetryOf({ outlines, reach }: Profile): number {
  if (!outlines.length || outlines.some(({ closed }) => !closed)) return 1;
  const counts = outlines.map(({ flat }) => flat.length / 2);
  for (let m = Math.min(...counts); m > 1; m--)
    if (counts.every((count) => count % m === 0) && outlines.every((outline) => looksTheSame(outline, m, sameTurned * reach))) return m;
  return 1;
}

function looksTheSame({ flat, hard }: Outline, m: number, tolerance: number): boolean {
  const count = flat.length / 2;
  const [c, s] = [Math.cos((2 * Math.PI) / m), Math.sin((2 * Math.PI) / m)];
  for (let i = 0; i < count; i++) {
    const j = (i + count / m) % count;
    const [x, y] = [flat[i * 2], flat[i * 2 + 1]];
    if (hard[i] !== hard[j] || Math.abs(c * x - s * y - flat[j * 2]) > tolerance || Math.abs(s * x + c * y - flat[j * 2 + 1]) > tolerance) return false;
  }
  return true;
}

/** Places evenly along an outline by its length, from its first place on. */
function evenOutline({ flat, closed }: Outline, count: number): Float64Array {
  const own = flat.length / 2;
  const at = [0];
  for (let i = 1; i <= (closed ? own : own - 1); i++) {
    const [a, b] = [(i - 1) * 2, (i % own) * 2];
    at.push(at[i - 1] + Math.hypot(flat[b] - flat[a], flat[b + 1] - flat[a + 1]));
  }
  const whole = at[at.length - 1];
  const result = new Float64Array(count * 2);
  for (let i = 0, k = 0; i < count; i++) {
    const s = (whole * i) / (closed ? count : count - 1);
    while (k + 2 < at.length && at[k + 1] < s) k++;
    const f = at[k + 1] > at[k] ? Math.min(1, (s - at[k]) / (at[k + 1] - at[k])) : 0;
    const [a, b] = [k * 2, ((k + 1) % own) * 2];
    for (const d of [0, 1]) result[i * 2 + d] = flat[a + d] * (1 - f) + flat[b + d] * f;
  }
  return result;
}

/**
 * Profiles that can be blended: each outline of one with the outline of the same number of the others. Outlines of different numbers of places are
 * spaced evenly, as many places as the richest has; an edge is an edge in all.
 * @throws RangeError when they have different numbers of outlines, or open outlines stand against closed ones.
 */
export function matchProfiles(profiles: readonly Profile[]): Profile[] {
  const [first] = profiles;
  if (profiles.length < 2) return [...profiles];
  for (const [n, profile] of profiles.entries()) {
    if (profile.outlines.length !== first.outlines.length)
      throw new RangeError(`Profile 0 has ${first.outlines.length} outlines and profile ${n} has ${profile.outlines.length}; to blend they need equally many.`);
    const open = profile.outlines.findIndex(({ closed }, i) => closed !== first.outlines[i].closed);
    if (open >= 0) throw new RangeError(`Outline ${open} is closed in one profile and open in another; they cannot be blended.`);
  }
  const matched = first.outlines.map((_, o) => {
    const own = profiles.map((profile) => profile.outlines[o]);
    const counts = own.map(({ flat }) => flat.length / 2);
    const most = Math.max(...counts);
    const same = counts.every((count) => count === most);
    const flats = own.map((outline) => (same ? outline.flat : evenOutline(outline, most)));
    const hards = own.map((outline, n) => (same ? outline.hard : hardCorners(flats[n], outline.closed, 30)));
    const hard = Uint8Array.from({ length: most }, (_, i) => (hards.some((list) => list[i]) ? 1 : 0));
    return flats.map((flat): Outline => ({ flat, closed: own[0].closed, hard }));
  });
  return profiles.map((profile, n) => ({ ...profile, nested: first.nested, outlines: matched.map((list) => list[n]) }));
}
