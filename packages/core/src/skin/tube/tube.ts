import type { Attribute } from '../../geometry/attributes.js';
import type { Curves } from '../../geometry/curves.js';
import { seamOf, tellSeam } from '../plan/seam.js';
import { emptyMesh, type Mesh } from '../../geometry/mesh.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import { progressEvery, unbounded, type Work } from '../../base/work.js';
import { curveLengths, stationsOf } from '../../curves/evaluate/arcLength.js';
import { fieldAt } from '../../values/field.js';
import { carriedValues, carriesValues } from '../parts/pathValues.js';
import { writeCap, writeTip, capSizes } from '../parts/caps.js';
import { skinParts, vAt, type SkinSink, type TubeJob, type TubeOptions, type Wall, type WallEnd } from '../parts/sink.js';
import { findBend, type Bend } from '../plan/mitre.js';
import { findPinches } from '../plan/pinches.js';
import { planTubes, type SkinIssue, type TubePlan, type TubePlans } from '../plan/tubePlan.js';

/** What a tube has when nothing else is asked for. */
export const defaultTube = { sides: 12, caps: 'flat', corners: 'mitre', uvScale: 0, ringStep: 1 } as const satisfies Omit<TubeOptions, 'radius'>;

/**
 * Tubes along curves, as one mesh.
 *
 * The section starts on the frame's normal (angle 0) and turns toward side = tangent × normal; faces point outwards. u runs around (0…1 a
 * turn, or metres ÷ uvScale), v along by arc length. Normals are exact for the taper. Rings stand at the curve's points, so smooth curves
 * should be paced first (see `paced`). Watertight when capped: 2 boundary loops a curve when open, none otherwise.
 *
 * @example
 * const { mesh } = tube(paced(curves), { ...defaultTube, radius: constantField(0.05) });
 *
 * @returns with the walls of open curves, where they are pieces of longer ones.
 * @throws RangeError for radii that cannot be used; whatever `work` throws.
 */
export function tube(curves: Curves, options: TubeOptions, work: Work = unbounded): { mesh: Mesh; issues: SkinIssue[]; walls: Wall[] } {
  const issues: SkinIssue[] = [];
  const walls: Wall[] = [];
  const plans = planTubes(curves, options, issues);
  if (!plans.count) return { mesh: emptyMesh, issues, walls };
  const sides = Math.floor(options.sides);
  const size = totalSize(plans, sides);
  work.claim({ vertices: size.points, faces: size.faces });
  const { memory } = work;
  const sink: SkinSink = {
    positions: memory.float32(size.vertices * 3),
    normals: memory.float32(size.vertices * 3),
    uv: memory.float32(size.vertices * 2),
    pointOf: memory.uint32(size.vertices),
    corners: memory.uint32(size.corners),
    faceStarts: size.corners === size.faces * 4 ? null : memory.uint32(size.faces + 1),
    part: memory.float32(size.faces),
    source: carriesValues(curves) ? memory.uint32(size.vertices) : null,
    vertex: 0,
    point: 0,
    corner: 0,
    face: 0,
  };
  if (sink.faceStarts) sink.faceStarts[0] = 0;
  sink.part.fill(skinParts.wall);
  const frames = framesOf(curves, memory);
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  const section = sectionTable(sides);
  // One job for all: a hundred thousand short strands would make as many.
  const job: TubeJob = {
    curves,
    plans,
    plan: plans.at(0),
    options,
    section,
    stations,
    work,
    faces: size.faces,
    length: 0,
    shift: 0,
    before: 0,
    whole: 0,
    tangent: frames.tangent,
    normal: frames.normal,
  };
  for (let k = 0; k < plans.count; k++) {
    job.plan = plans.at(k);
    findPinches(curves, plans, job.plan, options.radius, stations, issues);
    const seam = seamOf(curves, plans, job.plan, frames, null, sides);
    tellSeam(seam, job.plan, sides, issues);
    job.shift = (seam.steps + sides) % sides;
    const { curve } = job.plan;
    job.length = lengths[curve];
    job.before = options.pieces?.before[curve] ?? 0;
    job.whole = options.pieces?.whole[curve] ?? job.length;
    writeTube(job, sink, options.pieces ? walls : null);
  }
  const attributes = new Map<string, Attribute>([
    ['normal', { carrier: 'corner', size: 3, data: sink.normals }],
    ['uv', { carrier: 'corner', size: 2, data: sink.uv }],
    ['part', { carrier: 'face', size: 1, data: sink.part }],
    ...(sink.source ? carriedValues(curves, sink.source, work.memory) : []),
  ]);
  const { positions, corners, pointOf, faceStarts } = sink;
  // Finite curves and radii give finite places, and the corners are right by construction: nothing to check once more.
  const mesh: Mesh = { type: 'mesh', positions, corners, pointOf, pointCount: size.points, faceStarts, uniform: faceStarts ? 0 : 4, materials: [], attributes };
  return { mesh, issues, walls };
}

