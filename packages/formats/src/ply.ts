import { faceStart, makeMesh, makePoints, triangulate, type Attribute, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';
import { countedFrom, farOrigin, originAttribute } from './far.js';
import { TextSink } from './textSink.js';

/** Numbers as text that come back as the same 32-bit number. */
const number = (value: number): string => String(Number(value.toPrecision(9)));

/**
 * A result's mesh, or its points, as PLY text (Turk 1994; from memory): vertices with normals and UVs (s, t), faces of up to four corners as they are. @throws FormatError when it has
 * neither.
 */
export function writePly({ mesh, points }: GeometrySet): Uint8Array {
  const polygons = mesh ? polygonsOf(mesh) : [];
  const faces = polygons.length;
  const positions = faces ? mesh!.positions : points?.positions;
  if (!positions?.length) throw new FormatError('There is nothing to write: PLY holds faces and points, and the result has neither.');
  const attributes = (faces ? mesh! : points!).attributes;
  const columns: { names: readonly string[]; data: Float32Array }[] = [{ names: ['x', 'y', 'z'], data: positions }];
  const normal = attributes.get('normal');
  if (normal?.size === 3) columns.push({ names: ['nx', 'ny', 'nz'], data: normal.data });
  const uv = faces ? attributes.get('uv') : undefined;
  if (uv) columns.push({ names: ['s', 't'], data: uv.data });
  const carrier = faces ? 'corner' : 'point';
  // What else the vertices know goes out as properties of its own name; several numbers are told apart by their place.
  for (const [name, attribute] of attributes)
    if (attribute.carrier === carrier && !['normal', 'tangent', 'uv', 'handleIn', 'handleOut'].includes(name))
      columns.push({ names: attribute.size === 1 ? [name] : Array.from({ length: attribute.size }, (_, k) => `${name}_${k}`), data: attribute.data });
  const lines = new TextSink();
  lines.all(['ply', 'format ascii 1.0', 'comment Filaxis', `element vertex ${positions.length / 3}`]);
  for (const { names } of columns) for (const name of names) lines.line(`property float ${name}`);
  if (faces) lines.all([`element face ${faces}`, 'property list uchar int vertex_indices']);
  lines.line('end_header');
  for (let v = 0; v < positions.length / 3; v++)
    lines.line(columns.map(({ names, data }) => names.map((_, k) => number(data[v * names.length + k])).join(' ')).join(' '));
  for (const corners of polygons) lines.line(`${corners.length} ${corners.join(' ')}`);
  return lines.bytes();
}

/** Triangles and quads as they are; larger faces as triangles, since many readers leave them out. */
function polygonsOf(mesh: Mesh): Uint32Array[] {
  const { indices, faceOf } = triangulate(mesh);
  const polygons: Uint32Array[] = [];
  for (let t = 0; t < faceOf.length; t++) {
    const [from, to] = [faceStart(mesh, faceOf[t]), faceStart(mesh, faceOf[t] + 1)];
    if (to - from > 4) polygons.push(indices.subarray(t * 3, t * 3 + 3));
    else if (t === 0 || faceOf[t] !== faceOf[t - 1]) polygons.push(mesh.corners.subarray(from, to));
  }
  return polygons;
}

const sizes: Readonly<Record<string, number>> = { char: 1, int8: 1, uchar: 1, uint8: 1, short: 2, int16: 2, ushort: 2, uint16: 2, int: 4, int32: 4, uint: 4, uint32: 4, float: 4, float32: 4, double: 8, float64: 8 }; // prettier-ignore

interface Property {
  readonly name: string;
  readonly type: string;
  /** Type of the count, for lists. */
  readonly list?: string;
}
interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}

function readHeader(bytes: Uint8Array): { format: string; elements: Element[]; from: number; lines: number } {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65536));
  const end = /\nend_header\r?\n/.exec(head);
  if (!/^ply\r?\n/.test(head)) throw new FormatError('Line 1: this is not PLY (it does not begin with "ply").');
  if (!end) throw new FormatError('The heading has no "end_header" within its first 65,536 bytes.');
  const elements: Element[] = [];
  let format = '';
  const lines = head.slice(0, end.index).split(/\r?\n/);
  lines.forEach((line, at) => {
    const words = line.trim().split(/\s+/);
    const fail = (what: string): never => {
      throw new FormatError(`Line ${at + 1}: ${what}`);
    };
    if (words[0] === 'format') format = words[1];
    else if (words[0] === 'element') {
      const count = Number(words[2]);
      if (!Number.isInteger(count) || count < 0) fail(`"${line.trim().slice(0, 60)}" needs a number of elements.`);
      elements.push({ name: words[1], count, properties: [] });
    } else if (words[0] === 'property') {
      const list = words[1] === 'list';
      const types = list ? [words[2], words[3]] : [words[1]];
      if (!elements.length || types.some((type) => !(type in sizes))) fail(`"${line.trim().slice(0, 60)}" is no property that can be read.`);
      elements[elements.length - 1].properties.push({ name: words[words.length - 1], type: types[types.length - 1], ...(list && { list: types[0] }) });
    }
  });
  if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format)) throw new FormatError(`The format is "${format}"; it must be ascii or binary.`);
  return { format, elements, from: end.index + end[0].length, lines: lines.length + 1 };
}

