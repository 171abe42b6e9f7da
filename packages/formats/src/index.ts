import type { GeometrySet } from '@filaxis/core';
import { withoutCopies } from '@filaxis/core';
import { readCsvCurves, writeCsv } from './csv.js';
import { FormatError } from './errors.js';
import { readGeoJson } from './geojson.js';
import { readGlb, readGltf, type Beside } from './gltfRead.js';
import { writeGlb, writeGltf, type WriteOptions } from './gltfWrite.js';
import { readJson, writeJson } from './json.js';
import { readObj, writeMtl, writeObj } from './obj.js';
import { readPly, writePly } from './ply.js';
import { isStl, readStl, writeStl } from './stl.js';
import { readSvgCurves } from './svg/read.js';
import { writeSvg } from './svg/write.js';
import { asWritten } from './units.js';
import { writeUsda } from './usda.js';

export { packDocument, unpackDocument, type PackedDocument } from './pack.js';
export { FormatError } from './errors.js';
export { trianglesByMaterial, type WriteOptions } from './gltfWrite.js';
export { toPlain } from './json.js';
export { inMetres, metres, standUp, type Unit } from './units.js';
export { isFar } from './far.js';
export type { Beside } from './gltfRead.js';

/** Text in UTF-8, without its byte order mark, or in UTF-16 where the mark says so; text that is neither is taken as Latin-1, which every text is. */
export function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}
const decode = textOf;
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

type Writer = (set: GeometrySet, name: string, options: WriteOptions) => Promise<Uint8Array> | Uint8Array;

/** How each format is written, given a result in the unit and with the up axis that are wanted. */
const formatWriters: Readonly<Record<string, Writer>> = {
  '.glb': writeGlb,
  '.gltf': async (set, name, options) => encode(await writeGltf(set, name, options)),
  '.obj': (set, name) => writeObj(withoutCopies(set), name),
  '.stl': (set) => writeStl(withoutCopies(set)),
  '.ply': (set) => writePly(withoutCopies(set)),
  '.usda': (set, name, options) => encode(writeUsda(options.expanded ? withoutCopies(set) : set, name, options)),
  '.svg': (set) => encode(writeSvg(set)),
  '.csv': (set) => encode(writeCsv(set)),
  '.json': (set, _name, options) => encode(writeJson(options.expanded ? withoutCopies(set) : set)),
};

/** Formats that results can be written in, by file ending. Copies become a mesh where the format has no instances. */
export const writers = Object.fromEntries(
  Object.entries(formatWriters).map(([ending, write]) => [
    ending,
    async (set: GeometrySet, name: string, options: WriteOptions = {}) => write(asWritten(set, options), name, options),
  ]),
) as Readonly<Record<string, (set: GeometrySet, name: string, options?: WriteOptions) => Promise<Uint8Array>>>;

/** A file that belongs beside a written one, by the ending of the latter: its own ending and text; null when none is needed. */
export const companions: Readonly<Record<string, { readonly ending: string; readonly write: (set: GeometrySet) => string | null }>> = {
  '.obj': { ending: '.mtl', write: (set) => writeMtl(withoutCopies(set)) },
};

/** Formats that can hold a result, of those that can be written. */
export function fittingEndings(set: GeometrySet): string[] {
  const curves = !!set.curves?.positions.length;
  const faces = !!set.mesh?.corners.length || !!set.copies?.object.length;
  const points = !!set.points?.positions.length;
  const fits: Readonly<Record<string, boolean>> = { '.obj': faces || curves, '.stl': faces, '.ply': faces || points, '.svg': curves, '.csv': curves || points };
  return Object.keys(writers).filter((ending) => fits[ending] ?? (curves || faces || points));
}

/** Formats that can be read, by file ending. */
export const readers: Readonly<Record<string, (bytes: Uint8Array, beside?: Beside) => Promise<GeometrySet>>> = {
  '.glb': readGlb,
  '.gltf': async (bytes, beside) => readGltf(decode(bytes), beside),
  '.obj': async (bytes) => readObj(decode(bytes)),
  '.stl': async (bytes) => readStl(bytes),
  '.ply': async (bytes) => readPly(bytes),
  '.json': async (bytes) => readJson(decode(bytes)),
  '.csv': async (bytes) => ({ curves: readCsvCurves(decode(bytes)) }),
  '.svg': async (bytes) => ({ curves: readSvgCurves(decode(bytes)) }),
  '.geojson': async (bytes) => ({ curves: readGeoJson(decode(bytes)) }),
};

