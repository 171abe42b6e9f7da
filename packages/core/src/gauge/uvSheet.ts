import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { triangulate } from '../mesh/topology/triangulate.js';

/** A mesh's UVs as a flat sheet of triangles. */
export interface UvSheet {
  /** Corners of the triangles, 6 numbers each (u, v of three corners). */
  readonly corners: Float32Array;
  /** Where those corners are, 9 numbers a triangle, metres. */
  readonly places: Float32Array;
  /** The piece of the sheet that each triangle belongs to: what hangs together by shared vertices, and is of one part. Numbered from 0. */
  readonly island: Uint32Array;
  readonly islands: number;
  /** Length in UV of a metre on the surface, for each triangle: the root of its area there over its area here; not finite where it has no area. */
  readonly density: Float32Array;
  /** Longest over shortest way that a circle on the surface becomes in UV: 1 is without stretch. */
  readonly stretch: Float32Array;
  /** 1: another triangle lies over it in the sheet. */
  readonly overlapping: Uint8Array;
  /** Sides of faces, 4 numbers each. */
  readonly edges: Float32Array;
}

/** Cells along one side of the raster that overlaps are found with. */
const raster = 1024;

/**
 * Lays a mesh's UVs out flat. Stretch is that of Sander, Snyder, Gortler and Hoppe, "Texture Mapping Progressive Meshes" (2001): the ratio of the singular values of the map from
 * surface to UV. Null: the mesh has no UVs.
 */
export function uvSheet(mesh: Mesh): UvSheet | null {
  const uv = mesh.attributes.get('uv');
  if (!uv || uv.carrier !== 'corner' || uv.size !== 2 || !mesh.corners.length) return null;
  const { indices } = triangulate(mesh);
  const count = indices.length / 3;
  const corners = new Float32Array(count * 6);
  const places = new Float32Array(count * 9);
  for (let i = 0; i < indices.length; i++) {
    const vertex = indices[i];
    corners[i * 2] = uv.data[vertex * 2];
    corners[i * 2 + 1] = uv.data[vertex * 2 + 1];
    for (let k = 0; k < 3; k++) places[i * 3 + k] = mesh.positions[vertex * 3 + k];
  }
  const { island, islands } = islandsOf(mesh, indices);
  const { density, stretch } = measured(corners, places);
  return { corners, places, island, islands, density, stretch, overlapping: overlapsOf(corners), edges: edgesOf(mesh, uv.data) };
}

/** Triangles that hang together by their vertices: seams have vertices of their own on each side. */
function islandsOf({ positions }: Mesh, indices: Uint32Array): { island: Uint32Array; islands: number } {
  const root = Uint32Array.from({ length: positions.length / 3 }, (_, i) => i);
  const find = (vertex: number): number => {
    let at = vertex;
    while (root[at] !== at) at = root[at] = root[root[at]];
    return at;
  };
  for (let i = 0; i < indices.length; i += 3) {
    const first = find(indices[i]);
    root[find(indices[i + 1])] = first;
    root[find(indices[i + 2])] = first;
  }
  const numbers = new Map<number, number>();
  const island = new Uint32Array(indices.length / 3);
  for (let t = 0; t < island.length; t++) {
    const first = find(indices[t * 3]);
    let number = numbers.get(first);
    if (number === undefined) numbers.set(first, (number = numbers.size));
    island[t] = number;
  }
  return { island, islands: numbers.size };
}

function measured(corners: Float32Array, places: Float32Array): { density: Float32Array; stretch: Float32Array } {
  const count = corners.length / 6;
  const density = new Float32Array(count);
  const stretch = new Float32Array(count);
  for (let t = 0; t < count; t++) {
    const [p, c] = [t * 9, t * 6];
    const [ax, ay, az] = [places[p + 3] - places[p], places[p + 4] - places[p + 1], places[p + 5] - places[p + 2]];
    const [bx, by, bz] = [places[p + 6] - places[p], places[p + 7] - places[p + 1], places[p + 8] - places[p + 2]];
    const [au, av] = [corners[c + 2] - corners[c], corners[c + 3] - corners[c + 1]];
    const [bu, bv] = [corners[c + 4] - corners[c], corners[c + 5] - corners[c + 1]];
    // The triangle in a plane of its own: the first side along x.
    const long = Math.hypot(ax, ay, az);
    const along = (ax * bx + ay * by + az * bz) / long;
    const across = Math.sqrt(Math.max(0, bx * bx + by * by + bz * bz - along * along));
    const area = long * across;
    // Columns of the map from that plane to UV.
    const [m00, m10] = [au / long, av / long];
    const [m01, m11] = [(bu - (au * along) / long) / across, (bv - (av * along) / long) / across];
    const [sum, twice] = [m00 * m00 + m10 * m10 + m01 * m01 + m11 * m11, Math.abs(m00 * m11 - m01 * m10) * 2];
    const [plus, minus] = [Math.sqrt(Math.max(0, sum + twice)), Math.sqrt(Math.max(0, sum - twice))];
    density[t] = area > 0 ? Math.sqrt(twice / 2) : NaN;
    stretch[t] = plus > minus ? (plus + minus) / (plus - minus) : plus > 0 ? Infinity : NaN;
  }
  return { density, stretch };
}

/** Which triangles share ground with another: told by a raster over all of them, by the middles of its cells. */
function overlapsOf(corners: Float32Array): Uint8Array {
  const overlapping = new Uint8Array(corners.length / 6);
  let [low, high] = [Infinity, -Infinity];
  for (const value of corners) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  const owner = new Int32Array(raster * raster).fill(-1);
  const scale = raster / (high - low || 1);
  const at = (i: number): number => (corners[i] - low) * scale - 0.5;
  for (let t = 0; t < overlapping.length; t++) {
    const c = t * 6;
    const [x0, y0, x1, y1, x2, y2] = [at(c), at(c + 1), at(c + 2), at(c + 3), at(c + 4), at(c + 5)];
    const turn = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0) > 0 ? 1 : -1;
    const inside = (ax: number, ay: number, bx: number, by: number, x: number, y: number): boolean =>
      ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) * turn > 1e-6;
    const [left, right] = [Math.max(0, Math.ceil(Math.min(x0, x1, x2))), Math.min(raster - 1, Math.floor(Math.max(x0, x1, x2)))];
    const [top, bottom] = [Math.max(0, Math.ceil(Math.min(y0, y1, y2))), Math.min(raster - 1, Math.floor(Math.max(y0, y1, y2)))];
    for (let y = top; y <= bottom; y++)
      for (let x = left; x <= right; x++) {
        if (!inside(x0, y0, x1, y1, x, y) || !inside(x1, y1, x2, y2, x, y) || !inside(x2, y2, x0, y0, x, y)) continue;
        const other = owner[y * raster + x];
        owner[y * raster + x] = t;
        if (other >= 0) overlapping[t] = overlapping[other] = 1;
      }
  }
  return overlapping;
}

/** Sides of faces, of each face all. */
function edgesOf(mesh: Mesh, uv: Float32Array): Float32Array {
  const ends = new Float32Array(mesh.corners.length * 4);
  let at = 0;
  for (let f = 0; f < faceCount(mesh); f++) {
    const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
    for (let i = from; i < to; i++)
      for (const vertex of [mesh.corners[i], mesh.corners[i + 1 < to ? i + 1 : from]]) {
        ends[at++] = uv[vertex * 2];
        ends[at++] = uv[vertex * 2 + 1];
      }
  }
  return ends;
}
