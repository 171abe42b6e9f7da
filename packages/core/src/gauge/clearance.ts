import { withAttributes } from '../geometry/attributes.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import type { Mesh } from '../geometry/mesh.js';
import { curveLengths, stationsOf } from '../curves/evaluate/arcLength.js';
import { tick, type Work } from '../base/work.js';
import { newHit } from '../near/nearest.js';
import { visitingOrder } from '../near/visiting.js';
import type { Surface } from '../near/surface.js';
import { cellSize, PointGrid } from '../space/grid.js';
import { NearestCurves } from './nearestCurve.js';
import { fieldAt, type Field } from '../values/field.js';

export interface ClearanceOptions {
  /** Half the thickness of what runs along curves, a value a point; of a mesh it is not counted. */
  radius: Field;
  /** Metres between skins at least. */
  least: number;
  /** Metres at both ends of open curves that are not looked at. */
  ends: number;
  /** Curves are measured to each other too. */
  eachOther: boolean;
}

/** A stretch of a curve that comes too near. */
export interface TooNear {
  readonly curve: number;
  /** Metres along it, where it is nearest. */
  readonly at: number;
  /** Metres between the skins there: below 0 they are in each other. */
  readonly clearance: number;
  /** The other curve; −1: the body. */
  readonly other: number;
}

export interface Clearances<G> {
  /** With `clearance` (metres between skins) and `mark` (1 where that is too little) at every point. */
  readonly geometry: G;
  readonly places: readonly TooNear[];
  readonly tooNear: number;
}

/** Places are no nearer to each other than this, metres; thinner things are looked at as if they were so thick. */
const finest = 1e-3;

/** Distances of the skins of curves to a body and to each other. Between their points curves are looked at as straight: points know of the pieces at them. */
export function curveClearance(curves: Curves, body: Surface | null, options: ClearanceOptions, work: Work): Clearances<Curves> {
  const n = curves.positions.length / 3;
  const clearance = new Float64Array(n).fill(Infinity);
  const nearestTo = new Int32Array(n).fill(-1);
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  const samples = samplesOf(curves, Math.max(finest, thickestOf(options.radius), options.least), work);
  const hit = newHit();
  const isEnd = (c: number, s: number): boolean => !curves.closed[c] && Math.min(s, lengths[c] - s) < options.ends;
  const tell = (point: number, value: number, other: number): void => {
    if (value < clearance[point]) [clearance[point], nearestTo[point]] = [value, other];
  };
  samples.forEach(({ c, a, b, t, x, y, z }, i) => {
    tick(work, i, samples.length);
    if (!body || isEnd(c, along(stations, lengths[c], a, b, t))) return;
    const value = body.signedDistance(x, y, z, hit) - fieldAt(options.radius, t < 0.5 ? a : b);
    tell(t < 0.5 ? a : b, value, -1);
  });
  if (options.eachOther) betweenCurves(samples, options, (i, j, away) => {
    const [p, q] = [samples[i], samples[j]];
    if (isEnd(p.c, along(stations, lengths[p.c], p.a, p.b, p.t)) || isEnd(q.c, along(stations, lengths[q.c], q.a, q.b, q.t))) return;
    const [u, v] = [p.t < 0.5 ? p.a : p.b, q.t < 0.5 ? q.a : q.b];
    const value = away - fieldAt(options.radius, u) - fieldAt(options.radius, v);
    tell(u, value, q.c);
    tell(v, value, p.c);
  }); // prettier-ignore
  if (options.eachOther) toOthers(curves, options.radius, (c, s) => isEnd(c, s), tell, work);
  const places: TooNear[] = [];
  let tooNear = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    let worst = -1;
    for (let i = curves.starts[c]; i <= curves.starts[c + 1]; i++) {
      const bad = i < curves.starts[c + 1] && clearance[i] < options.least;
      if (bad) {
        tooNear++;
        if (worst < 0 || clearance[i] < clearance[worst]) worst = i;
      } else if (worst >= 0) {
        places.push({ curve: c, at: stations[worst], clearance: clearance[worst], other: nearestTo[worst] });
        worst = -1;
      }
    }
  }
  const data = Float32Array.from(clearance, (value) => (Number.isFinite(value) ? value : far));
  const mark = Float32Array.from(clearance, (value) => Number(value < options.least));
  const attributes = withAttributes(curves.attributes, { clearance: { carrier: 'point', size: 1, data }, mark: { carrier: 'point', size: 1, data: mark } });
  return { geometry: { ...curves, attributes }, places, tooNear };
}

