/** A 32-bit number from two, well mixed (the finaliser of MurmurHash3, Appleby 2011; from memory): the same on every machine. */
export function hash(seed: number, key: number): number {
  let h = (Math.imul(seed | 0, 0x9e3779b1) ^ Math.imul((key | 0) + 0x7f4a7c15, 0x85ebca6b)) | 0;
  h ^= h >>> 16;
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  h ^= h >>> 16;
  return h >>> 0;
}

/** 0 ≤ value < 1 for an element: the same for the same seed and key, whatever else there is. */
export const randomAt = (seed: number, key: number): number => hash(seed, key) / 4294967296;

/** The list in an order drawn by `seed` (Fisher & Yates 1938; Durstenfeld 1964). */
export function shuffled<T>(list: readonly T[], seed: number): T[] {
  const result = [...list];
  for (let i = result.length - 1; i > 0; i--) {
    const j = Math.floor(randomAt(seed, i) * (i + 1));
    [result[i], result[j]] = [result[j], result[i]];
  }
  return result;
}
