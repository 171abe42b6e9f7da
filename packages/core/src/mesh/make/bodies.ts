import type { Attribute } from '../../geometry/attributes.js';
import type { Mesh } from '../../geometry/mesh.js';
import { progressEvery, tick, unbounded, type Work } from '../../base/work.js';
import { noise3 } from '../../values/noise.js';
import { MeshBuilder } from './builder.js';
import { smoothNormals } from '../change/normals.js';

type Triple = readonly [number, number, number];

/** A mesh of quads that is being filled, vertex by vertex. */
class Quads {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly uv: Float32Array;
  readonly pointOf: Uint32Array;
  readonly corners: Uint32Array;
  private vertex = 0;
  private corner = 0;

  constructor(
    vertices: number,
    faces: number,
    private readonly work: Work,
  ) {
    this.positions = new Float32Array(vertices * 3);
    this.normals = new Float32Array(vertices * 3);
    this.uv = new Float32Array(vertices * 2);
    this.pointOf = new Uint32Array(vertices);
    this.corners = new Uint32Array(faces * 4);
  }

  /** A sheet of nu × nv quads whose u and v run from 0 to `reach`. `place` and `point` are given whole steps. */
  sheet(
    [nu, nv]: readonly [number, number],
    reach: readonly [number, number],
    normal: Triple,
    place: (i: number, j: number) => Triple,
    point: (i: number, j: number) => number,
  ): void {
    const first = this.vertex;
    for (let j = 0; j <= nv; j++)
      for (let i = 0; i <= nu; i++) {
        const at = this.vertex++;
        tick(this.work, at, this.pointOf.length);
        this.positions.set(place(i, j), at * 3);
        this.normals.set(normal, at * 3);
        this.uv[at * 2] = (i / nu) * reach[0];
        this.uv[at * 2 + 1] = (j / nv) * reach[1];
        this.pointOf[at] = point(i, j);
      }
    for (let j = 0; j < nv; j++)
      for (let i = 0; i < nu; i++) {
        if (this.corner % (progressEvery * 4) === 0) this.work.progress(this.vertex / this.pointOf.length);
        const a = first + j * (nu + 1) + i;
        this.corners[this.corner++] = a;
        this.corners[this.corner++] = a + 1;
        this.corners[this.corner++] = a + nu + 2;
        this.corners[this.corner++] = a + nu + 1;
      }
  }

  finish(pointCount: number): Mesh {
    const { positions, normals, uv, pointOf, corners } = this;
    const attributes = new Map<string, Attribute>([
      ['normal', { carrier: 'corner', size: 3, data: normals }],
      ['uv', { carrier: 'corner', size: 2, data: uv }],
    ]);
    return { type: 'mesh', positions, corners, uniform: 4, faceStarts: null, pointOf, pointCount, materials: [], attributes };
  }
}

/** The sides of a box: the axis each looks along, its sign, and the axes that u and v run along, with their signs. */
const boxSides: readonly { readonly axis: number; readonly sign: number; readonly u: number; readonly uSign: number; readonly v: number }[] = [
  { axis: 0, sign: 1, u: 2, uSign: -1, v: 1 },
  { axis: 0, sign: -1, u: 2, uSign: 1, v: 1 },
  { axis: 1, sign: 1, u: 0, uSign: 1, v: 2 },
  { axis: 1, sign: -1, u: 0, uSign: 1, v: 2 },
  { axis: 2, sign: 1, u: 0, uSign: 1, v: 1 },
  { axis: 2, sign: -1, u: 0, uSign: -1, v: 1 },
];

/** Tiles smaller than this, metres, count as none: their UVs would be no numbers any more. */
const leastTile = 1e-9;

/** How far u and v run over a sheet of so many metres: 1, or by `uvScale` metres a tile. */
const reachOf = (u: number, v: number, uvScale: number): readonly [number, number] => (uvScale > leastTile ? [u / uvScale, v / uvScale] : [1, 1]);

/** A box about the origin, `size` metres along x, y, z, each side in `divisions` × `divisions` quads with UVs of its own: from 0 to 1, or `uvScale` metres a tile. */
export function box(size: Triple, divisions: number, uvScale = 0, work: Work = unbounded): Mesh {
  const n = divisions;
  const quads = new Quads(6 * (n + 1) ** 2, 6 * n * n, work);
  const shared = new Map<number, number>();
  let points = 0;
  for (const { axis, sign, u, uSign, v } of boxSides) {
    // v runs up, and backwards (−z) on top so that top and bottom lie as the floor does.
    const vSign = axis === 1 ? -sign : 1;
    const steps = (i: number, j: number): Triple => {
      const at: [number, number, number] = [0, 0, 0];
      at[axis] = sign > 0 ? n : 0;
      at[u] = uSign > 0 ? i : n - i;
      at[v] = vSign > 0 ? j : n - j;
      return at;
    };
    const normal: [number, number, number] = [0, 0, 0];
    normal[axis] = sign;
    quads.sheet(
      [n, n],
      reachOf(size[u], size[v], uvScale),
      normal,
      (i, j) => steps(i, j).map((step, k) => (step / n - 0.5) * size[k]) as unknown as Triple,
      (i, j) => {
        if (i > 0 && i < n && j > 0 && j < n) return points++;
        const [a, b, c] = steps(i, j);
        const key = (a * (n + 1) + b) * (n + 1) + c;
        let point = shared.get(key);
        if (point === undefined) shared.set(key, (point = points++));
        return point;
      },
    );
  }
  return quads.finish(points);
}

