import { type Attribute, type Attributes, type Carrier, type GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';
import { originOf } from './far.js';
import { pointPlaces, pointValues, smallPolygons, type Polygons } from './meshPieces.js';
import { TextSink } from './textSink.js';
import type { Out, WriteOptions } from './writeOptions.js';

/** A column of the table of vertices: numbers of 32 bits, or bytes for 0 to 1. */
interface Column {
  readonly names: readonly string[];
  readonly type: 'float' | 'double' | 'uchar';
  readonly write: (lines: TextSink, row: number, k: number) => void;
}

const floats = (names: readonly string[], data: Float32Array): Column => ({
  names,
  type: 'float',
  write: (lines, row, k) => lines.number(data[row * names.length + k]),
});

/** Columns of places: 64-bit ones where they are counted from elsewhere. */
function placeColumn(places: Float32Array, origin: readonly number[]): Column {
  if (origin.every((value) => value === 0)) return floats(['x', 'y', 'z'], places);
  return { names: ['x', 'y', 'z'], type: 'double', write: (lines, row, k) => lines.text(String(Number((places[row * 3 + k] + origin[k]).toPrecision(12)))) };
}

const byte = (value: number): number => Math.round(Math.min(1, Math.max(0, value)) * 255);
const space = 32;

/** Attributes that are written in columns of their own, or mean nothing outside. */
const notByName: ReadonlySet<string> = new Set(['normal', 'tangent', 'uv', 'colour', 'handleIn', 'handleOut']);

/** What each row is known to have: normals, UVs, colours (bytes, as readers take them), and other values by their names, those of several numbers told apart by their place. */
function valueColumns(attributes: Attributes, carrier: Carrier, valuesOf: (attribute: Attribute) => Float32Array | null): Column[] {
  const columns: Column[] = [];
  const add = (name: string, size: number, column: (data: Float32Array) => Column): void => {
    const attribute = attributes.get(name);
    const data = attribute?.carrier === carrier && attribute.size === size ? valuesOf(attribute) : null;
    if (data) columns.push(column(data));
  };
  add('normal', 3, (data) => floats(['nx', 'ny', 'nz'], data));
  add('uv', 2, (data) => floats(['s', 't'], data));
  for (const names of [['red', 'green', 'blue'], ['red', 'green', 'blue', 'alpha']])
    add('colour', names.length, (data) => ({ names, type: 'uchar', write: (lines, row, k) => lines.whole(byte(data[row * names.length + k])) })); // prettier-ignore
  for (const [name, { size }] of attributes)
    if (!notByName.has(name)) add(name, size, (data) => floats(size === 1 ? [name] : Array.from({ length: size }, (_, k) => `${name}_${k}`), data));
  return columns;
}

/**
 * A result's mesh, or its points, as PLY text (Turk 1994; from memory): vertices with normals, UVs (s, t), colours and their other values, faces of up to four corners as they are.
 * Where UVs or normals differ about a point it is several vertices; `welded` it is one, with its UVs in the faces (`texcoord`, common practice) and without what
 * it has several of. @throws FormatError when it has neither.
 */
export function writePly({ mesh, points }: GeometrySet, { welded }: WriteOptions, out: Out): void {
  const faces = !!mesh?.corners.length;
  if (!faces && !points) throw new FormatError('There is nothing to write: PLY holds faces and points, and the result has neither.', 'format');
  const polygons = faces ? smallPolygons(mesh) : null;
  const one = faces && !!welded;
  const source = faces ? mesh : points!;
  const places = one ? pointPlaces(mesh) : source.positions;
  const columns = [
    placeColumn(places, originOf(source.attributes)),
    ...valueColumns(source.attributes, faces ? 'corner' : 'point', (attribute) => (one ? pointValues(mesh, attribute) : attribute.data)),
  ];
  const uv = one && !columns.some(({ names }) => names[0] === 's') ? mesh.attributes.get('uv')?.data : undefined;
  const lines = new TextSink(out);
  lines.all(['ply', 'format ascii 1.0', 'comment Filaxis', `element vertex ${places.length / 3}`]);
  for (const { names, type } of columns) for (const name of names) lines.line(`property ${type} ${name}`);
  if (polygons) lines.all([`element face ${polygons.starts.length - 1}`, 'property list uchar int vertex_indices', ...(uv ? ['property list uchar float texcoord'] : [])]); // prettier-ignore
  lines.line('end_header');
  for (let v = 0; v < places.length / 3; v++) {
    columns.forEach(({ names, write }, c) => {
      for (let k = 0; k < names.length; k++) {
        if (c || k) lines.sign(space);
        write(lines, v, k);
      }
    });
    lines.endLine();
  }
  if (polygons) plyFaces(polygons, one ? mesh.pointOf : null, uv, lines);
  lines.end();
}

function plyFaces({ corners, starts }: Polygons, pointOf: Uint32Array | null, uv: Float32Array | undefined, lines: TextSink): void {
  for (let f = 0; f + 1 < starts.length; f++) {
    const size = starts[f + 1] - starts[f];
    lines.whole(size);
    for (let i = starts[f]; i < starts[f + 1]; i++) {
      lines.sign(space);
      lines.whole(pointOf ? pointOf[corners[i]] : corners[i]);
    }
    if (uv) {
      lines.text(` ${size * 2}`);
      for (let i = starts[f]; i < starts[f + 1]; i++) {
        lines.sign(space);
        lines.numbers(uv, corners[i] * 2, 2, space);
      }
    }
    lines.endLine();
  }
}
