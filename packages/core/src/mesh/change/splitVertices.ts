import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import type { Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';

/**
 * Gives corners of one vertex that have different `keys` (a number per corner) vertices of their own. Points, faces and all values stay; `pointOf`
 * still leads from every vertex to its point.
 */
export function splitVertices(mesh: Mesh, keys: ArrayLike<number>, work: Work = unbounded): Mesh {
  const vertices = mesh.positions.length / 3;
  const first = new Float64Array(vertices).fill(-1);
  const corners = mesh.corners.slice();
  const sources: number[] = Array.from({ length: vertices }, (_, v) => v);
  const more = new Map<number, Map<number, number>>();
  for (let i = 0; i < corners.length; i++) {
    tick(work, i, corners.length);
    const v = corners[i];
    if (first[v] < 0) first[v] = keys[i];
    if (first[v] === keys[i]) continue;
    let own = more.get(v);
    if (!own) more.set(v, (own = new Map()));
    let copy = own.get(keys[i]);
    if (copy === undefined) {
      own.set(keys[i], (copy = sources.length));
      sources.push(v);
    }
    corners[i] = copy;
  }
  if (sources.length === vertices) return mesh;
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of mesh.attributes) {
    const perVertex = attribute.carrier === 'corner' || attribute.carrier === 'point';
    attributes.set(name, perVertex ? { ...attribute, data: gatherRows(attribute, sources) } : attribute);
  }
  return {
    ...mesh,
    positions: gatherRows({ carrier: 'point', size: 3, data: mesh.positions }, sources),
    pointOf: Uint32Array.from(sources, (v) => (mesh.pointOf ? mesh.pointOf[v] : v)),
    corners,
    attributes,
  };
}
