import type { Curves } from '../geometry/curves.js';
import { axesToFollow, axisAliases, axisChoices } from '../geometry/axes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import { expandCopies, expandedSize } from '../geometry/expand.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { pointsOf } from '../curves/knots.js';
import { resample } from '../curves/resample.js';
import { defineNode, type WarningCode } from '../graph/define.js';
import type { DataSetting } from '../graph/settings.js';
import { placeCopies } from '../place/copies.js';
import { runOfPieces, type RunIssue } from '../place/run.js';
import { constantField } from '../values/field.js';
import { families } from './families.js';

const weightsSetting: DataSetting<readonly number[]> = {
  kind: 'data',
  label: 'Weights',
  help: 'Chances of the objects, in the order of their wires; those not named have 1.',
  default: [],
  shownWhen: { pick: ['random'] },
  fault: (value) => {
    const good = Array.isArray(value) && value.every((n) => typeof n === 'number' && Number.isFinite(n) && n >= 0);
    return good ? null : { path: '', message: 'it is a list of numbers, 0 or more.' };
  },
};

const copies = defineNode({
  type: 'place.copies',
  label: 'Place copies',
  family: families.place,
  summary: 'Puts a copy of an object on every point, or along curves.',
  help: 'Each copy follows the frame of its point: its own Z along the tangent and its Y along the normal, unless other axes are chosen here or by an Axes to follow before it. On curves a spacing puts copies so far apart; 0 takes the curve’s points. Several objects take turns, are drawn by chance, or are named by a value. Copies are shown and exported as instances; a node that needs a mesh expands them.',
  attributes: { reads: ['tangent', 'normal', 'axes'], keeps: ['point', 'curve'], drops: ['tangent', 'normal'] },
  keywords: ['instance', 'scatter', 'clone', 'chain', 'marker', 'duplicate', 'along', 'stamp'],
  inputs: [
    { name: 'points', kinds: ['points'], optional: true },
    { name: 'curves', kinds: ['curves'], optional: true },
    { name: 'objects', kinds: ['mesh'], many: true },
  ],
  outputs: [{ name: 'copies', kind: 'copies' }],
  settings: {
    spacing: {
      kind: 'number',
      label: 'Spacing',
      help: 'Along curves, evened out to meet the end; 0 takes the points there are.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.005,
    },
    size: { kind: 'number', label: 'Size', help: 'Factor on each copy.', default: 1, min: 0, step: 0.005, varies: 'point' },
    turn: { kind: 'number', label: 'Turn', help: 'About the tangent (about the vertical, when not aligned).', default: 0, unit: '°', step: 1, varies: 'point' },
    align: {
      kind: 'choice',
      label: 'Align',
      help: 'Follow the frame, stay upright and follow the way level, or do not turn.',
      default: 'frame',
      choices: { frame: 'frame', upright: 'upright', none: 'none' },
    },
    axes: {
      kind: 'choice',
      label: 'Axes',
      help: 'Whether own axes are those of the points (z along the tangent, y along the normal, if nothing was said), or chosen here.',
      default: 'asGiven',
      choices: { asGiven: 'as given', chosen: 'chosen' },
    },
    tangentAxis: {
      kind: 'choice',
      label: 'Along the tangent',
      help: 'The own axis that follows the tangent.',
      default: 'z',
      choices: axisChoices,
      aliases: axisAliases,
      shownWhen: { axes: ['chosen'] },
    },
    normalAxis: {
      kind: 'choice',
      label: 'Along the normal',
      help: 'The own axis that follows the normal.',
      default: 'y',
      choices: axisChoices,
      aliases: axisAliases,
      shownWhen: { axes: ['chosen'] },
    },
    pick: {
      kind: 'choice',
      label: 'Pick',
      help: 'Which of several objects a point gets.',
      default: 'inTurn',
      choices: { inTurn: 'in turn', random: 'by chance', byAttribute: 'by attribute' },
    },
    weights: weightsSetting,
    seed: { kind: 'integer', label: 'Seed', help: 'Another seed, another draw.', default: 1, min: 0, max: 1_000_000, shownWhen: { pick: ['random'] } },
    attribute: {
      kind: 'text',
      label: 'Attribute',
      help: 'The value that names the object: 0 is the first.',
      default: 'id',
      shownWhen: { pick: ['byAttribute'] },
    },
  },
  run: (context) => {
    const { settings, input, inputs, field, warn, claim } = context;
    const points = input('points') as Points | undefined;
    const curves = input('curves') as Curves | undefined;
    if (points && curves) throw new RangeError('Place copies got points and curves; it takes one of them.');
    const even = { by: 'spacing', count: constantField(2), spacing: constantField(settings.spacing), deviation: 1, fit: 'even', spread: 'even' } as const;
    const places = points ?? (curves && pointsOf(settings.spacing > 0 ? resample(curves, even, context) : curves));
    if (!places) {
      warn({ code: 'empty', message: 'Waiting for points or curves.', remedy: 'Wire one of them to it.' });
      return { copies: makeCopies([], new Uint32Array(0), new Float32Array(0)) };
    }
    claim({ copies: places.positions.length / 3 });
    const made = placeCopies(places, inputs('objects') as Mesh[], {
      ...settings,
      pick: settings.pick === 'byAttribute' ? { attribute: settings.attribute } : settings.pick,
      size: field(settings.size, places, 'point'),
      turn: field(settings.turn, places, 'point'),
      axes: settings.axes === 'chosen' ? axesToFollow(settings.tangentAxis, settings.normalAxis) : null,
    });
    return { copies: made };
  },
});

