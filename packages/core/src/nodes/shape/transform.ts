import { anyIn, anyOut } from '../../definition/ports.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { adjustCopies } from '../../place/copies.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf } from '../../definition/sample.js';

const group = 'Each copy';

/** What can differ from copy to copy. */
const ofEach = {
  eachTurn: { kind: 'number', label: 'Turn of each', help: 'Of each copy, about its own Y.', group, default: 0, unit: '°', step: 1, varies: 'copy' },
  eachLean: {
    kind: 'number',
    label: 'Lean of each',
    help: 'Of each copy, away from its own Y.',
    group,
    default: 0,
    unit: '°',
    step: 0.5,
    varies: 'copy',
  },
  eachToward: {
    kind: 'number',
    label: 'Leans toward',
    help: 'Which way it leans: degrees round its own Y, from its own Z.',
    group,
    default: 0,
    unit: '°',
    step: 1,
    varies: 'copy',
  },
  eachSize: {
    kind: 'number',
    label: 'Size of each',
    help: 'Factor on each copy, about its own origin.',
    group,
    default: 1,
    min: 0,
    step: 0.005,
    varies: 'copy',
  },
} as const;

export default defineNode({
  type: 'shape.transform',
  label: 'Transform',
  family: families.shape,
  summary: 'Moves, turns and sizes whatever comes in.',
  help: 'Sizes first, then turns about X, Y and Z, both about the pivot, then moves. Works on curves, points, meshes and copies. Frames turn along; a mirrored size keeps faces pointing outwards. Copies can each be turned, leaned and sized about their own place, by chance, formula or attribute.',
  keywords: ['move', 'rotate', 'scale', 'translate', 'turn', 'size', 'mirror'],
  asks: {
    'move it up': { move: [0, 1, 0] },
    'turn it': { turn: [0, 90, 0] },
    'make it twice as big': { size: [2, 2, 2] },
    'lay it flat': { turn: [90, 0, 0] },
    'move and rotate': {},
    'rotate every copy by chance': { eachTurn: { random: [0, 360], seed: 1, per: 'copy' } },
  },
  telling: ['move', 'turn', 'size'],
  sample: { settings: { move: [0, 0.5, 0], turn: [0, 30, 0] }, given: { any: boxOf(0.4, 0.2, 0.8) } },
  usualAfter: { curves: 9, copies: 3 },
  handles: [
    { kind: 'place', setting: 'move', at: ['pivot'] },
    { kind: 'place', setting: 'pivot', beside: true },
    { kind: 'turn', setting: 'turn', at: ['pivot', 'move'] },
    { kind: 'factors', setting: 'size', at: ['pivot', 'move'] },
  ],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'point',
  settings: {
    move: { kind: 'vector', label: 'Move', help: 'How far it moves along each axis.', default: [0, 0, 0], unit: 'm', step: 0.01 },
    turn: { kind: 'vector', label: 'Turn', help: 'Degrees about X, then Y, then Z.', default: [0, 0, 0], unit: '°', step: 1 },
    size: { kind: 'vector', label: 'Size', help: 'Factor along each axis.', default: [1, 1, 1], step: 0.01, direction: true },
    pivot: { kind: 'vector', label: 'Pivot', help: 'The place that turning and sizing leave where it is.', default: [0, 0, 0], unit: 'm', step: 0.01 },
    ...ofEach,
  },
  run: ({ settings, input, field }) => {
    const given = transformGeometry(input('any'), affineFrom(settings));
    const own = (['eachTurn', 'eachLean', 'eachToward', 'eachSize'] as const).map((name) => [name, settings[name]] as const);
    const changed = own.find(([name, value]) => value !== ofEach[name].default);
    if (given.type !== 'copies') {
      if (!changed) return { any: given };
      throw new RangeError(
        `${ofEach[changed[0]].label} needs copies; the input is ${given.type === 'mesh' ? 'a mesh' : given.type}. Add Place copies before it.`,
      );
    }
    const [turn, lean, toward, size] = own.map(([, value]) => field(value, given, 'copy'));
    if (!changed) return { any: given };
    return { any: adjustCopies(given, { turn, lean, toward, size }) };
  },
});