/** Cosine and sine of each corner of the section, the first repeated at the end. */
function sectionTable(sides: number): Float64Array {
  const table = new Float64Array((sides + 1) * 2);
  for (let j = 0; j < sides; j++) {
    table[j * 2] = Math.cos((2 * Math.PI * j) / sides);
    table[j * 2 + 1] = Math.sin((2 * Math.PI * j) / sides);
  }
  table[sides * 2] = 1;
  return table;
}

interface TubeSize {
  vertices: number;
  points: number;
  faces: number;
  corners: number;
}

function totalSize(plans: TubePlans, sides: number): TubeSize {
  const { crease } = plans;
  const size: TubeSize = { vertices: 0, points: 0, faces: 0, corners: 0 };
  for (let p = 0; p < plans.count; p++) {
    const plan = plans.at(p);
    const tips = Number(plan.start === 'tip') + Number(plan.end === 'tip');
    const rings = plan.count - tips;
    let creased = 0;
    for (let k = plan.from; k < plan.from + plan.count; k++) creased += crease[k];
    const gaps = plan.closed ? rings : rings - 1;
    size.vertices += (rings + creased + (plan.closed ? 1 : 0)) * (sides + 1);
    size.points += rings * sides;
    size.faces += gaps * sides;
    size.corners += gaps * sides * 4;
    addCap(size, capSizes(plan.start, sides));
    addCap(size, capSizes(plan.end, sides));
  }
  return size;
}

function addCap(size: TubeSize, cap: TubeSize): void {
  size.vertices += cap.vertices;
  size.points += cap.points;
  size.faces += cap.faces;
  size.corners += cap.corners;
}

/** Writes a tube with its ends. `walls`: where those of open ones are noted, if anybody asks. */
function writeTube(job: TubeJob, sink: SkinSink, walls: Wall[] | null): void {
  const { plan, section } = job;
  const { rings, crease } = job.plans;
  const sides = section.length / 2 - 1;
  const first = plan.start === 'tip' ? 1 : 0;
  const last = plan.count - (plan.end === 'tip' ? 2 : 1);
  const firstPoint = sink.point;
  const firstVertex = sink.vertex;
  let before = -1;
  for (let i = first; i <= last; i++) {
    const v = vAt(job, job.stations[rings[plan.from + i]]);
    const creased = crease[plan.from + i] === 1;
    const into = writeRing(job, sink, i, v, creased ? -1 : 0);
    if (before >= 0) writeBand(sink, before, into, sides);
    // The first ring of a closed tube is joined from behind at the end, so only its outgoing vertices are needed yet.
    before = creased ? writeRing(job, sink, i, v, 1) : into;
    sink.point += sides;
    if ((plan.from + i) % progressEvery === 0) job.work.progress(sink.face / job.faces);
  }
  if (plan.closed) {
    const point = sink.point;
    sink.point = firstPoint;
    const closing = writeRing(job, sink, 0, vAt(job, job.length), crease[plan.from] ? -1 : 0);
    if (job.shift) shiftColumns(sink, closing, sides, job.shift);
    sink.point = point;
    writeBand(sink, before, closing, sides);
    return;
  }
  if (plan.start === 'open' && plan.end === 'open' && !walls) return;
  const start: WallEnd = { ring: rings[plan.from + first], point: firstPoint, vertex: firstVertex, outward: -1 };
  const end: WallEnd = { ring: rings[plan.from + last], point: firstPoint + (last - first) * sides, vertex: before, outward: 1 };
  if (plan.start !== 'open') closeEnd(job, sink, start, plan.start);
  if (plan.end !== 'open') closeEnd(job, sink, end, plan.end);
  walls?.push({ curve: plan.curve, start, end });
}

