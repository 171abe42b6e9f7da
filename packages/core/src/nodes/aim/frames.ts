import { curvesIn, curvesOut } from '../../definition/ports.js';
import { withAttributes } from '../../geometry/attributes.js';
import { computeFrames, type FrameIssue } from '../../curves/evaluate/frames.js';
import { paced } from '../../curves/change/resample.js';
import { newHit } from '../../near/nearest.js';
import { surfaceOf, type Surface } from '../../near/surface.js';
import { defineNode, type Warning } from '../../definition/define.js';
import { families } from '../../definition/families.js';

const place = ({ curve, at }: FrameIssue): string => `at ${at.toFixed(2)} m of curve ${curve + 1}`;

/** What each trouble with frames means to an artist. */
const frameWarnings: Record<FrameIssue['code'], (issue: FrameIssue) => Warning> = {
  'parallel-up': (issue) => ({
    ...issue,
    message: issue.near
      ? `The path runs almost parallel to the wanted direction ${place(issue)}; the frame turns quickly there.`
      : `The path runs parallel to the wanted direction ${place(issue)}; there the frame continues its neighbour.`,
    remedy: 'Choose another up or target, or the minimal method.',
  }),
  flip: (issue) => ({ ...issue, message: `The frame flips over ${place(issue)}, from one point to the next.`, remedy: 'Use the minimal method.' }),
  'simpler-method-used': (issue) => ({
    ...issue,
    message: `The path is straight ${place(issue)} and has no bend to follow; there the frame continues its neighbour.`,
    remedy: 'Use the minimal method.',
  }),
  degenerate: (issue) => ({
    ...issue,
    message: `Curve ${issue.curve + 1} has no length; its frames point along the axes.`,
    remedy: 'Give it two different points.',
  }),
};

/** Looks the normal of a surface up at the nearest place. */
function shadingOf(surface: Surface): (x: number, y: number, z: number) => [number, number, number] {
  const hit = newHit();
  const normal = new Float64Array(3);
  return (x, y, z) => {
    surface.shading(surface.nearest.nearest(x, y, z, hit), normal);
    return [normal[0], normal[1], normal[2]];
  };
}

