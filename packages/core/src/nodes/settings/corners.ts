import type { Curves } from '../../geometry/curves.js';
import { paced } from '../../curves/change/resample.js';
import { roundCorners } from '../../curves/change/roundCorners.js';
import { pinchFactors } from '../../skin/plan/relaxPinch.js';
import type { TubePlans } from '../../skin/plan/tubePlan.js';
import type { Settings, ValuesOf } from '../../definition/settings.js';
import type { Work } from '../../base/work.js';
import { constantField, type Field } from '../../values/field.js';

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
    help: 'Of round corners, at the middle of the section; three times its radius makes long elbows (common practice).',
    default: 0,
    special: { called: 'three radii', instead: 0.15 },
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

export type CornerValues = ValuesOf<typeof cornerSettings>;

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
