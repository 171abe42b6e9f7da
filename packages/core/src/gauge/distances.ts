import { withAttributes, type Attribute, type Carrier } from '../geometry/attributes.js';
import type { Geometry } from '../geometry/geometry.js';
import { tick, type Work } from '../base/work.js';
import { nearestTreeOf, newHit, type Hit, type NearestTree } from '../near/nearest.js';
import { visitingOrder } from '../near/visiting.js';

/** The places of the elements that carry values of a geometry: its points, a mesh's vertices, copies' origins. */
export function placesOf(geometry: Geometry): { readonly count: number; readonly carrier: Carrier; at(i: number, k: number): number } {
  if (geometry.type === 'copies') return { count: geometry.object.length, carrier: 'copy', at: (i, k) => geometry.matrices[i * 16 + 12 + k] };
  const { positions } = geometry;
  return { count: positions.length / 3, carrier: geometry.type === 'mesh' ? 'corner' : 'point', at: (i, k) => positions[i * 3 + k] };
}

/** Looks up the nearest place of `to` for each element of `geometry`, neighbours after each other. */
function forEachNearest(geometry: Geometry, tree: NearestTree, reach: number, work: Work, look: (i: number, hit: Hit) => void): void {
  const { count, at } = placesOf(geometry);
  const hit = newHit();
  const order = visitingOrder(count, at);
  for (let turn = 0; turn < count; turn++) {
    tick(work, turn, count);
    const i = order ? order[turn] : turn;
    look(i, tree.nearest(at(i, 0), at(i, 1), at(i, 2), hit, reach));
  }
}

export interface DistanceOptions {
  /** Metres; elements further away get this as their distance. 0: however far. */
  reach: number;
  /** Also the nearest place, as `nearest`. */
  place: boolean;
}

/**
 * Writes `distance` (metres) of every point, vertex or copy to the nearest place of another geometry: to its points, the whole length of its
 * curves, or its faces. With `place` the place itself, as `nearest`.
 * @throws RangeError when there is nothing to be near to.
 */
export function distanceTo(geometry: Geometry, to: Geometry, { reach, place }: DistanceOptions, work: Work): Geometry {
  const tree = treeOf(to, work);
  const { count, carrier } = placesOf(geometry);
  const distance = new Float32Array(count);
  const nearest = new Float32Array(place ? count * 3 : 0);
  forEachNearest(geometry, tree, reach > 0 ? reach : Infinity, work, (i, hit) => {
    distance[i] = hit.distance;
    if (place) nearest.set(hit.place, i * 3);
  });
  return {
    ...geometry,
    attributes: withAttributes(geometry.attributes, {
      distance: { carrier, size: 1, data: distance },
      ...(place && { nearest: { carrier, size: 3, data: nearest } }),
    }),
  };
}

function treeOf(to: Geometry, work: Work): NearestTree {
  const tree = nearestTreeOf(to, work);
  if (!tree.pieces.element.length) throw new RangeError(`There is nothing in "to" to be near to: it is ${to.type} without places.`);
  return tree;
}

export type TransferBy = 'id' | 'index' | 'nearest' | 'face';

/**
 * Takes attributes from another geometry. `nearest`: from its nearest point, interpolated along curves and over faces; `face`: the values of its
 * nearest face; `index`: from the element of the same place in the list; `id`: from the first element whose `id` is the same.
 *
 * @returns the geometry, and by id how many elements found no partner: they keep what they had, or 0.
 * @throws RangeError naming an attribute that is not there, or that is not carried as this way needs.
 */
export function transfer(geometry: Geometry, from: Geometry, names: readonly string[], by: TransferBy, work: Work): { geometry: Geometry; alone: number } {
  const { count, carrier } = placesOf(geometry);
  const searched = by === 'nearest' || by === 'face';
  const tree = searched ? treeOf(from, work) : null;
  const of = tree?.pieces.of ?? from;
  const wanted: readonly Carrier[] = by === 'face' ? ['face'] : [placesOf(of).carrier];
  const taken = names.map((name) => {
    const attribute = of.attributes.get(name);
    if (!attribute) throw new RangeError(`There is no attribute "${name}" in "to"; it has ${[...of.attributes.keys()].join(', ') || 'none'}.`);
    if (!wanted.includes(attribute.carrier))
      throw new RangeError(`"${name}" is a value of each ${attribute.carrier}; taken ${searched ? 'from the nearest' : `by ${by}`} it must be one of each ${wanted[0]}. Carry it over first.`); // prettier-ignore
    return { name, attribute, data: new Float32Array(count * attribute.size) };
  });
  const give = ({ attribute: { size, data: given }, data }: (typeof taken)[number], i: number, source: number): void =>
    data.set(given.subarray(source * size, (source + 1) * size), i * size);
  let alone = 0;
  if (tree)
    forEachNearest(geometry, tree, Infinity, work, (i, hit) => {
      for (const each of taken) {
        if (by === 'face') give(each, i, hit.element);
        else interpolate(each.attribute, tree, hit, each.data, i);
      }
    });
  else if (by === 'id') {
    const partner = new Map<number, number>();
    idsOf(from, '"to"').forEach((id, i) => void (partner.has(id) || partner.set(id, i)));
    const own = taken.map(({ name, attribute }) => {
      const before = geometry.attributes.get(name);
      return before?.carrier === carrier && before.size === attribute.size ? before : null;
    });
    idsOf(geometry, 'what takes').forEach((id, i) => {
      const source = partner.get(id);
      if (source === undefined) alone++;
      taken.forEach((each, k) => {
        const before = own[k];
        if (source !== undefined) give(each, i, source);
        else if (before) give({ ...each, attribute: before }, i, i);
      });
    });
  } else {
    const given = placesOf(from).count;
    if (given !== count) throw new RangeError(`Taken by place in the list both must have as many elements; there are ${count} here and ${given} in "to".`);
    for (const { attribute, data } of taken) data.set(attribute.data);
  }
  const written = taken.map(({ name, attribute, data }): [string, Attribute] => [name, { carrier, size: attribute.size, data }]);
  return { geometry: { ...geometry, attributes: withAttributes(geometry.attributes, Object.fromEntries(written)) }, alone };
}

/** The id of each element. @throws RangeError where they have none. */
function idsOf(geometry: Geometry, where: string): Float32Array {
  const ids = geometry.attributes.get('id');
  if (ids?.carrier !== placesOf(geometry).carrier || ids.size !== 1)
    throw new RangeError(
      `There is no id on the ${geometry.type === 'mesh' ? 'vertices' : 'elements'} of ${where}; write one with Set attribute, or take from the nearest place.`,
    );
  return ids.data;
}

function interpolate({ size, data: from }: Attribute, { pieces }: NearestTree, { piece, weights }: Hit, to: Float32Array, i: number): void {
  const corners = pieces.perPiece;
  for (let k = 0; k < size; k++) {
    let sum = 0;
    for (let j = 0; j < corners; j++) sum += weights[j] * from[pieces.points[piece * corners + j] * size + k];
    to[i * size + k] = sum;
  }
}
