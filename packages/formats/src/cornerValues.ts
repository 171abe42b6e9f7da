import { gatherRows, makeMesh, type Attribute, type Material, type Mesh } from '@filaxis/core';

/** A mesh as files have it that give values for the corners of faces. */
export interface CornerMesh {
  /** 3 numbers a point. */
  readonly places: Float32Array;
  /** The point of each corner. */
  readonly corners: Uint32Array;
  readonly faceStarts: Uint32Array;
  /** Values for each corner. */
  readonly cornerAttributes: ReadonlyMap<string, Attribute>;
  /** Values for each point, which all its vertices have. */
  readonly pointAttributes?: ReadonlyMap<string, Attribute>;
  /** Values of faces and of the whole. */
  readonly otherAttributes?: ReadonlyMap<string, Attribute>;
  readonly materials?: readonly Material[];
}

/** Gives corners vertices: those of one point that have the same values share one. */
export function meshOfCorners(given: CornerMesh): Mesh {
  const { corners } = given;
  const own = [...given.cornerAttributes.values()];
  const same = (a: number, b: number): boolean =>
    own.every(({ size, data }) => {
      for (let k = 0; k < size; k++) if (data[a * size + k] !== data[b * size + k]) return false;
      return true;
    });
  // The vertices of a point, newest first; 1 more than their numbers, 0: none.
  const newest = new Uint32Array(given.places.length / 3);
  const before: number[] = [];
  /** The corner that each vertex was first met at. */
  const first: number[] = [];
  const order = corners.map((point, i) => {
    for (let v = newest[point]; v; v = before[v - 1]) if (same(first[v - 1], i)) return v - 1;
    before.push(newest[point]);
    newest[point] = first.push(i);
    return first.length - 1;
  });
  const pointOf = Uint32Array.from(first, (corner) => corners[corner]);
  const attributes = new Map<string, Attribute>(given.otherAttributes);
  for (const [name, attribute] of given.pointAttributes ?? [])
    attributes.set(name, attribute.carrier === 'whole' ? attribute : { ...attribute, carrier: 'corner', data: gatherRows(attribute, pointOf) });
  for (const [name, attribute] of given.cornerAttributes) attributes.set(name, { ...attribute, data: gatherRows(attribute, first) });
  return makeMesh({
    positions: gatherRows({ carrier: 'corner', size: 3, data: given.places }, pointOf),
    pointOf,
    pointCount: given.places.length / 3,
    corners: order,
    faceStarts: given.faceStarts,
    attributes,
    materials: given.materials ?? [],
  });
}
