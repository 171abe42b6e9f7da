import type { GeometrySet } from '@filaxis/core';
import { affineFrom, transformGeometry, withoutCopies } from '@filaxis/core';
import { readCsvCurves, writeCsv } from './csv.js';
import { FormatError } from './errors.js';
import { readGeoJson } from './geojson.js';
import { readGlb, readGltf } from './gltfRead.js';
import { writeGlb, writeGltf, type WriteOptions } from './gltfWrite.js';
import { readJson, writeJson } from './json.js';
import { readObj, writeMtl, writeObj } from './obj.js';
import { readPly, writePly } from './ply.js';
import { isStl, readStl, writeStl } from './stl.js';
import { readSvgCurves, writeSvg } from './svg.js';
import { writeUsda } from './usda.js';

export { packDocument, unpackDocument, type PackedDocument } from './pack.js';
export { FormatError } from './errors.js';
export { trianglesByMaterial, type WriteOptions } from './gltfWrite.js';
export { toPlain } from './json.js';

const decode = (bytes: Uint8Array): string => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new FormatError('The file is no text in UTF-8.');
  }
};
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Formats that results can be written in, by file ending. Copies become a mesh where the format has no instances. */
export const writers: Readonly<Record<string, (set: GeometrySet, name: string, options?: WriteOptions) => Promise<Uint8Array>>> = {
  '.glb': writeGlb,
  '.gltf': async (set, name, options) => encode(await writeGltf(set, name, options)),
  '.obj': async (set, name) => encode(writeObj(withoutCopies(set), name)),
  '.stl': async (set) => writeStl(withoutCopies(set)),
  '.ply': async (set) => encode(writePly(withoutCopies(set))),
  '.usda': async (set, name, options) => encode(writeUsda(options?.expanded ? withoutCopies(set) : set, name)),
  '.svg': async (set) => encode(writeSvg(set)),
  '.csv': async (set) => encode(writeCsv(set)),
  '.json': async (set, _name, options) => encode(writeJson(options?.expanded ? withoutCopies(set) : set)),
};

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
export const readers: Readonly<Record<string, (bytes: Uint8Array) => Promise<GeometrySet>>> = {
  '.glb': readGlb,
  '.gltf': async (bytes) => readGltf(decode(bytes)),
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
 * What is in an imported file. What it is is told by what it begins with, so that a wrong name does no harm: GLB, STL, PLY, SVG, glTF, GeoJSON, OBJ, else CSV.
 * @throws FormatError with the line, byte or element of what cannot be read, or when there are neither lines nor faces.
 */
export async function readImport(bytes: Uint8Array): Promise<GeometrySet> {
  if (bytes.length > largestImport) throw new FormatError(`The file has ${bytes.length} bytes; the limit is ${largestImport}.`);
  const set = await readSniffed(bytes);
  if (!set.curves?.positions.length && !set.mesh?.corners.length) throw new FormatError('The file has no lines and no faces, so there is nothing to import.');
  return set;
}

async function readSniffed(bytes: Uint8Array): Promise<GeometrySet> {
  const head = String.fromCharCode(...bytes.subarray(0, 4));
  if (head === 'glTF') return readGlb(bytes);
  if (isStl(bytes)) return readStl(bytes);
  if (/^ply\s/.test(head)) return readPly(bytes);
  const text = decode(bytes).replace(/^\uFEFF/, '');
  if (/^\s*</.test(text)) return { curves: readSvgCurves(text) };
  if (/^\s*\{/.test(text)) return /"asset"\s*:/.test(text) && !/"type"\s*:\s*"Feature/.test(text) ? readGltf(text) : { curves: readGeoJson(text) };
  return /^(#.*|\s*)*\s*(v|o|g|mtllib)\s/.test(text.slice(0, 4096)) ? readObj(text) : { curves: readCsvCurves(text) };
}

/** Turns a result whose up axis is Z so that Y points up. */
export function standUp(set: GeometrySet): GeometrySet {
  const turn = affineFrom({ move: [0, 0, 0], turn: [-90, 0, 0], size: [1, 1, 1], pivot: [0, 0, 0] });
  return {
    ...(set.curves && { curves: transformGeometry(set.curves, turn) }),
    ...(set.points && { points: transformGeometry(set.points, turn) }),
    ...(set.mesh && { mesh: transformGeometry(set.mesh, turn) }),
    ...(set.copies && { copies: transformGeometry(set.copies, turn) }),
  };
}
