import { curveLengths, curvesBounds } from '../curves/evaluate/arcLength.js';
import type { Copies } from '../geometry/copies.js';
import { copiesBounds, expandedSize, withoutCopies } from '../geometry/expand.js';
import { boundsOf, unionBounds, type Bounds, type GeometrySet } from '../geometry/geometry.js';
import { joinMeshes } from '../geometry/join.js';
import { shearedCount } from '../geometry/shear.js';
import { edgesOf } from '../mesh/topology/edgeTable.js';
import { connectedParts } from '../mesh/topology/parts.js';
import { triangulate } from '../mesh/topology/triangulate.js';
import { faceCount, triangleCount, type Mesh } from '../geometry/mesh.js';

/** Figures of a result, as the report gives them. Lengths in m, areas in m², volumes in m³. */
export interface Measures {
  curves: number;
  points: number;
  copies: number;
  /** Copies that are sheared: glTF, which has no shear, gets each as a mesh of its own. Only where there are some. */
  sheared?: number;
  vertices: number;
  faces: number;
  triangles: number;
  /** Sum of the curves' arc lengths. */
  length: number;
  area: number;
  /** Signed: positive when faces point outwards. */
  volume: number;
  bounds: Bounds | null;
  parts: number;
  boundaryEdges: number;
  nonManifoldEdges: number;
  euler: number;
  degenerateFaces: number;
  uv: { min: [number, number]; max: [number, number]; stretch: [number, number] } | null;
  materials: number;
  /** The figures as if copies were one mesh with the rest; only where there are copies, and not too many to be expanded. */
  expanded?: Measures;
}

/** Area and signed volume (divergence theorem) of the triangles that a mesh is written as (see `triangulate`); faces of no area are counted. */
function surfaceFigures(mesh: Mesh): { area: number; volume: number; degenerateFaces: number } {
  const p = mesh.positions;
  const { indices, faceOf } = triangulate(mesh);
  let area = 0;
  let volume = 0;
  let degenerateFaces = 0;
  // Volumes are summed from the first vertex, not the origin, so that a small body far away keeps its digits.
  const [ox, oy, oz] = [p[0] ?? 0, p[1] ?? 0, p[2] ?? 0];
  let faceArea = 0;
  for (let t = 0; t < faceOf.length; t++) {
    const [a, b, c] = [indices[t * 3] * 3, indices[t * 3 + 1] * 3, indices[t * 3 + 2] * 3];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const cx = uy * vz - uz * vy;
    const cy = uz * vx - ux * vz;
    const cz = ux * vy - uy * vx;
    faceArea += Math.sqrt(cx * cx + cy * cy + cz * cz) / 2;
    volume += ((p[a] - ox) * cx + (p[a + 1] - oy) * cy + (p[a + 2] - oz) * cz) / 6;
    if (t + 1 < faceOf.length && faceOf[t + 1] === faceOf[t]) continue;
    area += faceArea;
    if (!(faceArea > 1e-14)) degenerateFaces++;
    faceArea = 0;
  }
  return { area, volume, degenerateFaces };
}

/** Edges by how many faces meet there, the Euler characteristic and the number of connected parts, all over distinct points. */
function topology(mesh: Mesh): { boundaryEdges: number; nonManifoldEdges: number; euler: number; parts: number } {
  const edges = edgesOf(mesh);
  let boundaryEdges = 0;
  let nonManifoldEdges = 0;
  for (let e = 0; e < edges.count; e++) {
    if (edges.sides[e] === 1) boundaryEdges++;
    else if (edges.sides[e] > 2) nonManifoldEdges++;
  }
  const used = new Uint8Array(mesh.pointCount);
  for (const vertex of mesh.corners) used[mesh.pointOf ? mesh.pointOf[vertex] : vertex] = 1;
  let points = 0;
  for (const each of used) points += each;
  return { boundaryEdges, nonManifoldEdges, euler: points - edges.count + faceCount(mesh), parts: connectedParts(mesh).count };
}

/**
 * Range of the UVs, and least and greatest scale from UV to surface relative to its mean, over `wall` faces (part 0). The scale of a
 * face is √(surface area ÷ UV area); faces without area in either are left out.
 */
