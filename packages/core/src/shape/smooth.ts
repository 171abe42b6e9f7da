import { curveCount, type Curves } from '../geometry/curves.js';
import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { refreshNormals } from '../mesh/change/normals.js';
import { progressEvery, unbounded, type Work } from '../base/work.js';
import { asBezier, throughMoved } from '../curves/evaluate/knots.js';

export interface SmoothOptions {
  times: number;
  /** How far each point goes to the middle of its neighbours, 0…1. */
  strength: number;
  /** Ends of open curves, and the border of open meshes, stay where they are. */
  keepEnds: boolean;
  /** Each step is taken back a little more than half way, so that the whole does not shrink (Taubin 1995, pass band 0.1). */
  keepSize: boolean;
}

/** Neighbours of all points in one list: those of point i from `starts[i]` on. */
interface Neighbours {
  readonly starts: Uint32Array;
  readonly list: Uint32Array;
  readonly fixed: Uint8Array;
}

function smoothPlaces(given: Float32Array, { starts, list, fixed }: Neighbours, { times, strength, keepSize }: SmoothOptions, work: Work): Float64Array {
  const p = Float64Array.from(given);
  const next = new Float64Array(p.length);
  let done = 0;
  const step = (factor: number): void => {
    for (let i = 0; i < fixed.length; i++) {
      if (i % progressEvery === 0) work.progress(done / times);
      const count = starts[i + 1] - starts[i];
      for (let k = 0; k < 3; k++) {
        const at = i * 3 + k;
        let sum = 0;
        for (let n = starts[i]; n < starts[i + 1]; n++) sum += p[list[n] * 3 + k];
        next[at] = fixed[i] || !count ? p[at] : p[at] + factor * (sum / count - p[at]);
      }
    }
    p.set(next);
  };
  // Taubin's second factor μ from 1/λ + 1/μ = 0.1.
  const back = strength > 0 ? 1 / (0.1 - 1 / strength) : 0;
  for (let round = 0; round < times; round++) {
    step(strength);
    if (keepSize) step(back);
    done = round + 1;
  }
  return p;
}

/** Moves every point toward the middle of its neighbours, `times` over. Smooth curves run through the moved points. */
export function smoothCurves(given: Curves, options: SmoothOptions, work: Work = unbounded): Curves {
  const curves = asBezier(given);
  const count = curves.positions.length / 3;
  const starts = new Uint32Array(count + 1);
  const list: number[] = [];
  const fixed = new Uint8Array(count);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    for (let i = from; i < to; i++) {
      const inner = i > from && i + 1 < to;
      if (inner) list.push(i - 1, i + 1);
      else if (curves.closed[c]) list.push(i > from ? i - 1 : to - 1, i + 1 < to ? i + 1 : from);
      else if (options.keepEnds) fixed[i] = 1;
      else if (to - from > 1) list.push(i === from ? i + 1 : i - 1);
      starts[i + 1] = list.length;
    }
  }
  return throughMoved(curves, Float32Array.from(smoothPlaces(curves.positions, { starts, list: Uint32Array.from(list), fixed }, options, work)));
}

/** Moves every point of a mesh toward the middle of those it shares an edge with. Seams stay shut; normals are found anew. */
export function smoothMesh(mesh: Mesh, options: SmoothOptions, work: Work = unbounded): Mesh {
  const vertices = mesh.positions.length / 3;
  const point = (v: number): number => (mesh.pointOf ? mesh.pointOf[v] : v);
  const places = new Float32Array(mesh.pointCount * 3);
  for (let v = 0; v < vertices; v++) for (let k = 0; k < 3; k++) places[point(v) * 3 + k] = mesh.positions[v * 3 + k];
  const around: Set<number>[] = Array.from({ length: mesh.pointCount }, () => new Set<number>());
  const uses = new Map<number, number>();
  for (let f = 0; f < faceCount(mesh); f++) {
    if (f % progressEvery === 0) work.progress(0);
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    for (let i = from; i < to; i++) {
      const [a, b] = [point(mesh.corners[i]), point(mesh.corners[i + 1 < to ? i + 1 : from])];
      around[a].add(b);
      around[b].add(a);
      const key = Math.min(a, b) * mesh.pointCount + Math.max(a, b);
      uses.set(key, (uses.get(key) ?? 0) + 1);
    }
  }
  const fixed = new Uint8Array(mesh.pointCount);
  if (options.keepEnds)
    for (const [key, count] of uses)
      if (count === 1) {
        fixed[Math.floor(key / mesh.pointCount)] = 1;
        fixed[key % mesh.pointCount] = 1;
      }
  const starts = new Uint32Array(mesh.pointCount + 1);
  around.forEach((set, i) => (starts[i + 1] = starts[i] + set.size));
  const list = Uint32Array.from(around.flatMap((set) => [...set]));
  const moved = smoothPlaces(places, { starts, list, fixed }, options, work);
  const positions = new Float32Array(vertices * 3);
  for (let v = 0; v < vertices; v++) for (let k = 0; k < 3; k++) positions[v * 3 + k] = moved[point(v) * 3 + k];
  return refreshNormals({ ...mesh, positions }, mesh, work);
}