/** The ending of a file name, lower case, with its dot; empty when it has none. */
export const endingOf = (name: string): string => /\.[^./\\]+$/.exec(name)?.[0].toLowerCase() ?? '';

/** Endings of files that hold curves, and of files that hold meshes. */
export const curveFileEndings = ['.svg', '.csv', '.obj', '.geojson', '.glb', '.gltf'] as const;
export const meshFileEndings = ['.glb', '.gltf', '.obj', '.stl', '.ply'] as const;
/** Both. */
export const importEndings: readonly string[] = [...new Set([...curveFileEndings, ...meshFileEndings])];

/** Bytes that an import may have. */
export const largestImport = 64 * 1024 * 1024;

/**
 * What is in an imported file. What it is is told by what it begins with, so that a wrong name does no harm: GLB, STL, PLY, SVG, glTF, GeoJSON, OBJ, else CSV; `name`
 * decides where the beginning leaves it open.
 * @throws FormatError with the line, byte or element of what cannot be read, or when there are neither lines nor faces.
 */
export async function readImport(bytes: Uint8Array, name = '', beside?: Beside): Promise<GeometrySet> {
  if (bytes.length > largestImport) throw new FormatError(`The file has ${bytes.length} bytes; the limit is ${largestImport}.`);
  const set = await readSniffed(bytes, name, beside);
  if (!Object.values(set).some((geometry) => ('positions' in geometry ? geometry.positions.length : geometry.object.length)))
    throw new FormatError('The file has no lines, faces or points, so there is nothing to import.');
  return set;
}

/** What begins a line of an OBJ file: its statements (Wavefront's specification; common practice). */
const objWords = new Set(['v', 'vn', 'vt', 'vp', 'f', 'l', 'p', 'o', 'g', 's', 'mtllib', 'usemtl', 'cstype', 'deg', 'curv', 'surf', 'bmat', 'parm', 'step']);

/** The first lines that say something: not empty, no remark. Looked for a line at a time, however long a heading is. */
function* meaningfulLines(text: string): Generator<string> {
  for (let at = 0; at < text.length;) {
    let end = at;
    while (end < text.length && text[end] !== '\n' && text[end] !== '\r') end++;
    const line = text.slice(at, Math.min(end, at + 4096)).trim();
    if (line && !line.startsWith('#')) yield line;
    at = end + 1;
  }
}

/** Whether a text is OBJ: by its first meaningful line, or by its name where that alone leaves it open. */
function looksLikeObj(text: string, name: string): boolean {
  for (const line of meaningfulLines(text)) {
    const word = line.slice(0, 20).split(' ', 1)[0].split('\t', 1)[0];
    return objWords.has(word) || (endingOf(name) === '.obj' && !line.includes(',') && !line.includes(';'));
  }
  return false;
}

async function readSniffed(bytes: Uint8Array, name: string, beside?: Beside): Promise<GeometrySet> {
  const head = String.fromCharCode(...bytes.subarray(0, 4));
  if (head === 'glTF') return readGlb(bytes);
  if (isStl(bytes)) return readStl(bytes);
  if (/^ply\s/.test(head)) return readPly(bytes);
  const text = textOf(bytes);
  const begins = text.slice(0, 1024).trimStart()[0];
  if (begins === '<') return { curves: readSvgCurves(text) };
  if (begins === '{') {
    const json = parsedJson(text);
    return 'asset' in json && json['type'] !== 'Feature' && json['type'] !== 'FeatureCollection' ? readGltf(text, beside) : { curves: readGeoJson(text) };
  }
  return looksLikeObj(text, name) ? readObj(text) : { curves: readCsvCurves(text) };
}

/** @throws FormatError when the text is no JSON object. */
function parsedJson(text: string): Record<string, unknown> {
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch (error) {
    throw new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
}