function uvFigures(mesh: Mesh): Measures['uv'] {
  const uv = mesh.attributes.get('uv');
  if (!uv || !uv.data.length) return null;
  const part = mesh.attributes.get('part')?.data;
  const min: [number, number] = [Infinity, Infinity];
  const max: [number, number] = [-Infinity, -Infinity];
  for (let k = 0; k < 2; k++)
    for (let i = k; i < uv.data.length; i += 2) {
      if (uv.data[i] < min[k]) min[k] = uv.data[i];
      if (uv.data[i] > max[k]) max[k] = uv.data[i];
    }
  const p = mesh.positions;
  const t = uv.data;
  let least = Infinity;
  let greatest = -Infinity;
  let weighted = 0;
  let weight = 0;
  const { indices, faceOf } = triangulate(mesh);
  let surface = 0;
  let flat = 0;
  for (let i = 0; i < faceOf.length; i++) {
    if (part && part[faceOf[i]] !== 0) continue;
    const [a, b, c] = [indices[i * 3], indices[i * 3 + 1], indices[i * 3 + 2]];
    const [ux, uy, uz] = [p[b * 3] - p[a * 3], p[b * 3 + 1] - p[a * 3 + 1], p[b * 3 + 2] - p[a * 3 + 2]];
    const [vx, vy, vz] = [p[c * 3] - p[a * 3], p[c * 3 + 1] - p[a * 3 + 1], p[c * 3 + 2] - p[a * 3 + 2]];
    surface += Math.sqrt((uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2);
    flat += (t[b * 2] - t[a * 2]) * (t[c * 2 + 1] - t[a * 2 + 1]) - (t[c * 2] - t[a * 2]) * (t[b * 2 + 1] - t[a * 2 + 1]);
    if (i + 1 < faceOf.length && faceOf[i + 1] === faceOf[i]) continue;
    if (surface > 1e-14 && Math.abs(flat) > 1e-14) {
      const scale = Math.sqrt(surface / Math.abs(flat));
      least = Math.min(least, scale);
      greatest = Math.max(greatest, scale);
      weighted += scale * surface;
      weight += surface;
    }
    surface = flat = 0;
  }
  const mean = weight > 0 ? weighted / weight : 1;
  return { min, max, stretch: weight > 0 ? [least / mean, greatest / mean] : [1, 1] };
}

/** Distinct materials on faces; faces without one count as one more. */
function materialsUsed(mesh: Mesh): number {
  if (!faceCount(mesh)) return 0;
  const own = mesh.attributes.get('material')?.data;
  return own ? new Set(own).size : 1;
}

/** Figures of a whole result. Takes a few passes over the data; meant for reports, not for every frame. */
export function measure(set: GeometrySet): Measures {
  const result: Measures = {
    curves: 0, points: set.points ? set.points.positions.length / 3 : 0, copies: set.copies?.object.length ?? 0,
    vertices: 0, faces: 0, triangles: 0, length: 0, area: 0, volume: 0, bounds: null,
    parts: 0, boundaryEdges: 0, nonManifoldEdges: 0, euler: 0, degenerateFaces: 0, uv: null, materials: 0,
  }; // prettier-ignore
  if (set.points) result.bounds = unionBounds(result.bounds, boundsOf(set.points.positions));
  if (set.curves) {
    const lengths = curveLengths(set.curves);
    result.curves = lengths.length;
    result.points += set.curves.positions.length / 3;
    result.length = lengths.reduce((sum, length) => sum + length, 0);
    result.bounds = unionBounds(result.bounds, curvesBounds(set.curves));
  }
  if (set.mesh) {
    const mesh = set.mesh;
    Object.assign(result, surfaceFigures(mesh), topology(mesh), {
      vertices: mesh.pointCount,
      faces: faceCount(mesh),
      triangles: triangleCount(mesh),
      uv: uvFigures(mesh),
      materials: materialsUsed(mesh),
    });
    result.bounds = unionBounds(result.bounds, boundsOf(mesh.positions));
  }
  if (set.copies?.object.length) addCopies(result, set, set.copies);
  return result;
}

/** Faces up to which copies are expanded to be measured. */
const mostExpanded = 2_000_000;

/** Objects that are used count once each, beside the rest; and all copies together as if expanded. */
function addCopies(result: Measures, set: GeometrySet, copies: Copies): void {
  const sheared = shearedCount(copies);
  if (sheared) result.sheared = sheared;
  const used = [...new Set(copies.object)].map((which) => copies.objects[which]).filter((mesh) => mesh.corners.length);
  const once = used.length ? measure({ mesh: joinMeshes(used) }) : null;
  for (const key of [
    'vertices',
    'faces',
    'triangles',
    'area',
    'volume',
    'parts',
    'boundaryEdges',
    'nonManifoldEdges',
    'euler',
    'degenerateFaces',
    'materials',
  ] as const)
    result[key] += once?.[key] ?? 0;
  result.uv ??= once?.uv ?? null;
  result.bounds = unionBounds(result.bounds, copiesBounds(copies));
  if (expandedSize(copies).faces > mostExpanded) return;
  result.expanded = measure(withoutCopies(set));
}
