import type { Attribute } from '../../geometry/attributes.js';
import type { Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { randomAt } from '../../values/random.js';
import { skinParts, type TubeOptions, type Wall, type WallEnd } from '../parts/sink.js';
import type { SkinIssue } from '../plan/tubePlan.js';
import { findSelfCrossings } from '../plan/selfCross.js';
import { tube } from '../tube/tube.js';
import { cutAtForks, type CutAtForks } from './cutAtForks.js';
import { convexHull } from './hull.js';

/** A rim of a wall at a fork, and the axes about its middle: along the curve, to its first column, and square to both, as columns go on. */
interface Rim extends WallEnd {
  readonly curve: number;
  readonly centre: readonly number[];
  readonly along: readonly number[];
  readonly first: readonly number[];
  readonly next: readonly number[];
  readonly radius: number;
}

/**
 * Tubes whose walls go over into each other where curves meet: each arm is cut back until its ring lies free, and what lies between the rings is closed by their convex hull, shaded
 * as smoothly as the walls. One closed surface for each network, when capped. UVs of a joint go on from the arm that a face lies at; arms that are cut out of one curve go on in v.
 * Forks whose arms are too short or too nearly the same way stay as they are, and are told, and so is every place beside a joint where a curve comes too near itself.
 * @throws RangeError as `tube`.
 */
export function blendedTube(given: Curves, options: TubeOptions, work: Work = unbounded): { mesh: Mesh; issues: SkinIssue[] } {
  const cut = cutAtForks(given, options.radius, work);
  const told = cut.tooTight.map(({ curve, at, fits }): SkinIssue => ({ code: 'self-cross', reason: 'fork', curve, at, radius: fits }));
  findSelfCrossings(given, options.radius, told, given, cut.atJoint);
  if (!cut.forks.length) {
    const { mesh, issues } = tube(given, options, work);
    return { mesh, issues: [...issues, ...told] };
  }
  const { mesh, issues, walls } = tube(cut.curves, { ...options, radius: cut.radius, pieces: cut.pieces }, work);
  const { before, whole } = cut.pieces;
  const perMetre = options.uvScale > 0 ? () => 1 / options.uvScale : (curve: number) => 1 / whole[curve];
  const joined = joinRims(mesh, rimsOf(mesh, walls, cut, Math.floor(options.sides)), { sides: Math.floor(options.sides), perMetre }, work);
  return { mesh: joined, issues: [...issues.map((issue) => ({ ...issue, curve: cut.source[issue.curve], at: issue.at + before[issue.curve] })), ...told] };
}

/** The rims of each fork. An arm that got no wall, which is told, has none. */
function rimsOf({ positions }: Mesh, walls: readonly Wall[], { forks }: CutAtForks, sides: number): Rim[][] {
  const wallOf = new Map(walls.map((wall) => [wall.curve, wall]));
  return forks.map((ends) => ends.flatMap(({ curve, end }) => (wallOf.has(curve) ? [rimOf(positions, wallOf.get(curve)![end], curve, sides)] : [])));
}

function rimOf(p: Float32Array, end: WallEnd, curve: number, sides: number): Rim {
  const { vertex } = end;
  const centre = [0, 0, 0];
  for (let j = 0; j < sides; j++) for (let k = 0; k < 3; k++) centre[k] += p[(vertex + j) * 3 + k] / sides;
  const from = (j: number): number[] => [0, 1, 2].map((k) => p[(vertex + (j % sides)) * 3 + k] - centre[k]);
  // Rings turn from normal to side, and side = tangent × normal.
  const sum = [0, 0, 0];
  for (let j = 0; j < sides; j++) {
    const turned = cross(from(j), from(j + 1));
    for (let k = 0; k < 3; k++) sum[k] += turned[k];
  }
  const along = unit(sum);
  const first = unit(from(0));
  return { ...end, curve, centre, along, first, next: cross(along, first), radius: Math.hypot(...from(0)) };
}

const cross = (a: readonly number[], b: readonly number[]): number[] => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (v: readonly number[]): number[] => v.map((value) => value / (Math.hypot(...v) || 1));

interface JoinOptions {
  readonly sides: number;
  /** What v grows by a metre on a curve. */
  readonly perMetre: (curve: number) => number;
}

/** Closes what lies between the rims of each fork. */
function joinRims(mesh: Mesh, forks: readonly (readonly Rim[])[], options: JoinOptions, work: Work): Mesh {
  const joints = forks.map((rims, i) => {
    work.progress(i / forks.length);
    return { rims, triangles: jointOf(mesh, rims, options.sides, work) };
  });
  const more = joints.reduce((sum, { triangles }) => sum + triangles.length / 3, 0);
  const [vertices, faces] = [mesh.positions.length / 3, mesh.faceStarts ? mesh.faceStarts.length - 1 : mesh.corners.length / mesh.uniform];
  work.claim({ vertices: vertices + more * 3, faces: faces + more });
  /** The vertex of the wall that each new one stands at. */
  const stands = new Uint32Array(more * 3);
  const uv = new Float32Array(more * 6);
  let at = 0;
  for (const { rims, triangles } of joints)
    for (let t = 0; t < triangles.length; t += 3, at += 3) {
      const corners = triangles.slice(t, t + 3).map((i) => ({ rim: Math.floor(i / options.sides), column: i % options.sides }));
      corners.forEach(({ rim, column }, k) => (stands[at + k] = rims[rim].vertex + column));
      writeUv(mesh, rims, corners, options, uv, at);
    }
  const grown = ({ carrier, size, data }: Attribute, name: string): Attribute => {
    if (carrier !== 'corner' && carrier !== 'face') return { carrier, size, data };
    const all = new Float32Array(data.length + (carrier === 'face' ? more : more * 3) * size);
    all.set(data);
    if (name === 'uv') all.set(uv, data.length);
    else if (carrier === 'corner') stands.forEach((from, i) => all.set(data.subarray(from * size, (from + 1) * size), data.length + i * size));
    else all.fill(skinParts.wall, data.length);
    return { carrier, size, data: all };
  };
  const positions = new Float32Array(mesh.positions.length + more * 9);
  positions.set(mesh.positions);
  const pointOf = new Uint32Array(vertices + more * 3);
  pointOf.set(mesh.pointOf!);
  stands.forEach((from, i) => {
    positions.set(mesh.positions.subarray(from * 3, from * 3 + 3), mesh.positions.length + i * 3);
    pointOf[vertices + i] = mesh.pointOf![from];
  });
  const corners = new Uint32Array(mesh.corners.length + more * 3);
  corners.set(mesh.corners);
  for (let i = 0; i < more * 3; i++) corners[mesh.corners.length + i] = vertices + i;
  const faceStarts = new Uint32Array(faces + more + 1);
  for (let f = 0; f <= faces; f++) faceStarts[f] = mesh.faceStarts ? mesh.faceStarts[f] : f * mesh.uniform;
  for (let f = 1; f <= more; f++) faceStarts[faces + f] = mesh.corners.length + f * 3;
  const attributes = new Map([...mesh.attributes].map(([name, attribute]) => [name, grown(attribute, name)]));
  return { ...mesh, positions, pointOf, corners, faceStarts, uniform: 0, attributes };
}

/** The triangles between rims: rim × sides + column, 3 a triangle, turned outwards. */
function jointOf({ positions: p }: Mesh, rims: readonly Rim[], sides: number, work: Work): number[] {
  const count = rims.length * sides;
  const places = new Float64Array((count + rims.length) * 3);
  rims.forEach(({ vertex, outward, centre, along, radius }, r) => {
    // In general position: rings opposite each other lie in planes together, which a hull cannot turn outwards. Less than the ring's own roundness.
    const jitter = radius * Math.min(0.001, 0.02 * (1 - Math.cos(Math.PI / sides)));
    for (let j = 0; j < sides; j++)
      for (let k = 0; k < 3; k++) places[(r * sides + j) * 3 + k] = p[(vertex + j) * 3 + k] + jitter * (randomAt(1, (r * sides + j) * 3 + k) * 2 - 1);
    // A lid on each ring: what touches it is left out, and the ring's own edges are left over.
    for (let k = 0; k < 3; k++) places[(count + r) * 3 + k] = centre[k] - outward * along[k] * radius * lid;
  });
  const hull = convexHull(places, work) ?? [];
  const triangles: number[] = [];
  for (let t = 0; t < hull.length; t += 3) if (hull[t] < count && hull[t + 1] < count && hull[t + 2] < count) triangles.push(hull[t], hull[t + 1], hull[t + 2]);
  return triangles;
}

/** How high the lid of a ring is, as a share of its radius: low enough for all that lies behind the ring to lie behind its slopes too. */
const lid = 0.01;

/** UVs of a joint's triangle: as those of the arm that most of it stands at, gone on towards the fork. */
function writeUv(
  mesh: Mesh,
  rims: readonly Rim[],
  corners: readonly { readonly rim: number; readonly column: number }[],
  { sides, perMetre }: JoinOptions,
  uv: Float32Array,
  at: number,
): void {
  const { positions: p } = mesh;
  const known = mesh.attributes.get('uv')!.data;
  const votes = corners.map(({ rim }) => corners.filter((other) => other.rim === rim).length);
  const lead = rims[corners[votes.indexOf(Math.max(...votes))].rim];
  const { vertex, curve, outward, centre } = lead;
  const turn = known[(vertex + sides) * 2] - known[vertex * 2];
  const v = known[vertex * 2 + 1];
  let reference: number | null = null;
  corners.forEach(({ rim, column }, k) => {
    const own = rims[rim] === lead;
    const from = [0, 1, 2].map((axis) => p[(rims[rim].vertex + column) * 3 + axis] - centre[axis]);
    const [x, y, z] = [lead.first, lead.next, lead.along].map((axis) => from[0] * axis[0] + from[1] * axis[1] + from[2] * axis[2]);
    let u = own ? known[(vertex + column) * 2] : known[vertex * 2] + (Math.atan2(y, x) / (2 * Math.PI)) * turn;
    reference ??= u;
    u -= Math.round((u - reference) / turn) * turn;
    uv[(at + k) * 2] = u;
    // The fork lies before the start of an arm, and beyond its end.
    uv[(at + k) * 2 + 1] = own ? v : v + (outward < 0 ? Math.min(0, z) : Math.max(0, z)) * perMetre(curve);
  });
}
