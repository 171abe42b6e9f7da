import type { Attribute, Attributes, GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';
import type { WriteOptions } from './writeOptions.js';

/** Whether a value is a set of UVs. */
export const isUvSet = ({ size, carrier }: Attribute): boolean => size === 2 && carrier === 'corner';

/** Whether a value can go out as a vertex colour. */
export const canBeColour = ({ size, carrier }: Attribute): boolean => [1, 3, 4].includes(size) && carrier !== 'whole' && carrier !== 'copy';

/** Results whose `uv` is the UV set, and whose `colour` the value, that were chosen, wherever they have them. @throws FormatError when none has. */
export function withChosenValues(sets: readonly GeometrySet[], { uv, colour }: WriteOptions): readonly GeometrySet[] {
  let given = sets;
  if (uv && uv !== 'uv') {
    given = mapped(given, uv, isUvSet, 'UV set', (attributes, chosen) => {
      const before = attributes.get('uv');
      attributes.set('uv', chosen);
      if (before) attributes.set(uv, before);
      else attributes.delete(uv);
    }); // prettier-ignore
  }
  if (colour && colour !== 'colour') {
    given = mapped(given, colour, canBeColour, 'value of 1, 3 or 4 numbers', (attributes, chosen) =>
      attributes.set('colour', chosen.size === 1 ? { ...chosen, size: 3, data: grey(chosen.data) } : chosen),
    );
  }
  return given;
}

const grey = (data: Float32Array): Float32Array => Float32Array.from({ length: data.length * 3 }, (_, i) => data[Math.floor(i / 3)]);

/** @throws FormatError when the value that was chosen as colour is one of faces, for formats that have colours of vertices alone. */
export function requireVertexColour({ mesh, copies }: GeometrySet, { colour }: WriteOptions): void {
  const meshes = [mesh, ...(copies?.objects ?? [])];
  if (colour && meshes.some((each) => each?.attributes.get('colour')?.carrier === 'face'))
    throw new FormatError(`"${colour}" is a value of faces; this format has colours of vertices alone. Carry it to the corners first.`, 'no-colour');
}

/** Changes the attributes of every part of results that has a fitting one of that name. */
function mapped(
  sets: readonly GeometrySet[],
  name: string,
  fits: (attribute: Attribute) => boolean,
  what: string,
  change: (attributes: Map<string, Attribute>, chosen: Attribute) => void,
): GeometrySet[] {
  let found = 0;
  const known = new Set<string>();
  const changed = <T extends { attributes: Attributes }>(part: T): T => {
    for (const [other, attribute] of part.attributes) if (fits(attribute)) known.add(other);
    const chosen = part.attributes.get(name);
    if (!chosen || !fits(chosen)) return part;
    found++;
    const attributes = new Map(part.attributes);
    change(attributes, chosen);
    return { ...part, attributes };
  };
  const result = sets.map(({ mesh, curves, points, copies }): GeometrySet => ({
    ...(mesh && { mesh: changed(mesh) }),
    ...(curves && { curves: changed(curves) }),
    ...(points && { points: changed(points) }),
    ...(copies && { copies: { ...copies, objects: copies.objects.map(changed) } }),
  }));
  if (!found) throw new FormatError(`The result has no ${what} "${name}"; it has ${[...known].sort().join(', ') || 'none'}.`);
  return result;
}
