/** Pixels of a unit (CSS Values 3, 5.2: 96 to the inch); em and ex of the usual font. */
const units: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
  pt: 96 / 72,
  pc: 16,
  em: 16,
  rem: 16,
  ex: 8,
};

/** The size of what is drawn into, user units. */
export interface Viewport {
  readonly width: number;
  readonly height: number;
}

/** User units of a length; percentages are of the viewport across (0), down (1) or its diagonal over √2 (2). NaN: it cannot be read. */
export function lengthOf(text: string, direction: 0 | 1 | 2, { width, height }: Viewport): number {
  const trimmed = text.trim();
  let end = trimmed.length;
  while (end > 0 && /[a-z%]/i.test(trimmed[end - 1])) end--;
  // In "1e3" the e belongs to the number, in "1em" to the unit.
  const number = Number(trimmed.slice(0, end) || 'x');
  const unit = trimmed.slice(end).toLowerCase();
  if (!Number.isFinite(number)) return NaN;
  if (unit === '%') return (number / 100) * (direction === 0 ? width : direction === 1 ? height : Math.hypot(width, height) / Math.SQRT2);
  return unit in units ? number * units[unit] : NaN;
}
