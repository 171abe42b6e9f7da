import { makeMesh, type Mesh } from '../../geometry/mesh.js';
import { joinMeshes } from '../../geometry/join.js';
import { transformGeometry, type Affine } from '../../geometry/transform.js';
import { unbounded, type Work } from '../../base/work.js';
import { noise3 } from '../../values/noise.js';
import { hash, randomAt } from '../../values/random.js';
import { gatherFaces } from '../change/takeFaces.js';
import { isosurface, makeGrid, type ValueGrid } from './isosurface.js';

type Place = readonly [number, number, number];
/** Metres to a surface, below 0 inside. */
type Distance = (x: number, y: number, z: number) => number;

const ball =
  ([a, b, c]: Place, radius: number): Distance =>
  (x, y, z) =>
    Math.hypot(x - a, y - b, z - c) - radius;
const box =
  ([a, b, c]: Place, [w, h, d]: Place): Distance =>
  (x, y, z) => {
    const [p, q, r] = [Math.abs(x - a) - w / 2, Math.abs(y - b) - h / 2, Math.abs(z - c) - d / 2];
    return Math.hypot(Math.max(p, 0), Math.max(q, 0), Math.max(r, 0)) + Math.min(0, Math.max(p, q, r));
  };
const upright =
  (low: number, high: number, radius: number): Distance =>
  (x, y, z) => {
    const [p, q] = [Math.hypot(x, z) - radius, Math.abs(y - (low + high) / 2) - (high - low) / 2];
    return Math.hypot(Math.max(p, 0), Math.max(q, 0)) + Math.min(0, Math.max(p, q));
  };
/** The nearest of several, run together over `blend` metres (by a quadratic; common practice). */
const merged =
  (blend: number, ...all: readonly Distance[]): Distance =>
  (x, y, z) =>
    all.reduce((d, other) => {
      const e = other(x, y, z);
      const h = Math.max(0, blend - Math.abs(d - e));
      return Math.min(d, e) - (blend > 0 ? (h * h) / (4 * blend) : 0);
    }, Infinity);
const without =
  (body: Distance, ...cuts: readonly Distance[]): Distance =>
  (x, y, z) =>
    cuts.reduce((d, cut) => Math.max(d, -cut(x, y, z)), body(x, y, z));

interface Subject {
  readonly distance: Distance;
  readonly low: Place;
  readonly high: Place;
  /** Roughly, m²: how fine a grid gives how many triangles. */
  readonly area: number;
}

const spine = Array.from({ length: 9 }, (_, i): readonly [Place, number] => {
  const t = i / 8;
  return [[-0.5 + t * 1.05, 0.17 + 0.28 * t ** 3, 0.05 * Math.sin(t * 4)], 0.05 + 0.13 * Math.sin(Math.PI * (0.15 + 0.75 * t))];
});
const seal = merged(0.09, ...spine.map(([at, radius]) => ball(at, radius)), ball([0.62, 0.5, -0.03], 0.1), ball([0.71, 0.47, -0.03], 0.05), ball([0.2, 0.06, 0.2], 0.06), ball([0.28, 0.05, 0.27], 0.045), ball([0.2, 0.06, -0.24], 0.06), ball([0.28, 0.05, -0.31], 0.045), ball([-0.56, 0.08, 0.09], 0.055), ball([-0.56, 0.08, -0.09], 0.055)); // prettier-ignore
const bollard = merged(0.03, upright(0, 0.06, 0.24), upright(0, 0.72, 0.15), upright(0.62, 0.76, 0.21));
const gable: Distance = (x, y, z) => Math.max(Math.abs(z) - 0.14, -y, Math.abs(x) - 1.1, y - (1.2 + 0.9 * (1 - Math.abs(x) / 1.1)));

/** What can be scanned. All are of our own making. */
export const subjects = {
  seal: { label: 'carved seal', distance: without(seal, ball([0.74, 0.52, 0.02], 0.02), ball([0.74, 0.52, -0.08], 0.02)), low: [-0.75, -0.1, -0.45], high: [0.85, 0.75, 0.45], area: 2.4 }, // prettier-ignore
  bollard: { label: 'bollard', distance: without(bollard, box([0, 0.35, 0], [0.6, 0.05, 0.05])), low: [-0.35, -0.1, -0.35], high: [0.35, 0.9, 0.35], area: 1.6 }, // prettier-ignore
  gable: { label: 'gable wall', distance: without(gable, box([-0.5, 0.75, 0], [0.4, 0.6, 1]), box([0.5, 0.75, 0], [0.4, 0.6, 1]), ball([0, 1.55, 0], 0.18)), low: [-1.3, -0.15, -0.4], high: [1.3, 2.35, 0.4], area: 15 }, // prettier-ignore
} as const satisfies Readonly<Record<string, Subject & { readonly label: string }>>;

export interface ScanOptions {
  readonly subject: keyof typeof subjects;
  /** Metres by which places are off. */
  readonly noise: number;
  readonly scraps: number;
  /** About how many. */
  readonly triangles: number;
  readonly floor: boolean;
  /** Degrees that it leans, and metres that it is off the middle, at most. */
  readonly tilt: number;
  readonly shift: number;
  readonly seed: number;
}

/** Triangles that a grid gives for each cell's side of surface: what marching tetrahedra leave, measured. */
const perCell = 5.2;

