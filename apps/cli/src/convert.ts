import { isEmptyResult } from '@filaxis/core';
import { endingOf, fittingEndings, inMetres, isFar, keepsFar, readers, standUp, writers } from '@filaxis/formats';
import { exitCodes, Refused } from './exit.js';
import { readOptions, readUnit, readWriteOptions, writeOptions } from './options.js';
import { filesBeside, readBytes } from './source.js';
import { cannotHold, writeResult } from './write.js';

/** `filaxis convert`: reads one open format and writes another. */
export async function convert(args: readonly string[]): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { up: { type: 'string' }, unit: { type: 'string' }, ...writeOptions },
    { least: 2, most: 2, names: 'a file to read and a file to write' },
  );
  const [from, to] = positionals;
  if (values.up !== undefined && !['y', 'z'].includes(values.up)) throw new Refused(`--up is "${values.up}"; it accepts y, z.`);
  const unit = readUnit('--unit', values.unit);
  const how = readWriteOptions(values);
  const reader = readers[endingOf(from)];
  if (!reader) throw new Refused(`${from}: files can be read as ${Object.keys(readers).join(', ')}.`);
  if (!Object.hasOwn(writers, endingOf(to))) throw new Refused(`${to}: files can be written as ${Object.keys(writers).join(', ')}.`);
  let set;
  try {
    set = inMetres(await reader(readBytes(from), filesBeside(from)), unit);
  } catch (error) {
    throw error instanceof Refused ? error : new Refused(`${from}: ${(error as Error).message}`);
  }
  if (isEmptyResult(set)) throw new Refused(`${from}: nothing in it has a shape: no faces, no curves, no points.`);
  if (!fittingEndings(set).includes(endingOf(to))) throw new Refused(cannotHold(to, set));
  await writeResult(to, values.up === 'z' ? standUp(set) : set, how);
  if (!isFar(set) || keepsFar(endingOf(to))) return exitCodes.done;
  console.error(
    `warning: ${from} lies so far from the origin that ${endingOf(to)} cannot hold it there; it was moved near it, by what "origin" says in .json.`,
  );
  return exitCodes.warnings;
}
