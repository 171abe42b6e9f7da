import {
  currentEdition,
  curveKinds,
  makeCopies,
  makeCurves,
  makeMesh,
  makePoints,
  type Attribute,
  type Attributes,
  type Carrier,
  type Geometry,
  type GeometrySet,
  type Mesh,
} from '@filaxis/core';
import { FormatError } from './errors.js';
import { listAt, objectAt, readMaterials } from './json.js';

/**
 * A result at one moment, number for number as it was: what the node Frozen keeps. `FLXF`, the length of a header in bytes, the header as JSON, and the arrays that it names
 * one after another, each from a multiple of 4 bytes on; all little-endian. In the header an array stands as `{"array": kind, "at": byte, "length": numbers}`.
 */
export const frozenMark = 'FLXF';

const kinds = { f32: Float32Array, u32: Uint32Array, u8: Uint8Array } as const;
type Kind = keyof typeof kinds;
type Numbers = Float32Array | Uint32Array | Uint8Array;

const kindOf = (numbers: Numbers): Kind => (numbers instanceof Float32Array ? 'f32' : numbers instanceof Uint32Array ? 'u32' : 'u8');
const padded = (bytes: number): number => Math.ceil(bytes / 4) * 4;

/** An object with its keys in the order of letters, so that it does not matter who made it. */
const inOrder = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) : value;

/** A geometry as bytes: the same geometry gives the same bytes. */
export function writeFrozen(geometry: Geometry): Uint8Array<ArrayBuffer> {
  const arrays: Numbers[] = [];
  let end = 0;
  const header = new TextEncoder().encode(
    JSON.stringify({ ...geometry, edition: currentEdition }, (_, value: unknown) => {
      if (value instanceof Map) return Object.fromEntries(value as Map<string, unknown>);
      if (!(value instanceof Float32Array || value instanceof Uint32Array || value instanceof Uint8Array)) return inOrder(value);
      const at = end;
      arrays.push(value);
      end += padded(value.byteLength);
      return { array: kindOf(value), at, length: value.length };
    }),
  );
  const from = padded(8 + header.length);
  const bytes = new Uint8Array(from + end);
  bytes.set(new TextEncoder().encode(frozenMark));
  new DataView(bytes.buffer).setUint32(4, header.length, true);
  bytes.set(header, 8);
  let at = from;
  for (const { buffer, byteOffset, byteLength } of arrays) {
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += padded(byteLength);
  }
  return bytes;
}

/** @throws FormatError with the place in the header of what cannot be read. */
export function readFrozen(bytes: Uint8Array): GeometrySet {
  const size = bytes.length < 8 ? Infinity : new DataView(bytes.buffer, bytes.byteOffset).getUint32(4, true);
  if (8 + size > bytes.length) throw new FormatError('The frozen result breaks off within its header.');
  let header: Record<string, unknown>;
  try {
    header = objectAt(JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + size))), '');
  } catch (error) {
    throw new FormatError(`The header of the frozen result is no JSON: ${(error as Error).message}.`);
  }
  return new FrozenReader(bytes, padded(8 + size), Number(header['edition'] ?? 1)).set(header);
}

class FrozenReader {
  constructor(
    private readonly bytes: Uint8Array,
    private readonly from: number,
    private readonly edition: number,
  ) {}