/** Gives the numbers of the body one after another. */
function bodyReader(bytes: Uint8Array, format: string, from: number, lines: number): (type: string) => number {
  if (format === 'ascii') {
    const words = new TextDecoder().decode(bytes.subarray(from)).split(/\s+/).filter(Boolean);
    let at = 0;
    return () => {
      const value = Number(words[at]);
      if (at >= words.length || !Number.isFinite(value))
        throw new FormatError(
          at >= words.length
            ? `The body ends after ${words.length} numbers; more were announced.`
            : `After line ${lines}: "${words[at].slice(0, 30)}" is no number.`,
        );
      at++;
      return value;
    };
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = format === 'binary_little_endian';
  let at = from;
  return (type) => {
    const size = sizes[type];
    if (at + size > bytes.length) throw new FormatError(`Byte ${at}: the file ends here; more was announced.`);
    const place = at;
    at += size;
    if (/^(float|float32)$/.test(type)) return view.getFloat32(place, little);
    if (/^(double|float64)$/.test(type)) return view.getFloat64(place, little);
    const signed = !type.startsWith('u');
    if (size === 1) return signed ? view.getInt8(place) : view.getUint8(place);
    if (size === 2) return signed ? view.getInt16(place, little) : view.getUint16(place, little);
    return signed ? view.getInt32(place, little) : view.getUint32(place, little);
  };
}

const knownProperties = /^(x|y|z|nx|ny|nz|s|t|u|v|texture_u|texture_v|red|green|blue|alpha)$/;

/** Properties that are none of the usual ones, as attributes with the numbers they have: `flow`, or `flow_0`, `flow_1` … together. */
function ownProperties(properties: readonly Property[]): Map<string, number> {
  const sizes = new Map<string, number>();
  for (const { name, list } of properties) {
    if (list || knownProperties.test(name)) continue;
    const [, stem, place] = /^([a-z][A-Za-z0-9_]*?)_(\d)$/.exec(name) ?? [];
    if (stem !== undefined && Number(place) === (sizes.get(stem) ?? 0)) sizes.set(stem, Number(place) + 1);
    else if (/^[a-z][A-Za-z0-9_]*$/.test(name)) sizes.set(name, 1);
  }
  return sizes;
}

/**
 * A mesh, or points, from PLY, text or binary. Elements other than vertices and faces are passed over.
 * @throws FormatError with the line or byte of what cannot be read.
 */
export function readPly(bytes: Uint8Array): GeometrySet {
  const { format, elements, from, lines } = readHeader(bytes);
  // Each number takes a byte or more, so that what is announced is bounded by what is there.
  for (const { name, count, properties } of elements)
    if (count * Math.max(1, properties.length) > bytes.length)
      throw new FormatError(`The heading announces ${count} of "${name}"; the file has only ${bytes.length} bytes.`);
  const next = bodyReader(bytes, format, from, lines);
  const values = new Map<string, number[]>();
  const corners: number[] = [];
  const faceStarts = [0];
  for (const { name, count, properties } of elements)
    for (let i = 0; i < count; i++)
      for (const property of properties) {
        if (!property.list) {
          const value = next(property.type);
          if (name !== 'vertex') continue;
          const list = values.get(property.name);
          if (list) list.push(value);
          else values.set(property.name, [value]);
          continue;
        }
        const size = next(property.list);
        for (let k = 0; k < size; k++) {
          const value = next(property.type);
          if (name === 'face' && /^vertex_ind/.test(property.name)) corners.push(value);
        }
        if (corners.length > faceStarts[faceStarts.length - 1]) faceStarts.push(corners.length);
      }
  const exact = (names: readonly string[]): Float64Array | null => {
    const lists = names.map((name) => values.get(name));
    if (lists.some((list) => !list)) return null;
    return Float64Array.from({ length: lists[0]!.length * names.length }, (_, i) => lists[i % names.length]![Math.floor(i / names.length)]);
  };
  const rows = (names: readonly string[]): Float32Array | null => {
    const list = exact(names);
    return list && Float32Array.from(list);
  };
  const places = exact(['x', 'y', 'z']);
  if (!places) throw new FormatError('The vertices have no x, y and z.');
  const origin = farOrigin(places);
  const positions = countedFrom(places, origin);
  const attributes = new Map<string, Attribute>(originAttribute(origin));
  const carrier = corners.length ? 'corner' : 'point';
  const normal = rows(['nx', 'ny', 'nz']);
  if (normal) attributes.set('normal', { carrier, size: 3, data: normal });
  const uv = rows(['s', 't']) ?? rows(['u', 'v']) ?? rows(['texture_u', 'texture_v']);
  if (uv) attributes.set('uv', { carrier, size: 2, data: uv });
  const vertexProperties = elements.find(({ name }) => name === 'vertex')!.properties;
  const colour = rows(['red', 'green', 'blue']);
  // Bytes stand for 0 to 1.
  if (colour) attributes.set('colour', { carrier, size: 3, data: /^u?(char|int8)$/.test(vertexProperties.find(({ name }) => name === 'red')!.type) ? colour.map((value) => value / 255) : colour }); // prettier-ignore
  for (const [name, size] of ownProperties(vertexProperties)) {
    const data = rows(size === 1 ? [name] : Array.from({ length: size }, (_, k) => `${name}_${k}`));
    if (data) attributes.set(name, { carrier, size, data });
  }
  if (!corners.length) return positions.length ? { points: makePoints(positions, attributes) } : {};
  return { mesh: makeMesh({ positions, corners: Uint32Array.from(corners), faceStarts: Uint32Array.from(faceStarts), attributes }) };
}
