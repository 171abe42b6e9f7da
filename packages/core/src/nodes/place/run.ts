import { seedSetting, axisSetting } from '../settings/common.js';
import { copiesOut, curvesIn } from '../../definition/ports.js';
import { defineNode, type WarningCode } from '../../definition/define.js';
import type { Curves } from '../../geometry/curves.js';
import type { RunIssue, RunOptions } from '../../place/run/options.js';
import { runOfPieces } from '../../place/run/runOfPieces.js';
import { families } from '../../definition/families.js';
import { boxOf } from '../../definition/sample.js';
import { standsSetting, usualStanding } from './standing.js';

const runTroubles: Readonly<Record<RunIssue['code'], readonly [code: WarningCode, message: string, remedy: string]>> = {
  'too-short': ['degenerate', 'is shorter than a piece, so there is none on it', 'Use smaller pieces, or stretch them.'],
  'no-length': ['degenerate', 'has no length, so there is no piece on it', 'Give it two different points.'],
  folds: ['pinch', 'bends more sharply than a piece is wide, which folds over itself there', 'Widen the bend, or make the piece thinner on its inner side.'],
  upright: ['parallel-up', 'runs straight up or down in places; pieces there follow the frame', 'Switch Upright off, or lay the curve less steeply.'],
};

export default defineNode({
  type: 'place.run',
  label: 'Run of pieces',
  family: families.place,
  summary: 'Pieces one after another along curves, each meeting the next: fences, chains, kerbs.',
  help: 'Model each piece with its length along one axis (z, unless you choose another). It begins at its origin, for example at its post, or at its own edge. Each reaches straight from its place to that of the next, so that neighbours meet in bends too. Stretch takes as many as come nearest and makes each as long as its place; Nearest count leaves them as they are; Exact puts them end to end and leaves what is left over; One a span takes one from each given point to the next, so that points drawn at posts stay at posts. Bend pieces lays each along the curve between its places instead, as a handrail or a gutter is bent: it needs points along it for that, and each is an object of its own in files. Upright keeps posts upright and lets rails lean with the ground, by shearing the piece; else pieces turn with the frame, each rolled beyond the last if you like, as the links of a chain. At corners of straight curves a piece ends and another begins; upright pieces see corners from above, so that bumps of the ground are none. Objects says what stands where: posts where pieces meet, a gate as the first piece. A value on the given points can name the object that begins there (Pick by attribute), such as a gate at one of them.',
  attributes: { reads: ['tangent', 'normal'], writes: ['id', 'curve', 's'], keeps: [] },
  keywords: ['fence', 'posts', 'chain', 'kerb', 'rail', 'modular', 'repeat', 'array', 'along', 'panel', 'link', 'wall'],
  asks: {
    'pieces end to end': {},
    'a chain': { alternateRoll: 90 },
    'one piece between each two points': { fit: 'spans' },
    'a gate at one of the points': { fit: 'spans', pick: 'byAttribute' },
    'rails between posts': { upright: true },
    'whole pieces only': { fit: 'exact' },
    'stretch pieces to fit': { fit: 'stretch' },
    'pieces that bend with the curve': { bendPieces: true },
  },
  telling: ['fit', 'axis'],
  sample: { given: { objects: boxOf(0.06, 0.1, 0.2) } },
  inputs: [curvesIn, { name: 'objects', kinds: ['mesh'], many: true }],
  outputs: [copiesOut],
  settings: {
    axis: { ...axisSetting, label: 'Along', help: 'The own axis of a piece that runs along the curve.' },
    length: { kind: 'number', label: 'Length', help: 'Of a piece.', default: 0, min: 0, unit: 'm', step: 0.01, special: { called: 'as measured', instead: 1 } },
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
      choices: { stretch: 'stretch', nearestCount: 'nearest count', exact: 'exact', spans: 'one a span' },
    },
    lengths: {
      kind: 'choice',
      label: 'Places',
      help: 'Each piece takes a place of its own length, such as a gate among panels; or all as long a one as the longest.',
      default: 'own',
      earlier: { before: 3, default: 'longest' },
      choices: { own: 'each its own', longest: 'as the longest' },
      shownWhen: { fit: ['stretch', 'nearestCount', 'exact'] },
    },
    size: { kind: 'number', label: 'Size', help: 'Factor on each piece.', default: 1, min: 0, above: true, step: 0.005 },
    upright: { kind: 'boolean', label: 'Upright', help: 'Own up stays upright, and the piece leans along with the ground.', default: true },
    bendPieces: {
      kind: 'boolean',
      label: 'Bend pieces',
      help: 'Pieces bend with the curve between their places. They need points along them where they are to bend.',
      default: false,
    },
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
      choices: { random: 'by chance', inTurn: 'in turn', byAttribute: 'by attribute' },
    },
    attribute: {
      kind: 'text',
      label: 'Attribute',
      help: 'The number on points or curves that names the object of the piece that begins there: 0 is the first.',
      default: 'piece',
      shownWhen: { pick: ['byAttribute'] },
    },
    stands: standsSetting,
    seed: { ...seedSetting, shownWhen: { pick: ['random'] } },
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
  },
  upgrade: (settings) => {
    const { cornerPiece, endPiece, weights, ...rest } = settings;
    const numbers = [cornerPiece, endPiece].every((which) => which === undefined || typeof which === 'number');
    // A number that follows a dial has no row that it could stand for: it is told as a setting that is not there.
    if (!numbers || (cornerPiece === undefined && endPiece === undefined && weights === undefined)) return settings;
    const shares = Array.isArray(weights) ? (weights as unknown[]) : [];
    const special = [cornerPiece, endPiece].filter((which): which is number => typeof which === 'number' && which >= 0);
    const rows = Array.from({ length: Math.max(shares.length, ...special.map((which) => which + 1)) }, (_, i) => ({
      along: !special.includes(i),
      bends: i === cornerPiece,
      ends: i === endPiece,
      share: special.includes(i) ? 1 : (shares[i] ?? 1),
    }));
    return { ...rest, ...(rows.length && { stands: rows }) };
  },
  run: (context) => {
    const { settings, input, inputs, warn } = context;
    const objects = inputs('objects');
    if (settings.stands.length > objects.length) throw new RangeError(`Objects says where ${settings.stands.length} stand; there are ${objects.length}.`);
    const curves = input('curves');
    const options: RunOptions = {
      ...settings,
      stands: objects.map((_, i) => ({ ...usualStanding, ...settings.stands[i] })),
      axis: 'xyz'.indexOf(settings.axis) as 0 | 1 | 2,
      pick: settings.pick === 'byAttribute' ? namedBy(curves, settings.attribute, objects.length) : settings.pick,
    };
    const { copies: made, issues } = runOfPieces(curves, objects, options, context);
    const told = new Set<string>();
    for (const { code, curve } of issues) {
      if (told.size >= 50 || told.has(`${code} ${curve}`)) continue;
      told.add(`${code} ${curve}`);
      const [warning, message, remedy] = runTroubles[code];
      warn({ code: warning, curve, message: `Curve ${curve + 1} ${message}.`, remedy });
    }
    return { copies: made };
  },
});

/** The object that a number of the points or curves names. */
function namedBy(curves: Curves, name: string, objects: number): (point: number, curve: number) => number {
  const values = curves.attributes.get(name);
  if (!values || values.size !== 1)
    throw new RangeError(`The curves have no number "${name}"; they have ${[...curves.attributes.keys()].join(', ') || 'none'}.`);
  return (point, curve) => {
    const i = values.carrier === 'curve' ? curve : curves.starts[curve] + point;
    const which = Math.round(values.data[i]);
    if (which >= 0 && which < objects) return which;
    throw new RangeError(`"${name}" of ${values.carrier} ${i + 1} is ${values.data[i]}; it must name one of the ${objects} objects, 0 to ${objects - 1}.`);
  };
}
