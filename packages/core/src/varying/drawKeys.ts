import { curveKeys, distinctKeys, identityOf, seedsOfPoints } from '../curves/evaluate/pointSeeds.js';
import type { Carrier } from '../geometry/attributes.js';
import { curveOfPoints } from '../geometry/curves.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { connectedParts } from '../mesh/topology/parts.js';
import { hash } from '../values/random.js';
import { elementCount, type PerElement } from './perElement.js';

/** What one random value can be drawn for. `part` is a connected piece, `whole` everything together. */
export type DrawPer = PerElement | 'part';

/** Mixed into the keys of each kind, so that point 3, curve 3 and copy 3 draw differently with the same seed. */
const salts: Readonly<Record<Exclude<DrawPer, 'point'>, number>> = { curve: 1, face: 2, copy: 3, part: 4, whole: 5 };

/** Points keep their own keys, which documents draw by since the beginning. */
const salted = (per: DrawPer, key: number): number => (per === 'point' ? key : hash(0x6b696e64 + salts[per], key));

/**
 * Keys that random values are drawn by, one for each element: elements with different keys draw independently. A key follows from the element's `seed`, else
 * its `id`, else its number: points of curves are numbered within their curve, vertices by the point that they share. Of elements with the same `seed` or
 * `id` the second gets another key than the first.
 * @param by draws once for each `curve`, connected `part` or for the `whole`: the curve or part that the element belongs to, or that it carries as a value.
 * @throws RangeError where a part is asked of elements that carry none.
 */
export function drawKeys(geometry: Geometry, per: PerElement, by: DrawPer = per): Uint32Array {
  if (by === 'whole') return new Uint32Array(elementCount(geometry, per)).fill(salted('whole', 0));
  if (by === 'part') return carried(geometry, per, 'body') ?? partKeys(geometry, per);
  if (by === 'curve' && per !== 'curve') {
    if (geometry.type === 'curves') return spread(ownKeys(geometry, 'curve'), curveOfPoints(geometry));
    return carried(geometry, per, 'curve') ?? ownKeys(geometry, per);
  }
  // What is set per face, say, draws for each of the elements at hand where those are no faces.
  return ownKeys(geometry, per);
}

const known = new WeakMap<Geometry, Map<PerElement, Uint32Array>>();

/** Keys of the elements themselves. Kept as long as the geometry is. */
function ownKeys(geometry: Geometry, per: PerElement): Uint32Array {
  const all = known.get(geometry) ?? new Map<PerElement, Uint32Array>();
  const keys = all.get(per) ?? keysOf(geometry, per).map((key) => salted(per, key));
  known.set(geometry, all.set(per, keys));
  return keys;
}

const carrierOf = (geometry: Geometry, per: PerElement): Carrier => (per === 'point' && geometry.type === 'mesh' ? 'corner' : per);

function keysOf(geometry: Geometry, per: PerElement): Uint32Array {
  if (geometry.type === 'curves' && per === 'curve') return curveKeys(geometry);
  const given = identityOf(geometry, carrierOf(geometry, per));
  if (given) return distinctKeys(given);
  if (geometry.type === 'curves') return seedsOfPoints(geometry);
  if (geometry.type === 'mesh' && per === 'point' && geometry.pointOf) return geometry.pointOf;
  return Uint32Array.from({ length: elementCount(geometry, per) }, (_, i) => i);
}

/** Keys by the number that elements carry of the curve or part that they came from. */
function carried(geometry: Geometry, per: PerElement, name: 'body' | 'curve'): Uint32Array | null {
  const given = geometry.attributes.get(name);
  if (given?.size !== 1 || given.carrier !== carrierOf(geometry, per)) return null;
  return Uint32Array.from(given.data, (value) => salted(name === 'body' ? 'part' : 'curve', value));
}

function partKeys(geometry: Geometry, per: PerElement): Uint32Array {
  if (geometry.type === 'mesh') return Uint32Array.from(per === 'face' ? partOfFaces(geometry) : partOfVertices(geometry), (part) => salted('part', part));
  // Each curve is connected by itself.
  if (geometry.type === 'curves') return drawKeys(geometry, per, 'curve');
  throw new RangeError(`These ${geometry.type} carry no "body", the number of their part, to draw by; draw per ${per}, or carry it over first.`);
}

function partOfFaces(mesh: Mesh): ArrayLike<number> {
  const given = mesh.attributes.get('body');
  return given?.carrier === 'face' && given.size === 1 ? given.data : connectedParts(mesh).ofFace;
}

function partOfVertices(mesh: Mesh): Uint32Array {
  const ofFace = partOfFaces(mesh);
  const part = new Uint32Array(mesh.positions.length / 3);
  for (let f = 0; f < faceCount(mesh); f++) for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) part[mesh.corners[i]] = ofFace[f];
  return part;
}

const spread = (keys: Uint32Array, which: Uint32Array): Uint32Array => which.map((c) => keys[c]);