/** A level grid about the origin that looks up: `size` metres along x and z, u along x and v against z. */
export function grid(size: readonly [number, number], [nx, nz]: readonly [number, number], uvScale = 0, work: Work = unbounded): Mesh {
  const quads = new Quads((nx + 1) * (nz + 1), nx * nz, work);
  quads.sheet(
    [nx, nz],
    reachOf(size[0], size[1], uvScale),
    [0, 1, 0],
    (i, j) => [(i / nx - 0.5) * size[0], 0, (0.5 - j / nz) * size[1]],
    (i, j) => j * (nx + 1) + i,
  );
  return quads.finish((nx + 1) * (nz + 1));
}

export interface TerrainOptions {
  /** Metres along x and z. */
  size: readonly [number, number];
  divisions: readonly [number, number];
  /** Metres from the lowest place there could be to the highest. */
  height: number;
  seed: number;
  /** 0…1: how much of the height finer hills have, each half as wide as those before. */
  roughness: number;
  /** Metres a UV tile, as seen from above; 0: fitted to 0…1. */
  uvScale?: number;
}

/** How wide the greatest hills are, as a share of the longer side, and how many times they are halved. */
const hills = { share: 1 / 3, octaves: 7 };

/** Ground with hills: fractal noise (Musgrave 1993: octaves of noise, each twice as fine and `roughness` times as high) on a grid. */
export function terrain({ size, divisions, height, seed, roughness, uvScale }: TerrainOptions, work: Work = unbounded): Mesh {
  const mesh = grid(size, divisions, uvScale, work);
  const noise = noise3(seed);
  const wide = Math.max(...size) * hills.share;
  let most = 0;
  for (let o = 0, share = 1; o < hills.octaves; o++, share *= roughness) most += share;
  const p = mesh.positions;
  for (let i = 0; i < p.length; i += 3) {
    tick(work, i, p.length);
    let sum = 0;
    for (let o = 0, share = 1, finer = 1 / wide; o < hills.octaves && share > 0; o++, share *= roughness, finer *= 2)
      sum += share * noise(p[i] * finer, o * 17.3, p[i + 2] * finer);
    p[i + 1] = (sum / most) * (height / 2);
  }
  return smoothNormals(mesh, work);
}

/** Longitude as u, eastwards seen from outside, and latitude as v, 0…1. */
const sphereUv = (x: number, y: number, z: number): [number, number] => [
  0.5 + Math.atan2(x, z) / (2 * Math.PI),
  0.5 + Math.asin(Math.min(1, Math.max(-1, y))) / Math.PI,
];

/** A sphere about the origin of 2 × `divisions` rings and 4 × `divisions` sides, poles on the y axis. */
export function ringSphere(radius: number, divisions: number, work: Work = unbounded): Mesh {
  const builder = new MeshBuilder();
  const [rings, sides] = [divisions * 2, divisions * 4];
  const points: number[][] = [];
  for (let r = 0; r <= rings; r++) {
    const pole = r === 0 || r === rings;
    const first = pole ? builder.point() : -1;
    points.push(Array.from({ length: sides }, () => (pole ? first : builder.point())));
  }
  const vertex = (r: number, s: number): number => {
    if (s === 0) work.progress(r / rings / 2);
    const latitude = (r / rings - 0.5) * Math.PI;
    // The last place round is the first, to the last bit.
    const around = ((s % sides) / sides - 0.5) * 2 * Math.PI;
    const flat = r === 0 || r === rings ? 0 : Math.cos(latitude);
    const [x, y, z] = [flat * Math.sin(around), Math.sin(latitude), flat * Math.cos(around)];
    // At the poles each triangle has its own vertex, in the middle of its other two.
    const u = r === 0 || r === rings ? (s + 0.5) / sides : s / sides;
    const made = builder.vertex(radius * x, radius * y, radius * z, points[r][s % sides], u, r / rings);
    builder.normal(made, x, y, z);
    return made;
  };
  const rows = points.map((_, r) => Array.from({ length: sides + 1 }, (__, s) => vertex(r, s)));
  for (let r = 0; r < rings; r++) {
    work.progress(0.5 + r / rings / 2);
    for (let s = 0; s < sides; s++)
      if (r === 0) builder.face(0, [rows[0][s], rows[1][s + 1], rows[1][s]]);
      else if (r === rings - 1) builder.face(0, [rows[r][s], rows[r][s + 1], rows[rings][s]]);
      else builder.face(0, [rows[r][s], rows[r][s + 1], rows[r + 1][s + 1], rows[r + 1][s]]);
  }
  return builder.finish();
}

