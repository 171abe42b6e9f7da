import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { emptyMesh, faceCount, faceStart, vertexCount, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';

/** A mesh of some faces of another, in the order named, with all their values. Vertices and points that no face is left of go. */
export function takeFaces(mesh: Mesh, which: ArrayLike<number>, work: Work = unbounded): Mesh {
  const all = which.length === faceCount(mesh) && Array.prototype.every.call(which, (f: number, i: number) => f === i);
  return all ? mesh : gatherFaces(mesh, which, work);
}

/** The same, also where all are named: what no face is left of goes. */
export function gatherFaces(mesh: Mesh, which: ArrayLike<number>, work: Work = unbounded): Mesh {
  if (!which.length) return { ...emptyMesh, materials: mesh.materials };
  const starts = new Uint32Array(which.length + 1);
  for (let i = 0; i < which.length; i++) starts[i + 1] = starts[i] + faceStart(mesh, which[i] + 1) - faceStart(mesh, which[i]);
  const corners = new Uint32Array(starts[which.length]);
  const vertexOf = new Int32Array(vertexCount(mesh)).fill(-1);
  const vertices: number[] = [];
  for (let i = 0; i < which.length; i++) {
    tick(work, i, which.length);
    const from = faceStart(mesh, which[i]);
    for (let k = starts[i]; k < starts[i + 1]; k++) {
      const v = mesh.corners[from + k - starts[i]];
      if (vertexOf[v] < 0) vertexOf[v] = vertices.push(v) - 1;
      corners[k] = vertexOf[v];
    }
  }
  const points = mesh.pointOf && renumbered(mesh.pointOf, mesh.pointCount, vertices);
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of mesh.attributes) {
    const rows = attribute.carrier === 'corner' ? vertices : attribute.carrier === 'face' ? which : null;
    attributes.set(name, rows ? { ...attribute, data: gatherRows(attribute, rows) } : attribute);
  }
  return {
    ...mesh,
    positions: gatherRows({ carrier: 'corner', size: 3, data: mesh.positions }, vertices),
    corners,
    faceStarts: mesh.uniform ? null : starts,
    pointOf: points?.pointOf ?? null,
    pointCount: points?.count ?? vertices.length,
    attributes,
  };
}

function renumbered(pointOf: Uint32Array, pointCount: number, vertices: readonly number[]): { pointOf: Uint32Array; count: number } {
  const number = new Int32Array(pointCount).fill(-1);
  let count = 0;
  const own = Uint32Array.from(vertices, (v) => {
    const p = pointOf[v];
    if (number[p] < 0) number[p] = count++;
    return number[p];
  });
  return { pointOf: own, count };
}
