import type { Dial, DialValue, FilaxisDocument } from './document.js';

export type DialValues = Readonly<Record<string, DialValue>>;

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);

/** What is wrong with a value for a dial, in words, or null. */
export function dialFault(dial: Dial, value: unknown): string | null {
  const unit = dial.unit ? ` ${dial.unit}` : '';
  const says = (accepts: string): string => `Dial "${dial.id}" is ${JSON.stringify(value)}; it accepts ${accepts}.`;
  switch (dial.kind) {
    case 'number':
    case 'integer':
    case 'seed': {
      if (!isNumber(value) || (dial.kind !== 'number' && !Number.isInteger(value))) return says(dial.kind === 'number' ? 'a finite number' : 'a whole number');
      const { min = -Infinity, max = Infinity } = dial;
      return value < min || value > max ? says(`numbers from ${min} to ${max}${unit}`) : null;
    }
    case 'vector':
      return Array.isArray(value) && value.length === 3 && value.every(isNumber) ? null : says('three finite numbers [x, y, z]');
    case 'boolean':
      return typeof value === 'boolean' ? null : says('true or false');
    case 'choice':
      return typeof value === 'string' && (dial.choices ?? []).includes(value)
        ? null
        : says((dial.choices ?? []).join(', ') || 'its choices, of which it has none');
    case 'colour':
      return typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value) ? null : says('a colour such as #a2323f');
    case 'text':
      return typeof value === 'string' ? null : says('text');
  }
}

/** A dial value written as text (on a command line), read as its kind; text that is not of the kind is given back as it is, and refused later. */
export function parseDialText(dial: Dial, text: string): unknown {
  if (dial.kind === 'text' || dial.kind === 'choice' || dial.kind === 'colour') return text;
  try {
    return JSON.parse(dial.kind === 'vector' && !text.startsWith('[') ? `[${text}]` : text);
  } catch {
    return text;
  }
}

/** The values of all dials of a document, with some replaced. */
export function dialValues(document: FilaxisDocument, replaced: DialValues = {}): DialValues {
  const values: Record<string, DialValue> = {};
  for (const dial of document.dials ?? []) values[dial.id] = replaced[dial.id] ?? dial.value;
  return values;
}
