import { makeCurves, type Attribute, type Attributes, type Curves, type GeometrySet } from '@filaxis/core';

/** A share of the extent, and metres, that 32-bit positions may be off by. */
const shareOff = 1e-5;
const metresOff = 1e-3;

/** The whole's value that says from where places are counted, when that is not the origin of the file: what stands there is at the file's place minus this. */
export const originName = 'origin';

/**
 * Where to count places from, so that 32-bit positions (24 binary digits) hold them: map coordinates in metres run into millions, where neighbouring ones are a quarter of a metre
 * apart. Null where they hold them as they are. Whole numbers that 32 bits hold exactly.
 */
export function farOrigin(places: ArrayLike<number>): [number, number, number] | null {
  if (!places.length) return null;
  const origin: [number, number, number] = [0, 0, 0];
  let extent = 0;
  let furthest = 0;
  const [least, most] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]]; // prettier-ignore
  for (let i = 0; i < places.length; i++) {
    least[i % 3] = Math.min(least[i % 3], places[i]);
    most[i % 3] = Math.max(most[i % 3], places[i]);
  }
  for (let k = 0; k < 3; k++) {
    extent = Math.max(extent, most[k] - least[k]);
    furthest = Math.max(furthest, Math.abs(least[k]), Math.abs(most[k]));
  }
  const grain = furthest * 2 ** -23;
  if (!(grain > metresOff && grain > shareOff * extent)) return null;
  for (let k = 0; k < 3; k++) {
    const middle = (least[k] + most[k]) / 2;
    const step = 2 ** Math.max(0, Math.ceil(Math.log2(Math.abs(middle) || 1)) - 23);
    origin[k] = Math.round(middle / step) * step;
  }
  return origin;
}

/** Places counted from an origin, in 32 bits. */
export const countedFrom = (places: ArrayLike<number>, origin: readonly number[] | null): Float32Array =>
  Float32Array.from({ length: places.length }, (_, i) => places[i] - (origin ? origin[i % 3] : 0));

/** The attribute that keeps the origin; none where there is none. */
export const originAttribute = (origin: readonly number[] | null): [string, Attribute][] =>
  origin ? [[originName, { carrier: 'whole', size: 3, data: Float32Array.from(origin) }]] : [];

/** From where a geometry's places are counted. */
export function originOf(attributes: Attributes): readonly [number, number, number] {
  const known = attributes.get(originName);
  return known?.carrier === 'whole' && known.size === 3 ? [known.data[0], known.data[1], known.data[2]] : [0, 0, 0];
}

/** Whether a format says where far places are: all but STL, whose numbers have 32 bits and nothing beside them. JSON says it by its `origin`. */
export const keepsFar = (ending: string): boolean => ending !== '.stl';

/** Whether any part of a result is counted from elsewhere. */
export const isFar = (set: GeometrySet): boolean =>
  Object.values(set).some(({ attributes }: { attributes: Attributes }) => originOf(attributes).some((value) => value !== 0));

/** Straight curves through places in 64 bits, near the origin however far away the file has them. */
export function curvesOf(lists: readonly (readonly (readonly number[])[])[], closed: readonly boolean[]): Curves {
  const starts = new Uint32Array(lists.length + 1);
  lists.forEach((list, c) => (starts[c + 1] = starts[c] + list.length));
  const places = new Float64Array(starts[lists.length] * 3);
  let at = 0;
  for (const list of lists) for (const point of list) for (let k = 0; k < 3; k++) places[at++] = point[k];
  const origin = farOrigin(places);
  return makeCurves({
    positions: countedFrom(places, origin),
    starts,
    closed: Uint8Array.from(closed, (each) => (each ? 1 : 0)),
    attributes: new Map(originAttribute(origin)),
  });
}
