/** First and last metre that are seen; null: all of the curve. */
export type StripZoom = readonly [first: number, last: number] | null;

/** Least share of the curve that is seen, and the share from which on it is all. */
const [least, all] = [1e-4, 0.999];

/** What is seen after the wheel was turned at a place of the curve: nearer or farther about that place, or with Shift along the curve. */
export function afterWheel(zoom: StripZoom, length: number, metres: number, wheel: Pick<WheelEvent, 'deltaX' | 'deltaY' | 'shiftKey'>): StripZoom {
  const { deltaX, deltaY, shiftKey } = wheel;
  const [first, last] = zoom ?? [0, length];
  if (shiftKey || Math.abs(deltaX) > Math.abs(deltaY)) {
    const by = (last - first) * 0.001 * (deltaX || deltaY);
    const from = Math.min(length - (last - first), Math.max(0, first + by));
    return [from, from + last - first];
  }
  const factor = Math.exp(deltaY * 0.0015);
  const from = Math.max(0, metres - (metres - first) * factor);
  const to = Math.min(length, metres + (last - metres) * factor);
  if (to - from <= length * least) return zoom;
  return to - from > length * all ? null : [from, to];
}
