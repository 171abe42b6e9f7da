import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { Evaluator, type Curves, type FilaxisDocument, type GraphNode } from '@filaxis/core';
import { readCurvesFile, unpackDocument } from '@filaxis/formats';
import { Refused } from './exit.js';

/** A document read from disk, and an evaluator that can reach its imported files. */
export interface Source {
  readonly document: FilaxisDocument;
  readonly evaluator: Evaluator;
}

/** Bytes of a file, or of standard input for `-`. @throws Refused when it cannot be read. */
export function readBytes(path: string): Uint8Array {
  try {
    return readFileSync(path === '-' ? 0 : path);
  } catch (error) {
    throw new Refused(`${path} cannot be read: ${(error as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (error as Error).message}.`);
  }
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Reads a document or a `.filaxis.zip`. A node's file setting may name a file beside the document; it is replaced by the file's hash. */
export function openSource(path: string): Source {
  const { document, assets } = unpackDocument(readBytes(path));
  const files = new Map(assets);
  const beside = path === '-' ? process.cwd() : dirname(resolve(path));
  const nodes = document.nodes.map((node): GraphNode => {
    const asset = node.settings?.['asset'];
    if (node.type !== 'lay.importCurves' || typeof asset !== 'string' || !asset || /^[0-9a-f]{64}$/.test(asset)) return node;
    const file = resolve(beside, asset);
    if (!existsSync(file)) return node;
    const bytes = readBytes(file);
    files.set(sha256(bytes), bytes);
    return { ...node, settings: { ...node.settings, asset: sha256(bytes) } };
  });
  const importedCurves = (hash: string): Curves => {
    const bytes = files.get(hash);
    if (!bytes) throw new Error(`The imported file ${hash.slice(0, 12)}… is missing. Pack the document with its files, or name a file beside it.`);
    return readCurvesFile(bytes);
  };
  return { document: { ...document, nodes }, evaluator: new Evaluator({ importedCurves }) };
}