  set(header: Record<string, unknown>): GeometrySet {
    switch (header['type']) {
      case 'curves': {
        const kind = this.numbers(header['kind'], 'u8', '/kind');
        const wrong = kind.findIndex((code) => code >= curveKinds.length);
        if (wrong >= 0) throw new FormatError(`/kind: ${kind[wrong]} of curve ${wrong} is no kind of curve.`);
        const [positions, starts] = [this.numbers(header['positions'], 'f32', '/positions'), this.numbers(header['starts'], 'u32', '/starts')];
        return {
          curves: makeCurves({ positions, starts, kind, closed: this.numbers(header['closed'], 'u8', '/closed'), attributes: this.attributes(header) }),
        };
      }
      case 'points':
        return { points: makePoints(this.numbers(header['positions'], 'f32', '/positions'), this.attributes(header)) };
      case 'mesh':
        return { mesh: this.mesh(header, '') };
      case 'copies': {
        const objects = listAt(header['objects'], '/objects').map((object, i) => this.mesh(objectAt(object, `/objects/${i}`), `/objects/${i}`));
        const object = this.numbers(header['object'], 'u32', '/object');
        const wrong = object.findIndex((which) => which >= objects.length);
        if (wrong >= 0) throw new FormatError(`/object: ${object[wrong]} of copy ${wrong} is none of the ${objects.length} objects.`);
        return { copies: makeCopies(objects, object, this.numbers(header['matrices'], 'f32', '/matrices'), this.attributes(header)) };
      }
      default:
        throw new FormatError(`/type: ${JSON.stringify(header['type'])} is none of curves, points, mesh, copies.`);
    }
  }

  private mesh(header: Record<string, unknown>, where: string): Mesh {
    const { uniform, pointCount } = header;
    if (uniform !== 0 && uniform !== 3 && uniform !== 4) throw new FormatError(`${where}/uniform: ${JSON.stringify(uniform)} is none of 0, 3, 4.`);
    const pointOf = header['pointOf'] === null ? null : this.numbers(header['pointOf'], 'u32', `${where}/pointOf`);
    const positions = this.numbers(header['positions'], 'f32', `${where}/positions`);
    if (!Number.isInteger(pointCount) || (pointCount as number) < 0 || (pointCount as number) > positions.length / 3)
      throw new FormatError(`${where}/pointCount: ${JSON.stringify(pointCount)} is no number of points of ${positions.length / 3} vertices.`);
    return makeMesh({
      positions,
      pointOf,
      pointCount: pointCount as number,
      corners: this.numbers(header['corners'], 'u32', `${where}/corners`),
      uniform,
      faceStarts: header['faceStarts'] === null ? null : this.numbers(header['faceStarts'], 'u32', `${where}/faceStarts`),
      materials: readMaterials(header['materials'], `${where}/materials`),
      attributes: this.numbersOfParts(this.attributes(header, where)),
    });
  }

  /** Before edition 2 Parts wrote the number of connected pieces as `part`, with their `centre`; skins tell wall and caps by that name. */
  private numbersOfParts(attributes: Attributes): Attributes {
    if (this.edition >= 2 || attributes.get('part')?.carrier !== 'face' || !attributes.has('centre')) return attributes;
    return new Map([...attributes].map(([name, each]) => [name === 'part' ? 'body' : name, each]));
  }

  private attributes(header: Record<string, unknown>, where = ''): Attributes {
    const read = ([name, raw]: [string, unknown]): [string, Attribute] => {
      const at = `${where}/attributes/${name}`;
      const { carrier, size, data } = objectAt(raw, at);
      return [name, { carrier: carrier as Carrier, size: Number(size), data: this.numbers(data, 'f32', `${at}/data`) }];
    };
    return new Map(Object.entries(objectAt(header['attributes'], `${where}/attributes`)).map(read));
  }

  private numbers<K extends Kind>(value: unknown, kind: K, where: string): InstanceType<(typeof kinds)[K]> {
    const { array, at, length } = objectAt(value, where) as { array: unknown; at: number; length: number };
    const bytesEach = kinds[kind].BYTES_PER_ELEMENT;
    if (array !== kind) throw new FormatError(`${where}: an array ${kind} is needed here; this is ${JSON.stringify(array)}.`);
    const inside = [at, length].every((number) => Number.isInteger(number) && number >= 0) && this.from + at + length * bytesEach <= this.bytes.length;
    if (!inside || at % 4) throw new FormatError(`${where}: ${JSON.stringify(length)} numbers from byte ${JSON.stringify(at)} on are not in the file.`);
    const start = this.bytes.byteOffset + this.from + at;
    const Numbers = kinds[kind] as unknown as new (bytes: ArrayBufferLike) => InstanceType<(typeof kinds)[K]>;
    return new Numbers(this.bytes.buffer.slice(start, start + length * bytesEach));
  }
}
