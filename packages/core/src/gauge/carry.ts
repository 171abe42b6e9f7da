import { withAttributes, type Attribute, type Carrier } from '../geometry/attributes.js';
import { tick, unbounded, type Work } from '../base/work.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceCount, faceStart } from '../geometry/mesh.js';
import { curveOfPoints } from '../geometry/curves.js';
import { elementCount } from '../varying/perElement.js';

export const carryRules = ['mean', 'min', 'max', 'first', 'sum'] as const;
export type CarryRule = (typeof carryRules)[number];

/** Number of elements of a carrier in a geometry; 0 where it has none of the kind. */
export function carrierCount(geometry: Geometry, carrier: Carrier): number {
  // A mesh carries values of its points with its vertices, as corners; nothing else has corners.
  if ((carrier === 'corner') !== (geometry.type === 'mesh') && (carrier === 'corner' || carrier === 'point')) return 0;
  return elementCount(geometry, carrier === 'corner' ? 'point' : carrier);
}

/**
 * Carries an attribute over from its carrier to another one of the same geometry: points to their curve, a curve to its points, vertices to faces and
 * back, all to the whole and the whole to all. Where several values meet they become their mean, least, greatest, first or sum, number by number.
 * @throws RangeError when the attribute is missing or the geometry has no such elements.
 */
export function carryOver(geometry: Geometry, name: string, to: Carrier, rule: CarryRule, work: Work = unbounded): Geometry {
  const attribute = geometry.attributes.get(name);
  if (!attribute) throw new RangeError(`There is no attribute "${name}"; there are ${[...geometry.attributes.keys()].join(', ') || 'none'}.`);
  const count = carrierCount(geometry, to);
  if (!count && carrierCount(geometry, attribute.carrier)) throw new RangeError(`${geometry.type} have no ${to}s to carry "${name}" to.`);
  if (attribute.carrier === to) return geometry;
  const gathered = new Gatherer(attribute, count, rule);
  const most = Math.max(count, carrierCount(geometry, attribute.carrier));
  eachPair(geometry, attribute.carrier, to, (from, into) => {
    tick(work, Math.max(from, into), most);
    gathered.add(from, into);
  });
  return { ...geometry, attributes: withAttributes(geometry.attributes, { [name]: { carrier: to, size: attribute.size, data: gathered.finish() } }) };
}

/** Calls `pair` for each element of one carrier and each of another that belong together. */
function eachPair(geometry: Geometry, from: Carrier, to: Carrier, pair: (from: number, to: number) => void): void {
  const [given, wanted] = [carrierCount(geometry, from), carrierCount(geometry, to)];
  if (from === 'whole') for (let i = 0; i < wanted; i++) pair(0, i);
  else if (to === 'whole') for (let i = 0; i < given; i++) pair(i, 0);
  else if (geometry.type === 'curves') {
    const curve = curveOfPoints(geometry);
    if (from === 'point') for (let i = 0; i < given; i++) pair(i, curve[i]);
    else for (let i = 0; i < wanted; i++) pair(curve[i], i);
  } else if (geometry.type === 'mesh') {
    const toFace = to === 'face';
    // Vertices of one point (at a seam) get what the point's faces have together.
    const { pointOf } = geometry;
    const siblings = !toFace && pointOf ? groupsOf(pointOf, geometry.pointCount) : null;
    for (let f = 0; f < faceCount(geometry); f++)
      for (let j = faceStart(geometry, f); j < faceStart(geometry, f + 1); j++) {
        const vertex = geometry.corners[j];
        if (toFace) pair(vertex, f);
        else if (siblings) for (const v of siblings[pointOf![vertex]]) pair(f, v);
        else pair(f, vertex);
      }
  }
}

function groupsOf(pointOf: Uint32Array, count: number): number[][] {
  const groups: number[][] = Array.from({ length: count }, () => []);
  pointOf.forEach((point, v) => groups[point].push(v));
  return groups;
}

/** Gathers rows of an attribute into fewer or more, by a rule. Elements that nothing belongs to get 0. */
class Gatherer {
  private readonly values: Float64Array;
  private readonly counts: Uint32Array;

  constructor(
    private readonly attribute: Attribute,
    count: number,
    private readonly rule: CarryRule,
  ) {
    this.values = new Float64Array(count * attribute.size);
    this.counts = new Uint32Array(count);
  }

  add(from: number, to: number): void {
    const { size, data } = this.attribute;
    const first = this.counts[to]++ === 0;
    for (let k = 0; k < size; k++) {
      const value = data[from * size + k];
      const at = to * size + k;
      if (first) this.values[at] = value;
      else if (this.rule === 'min') this.values[at] = Math.min(this.values[at], value);
      else if (this.rule === 'max') this.values[at] = Math.max(this.values[at], value);
      else if (this.rule !== 'first') this.values[at] += value;
    }
  }

  finish(): Float32Array {
    const { size } = this.attribute;
    if (this.rule === 'mean') for (let i = 0; i < this.values.length; i++) this.values[i] /= Math.max(1, this.counts[Math.floor(i / size)]);
    return Float32Array.from(this.values);
  }
}
