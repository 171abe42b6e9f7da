import type { SkinIssue } from '../../skin/plan/tubePlan.js';
import type { RunContext, Warning } from '../../definition/define.js';

const skinWarnings: Record<SkinIssue['reason'], (issue: SkinIssue) => Warning> = {
  folds: (issue) => ({
    ...issue,
    message: `Pinches at ${issue.at.toFixed(2)} m of curve ${issue.curve + 1}: the section is too thick for the bend.`,
    remedy: 'Relax pinches, make it thinner there, or widen the bend.',
  }),
  'near-itself': (issue) => ({
    ...issue,
    message: `Curve ${issue.curve + 1} comes nearer than twice the radius to an earlier part of itself at ${issue.at.toFixed(2)} m; the skin runs through itself there.`,
    remedy: 'Part the two stretches, or make it thinner.',
  }),
  'turns-back': (issue) => ({
    ...issue,
    message: `Curve ${issue.curve + 1} turns straight back at ${issue.at.toFixed(2)} m; the tube folds onto itself there.`,
    remedy: 'Part the two legs, or cut the curve there.',
  }),
  'one-point': (issue) => ({ ...issue, message: `Curve ${issue.curve + 1} has one point, so nothing is made for it.`, remedy: 'Give it a second point.' }),
  'no-length': (issue) => ({
    ...issue,
    message: `All points of curve ${issue.curve + 1} lie in one place, so nothing is made for it.`,
    remedy: 'Give it two different points.',
  }),
  seam: (issue) => ({
    ...issue,
    message: `The section of curve ${issue.curve + 1} arrives at the seam turned by ${(issue.turn ?? 0).toPrecision(3)}°, so the wall twists by that in its last piece.`,
    remedy: `Round twist and roll of the frames to whole turns${(issue.symmetry ?? 1) > 1 ? `, or to a multiple of ${Number((360 / issue.symmetry!).toPrecision(4))}°, after which this section looks the same` : ''}.`,
  }),
  fork: ({ radius = 0, ...issue }) => ({
    ...issue,
    message: `The fork on curve ${issue.curve + 1} at ${issue.at.toFixed(2)} m is left as it is: ${radius > 0 ? 'a branch is too short for its thickness, or two run nearly the same way' : 'two of its ways run along each other'}.`,
    remedy:
      radius > 0
        ? `Make the tube ${inMillimetres(radius)} in radius or thinner there, or the branches longer.`
        : 'Take one of the two curves away, or cut it where they part.',
  }),
  'no-thickness': (issue) => ({
    ...issue,
    message: `Curve ${issue.curve + 1} is 0 m thick everywhere, so nothing is made for it.`,
    remedy: 'Give it a thickness somewhere, or leave the curve out.',
  }),
  coarse: ({ grain = 0, radius = 0, least = 0, ...issue }) => {
    const away = grain / 2 ** -23;
    return {
      ...issue,
      message: `The greatest radius of curve ${issue.curve + 1} is ${inMillimetres(radius)}, and ${Number(away.toPrecision(2)).toLocaleString('en-GB')} m from the origin positions are stored ${inMillimetres(grain)} apart: below ${inMillimetres(least)} the surface is uneven.`,
      remedy: away > 100 ? 'Move it near the origin with a Transform before the surface, or make it thicker.' : 'Make it thicker.',
    };
  },
};

const inMillimetres = (metres: number): string => `${Number((metres * 1000).toPrecision(2))} mm`;

/** At most this many warnings of one node; the rest is counted in one more. */
const mostWarnings = 50;

export function tell(issues: readonly SkinIssue[], warn: RunContext<unknown>['warn']): void {
  for (const issue of issues.slice(0, mostWarnings)) warn(skinWarnings[issue.reason](issue));
  if (issues.length > mostWarnings) warn({ code: issues[mostWarnings].code, message: `And ${issues.length - mostWarnings} more places like these.` });
}
