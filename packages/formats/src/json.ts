import {
  curveKinds,
  faceCount,
  faceStart,
  makeCopies,
  makeCurves,
  makeMesh,
  makePoints,
  plainMaterial,
  type Attribute,
  type Attributes,
  type Carrier,
  type Copies,
  type GeometrySet,
  type Material,
  type Mesh,
} from '@filaxis/core';
import { FormatError } from './errors.js';

interface JsonAttribute {
  carrier: Carrier;
  size: number;
  data: number[];
}

const plain = ({ carrier, size, data }: Attribute): JsonAttribute => ({ carrier, size, data: Array.from(data) });

const plainAttributes = (attributes: Attributes): Record<string, JsonAttribute> =>
  Object.fromEntries([...attributes].map(([name, attribute]) => [name, plain(attribute)]));

/** A result in the plain JSON form: only the kinds that are there; corner attributes written out for every corner. */
export function toPlain(set: GeometrySet): Record<string, unknown> {
  const result: Record<string, unknown> = {};
  if (set.curves)
    result['curves'] = {
      positions: Array.from(set.curves.positions),
      starts: Array.from(set.curves.starts),
      closed: Array.from(set.curves.closed),
      kind: Array.from(set.curves.kind, (code) => curveKinds[code]),
      attributes: plainAttributes(set.curves.attributes),
    };
  if (set.mesh) result['mesh'] = plainMesh(set.mesh);
  if (set.points) result['points'] = { positions: Array.from(set.points.positions), attributes: plainAttributes(set.points.attributes) };
  if (set.copies)
    result['copies'] = {
      objects: set.copies.objects.map((mesh) => ({ mesh: plainMesh(mesh) })),
      object: Array.from(set.copies.object),
      matrices: Array.from(set.copies.matrices),
      attributes: plainAttributes(set.copies.attributes),
    };
  return result;
}

function plainMesh(mesh: Mesh): Record<string, unknown> {
  const { pointOf, pointCount, corners } = mesh;
  const positions = new Array<number>(pointCount * 3).fill(0);
  for (let v = 0; v < mesh.positions.length / 3; v++) for (let k = 0; k < 3; k++) positions[(pointOf ? pointOf[v] : v) * 3 + k] = mesh.positions[v * 3 + k];
  const attributes: Record<string, JsonAttribute> = {};
  for (const [name, attribute] of mesh.attributes) {
    if (attribute.carrier !== 'corner') {
      attributes[name] = plain(attribute);
      continue;
    }
    const { size } = attribute;
    const data = new Array<number>(corners.length * size);
    for (let i = 0; i < corners.length; i++) for (let k = 0; k < size; k++) data[i * size + k] = attribute.data[corners[i] * size + k];
    attributes[name] = { carrier: 'corner', size, data };
  }
  return {
    positions,
    faceStarts: Array.from({ length: faceCount(mesh) + 1 }, (_, f) => faceStart(mesh, f)),
    corners: Array.from(corners, (v) => (pointOf ? pointOf[v] : v)),
    attributes,
    ...(mesh.materials.length && { materials: mesh.materials }),
  };
}

export const writeJson = (set: GeometrySet): string => `${JSON.stringify(toPlain(set))}\n`;

const numbersAt = (value: unknown, where: string): number[] => {
  if (!Array.isArray(value)) throw new FormatError(`${where}: this must be a list of numbers.`);
  const bad = value.findIndex((n) => typeof n !== 'number' || !Number.isFinite(n));
  if (bad >= 0) throw new FormatError(`${where}/${bad}: ${JSON.stringify(value[bad])} is not a finite number.`);
  return value as number[];
};

const objectAt = (value: unknown, where: string): Record<string, unknown> => {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new FormatError(`${where}: this must be an object.`);
  return value as Record<string, unknown>;
};

/**
 * Reads the plain JSON form: curves, points, meshes with their materials, copies with their objects. Corner attributes give every corner its own vertex, shared by corners of
 * one point that have the same values.
 * @throws FormatError with the JSON Pointer of what cannot be read.
 */
