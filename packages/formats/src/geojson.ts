import type { Curves } from '@filaxis/core';
import { FormatError } from './errors.js';
import { curvesOf } from './far.js';

/** Points that a file may have. */
const mostPoints = 5_000_000;

/**
 * Lines and outlines of GeoJSON (RFC 7946): LineString, MultiLineString, Polygon (each ring a closed curve), MultiPolygon, alone, in features, or in
 * collections. A position [x, y, h] lies on the ground at x, −y with its height upwards: (x, h, −y). Points are passed over.
 * @throws FormatError with the JSON Pointer of what cannot be read.
 */
export function readGeoJson(text: string): Curves {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
  const lists: number[][][] = [];
  const closed: boolean[] = [];
  let total = 0;
  const line = (value: unknown, at: string, ring: boolean): void => {
    if (!Array.isArray(value)) throw new FormatError(`${at}: this must be a list of positions.`);
    const points = value.map((place: unknown, i) => {
      if (!Array.isArray(place) || place.length < 2 || !place.slice(0, 3).every((n) => typeof n === 'number' && Number.isFinite(n)))
        throw new FormatError(`${at}/${i}: ${JSON.stringify(place)?.slice(0, 60)} is no position; it is two or three finite numbers.`);
      const [x, y, h = 0] = place as number[];
      return [x, h, -y];
    });
    total += points.length;
    if (total > mostPoints) throw new FormatError(`${at}: more than ${mostPoints} points.`);
    const last = points.length - 1;
    const round = last > 2 && points[0].every((n, k) => n === points[last][k]);
    lists.push(round ? points.slice(0, -1) : points);
    closed.push(round || (ring && points.length > 2));
  };
  const each = (value: unknown, at: string, visit: (item: unknown, at: string) => void): void => {
    if (!Array.isArray(value)) throw new FormatError(`${at}: this must be a list.`);
    value.forEach((item, i) => visit(item, `${at}/${i}`));
  };
  const visit = (value: unknown, at: string, depth: number): void => {
    if (depth > 32) throw new FormatError(`${at}: collections are nested more than 32 deep.`);
    const { type, coordinates, geometry, geometries, features } = (value ?? {}) as Record<string, unknown>;
    const here = `${at}/coordinates`;
    if (type === 'FeatureCollection') each(features, `${at}/features`, (item, place) => visit(item, place, depth + 1));
    else if (type === 'GeometryCollection') each(geometries, `${at}/geometries`, (item, place) => visit(item, place, depth + 1));
    else if (type === 'Feature') {
      if (geometry !== null) visit(geometry, `${at}/geometry`, depth + 1);
    } else if (type === 'LineString') line(coordinates, here, false);
    else if (type === 'MultiLineString') each(coordinates, here, (item, place) => line(item, place, false));
    else if (type === 'Polygon') each(coordinates, here, (item, place) => line(item, place, true));
    else if (type === 'MultiPolygon') each(coordinates, here, (polygon, place) => each(polygon, place, (ring, where) => line(ring, where, true)));
    else if (type !== 'Point' && type !== 'MultiPoint') throw new FormatError(`${at}/type: ${JSON.stringify(type)} is no kind of GeoJSON object.`);
  };
  visit(data, '', 0);
  if (!lists.length) throw new FormatError('The file has no lines or outlines.');
  return curvesOf(lists, closed);
}
