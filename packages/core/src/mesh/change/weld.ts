import { tick, unbounded, type Work } from '../../base/work.js';
import { cellSize, PointGrid } from '../../space/grid.js';
import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { faceAreas } from '../topology/areas.js';

/**
 * Makes points of a mesh that lie within `distance` metres of each other one point, at the place of the first; chains of near points become one
 * too. Vertices keep their UVs and normals, so seams stay seams. Faces that lose a corner by it keep their corners as doubles.
 */
export function weldPoints(mesh: Mesh, distance: number, work: Work = unbounded): Mesh {
  const vertices = mesh.positions.length / 3;
  const p = mesh.positions;
  const grid = new PointGrid(cellSize(p, distance), Math.max(1, mesh.pointCount));
  /** Points in the order in which they were met, as the grid numbers them. */
  const met = new Uint32Array(mesh.pointCount);
  const parent = Uint32Array.from({ length: mesh.pointCount }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const place = new Int32Array(mesh.pointCount).fill(-1);
  const most = distance * distance;
  for (let v = 0; v < vertices; v++) {
    tick(work, v, vertices);
    const point = mesh.pointOf ? mesh.pointOf[v] : v;
    if (place[point] >= 0) continue;
    place[point] = v;
    const [x, y, z] = [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
    grid.near(x, y, z, distance, (item) => {
      const w = place[met[item]] * 3;
      if ((x - p[w]) ** 2 + (y - p[w + 1]) ** 2 + (z - p[w + 2]) ** 2 > most) return;
      const [a, b] = [root(point), root(met[item])];
      parent[Math.max(a, b)] = Math.min(a, b);
    });
    met[grid.add(x, y, z)] = point;
  }
  const number = new Int32Array(mesh.pointCount).fill(-1);
  const positions = p.slice();
  const pointOf = new Uint32Array(vertices);
  let count = 0;
  for (let v = 0; v < vertices; v++) {
    const r = root(mesh.pointOf ? mesh.pointOf[v] : v);
    if (number[r] < 0) number[r] = count++;
    pointOf[v] = number[r];
    for (let k = 0; k < 3; k++) positions[v * 3 + k] = p[place[r] * 3 + k];
  }
  return count === mesh.pointCount ? mesh : { ...mesh, positions, pointOf, pointCount: count };
}

/**
 * Takes corners away that repeat their neighbour's point, and faces that are left with fewer than three points or have no area: what a weld, or a
 * careless export, folds up.
 */
export function withoutFolded(mesh: Mesh): Mesh {
  const { pointOf } = mesh;
  const point = (i: number): number => (pointOf ? pointOf[mesh.corners[i]] : mesh.corners[i]);
  const areas = faceAreas(mesh);
  const corners: number[] = [];
  const starts = [0];
  const kept: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
    const own: number[] = [];
    for (let i = from; i < to; i++) if (point(i) !== point(i > from ? i - 1 : to - 1)) own.push(mesh.corners[i]);
    if (own.length < 3 || !(Math.hypot(areas[f * 3], areas[f * 3 + 1], areas[f * 3 + 2]) > 1e-12)) continue;
    corners.push(...own);
    starts.push(corners.length);
    kept.push(f);
  }
  if (corners.length === mesh.corners.length) return mesh;
  const size = starts[1] ?? 0;
  const uniform = (size === 3 || size === 4) && starts.every((start, f) => start === f * size) ? size : 0;
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of mesh.attributes)
    attributes.set(name, attribute.carrier === 'face' ? { ...attribute, data: gatherRows(attribute, kept) } : attribute);
  return { ...mesh, corners: Uint32Array.from(corners), uniform, faceStarts: uniform ? null : Uint32Array.from(starts), attributes };
}