export default defineNode({
  type: 'aim.frames',
  label: 'Frames',
  family: families.aim,
  summary: 'Gives every point a forward, an up and a side direction.',
  help: 'Writes tangent and normal to the points (side is tangent × normal); surfaces and copies follow them. Minimal turns as little as possible along the path (double reflection, Wang et al. 2008) and never flips. Upright keeps the normal on the side of a fixed direction, for rails and fences. Curvature points it to the centre of the bend (it flips where the bend changes sides, and says so). Target points it to a place, or to the middle of its own curve. Surface takes it from the nearest place of the body, so that a ribbon lies on the ground and posts stand square to it. Roll turns each frame about its tangent; twist adds turns along the way. On a closed curve the closing angle is spread evenly, so that the ends meet.',
  attributes: { reads: ['tangent'], writes: ['tangent', 'normal', 'roll'] },
  keywords: ['orient', 'twist', 'tangent', 'up vector', 'parallel transport', 'normal', 'up', 'roll', 'rotation minimising', 'bishop'],
  asks: {
    'twist along the path': { twist: 360 },
    'roll the profile': { roll: 45 },
    'keep the profile upright': { method: 'minimal' },
    'aim at a point': { method: 'target' },
    'follow the surface': { method: 'surface' },
    'one twist a metre': { twistIn: 'perMetre', twist: 360 },
  },
  telling: ['method', 'twist'],
  sample: { settings: { twist: 360 }, shownBy: (curves) => ({ type: 'skin.ribbon', given: { curves } }) },
  usualAfter: { curves: 7 },
  eases: {
    'parallel-up': [{ label: 'Use least-turning frames', setting: 'method', value: 'minimal' }],
    flip: [{ label: 'Use least-turning frames', setting: 'method', value: 'minimal' }],
  },
  handles: [
    { kind: 'direction', setting: 'up', at: ['middle'] },
    { kind: 'direction', setting: 'start', at: ['middle'] },
    { kind: 'place', setting: 'target' },
  ],
  inputs: [curvesIn, { name: 'body', kinds: ['mesh'], optional: true }],
  outputs: [curvesOut],
  passes: true,
  settings: {
    method: {
      kind: 'choice',
      label: 'Method',
      help: 'How the up direction is carried along.',
      default: 'minimal',
      choices: { minimal: 'minimal', upright: 'upright', curvature: 'curvature', target: 'target', surface: 'surface' },
    },
    up: {
      kind: 'vector',
      label: 'Up',
      help: 'The direction an upright normal keeps to.',
      default: [0, 1, 0],
      direction: true,
      shownWhen: { method: ['upright'] },
    },
    start: {
      kind: 'vector',
      label: 'Start',
      help: 'The direction the first normal leans to.',
      default: [0, 1, 0],
      direction: true,
      shownWhen: { method: ['minimal', 'curvature'] },
    },
    toward: {
      kind: 'choice',
      label: 'Toward',
      help: 'What normals by target point to.',
      default: 'point',
      choices: { point: 'a point', centre: 'the middle of the curve' },
      shownWhen: { method: ['target'] },
    },
    target: {
      kind: 'vector',
      label: 'Target',
      help: 'The place to point to.',
      default: [0, 0, 0],
      unit: 'm',
      shownWhen: { method: ['target'], toward: ['point'] },
    },
    tangents: {
      kind: 'choice',
      label: 'Tangents',
      help: 'Directions of the path: as the curve has them, the mean of the pieces on both sides of a point, or that of the next piece.',
      default: 'exact',
      choices: { exact: 'exact', neighbours: 'neighbours (mean)', forwardDifference: 'forward difference' },
      aliases: { neighboursMean: 'neighbours' },
    },
    roll: { kind: 'number', label: 'Roll', help: 'Turns each frame about its tangent.', default: 0, unit: '°', step: 1, varies: 'point' },
    rollStep: {
      kind: 'number',
      label: 'Roll step',
      help: 'Rolls each point beyond the one before it; 90° turns the links of a chain.',
      default: 0,
      unit: '°',
      step: 1,
    },
    twist: { kind: 'number', label: 'Twist', help: 'Turns the frames more and more along the curve.', default: 0, unit: '°', step: 1 },
    twistIn: {
      kind: 'choice',
      label: 'Twist in',
      help: 'Degrees over the whole curve, or turns per metre.',
      default: 'whole',
      choices: { whole: '° over the whole', perMetre: 'turns per metre' },
    },
    spreadClosure: {
      kind: 'boolean',
      label: 'Spread closure',
      help: 'Spreads the closing angle of closed curves evenly.',
      default: true,
      shownWhen: { method: ['minimal'] },
    },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const body = settings.method === 'surface' ? input('body') : undefined;
    if (settings.method === 'surface' && !body) throw new RangeError('Frames by surface need a body: wire a mesh to it.');
    const given = paced(input('curves'), context);
    const perMetre = settings.twistIn === 'perMetre';
    const { tangent, normal, roll, issues } = computeFrames(given, {
      ...settings,
      surface: body ? shadingOf(surfaceOf(body, context)) : null,
      target: settings.toward === 'centre' ? null : settings.target,
      roll: settings.roll === 0 ? null : field(settings.roll, given, 'point'),
      twist: perMetre ? 0 : settings.twist,
      turnsPerMetre: perMetre ? settings.twist : 0,
    });
    for (const issue of issues.slice(0, 100)) warn(frameWarnings[issue.code](issue));
    const attributes = withAttributes(given.attributes, {
      tangent: { carrier: 'point', size: 3, data: tangent },
      normal: { carrier: 'point', size: 3, data: normal },
      roll: { carrier: 'point', size: 1, data: roll },
    });
    return { curves: { ...given, attributes } };
  },
});
