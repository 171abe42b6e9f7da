import type { ValuesSketch } from '@filaxis/protocol';

const binCount = 24;
const lineLength = 120;

/** Least, greatest, mean and distribution of numbers, and up to 120 of the `first` ones in order. Those that are not finite are left out; null: none is. */
export function sketchOf(at: (i: number) => number, count: number, first = count): ValuesSketch | null {
  let [low, high, sum, finite] = [Infinity, -Infinity, 0, 0];
  for (let i = 0; i < count; i++) {
    const value = at(i);
    if (!Number.isFinite(value)) continue;
    finite++;
    sum += value;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  if (!finite) return null;
  const bins = new Array<number>(binCount).fill(0);
  const scale = high > low ? binCount / (high - low) : 0;
  for (let i = 0; i < count; i++) {
    const value = at(i);
    if (Number.isFinite(value)) bins[Math.min(binCount - 1, Math.floor((value - low) * scale))]++;
  }
  const shown = Math.min(first, lineLength);
  const line = Array.from({ length: shown }, (_, k) => at(shown > 1 ? Math.round((k * (first - 1)) / (shown - 1)) : 0));
  return { low, high, mean: sum / finite, count: finite, line, bins };
}
