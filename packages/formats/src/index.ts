import type { Curves, GeometrySet } from '@filaxis/core';
import { affineFrom, transformGeometry } from '@filaxis/core';
import { readCsvCurves } from './csv.js';
import { FormatError } from './errors.js';
import { readGlb, writeGlb } from './gltf.js';
import { readJson, writeJson } from './json.js';
import { readObj, writeObj } from './obj.js';
import { readSvgCurves } from './svg.js';

export { packDocument, unpackDocument, type PackedDocument } from './pack.js';
export { FormatError } from './errors.js';
export { trianglesByMaterial } from './gltf.js';
export { toPlain } from './json.js';

const decode = (bytes: Uint8Array): string => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new FormatError('The file is no text in UTF-8.');
  }
};
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Formats that results can be written in, by file ending. */
export const writers: Readonly<Record<string, (set: GeometrySet, name: string) => Promise<Uint8Array>>> = {
  '.glb': writeGlb,
  '.obj': async (set, name) => encode(writeObj(set, name)),
  '.json': async (set) => encode(writeJson(set)),
};

/** Formats that can be read, by file ending. */
export const readers: Readonly<Record<string, (bytes: Uint8Array) => Promise<GeometrySet>>> = {
  '.glb': readGlb,
  '.obj': async (bytes) => readObj(decode(bytes)),
  '.json': async (bytes) => readJson(decode(bytes)),
  '.csv': async (bytes) => ({ curves: readCsvCurves(decode(bytes)) }),
  '.svg': async (bytes) => ({ curves: readSvgCurves(decode(bytes)) }),
};

/** The ending of a file name, lower case, with its dot; empty when it has none. */
export const endingOf = (name: string): string => /\.[^./\\]+$/.exec(name)?.[0].toLowerCase() ?? '';

/** Endings that `lay.importCurves` accepts. */
export const curveFileEndings = ['.svg', '.csv'] as const;

/** Bytes that an import may have. */
export const largestImport = 64 * 1024 * 1024;

/**
 * Curves of an imported file. SVG is told from CSV by what it begins with, so that a wrong name does no harm.
 * @throws FormatError with the line or the element of what cannot be read.
 */
export function readCurvesFile(bytes: Uint8Array): Curves {
  if (bytes.length > largestImport) throw new FormatError(`The file has ${bytes.length} bytes; the limit is ${largestImport}.`);
  const text = decode(bytes);
  return /^\s*</.test(text.replace(/^\uFEFF/, '')) ? readSvgCurves(text) : readCsvCurves(text);
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