function closeEnd(job: TubeJob, sink: SkinSink, end: WallEnd, kind: Exclude<TubePlan['start'], 'open'>): void {
  const first = sink.vertex;
  if (kind === 'tip') writeTip(job, sink, end);
  else writeCap(job, sink, end, kind);
  sink.source?.fill(end.ring, first, sink.vertex);
}

const bend: Bend = { x: 0, y: 0, z: 0, factor: 1, sine: 0, cosine: 1 };

/**
 * Writes one ring of sides + 1 vertices and returns the first. `shading`: 0 normals of the ring's own plane; −1 and 1 those of the straight
 * piece before and after a creased corner.
 */
function writeRing(job: TubeJob, sink: SkinSink, i: number, v: number, shading: -1 | 0 | 1): number {
  const { curves, options, section, tangent, normal } = job;
  const sides = section.length / 2 - 1;
  const at = job.plans.rings[job.plan.from + i];
  const o = at * 3;
  const { positions, normals } = sink;
  const px = curves.positions[o];
  const py = curves.positions[o + 1];
  const pz = curves.positions[o + 2];
  const tx = tangent[o];
  const ty = tangent[o + 1];
  const tz = tangent[o + 2];
  const nx = normal[o];
  const ny = normal[o + 1];
  const nz = normal[o + 2];
  const sx = ty * nz - tz * ny;
  const sy = tz * nx - tx * nz;
  const sz = tx * ny - ty * nx;
  const r = fieldAt(options.radius, at);
  const uStep = (options.uvScale > 0 ? (2 * Math.PI * r) / options.uvScale : 1) / sides;
  const lean = options.radius.values ? -radiusSlope(job, i) : 0;
  const base = sink.vertex;
  for (let j = 0, k = base * 3; j <= sides; j++, k += 3) {
    const c = section[j * 2];
    const d = section[j * 2 + 1];
    const dx = c * nx + d * sx;
    const dy = c * ny + d * sy;
    const dz = c * nz + d * sz;
    positions[k] = px + r * dx;
    positions[k + 1] = py + r * dy;
    positions[k + 2] = pz + r * dz;
    normals[k] = dx;
    normals[k + 1] = dy;
    normals[k + 2] = dz;
  }
  if (lean !== 0) leanNormals(normals, base, sides, lean * tx, lean * ty, lean * tz);
  labelRing(sink, base, sides, uStep, v);
  sink.source?.fill(at, base, base + sides + 1);
  sink.vertex += sides + 1;
  if (job.plan.mitred && findBend(curves, job.plans, job.plan, tangent, i, bend)) mitreRing(sink, base, sides, o, curves.positions, tangent, shading);
  return base;
}

/** Lets each column of a ring stand where the one `shift` columns on stood; UVs stay those of the columns. */
function shiftColumns({ positions, normals, pointOf }: SkinSink, base: number, sides: number, shift: number): void {
  for (const [list, size] of [
    [positions, 3],
    [normals, 3],
    [pointOf, 1],
  ] as const) {
    const before = list.slice(base * size, (base + sides) * size);
    for (let j = 0; j <= sides; j++) {
      const from = ((j + shift) % sides) * size;
      for (let k = 0; k < size; k++) list[(base + j) * size + k] = before[from + k];
    }
  }
}

