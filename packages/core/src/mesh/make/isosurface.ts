import { makeMesh, emptyMesh, type Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { PairTable } from '../topology/pairTable.js';

/** Values at the points of a grid, x running fastest: below 0 inside. */
export interface ValueGrid {
  readonly values: Float32Array;
  /** Points along each axis. */
  readonly size: readonly [number, number, number];
  readonly origin: readonly [number, number, number];
  /** Metres from point to point. */
  readonly cell: number;
}

/** @throws LimitError where the grid would be too large. */
export function makeGrid(low: readonly number[], high: readonly number[], cell: number, work: Work): ValueGrid {
  const size = [0, 1, 2].map((k) => Math.ceil((high[k] - low[k]) / cell) + 1) as [number, number, number];
  const count = size[0] * size[1] * size[2];
  work.claim({ points: count });
  return { values: new Float32Array(count), size, origin: [low[0], low[1], low[2]], cell };
}

/** A cube as six tetrahedra round its diagonal, corners by their bits (x 1, y 2, z 4): neighbouring cubes cut their common side alike (Kuhn 1960). */
const tetrahedra: readonly (readonly [number, number, number, number])[] = [[0, 1, 3, 7], [0, 3, 2, 7], [0, 2, 6, 7], [0, 6, 4, 7], [0, 4, 5, 7], [0, 5, 1, 7]]; // prettier-ignore

/** How near to a grid point a corner of the surface may come, as a share of the edge. */
const nearest = 0.02;

/**
 * The surface on which values are 0, as triangles that look outwards: shut wherever the values at the border of the grid are not below 0, with two triangles at every edge
 * (marching tetrahedra, Doi & Koide 1991).
 */
export function isosurface({ values, size, origin, cell }: ValueGrid, work: Work = unbounded): Mesh {
  const [nx, ny, nz] = size;
  const step = [0, 1, nx, nx + 1, nx * ny, nx * ny + 1, nx * ny + nx, nx * ny + nx + 1];
  const edges = new PairTable(1024);
  const corners: number[] = [];
  const inside = (at: number): boolean => values[at] < 0;
  const triangle = (a: number, b: number, c: number): void => void corners.push(a, b, c);
  for (let z = 0; z + 1 < nz; z++) {
    work.progress(z / nz);
    work.claim({ faces: corners.length / 3, vertices: edges.count });
    for (let y = 0; y + 1 < ny; y++)
      for (let x = 0; x + 1 < nx; x++) {
        const base = x + nx * (y + ny * z);
        let within = 0;
        for (let k = 0; k < 8; k++) within += Number(inside(base + step[k]));
        if (within === 0 || within === 8) continue;
        for (const tet of tetrahedra) cut(tet.map((k) => base + step[k]) as [number, number, number, number], inside, (a, b) => edges.number(a, b), triangle);
      }
  }
  if (!corners.length) return emptyMesh;
  const positions = new Float32Array(edges.count * 3);
  const place = (at: number, k: number): number => origin[k] + cell * (k === 0 ? at % nx : k === 1 ? Math.floor(at / nx) % ny : Math.floor(at / (nx * ny)));
  for (let e = 0; e < edges.count; e++) {
    const [a, b] = [edges.ends[e * 2], edges.ends[e * 2 + 1]];
    const t = Math.min(1 - nearest, Math.max(nearest, values[a] / (values[a] - values[b])));
    for (let k = 0; k < 3; k++) positions[e * 3 + k] = place(a, k) + t * (place(b, k) - place(a, k));
  }
  return makeMesh({ positions, corners: Uint32Array.from(corners), uniform: 3 });
}

/** The triangles in one tetrahedron; its corners turn to the right about the diagonal, so which way they look is known by their order. */
function cut(
  t: readonly [number, number, number, number],
  inside: (at: number) => boolean,
  edge: (a: number, b: number) => number,
  triangle: (a: number, b: number, c: number) => void,
): void {
  const [a, b, c, d] = t;
  const code = Number(inside(a)) + 2 * Number(inside(b)) + 4 * Number(inside(c)) + 8 * Number(inside(d));
  switch (code) {
    case 1:
      return triangle(edge(a, b), edge(a, c), edge(a, d));
    case 14:
      return triangle(edge(a, b), edge(a, d), edge(a, c));
    case 2:
      return triangle(edge(b, a), edge(b, d), edge(b, c));
    case 13:
      return triangle(edge(b, a), edge(b, c), edge(b, d));
    case 4:
      return triangle(edge(c, a), edge(c, b), edge(c, d));
    case 11:
      return triangle(edge(c, a), edge(c, d), edge(c, b));
    case 8:
      return triangle(edge(d, a), edge(d, c), edge(d, b));
    case 7:
      return triangle(edge(d, a), edge(d, b), edge(d, c));
    case 3:
      return quad(edge(a, c), edge(a, d), edge(b, d), edge(b, c));
    case 12:
      return quad(edge(a, c), edge(b, c), edge(b, d), edge(a, d));
    case 5:
      return quad(edge(a, b), edge(c, b), edge(c, d), edge(a, d));
    case 10:
      return quad(edge(a, b), edge(a, d), edge(c, d), edge(c, b));
    case 9:
      return quad(edge(a, b), edge(a, c), edge(d, c), edge(d, b));
    case 6:
      return quad(edge(a, b), edge(d, b), edge(d, c), edge(a, c));
  }
  function quad(p: number, q: number, r: number, s: number): void {
    triangle(p, q, r);
    triangle(p, r, s);
  }
}
