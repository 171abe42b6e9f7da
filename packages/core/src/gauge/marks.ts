import { curveLengths } from '../curves/evaluate/arcLength.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { cornerAfter, edgesOf } from '../mesh/topology/edgeTable.js';
import { faceAreas } from '../mesh/topology/areas.js';
import { placesOfMesh } from '../mesh/topology/samePlaces.js';
import { nearestTreeOf, newHit } from '../near/nearest.js';
import { tick, type Work } from '../base/work.js';
import { noise3 } from '../values/noise.js';
import { randomAt } from '../values/random.js';
import { drawKeys } from '../varying/drawKeys.js';
import { elementsOf } from '../varying/elements.js';
import { elementCount, type PerElement } from '../varying/perElement.js';

/** Whether an element is chosen. */
export type Choosing = (i: number) => boolean;

/** The values of some names of formulas, an array each. @throws RangeError when these elements do not have one. */
function columns(geometry: Geometry, per: PerElement, names: readonly string[]): Float64Array[] {
  const { count, scope } = elementsOf(geometry, per);
  return names.map((name) => {
    const values = new Float64Array(count);
    const source = scope.source(name);
    if (source === undefined || typeof source === 'string') throw new RangeError(typeof source === 'string' ? `${source[0].toUpperCase()}${source.slice(1)}.` : `There is no ${name} here.`); // prettier-ignore
    if (typeof source === 'number') values.fill(source);
    else source.fill(values, 0, count);
    return values;
  });
}

/** Those that look along a direction within an angle (degrees): faces, vertices and points by their normal, curves by the way from start to end. */
export function alongDirection(geometry: Geometry, per: PerElement, direction: readonly [number, number, number], angle: number): Choosing {
  const size = Math.hypot(...direction);
  const least = Math.cos((Math.min(180, angle) * Math.PI) / 180) - 1e-9;
  const [x, y, z] = per === 'curve' && geometry.type === 'curves' ? chords(geometry.positions, geometry.starts) : columns(geometry, per, ['nx', 'ny', 'nz']);
  return (i) => {
    const length = Math.hypot(x[i], y[i], z[i]);
    return length > 0 && (x[i] * direction[0] + y[i] * direction[1] + z[i] * direction[2]) / (length * size) >= least;
  };
}

function chords(p: Float32Array, starts: Uint32Array): Float64Array[] {
  return [0, 1, 2].map((k) =>
    Float64Array.from({ length: starts.length - 1 }, (_, c) => (starts[c + 1] > starts[c] ? p[(starts[c + 1] - 1) * 3 + k] - p[starts[c] * 3 + k] : 0)),
  );
}

/** Those larger than so many times the mean: faces by area, curves by length. */
export function largerThanMean(geometry: Geometry, per: PerElement, times: number): Choosing {
  const sizes = sizesOf(geometry, per);
  const mean = sizes.reduce((sum, value) => sum + value, 0) / Math.max(1, sizes.length);
  return (i) => sizes[i] > times * mean * (1 + 1e-7);
}

function sizesOf(geometry: Geometry, per: PerElement): Float64Array {
  if (per === 'face' && geometry.type === 'mesh') {
    const areas = faceAreas(geometry);
    return Float64Array.from({ length: faceCount(geometry) }, (_, f) => Math.hypot(areas[f * 3], areas[f * 3 + 1], areas[f * 3 + 2]) / 2);
  }
  if (per === 'curve' && geometry.type === 'curves') return Float64Array.from(curveLengths(geometry));
  throw new RangeError(`A ${per} has no size; faces have an area, curves a length.`);
}

/** Those where smooth noise of this size (metres from bump to bump), moved by `shift`, is above a level (−1…1). */
export function noisy(
  geometry: Geometry,
  per: PerElement,
  { size, level, seed, shift }: { size: number; level: number; seed: number; shift: readonly [number, number, number] },
): Choosing {
  const [x, y, z] = columns(geometry, per, ['x', 'y', 'z']);
  const noise = noise3(seed);
  return (i) => noise((x[i] + shift[0]) / size, (y[i] + shift[1]) / size, (z[i] + shift[2]) / size) > level;
}

/** Those whose place is within reach of another geometry. */
export function nearTo(geometry: Geometry, per: PerElement, to: Geometry, reach: number, work: Work): Choosing {
  const [x, y, z] = columns(geometry, per, ['x', 'y', 'z']);
  const tree = nearestTreeOf(to, work);
  const hit = newHit();
  return (i) => {
    tick(work, i, x.length);
    return tree.nearest(x[i], y[i], z[i], hit, reach * (1 + 1e-7)).element >= 0;
  };
}

/** A share (0…1) of them, drawn by a seed. */
export function byChance(geometry: Geometry, per: PerElement, share: number, seed: number): Choosing {
  const keys = drawKeys(geometry, per);
  return (i) => randomAt(seed, keys[i]) < share;
}

/** Those on a border: faces and vertices where the mesh is open, ends of open curves, open curves. */
export function onBoundary(geometry: Geometry, per: PerElement, work: Work): Choosing {
  if (geometry.type === 'mesh') {
    const { faces, points, pointOf } = borders(geometry, work);
    return per === 'face' ? (i) => faces[i] === 1 : (i) => points[pointOf[i]] === 1;
  }
  if (geometry.type !== 'curves') throw new RangeError(`${geometry.type[0].toUpperCase()}${geometry.type.slice(1)} have no border.`);
  if (per === 'curve') return (c) => geometry.closed[c] === 0;
  const ends = new Uint8Array(elementCount(geometry, 'point'));
  for (let c = 0; c + 1 < geometry.starts.length; c++)
    if (!geometry.closed[c] && geometry.starts[c + 1] > geometry.starts[c]) ends[geometry.starts[c]] = ends[geometry.starts[c + 1] - 1] = 1;
  return (i) => ends[i] === 1;
}

function borders(mesh: Mesh, work: Work): { faces: Uint8Array; points: Uint8Array; pointOf: Uint32Array } {
  const { pointOf, count } = placesOfMesh(mesh, work);
  const whole = { ...mesh, pointOf, pointCount: count };
  const edges = edgesOf(whole, work);
  const faces = new Uint8Array(faceCount(mesh));
  const points = new Uint8Array(count);
  for (let e = 0; e < edges.count; e++) {
    if (edges.sides[e] !== 1) continue;
    const f = edges.face[e * 2];
    const from = edges.from[e * 2];
    faces[f] = points[pointOf[mesh.corners[from]]] = points[pointOf[mesh.corners[cornerAfter(mesh, f, from)]]] = 1;
  }
  return { faces, points, pointOf };
}

/** Faces of so many corners. */
export function withSides(geometry: Geometry, per: PerElement, sides: number): Choosing {
  if (geometry.type !== 'mesh' || per !== 'face') throw new RangeError('Only faces have sides.');
  return (f) => faceStart(geometry, f + 1) - faceStart(geometry, f) === sides;
}

/** Puts a new mark and an earlier one together. */
export const combinations = {
  replace: (now: boolean): boolean => now,
  and: (now: boolean, before: boolean): boolean => now && before,
  or: (now: boolean, before: boolean): boolean => now || before,
  butNot: (now: boolean, before: boolean): boolean => before && !now,
} as const;
