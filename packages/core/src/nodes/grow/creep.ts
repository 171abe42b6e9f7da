import { curvesIn, curvesOut, meshIn } from '../../definition/ports.js';
import { defineNode, type Warning } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, strokeOverBall } from '../../definition/sample.js';
import { triangleCount } from '../../geometry/mesh.js';
import { Creep, type CreepTally } from '../../grow/creep.js';
import { laidOn } from '../../grow/laidOn.js';
import { reduce } from '../../mesh/change/reduce.js';
import { surfaceOf } from '../../near/surface.js';
import { seedSetting } from '../settings/common.js';

/** Shares of vines that may fail before it is told. */
const worthTelling = 0.1;

/** What went otherwise than one would expect, in words. */
function told(tally: CreepTally, vines: number): Warning[] {
  const { starts, far, furthest, noRoom, crowded, border, stuck, hanging } = tally;
  const many = (count: number, of: number): boolean => count > Math.max(0, of * worthTelling);
  const list: Warning[] = [];
  if (!vines) list.push({ code: 'empty', message: starts ? `None of ${starts} vines grew.` : 'The guides have no points.', remedy: 'Look at the chance, the steps and the guides.' }); // prettier-ignore
  if (many(far, starts)) list.push({ code: 'through-body', message: `${far} of ${starts} starts lie off the body, up to ${Number(furthest.toPrecision(3))} m; they were taken to its nearest place.`, remedy: 'Draw the guide on the body, or Drape it.' }); // prettier-ignore
  if (many(noRoom, starts)) list.push({ code: 'degenerate', message: `${noRoom} of ${starts} starts had no room.`, remedy: 'Start at every second or third point, or let vines be nearer to each other.' }); // prettier-ignore
  if (many(stuck, vines)) list.push({ code: 'degenerate', message: `${stuck} of ${vines} vines could not go on over slivers of the body.`, remedy: 'Weld the body, or grow on a reduced copy.' }); // prettier-ignore
  if (many(border, vines * 3)) list.push({ code: 'not-closed', message: `${border} of ${vines} vines ended at a border of the body.`, remedy: 'Weld it, or let them hang over gaps.' }); // prettier-ignore
  if (many(crowded, vines * 8)) list.push({ code: 'self-cross', message: `${crowded} of ${vines} vines ended where others were in their way.`, remedy: 'Start fewer, or let them be nearer to each other.' }); // prettier-ignore
  if (many(hanging, vines * 8)) list.push({ code: 'not-closed', message: `${hanging} of ${vines} vines ended hanging free.`, remedy: 'Let them hang further, or less far.' }); // prettier-ignore
  return list;
}

