import { tick, type Work } from '../base/work.js';
import { AlongCurve } from '../curves/evaluate/alongCurve.js';
import { framesOf } from '../curves/evaluate/frames.js';
import { asBezier } from '../curves/evaluate/knots.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { boundsOf } from '../geometry/geometry.js';
import { joinMeshes } from '../geometry/join.js';
import { emptyMesh, faceCount, type Mesh } from '../geometry/mesh.js';
import { ownAxes } from '../geometry/ownAxes.js';
import { refreshNormals } from '../mesh/change/normals.js';

export interface BendOptions {
  /** The mesh's own axis that runs along the curve. */
  readonly axis: 0 | 1 | 2;
  /** `stretch`: once, over the whole curve; `repeat`: as often as comes nearest to its length, each as long as its place; `keep`: once, as long as it is. */
  readonly fit: 'stretch' | 'repeat' | 'keep';
}

/** What is worth saying of a bend: the curve, and where on it. */
export interface BendIssue {
  readonly code: 'no-length' | 'folds' | 'beyond';
  readonly curve: number;
  /** Metres along the curve. */
  readonly at: number;
}

/**
 * Meshes bent along curves: what lies along the own axis lies along the curve, what lies beside it keeps its distance to it, in the curve's frames. The mesh begins at
 * the start of the curve wherever it lies on its axis. Points need to be close enough along the axis for the bends; the mesh is not refined.
 * @throws RangeError when the mesh has no extent along the axis.
 */
export function bendAlong(mesh: Mesh, given: Curves, { axis, fit }: BendOptions, work: Work): { mesh: Mesh; issues: BendIssue[] } {
  const bounds = boundsOf(mesh.positions);
  const own = bounds ? bounds.max[axis] - bounds.min[axis] : 0;
  if (!bounds || !(own > 0)) throw new RangeError(`The mesh has no extent along ${'xyz'[axis]}; choose another axis.`);
  const curves = asBezier(given, true);
  const { normal } = framesOf(curves);
  const paths = Array.from({ length: curveCount(curves) }, (_, c) => new AlongCurve(curves, c, normal));
  const times = paths.map(({ total }) => (total > 0 ? (fit === 'repeat' ? Math.max(1, Math.round(total / own)) : 1) : 0));
  const all = times.reduce((sum, count) => sum + count, 0);
  work.claim({ vertices: (mesh.positions.length / 3) * all, faces: faceCount(mesh) * all });
  const made: Mesh[] = [];
  const issues: BendIssue[] = [];
  paths.forEach((path, c) => {
    if (!times[c]) issues.push({ code: 'no-length', curve: c, at: 0 });
    else if (fit === 'keep' && own > path.total * (1 + 1e-6)) issues.push({ code: 'beyond', curve: c, at: path.total });
    const length = fit === 'keep' ? own : path.total / times[c];
    for (let k = 0; k < times[c]; k++) {
      work.progress(made.length / all);
      const bent = bentOnce(mesh, path, { axis, from: bounds.min[axis], scale: length / own, start: k * length }, work);
      if (bent.folds !== null && !issues.some(({ code, curve }) => code === 'folds' && curve === c)) issues.push({ code: 'folds', curve: c, at: bent.folds });
      made.push(bent.mesh);
    }
  });
  return { mesh: made.length ? joinMeshes(made) : emptyMesh, issues };
}

/** The share of the curve over which it is looked whether a place goes on forwards. */
const ahead = 1e-5;

/** A place on the curve: the way on, what is up there, and the side, which is up × way. */
interface Station {
  readonly place: readonly number[];
  readonly way: readonly number[];
  readonly up: readonly number[];
  readonly side: readonly number[];
}

function stationOf(path: AlongCurve, s: number): Station {
  const { tangent: t, normal: n } = path.frame(s);
  return { place: path.place(s), way: t, up: n, side: [n[1] * t[2] - n[2] * t[1], n[2] * t[0] - n[0] * t[2], n[0] * t[1] - n[1] * t[0]] };
}

function bentOnce(
  mesh: Mesh,
  path: AlongCurve,
  { axis, from, scale, start }: { axis: 0 | 1 | 2; from: number; scale: number; start: number },
  work: Work,
): { mesh: Mesh; folds: number | null } {
  const { up, side, hand } = ownAxes(axis);
  const p = mesh.positions;
  const positions = new Float32Array(p.length);
  let folds: number | null = null;
  const step = path.total * ahead;
  // Vertices of one row lie at the same metres.
  const stations = new Map<number, Station>();
  const stationAt = (metres: number): Station => {
    let station = stations.get(metres);
    if (!station) stations.set(metres, (station = stationOf(path, metres)));
    return station;
  };
  /** Metres that a place beside the axis goes forwards between two stations, along the way of the first. */
  const goes = (here: Station, next: Station, q: number, w: number): number => {
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += (next.place[k] - here.place[k] + q * (next.up[k] - here.up[k]) + w * hand * (next.side[k] - here.side[k])) * here.way[k];
    return sum;
  };
  for (let i = 0; i < p.length; i += 3) {
    tick(work, i / 3, p.length / 3);
    const s = start + (p[i + axis] - from) * scale;
    const [q, w] = [p[i + up], p[i + side]];
    const here = stationAt(s);
    for (let k = 0; k < 3; k++) positions[i + k] = here.place[k] + q * here.up[k] + w * hand * here.side[k];
    if (folds === null && s > step && s < path.total - step && goes(here, stationAt(s + step), q, w) < 0) folds = s;
  }
  return { mesh: refreshNormals({ ...mesh, positions }, mesh, work), folds };
}
