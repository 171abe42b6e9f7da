import { parseArgs, type ParseArgsConfig } from 'node:util';
import { Refused } from './exit.js';

/** Reads options strictly. @throws Refused in plain words for options that do not exist or lack a value. */
export function readOptions<const O extends NonNullable<ParseArgsConfig['options']>>(
  args: readonly string[],
  options: O,
  positionals: { least: number; most: number; names: string },
) {
  let parsed;
  try {
    parsed = parseArgs({ args: [...args], options, allowPositionals: true, strict: true });
  } catch (error) {
    throw new Refused((error as Error).message.split('. ')[0] + '.');
  }
  const count = parsed.positionals.length;
  if (count < positionals.least || count > positionals.most)
    throw new Refused(`This takes ${positionals.names}; got ${count ? parsed.positionals.join(' ') : 'nothing'}.`);
  return parsed;
}
