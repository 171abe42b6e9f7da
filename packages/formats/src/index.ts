import type { GeometrySet } from '@filaxis/core';
import { nodeDefinitions } from '@filaxis/core';
import { readCsvCurves } from './csv.js';
import { FormatError } from './errors.js';
import { frozenMark, readFrozen } from './frozen.js';
import { readGeoJson } from './geojson.js';
import { readGlb, readGltf, type Beside } from './gltfRead.js';
import { readJson } from './json.js';
import { readObj } from './objRead.js';
import { readPly } from './plyRead.js';
import { isStl, readStl } from './stl.js';
import { readSvgCurves } from './svg/read.js';
import { requireSound } from './sound.js';
import { Statements, type Progress } from './statements.js';
import { plainBytes, textOf } from './text.js';

export { companions, fittingEndings, kindsIn, writers, writeTo, type Content } from './write.js';
export { packDocument, packFiles, unpackDocument, type PackedDocument } from './pack.js';
export { framesEnding, frameWriter, type FrameWriter } from './frames.js';
export type { FrameSpan } from './usda.js';
export { writeFrozen } from './frozen.js';
export { canBeColour, isUvSet } from './chosenValues.js';
export { csvHeading } from './csv.js';
export { FormatError, type WriteCure } from './errors.js';
export { trianglesByMaterial } from './meshPieces.js';
export { backsAreSeen } from './openSurface.js';
export type { Out, WriteOptions } from './writeOptions.js';
export { inMetres, metres, standUp, type Unit } from './units.js';
export { textOf } from './text.js';
export { buffersBeside, withBuffersInside } from './gltfInside.js';
export type { Progress } from './statements.js';
export { isFar, keepsFar } from './far.js';
export type { Beside } from './gltfRead.js';

type Reader = (bytes: Uint8Array, beside?: Beside, progress?: Progress) => Promise<GeometrySet>;

/** How each format is read, by file ending. */
const formatReaders: Readonly<Record<string, Reader>> = {
  '.glb': readGlb,
  '.gltf': async (bytes, beside) => readGltf(textOf(bytes), beside),
  '.obj': async (bytes, _beside, progress) => readObj(plainBytes(bytes), progress),
  '.stl': async (bytes) => readStl(bytes),
  '.ply': async (bytes, _beside, progress) => readPly(bytes, progress),
  '.json': async (bytes) => readJson(textOf(bytes)),
  '.csv': async (bytes) => ({ curves: readCsvCurves(textOf(bytes)) }),
  '.svg': async (bytes) => ({ curves: readSvgCurves(textOf(bytes)) }),
  '.geojson': async (bytes) => ({ curves: readGeoJson(textOf(bytes)) }),
};

/**
 * Formats that can be read, by file ending. `progress` is told how far reading is where that takes long, and may throw to stop it.
 * @throws FormatError with the place of what cannot be read.
 */
export const readers = Object.fromEntries(
  Object.entries(formatReaders).map(([ending, read]): [string, Reader] => [ending, async (...given) => requireSound(await read(...given))]),
) as Readonly<Record<string, Reader>>;

/** The ending of a file name, lower case, with its dot; empty when it has none. */
export const endingOf = (name: string): string => /\.[^./\\]+$/.exec(name)?.[0].toLowerCase() ?? '';

/** Endings of files that some node may find something in. */
export const importEndings: readonly string[] = [
  ...new Set(
    [...nodeDefinitions.values()].flatMap(({ settings }) => Object.values(settings).flatMap((setting) => (setting.kind === 'asset' ? setting.endings : []))),
  ),
];

/** Bytes that an import may have. */
export const largestImport = 64 * 1024 * 1024;

/**
 * What is in an imported file. What it is is told by what it begins with, so that a wrong name does no harm: GLB, STL, PLY, SVG, glTF, GeoJSON, OBJ, else CSV; `name`
 * decides where the beginning leaves it open.
 * @throws FormatError with the line, byte or element of what cannot be read, or when there are neither lines nor faces.
 */
export async function readImport(bytes: Uint8Array, name = '', beside?: Beside, progress?: Progress): Promise<GeometrySet> {
  if (bytes.length > largestImport) throw new FormatError(`The file has ${bytes.length} bytes; the limit is ${largestImport}.`);
  const set = requireSound(await readSniffed(bytes, name, beside, progress));
  if (!Object.values(set).some((geometry) => ('positions' in geometry ? geometry.positions.length : geometry.object.length)))
    throw new FormatError('The file has no lines, faces or points, so there is nothing to import.');
  return set;
}

/** What begins a line of an OBJ file: its statements (Wavefront's specification; common practice). */
const objWords = new Set(['v', 'vn', 'vt', 'vp', 'f', 'l', 'p', 'o', 'g', 's', 'mtllib', 'usemtl', 'cstype', 'deg', 'curv', 'surf', 'bmat', 'parm', 'step']);

/** Whether a text is OBJ: by its first line that says something, or by its name where that alone leaves it open. */
function looksLikeObj(bytes: Uint8Array, name: string): boolean {
  const all = new Statements(bytes);
  if (!all.next()) return false;
  return objWords.has(all.word(0)) || (endingOf(name) === '.obj' && !/[,;]/.test(all.from(0)));
}

async function readSniffed(bytes: Uint8Array, name: string, beside?: Beside, progress?: Progress): Promise<GeometrySet> {
  const head = String.fromCharCode(...bytes.subarray(0, 4));
  if (head === 'glTF') return readGlb(bytes);
  if (head === frozenMark) return readFrozen(bytes);
  if (isStl(bytes)) return readStl(bytes);
  if (/^ply\s/.test(head)) return readPly(bytes, progress);
  const plain = plainBytes(bytes);
  const begins = textOf(plain.subarray(0, 1024)).trimStart()[0];
  if (begins === '<') return { curves: readSvgCurves(textOf(bytes)) };
  if (begins === '{') {
    const text = textOf(bytes);
    const json = parsedJson(text);
    return 'asset' in json && json['type'] !== 'Feature' && json['type'] !== 'FeatureCollection' ? readGltf(text, beside) : { curves: readGeoJson(text) };
  }
  return looksLikeObj(plain, name) ? readObj(plain, progress) : { curves: readCsvCurves(textOf(bytes)) };
}

/** @throws FormatError when the text is no JSON object. */
function parsedJson(text: string): Record<string, unknown> {
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch (error) {
    throw new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
}
