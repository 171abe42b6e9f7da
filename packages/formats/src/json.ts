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
import { meshOfCorners } from './cornerValues.js';
import { FormatError } from './errors.js';
import { cornerPoints, pointPlaces } from './meshPieces.js';
import { TextSink } from './textSink.js';
import type { Out } from './writeOptions.js';

/** Items that are written one after another. */
class Row {
  constructor(
    readonly length: number,
    readonly write: (sink: TextSink, i: number) => void,
  ) {}
}
/** Numbers of 32 bits, with as many digits as it takes for them to come back. */
const row = (numbers: Float32Array): Row => new Row(numbers.length, (sink, i) => sink.number(numbers[i]));
const wholes = (numbers: ArrayLike<number>): Row => new Row(numbers.length, (sink, i) => sink.whole(numbers[i]));

type Plain = string | number | Row | readonly Plain[] | { readonly [key: string]: Plain | undefined };

const plainAttribute = ({ carrier, size, data }: Attribute): Plain => ({ carrier, size, data: row(data) });

const plainAttributes = (attributes: Attributes): Plain => Object.fromEntries([...attributes].map(([name, attribute]) => [name, plainAttribute(attribute)]));

/** A result in the plain JSON form: only the kinds that are there; corner attributes written out for every corner. */
function plainSet({ curves, mesh, points, copies }: GeometrySet): Plain {
  return {
    curves: curves && {
      positions: row(curves.positions),
      starts: wholes(curves.starts),
      closed: wholes(curves.closed),
      kind: new Row(curves.kind.length, (sink, c) => sink.text(`"${curveKinds[curves.kind[c]]}"`)),
      attributes: plainAttributes(curves.attributes),
    },
    mesh: mesh && plainMesh(mesh),
    points: points && { positions: row(points.positions), attributes: plainAttributes(points.attributes) },
    copies: copies && {
      objects: copies.objects.map((object) => ({ mesh: plainMesh(object) })),
      object: wholes(copies.object),
      matrices: row(copies.matrices),
      attributes: plainAttributes(copies.attributes),
    },
  };
}

function plainMesh(mesh: Mesh): Plain {
  const { corners } = mesh;
  const plain = (attribute: Attribute): Plain => {
    if (attribute.carrier !== 'corner') return plainAttribute(attribute);
    const { size, data } = attribute;
    return { carrier: 'corner', size, data: new Row(corners.length * size, (sink, i) => sink.number(data[corners[Math.floor(i / size)] * size + (i % size)])) };
  };
  return {
    positions: row(pointPlaces(mesh)),
    faceStarts: new Row(faceCount(mesh) + 1, (sink, f) => sink.whole(faceStart(mesh, f))),
    corners: wholes(cornerPoints(mesh)),
    attributes: Object.fromEntries([...mesh.attributes].map(([name, attribute]) => [name, plain(attribute)])),
    materials: mesh.materials.length ? (mesh.materials as unknown as Plain) : undefined,
  };
}

/** Writes what `JSON.stringify` would, a piece at a time. */
function writePlain(value: Plain, sink: TextSink): void {
  if (value instanceof Row) {
    sink.text('[');
    for (let i = 0; i < value.length; i++) {
      if (i) sink.text(',');
      value.write(sink, i);
    }
    sink.text(']');
  } else if (Array.isArray(value)) {
    sink.text('[');
    (value as readonly Plain[]).forEach((item, i) => {
      if (i) sink.text(',');
      writePlain(item, sink);
    });
    sink.text(']');
  } else if (typeof value === 'object') {
    const entries = Object.entries(value).filter((entry): entry is [string, Plain] => entry[1] !== undefined);
    sink.text('{');
    entries.forEach(([key, item], i) => {
      sink.text(`${i ? ',' : ''}${JSON.stringify(key)}:`);
      writePlain(item, sink);
    });
    sink.text('}');
  } else sink.text(JSON.stringify(value));
}

/** A result in the plain JSON form. */
export function writeJson(set: GeometrySet, out: Out): void {
  const sink = new TextSink(out);
  writePlain(plainSet(set), sink);
  sink.line('');
  sink.end();
}

const numbersAt = (value: unknown, where: string): number[] => {
  if (!Array.isArray(value)) throw new FormatError(`${where}: this must be a list of numbers.`);
  const bad = value.findIndex((n) => typeof n !== 'number' || !Number.isFinite(n));
  if (bad >= 0) throw new FormatError(`${where}/${bad}: ${JSON.stringify(value[bad])} is not a finite number.`);
  return value as number[];
};

export const objectAt = (value: unknown, where: string): Record<string, unknown> => {
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

export const listAt = (value: unknown, where: string): unknown[] => {
  if (!Array.isArray(value)) throw new FormatError(`${where}: this must be a list.`);
  return value as unknown[];
};

export function readMaterials(value: unknown, where: string): Material[] {
  return listAt(value ?? [], where).map((raw, i) => {
    const material = objectAt(raw, `${where}/${i}`);
    for (const key of ['roughness', 'metalness', 'opacity'] as const) {
      const number = material[key];
      if (typeof number !== 'number' || !(number >= 0 && number <= 1))
        throw new FormatError(`${where}/${i}/${key}: ${JSON.stringify(number)} is no number from 0 to 1.`);
    }
    if (typeof material['colour'] !== 'string' || !/^#[0-9a-f]{6}$/i.test(material['colour']))
      throw new FormatError(`${where}/${i}/colour: ${JSON.stringify(material['colour'])} is no colour such as #a2323f.`);
    if (![undefined, true, false].includes(material['doubleSided'] as boolean | undefined))
      throw new FormatError(`${where}/${i}/doubleSided: ${JSON.stringify(material['doubleSided'])} is neither true nor false.`);
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
  return meshOfCorners({
    places: Float32Array.from(points),
    corners: Uint32Array.from(corners),
    faceStarts,
    cornerAttributes: new Map(own),
    otherAttributes: new Map([...attributes].filter(([, { carrier }]) => carrier !== 'corner')),
    materials,
  });
}