/** Tells every point how far the skin of the nearest other curve is, however far that is. */
function toOthers(
  curves: Curves,
  radius: Field,
  isEnd: (curve: number, s: number) => boolean,
  tell: (point: number, value: number, other: number) => void,
  work: Work,
): void {
  const others = new NearestCurves(curves, work);
  const stations = stationsOf(curves);
  const { positions: p, starts } = curves;
  for (let c = 0; c < curveCount(curves); c++)
    for (let i = starts[c]; i < starts[c + 1]; i++) {
      tick(work, i, p.length / 3);
      if (isEnd(c, stations[i])) continue;
      const { distance, curve, point } = others.nearest(c, p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
      if (curve >= 0) tell(i, distance - fieldAt(radius, i) - fieldAt(radius, point), curve);
    }
}

/** What is said of places that nothing is near to, metres. */
const far = 1e6;

/** Distances of the vertices of a mesh to a body. */
export function meshClearance(mesh: Mesh, body: Surface, least: number, work: Work): Clearances<Mesh> {
  const n = mesh.positions.length / 3;
  const data = new Float32Array(n);
  const mark = new Float32Array(n);
  const hit = newHit();
  let tooNear = 0;
  const order = visitingOrder(n, (v, k) => mesh.positions[v * 3 + k]);
  for (let turn = 0; turn < n; turn++) {
    tick(work, turn, n);
    const v = order ? order[turn] : turn;
    data[v] = body.signedDistance(mesh.positions[v * 3], mesh.positions[v * 3 + 1], mesh.positions[v * 3 + 2], hit);
    mark[v] = Number(data[v] < least);
    tooNear += mark[v];
  }
  const attributes = withAttributes(mesh.attributes, { clearance: { carrier: 'corner', size: 1, data }, mark: { carrier: 'corner', size: 1, data: mark } });
  return { geometry: { ...mesh, attributes }, places: [], tooNear };
}

interface Sample {
  readonly c: number;
  /** The points of its piece, and where between them it is. */
  readonly a: number;
  readonly b: number;
  readonly t: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

const along = (stations: ArrayLike<number>, length: number, a: number, b: number, t: number): number =>
  stations[a] + ((b > a ? stations[b] : length) - stations[a]) * t;

/** Places along all curves, `step` metres from each other at most, so that nothing thin slips between. */
function samplesOf(curves: Curves, step: number, work: Work): Sample[] {
  const { positions: p, starts, closed } = curves;
  const samples: Sample[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [starts[c], starts[c + 1]];
    for (let i = from; i < to; i++) {
      const next = i + 1 < to ? i + 1 : closed[c] ? from : i;
      const length = Math.hypot(p[next * 3] - p[i * 3], p[next * 3 + 1] - p[i * 3 + 1], p[next * 3 + 2] - p[i * 3 + 2]);
      const count = next === i ? 1 : Math.max(1, Math.ceil(length / step));
      // A place takes as much memory as some points do.
      work.claim({ points: (samples.length + count) * perPlace });
      for (let k = 0; k < count; k++) {
        const t = k / count;
        const at = (axis: number): number => p[i * 3 + axis] + (p[next * 3 + axis] - p[i * 3 + axis]) * t;
        samples.push({ c, a: i, b: next, t, x: at(0), y: at(1), z: at(2) });
      }
    }
  }
  return samples;
}

/** Points that a place counts as. */
const perPlace = 8;

const thickestOf = ({ constant, values }: Field): number => (values ? values.reduce((most, value) => Math.max(most, value), 0) : constant);

/** Calls for all pairs of places of two curves that are within reach of each other. */
function betweenCurves(samples: readonly Sample[], options: ClearanceOptions, visit: (i: number, j: number, away: number) => void): void {
  const reach = Math.max(1e-6, thickestOf(options.radius) * 2 + options.least);
  const grid = new PointGrid(cellSize(samples.flatMap(({ x, y, z }) => [x, y, z]), reach), Math.max(1, samples.length)); // prettier-ignore
  samples.forEach(({ c, x, y, z }, i) => {
    grid.near(x, y, z, reach, (j) => {
      const other = samples[j];
      if (other.c === c) return;
      const away = Math.hypot(x - other.x, y - other.y, z - other.z);
      if (away < reach) visit(i, j, away);
    });
    grid.add(x, y, z);
  });
}