/** A scan as a hand scanner gives it: fine, noisy, with floating scraps and a piece of the floor, leaning and off the middle. */
export function scanOf(options: ScanOptions, work: Work = unbounded): Mesh {
  const { distance, low, high, area } = subjects[options.subject];
  const cell = Math.sqrt((area * perCell) / options.triangles);
  const grid = makeGrid(low, high, cell, work);
  fillNearSurface(grid, distance, work);
  const parts = [isosurface(grid, work)];
  const draw = (what: number, i: number): number => randomAt(hash(options.seed, what), i);
  for (let i = 0; i < options.scraps; i++) {
    const place = low.map((value, k) => value + draw(1 + k, i) * (high[k] - value));
    parts.push(scrap(place, 0.006 + 0.02 * draw(4, i), (k) => draw(5, i * 64 + k)));
  }
  if (options.floor) parts.push(floorUnder(low, high, Math.max(cell * 2, 0.02), options.seed));
  const shaken = shake(joinMeshes(parts), options.noise, cell, options.seed);
  const turn = (k: number): number => ((draw(9, k) * 2 - 1) * options.tilt * Math.PI) / 180;
  const off = (k: number): number => (draw(10, k) * 2 - 1) * options.shift;
  return transformGeometry(shaken, leaning(turn(0), turn(1), [off(0), off(1), off(2)]));
}

/** Grid points along a side of a block that is looked at as one. */
const block = 8;

/** Most that a distance changes over a metre: the slopes of the gable are no true distances. */
const steepest = 1.3;

/**
 * Distances at the points of a grid, exact near the surface only: a block that is further from it than it reaches is all inside or all outside, since distances change
 * by no more than `steepest`. With half a million triangles nine tenths of the points are so.
 */
function fillNearSurface({ values, size, origin, cell }: ValueGrid, distance: Distance, work: Work): void {
  const [nx, ny, nz] = size;
  // From the middle of a block to its corners, and to the points beside them.
  const reach = steepest * Math.sqrt(3) * cell * ((block - 1) / 2 + 1.1);
  const place = (k: number, at: number): number => origin[k] + at * cell;
  for (let z0 = 0; z0 < nz; z0 += block) {
    work.progress((z0 / nz) * 0.5);
    for (let y0 = 0; y0 < ny; y0 += block)
      for (let x0 = 0; x0 < nx; x0 += block) {
        const middle = (block - 1) / 2;
        const d = distance(place(0, x0 + middle), place(1, y0 + middle), place(2, z0 + middle));
        const far = Math.abs(d) > reach ? Math.sign(d) : 0;
        for (let z = z0; z < Math.min(nz, z0 + block); z++)
          for (let y = y0; y < Math.min(ny, y0 + block); y++)
            for (let x = x0, at = x0 + nx * (y + ny * z); x < Math.min(nx, x0 + block); x++, at++)
              values[at] = far || distance(place(0, x), place(1, y), place(2, z));
      }
  }
}

/** An octahedron with crooked corners. */
function scrap(at: readonly number[], radius: number, draw: (k: number) => number): Mesh {
  const ends = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]]; // prettier-ignore
  const positions = Float32Array.from(
    ends.flatMap((end, i) => end.map((value, k) => at[k] + radius * (value * (0.5 + draw(i)) + 0.4 * (draw(i * 3 + k + 8) - 0.5)))),
  );
  const corners = [0, 2, 4, 2, 1, 4, 1, 3, 4, 3, 0, 4, 2, 0, 5, 1, 2, 5, 3, 1, 5, 0, 3, 5];
  return makeMesh({ positions, corners: Uint32Array.from(corners), uniform: 3 });
}

/** A ragged piece of level floor that just misses the body, and has less surface than it, so that the largest part of a scan is what was scanned. */
function floorUnder(low: Place, high: Place, cell: number, seed: number): Mesh {
  const [rx, rz] = [(high[0] - low[0]) * 0.55, (high[2] - low[2]) * 0.65];
  const [nx, nz] = [Math.ceil((2 * rx) / cell), Math.ceil((2 * rz) / cell)];
  const noise = noise3(seed);
  const positions: number[] = [];
  for (let j = 0; j <= nz; j++) for (let i = 0; i <= nx; i++) positions.push(-rx + i * cell, -0.03, -rz + j * cell);
  const corners: number[] = [];
  for (let j = 0; j < nz; j++)
    for (let i = 0; i < nx; i++) {
      const [x, z] = [-rx + (i + 0.5) * cell, -rz + (j + 0.5) * cell];
      if ((x / rx) ** 2 + (z / rz) ** 2 > 0.7 + 0.25 * noise(x * 3, z * 3, 0)) continue;
      const a = j * (nx + 1) + i;
      corners.push(a, a + nx + 1, a + 1, a + 1, a + nx + 1, a + nx + 2);
    }
  const whole = makeMesh({ positions: Float32Array.from(positions), corners: Uint32Array.from(corners), uniform: 3 });
  return gatherFaces(whole, [...Array(corners.length / 3).keys()]);
}

/** Moves every place a little: half by chance, half in waves some cells long. */
function shake(mesh: Mesh, by: number, cell: number, seed: number): Mesh {
  if (!(by > 0)) return mesh;
  const waves = [0, 1, 2].map((k) => noise3(hash(seed, 20 + k)));
  const keys = [0, 1, 2].map((k) => hash(seed, 30 + k));
  const p = mesh.positions;
  const positions = new Float32Array(p.length);
  for (let o = 0; o < p.length; o += 3)
    for (let k = 0; k < 3; k++) {
      const wave = waves[k](p[o] / (cell * 6), p[o + 1] / (cell * 6), p[o + 2] / (cell * 6));
      positions[o + k] = p[o + k] + by * (0.5 * wave + 0.5 * (randomAt(keys[k], o / 3) * 2 - 1));
    }
  return { ...mesh, positions };
}

/** Turns about x, then about z, then a move. */
function leaning(a: number, b: number, [x, y, z]: Place): Affine {
  const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
  return [cb, -sb * ca, sb * sa, x, sb, cb * ca, -cb * sa, y, 0, sa, ca, z];
}