export function readJson(text: string): GeometrySet {
  let data: Record<string, unknown>;
  try {
    data = objectAt(JSON.parse(text), '');
  } catch (error) {
    throw error instanceof FormatError ? error : new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
  const set: { -readonly [K in keyof GeometrySet]: GeometrySet[K] } = {};
  if (data['curves'] !== undefined) {
    const curves = objectAt(data['curves'], '/curves');
    const starts = Uint32Array.from(numbersAt(curves['starts'], '/curves/starts'));
    const kinds = (curves['kind'] ?? []) as unknown[];
    const kind = Uint8Array.from({ length: Math.max(0, starts.length - 1) }, (_, c) => {
      const code = curveKinds.indexOf((kinds[c] ?? 'straight') as (typeof curveKinds)[number]);
      if (code < 0) throw new FormatError(`/curves/kind/${c}: ${JSON.stringify(kinds[c])} is none of ${curveKinds.join(', ')}.`);
      return code;
    });
    const closed = curves['closed'] === undefined ? undefined : Uint8Array.from(numbersAt(curves['closed'], '/curves/closed'));
    set.curves = makeCurves({
      positions: Float32Array.from(numbersAt(curves['positions'], '/curves/positions')),
      starts,
      closed,
      kind,
      attributes: readAttributes(curves['attributes'], '/curves/attributes'),
    });
  }
  if (data['points'] !== undefined) {
    const points = objectAt(data['points'], '/points');
    set.points = makePoints(Float32Array.from(numbersAt(points['positions'], '/points/positions')), readAttributes(points['attributes'], '/points/attributes'));
  }
  if (data['mesh'] !== undefined) set.mesh = readMesh(objectAt(data['mesh'], '/mesh'), '/mesh');
  if (data['copies'] !== undefined) set.copies = readCopies(objectAt(data['copies'], '/copies'));
  return set;
}

function readAttributes(value: unknown, where: string): Attributes {
  const result = new Map<string, Attribute>();
  if (value === undefined) return result;
  for (const [name, raw] of Object.entries(objectAt(value, where))) {
    const attribute = objectAt(raw, `${where}/${name}`);
    result.set(name, {
      carrier: attribute['carrier'] as Carrier,
      size: Number(attribute['size']),
      data: Float32Array.from(numbersAt(attribute['data'], `${where}/${name}/data`)),
    });
  }
  return result;
}

const listAt = (value: unknown, where: string): unknown[] => {
  if (!Array.isArray(value)) throw new FormatError(`${where}: this must be a list.`);
  return value as unknown[];
};

function readMaterials(value: unknown, where: string): Material[] {
  return listAt(value ?? [], where).map((raw, i) => {
    const material = objectAt(raw, `${where}/${i}`);
    for (const key of ['roughness', 'metalness', 'opacity'] as const) {
      const number = material[key];
      if (typeof number !== 'number' || !(number >= 0 && number <= 1))
        throw new FormatError(`${where}/${i}/${key}: ${JSON.stringify(number)} is no number from 0 to 1.`);
    }
    if (typeof material['colour'] !== 'string' || !/^#[0-9a-f]{6}$/i.test(material['colour']))
      throw new FormatError(`${where}/${i}/colour: ${JSON.stringify(material['colour'])} is no colour such as #a2323f.`);
    return { ...plainMaterial, ...material, name: String(material['name'] ?? 'material') };
  });
}

function readCopies(copies: Record<string, unknown>): Copies {
  const objects = listAt(copies['objects'], '/copies/objects').map((object, i) => {
    const where = `/copies/objects/${i}`;
    return readMesh(objectAt(objectAt(object, where)['mesh'], `${where}/mesh`), `${where}/mesh`);
  });
  const object = numbersAt(copies['object'], '/copies/object');
  const wrong = object.findIndex((which) => !Number.isInteger(which) || which < 0 || which >= objects.length);
  if (wrong >= 0) throw new FormatError(`/copies/object/${wrong}: ${object[wrong]} is none of the ${objects.length} objects.`);
  const matrices = Float32Array.from(numbersAt(copies['matrices'], '/copies/matrices'));
  return makeCopies(objects, Uint32Array.from(object), matrices, readAttributes(copies['attributes'], '/copies/attributes'));
}

function readMesh(mesh: Record<string, unknown>, where: string): Mesh {
  const points = numbersAt(mesh['positions'], `${where}/positions`);
  const corners = numbersAt(mesh['corners'], `${where}/corners`);
  const faceStarts = Uint32Array.from(numbersAt(mesh['faceStarts'], `${where}/faceStarts`));
  const pointCount = points.length / 3;
  const wrong = corners.findIndex((corner) => !Number.isInteger(corner) || corner < 0 || corner >= pointCount);
  if (wrong >= 0) throw new FormatError(`${where}/corners/${wrong}: ${corners[wrong]} is none of the ${pointCount} points.`);
  const attributes = readAttributes(mesh['attributes'], `${where}/attributes`);
  const materials = readMaterials(mesh['materials'], `${where}/materials`);
  const named = attributes.get('material')?.data.find((which) => !Number.isInteger(which) || which >= materials.length);
  if (named !== undefined) throw new FormatError(`${where}/attributes/material: ${named} is none of the ${materials.length} materials.`);
  const own = [...attributes].filter(([, { carrier }]) => carrier === 'corner');
  if (!own.length) return makeMesh({ positions: Float32Array.from(points), corners: Uint32Array.from(corners), faceStarts, attributes, materials });
  for (const [name, { size, data }] of own)
    if (data.length !== corners.length * size)
      throw new FormatError(
        `${where}/attributes/${name}/data: it has ${data.length} numbers; ${corners.length} corners of ${size} need ${corners.length * size}.`,
      );
  const vertexOf = new Map<string, number>();
  const first: number[] = [];
  const order = Uint32Array.from(corners, (point, i) => {
    const key = `${point}:${own.map(([, { size, data }]) => data.subarray(i * size, i * size + size).join(' ')).join('/')}`;
    let vertex = vertexOf.get(key);
    if (vertex === undefined) {
      vertexOf.set(key, (vertex = first.length));
      first.push(i);
    }
    return vertex;
  });
  const positions = new Float32Array(first.length * 3);
  first.forEach((corner, v) => positions.set([0, 1, 2].map((k) => points[corners[corner] * 3 + k]), v * 3)); // prettier-ignore
  const shared = new Map(attributes);
  for (const [name, { carrier, size, data }] of own)
    shared.set(name, {
      carrier,
      size,
      data: Float32Array.from({ length: first.length * size }, (_, k) => data[first[Math.floor(k / size)] * size + (k % size)]),
    });
  const pointOf = Uint32Array.from(first, (corner) => corners[corner]);
  return makeMesh({ positions, pointOf, pointCount, corners: order, faceStarts, attributes: shared, materials });
}
