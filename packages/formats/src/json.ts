import {
  curveKinds,
  faceCount,
  faceStart,
  makeCurves,
  makeMesh,
  makePoints,
  type Attribute,
  type Attributes,
  type Carrier,
  type GeometrySet,
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
 * Reads the plain JSON form (curves, points and meshes; corner attributes give every corner its own vertex).
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
  if (data['mesh'] !== undefined) set.mesh = readMesh(objectAt(data['mesh'], '/mesh'));
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

function readMesh(mesh: Record<string, unknown>): Mesh {
  const points = numbersAt(mesh['positions'], '/mesh/positions');
  const corners = numbersAt(mesh['corners'], '/mesh/corners');
  const faceStarts = Uint32Array.from(numbersAt(mesh['faceStarts'], '/mesh/faceStarts'));
  const pointCount = points.length / 3;
  const wrong = corners.findIndex((corner) => !Number.isInteger(corner) || corner < 0 || corner >= pointCount);
  if (wrong >= 0) throw new FormatError(`/mesh/corners/${wrong}: ${corners[wrong]} is none of the ${pointCount} points.`);
  const attributes = readAttributes(mesh['attributes'], '/mesh/attributes');
  const split = [...attributes.values()].some((attribute) => attribute.carrier === 'corner');
  if (!split) return makeMesh({ positions: Float32Array.from(points), corners: Uint32Array.from(corners), faceStarts, attributes });
  const positions = new Float32Array(corners.length * 3);
  corners.forEach((point, i) => positions.set([points[point * 3], points[point * 3 + 1], points[point * 3 + 2]], i * 3));
  return makeMesh({ positions, pointOf: Uint32Array.from(corners), pointCount, corners: Uint32Array.from(corners, (_, i) => i), faceStarts, attributes });
}