/** Leans a ring's normals along the path, as they stand on a wall that tapers. */
function leanNormals(normals: Float32Array, base: number, sides: number, x: number, y: number, z: number): void {
  const scale = 1 / Math.sqrt(1 + x * x + y * y + z * z);
  for (let k = base * 3; k <= (base + sides) * 3; k += 3) {
    normals[k] = (normals[k] + x) * scale;
    normals[k + 1] = (normals[k + 1] + y) * scale;
    normals[k + 2] = (normals[k + 2] + z) * scale;
  }
}

/** UVs and points of a ring's vertices; the last stands at the point of the first. Apart from the places: two short loops are faster than a long one. */
function labelRing({ uv, pointOf, point }: SkinSink, base: number, sides: number, uStep: number, v: number): void {
  for (let j = 0, w = base * 2; j <= sides; j++, w += 2) {
    uv[w] = j * uStep;
    uv[w + 1] = v;
    pointOf[base + j] = point + j;
  }
  pointOf[base + sides] = point;
}

/**
 * Brings a ring into the bisecting plane of its corner: the part of each place in the plane of the bend is stretched. With `shading`, normals
 * become those of the straight piece before or after: their part in the bend's plane and along the path turns by half the corner's angle.
 */
function mitreRing(sink: SkinSink, base: number, sides: number, o: number, p: Float32Array, tangent: Float32Array, shading: -1 | 0 | 1): void {
  const { positions, normals } = sink;
  const { x, y, z, cosine, sine } = bend;
  const stretch = bend.factor - 1;
  for (let k = base * 3; k <= (base + sides) * 3; k += 3) {
    const reach = (positions[k] - p[o]) * x + (positions[k + 1] - p[o + 1]) * y + (positions[k + 2] - p[o + 2]) * z;
    positions[k] += stretch * reach * x;
    positions[k + 1] += stretch * reach * y;
    positions[k + 2] += stretch * reach * z;
    if (!shading) continue;
    const across = normals[k] * x + normals[k + 1] * y + normals[k + 2] * z;
    // What leans along the path, where the wall tapers, turns with it.
    const along = normals[k] * tangent[o] + normals[k + 1] * tangent[o + 1] + normals[k + 2] * tangent[o + 2];
    const turn = across * (cosine - 1) + shading * along * sine;
    const tilt = -shading * across * sine + along * (cosine - 1);
    normals[k] += turn * x + tilt * tangent[o];
    normals[k + 1] += turn * y + tilt * tangent[o + 1];
    normals[k + 2] += turn * z + tilt * tangent[o + 2];
  }
}

/** Change of radius per metre at ring `i`, over its neighbours. */
function radiusSlope({ plans, plan, stations, options, length }: TubeJob, i: number): number {
  const n = plan.count;
  const a = plans.rings[plan.from + (plan.closed ? (i + n - 1) % n : Math.max(0, i - 1))];
  const b = plans.rings[plan.from + (plan.closed ? (i + 1) % n : Math.min(n - 1, i + 1))];
  let run = stations[b] - stations[a];
  if (run < 0) run += length;
  return run > 0 ? (fieldAt(options.radius, b) - fieldAt(options.radius, a)) / run : 0;
}

/** Quads between two rings of vertices. */
function writeBand(sink: SkinSink, a: number, b: number, sides: number): void {
  // Their `part` is the wall's from the beginning.
  const { corners, faceStarts } = sink;
  let corner = sink.corner;
  for (let j = 0; j < sides; j++) {
    corners[corner] = a + j;
    corners[corner + 1] = a + j + 1;
    corners[corner + 2] = b + j + 1;
    corners[corner + 3] = b + j;
    corner += 4;
    sink.face++;
    if (faceStarts) faceStarts[sink.face] = corner;
  }
  sink.corner = corner;
}
