import type { Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { curveLengths, stationsOf } from '../../curves/evaluate/arcLength.js';
import { framesOf, type Frames } from '../../curves/evaluate/frames.js';
import { progressEvery, unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { triangulatePolygon } from '../../mesh/topology/polygon.js';
import { carriedValues, carriesValues } from '../parts/pathValues.js';
import { CapPlacer, type CapLayout } from '../parts/capUv.js';
import { findBend, type Bend } from '../plan/mitre.js';
import { findPinches } from '../plan/pinches.js';
import type { Profile } from './profile.js';
import { skinParts } from '../parts/sink.js';
import { seamOf, tellSeam } from '../plan/seam.js';
import { inwardReach, sectionRadius, sectionSymmetry, writeSection, type SectionOptions } from './sweepSection.js';
import { columnsOf, type Columns } from './sweepColumns.js';
import { planTubes, type SkinIssue, type TubePlan, type TubePlans } from '../plan/tubePlan.js';

export interface SweepOptions extends CapLayout, SectionOptions {
  readonly caps: 'open' | 'flat';
  readonly corners: 'mitre' | 'asIs';
  readonly uvScale: number;
  readonly ringStep: number;
}

/**
 * Sweeps a profile along curves: its x on the frame's normal, its y on the side. Several profiles (matched, see `matchProfiles`) are blended along
 * the way. Rings stand at the points of the curves, so smooth ones should be paced. u runs around by the length of the outline, v along by arc length;
 * normals follow taper, twist and blend (second order in the ring spacing, exact on straight pieces). Flat caps have holes where the profile has. Vertices carry the values of the points they stand at.
 * @throws RangeError for sizes that cannot be used; whatever `work` throws.
 */
export function sweep(curves: Curves, profiles: readonly Profile[], options: SweepOptions, work: Work = unbounded): { mesh: Mesh; issues: SkinIssue[] } {
  const issues: SkinIssue[] = [];
  const radius = sectionRadius(curves, profiles, options.size);
  const hasWall = profiles[0].nested.length > 0;
  const plans = planTubes(curves, { radius, caps: hasWall ? options.caps : 'open', corners: options.corners, ringStep: options.ringStep }, issues);
  const columns = columnsOf(profiles[0]);
  const rings = plans.ringCount;
  work.claim({ vertices: rings * columns.count, faces: rings * columns.walls.length });
  const builder = new MeshBuilder();
  const frames = framesOf(curves, work.memory);
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  const inward = inwardReach(curves, plans, frames, profiles, options);
  for (let k = 0; k < plans.count; k++) {
    const plan = plans.at(k);
    findPinches(curves, plans, plan, inward, stations, issues);
    const symmetry = sectionSymmetry(profiles, options.size, plans.rings[plan.from]);
    const seam = seamOf(curves, plans, plan, frames, options.roll, symmetry);
    tellSeam(seam, plan, symmetry, issues);
    new SweptCurve(builder, curves, frames, plans, plan, profiles, columns, options, stations, lengths[plan.curve], seam.steps / symmetry).write(work, rings);
  }
  const mesh = builder.finish();
  if (!mesh.corners.length || !carriesValues(curves)) return { mesh, issues };
  return { mesh: { ...mesh, attributes: new Map([...mesh.attributes, ...carriedValues(curves, builder.sources, work.memory)]) }, issues };
}

const bend: Bend = { x: 0, y: 0, z: 0, factor: 1, sine: 0, cosine: 1 };

/** One swept curve: all its places first, then normals from their neighbours, then faces. */
class SweptCurve {
  /** Rings that have an extent, from the first to the last; ends that run out to nothing are poles. */
  private readonly from: number;
  private readonly rings: number;
  private readonly places: Float64Array;
  /** Profile coordinates of each ring after size and roll: 2 numbers a place. */
  private readonly flat: Float64Array;
  /** Length along the outline to each column, and the outline's own, metres. */
  private readonly around: Float64Array;

  constructor(
    private readonly builder: MeshBuilder,
    private readonly curves: Curves,
    private readonly frames: Frames,
    private readonly plans: TubePlans,
    private readonly plan: TubePlan,
    private readonly profiles: readonly Profile[],
    private readonly columns: Columns,
    private readonly options: SweepOptions,
    private readonly stations: Float64Array,
    private readonly length: number,
    /** Share of a turn by which columns of the last ring of a closed path go on in the first; a whole number of places of every outline. */
    private readonly shift: number,
  ) {
    this.from = plan.start === 'tip' ? 1 : 0;
    this.rings = plan.count - this.from - (plan.end === 'tip' ? 1 : 0);
    this.places = new Float64Array(this.rings * columns.count * 3);
    this.flat = new Float64Array(this.rings * columns.count * 2);
    this.around = new Float64Array(columns.place.length);
  }

  private pointAt(ring: number): number {
    return this.plans.rings[this.plan.from + this.from + ring];
  }

  write(work: Work, allRings: number): void {
    for (let r = 0; r < this.rings; r++) {
      if ((this.plan.from + r) % progressEvery === 0) work.progress((this.plan.from + r) / allRings / 2);
      this.placeRing(r);
    }
    const { builder, columns, plan } = this;
    const firstPoint = builder.points;
    builder.points += this.rings * columns.count;
    const ends = { first: 0, last: 0 };
    let before = -1;
    for (let r = 0; r < this.rings; r++) {
      if ((this.plan.from + r) % progressEvery === 0) work.progress(0.5 + (this.plan.from + r) / allRings / 2);
      const creased = this.plans.crease[plan.from + this.from + r] === 1;
      const into = this.vertices(r, firstPoint + r * columns.count, creased ? -1 : 0, this.v(r));
      if (before >= 0) this.band(before, into);
      else ends.first = into;
      ends.last = into;
      before = creased ? this.vertices(r, firstPoint + r * columns.count, 1, this.v(r)) : into;
    }
    if (plan.closed) {
      const closing = this.vertices(0, firstPoint, this.plans.crease[plan.from] ? -1 : 0, this.vOf(this.length), this.shift);
      this.band(before, closing);
      return;
    }
    this.end(plan.start, 0, firstPoint, ends.first, -1);
    this.end(plan.end, this.rings - 1, firstPoint + (this.rings - 1) * columns.count, ends.last, 1);
  }

  private vOf(s: number): number {
    if (this.options.uvScale > 0) return s / this.options.uvScale;
    return this.length > 0 ? s / this.length : 0;
  }

  private v(ring: number): number {
    return this.vOf(this.stations[this.pointAt(ring)]);
  }

  /** The profile at a ring, blended, sized and rolled, in its plane and in space. */
  private placeRing(r: number): void {
    const { profiles, columns, options, curves, frames } = this;
    const i = this.pointAt(r);
    const o = i * 3;
    const [p, t, n] = [curves.positions, frames.tangent, frames.normal];
    const sx = t[o + 1] * n[o + 2] - t[o + 2] * n[o + 1];
    const sy = t[o + 2] * n[o] - t[o] * n[o + 2];
    const sz = t[o] * n[o + 1] - t[o + 1] * n[o];
    const bent = this.plan.mitred && findBend(curves, this.plans, this.plan, t, this.from + r, bend);
    const first = r * columns.count * 2;
    writeSection(profiles, options, i, this.flat, first);
    let place = r * columns.count * 3;
    for (let k = first; k < first + columns.count * 2; k += 2) {
      const x = this.flat[k];
      const y = this.flat[k + 1];
      let dx = x * n[o] + y * sx;
      let dy = x * n[o + 1] + y * sy;
      let dz = x * n[o + 2] + y * sz;
      if (bent) {
        const stretch = (bend.factor - 1) * (dx * bend.x + dy * bend.y + dz * bend.z);
        dx += stretch * bend.x;
        dy += stretch * bend.y;
        dz += stretch * bend.z;
      }
      this.places[place++] = p[o] + dx;
      this.places[place++] = p[o + 1] + dy;
      this.places[place++] = p[o + 2] + dz;
    }
  }

  /** Lengths along the outlines at a ring to each column, each outline's whole length at its last column. */
  private measureAround(r: number): void {
    const { columns, flat } = this;
    const base = r * columns.count * 2;
    let before = -1;
    for (let c = 0; c < columns.place.length; c++) {
      if (c === 0 || columns.outline[c] !== columns.outline[c - 1]) this.around[c] = 0;
      else {
        const [a, b] = [base + before * 2, base + columns.place[c] * 2];
        this.around[c] = this.around[c - 1] + Math.hypot(flat[b] - flat[a], flat[b + 1] - flat[a + 1]);
      }
      before = columns.place[c];
    }
  }

  /** The place that stands where `place` does in a section turned by a share of a turn that it looks the same after. */
  private turned(place: number, outline: number, share: number): number {
    if (share === 0) return place;
    const first = this.columns.first[outline];
    const own = this.columns.first[outline + 1] - first;
    return first + ((((place - first + Math.round(share * own)) % own) + own) % own);
  }

  /**
   * Vertices of one ring, with the normals of the wall before (−1), after (1) or on both sides (0); `shift`: its columns stand at the places a share
   * of a turn on. Returns the first.
   */
  private vertices(r: number, firstPoint: number, shading: -1 | 0 | 1, v: number, shift = 0): number {
    const { builder, columns, options, places } = this;
    this.measureAround(r);
    const base = builder.vertices;
    const row = r * columns.count * 3;
    for (let c = 0; c < columns.place.length; c++) {
      const whole = this.around[columns.last[c]];
      const u = options.uvScale > 0 ? this.around[c] / options.uvScale : whole > 0 ? this.around[c] / whole : 0;
      const place = this.turned(columns.place[c], columns.outline[c], shift);
      const at = row + place * 3;
      const vertex = builder.vertex(places[at], places[at + 1], places[at + 2], firstPoint + place, u, v, this.pointAt(r));
      this.shade(vertex, r, c, place, shading);
    }
    return base;
  }

  /** The normal at a column: direction around × direction along, each from the neighbouring places. */
  private shade(vertex: number, r: number, c: number, place: number, shading: -1 | 0 | 1): void {
    const { columns, places, plan, rings } = this;
    const outline = this.profiles[0].outlines[columns.outline[c]];
    const first = columns.first[columns.outline[c]];
    const own = outline.flat.length / 2;
    const local = place - first;
    const row = r * columns.count * 3;
    const at = row + place * 3;
    const hasBefore = outline.closed || local > 0;
    const hasAfter = outline.closed || local < own - 1;
    const before = row + (first + ((local + own - 1) % own)) * 3;
    const after = row + (first + ((local + 1) % own)) * 3;
    const wantBefore = hasBefore && (columns.side[c] <= 0 || !hasAfter);
    const wantAfter = hasAfter && (columns.side[c] >= 0 || !hasBefore);
    let ux = 0;
    let uy = 0;
    let uz = 0;
    for (const [wanted, a, b] of [
      [wantBefore, before, at],
      [wantAfter, at, after],
    ] as const) {
      // prettier-ignore
      if (!wanted) continue;
      const x = places[b] - places[a];
      const y = places[b + 1] - places[a + 1];
      const z = places[b + 2] - places[a + 2];
      const size = Math.sqrt(x * x + y * y + z * z) || 1;
      ux += x / size;
      uy += y / size;
      uz += z / size;
    }
    /** The same column on a neighbouring ring; over the seam of a closed path it stands elsewhere. */
    const along = (ring: number): number => {
      if (!plan.closed) return (Math.min(rings - 1, Math.max(0, ring)) * columns.count + place) * 3;
      const over = ring < 0 ? -this.shift : ring >= rings ? this.shift : 0;
      return (((ring + rings) % rings) * columns.count + this.turned(place, columns.outline[c], over)) * 3;
    };
    const lower = shading === 1 ? at : along(r - 1);
    const upper = shading === -1 ? at : along(r + 1);
    const o = this.pointAt(r) * 3;
    const t = this.frames.tangent;
    let dx = 0;
    let dy = 0;
    let dz = 0;
    if (rings > 1) {
      // Weighted so that uneven spacing stays second order: each side's slope counts by the other side's length.
      const [h0, h1] = [gap(places, lower, at), gap(places, at, upper)];
      for (let k = 0; k < 3; k++) {
        const slope =
          (h0 > 0 ? ((places[at + k] - places[lower + k]) / h0) * (h1 || 1) : 0) + (h1 > 0 ? ((places[upper + k] - places[at + k]) / h1) * (h0 || 1) : 0);
        if (k === 0) dx = slope;
        else if (k === 1) dy = slope;
        else dz = slope;
      }
    }
    // Where the section folds over itself its places run backwards; the path's own direction serves there.
    if (!(dx * t[o] + dy * t[o + 1] + dz * t[o + 2] > 0)) [dx, dy, dz] = [t[o], t[o + 1], t[o + 2]];
    this.builder.normal(vertex, uy * dz - uz * dy, uz * dx - ux * dz, ux * dy - uy * dx);
    if (!this.builder.hasNormal(vertex)) this.builder.normal(vertex, this.frames.normal[o], this.frames.normal[o + 1], this.frames.normal[o + 2]);
  }

  private band(a: number, b: number): void {
    for (const [c, d] of this.columns.walls) this.builder.face(skinParts.wall, [a + c, a + d, b + d, b + c]);
  }

  private end(kind: TubePlan['start'], ring: number, firstPoint: number, firstVertex: number, outward: -1 | 1): void {
    if (kind === 'tip') this.tip(firstVertex, outward);
    else if (kind === 'flat') this.cap(ring, firstPoint, outward);
  }

  /** Closes a wall whose size runs out to nothing with triangles to one point. */
  private tip(firstVertex: number, outward: -1 | 1): void {
    const { builder, columns, curves, plan } = this;
    const pole = this.plans.rings[outward < 0 ? plan.from : plan.from + plan.count - 1];
    const point = builder.point();
    const p = curves.positions.subarray(pole * 3, pole * 3 + 3);
    this.measureAround(outward < 0 ? 0 : this.rings - 1);
    for (const [c, d] of columns.walls) {
      const [a, b] = [firstVertex + c, firstVertex + d];
      const share = columns.walls.length ? (c + 0.5) / columns.place.length : 0;
      const vertex = builder.vertex(p[0], p[1], p[2], point, share, this.vOf(this.stations[pole]), pole);
      const [u, w] = [a, b].map((v) => [0, 1, 2].map((k) => builder.at(v, k) - p[k]));
      const sign = outward > 0 ? 1 : -1;
      builder.normal(vertex, sign * (u[1] * w[2] - u[2] * w[1]), sign * (u[2] * w[0] - u[0] * w[2]), sign * (u[0] * w[1] - u[1] * w[0]));
      builder.face(skinParts.wall, outward > 0 ? [a, b, vertex] : [vertex, b, a]);
    }
  }

  /** Closes a wall with flat faces, with holes where the profile has them. */
  private cap(ring: number, firstPoint: number, outward: -1 | 1): void {
    const { builder, columns, options, places, profiles } = this;
    const part = outward < 0 ? skinParts.capStart : skinParts.capEnd;
    const base = ring * columns.count;
    const i = this.pointAt(ring);
    const t = this.frames.tangent;
    const placer = new CapPlacer(options, options.uvScale);
    let reach = 0;
    for (let k = 0; k < columns.count; k++) reach = Math.max(reach, Math.hypot(this.flat[(base + k) * 2], this.flat[(base + k) * 2 + 1]));
    const scale = placer.perMetre(reach);
    const vertexOf = (place: number): number => {
      const at = (base + place) * 3;
      // Seen from outside the start cap runs the other way round, so its y is mirrored to keep lettering readable.
      const [x, y] = [this.flat[(base + place) * 2] * scale, this.flat[(base + place) * 2 + 1] * scale * outward];
      const vertex = builder.vertex(places[at], places[at + 1], places[at + 2], firstPoint + place, placer.u(x, y), placer.v(x, y), i);
      builder.normal(vertex, t[i * 3] * outward, t[i * 3 + 1] * outward, t[i * 3 + 2] * outward);
      return vertex;
    };
    for (const { outer, holes } of profiles[0].nested) {
      const loops = [outer, ...holes].map((which) =>
        Array.from({ length: columns.first[which + 1] - columns.first[which] }, (_, k) => columns.first[which] + k),
      );
      const vertices = loops.map((loop) => loop.map(vertexOf));
      if (!holes.length) {
        builder.face(part, outward > 0 ? vertices[0] : [...vertices[0]].reverse());
        continue;
      }
      const flats = loops.map((loop) => loop.flatMap((place) => [this.flat[(base + place) * 2], this.flat[(base + place) * 2 + 1]]));
      const all = vertices.flat();
      const triangles = triangulatePolygon(flats[0], flats.slice(1));
      for (let k = 0; k < triangles.length; k += 3) {
        const [a, b, c] = [all[triangles[k]], all[triangles[k + 1]], all[triangles[k + 2]]];
        builder.face(part, outward > 0 ? [a, b, c] : [c, b, a]);
      }
    }
  }
}

const gap = (p: Float64Array, a: number, b: number): number => Math.sqrt((p[b] - p[a]) ** 2 + (p[b + 1] - p[a + 1]) ** 2 + (p[b + 2] - p[a + 2]) ** 2);
