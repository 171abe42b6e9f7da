import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, isAbsolute, relative, resolve } from 'node:path';
import { Evaluator, nodeDefinitions, type FilaxisDocument, type GeometrySet, type GraphNode } from '@filaxis/core';
import { readImport, unpackDocument, type Beside } from '@filaxis/formats';
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

/** Files in the folder of another, by their names there; folders above it are not looked into. */
export const filesBeside =
  (path: string): Beside =>
  (name) => {
    const folder = path === '-' ? process.cwd() : dirname(resolve(path));
    const file = resolve(folder, name);
    const inside = relative(folder, file);
    return inside.startsWith('..') || isAbsolute(inside) || !existsSync(file) ? null : readBytes(file);
  };

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Reads a document or a `.filaxis.zip`. A node's file setting may name a file beside the document; it is replaced by the file's hash. */
export async function openSource(path: string): Promise<Source> {
  const { document, assets } = unpackDocument(readBytes(path));
  const files = new Map(assets);
  /** Where files came from that were named beside the document. */
  const names = new Map<string, string>();
  const beside = path === '-' ? process.cwd() : dirname(resolve(path));
  const nodes = document.nodes.map((node): GraphNode => {
    const asset = node.settings?.['asset'];
    if (nodeDefinitions.get(node.type)?.settings['asset']?.kind !== 'asset' || typeof asset !== 'string' || !asset || /^[0-9a-f]{64}$/.test(asset)) return node;
    const file = resolve(beside, asset);
    if (!existsSync(file)) return node;
    const bytes = readBytes(file);
    files.set(sha256(bytes), bytes);
    names.set(sha256(bytes), file);
    return { ...node, settings: { ...node.settings, asset: sha256(bytes) } };
  });
  // Read beforehand, since files are read step by step and a run is not; a file that cannot be read is told where it is asked for.
  const read = new Map<string, GeometrySet | Error>();
  for (const { settings } of nodes) {
    const hash = settings?.['asset'];
    const bytes = typeof hash === 'string' ? files.get(hash) : undefined;
    if (bytes)
      read.set(
        hash as string,
        await readImport(
          bytes,
          names.get(hash as string) ?? document.assets?.[hash as string]?.name ?? '',
          filesBeside(names.get(hash as string) ?? path),
        ).catch((error: Error) => error),
      );
  }
  const imported = (hash: string): GeometrySet => {
    const found = read.get(hash);
    if (found instanceof Error) throw found;
    if (!found) throw new Error(`The imported file ${hash.slice(0, 12)}… is missing. Pack the document with its files, or name a file beside it.`);
    return found;
  };
  return { document: { ...document, nodes }, evaluator: new Evaluator({ imported }) };
}
