import type { Attribute } from '../../geometry/attributes.js';
import { curveCount, curveOfPoints, type Curves } from '../../geometry/curves.js';
import { hash } from '../../values/random.js';

/**
 * Keys of elements from the values that they carry: whole numbers as they are, others by their bits. Of elements with the same value the second gets another key
 * than the first, and so on.
 */
export function distinctKeys({ data }: Attribute): Uint32Array {
  const met = new Map<number, number>();
  const bits = new Int32Array(data.buffer, data.byteOffset, data.length);
  return Uint32Array.from(data, (value, i) => {
    const before = met.get(value) ?? 0;
    met.set(value, before + 1);
    const key = Number.isInteger(value) && Math.abs(value) < 2 ** 31 ? value : bits[i];
    return before ? hash(hash(before, 0x72657065), key) : key;
  });
}

/** The value that random values of these elements follow from: their `seed`, else their `id`; undefined where they carry neither. */
export function identityOf({ attributes }: { readonly attributes: Curves['attributes'] }, carrier: Attribute['carrier']): Attribute | undefined {
  return ['seed', 'id'].map((name) => attributes.get(name)).find((each) => each?.carrier === carrier && each.size === 1);
}

/** A key for each curve: from its `seed` or `id`, else its number. */
export function curveKeys(curves: Curves): Uint32Array {
  const given = identityOf(curves, 'curve');
  return given ? distinctKeys(given) : Uint32Array.from({ length: curveCount(curves) }, (_, c) => c);
}

/** Bits of a seed that 32-bit floats hold exactly. */
const seedBits = 24;

/**
 * A seed for each point of curves that carry none: it follows from the key of the curve and the number in it, so that it stays when other curves get more
 * points or fewer, and when points are added at the end. Whole numbers below 2²⁴.
 */
export function seedsOfPoints(curves: Curves): Uint32Array {
  const keys = curveKeys(curves);
  return curveOfPoints(curves).map((c, i) => hash(hash(keys[c], 0x706f696e), i - curves.starts[c]) >>> (32 - seedBits));
}
