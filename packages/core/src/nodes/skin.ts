import { paced } from '../curves/resample.js';
import { rope } from '../skin/rope.js';
import { tube } from '../skin/tube.js';
import type { SkinIssue } from '../skin/tubePlan.js';
import { defineNode, type RunContext, type Warning } from '../graph/define.js';
import type { Settings } from '../graph/settings.js';
import { families } from './families.js';

const capsSetting = {
  kind: 'choice',
  label: 'Caps',
  help: 'How open ends are closed.',
  default: 'open',
  choices: { open: 'open', flat: 'flat', domed: 'domed' },
} as const;

const uvSettings = {
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

const skinWarnings: Record<SkinIssue['reason'], (issue: SkinIssue) => Warning> = {
  folds: (issue) => ({
    ...issue,
    message: `Pinches at ${issue.at.toFixed(2)} m of curve ${issue.curve}: the section is too thick for the bend.`,
    remedy: 'Make it thinner there, or widen the bend.',
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
};

/** At most this many warnings of one node; the rest is counted in one more. */
const mostWarnings = 50;

function tell(issues: readonly SkinIssue[], warn: RunContext<unknown>['warn']): void {
  for (const issue of issues.slice(0, mostWarnings)) warn(skinWarnings[issue.reason](issue));
  if (issues.length > mostWarnings) warn({ code: issues[mostWarnings].code, message: `And ${issues.length - mostWarnings} more places like these.` });
}

const tubeNode = defineNode({
  type: 'skin.tube',
  label: 'Tube',
  family: families.skin,
  summary: 'A round tube along each curve.',
  help: 'Puts a ring at every point of the curves and a wall between the rings. Follows the frames of the curves, or minimal ones where there are none. Corners of straight curves are mitred, so a pipe keeps its thickness round a bend. A radius that runs out to 0 at an end closes it on a point. UVs: u around, v along by length; caps have their own, flat and undistorted.',
  keywords: ['pipe', 'cable', 'cylinder', 'sweep', 'wire', 'radius', 'taper'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  settings: {
    radius: {
      kind: 'number',
      label: 'Radius',
      help: 'Half the thickness. A ramp tapers it.',
      default: 0.05,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.0005,
      varies: 'point',
    },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of the section.', default: 12, min: 3, max: 4096 },
    caps: capsSetting,
    corners: {
      kind: 'choice',
      label: 'Corners',
      help: 'Mitre keeps the thickness round corners of straight curves; as is leaves sections square to the bisector.',
      default: 'mitre',
      choices: { mitre: 'mitre', asIs: 'as is' },
    },
    ringStep: { kind: 'integer', label: 'Ring step', help: 'Every how many points a ring stands; 1 is every point.', default: 1, min: 1, max: 100_000 },
    ...uvSettings,
  },
  run: (context) => {
    const { settings, curves, field, warn } = context;
    const given = paced(curves('curves'), context);
    const { mesh, issues } = tube(given, { ...settings, radius: field(settings.radius, given, 'point') }, context);
    tell(issues, warn);
    return { mesh };
  },
});

const ropeNode = defineNode({
  type: 'skin.rope',
  label: 'Rope',
  family: families.skin,
  summary: 'A laid rope of twisted strands along each curve.',
  help: 'Winds strands round each curve. Strands touch their neighbours in space, so at short lays they are thinner than the flat section suggests. Lay length is one turn of a strand along the rope (2.5 to 4 diameters for fibre rope, 6 to 7.5 for wire; common practice). A closed curve gets a whole number of turns, so that the strands meet.',
  keywords: ['strand', 'twist', 'laid', 'cord', 'cable', 'line', 'lay'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  settings: {
    diameter: {
      kind: 'number',
      label: 'Diameter',
      help: 'Of the whole rope. A ramp tapers it.',
      default: 0.04,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.0005,
      varies: 'point',
    },
    strands: { kind: 'integer', label: 'Strands', help: 'How many are twisted together.', default: 3, min: 1, max: 64 },
    layLength: {
      kind: 'number',
      label: 'Lay length',
      help: 'Length along the rope of one turn of a strand.',
      default: 0.28,
      min: 0,
      above: true,
      unit: 'm/turn',
      step: 0.001,
    },
    turnsPerMetre: {
      kind: 'number',
      label: 'Turns per metre',
      help: 'Above 0: used instead of the lay length.',
      default: 0,
      min: 0,
      max: 10_000,
      unit: '/m',
      step: 0.05,
    },
    hand: {
      kind: 'choice',
      label: 'Hand',
      help: 'Right is the common lay: strands rise to the right.',
      default: 'right',
      choices: { right: 'right', left: 'left' },
    },
    sides: { kind: 'integer', label: 'Sides', help: 'Corners of a strand’s section.', default: 8, min: 3, max: 256 },
    ringsPerTurn: { kind: 'integer', label: 'Rings per turn', help: 'How finely a strand is divided along one turn.', default: 16, min: 4, max: 256 },
    core: { kind: 'boolean', label: 'Core', help: 'Fills the hole in the middle with a straight strand.', default: false },
    caps: capsSetting,
    ...uvSettings,
  },
  run: (context) => {
    const { settings, curves, field, warn } = context;
    const given = paced(curves('curves'), context);
    const layLength = settings.turnsPerMetre > 0 ? 1 / settings.turnsPerMetre : settings.layLength;
    const { mesh, issues } = rope(given, { ...settings, layLength, diameter: field(settings.diameter, given, 'point') }, context);
    tell(issues, warn);
    return { mesh };
  },
});

export const skinNodes = [tubeNode, ropeNode];
