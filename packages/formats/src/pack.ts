import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { parseDocument, type FilaxisDocument } from '@filaxis/core';
import { FormatError } from './errors.js';

/** A document with the imported files it uses, by SHA-256 of their bytes. */
export interface PackedDocument {
  readonly document: FilaxisDocument;
  readonly assets: ReadonlyMap<string, Uint8Array>;
}

const documentName = 'document.json';
const largestUnpacked = 512 * 1024 * 1024;

/** A `.filaxis.zip`: the document as JSON, and the imported files under their hashes. The same contents give the same bytes. */
export function packDocument({ document, assets }: PackedDocument): Uint8Array {
  const files: Record<string, Uint8Array> = { [documentName]: strToU8(`${JSON.stringify(document, null, 2)}\n`) };
  for (const hash of [...assets.keys()].sort()) files[`assets/${hash}`] = assets.get(hash)!;
  return zipSync(files, { level: 6, mtime: new Date(1980, 0, 1) });
}

export const isZip = (bytes: Uint8Array): boolean => bytes.length > 3 && bytes[0] === 0x50 && bytes[1] === 0x4b;

/**
 * Reads a document file: a `.filaxis.zip`, or the document's JSON alone.
 * @throws FormatError when the archive cannot be read; DocumentError when the document in it does not fit.
 */
export function unpackDocument(bytes: Uint8Array): PackedDocument {
  if (!isZip(bytes)) return { document: parseDocument(strFromU8(bytes)), assets: new Map() };
  let files: Record<string, Uint8Array>;
  let total = 0;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        total += file.originalSize;
        if (total > largestUnpacked) throw new FormatError(`The archive unpacks to more than ${largestUnpacked} bytes.`);
        return file.name === documentName || /^assets\/[0-9a-f]{64}$/.test(file.name);
      },
    });
  } catch (error) {
    throw error instanceof FormatError ? error : new FormatError(`The archive cannot be read: ${(error as Error).message}.`);
  }
  if (!files[documentName]) throw new FormatError(`The archive has no ${documentName}.`);
  const assets = new Map(Object.entries(files).flatMap(([name, data]) => (name === documentName ? [] : [[name.slice('assets/'.length), data]])));
  return { document: parseDocument(strFromU8(files[documentName])), assets };
}
