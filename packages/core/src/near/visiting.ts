/** Below so many places an order costs more than it saves. */
const few = 512;
/** Bits of a coordinate: cells are a thousandth of the whole wide. */
const bits = 10;

/** Places of which each is asked for by its number and its coordinate, 0 to 2. */
export type PlaceAt = (i: number, k: number) => number;

/**
 * The numbers of places in an order in which neighbours follow each other: that of their cells' numbers with the bits of x, y and z by turns (Morton 1966). Searches of
 * one tree for scattered places are several times as fast so, since what one has fetched serves the next; the results are the same. null: as they come.
 */
export function visitingOrder(count: number, at: PlaceAt): Uint32Array | null {
  if (count < few) return null;
  const codes = new Uint32Array(count);
  for (let k = 0; k < 3; k++) {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < count; i++) {
      const value = at(i, k);
      if (value < low) low = value;
      if (value > high) high = value;
    }
    const scale = high > low ? (2 ** bits * (1 - 1e-6)) / (high - low) : 0;
    for (let i = 0; i < count; i++) codes[i] |= spread((at(i, k) - low) * scale) << k;
  }
  return sorted(codes);
}

/** The lowest ten bits of a number with two empty ones after each. */
function spread(value: number): number {
  let v = value | 0;
  v = (v | (v << 16)) & 0x030000ff;
  v = (v | (v << 8)) & 0x0300f00f;
  v = (v | (v << 4)) & 0x030c30c3;
  return (v | (v << 2)) & 0x09249249;
}

/** The numbers of codes from the least to the greatest; equal ones as they come. Sorted by ten bits at a time, the lowest first. */
function sorted(codes: Uint32Array): Uint32Array {
  let order = Uint32Array.from(codes.keys());
  let other = new Uint32Array(codes.length);
  for (let shift = 0; shift < 3 * bits; shift += bits) {
    const starts = new Uint32Array(2 ** bits + 1);
    for (let i = 0; i < codes.length; i++) starts[((codes[i] >>> shift) & (2 ** bits - 1)) + 1]++;
    for (let d = 0; d < 2 ** bits; d++) starts[d + 1] += starts[d];
    for (let i = 0; i < order.length; i++) other[starts[(codes[order[i]] >>> shift) & (2 ** bits - 1)]++] = order[i];
    [order, other] = [other, order];
  }
  return order;
}
