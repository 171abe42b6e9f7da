import { parseArgs, type ParseArgsConfig } from 'node:util';
import { metres, type Unit, type WriteOptions } from '@filaxis/formats';
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

/** How results are written, for every command that writes one. */
export const writeOptions = {
  expanded: { type: 'boolean' },
  instances: { type: 'boolean' },
  parts: { type: 'boolean' },
  joined: { type: 'boolean' },
  tangents: { type: 'boolean' },
  welded: { type: 'boolean' },
  uv: { type: 'string' },
  colour: { type: 'string' },
  'out-up': { type: 'string' },
  'out-unit': { type: 'string' },
} as const;

/** @throws Refused for a unit that there is not. */
export function readUnit(option: string, text: string | undefined): Unit {
  if (text !== undefined && !Object.hasOwn(metres, text)) throw new Refused(`${option} is "${text}"; it accepts ${Object.keys(metres).join(', ')}.`);
  return (text ?? 'm') as Unit;
}

type WriteValues = { readonly [Name in keyof typeof writeOptions]?: (typeof writeOptions)[Name]['type'] extends 'boolean' ? boolean : string };

/** @throws Refused for an axis or a unit that there is not. */
export function readWriteOptions({ 'out-up': up = 'y', 'out-unit': unit, ...how }: WriteValues): WriteOptions {
  if (up !== 'y' && up !== 'z') throw new Refused(`--out-up is "${up}"; it accepts y, z.`);
  const { expanded, instances, parts, joined, tangents, welded, uv, colour } = how;
  return { expanded, instances, parts, joined, tangents, welded, uv, colour, up, unit: readUnit('--out-unit', unit) };
}
