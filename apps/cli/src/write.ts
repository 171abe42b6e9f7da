import { renameSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { GeometrySet } from '@filaxis/core';
import { companions, endingOf, writers, type WriteOptions } from '@filaxis/formats';

/** Writes a result to a file by its ending, and the file that belongs beside it, if one does. */
export async function writeResult(path: string, set: GeometrySet, name: string, options: WriteOptions = {}): Promise<void> {
  const ending = endingOf(path);
  const beside = companions[ending];
  const text = beside?.write(set) ?? null;
  // The file beside is found by name, so what names it has to be called as the file is.
  const own = text === null ? name : basename(path).slice(0, -ending.length);
  writeWhole(path, await writers[ending](set, own, options));
  if (text !== null) writeWhole(path.slice(0, -ending.length) + beside.ending, text);
}

/** Writes a file that is there whole or as it was before, even when the command is interrupted. */
function writeWhole(path: string, content: Uint8Array | string): void {
  const part = `${path}.part`;
  writeFileSync(part, content);
  renameSync(part, path);
}
