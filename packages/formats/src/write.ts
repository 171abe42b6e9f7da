import { isEmptyResult, joinSets, withoutCopies, type GeometrySet, type Piece } from '@filaxis/core';
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

/** What is written: one result, called as the file or as `called` says, or several under their names. */
export type Content = GeometrySet | readonly Piece[];

const isPieces = (content: Content): content is readonly Piece[] => Array.isArray(content);

/** Content as pieces. */
export function asPieces(content: Content, name: string, { joined }: WriteOptions = {}): readonly Piece[] {
  const pieces = isPieces(content) ? content : [{ name, set: content }];
  return joined && pieces.length > 1 ? [{ name, set: joinSets(pieces.map(({ set }) => set)) }] : pieces;
}

/** There is nothing in any of them. */
export const isEmptyContent = (pieces: readonly Piece[]): boolean => pieces.every(({ set }) => isEmptyResult(set));

type Writer = (pieces: readonly Piece[], name: string, options: WriteOptions, out: Out) => Promise<void> | void;

const whole = (pieces: readonly Piece[], { expanded }: WriteOptions): readonly Piece[] =>
  expanded ? pieces.map(({ name, set }) => ({ name, set: withoutCopies(set) })) : pieces;

/** For formats that know no objects. */
const asOne = (pieces: readonly Piece[]): GeometrySet => joinSets(pieces.map(({ set }) => set));

/** How each format is written, given results in the unit and with the up axis that are wanted. */
const formatWriters: Readonly<Record<string, Writer>> = {
  '.glb': (pieces, name, options, out) => writeGlb(whole(pieces, options), options.called ?? name, options, out),
  '.gltf': (pieces, name, options, out) => writeGltf(whole(pieces, options), options.called ?? name, options, out),
  '.obj': (pieces, name, options, out) => writeObj(whole(pieces, { expanded: true }), name, options, out),
  '.stl': (pieces, _name, _options, out) => writeStl(withoutCopies(asOne(pieces)), out),
  '.ply': (pieces, _name, options, out) => writePly(withoutCopies(asOne(pieces)), options, out),
  '.usda': (pieces, name, options, out) => writeUsda(whole(pieces, options), options.called ?? name, options, out),
  '.svg': (pieces, _name, _options, out) => writeSvg(asOne(pieces), out),
  '.csv': (pieces, _name, _options, out) => writeCsv(asOne(pieces), out),
  '.json': (pieces, _name, options, out) => writeJson(asOne(whole(pieces, options)), out),
};

/** Pieces with the values that are asked for, in the unit and with the up axis of the file. @throws FormatError when they have not what is asked for. */
export function prepared(pieces: readonly Piece[], ending: string, options: WriteOptions): readonly Piece[] {
  if (isEmptyContent(pieces)) return pieces;
  const sets = withChosenValues(
    pieces.map(({ set }) => asWritten(set, options)),
    options,
  );
  if (['.obj', '.ply'].includes(ending)) for (const set of sets) requireVertexColour(set, options);
  return pieces.map(({ name }, i) => ({ name, set: sets[i] }));
}

/**
 * Writes results in the format of an ending, piece by piece; formats that know no objects have all of them as one. Copies become a mesh where the format has no instances; an
 * empty result a valid file with nothing in it.
 * @throws FormatError when the format cannot hold it; some pieces may be out by then.
 */
export async function writeTo(out: Out, ending: string, content: Content, name: string, options: WriteOptions = {}): Promise<void> {
  const pieces = asPieces(content, options.called ?? name, options);
  if (isEmptyContent(pieces) && Object.hasOwn(emptyWriters, ending)) await emptyWriters[ending](options.called ?? name, options, out);
  else await formatWriters[ending](prepared(pieces, ending, options), name, options, out);
}

/** Formats that results can be written in, by file ending; each gives the whole file. */
export const writers = Object.fromEntries(
  Object.keys(formatWriters).map((ending) => [
    ending,
    async (content: Content, name: string, options: WriteOptions = {}) => {
      const pieces = gatherPieces();
      await writeTo(pieces.out, ending, content, name, options);
      return pieces.bytes();
    },
  ]),
) as Readonly<Record<string, (content: Content, name: string, options?: WriteOptions) => Promise<Uint8Array>>>;

/** A file that belongs beside a written one, by the ending of the latter: its own ending and text; null when none is needed. */
export const companions: Readonly<Record<string, { readonly ending: string; readonly write: (content: Content, options?: WriteOptions) => string | null }>> = {
  // Materials are numbered as in the OBJ file, so they are joined in the same order.
  '.obj': { ending: '.mtl', write: (content, options) => writeMtl(asOne(whole(asPieces(content, '', options), { expanded: true }))) },
};

/** Kinds of geometry in content, for messages. */
export const kindsIn = (content: Content): string[] => [...new Set(asPieces(content, '').flatMap(({ set }) => Object.keys(set)))];

/** Formats that can hold a result, of those that can be written: all of them where there is nothing to hold. */
export function fittingEndings(content: Content): string[] {
  const pieces = asPieces(content, '');
  if (isEmptyContent(pieces)) return Object.keys(writers);
  const curves = pieces.some(({ set }) => set.curves?.positions.length);
  const faces = pieces.some(({ set }) => set.mesh?.corners.length || set.copies?.object.length);
  const points = pieces.some(({ set }) => set.points?.positions.length);
  const fits: Readonly<Record<string, boolean>> = { '.obj': faces || curves, '.stl': faces, '.ply': faces || points, '.svg': curves, '.csv': curves || points };
  return Object.keys(writers).filter((ending) => fits[ending] ?? (curves || faces || points));
}
