/** Whole numbers in groups of three with a narrow space: 41 216. */
export const grouped = (value: number): string =>
  Math.round(value)
    .toString()
    .replace(/\B(?=(\d{3})+(?!\d))/g, ' ');

/** What one of each is called. */
const singular = { faces: 'face', vertices: 'vertex', copies: 'copy', curves: 'curve', points: 'point' } as const;
export type Counted = keyof typeof singular;

/** How many of what: 1 curve, 41 216 points. */
export const counted = (count: number, what: Counted): string => `${grouped(count)} ${count === 1 ? singular[what] : what}`;

/** A number with at most `digits` significant digits and no trailing zeros. */
export const figure = (value: number, digits = 4): string => (Number.isFinite(value) ? String(Number(value.toPrecision(digits))) : '–');

/** A length in metres with the unit that suits its size: 2 m, 50 mm. */
export const lengthText = (metres: number): string => (Math.abs(metres) >= 1 ? `${figure(metres)} m` : `${figure(metres * 1000)} mm`);

/** How long ago something was, of milliseconds: 4 minutes ago. */
export function agoText(ms: number): string {
  const [size, unit] = ([[86_400_000, 'day'], [3_600_000, 'hour'], [60_000, 'minute']] as const).find(([each]) => ms >= each) ?? [0, '']; // prettier-ignore
  return size ? new Intl.RelativeTimeFormat('en-GB').format(-Math.floor(ms / size), unit) : 'just now';
}

/** Milliseconds as people read them. */
export const milliseconds = (ms: number): string => (ms < 10 ? `${ms.toFixed(1)} ms` : ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
