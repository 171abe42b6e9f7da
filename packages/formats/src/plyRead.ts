import { makeMesh, makePoints, type Attribute, type GeometrySet } from '@filaxis/core';
import { meshOfCorners } from './cornerValues.js';
import { FormatError } from './errors.js';
import { countedFrom, farOrigin, originAttribute } from './far.js';
import { GrowingFloats, GrowingIndices } from './growing.js';
import { Statements, type Progress } from './statements.js';

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
    if (words[0] === 'format') format = words[1] ?? '';
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
function bodyReader(bytes: Uint8Array, format: string, from: number, lines: number, progress?: Progress): (type: string) => number {
  return format === 'ascii' ? textNumbers(bytes.subarray(from), lines, progress) : binaryNumbers(bytes, from, format === 'binary_little_endian', progress);
}

function textNumbers(bytes: Uint8Array, lines: number, progress?: Progress): () => number {
  const all = new Statements(bytes, progress);
  let [word, read] = [0, 0];
  return () => {
    if (word >= all.count) {
      if (!all.next()) throw new FormatError(`The body ends after ${read} numbers; more were announced.`);
      word = 0;
    }
    const value = all.number(word);
    if (!Number.isFinite(value)) throw new FormatError(`Line ${lines + all.line}: "${all.word(word).slice(0, 30)}" is no number.`);
    word++;
    read++;
    return value;
  };
}

/** Numbers that are read between two words about how far it is. */
const between = 1 << 16;

function binaryNumbers(bytes: Uint8Array, from: number, little: boolean, progress?: Progress): (type: string) => number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = from;
  let left = between;
  return (type) => {
    if (--left === 0) {
      left = between;
      progress?.(at / bytes.length);
    }
    const size = sizes[type];
    if (at + size > bytes.length) throw new FormatError(`Byte ${at}: the file ends here; more was announced.`);
    const place = at;
    at += size;
    if (type === 'float' || type === 'float32') return view.getFloat32(place, little);
    if (size === 8) return view.getFloat64(place, little);
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

/** What the faces of a file say: corners, and UVs at them where all faces have them. */
class Faces {
  readonly corners = new GrowingIndices();
  readonly starts = new GrowingIndices();
  readonly texcoord = new GrowingFloats();

  constructor() {
    this.starts.push(0);
  }

  /** Takes a list of a face. */
  list(name: string, size: number, next: () => number, points: number): void {
    const vertices = /^vertex_ind/.test(name);
    const uvs = name === 'texcoord';
    for (let k = 0; k < size; k++) {
      const value = next();
      if (vertices && !(Number.isInteger(value) && value >= 0 && value < points))
        throw new FormatError(`Face ${this.starts.length - 1} names vertex ${value}; there are ${points}.`);
      if (vertices) this.corners.push(value);
      if (uvs) this.texcoord.push(value);
    }
    if (vertices && size) this.starts.push(this.corners.length);
  }
}

/**
 * A mesh, or points, from PLY, text or binary. Elements other than vertices and faces are passed over.
 * @throws FormatError with the line or byte of what cannot be read, and what `progress` throws.
 */
export function readPly(bytes: Uint8Array, progress?: Progress): GeometrySet {
  const { format, elements, from, lines } = readHeader(bytes);
  // Each number takes a byte or more, so that what is announced is bounded by what is there.
  for (const { name, count, properties } of elements)
    if (count * Math.max(1, properties.length) > bytes.length)
      throw new FormatError(`The heading announces ${count} of "${name}"; the file has only ${bytes.length} bytes.`);
  const next = bodyReader(bytes, format, from, lines, progress);
  const values = new Map<string, Float64Array>();
  const points = elements.find(({ name }) => name === 'vertex')?.count ?? 0;
  const faces = new Faces();
  for (const { name, count, properties } of elements) {
    const columns = properties.map((property) => (name === 'vertex' && !property.list ? new Float64Array(count) : null));
    columns.forEach((column, p) => void (column && values.set(properties[p].name, column)));
    const skipped = new Faces();
    for (let i = 0; i < count; i++)
      properties.forEach((property, p) => {
        if (property.list)
          (name === 'face' ? faces : skipped).list(name === 'face' ? property.name : '', next(property.list), () => next(property.type), points);
        else {
          const value = next(property.type);
          if (columns[p]) columns[p][i] = value;
        }
      });
  }
  return geometryOf(values, elements.find(({ name }) => name === 'vertex')?.properties ?? [], faces);
}

function geometryOf(values: ReadonlyMap<string, Float64Array>, properties: readonly Property[], faces: Faces): GeometrySet {
  const rows = (names: readonly string[]): Float64Array | null => {
    const lists = names.map((name) => values.get(name));
    if (lists.some((list) => !list)) return null;
    const out = new Float64Array(lists[0]!.length * names.length);
    lists.forEach((list, k) => {
      for (let i = 0; i < list!.length; i++) out[i * names.length + k] = list![i];
    });
    return out;
  };
  const places = rows(['x', 'y', 'z']);
  if (!places) throw new FormatError('The vertices have no x, y and z.');
  const origin = farOrigin(places);
  const positions = countedFrom(places, origin);
  const attributes = new Map<string, Attribute>(originAttribute(origin));
  const carrier = faces.corners.length ? 'corner' : 'point';
  const put = (name: string, size: number, data: Float64Array | null): void =>
    void (data && attributes.set(name, { carrier, size, data: Float32Array.from(data) }));
  put('normal', 3, rows(['nx', 'ny', 'nz']));
  put('uv', 2, rows(['s', 't']) ?? rows(['u', 'v']) ?? rows(['texture_u', 'texture_v']));
  const alpha = values.has('alpha');
  const colour = rows(['red', 'green', 'blue', ...(alpha ? ['alpha'] : [])]);
  // Bytes stand for 0 to 1.
  const bytes = /^u?(char|int8)$/.test(properties.find(({ name }) => name === 'red')?.type ?? '');
  put('colour', alpha ? 4 : 3, colour && bytes ? colour.map((value) => value / 255) : colour);
  for (const [name, size] of ownProperties(properties)) put(name, size, rows(size === 1 ? [name] : Array.from({ length: size }, (_, k) => `${name}_${k}`)));
  if (!faces.corners.length) return positions.length ? { points: makePoints(positions, attributes) } : {};
  const [corners, faceStarts] = [faces.corners.data.slice(), faces.starts.data.slice()];
  const uv = faces.texcoord.length === corners.length * 2 && !attributes.has('uv') ? Float32Array.from(faces.texcoord.data) : null;
  if (!uv) return { mesh: makeMesh({ positions, corners, faceStarts, attributes }) };
  return {
    mesh: meshOfCorners({
      places: positions,
      corners,
      faceStarts,
      pointAttributes: attributes,
      cornerAttributes: new Map([['uv', { carrier: 'corner', size: 2, data: uv }]]),
    }),
  };
}
