import type { Work } from '../base/work.js';
import { AlongCurve } from '../curves/evaluate/alongCurve.js';
import { framesOf } from '../curves/evaluate/frames.js';
import { asBezier } from '../curves/evaluate/knots.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { boundsOf } from '../geometry/geometry.js';
import { joinMeshes } from '../geometry/join.js';
import { emptyMesh, faceCount, type Mesh } from '../geometry/mesh.js';
import { laidAlong, stationFrom } from '../mesh/change/laidAlong.js';

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

function bentOnce(
  mesh: Mesh,
  path: AlongCurve,
  { axis, from, scale, start }: { axis: 0 | 1 | 2; from: number; scale: number; start: number },
  work: Work,
): { mesh: Mesh; folds: number | null } {
  return laidAlong(
    mesh,
    {
      axis,
      metresOf: (own) => start + (own - from) * scale,
      across: 1,
      stationAt: (s) => {
        const { tangent, normal } = path.frame(s);
        return stationFrom(path.place(s), tangent, normal);
      },
      folding: { from: 0, to: path.total, step: path.total * ahead },
    },
    work,
  );
}
