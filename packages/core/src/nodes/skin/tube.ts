import { curvesIn, meshOut } from '../../definition/ports.js';
import type { Curves } from '../../geometry/curves.js';
import { thinned } from '../../skin/plan/relaxPinch.js';
import { findSelfCrossings } from '../../skin/plan/selfCross.js';
import { blendedTube } from '../../skin/forks/blendedTube.js';
import { tube } from '../../skin/tube/tube.js';
import type { Field } from '../../values/field.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { tell } from './issues.js';
import { cornerSettings, cornersOf, roundedPath, withoutPinches } from '../settings/corners.js';
import { uvSettings } from '../settings/uv.js';
import { capSettings, capsSetting } from '../settings/caps.js';

export default defineNode({
  type: 'skin.tube',
  label: 'Tube',
  family: families.skin,
  summary: 'A round tube along each curve.',
  help: 'Puts a ring at every point of the curves and a wall between the rings. Follows the frames of the curves, or minimal ones where there are none. Corners of straight curves are mitred, so a pipe keeps its thickness round a bend, or rounded in arcs. It warns where the section would fold over itself in a bend or run through another part of the same curve; Relax pinches mends the first by thinning it there. A radius that runs out to 0 at an end closes it on a point. UVs: u around, v along by length; caps have their own, flat and undistorted. Blended forks cut curves back where three ways or more meet, cross, or one comes back to itself, and close what is between them: one surface without inner faces, for networks from Creep, Branching rules, Routes or Edges as curves. Values of points and curves go on with the vertices at them.',
  attributes: { reads: ['tangent', 'normal'], writes: ['normal', 'uv', 'part'], keeps: ['point', 'curve', 'whole'] },
  keywords: ['pipe', 'wire', 'hose', 'cable', 'taper', 'fork', 'branch', 'joint', 'cylinder', 'sweep', 'radius'],
  asks: {
    'a pipe': {},
    'a cable': { radius: 0.01 },
    'close the ends': { caps: 'flat' },
    'round the ends': { caps: 'domed' },
    'thinner toward the tip': {
      radius: {
        ramp: [
          [0, 0.05],
          [1, 0.005],
        ],
        ease: 'linear',
      },
    },
    'a square tube': { sides: 4 },
    rounder: { sides: 32 },
    'pipe elbows': { corners: 'round' },
    'do not pinch in bends': { relaxPinch: true },
    'smooth joints where branches meet': { forks: 'blended' },
  },
  telling: ['radius', 'sides'],
  usualAfter: { curves: 3 },
  thickness: { setting: 'radius', toRadius: 1 },
  facesPerPiece: ({ sides }) => Number(sides),
  eases: { pinch: [{ label: 'Thin it where it pinches', setting: 'relaxPinch', value: true }] },
  inputs: [curvesIn],
  outputs: [meshOut],
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
    forks: {
      kind: 'choice',
      label: 'Forks',
      help: 'Where branches meet: each a tube of its own, or one closed surface that goes over from each into the others.',
      default: 'plain',
      choices: { plain: 'overlap', blended: 'blended' },
    },
    ...cornerSettings,
    ...uvSettings,
    ...capSettings,
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const radiusOf = (on: Curves): Field => field(settings.radius, on, 'point');
    const given = roundedPath(input('curves'), settings, radiusOf, context);
    const wanted = radiusOf(given);
    const factors = withoutPinches(given, wanted, settings);
    const radius = factors ? thinned(wanted, factors) : wanted;
    const options = { ...settings, corners: cornersOf(settings), radius };
    const { mesh, issues } = (settings.forks === 'blended' ? blendedTube : tube)(given, options, context);
    // Where forks are blended it is looked for beside them.
    if (settings.forks === 'plain') findSelfCrossings(given, radius, issues);
    tell(issues, warn);
    return { mesh };
  },
});