const runTroubles: Readonly<Record<RunIssue['code'], readonly [code: WarningCode, message: string, remedy: string]>> = {
  'too-short': ['degenerate', 'is shorter than a piece, so there is none on it', 'Use smaller pieces, or stretch them.'],
  'no-length': ['degenerate', 'has no length, so there is no piece on it', 'Give it two different points.'],
  upright: ['parallel-up', 'runs straight up or down in places; pieces there follow the frame', 'Switch Upright off, or lay the curve less steeply.'],
};

/** The number of an object among those that come in, or none. */
const objectSetting = { kind: 'integer', default: -1, min: -1, max: 10_000 } as const;

const run = defineNode({
  type: 'place.run',
  label: 'Run of pieces',
  family: families.place,
  summary: 'Pieces one after another along curves, each meeting the next: fences, chains, kerbs.',
  help: 'A piece is made with its length along one of its own axes (z, unless chosen) and begins in its origin, such as at its post, or where it begins itself. Each reaches straight from its place to that of the next, so that neighbours meet in bends too. Stretch takes as many as come nearest and makes each as long as its place; Nearest count leaves them as they are; Exact puts them end to end and leaves what is left over. Upright keeps posts upright and lets rails lean with the ground, by shearing the piece (files without shear need it as a mesh); else pieces turn with the frame, each rolled beyond the last if you like, as the links of a chain. At corners of straight curves a piece ends and another begins, and an object of its own may stand there, as at the ends. The objects of corners and ends are numbered from 0 in the order of their wires, and not picked for the run.',
  attributes: { reads: ['tangent', 'normal'], writes: ['id', 'curve', 's'], keeps: [] },
  keywords: ['fence', 'chain', 'kerb', 'rail', 'modular', 'repeat', 'array', 'along', 'panel', 'link', 'wall'],
  inputs: [
    { name: 'curves', kinds: ['curves'] },
    { name: 'objects', kinds: ['mesh'], many: true },
  ],
  outputs: [{ name: 'copies', kind: 'copies' }],
  settings: {
    axis: { kind: 'choice', label: 'Along', help: 'The own axis of a piece that runs along the curve.', default: 'z', choices: { x: 'X', y: 'Y', z: 'Z' } },
    length: { kind: 'number', label: 'Length', help: 'Of a piece; 0 measures it.', default: 0, min: 0, unit: 'm', step: 0.01 },
    begin: {
      kind: 'choice',
      label: 'Begins',
      help: 'In its origin, such as at the middle of a post, or where its shape begins.',
      default: 'origin',
      choices: { origin: 'in its origin', edge: 'at its edge' },
    },
    fit: {
      kind: 'choice',
      label: 'Fit',
      help: 'How pieces fill the length.',
      default: 'stretch',
      choices: { stretch: 'stretch', nearestCount: 'nearest count', exact: 'exact' },
    },
    size: { kind: 'number', label: 'Size', help: 'Factor on each piece.', default: 1, min: 0, above: true, step: 0.005 },
    upright: { kind: 'boolean', label: 'Upright', help: 'Own up stays upright, and the piece leans along with the ground.', default: true },
    alternateRoll: {
      kind: 'number',
      label: 'Roll step',
      help: 'Rolls each piece beyond the one before it; 90° turns the links of a chain.',
      default: 0,
      unit: '°',
      step: 1,
      shownWhen: { upright: [false] },
    },
    pick: {
      kind: 'choice',
      label: 'Pick',
      help: 'Which of several objects a place gets.',
      default: 'random',
      choices: { random: 'by chance', inTurn: 'in turn' },
    },
    weights: weightsSetting,
    seed: { kind: 'integer', label: 'Seed', help: 'Another seed, another draw.', default: 1, min: 0, max: 1_000_000, shownWhen: { pick: ['random'] } },
    cornerAngle: {
      kind: 'number',
      label: 'Corner angle',
      help: 'At corners that turn by more than this a piece ends and another begins.',
      default: 20,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
    },
    cornerPiece: { ...objectSetting, label: 'Corner piece', help: 'The number of the object that stands at corners besides; −1: none.' },
    endPiece: {
      ...objectSetting,
      label: 'End piece',
      help: 'The number of the object that stands at the end of open curves, such as the last post; −1: none.',
    },
  },
  run: (context) => {
    const { settings, curves, inputs, warn } = context;
    const objects = inputs('objects') as Mesh[];
    for (const [label, number] of [['Corner piece', settings.cornerPiece], ['End piece', settings.endPiece]] as const)
      if (number >= objects.length) throw new RangeError(`${label} is ${number}; there are ${objects.length} objects, 0 to ${objects.length - 1}.`); // prettier-ignore
    const { copies: made, issues } = runOfPieces(curves('curves'), objects, { ...settings, axis: 'xyz'.indexOf(settings.axis) as 0 | 1 | 2 }, context);
    const told = new Set<string>();
    for (const { code, curve } of issues) {
      if (told.size >= 50 || told.has(`${code} ${curve}`)) continue;
      told.add(`${code} ${curve}`);
      const [warning, message, remedy] = runTroubles[code];
      warn({ code: warning, curve, message: `Curve ${curve} ${message}.`, remedy });
    }
    return { copies: made };
  },
});

const expand = defineNode({
  type: 'place.expand',
  label: 'Turn copies into mesh',
  family: families.place,
  summary: 'All copies as one mesh, each with faces of its own.',
  help: 'Writes every copy out where it stands, so that its faces can be changed, counted, cut and exported one by one. Copies that are sheared, such as the leaning pieces of an upright run, go into every format this way. It takes as much memory as it has faces: leave copies as they are where nothing asks for more.',
  attributes: { keeps: ['corner', 'face'] },
  keywords: ['realise', 'instances', 'bake', 'flatten', 'apply', 'make real', 'merge'],
  inputs: [{ name: 'copies', kinds: ['copies'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  settings: {},
  run: ({ input, claim }) => {
    const given = input('copies') as Copies;
    claim(expandedSize(given));
    return { mesh: expandCopies(given) };
  },
});

export const placeNodes = [copies, run, expand];
