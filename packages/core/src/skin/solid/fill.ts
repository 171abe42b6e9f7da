import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { intoPlane, planeThrough, type Plane } from '../../curves/evaluate/plane.js';
import { paced } from '../../curves/change/resample.js';
import { unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { nestOutlines, signedArea, triangulatePolygon } from '../../mesh/topology/polygon.js';
import { skinParts } from '../parts/sink.js';

export interface FillOptions {
  /** Metres per UV tile; 0: the whole fill in the unit square. */
  readonly uvScale: number;
  /** Faces look against their plane's normal. */
  readonly flip: boolean;
}

/** What could not be filled as it stands. */
export interface FillIssue {
  readonly curve: number;
  readonly reason: 'open' | 'not-flat' | 'no-area';
}

interface FlatOutline {
  readonly curve: number;
  /** Places in the plane, pairs; the matching places in space, triples. */
  readonly flat: number[];
  readonly places: number[];
}

/**
 * Faces inside closed flat curves. Curves in one plane are nested: an outline inside another is a hole, one inside a hole is an island. An outline
 * without holes becomes one face, with holes triangles. Faces look along the greatest part of their plane's normal, upwards for level ones.
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
  for (const { plane, outlines } of groups) fillPlane(builder, plane, outlines, options);
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
  let reach = 0;
  let height = 0;
  for (let i = 0; i < local.length; i += 3) {
    reach = Math.max(reach, Math.hypot(local[i], local[i + 1]));
    height = Math.max(height, Math.abs(local[i + 2]));
  }
  if (!(Math.abs(signedArea(Array.from(local).filter((_, i) => i % 3 < 2))) > 1e-12 * reach * reach)) {
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

function fillPlane(builder: MeshBuilder, plane: Plane, outlines: readonly FlatOutline[], { uvScale, flip }: FillOptions): void {
  const all = outlines.flatMap(({ flat }) => flat);
  const least = [0, 1].map((k) => all.reduce((m, value, i) => (i % 2 === k ? Math.min(m, value) : m), Infinity));
  const most = [0, 1].map((k) => all.reduce((m, value, i) => (i % 2 === k ? Math.max(m, value) : m), -Infinity));
  const scale = uvScale > 0 ? 1 / uvScale : 1 / Math.max(most[0] - least[0], most[1] - least[1]);
  const normal = plane.normal.map((value) => (flip ? -value : value));
  const vertices = outlines.map(({ flat, places }) =>
    Array.from({ length: flat.length / 2 }, (_, i) => {
      // Seen from the back, u runs the other way, so that lettering reads.
      const x = flip ? most[0] - flat[i * 2] : flat[i * 2] - least[0];
      const vertex = builder.vertex(places[i * 3], places[i * 3 + 1], places[i * 3 + 2], builder.point(), x * scale, (flat[i * 2 + 1] - least[1]) * scale);
      builder.normal(vertex, normal[0], normal[1], normal[2]);
      return vertex;
    }),
  );
  const face = (list: readonly number[]): void => builder.face(skinParts.wall, flip ? [...list].reverse() : list);
  for (const { outer, holes } of nestOutlines(outlines.map(({ flat }) => flat))) {
    if (!holes.length) {
      face(signedArea(outlines[outer].flat) > 0 ? vertices[outer] : [...vertices[outer]].reverse());
      continue;
    }
    const loops = [outer, ...holes];
    const list = loops.flatMap((which) => vertices[which]);
    const triangles = triangulatePolygon(outlines[outer].flat, holes.map((which) => outlines[which].flat)); // prettier-ignore
    for (let k = 0; k < triangles.length; k += 3) face([list[triangles[k]], list[triangles[k + 1]], list[triangles[k + 2]]]);
  }
}
