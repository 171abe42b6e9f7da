import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, lineOf } from '../../definition/sample.js';
import { paced } from '../../curves/change/resample.js';
import { curveClearance, meshClearance } from '../../gauge/clearance.js';
import { curveCount } from '../../geometry/curves.js';
import { takeCurves } from '../../geometry/gather.js';
import { surfaceOf } from '../../near/surface.js';

/** Places told of one by one. */
const mostTold = 40;

const millimetres = (metres: number): string => `${Number((Math.abs(metres) * 1000).toPrecision(3))} mm`;

/** Settings of Lead round that keep what runs along the curves clear of the body: a tenth more than asked, for what runs between points. Null where the radius varies. */
const clear =
  (way: 'taut' | 'aside') =>
  ({ radius, least }: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> | null =>
    typeof radius === 'number' ? { way, clearance: Number(((radius + Number(least)) * 1.1).toPrecision(3)) } : null;

export default defineNode({
  type: 'gauge.clearance',
  label: 'Clearance',
  family: families.gauge,
  summary: 'Measures how far ropes are from bodies and from each other, skin to skin, and tells where they pass through.',
  help: 'Writes clearance (metres between the skins; below 0 they are in each other) and mark (1 where it is less than asked) to every point, and a warning for each place. Curves are looked at between their points too. Near the ends of open curves, which lie on bodies by right, nothing is looked at. What is marked can be dropped by Keep or drop, led round or pushed out by Lead round; Checks does each with one click. Points at ends that are not looked at, and those with nothing to be measured to, have 1,000,000 m.',
  attributes: { writes: ['clearance', 'mark'] },
  keywords: ['clash', 'gap', 'penetrate', 'intersecting', 'distance', 'check', 'pass through', 'collision'],
  asks: {
    'do ropes pass through the body': {},
    'find where it passes through': {},
    'distance between ropes': { eachOther: true },
  },
  telling: ['least'],
  sample: { settings: { least: 0.1 }, given: { any: lineOf([-1, 1.4, 0], [1, 1.4, 0]), body: ball } },
  eases: {
    'through-body': [
      { label: 'Drop the curves that pass through', setting: 'drop', value: true },
      { label: 'Lead them round', before: 'shape.leadRound', settings: clear('taut') },
      { label: 'Push them out', before: 'shape.leadRound', settings: clear('aside') },
    ],
    'self-cross': [{ label: 'Drop the curves that are too near', setting: 'drop', value: true }],
  },
  inputs: [
    { name: 'any', kinds: ['curves', 'mesh'], aliases: ['curves', 'mesh'] },
    { name: 'body', kinds: ['mesh'], optional: true },
  ],
  outputs: [{ name: 'any', kind: 'any', follows: 'any' }],
  passes: true,
  where: 'none',
  settings: {
    radius: {
      kind: 'number',
      label: 'Radius',
      help: 'Half the thickness of what runs along the curves.',
      default: 0.012,
      min: 0,
      unit: 'm',
      step: 0.001,
      varies: 'point',
    },
    least: { kind: 'number', label: 'At least', help: 'Between the skins.', default: 0, min: 0, unit: 'm', step: 0.001 },
    ends: {
      kind: 'number',
      label: 'Not at ends',
      help: 'So much at both ends of open curves is not looked at.',
      default: 0.05,
      min: 0,
      unit: 'm',
      step: 0.005,
    },
    eachOther: { kind: 'boolean', label: 'Each other', help: 'Curves are measured to each other too.', default: false },
    drop: { kind: 'boolean', label: 'Drop', help: 'Curves that come too near anywhere are left out.', default: false },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = input('any');
    const body = input('body');
    if (!body && (given.type === 'mesh' || !settings.eachOther)) throw new RangeError('Nothing is wired into body, so there is nothing to be clear of.');
    const surface = body ? surfaceOf(body, context) : null;
    if (given.type === 'mesh') {
      const { geometry, tooNear } = meshClearance(given, surface!, settings.least, context);
      if (tooNear) warn({ code: 'through-body', message: `${tooNear} of ${geometry.positions.length / 3} vertices are nearer to the body than ${millimetres(settings.least)}, or in it.`, remedy: 'Move them off, or make the body smaller.' }); // prettier-ignore
      return { any: geometry };
    }
    const curves = paced(given, context);
    const { geometry, places } = curveClearance(curves, surface, { ...settings, radius: field(settings.radius, curves, 'point') }, context);
    if (settings.drop) {
      const gone = new Set(places.map(({ curve }) => curve));
      return {
        any: takeCurves(
          geometry,
          [...Array(curveCount(geometry)).keys()].filter((c) => !gone.has(c)),
        ),
      };
    }
    for (const { curve, at, clearance, other } of places.slice(0, mostTold))
      warn({
        code: other < 0 ? 'through-body' : 'self-cross',
        curve,
        at,
        message: `Curve ${curve + 1} ${clearance < 0 ? `is ${millimetres(clearance)} into` : `comes within ${millimetres(clearance)} of`} ${other < 0 ? 'the body' : `curve ${other + 1}`} at ${at.toFixed(2)} m.`,
        remedy: other < 0 ? 'Drop it, lead it round, or push it out.' : 'Drop one of them, or let them keep apart with Relax.',
      });
    if (places.length > mostTold)
      warn({ code: 'through-body', message: `There are ${places.length - mostTold} more such places.`, remedy: 'Look at the marks.' });
    return { any: geometry };
  },
});
