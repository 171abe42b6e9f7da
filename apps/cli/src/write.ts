import { closeSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { basename } from 'node:path';
import { companions, endingOf, fittingEndings, kindsIn, writeTo, type Content, type Out, type WriteOptions } from '@filaxis/formats';

/** Why a result cannot be written by the ending of a path, and by which it can be. */
export const cannotHold = (path: string, content: Content): string =>
  `${path}: this format cannot hold ${kindsIn(content).join(' and ')}; it can be written as ${fittingEndings(content).join(', ')}.`;

/** Writes results to a file by its ending, and the file that belongs beside it, if one does. */
export async function writeResult(path: string, content: Content, options: WriteOptions = {}): Promise<void> {
  const ending = endingOf(path);
  const beside = companions[ending];
  const text = beside?.write(content, options) ?? null;
  // The file beside is found by the name of the file.
  const name = basename(path).slice(0, -ending.length);
  await writeWhole(path, (out) => writeTo(out, ending, content, name, options));
  if (text !== null) await writeWhole(path.slice(0, -ending.length) + beside.ending, async (out) => out(new TextEncoder().encode(text)));
}

/** Writes a file piece by piece, so that it is there whole or as it was before, even when the command is interrupted. */
export async function writeWhole(path: string, write: (out: Out) => Promise<void>): Promise<void> {
  const part = `${path}.part`;
  const file = openSync(part, 'w');
  try {
    await write((bytes) => {
      for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at);
    });
    closeSync(file);
  } catch (error) {
    closeSync(file);
    rmSync(part, { force: true });
    throw error;
  }
  renameSync(part, path);
}