export default defineNode({
  type: 'grow.creep',
  label: 'Creep',
  family: families.grow,
  summary: 'Vines that creep over a body from guides on it.',
  help: 'Every point of the guides, or every second or third, starts a vine. Each step adds one piece to every growing tip, over the triangles of the body and round its edges; the tip turns by a chance, forks by a chance, leans one way, and goes on by a chance. The points stand off the body by the offset and know when they grew (birth and age, in seconds, for Reveal), which way is out (normal), how many forks they are from their guide (order) and which vine they left (parent). Let them grow on a reduced copy of a very fine body; they are then laid on the whole one.',
  attributes: { writes: ['tangent', 'normal', 'birth', 'age', 'hangs', 'order', 'parent'] },
  keywords: ['ivy', 'vine', 'growth', 'climb', 'creeper', 'plant', 'roots', 'moss', 'tendril'],
  asks: {
    'let ivy grow': {},
    'roots down a wall': { lean: [0, -0.5, 0] },
    'vines with side shoots': { branch: 0.05 },
    'vines that do not cross': { avoid: 0.05 },
  },
  telling: ['steps', 'chance'],
  sample: { given: { curves: { type: 'lay.surfaceStroke', settings: { strokes: [strokeOverBall] }, given: { mesh: ball } }, mesh: ball } },
  inputs: [curvesIn, meshIn],
  outputs: [curvesOut],
  settings: {
    startEvery: {
      kind: 'integer',
      label: 'Start at every',
      help: 'Which points of the guides start a vine: 1 each, 2 every second.',
      default: 1,
      min: 1,
      max: 100_000,
    },
    heading: {
      kind: 'choice',
      label: 'Heading',
      help: 'Which way vines begin.',
      default: 'any',
      choices: { any: 'any way', sides: 'to both sides of the guide', along: 'along the guide' },
    },
    steps: { kind: 'integer', label: 'Steps', help: 'Of a vine, at most.', default: 60, min: 1, max: 100_000 },
    chance: { kind: 'number', label: 'Goes on', help: 'Chance at each step; 0.9 and more makes long vines.', default: 0.95, min: 0, max: 1, step: 0.002 },
    step: { kind: 'number', label: 'Step', help: 'Length of one.', default: 0.05, min: 0, above: true, unit: 'm', step: 0.001, varies: 'point' },
    uneven: { kind: 'number', label: 'Uneven', help: 'Steps are up to this share longer or shorter.', default: 0.5, min: 0, max: 1, step: 0.01 },
    turn: { kind: 'number', label: 'Turn', help: 'Up to this to either side at each step.', default: 25, min: 0, max: 180, unit: '°', step: 0.5 },
    lean: {
      kind: 'vector',
      label: 'Lean',
      help: 'What they lean to at each step: 0, 0.2, 0 draws them up, 1 is as much as the way they go.',
      default: [0, 0, 0],
      step: 0.01,
      varies: 'point',
    },
    offset: { kind: 'number', label: 'Offset', help: 'Off the body, outwards.', default: 0.005, min: 0, unit: 'm', step: 0.0005 },
    branch: { kind: 'number', label: 'Forks', help: 'Chance of a side vine at each step.', default: 0, min: 0, max: 1, step: 0.002 },
    avoid: {
      kind: 'number',
      label: 'Keep apart',
      help: 'From other vines, and from older parts of the same.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.001,
      special: { called: 'they may cross', instead: 0.03 },
    },
    gap: {
      kind: 'number',
      label: 'Hang',
      help: 'How far they may hang free where the body ends, until they meet it again.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.01,
      special: { called: 'not at all', instead: 0.3 },
    },
    seed: { ...seedSetting, help: 'Another seed, other vines.' },
    pace: {
      kind: 'number',
      label: 'Pace',
      help: 'Steps of every tip in a second.',
      default: 24,
      min: 0,
      above: true,
      unit: 'a second',
      step: 0.1,
      group: 'Time',
    },
    spread: {
      kind: 'number',
      label: 'Starts within',
      help: 'How long it takes along a guide from the first start to the last.',
      default: 0,
      min: 0,
      unit: 's',
      step: 0.05,
      group: 'Time',
      special: { called: 'all at once', instead: 2 },
    },
    share: {
      kind: 'number',
      label: 'Grow on',
      help: 'Share of the triangles of the body that they grow over; they are laid on the whole body then.',
      default: 1,
      min: 0,
      above: true,
      max: 1,
      step: 0.01,
      group: 'Body',
    },
  },
  run: async (context) => {
    const { settings, input, field, vectorField, warn } = context;
    const [guides, given] = [input('curves'), input('mesh')];
    const grown = settings.share < 1 ? (await reduce(given, { triangles: Math.max(4, Math.round(triangleCount(given) * settings.share)), maxError: Infinity, keepBorder: true }, () => 0, context)).mesh : given; // prettier-ignore
    const { curves, tally } = new Creep(
      surfaceOf(grown, context),
      { ...settings, turn: (settings.turn * Math.PI) / 180, step: field(settings.step, guides, 'point'), lean: vectorField(settings.lean, guides, 'point') },
      context,
    ).grow(guides);
    told(tally, curves.starts.length - 1).forEach(warn);
    return { curves: grown === given ? curves : laidOn(curves, surfaceOf(given, context), settings.offset, context) };
  },
});
