import { strFromU8, strToU8, Unzip, UnzipInflate, zipSync } from 'fflate';
import { parseDocument, type FilaxisDocument } from '@filaxis/core';
import { FormatError } from './errors.js';
import { gatherPieces } from './textSink.js';

/** A document with the imported files it uses, by SHA-256 of their bytes. */
export interface PackedDocument {
  readonly document: FilaxisDocument;
  readonly assets: ReadonlyMap<string, Uint8Array>;
}

const documentName = 'document.json';
/** Bytes that a file of an archive, and all of them, may unpack to; and that are unpacked at once. */
const [largestFile, largestUnpacked, pieceBytes] = [64 * 1024 * 1024, 256 * 1024 * 1024, 16 * 1024];

/** A `.filaxis.zip`: the document as JSON, and the imported files under their hashes. The same contents give the same bytes. */
export function packDocument({ document, assets }: PackedDocument): Uint8Array {
  const files: Record<string, Uint8Array> = { [documentName]: strToU8(`${JSON.stringify(document, null, 2)}\n`) };
  for (const hash of [...assets.keys()].sort()) files[`assets/${hash}`] = assets.get(hash)!;
  return zipSync(files, { level: 6, mtime: new Date(1980, 0, 1) });
}

/** Files as an archive, as they are: for those that are small already, such as pictures. The same contents give the same bytes. */
export const packFiles = (files: Readonly<Record<string, Uint8Array>>): Uint8Array => zipSync({ ...files }, { level: 0, mtime: new Date(1980, 0, 1) });

export const isZip = (bytes: Uint8Array): boolean => bytes.length > 3 && bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Unpacks an archive a piece at a time, so that no more is made of it than is let, whatever it says of itself. */
function unzipped(bytes: Uint8Array): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  const unfinished = new Set<string>();
  let total = 0;
  if (!hasEnd(bytes)) throw new FormatError('The archive cannot be read: its end is missing.');
  const archive = new Unzip((file) => {
    if (file.name !== documentName && !/^assets\/[0-9a-f]{64}$/.test(file.name)) return;
    if (files.has(file.name)) throw new FormatError(`The archive has ${file.name} twice.`);
    files.set(file.name, new Uint8Array());
    unfinished.add(file.name);
    const pieces = gatherPieces();
    let size = 0;
    file.ondata = (error, piece, final) => {
      if (error) throw error;
      size += piece.length;
      total += piece.length;
      if (size > largestFile) throw new FormatError(`${file.name} unpacks to more than ${largestFile} bytes.`);
      if (total > largestUnpacked) throw new FormatError(`The archive unpacks to more than ${largestUnpacked} bytes.`);
      pieces.out(piece);
      if (!final) return;
      files.set(file.name, pieces.bytes());
      unfinished.delete(file.name);
    };
    file.start();
  });
  archive.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += pieceBytes) archive.push(bytes.subarray(at, at + pieceBytes), at + pieceBytes >= bytes.length);
  for (const name of unfinished) throw new FormatError(`The archive cannot be read: ${name} breaks off.`);
  return files;
}

/** Whether the record with which an archive ends (APPNOTE.TXT, 4.3.16; from memory) stands in its last 64 KB. */
function hasEnd(bytes: Uint8Array): boolean {
  for (let at = bytes.length - 22; at >= 0 && at > bytes.length - 22 - 65_536; at--)
    if (bytes[at] === 0x50 && bytes[at + 1] === 0x4b && bytes[at + 2] === 5 && bytes[at + 3] === 6) return true;
  return false;
}

/**
 * Reads a document file: a `.filaxis.zip`, or the document's JSON alone.
 * @throws FormatError when the archive cannot be read; DocumentError when the document in it does not fit.
 */
export function unpackDocument(bytes: Uint8Array): PackedDocument {
  if (!isZip(bytes)) return { document: parseDocument(strFromU8(bytes)), assets: new Map() };
  let files: Map<string, Uint8Array>;
  try {
    files = unzipped(bytes);
  } catch (error) {
    throw error instanceof FormatError ? error : new FormatError(`The archive cannot be read: ${(error as Error).message}.`);
  }
  const document = files.get(documentName);
  if (!document) throw new FormatError(`The archive has no ${documentName}.`);
  files.delete(documentName);
  const assets = new Map([...files].map(([name, data]) => [name.slice('assets/'.length), data]));
  return { document: parseDocument(strFromU8(document)), assets };
}
