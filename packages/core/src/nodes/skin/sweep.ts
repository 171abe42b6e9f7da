import { curvesIn, meshOut } from '../../definition/ports.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import { takeCurves } from '../../geometry/gather.js';
import { joinMeshes } from '../../geometry/join.js';
import type { Mesh } from '../../geometry/mesh.js';
import { framesOf } from '../../curves/evaluate/frames.js';
import { matchProfiles, profileFrom, type Profile } from '../../skin/sweep/profile.js';
import { thinned } from '../../skin/plan/relaxPinch.js';
import { findSelfCrossings, mostPointsForSelfCross } from '../../skin/plan/selfCross.js';
import { sweep } from '../../skin/sweep/sweep.js';
import { inwardReach, sectionMiddles, sectionRadius } from '../../skin/sweep/sweepSection.js';
import type { SkinIssue } from '../../skin/plan/tubePlan.js';
import { defineNode } from '../../definition/define.js';
import { constantField, type Field } from '../../values/field.js';
import { families } from '../../definition/families.js';
import { pairedCount, unequalSetting } from '../settings/unequal.js';
import { tell } from './issues.js';
import { cornerSettings, cornersOf, roundedPath, withoutPinches } from '../settings/corners.js';
import { uvSettings } from '../settings/uv.js';
import { capSettings } from '../settings/caps.js';

export default defineNode({
  type: 'skin.sweep',
  label: 'Sweep',
  family: families.skin,
  summary: 'Carries a profile of any shape along each curve.',
  help: 'The profile’s own x lies on the frame’s normal and its y on the side; draw it about the origin in XY (any plane will do, its distance from the origin is dropped). Closed outlines face outwards whichever way they were drawn; an outline inside another is a hole, and flat caps have it too. Each wire into profile is one profile: several are blended along the way (Profile at says where which one is), or given to one curve each. Corners of the profile above the edge angle stay edges. UVs: u around by the length of the outline, v along by length. Values of points and curves go on with the vertices at them.',
  attributes: { reads: ['tangent', 'normal'], writes: ['normal', 'uv', 'part'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['profile', 'extrude', 'revolve', 'lathe', 'section', 'pipe', 'rail', 'gutter', 'moulding', 'star', 'blend'],
  asks: {
    'thinner toward the tip': { size: { ramp: [[0, 1], [1, 0.1]], ease: 'linear' } }, // prettier-ignore
    'sweep a profile': {},
    'a gutter along the path': {},
    'blend between profiles': { profiles: 'blend' },
    'turn the profile': { roll: 90 },
  },
  telling: ['size'],
  sample: { given: { profile: { type: 'lay.polygon', settings: { sides: 5, radius: 0.08, inner: 0.5 } } } },
  usualAfter: { curves: 4 },
  thickness: null,
  eases: { pinch: [{ label: 'Thin it where it pinches', setting: 'relaxPinch', value: true }] },
  inputs: [curvesIn, { name: 'profile', kinds: ['curves'], many: true }],
  outputs: [meshOut],
  settings: {
    size: {
      kind: 'number',
      label: 'Size',
      help: 'Factor on the profile, or two factors [along the normal, along the side]. A ramp tapers it.',
      default: 1,
      min: 0,
      step: 0.005,
      varies: 'point',
      pair: true,
    },
    roll: { kind: 'number', label: 'Roll', help: 'Turns the profile about the path.', default: 0, unit: '°', step: 1, varies: 'point' },
    profiles: {
      kind: 'choice',
      label: 'Several profiles',
      help: 'Blend them along every curve, or give each curve the next one.',
      default: 'blend',
      choices: { blend: 'blend along the way', perCurve: 'one for each curve' },
    },
    profileAt: {
      kind: 'number',
      label: 'Profile at',
      help: 'Which profile: 0 is the first, 1 the last, between them a blend. By default from the first to the last along the curve.',
      default: { ramp: [[0, 0], [1, 1]] }, // prettier-ignore
      min: 0,
      max: 1,
      step: 0.005,
      varies: 'point',
      shownWhen: { profiles: ['blend'] },
    },
    centre: {
      kind: 'boolean',
      label: 'Centre the profile',
      help: 'Puts the middle of the profile’s box on the path, instead of the origin it was drawn about.',
      default: false,
    },
    caps: { kind: 'choice', label: 'Caps', help: 'How open ends are closed.', default: 'open', choices: { open: 'open', flat: 'flat' } },
    hard: {
      kind: 'number',
      label: 'Edge angle',
      help: 'Corners of the profile that turn by more than this stay edges.',
      default: 30,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
    },
    ...cornerSettings,
    ...unequalSetting,
    ...uvSettings,
    ...capSettings,
  },
  run: (context) => {
    const { settings, input, inputs, field, warn } = context;
    const profiles = inputs('profile').map((profile) => profileFrom(profile, settings));
    const issues: SkinIssue[] = [];
    const one = (paths: Curves, own: readonly Profile[]): Mesh => {
      const sizesOn = (on: Curves): [Field, Field] => {
        const { size } = settings;
        if (Array.isArray(size)) return [constantField((size as readonly number[])[0]), constantField((size as readonly number[])[1])];
        const both = field(size as Exclude<typeof size, readonly [number, number]>, on, 'point');
        return [both, both];
      };
      const radiusOf = (on: Curves): Field => sectionRadius(on, own, sizesOn(on));
      const given = roundedPath(paths, settings, radiusOf, context);
      const radius = radiusOf(given);
      const asGiven = { size: sizesOn(given), roll: field(settings.roll, given, 'point'), profileAt: field(settings.profileAt, given, 'point') };
      const factors = withoutPinches(given, radius, settings, (plans) => inwardReach(given, plans, framesOf(given), own, asGiven));
      const size = asGiven.size.map((each) => (factors ? thinned(each, factors) : each)) as [Field, Field];
      const made = sweep(given, own, { ...settings, ...asGiven, size, corners: cornersOf(settings) }, context);
      issues.push(...made.issues);
      if (given.positions.length / 3 <= mostPointsForSelfCross) {
        const middles = sectionMiddles(given, framesOf(given), own, { ...asGiven, size });
        findSelfCrossings(middles.curves, middles.radius, issues, given);
      }
      return made.mesh;
    };
    const paths = input('curves');
    const mesh = settings.profiles === 'blend' ? one(paths, matchProfiles(profiles)) : joinMeshes(eachCurve(paths, profiles, settings.unequal, one));
    tell(issues, warn);
    return { mesh };
  },
});

/** Each curve with the profile of its number. */
function eachCurve(
  paths: Curves,
  profiles: readonly Profile[],
  unequal: 'error' | 'shortest' | 'cycle',
  one: (paths: Curves, own: readonly Profile[]) => Mesh,
): Mesh[] {
  const count = profiles.length === 1 ? curveCount(paths) : pairedCount({ curves: curveCount(paths), profiles: profiles.length }, unequal);
  return Array.from({ length: count }, (_, i) => {
    const c = i % curveCount(paths);
    return one(takeCurves(paths, [c]), [profiles[i % profiles.length]]);
  });
}
