import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';

/** One side of an edge: the face, and the corners (indices into `corners`) it runs from and to as the face winds. */
export interface EdgeSide {
  readonly face: number;
  readonly from: number;
  readonly to: number;
  /** It runs from the lower point number to the higher. */
  readonly rising: boolean;
}

/** The sides of every edge of a mesh, over distinct points: one for a border, two inside, more where it is not a surface. */
export function edgeSides(mesh: Mesh): EdgeSide[][] {
  const { corners, pointOf } = mesh;
  const edges = new Map<number, EdgeSide[]>();
  for (let face = 0; face < faceCount(mesh); face++) {
    const first = faceStart(mesh, face);
    const end = faceStart(mesh, face + 1);
    for (let from = first; from < end; from++) {
      const to = from + 1 < end ? from + 1 : first;
      const p = pointOf ? pointOf[corners[from]] : corners[from];
      const q = pointOf ? pointOf[corners[to]] : corners[to];
      const key = Math.min(p, q) * mesh.pointCount + Math.max(p, q);
      const side = { face, from, to, rising: p < q };
      const list = edges.get(key);
      if (list) list.push(side);
      else edges.set(key, [side]);
    }
  }
  return [...edges.values()];
}