/** The golden ratio: corners of a regular icosahedron lie at (0, ±1, ±φ) and their cyclic turns. */
const phi = (1 + Math.sqrt(5)) / 2;
const icosahedron = {
  corners: [[-1, phi, 0], [1, phi, 0], [-1, -phi, 0], [1, -phi, 0], [0, -1, phi], [0, 1, phi], [0, -1, -phi], [0, 1, -phi], [phi, 0, -1], [phi, 0, 1], [-phi, 0, -1], [-phi, 0, 1]],
  faces: [[0, 11, 5], [0, 5, 1], [0, 1, 7], [0, 7, 10], [0, 10, 11], [1, 5, 9], [5, 11, 4], [11, 10, 2], [10, 7, 6], [7, 1, 8], [3, 9, 4], [3, 4, 2], [3, 2, 6], [3, 6, 8], [3, 8, 9], [4, 9, 5], [2, 4, 11], [6, 2, 10], [8, 6, 7], [9, 8, 1]],
}; // prettier-ignore

const unit = (p: readonly number[]): number[] => {
  const size = Math.hypot(...p);
  return p.map((value) => value / size);
};

/**
 * A sphere about the origin from an icosahedron, each of its edges divided into `divisions`: by halving as often as that goes, places pushed out to the
 * sphere each time, after a first division by what is left. Twenty × `divisions`² triangles of nearly one size.
 */
export function icosphere(radius: number, divisions: number, work: Work = unbounded): Mesh {
  let halvings = 0;
  while (divisions % 2 ** (halvings + 1) === 0) halvings++;
  let body = { corners: icosahedron.corners.map(unit), faces: icosahedron.faces };
  body = divided(body, divisions / 2 ** halvings, work);
  for (let i = 0; i < halvings; i++) body = divided(body, 2, work);
  const builder = new MeshBuilder();
  for (let i = 0; i < body.corners.length; i++) builder.point();
  const made = new Map<string, number>();
  for (const [f, face] of body.faces.entries()) {
    if (f % (progressEvery / 8) === 0) work.progress(f / body.faces.length);
    const places = face.map((i) => body.corners[i]);
    const uvs = places.map(([x, y, z]) => sphereUv(x, y, z));
    // A face across the seam goes on beyond 1; a corner at a pole has its u in the middle of the others.
    const wrapped = Math.max(...uvs.map(([u]) => u)) - Math.min(...uvs.map(([u]) => u)) > 0.5;
    const us = uvs.map(([u]) => (wrapped && u < 0.5 ? u + 1 : u));
    const pole = places.findIndex(([x, , z]) => x === 0 && z === 0);
    if (pole >= 0) us[pole] = (us[(pole + 1) % 3] + us[(pole + 2) % 3]) / 2;
    const corners = face.map((point, k) => {
      const key = `${point} ${us[k].toFixed(6)}`;
      let vertex = made.get(key);
      if (vertex === undefined) {
        const [x, y, z] = places[k];
        made.set(key, (vertex = builder.vertex(radius * x, radius * y, radius * z, point, us[k], uvs[k][1])));
        builder.normal(vertex, x, y, z);
      }
      return vertex;
    });
    builder.face(0, corners);
  }
  return builder.finish();
}

interface Triangles {
  readonly corners: number[][];
  readonly faces: number[][];
}

/** Each triangle cut into n², its places pushed out to the unit sphere. */
function divided({ corners, faces }: Triangles, n: number, work: Work): Triangles {
  if (n === 1) return { corners, faces };
  const places = corners.slice();
  const shared = new Map<number, number>();
  const onEdge = (a: number, b: number, step: number): number => {
    if (a > b) return onEdge(b, a, n - step);
    const key = (a * corners.length + b) * n + step;
    let at = shared.get(key);
    if (at === undefined) {
      at = places.push(unit(corners[a].map((value, k) => value * (n - step) + corners[b][k] * step))) - 1;
      shared.set(key, at);
    }
    return at;
  };
  const made: number[][] = [];
  for (const [f, [a, b, c]] of faces.entries()) {
    if (f % (progressEvery / 8) === 0) work.progress(f / faces.length);
    // Rows of places from a to the edge b–c.
    const rows = Array.from({ length: n + 1 }, (_, i) =>
      Array.from({ length: i + 1 }, (__, j): number => {
        if (i === 0) return a;
        if (i === n) return j === 0 ? b : j === n ? c : onEdge(b, c, j);
        if (j === 0) return onEdge(a, b, i);
        if (j === i) return onEdge(a, c, i);
        return places.push(unit(corners[a].map((value, k) => value * (n - i) + corners[b][k] * (i - j) + corners[c][k] * j))) - 1;
      }),
    );
    for (let i = 0; i < n; i++)
      for (let j = 0; j <= i; j++) {
        made.push([rows[i][j], rows[i + 1][j], rows[i + 1][j + 1]]);
        if (j < i) made.push([rows[i][j], rows[i + 1][j + 1], rows[i][j + 1]]);
      }
  }
  return { corners: places, faces: made };
}
