import { tick, type Work } from '../base/work.js';
import type { Mesh } from '../geometry/mesh.js';
import { nearestTreeOf, newHit } from '../near/nearest.js';
import { triangulate } from '../mesh/topology/triangulate.js';

/**
 * The greatest distance between two surfaces, metres (Hausdorff), as far as places tell it: vertices of each, and middles of triangles and edges of the one that
 * was made, against the other.
 */
export function deviationOf(made: Mesh, given: Mesh, work: Work): number {
  return Math.max(farthest(given, made, false, work), farthest(made, given, true, work));
}

function farthest(from: Mesh, to: Mesh, between: boolean, work: Work): number {
  if (!from.corners.length || !to.corners.length) return from.corners.length === to.corners.length ? 0 : Infinity;
  const tree = nearestTreeOf(to, work);
  const hit = newHit();
  const p = from.positions;
  let most = 0;
  const look = (x: number, y: number, z: number): void => {
    tree.nearest(x, y, z, hit);
    most = Math.max(most, hit.distance);
  };
  for (let v = 0; v < p.length; v += 3) {
    tick(work, v, p.length);
    look(p[v], p[v + 1], p[v + 2]);
  }
  if (!between) return most;
  const { indices } = triangulate(from);
  for (let i = 0; i < indices.length; i += 3) {
    tick(work, i, indices.length);
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const mix = (u: number, v: number, w: number): void =>
      look(...([0, 1, 2].map((k) => u * p[a + k] + v * p[b + k] + w * p[c + k]) as [number, number, number]));
    mix(1 / 3, 1 / 3, 1 / 3);
    for (const [u, v, w] of [[0.5, 0.5, 0], [0, 0.5, 0.5], [0.5, 0, 0.5]]) mix(u, v, w); // prettier-ignore
  }
  return most;
}
