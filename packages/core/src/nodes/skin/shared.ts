import type { Curves } from '../../geometry/curves.js';
import { paced } from '../../curves/resample.js';
import { roundCorners } from '../../curves/roundCorners.js';
import { pinchFactors } from '../../skin/relaxPinch.js';
import type { SkinIssue, TubePlans } from '../../skin/tubePlan.js';
import type { RunContext, Warning } from '../../graph/define.js';
import type { Settings, ValuesOf } from '../../graph/settings.js';
import type { Work } from '../../graph/work.js';
import { constantField, type Field } from '../../values/field.js';

export const capsSetting = {
  kind: 'choice',
  label: 'Caps',
  help: 'How open ends are closed.',
  default: 'open',
  choices: { open: 'open', flat: 'flat', domed: 'domed' },
} as const;

export const uvSettings = {
  uvScale: {
    kind: 'number',
    label: 'UV tile',
    help: 'Metres per UV tile, around and along; 0 fits 0…1 around and along the whole length.',
    default: 0,
    min: 0,
    unit: 'm',
    step: 0.001,
    group: 'UVs',
  },
} as const satisfies Settings;

/** Where the UVs of caps lie, apart from the wall's. */
export const capSettings = {
  capOffset: { kind: 'vector', label: 'Cap offset', help: 'Moves the caps’ UVs, in tiles.', default: [0, 0], step: 0.01, group: 'UVs' },
  capTurn: { kind: 'number', label: 'Cap turn', help: 'Turns the caps’ UVs about their middle.', default: 0, unit: '°', step: 1, group: 'UVs' },
  capScale: {
    kind: 'number',
    label: 'Cap scale',
    help: 'Factor on the caps’ UVs about their middle: 2 shows a texture at half its size.',
    default: 1,
    min: 0,
    above: true,
    step: 0.01,
    group: 'UVs',
  },
} as const satisfies Settings;

/** How corners of straight curves are made, and what is done where the section does not fit the bend. */
export const cornerSettings = {
  corners: {
    kind: 'choice',
    label: 'Corners',
    help: 'Mitre keeps the thickness round corners of straight curves; round bends them in arcs; as is leaves sections square to the bisector.',
    default: 'mitre',
    choices: { mitre: 'mitre', round: 'round', asIs: 'as is' },
  },
  bendRadius: {
    kind: 'number',
    label: 'Bend radius',
    help: 'Of round corners, at the middle of the section; 0 takes three times its radius (long elbows; common practice).',
    default: 0,
    min: 0,
    unit: 'm',
    step: 0.005,
    shownWhen: { corners: ['round'] },
  },
  bendPoints: { kind: 'integer', label: 'Bend points', help: 'Rings in each round corner.', default: 9, min: 2, max: 1000, shownWhen: { corners: ['round'] } },
  ringStep: { kind: 'integer', label: 'Ring step', help: 'Every how many points a ring stands; 1 is every point.', default: 1, min: 1, max: 100_000 },
  relaxPinch: {
    kind: 'boolean',
    label: 'Relax pinches',
    help: 'Thins the section where it would fold over itself in a bend, and lets it grow back gently.',
    default: false,
  },
} as const satisfies Settings;

type CornerValues = ValuesOf<typeof cornerSettings>;

/** The path of a skin: with its corners rounded where asked, and with points where rings belong. `radiusOf` gives the section's radius on any path. */
export function roundedPath(given: Curves, settings: CornerValues, radiusOf: (curves: Curves) => Field, work: Work): Curves {
  if (settings.corners !== 'round') return paced(given, work);
  const own = radiusOf(given);
  const radius: Field =
    settings.bendRadius > 0
      ? constantField(settings.bendRadius)
      : { constant: own.constant * 3, values: own.values ? own.values.map((value) => value * 3) : null };
  return paced(roundCorners(given, { radius, points: settings.bendPoints, limit: true, keepFrames: true }, work), work);
}

/** How the kernels are told about corners: rounded ones have none left. */
export const cornersOf = ({ corners }: CornerValues): 'mitre' | 'asIs' => (corners === 'asIs' ? 'asIs' : 'mitre');

/**
 * Factors that thin a section of this radius where it would fold over itself, or null when they are not wanted or not needed. `inwardOf`: how far it
 * reaches toward the bend, where that is not the radius.
 */
export function withoutPinches(curves: Curves, radius: Field, settings: CornerValues, inwardOf?: (plans: TubePlans) => Field): Float64Array | null {
  if (!settings.relaxPinch) return null;
  const factors = pinchFactors(curves, { radius, caps: 'open', corners: cornersOf(settings), ringStep: settings.ringStep }, inwardOf);
  return factors.some((factor) => factor < 1) ? factors : null;
}

const skinWarnings: Record<SkinIssue['reason'], (issue: SkinIssue) => Warning> = {
  folds: (issue) => ({
    ...issue,
    message: `Pinches at ${issue.at.toFixed(2)} m of curve ${issue.curve}: the section is too thick for the bend.`,
    remedy: 'Relax pinches, make it thinner there, or widen the bend.',
  }),
  'near-itself': (issue) => ({
    ...issue,
    message: `Curve ${issue.curve} comes nearer than twice the radius to an earlier part of itself at ${issue.at.toFixed(2)} m; the skin runs through itself there.`,
    remedy: 'Part the two stretches, or make it thinner.',
  }),
  'turns-back': (issue) => ({
    ...issue,
    message: `Curve ${issue.curve} turns straight back at ${issue.at.toFixed(2)} m; the tube folds onto itself there.`,
    remedy: 'Part the two legs, or cut the curve there.',
  }),
  'one-point': (issue) => ({ ...issue, message: `Curve ${issue.curve} has one point, so nothing is made for it.`, remedy: 'Give it a second point.' }),
  'no-length': (issue) => ({
    ...issue,
    message: `All points of curve ${issue.curve} lie in one place, so nothing is made for it.`,
    remedy: 'Give it two different points.',
  }),
  seam: (issue) => ({
    ...issue,
    message: `The section of curve ${issue.curve} arrives at the seam turned by ${(issue.turn ?? 0).toPrecision(3)}°, so the wall twists by that in its last piece.`,
    remedy: `Round twist and roll of the frames to whole turns${(issue.symmetry ?? 1) > 1 ? `, or to a multiple of ${Number((360 / issue.symmetry!).toPrecision(4))}°, after which this section looks the same` : ''}.`,
  }),
  coarse: (issue) => ({
    ...issue,
    message: `Curve ${issue.curve} lies so far from the origin that places are stored ${((issue.grain ?? 0) * 1000).toPrecision(2)} mm apart there, which is coarse for its thickness.`,
    remedy: 'Move it near the origin with a Transform before the surface, or make it thicker.',
  }),
};

/** At most this many warnings of one node; the rest is counted in one more. */
const mostWarnings = 50;

export function tell(issues: readonly SkinIssue[], warn: RunContext<unknown>['warn']): void {
  for (const issue of issues.slice(0, mostWarnings)) warn(skinWarnings[issue.reason](issue));
  if (issues.length > mostWarnings) warn({ code: issues[mostWarnings].code, message: `And ${issues.length - mostWarnings} more places like these.` });
}
