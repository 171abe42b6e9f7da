import { createHash } from 'node:crypto';
import { existsSync, readFileSync, realpathSync, statSync, type Stats } from 'node:fs';
import { dirname, isAbsolute, relative, resolve } from 'node:path';
import { Evaluator, type FilaxisDocument, type GeometrySet, type GraphNode, definitionOf } from '@filaxis/core';
import { largestImport, readImport, unpackDocument, type Beside } from '@filaxis/formats';
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
    if (inside.startsWith('..') || isAbsolute(inside) || !existsSync(file) || !statSync(file).isFile()) return null;
    const real = relative(realpathSync(folder), realpathSync(file));
    return real.startsWith('..') || isAbsolute(real) ? null : readBytes(file);
  };

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A file that a document names. @throws Refused when it lies outside of the document's folder (a link may lead there too) and that is not allowed, or is no plain file. */
function readFileOf(node: string, file: string, folder: string, outside: boolean): Uint8Array {
  const real = realpathSync(file);
  const inside = relative(realpathSync(folder), real);
  if (!outside && (inside.startsWith('..') || isAbsolute(inside)))
    throw new Refused(`${node}: its file ${file} lies outside of the document's folder. Give --outside to let documents read such files.`);
  const { size } = statOf(node, real);
  if (size > largestImport) throw new Refused(`${node}: its file ${file} has ${size} bytes; the limit is ${largestImport}.`);
  return readBytes(real);
}

function statOf(node: string, file: string): Stats {
  const stat = statSync(file);
  if (!stat.isFile()) throw new Refused(`${node}: ${file} is no plain file.`);
  return stat;
}

/** Reads a document or a `.filaxis.zip`. A node's file setting may name a file beside the document (elsewhere only with `outside`); it is replaced by the file's hash. */
export async function openSource(path: string, outside = false): Promise<Source> {
  const { document, assets } = unpackDocument(readBytes(path));
  const files = new Map(assets);
  /** Where files came from that were named beside the document. */
  const names = new Map<string, string>();
  const beside = path === '-' ? process.cwd() : dirname(resolve(path));
  const nodes = document.nodes.map((node): GraphNode => {
    const asset = node.settings?.['asset'];
    if (definitionOf(document, node)?.settings['asset']?.kind !== 'asset' || typeof asset !== 'string' || !asset || /^[0-9a-f]{64}$/.test(asset)) return node;
    const file = resolve(beside, asset);
    if (!existsSync(file)) return node;
    const bytes = readFileOf(node.id, file, beside, outside);
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
