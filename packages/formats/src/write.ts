import type { GeometrySet } from '@filaxis/core';
import { isEmptyResult, withoutCopies } from '@filaxis/core';
import { requireVertexColour, withChosenValues } from './chosenValues.js';
import { writeCsv } from './csv.js';
import { emptyWriters } from './empty.js';
import { writeGlb, writeGltf } from './gltfWrite.js';
import { writeJson } from './json.js';
import { writeMtl, writeObj } from './objWrite.js';
import { writePly } from './plyWrite.js';
import { writeStl } from './stl.js';
import { writeSvg } from './svg/write.js';
import { gatherPieces } from './textSink.js';
import { asWritten } from './units.js';
import { writeUsda } from './usda.js';
import type { Out, WriteOptions } from './writeOptions.js';

type Writer = (set: GeometrySet, name: string, options: WriteOptions, out: Out) => Promise<void> | void;

const whole = (set: GeometrySet, { expanded }: WriteOptions): GeometrySet => (expanded ? withoutCopies(set) : set);

/** How each format is written, given a result in the unit and with the up axis that are wanted. */
const formatWriters: Readonly<Record<string, Writer>> = {
  '.glb': (set, name, options, out) => writeGlb(whole(set, options), options.called ?? name, options, out),
  '.gltf': (set, name, options, out) => writeGltf(whole(set, options), options.called ?? name, options, out),
  '.obj': (set, name, options, out) => writeObj(withoutCopies(set), name, options, out),
  '.stl': (set, _name, _options, out) => writeStl(withoutCopies(set), out),
  '.ply': (set, _name, options, out) => writePly(withoutCopies(set), options, out),
  '.usda': (set, name, options, out) => writeUsda(whole(set, options), options.called ?? name, options, out),
  '.svg': (set, _name, _options, out) => writeSvg(set, out),
  '.csv': (set, _name, _options, out) => writeCsv(set, out),
  '.json': (set, _name, options, out) => writeJson(whole(set, options), out),
};

/** A result with the values that are asked for, in the unit and with the up axis of the file. @throws FormatError when it has not what is asked for. */
export function prepared(set: GeometrySet, ending: string, options: WriteOptions): GeometrySet {
  const given = withChosenValues(asWritten(set, options), options);
  if (['.obj', '.ply'].includes(ending)) requireVertexColour(given, options);
  return given;
}

/**
 * Writes a result in the format of an ending, piece by piece. Copies become a mesh where the format has no instances; an empty result a valid file with nothing in it.
 * @throws FormatError when the format cannot hold it; some pieces may be out by then.
 */
export async function writeTo(out: Out, ending: string, set: GeometrySet, name: string, options: WriteOptions = {}): Promise<void> {
  if (isEmptyResult(set) && Object.hasOwn(emptyWriters, ending)) await emptyWriters[ending](options.called ?? name, options, out);
  else await formatWriters[ending](prepared(set, ending, options), name, options, out);
}

/** Formats that results can be written in, by file ending; each gives the whole file. */
export const writers = Object.fromEntries(
  Object.keys(formatWriters).map((ending) => [
    ending,
    async (set: GeometrySet, name: string, options: WriteOptions = {}) => {
      const pieces = gatherPieces();
      await writeTo(pieces.out, ending, set, name, options);
      return pieces.bytes();
    },
  ]),
) as Readonly<Record<string, (set: GeometrySet, name: string, options?: WriteOptions) => Promise<Uint8Array>>>;

/** A file that belongs beside a written one, by the ending of the latter: its own ending and text; null when none is needed. */
export const companions: Readonly<Record<string, { readonly ending: string; readonly write: (set: GeometrySet) => string | null }>> = {
  '.obj': { ending: '.mtl', write: (set) => writeMtl(withoutCopies(set)) },
};

/** Formats that can hold a result, of those that can be written: all of them where there is nothing to hold. */
export function fittingEndings(set: GeometrySet): string[] {
  if (isEmptyResult(set)) return Object.keys(writers);
  const curves = !!set.curves?.positions.length;
  const faces = !!set.mesh?.corners.length || !!set.copies?.object.length;
  const points = !!set.points?.positions.length;
  const fits: Readonly<Record<string, boolean>> = { '.obj': faces || curves, '.stl': faces, '.ply': faces || points, '.svg': curves, '.csv': curves || points };
  return Object.keys(writers).filter((ending) => fits[ending] ?? (curves || faces || points));
}
