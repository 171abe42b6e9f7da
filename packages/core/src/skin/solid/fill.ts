import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { extentOf, intoPlane, outOfPlane, planeThrough, seenFrom, straightness, type Facing, type Plane } from '../../curves/evaluate/plane.js';
import { paced } from '../../curves/change/resample.js';
import { unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { enclosedBy, type Region } from '../../mesh/topology/outlines.js';
import { signedArea, triangulatePolygon } from '../../mesh/topology/polygon.js';
import { skinParts } from '../parts/sink.js';

export interface FillOptions {
  /** Metres per UV tile; 0: the whole fill in the unit square. */
  readonly uvScale: number;
  /** Faces look to the other side. */
  readonly flip: boolean;
  /** The side that faces look to: of outlines in one plane that of the largest decides. */
  readonly facing: Facing;
}

/** What could not be filled as it stands. */
export interface FillIssue {
  readonly curve: number;
  readonly reason: 'open' | 'not-flat' | 'no-area' | 'crossing' | 'coincident';
}

interface FlatOutline {
  readonly curve: number;
  /** Places in the plane, pairs; the matching places in space, triples. */
  readonly flat: number[];
  readonly places: number[];
}

/**
 * Faces inside closed flat curves: wherever an odd number of the outlines in a plane are around. So an outline inside another is a hole, one inside a hole an
 * island, and what two that cross have in common stays open. An outline without holes becomes one face; others become triangles.
 */
export function fill(given: Curves, options: FillOptions, work: Work = unbounded): { mesh: Mesh; issues: FillIssue[] } {
  const curves = paced(given);
  const issues: FillIssue[] = [];
  const groups: { plane: Plane; outlines: FlatOutline[] }[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const outline = flatOutline(curves, c, groups, issues);
    if (outline) outline.group.outlines.push(outline.outline);
  }
  const builder = new MeshBuilder();
  work.claim({ vertices: curves.positions.length / 3, faces: curves.positions.length / 3 });
  for (const { plane, outlines } of groups) fillPlane(builder, faced(plane, outlines, curves, options.facing), outlines, options, issues, work);
  return { mesh: builder.finish(), issues };
}

/** An outline in the plane it shares with others, or in one of its own; null with an issue where it cannot be filled. */
function flatOutline(
  curves: Curves,
  c: number,
  groups: { plane: Plane; outlines: FlatOutline[] }[],
  issues: FillIssue[],
): { outline: FlatOutline; group: { plane: Plane; outlines: FlatOutline[] } } | null {
  const [from, to] = [curves.starts[c], curves.starts[c + 1]];
  if (!curves.closed[c]) {
    if (to > from) issues.push({ curve: c, reason: 'open' });
    return null;
  }
  const own = planeThrough(curves.positions, from, to);
  const local = intoPlane(own, curves.positions, from, to);
  const { reach, width } = extentOf(curves.positions, from, to);
  let height = 0;
  for (let i = 2; i < local.length; i += 3) height = Math.max(height, Math.abs(local[i]));
  if (!(width > straightness * reach)) {
    issues.push({ curve: c, reason: 'no-area' });
    return null;
  }
  if (height > 1e-3 * reach) issues.push({ curve: c, reason: 'not-flat' });
  const shares = ({ plane }: { plane: Plane }): boolean => {
    const along = plane.normal.reduce((sum, value, k) => sum + value * own.normal[k], 0);
    const apart = plane.normal.reduce((sum, value, k) => sum + value * (own.origin[k] - plane.origin[k]), 0);
    return along > 1 - 1e-6 && Math.abs(apart) < 1e-4 * reach + 1e-6;
  };
  let group = groups.find(shares);
  if (!group) groups.push((group = { plane: own, outlines: [] }));
  const shared = intoPlane(group.plane, curves.positions, from, to);
  const outline: FlatOutline = { curve: c, flat: [], places: [] };
  for (let i = from; i < to; i++) {
    const o = (i - from) * 3;
    const last = outline.flat.length - 2;
    if (last >= 0 && Math.hypot(shared[o] - outline.flat[last], shared[o + 1] - outline.flat[last + 1]) < 1e-9) continue;
    outline.flat.push(shared[o], shared[o + 1]);
    for (let k = 0; k < 3; k++) outline.places.push(curves.positions[i * 3 + k]);
  }
  return { outline, group };
}

/** The plane of outlines, seen from the side of the largest of them, with their coordinates in it. */
function faced(plane: Plane, outlines: readonly FlatOutline[], { positions, starts }: Curves, facing: Facing): Plane {
  const areas = outlines.map(({ flat }) => Math.abs(signedArea(flat)));
  const { curve } = outlines[areas.indexOf(Math.max(...areas))];
  const turned = seenFrom(plane, facing, positions, starts[curve], starts[curve + 1], true);
  if (turned !== plane) for (const { flat } of outlines) for (let i = 1; i < flat.length; i += 2) flat[i] = -flat[i];
  return turned;
}

function fillPlane(
  builder: MeshBuilder,
  plane: Plane,
  outlines: readonly FlatOutline[],
  { uvScale, flip }: FillOptions,
  issues: FillIssue[],
  work: Work,
): void {
  const all = outlines.flatMap(({ flat }) => flat);
  const least = [0, 1].map((k) => all.reduce((m, value, i) => (i % 2 === k ? Math.min(m, value) : m), Infinity));
  const most = [0, 1].map((k) => all.reduce((m, value, i) => (i % 2 === k ? Math.max(m, value) : m), -Infinity));
  const scale = uvScale > 0 ? 1 / uvScale : 1 / Math.max(most[0] - least[0], most[1] - least[1]);
  const normal = plane.normal.map((value) => (flip ? -value : value));
  const vertexAt = (x: number, y: number, [px, py, pz]: readonly number[]): number => {
    // Seen from the back, u runs the other way, so that lettering reads.
    const u = flip ? most[0] - x : x - least[0];
    const vertex = builder.vertex(px, py, pz, builder.point(), u * scale, (y - least[1]) * scale);
    builder.normal(vertex, normal[0], normal[1], normal[2]);
    return vertex;
  };
  const corner = (outline: number, i: number): number => {
    const { flat, places } = outlines[outline];
    return vertexAt(flat[i * 2], flat[i * 2 + 1], places.slice(i * 3, i * 3 + 3));
  };
  const face = (list: readonly number[]): void => builder.face(skinParts.wall, flip ? [...list].reverse() : list);
  /** A face, or with holes its triangles. */
  const area = (loops: readonly { readonly flat: readonly number[]; readonly vertices: readonly number[] }[], simple: boolean): void => {
    const [outer, ...holes] = loops;
    if (simple && !holes.length) {
      face(signedArea(outer.flat) > 0 ? outer.vertices : [...outer.vertices].reverse());
      return;
    }
    const list = loops.flatMap(({ vertices }) => vertices);
    const triangles = triangulatePolygon(outer.flat, holes.map(({ flat }) => flat)); // prettier-ignore
    for (let k = 0; k < triangles.length; k += 3) face([list[triangles[k]], list[triangles[k + 1]], list[triangles[k + 2]]]);
  };
  const { arrangement, nested, regions, crossing, coincident } = enclosedBy(
    outlines.map(({ flat }) => flat),
    work,
  );
  for (const { outer, holes } of nested) {
    const loops = [outer, ...holes].map((which) => {
      const { flat } = outlines[which];
      return { flat, vertices: Array.from({ length: flat.length / 2 }, (_, i) => corner(which, i)) };
    });
    area(loops, true);
  }
  for (const region of regions) {
    const loops = loopsOf(region).map((loop) => {
      const flat = loop.flatMap((v) => arrangement.places.slice(v * 2, v * 2 + 2));
      const vertices = loop.map((v, k) => {
        const [outline, i] = arrangement.corners[v];
        return outline >= 0 ? corner(outline, i) : vertexAt(flat[k * 2], flat[k * 2 + 1], outOfPlane(plane, flat[k * 2], flat[k * 2 + 1], 0));
      });
      return { flat, vertices };
    });
    area(loops, new Set(region.outer).size === region.outer.length);
  }
  for (const which of crossing) issues.push({ curve: outlines[which].curve, reason: 'crossing' });
  for (const which of coincident) issues.push({ curve: outlines[which].curve, reason: 'coincident' });
}

const loopsOf = ({ outer, holes }: Region): (readonly number[])[] => [outer, ...holes];
