import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { endingOf, readers, standUp, writers } from '@filaxis/formats';
import { exitCodes, Refused } from './exit.js';
import { readOptions } from './options.js';
import { readBytes } from './source.js';

/** `filaxis convert`: reads one open format and writes another. */
export async function convert(args: readonly string[]): Promise<number> {
  const { values, positionals } = readOptions(args, { up: { type: 'string' } }, { least: 2, most: 2, names: 'a file to read and a file to write' });
  const [from, to] = positionals;
  if (values.up !== undefined && !['y', 'z'].includes(values.up)) throw new Refused(`--up is "${values.up}"; it accepts y, z.`);
  const reader = readers[endingOf(from)];
  if (!reader) throw new Refused(`${from}: files can be read as ${Object.keys(readers).join(', ')}.`);
  const writer = writers[endingOf(to)];
  if (!writer) throw new Refused(`${to}: files can be written as ${Object.keys(writers).join(', ')}.`);
  let set;
  try {
    set = await reader(readBytes(from));
  } catch (error) {
    throw error instanceof Refused ? error : new Refused(`${from}: ${(error as Error).message}`);
  }
  writeFileSync(to, await writer(values.up === 'z' ? standUp(set) : set, basename(to, endingOf(to))));
  return exitCodes.done;
}
